"""The most likely cause in plain words: the one "why" of board, student page, take-home page and PDF."""

from __future__ import annotations

from dataclasses import dataclass

from instavis_core.cause import CauseRow, Evidence, Ranking
from instavis_core.knowledge import vocabulary
from instavis_core.message import NOTHING, Message

NAMED_FROM, CLEAR_FROM = 0.40, 0.70  # probability from which a cause is named, and from which it is likely
MAX_REASONS = 4
TELLS_AGAINST = -0.5  # log-odds below which a reason against is mentioned


@dataclass(frozen=True, kw_only=True)
class Why:
    """The cause as far as it may be stated.

    ``named`` is true if there is a cause to name; only then ``fault``, ``variant`` and ``reasons`` are given.
    ``next_look`` is the most useful question while the cause is not clear.
    """

    named: bool
    sentence: Message
    fault: str | None = None
    variant: str | None = None
    reasons: list[Message]
    next_check: Message | None = None


def why_of(ranking: Ranking, about: str | None = None) -> Why:
    """Turn the ranking into sentences.

    Causes outside the body come first: while one leads, no fault is named. A fault below a probability of 0.4 is a
    guess.

    Parameters
    ----------
    ranking : Ranking
    about : str, optional
        The fault that is being corrected; the leading one when left out.
    """
    check = ranking.next_checks[0].question if ranking.next_checks and not ranking.enough else None
    row = _row(ranking, about)
    other = ranking.compensations[0] if ranking.compensations else None
    if other and row and other.probability >= CLEAR_FROM and other.probability > row.probability:
        sentence = Message("cause-probably-not-way-body-moves", happens=other.happens)
        return Why(named=False, sentence=sentence, reasons=[], next_check=check)
    if row is None or row.probability < NAMED_FROM:
        sentence = Message("cause-not-settled-yet-several-things")
        return Why(named=False, sentence=sentence, reasons=[], next_check=check)
    sentence = Message(
        "cause-explanation",
        label=row.label,
        happens=row.happens,
        sureness=_sureness(row.probability),
        rival=_rival(ranking, row),
    )
    return Why(
        named=True,
        sentence=sentence,
        fault=row.id,
        variant=row.variant,
        reasons=_reasons(row.evidence),
        next_check=check,
    )


def _row(ranking: Ranking, about: str | None) -> CauseRow | None:
    if about is not None:
        return next((r for r in ranking.faults + ranking.partners if r.id == about), None)
    return ranking.faults[0] if ranking.faults else None


def _sureness(probability: float) -> Message:
    if probability >= vocabulary().probability_words[0].start:
        return Message("cause-we-almost-certain")
    return (
        Message("cause-likely-not-certain") if probability >= CLEAR_FROM else Message("cause-possible-we-keep-checking")
    )


def _rival(ranking: Ranking, row: CauseRow) -> Message:
    rival = next((r for r in ranking.faults if r.id != row.id), None)
    return Message("cause-possible-well", label=rival.label) if rival and rival.probability >= NAMED_FROM else NOTHING


def _reasons(evidence: list[Evidence]) -> list[Message]:
    """Return the strongest reasons, and the strongest one against."""
    result = [e for e in evidence if e.text and e.kind != "chain"]
    reasons = [e.text + "." for e in result if e.log_odds > 0][:MAX_REASONS]
    against = next((e.text for e in result if e.log_odds < TELLS_AGAINST), None)
    return [*reasons, Message("cause-evidence-against", against=against.begun_small())] if against else reasons
