"""The plan for today, from cold test, practice and ranking.

Continue, step down, change the drill or the correction, or move on along the chain. The first proposal is the
recommendation; the coach can choose any other.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from instavis_core.knowledge import Knowledge, vocabulary
from instavis_core.message import Message, joined
from instavis_core.progress.log import Dose
from instavis_core.progress.retention import Retention
from instavis_core.terms import Outcome

WELL_PRACTISED, HARDLY_PRACTISED = 0.7, 0.4  # of the planned days (assumption)
WORTH_CHECKING = 0.40  # probability from which another fault may be next: "possible"


@dataclass(frozen=True, kw_only=True)
class LastWork:
    """The last correction, open or verified: its fault, drill, stage and outcome, with labels."""

    fault: str
    label: Message
    drill: str
    stage: str
    outcome: str


@dataclass(frozen=True, kw_only=True)
class NextStep:
    """One way to use the lesson.

    ``kind`` is pain, more-balls, continue, step-down, change-drill, change-correction, next-fault or transfer;
    ``fault``, ``drill`` and ``stage`` are what to work on, where known.
    """

    kind: str
    headline: Message
    reason: Message
    fault: str | None = None
    drill: str | None = None
    stage: str | None = None


def plan_today(
    known: Knowledge, last: LastWork, retention: Retention, dose: Dose | None, probabilities: Mapping[str, float]
) -> list[NextStep]:
    """Propose steps for this lesson, best first.

    Parameters
    ----------
    known : Knowledge
    last : LastWork
    retention : Retention
        Of the cold test of this lesson.
    dose : Dose, optional
        What was practised since; None when no practice was logged or planned.
    probabilities : mapping
        Probability of every fault by today's ranking.
    """
    proposals = [_pain(last, dose)] if dose and dose.pains else []
    if last.outcome == Outcome.NOT_SUPPORTED:
        return [*proposals, *_instead(last, probabilities, known, Message("take-home-not-supported-last-time"))]
    word = retention.word
    if word == "open":
        return [*proposals, _more(retention), _continue(last, Message("take-home-until-cold-test-clear"))]
    if word == "kept":
        return [*proposals, *_after_retention(last, probabilities, known)]
    if word == "partly":
        return [
            *proposals,
            _down(last, known, Message("take-home-part-held-cold-test")),
            _continue(last, Message("take-home-if-first-balls-hold")),
        ]
    return [*proposals, *_relapsed(last, dose, probabilities, known)]


def _pain(last: LastWork, dose: Dose) -> NextStep:
    regions = joined(vocabulary().words["region"][r].lower() for r in dose.pains)
    return NextStep(
        kind="pain",
        headline=Message("take-home-ask-about-pain-first"),
        reason=Message(
            ("take-home-practice-stopped-because-pain-do"),
            regions=regions,
        ),
        fault=last.fault,
    )


def _more(retention: Retention) -> NextStep:
    return NextStep(kind="more-balls", headline=Message("take-home-more-cold-balls"), reason=retention.sentence)


def _continue(last: LastWork, reason: Message) -> NextStep:
    stage = vocabulary().words["stage"][last.stage].lower()
    return NextStep(
        kind="continue",
        headline=Message("take-home-continue", label=last.label.lower(), stage=stage),
        reason=reason,
        fault=last.fault,
        drill=last.drill,
        stage=last.stage,
    )


def _up(last: LastWork, known: Knowledge) -> NextStep | None:
    ladder = list(vocabulary().stages)
    place = ladder.index(last.stage) + 1
    if place >= len(ladder):
        return None
    stage = ladder[place]
    headline = Message(
        "take-home-continue-up",
        label=last.label.lower(),
        words=vocabulary().words["stage"][stage].lower(),
    )
    return NextStep(
        kind="continue",
        headline=headline,
        reason=Message("take-home-held-cold-test"),
        fault=last.fault,
        drill=last.drill,
        stage=stage,
    )


def _down(last: LastWork, known: Knowledge, reason: Message) -> NextStep:
    with_ball = [s.id for s in vocabulary().stages.values() if s.ball]
    place = with_ball.index(last.stage) if last.stage in with_ball else 0
    stage = with_ball[max(0, place - 1)]
    headline = Message(
        "take-home-step-down", words=vocabulary().words["stage"][stage].lower(), label=last.label.lower()
    )
    return NextStep(kind="step-down", headline=headline, reason=reason, fault=last.fault, drill=last.drill, stage=stage)


def _after_retention(last: LastWork, probabilities: Mapping[str, float], known: Knowledge) -> list[NextStep]:
    up = _up(last, known)
    onward = _next_faults(last, probabilities, known)
    transfer = NextStep(
        kind="transfer",
        headline=Message("take-home-try-another-club"),
        reason=Message("take-home-held-club-whether-carries-over"),
        fault=last.fault,
    )
    if up is not None and last.stage not in ("full", "mixed"):
        return [up, *onward[:2], transfer]
    if last.outcome == Outcome.VERIFIED and onward:
        return [*onward[:2], transfer, *([up] if up else [])]
    return [transfer, *([up] if up else []), *onward[:2]]


def _relapsed(
    last: LastWork, dose: Dose | None, probabilities: Mapping[str, float], known: Knowledge
) -> list[NextStep]:
    share = dose.share if dose else None
    others = [d for d in known.drills.values() if last.fault in d.faults and d.id != last.drill]
    change = None
    if others:
        change = NextStep(
            kind="change-drill",
            headline=Message("take-home-try-another-feel", name=others[0].name.lower()),
            reason=Message("take-home-student-practiced-did-not-hold"),
            fault=last.fault,
            drill=others[0].id,
            stage=last.stage,
        )
    if dose is not None and share is not None and share >= WELL_PRACTISED:
        result = Message(
            "take-home-did-not-hold-although-student",
            days=dose.days,
            planned=dose.planned,
        )
        down = _down(last, known, result)
        return [*([change] if change else []), down, *_next_faults(last, probabilities, known)[:1]]
    result = Message("take-home-did-not-hold-cold-test")
    if dose is not None and share is not None and share <= HARDLY_PRACTISED:
        result += Message(
            "take-home-practice-days-fix-plan-before",
            days=dose.days,
            planned=dose.planned,
        )
    elif share is None:
        result += Message("take-home-no-practice-logged-ask-what")
    return [_down(last, known, result), *([change] if change else [])]


def _instead(last: LastWork, probabilities: Mapping[str, float], known: Knowledge, why: str) -> list[NextStep]:
    onward = _next_faults(last, probabilities, known)
    if onward:
        first = onward[0]
        return [
            NextStep(
                kind="change-correction",
                headline=first.headline,
                reason=Message("take-home-why-reason", why=why, reason=first.reason),
                fault=first.fault,
            ),
            *onward[1:2],
        ]
    reason = Message("take-home-nothing-else-stands-out-check", why=why)
    return [NextStep(kind="change-correction", headline=Message("take-home-back-check"), reason=reason)]


def _next_faults(last: LastWork, probabilities: Mapping[str, float], known: Knowledge) -> list[NextStep]:
    """Return other faults that are at least possible: upstream of the last one, then downstream, then the rest."""
    links = {(edge.source, edge.target) for edge in known.edges}

    def where(fault: str) -> int:
        if (fault, last.fault) in links:
            return 0
        return 1 if (last.fault, fault) in links else 2

    words = (Message("take-home-upstream"), Message("take-home-downstream"), Message("take-home-own"))
    open_ones = [f for f, p in probabilities.items() if f != last.fault and p >= WORTH_CHECKING]
    faults = {cause.id for cause in known.causes.values()}
    ordered = sorted(open_ones, key=lambda f: (where(f), -probabilities[f]))
    return [
        NextStep(
            kind="next-fault",
            headline=Message("take-home-next", labels=known.label_of(f).lower()),
            reason=Message(
                "take-home-still",
                probability_word=vocabulary().probability_word(probabilities[f]),
                words=words[where(f)],
            ),
            fault=f,
        )
        for f in ordered
        if f in faults
    ]


def relapse_alarm(words: Sequence[str]) -> Message | None:
    """Return a warning if the newest cold test is a relapse, stronger if it is not the first.

    ``words`` are oldest first.
    """
    if not words or words[-1] != "relapsed":
        return None
    times = list(words).count("relapsed")
    if times > 1:
        return Message("take-home-relapsed-time-change-feel-not", times=times)
    return (
        Message("take-home-relapsed-after-had-held-before")
        if "kept" in words
        else Message("take-home-relapsed-change-did-not-hold")
    )
