"""Result types of the engine."""

from __future__ import annotations

from dataclasses import dataclass

from instavis_core.message import Message


@dataclass(frozen=True, kw_only=True)
class Evidence:
    """One piece of evidence for (+) or against (−) a cause, as a change of its log-odds."""

    kind: str
    id: str
    log_odds: float
    text: Message


@dataclass(frozen=True, kw_only=True)
class CauseRow:
    """A cause: its probability, the word for it, its leading variant and the evidence, strongest first.

    ``severity`` is how strong the fault is if present (0 to about 1.3). ``upstream`` is the probability that it comes
    from one of its upstream causes, if present. ``numbers_alone`` and ``looks_alone`` are its probability from only one
    kind of evidence; None without such evidence.
    """

    id: str
    label: Message
    kind: str
    moment: Message
    happens: Message
    variant: str | None
    variants: dict[str, float]
    probability: float
    word: Message
    severity: float
    evidence: list[Evidence]
    numbers_alone: float | None
    looks_alone: float | None


@dataclass(frozen=True, kw_only=True)
class NextCheck:
    """An open check and its expected information."""

    id: str
    label: Message
    question: Message
    view: str
    moment: Message
    gain_bits: float
    bits_per_second: float


@dataclass(frozen=True, kw_only=True)
class WouldChange:
    """An answer to an open check that would put another fault in the lead, and its probability."""

    check: str
    grade: str
    probability: float
    leader: str


@dataclass(frozen=True, kw_only=True)
class Ranking:
    """The ranked causes.

    ``unexplained`` is the share [0 to 1] of the pattern that no cause explains. ``signs_in_doubt`` is true if a number
    contradicts the rest of its balls so often that its column mapping should be checked.
    """

    faults: list[CauseRow]
    partners: list[CauseRow]
    compensations: list[CauseRow]
    chain: list[tuple[str, str]]
    next_checks: list[NextCheck]
    would_change: WouldChange | None
    enough: bool
    unexplained: float
    clean_balls: int
    signs_in_doubt: bool
    notes: list[Message]
