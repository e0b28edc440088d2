"""Closed sets of words that pass between documents, core, server and screens, with the values of the open formats."""

from __future__ import annotations

from enum import StrEnum


class Turf(StrEnum):
    """How the club met ball and ground, as heard or seen."""

    CLEAN = "clean"
    THIN = "thin"
    FAT = "fat"
    TOPPED = "topped"
    SHANK = "shank"
    SKY = "sky"


class Movement(StrEnum):
    """Whether the body did what was asked of it on one ball."""

    DONE = "done"
    PARTLY = "partly"
    MISSED = "missed"
    UNSEEN = "unseen"


class MarkBasis(StrEnum):
    """How a movement mark came to be: before the numbers of the ball were seen, after, or by an instrument."""

    BLIND = "blind"
    SEEN = "seen"
    MEASURED = "measured"


class StageName(StrEnum):
    """How much of the swing is asked for, from no ball at all to mixed clubs at full speed."""

    FEEL = "feel"
    REHEARSE = "rehearse"
    CHIP = "chip"
    HALF = "half"
    THREE_QUARTER = "three-quarter"
    FULL = "full"
    MIXED = "mixed"


class VerdictKind(StrEnum):
    """What one ball says of the link between the movement and its effect."""

    LINKED = "linked"
    MOVED_NO_CHANGE = "moved-no-change"
    CHANGED_WITHOUT_MOVE = "changed-without-move"
    NEITHER = "neither"
    UNCLEAR = "unclear"


class ProofStatus(StrEnum):
    """Where the proof of a correction stands."""

    NOT_YET = "not-yet"
    SUPPORTED = "supported"
    VERIFIED = "verified"
    NOT_SUPPORTED = "not-supported"
    COMPENSATED = "compensated"
    OVERCORRECTED = "overcorrected"


class LinkBasis(StrEnum):
    """What says more of the link between movement and number: balls marked done and missed, or the measured slope."""

    MARKS = "marks"
    SLOPE = "slope"


class Side(StrEnum):
    """Where a ball started or curved, as a student sees it from behind."""

    LEFT = "left"
    STRAIGHT = "straight"
    RIGHT = "right"


class Contact(StrEnum):
    """How a ball was met, as a student feels it."""

    SOLID = "solid"
    THIN = "thin"
    FAT = "fat"
    TOE = "toe"
    HEEL = "heel"


class Outcome(StrEnum):
    """How a correction ended; what its proof bears out."""

    OPEN = "open"
    VERIFIED = "verified"
    NOT_SUPPORTED = "not-supported"
    STOPPED = "stopped"


JUDGED = (Outcome.VERIFIED, Outcome.NOT_SUPPORTED)
"""Outcomes that say something of the fault."""
GIVEN_UP = (Outcome.STOPPED, Outcome.NOT_SUPPORTED)
"""Outcomes after which another correction is looked for."""


class Purpose(StrEnum):
    """What a block of balls is hit for."""

    BASELINE = "baseline"
    PROVE = "prove"
    TRIAL = "trial"


class Source(StrEnum):
    """What a grade of a look rests on."""

    EYE = "eye"
    STILL = "still"
    RECORDING = "recording"
    CAMERA = "camera"


def one_of(words: type[StrEnum]) -> str:
    """The words of a set as an error says what was expected."""
    return "one of " + ", ".join(words)
