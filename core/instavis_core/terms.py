"""Closed sets of words used in documents, core, server and screens, with the values of the open formats."""

from __future__ import annotations

from enum import StrEnum

from instavis_core.message import Message


class Turf(StrEnum):
    """How the club met ball and ground, by ear or eye."""

    CLEAN = "clean"
    THIN = "thin"
    FAT = "fat"
    TOPPED = "topped"
    SHANK = "shank"
    SKY = "sky"


class Movement(StrEnum):
    """Whether the body made the movement on one ball."""

    DONE = "done"
    PARTLY = "partly"
    MISSED = "missed"
    UNSEEN = "unseen"


class MarkBasis(StrEnum):
    """How a movement mark was made: blind, with visible numbers, or by an instrument."""

    BLIND = "blind"
    SEEN = "seen"
    MEASURED = "measured"


class StageName(StrEnum):
    """How much of the swing a stage uses, from no ball to mixed clubs at full speed."""

    FEEL = "feel"
    REHEARSE = "rehearse"
    CHIP = "chip"
    HALF = "half"
    THREE_QUARTER = "three-quarter"
    FULL = "full"
    MIXED = "mixed"


class VerdictKind(StrEnum):
    """What one ball shows about movement and effect."""

    LINKED = "linked"
    MOVED_NO_CHANGE = "moved-no-change"
    CHANGED_WITHOUT_MOVE = "changed-without-move"
    NEITHER = "neither"
    UNCLEAR = "unclear"


class ProofStatus(StrEnum):
    """The status of a correction's proof."""

    NOT_YET = "not-yet"
    SUPPORTED = "supported"
    VERIFIED = "verified"
    NOT_SUPPORTED = "not-supported"
    COMPENSATED = "compensated"
    OVERCORRECTED = "overcorrected"


class LinkBasis(StrEnum):
    """Which gives more evidence for the link: marked balls, or the measured slope."""

    MARKS = "marks"
    SLOPE = "slope"


class Side(StrEnum):
    """Where a ball started or curved, seen from behind."""

    LEFT = "left"
    STRAIGHT = "straight"
    RIGHT = "right"


class Contact(StrEnum):
    """How a ball was struck, as a student feels it."""

    SOLID = "solid"
    THIN = "thin"
    FAT = "fat"
    TOE = "toe"
    HEEL = "heel"


class Outcome(StrEnum):
    """How a correction ended, as far as its proof supports it."""

    OPEN = "open"
    VERIFIED = "verified"
    NOT_SUPPORTED = "not-supported"
    STOPPED = "stopped"


JUDGED = (Outcome.VERIFIED, Outcome.NOT_SUPPORTED)
"""Outcomes that are evidence for or against the fault."""
GIVEN_UP = (Outcome.STOPPED, Outcome.NOT_SUPPORTED)
"""Outcomes after which another correction is suggested."""


class Purpose(StrEnum):
    """The purpose of a block of balls."""

    BASELINE = "baseline"
    PROVE = "prove"
    TRIAL = "trial"


class Source(StrEnum):
    """The source of an answer to a check."""

    EYE = "eye"
    STILL = "still"
    RECORDING = "recording"
    CAMERA = "camera"


def one_of(words: type[StrEnum]) -> Message:
    """Return the words of a set, for the expected value of an error."""
    return Message("common-one", known=", ".join(words))
