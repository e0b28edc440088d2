"""Joints of the figure from a pose.

Axes: x to the target, y from the golfer to the ball, z up; meters, ground at zero. They are the same for left-handers,
because the views mirror, not the skeleton. Body lengths are those of an adult of 1.75 m (segment shares after Winter,
*Biomechanics and Motor Control of Human Movement*, 2009, ch. 4; rounded). Legs and arms are two bones each, from hip to
ankle and from shoulder to hands; a joint bends in its natural direction.
"""

from __future__ import annotations

import functools
from dataclasses import dataclass

import numpy as np

from instavis_core.figure.pose import Pose, pose_at

THIGH, SHANK, UPPER_ARM, FOREARM = 0.44, 0.44, 0.30, 0.30
HIP_HALF, SHOULDER_HALF, SPINE, NECK, HEAD = 0.10, 0.19, 0.50, 0.17, 0.105
FOOT_HALF_STANCE, ANKLE_HIGH, TOE, HEEL = 0.23, 0.08, 0.17, 0.07
PELVIS = np.array([0.01, -0.10, 0.90])  # at address
SPINE_BEND = 36.0  # ° at address
ARM_REACH, ARM_HANG = 0.57, 20.0  # from between the shoulders to the hands; ° outward from hanging straight down
SHAFT, LIE = 0.92, 55.0
OUT_OF_GROUND = 0.02
X, Y, Z = np.eye(3)

BONES = (
    ("trail-ankle", "trail-knee"),
    ("trail-knee", "trail-hip"),
    ("lead-ankle", "lead-knee"),
    ("lead-knee", "lead-hip"),
    ("trail-hip", "lead-hip"),
    ("pelvis", "neck"),
    ("trail-shoulder", "lead-shoulder"),
    ("trail-shoulder", "trail-elbow"),
    ("trail-elbow", "hands"),
    ("lead-shoulder", "lead-elbow"),
    ("lead-elbow", "wrist"),
    ("wrist", "hands"),
    ("neck", "head"),
    ("trail-heel", "trail-toe"),
    ("lead-heel", "lead-toe"),
)


@dataclass(frozen=True)
class Skeleton:
    """Positions of the joints.

    ``joints[name]`` (3,) [m]: body, ``club-head``, ``ball``, ``pressure`` and the ends of the small marks.
    """

    joints: dict[str, np.ndarray]

    def __getitem__(self, name: str) -> np.ndarray:
        return self.joints[name]


def stand(pose: Pose, grounded: bool = False) -> Skeleton:
    """The joints of a golfer in a pose.

    Parameters
    ----------
    pose : dict of float
        As `pose_at` gives it.
    grounded : bool
        The club head is at the ball (address, impact): the shaft leans as it must.
    """
    joints = _feet(pose)
    _pelvis(joints, pose)
    _legs(joints, pose)
    forward = _trunk(joints, pose)
    _arms(joints, pose, forward)
    _club(joints, pose, grounded)
    share = np.clip(pose["lead_share"], 0, 1)
    heel = np.clip(pose["heel_share"], 0, 1)
    ground = [joints[f"{side}-toe"] * (1 - heel) + joints[f"{side}-heel"] * heel for side in ("trail", "lead")]
    joints["pressure"] = ((1 - share) * ground[0] + share * ground[1]) * np.array([1, 1, 0])
    return Skeleton(joints)


def _feet(pose: Pose) -> dict[str, np.ndarray]:
    half = FOOT_HALF_STANCE + pose["stance_cm"] / 200
    joints = {}
    for side, sign, flare in (("lead", 1, 25 + pose["flare_deg"]), ("trail", -1, 8.0)):
        out = np.radians(flare)
        points = np.array([sign * np.sin(out), np.cos(out), 0.0])
        ankle = np.array([sign * half, 0.0, ANKLE_HIGH])
        lifted = max(pose["heel_cm"], 0.0) / 100 if side == "trail" else 0.0
        joints[f"{side}-toe"] = ankle * [1, 1, 0] + TOE * points + [0, 0, 0.02]
        # A lifting heel turns about the toes: the ankle goes up, forward and in.
        ankle = ankle + lifted * np.array([0.35, 0.35, 1.0])
        joints[f"{side}-heel"] = ankle * [1, 1, 0] - HEEL * points + [0, 0, 0.02 + lifted]
        joints[f"{side}-ankle"] = ankle
    return joints


def _pelvis(joints: dict[str, np.ndarray], pose: Pose) -> None:
    centre = PELVIS + np.array([pose["sway_cm"], pose["thrust_cm"], pose["lift_cm"]]) / 100
    turn, tip = np.radians(pose["turn_deg"]), np.radians(pose["side_bend_deg"])
    across = np.array([np.cos(turn), -np.sin(turn), 0.0]) * np.cos(tip) + Z * np.sin(tip)
    facing = np.array([np.sin(turn), np.cos(turn), 0.0])
    joints["pelvis"] = centre
    joints["lead-hip"], joints["trail-hip"] = centre + HIP_HALF * across, centre - HIP_HALF * across
    joints["buckle"] = centre + 0.13 * facing
    joints["seat"] = centre - 0.13 * facing - 0.02 * Z


