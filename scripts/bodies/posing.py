"""Pose a person's mesh like the swing model's figure, limb by limb.

Lengths are the person's own: hips follow the figure's pelvis, feet stay where the figure's are, and hands reach for the
figure's hands as far as the arms allow.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.spatial.transform import Rotation, Slerp

from bodies.shape import Shape
from instavis_core.figure.skeleton import Skeleton
from instavis_core.figure.skeleton import _bend as bent

FIGURE_LEG = 0.88  # m, thigh and shank of the figure
PELVIS_TIP = 22.0  # ° that the pelvis leans forward at address
SPINE = ("spine05", "spine04", "spine03", "spine02", "spine01")
Z, FRONT = np.array([0.0, 0.0, 1.0]), np.array([0.0, -1.0, 0.0])


@dataclass(frozen=True)
class Posed:
    """A posed person: ``vertices`` (v, 3) and joints by name [m], in the world of `Shape`; club end to end."""

    vertices: np.ndarray
    joints: dict[str, np.ndarray]
    club: tuple[np.ndarray, np.ndarray]


def pose_person(shape: Shape, figure: Skeleton, pose: dict[str, float], hand: str) -> Posed:
    """Return the mesh in one pose of the figure; a right-hander's target is at +x, a left-hander's at −x."""
    legs = np.linalg.norm(shape.at("lowerleg01.L") - shape.at("upperleg01.L"))
    legs += np.linalg.norm(shape.at("foot.L") - shape.at("lowerleg01.L"))
    mirror = np.array([1.0 if hand == "right" else -1.0, -1.0, 1.0])
    goal = {name: legs / FIGURE_LEG * mirror * point for name, point in figure.joints.items()}
    sides = {"L": "lead", "R": "trail"} if hand == "right" else {"L": "trail", "R": "lead"}
    moved = _Moved(shape)
    pelvis = _pelvis(goal, sides, pose)
    hips = (shape.at("upperleg01.L") + shape.at("upperleg01.R")) / 2
    moved.root(pelvis, hips, goal["pelvis"])
    chest = _facing(goal[f"{sides['L']}-shoulder"] - goal[f"{sides['R']}-shoulder"], goal["neck"] - goal["pelvis"])
    turns = Slerp([0, 1], Rotation.from_matrix([pelvis, chest]))
    for i, bone in enumerate(SPINE):
        moved.turn(bone, turns((i + 1) / len(SPINE)).as_matrix())
    moved.turn("neck02", turns(0.7).as_matrix())
    moved.turn("head", _head(goal, moved.where("head")))
    joints = {"pelvis": goal["pelvis"], "head": moved.place("head", shape.middle("head"))}
    for side, which in sides.items():
        _leg(moved, shape, goal, side, which, joints)
        _arm(moved, shape, goal, side, which, joints)
    hands = (joints["lead-wrist"] + joints["trail-wrist"]) / 2
    shaft = goal["club-head"] - goal["hands"]
    return Posed(vertices=shape.skinned(moved.all()), joints=joints, club=(hands - 0.1 * _unit(shaft), hands + shaft))


class _Moved:
    """Transforms of the bones, parents first: a bone without a turn of its own follows its parent."""

    def __init__(self, shape: Shape) -> None:
        self.shape = shape
        self.turns: dict[str, np.ndarray] = {}
        self.start = np.eye(4)

    def root(self, turn: np.ndarray, pivot: np.ndarray, to: np.ndarray) -> None:
        self.start = _about(turn, pivot, to)

    def turn(self, bone: str, turn: np.ndarray) -> None:
        """Return how a bone is turned from rest, in the world."""
        self.turns[bone] = turn

    def where(self, bone: str) -> np.ndarray:
        """Return where a bone begins now."""
        return self.place(bone, self.shape.at(bone))

    def place(self, bone: str, point: np.ndarray) -> np.ndarray:
        """Return where a point attached to a bone is now."""
        return self._of(self.shape.names.index(bone), {})[:3] @ np.append(point, 1.0)

    def all(self) -> np.ndarray:
        known: dict[int, np.ndarray] = {}
        return np.array([self._of(i, known) for i in range(len(self.shape.names))])

    def _of(self, bone: int, known: dict[int, np.ndarray]) -> np.ndarray:
        if bone in known:
            return known[bone]
        parent = int(self.shape.parents[bone])
        along = self.start if parent < 0 else self._of(parent, known)
        head, turn = self.shape.heads[bone], self.turns.get(self.shape.names[bone])
        known[bone] = along if turn is None else _about(turn, head, along[:3] @ np.append(head, 1.0))
        return known[bone]


def _about(turn: np.ndarray, pivot: np.ndarray, to: np.ndarray) -> np.ndarray:
    moved = np.eye(4)
    moved[:3, :3], moved[:3, 3] = turn, to - turn @ pivot
    return moved


def _pelvis(goal: dict[str, np.ndarray], sides: dict[str, str], pose: dict[str, float]) -> np.ndarray:
    across = _unit(goal[f"{sides['L']}-hip"] - goal[f"{sides['R']}-hip"])
    ahead = _unit(np.cross(across, Z))  # level, to the front
    tip = np.radians(PELVIS_TIP + pose["bend_deg"])
    return _facing(across, np.cos(tip) * Z + np.sin(tip) * ahead)


def _facing(across: np.ndarray, up: np.ndarray) -> np.ndarray:
    """Return the turn that brings left to ``across`` and up near ``up``."""
    x = _unit(across)
    z = _unit(up - (up @ x) * x)
    return np.stack([x, np.cross(z, x), z], axis=1)


def _head(goal: dict[str, np.ndarray], at: np.ndarray) -> np.ndarray:
    """Turn the head toward the ball until the chest takes it along."""
    gaze = _unit(goal["ball"] - at)
    spine = _unit(goal["neck"] - goal["pelvis"])
    across = _unit(np.cross(spine + Z, gaze))
    return _facing(across, spine + Z)


def _leg(moved: _Moved, shape: Shape, goal: dict, side: str, which: str, joints: dict) -> None:
    hip, knee, ankle = (shape.at(f"{bone}.{side}") for bone in ("upperleg01", "lowerleg01", "foot"))
    start, end = moved.where(f"upperleg01.{side}"), goal[f"{which}-ankle"]
    first, second = np.linalg.norm(knee - hip), np.linalg.norm(ankle - knee)
    hint = goal[f"{which}-knee"] - (goal[f"{which}-hip"] + goal[f"{which}-ankle"]) / 2
    middle = bent(start, end, first, second, hint)
    _limb(moved, [f"upperleg01.{side}"], knee - hip, middle - start, FRONT, hint)
    _limb(moved, [f"lowerleg01.{side}"], ankle - knee, end - middle, FRONT, hint)
    ahead = goal[f"{which}-toe"] - goal[f"{which}-heel"]
    across = np.cross(Z, -ahead)
    moved.turn(f"foot.{side}", _facing(across, np.cross(-_unit(ahead), -_unit(across))))
    joints |= {f"{which}-hip": start, f"{which}-knee": middle, f"{which}-ankle": end}


def _arm(moved: _Moved, shape: Shape, goal: dict, side: str, which: str, joints: dict) -> None:
    shoulder, elbow, wrist = (shape.at(f"{bone}.{side}") for bone in ("upperarm01", "lowerarm01", "wrist"))
    start = moved.where(f"upperarm01.{side}")
    shaft = _unit(goal["club-head"] - goal["hands"])
    end = goal["hands"] + (-0.10 if which == "lead" else -0.02) * shaft
    first, second = np.linalg.norm(elbow - shoulder), np.linalg.norm(wrist - elbow)
    far = np.linalg.norm(end - start)
    end = start + (end - start) * min(1.0, 0.995 * (first + second) / far)
    hint = goal[f"{which}-elbow"] - (goal[f"{which}-shoulder"] + goal["hands"]) / 2
    middle = bent(start, end, first, second, hint)
    rest = (shoulder + wrist) / 2 - elbow
    _limb(moved, [f"upperarm01.{side}"], elbow - shoulder, middle - start, -rest, hint)
    _limb(moved, [f"lowerarm01.{side}"], wrist - elbow, end - middle, -rest, hint)
    joints |= {f"{which}-shoulder": start, f"{which}-elbow": middle, f"{which}-wrist": end}


def _limb(moved: _Moved, bones: list[str], rest: np.ndarray, now: np.ndarray, side: np.ndarray, hint) -> None:
    """Turn bones that lie along ``rest`` with ``side`` beside them to ``now`` with ``hint`` beside them."""
    for bone in bones:
        moved.turn(bone, _frame(now, hint) @ _frame(rest, side).T)


def _frame(along: np.ndarray, beside: np.ndarray) -> np.ndarray:
    z = _unit(along)
    x = _unit(beside - (beside @ z) * z)
    return np.stack([x, np.cross(z, x), z], axis=1)


def _unit(vector: np.ndarray) -> np.ndarray:
    return vector / np.linalg.norm(vector)
