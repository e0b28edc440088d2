"""The pose at one moment: pelvis and chest from the motion table, the rest from the figure table."""

from __future__ import annotations

from instavis_core.errors import InputError
from instavis_core.knowledge.figure import SINGLE, load_figure
from instavis_core.knowledge.motion import load_motion
from instavis_core.message import Message

Pose = dict[str, float]


def pose_at(moment: str, severity: dict[str, float] | None = None, *adds: dict[str, float] | None) -> Pose:
    """The golfer at one moment of the swing.

    Parameters
    ----------
    moment : str
        One of the eight moments of ``motion.toml``.
    severity : dict of float, optional
        How strong each fault is, by cause id or ``id/variant``; what it adds comes from ``motion.toml``.
    *adds : dict of float, optional
        Added to single values, as the grades of ``figure.toml`` do.

    Returns
    -------
    dict of float
        Pelvis travel [cm], angles [°] and shares, relative to a sound address.

    Raises
    ------
    InputError
        For an unknown moment.
    """
    motion, figure = load_motion(), load_figure()
    if moment not in motion.moments:
        raise InputError("moment", moment, Message("common-one", known=", ".join(motion.moments)))
    at = motion.place(moment)
    pose = {name: float(series.sound[at]) for name, series in motion.series.items() if not series.carried}
    pose |= {name: float(row[at]) for name, row in figure.pose.items()}
    pose |= dict.fromkeys(SINGLE, 0.0)
    for key, much in (severity or {}).items():
        for name, row in motion.adds.get(key.partition("/")[0], {}).items():
            if name in pose:
                pose[name] += much * float(row[at])
            if name == "arm_turn_deg":  # recorded from the trunk; drawn in the arms' own plane
                pose["arm_deg"] += much * float(row[at])
    for some in adds:
        for name, value in (some or {}).items():
            pose[name] += value
    return pose