def _legs(joints: dict[str, np.ndarray], pose: Pose) -> None:
    for side, inward, ahead in (
        ("lead", pose["lead_knee_deg"], 0.0),
        ("trail", pose["trail_knee_deg"], pose["trail_ahead_cm"]),
    ):
        sign = -1 if side == "lead" else 1
        angle = np.radians(inward)
        hint = np.array([sign * np.sin(angle), np.cos(angle), 0.0])
        knee = _bend(joints[f"{side}-hip"], joints[f"{side}-ankle"], THIGH, SHANK, hint)
        joints[f"{side}-knee"] = knee + ahead / 100 * Y


def _trunk(joints: dict[str, np.ndarray], pose: Pose) -> np.ndarray:
    """Place spine, shoulders and head; returns the direction of the chest."""
    bend = np.radians(SPINE_BEND + pose["bend_deg"] + pose["chest_bend_deg"])
    lean = np.radians(pose["chest_side_deg"] + 0.4 * pose["side_bend_deg"])
    spine = _unit(np.cos(bend) * np.cos(lean) * Z + np.sin(bend) * Y - np.sin(lean) * X)
    neck = joints["pelvis"] + SPINE * spine
    lead = _unit(X - (X @ spine) * spine)
    front = _unit(Y - (Y @ spine) * spine - (Y @ lead) * lead)
    turn = np.radians(pose["chest_turn_deg"])
    across = np.cos(turn) * lead - np.sin(turn) * front
    facing = np.sin(turn) * lead + np.cos(turn) * front
    joints["neck"] = neck
    joints["lead-shoulder"] = neck - 0.04 * spine + SHOULDER_HALF * across
    joints["trail-shoulder"] = neck - 0.04 * spine - SHOULDER_HALF * across
    joints["head"] = neck + NECK * _unit(spine + 0.6 * Z) + (0.04 + pose["head_cm"] / 100) * Y
    return facing


def _arms(joints: dict[str, np.ndarray], pose: Pose, facing: np.ndarray) -> None:
    middle = (joints["lead-shoulder"] + joints["trail-shoulder"]) / 2
    out = np.radians(ARM_HANG + pose["arm_out_deg"])
    hang = np.sin(out) * Y - np.cos(out) * Z
    angle = np.radians(pose["arm_deg"])
    reach = np.sin(angle) * X + np.cos(angle) * hang
    # Dragged across the chest: the hands drop behind the arms' plane.
    across = np.radians(pose["across_deg"])
    hands = middle + ARM_REACH * (np.cos(across) * reach - np.sin(across) * (0.9 * Y + 0.3 * Z))
    for _ in range(3):
        for side in ("lead", "trail"):
            shoulder = joints[f"{side}-shoulder"]
            away = hands - shoulder
            hands = shoulder + away * min(1.0, (UPPER_ARM + FOREARM - 0.004) / np.linalg.norm(away))
    joints["hands"] = hands
    for side in ("lead", "trail"):
        down = -Z - 0.4 * facing + (0.3 if side == "lead" else -0.3) * X
        joints[f"{side}-elbow"] = _bend(joints[f"{side}-shoulder"], hands, UPPER_ARM, FOREARM, down)
    forearm = _unit(hands - joints["lead-elbow"])
    outward = _unit(np.array([0.2, -1.0, 0.4]) - (np.array([0.2, -1.0, 0.4]) @ forearm) * forearm)
    joints["wrist"] = hands - 0.09 * forearm + 0.05 * np.sin(np.radians(pose["wrist_deg"])) * outward


def _club(joints: dict[str, np.ndarray], pose: Pose, grounded: bool) -> None:
    hands = joints["hands"]
    joints["ball"] = _ball(pose)
    if grounded:
        joints["club-head"] = hands + SHAFT * _unit(joints["ball"] - hands)
    else:
        phi, lie = np.radians(pose["arm_deg"] + pose["hinge_deg"]), np.radians(LIE + pose["plane_deg"])
        joints["club-head"] = hands + SHAFT * (np.sin(phi) * X + np.cos(phi) * (np.cos(lie) * Y - np.sin(lie) * Z))
    hold = np.radians(pose["hold_deg"] - 12)
    joints["hold"] = hands + 0.2 * (np.sin(hold) * X + np.cos(hold) * Z)


def _ball(pose: Pose) -> np.ndarray:
    """Place the ball where the club head is at a good address, shifted by the setup."""
    return _usual_ball() + np.array([pose["ball_cm"], pose["ball_far_cm"], 0.0]) / 100


@functools.lru_cache(maxsize=1)
def _usual_ball() -> np.ndarray:
    pose = pose_at("address")
    joints = _feet(pose)
    _pelvis(joints, pose)
    _arms(joints, pose, _trunk(joints, pose))
    hands = joints["hands"]
    lie = np.arcsin((hands[2] - OUT_OF_GROUND) / SHAFT)
    return hands + SHAFT * (np.cos(lie) * Y - np.sin(lie) * Z)


def _bend(start: np.ndarray, end: np.ndarray, first: float, second: float, hint: np.ndarray) -> np.ndarray:
    """The joint between two bones that reach from start to end, bent toward the hint."""
    away = end - start
    far = min(float(np.linalg.norm(away)), first + second - 1e-4)
    along = away / np.linalg.norm(away)
    foot = (far**2 + first**2 - second**2) / (2 * far)
    high = np.sqrt(max(first**2 - foot**2, 0.0))
    return start + foot * along + high * _unit(hint - (hint @ along) * along)


def _unit(vector: np.ndarray) -> np.ndarray:
    return vector / np.linalg.norm(vector)
