"""The take-home page in the student's words: what the ball did, the cause, the correction, what is proven."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from instavis_core.errors import InputError
from instavis_core.knowledge import Drill, Metric, vocabulary
from instavis_core.knowledge.model import Felt
from instavis_core.message import NONE_SAID, Message, Quantity, joined, plain
from instavis_core.proof import Change, Slope
from instavis_core.terms import ProofStatus, StageName

SECTIONS = ("ball", "cause", "correction", "proven", "ugly", "fake", "film")
TITLES = {
    "ball": Message("What the ball did"),
    "cause": Message("Why"),
    "correction": Message("The one thing to change"),
    "proven": Message("Proven and not proven"),
    "ugly": Message("At first you may see"),
    "fake": Message("Common fake"),
    "film": Message("Film and count at home"),
}
MAX_LINES, LONGEST_LINE = 8, 300


@dataclass(frozen=True, kw_only=True)
class TakeHomeFacts:
    """The facts on the page.

    ``misses`` as in the intake; ``plain`` the pattern's sentences without numbers; ``why`` the sentence of the cause;
    ``status`` of the proof with its ``reason``; ``change`` of ``metric``; ``slope`` of it on
    the measured body; ``stage`` reached; ``inferred`` when some of the balls did not carry the metric themselves.
    """

    club: str
    misses: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    plain: tuple[Message, ...] = ()
    why: Message = NONE_SAID
    drill: Drill | None = None
    felt_by: Felt | None = None
    cue: Message = NONE_SAID
    status: str | None = None
    reason: Message = NONE_SAID
    change: Change | None = None
    slope: Slope | None = None
    metric: Metric | None = None
    stage: str | None = None
    inferred: bool = False


@dataclass(frozen=True, kw_only=True)
class Section:
    """One part of the page; ``edited`` if the coach changed the lines."""

    id: str
    title: Message
    lines: list[Message]
    edited: bool = False


def take_home_sections(facts: TakeHomeFacts, own: Mapping[str, list[str]] | None = None) -> list[Section]:
    """Return the sections in order; empty ones are left out.

    Parameters
    ----------
    facts : TakeHomeFacts
    own : mapping, optional
        The coach's own lines by section; an empty list leaves a section out.
    """
    makers = {
        "ball": _ball,
        "cause": lambda f: [f.why] if f.why else [],
        "correction": _correction,
        "proven": _proven,
        "ugly": lambda f: [f.drill.ugly] if f.drill else [],
        "fake": lambda f: [f.drill.fake] if f.drill else [],
        "film": _film,
    }
    own = own or {}
    sections = [
        Section(
            id=name,
            title=TITLES[name],
            lines=[plain(line) for line in own[name]] if name in own else makers[name](facts),
            edited=name in own,
        )
        for name in SECTIONS
    ]
    return [s for s in sections if s.lines or s.edited]


def read_own_lines(raw: Any) -> dict[str, list[str]]:
    """Check the coach's own lines.

    Raises
    ------
    InputError
        For an unknown section, too many or too long lines, or text that cannot be printed.
    """
    if not isinstance(raw, dict):
        raise InputError("sections", raw, Message("an object of sections: {known}", known=", ".join(SECTIONS)))
    lines: dict[str, list[str]] = {}
    for name, texts in raw.items():
        if name not in SECTIONS:
            raise InputError("sections", name, Message("one of {known}", known=", ".join(SECTIONS)))
        if not isinstance(texts, list) or len(texts) > MAX_LINES:
            raise InputError(f"sections.{name}", texts, Message("at most {most} lines", most=MAX_LINES))
        for i, text in enumerate(texts):
            if not isinstance(text, str) or len(text) > LONGEST_LINE or not text.replace("\t", "").isprintable():
                raise InputError(
                    f"sections.{name}[{i}]",
                    text,
                    Message("a line of at most {longest} characters", longest=LONGEST_LINE),
                )
        lines[name] = [t.strip() for t in texts if t.strip()]
    return lines


def _ball(facts: TakeHomeFacts) -> list[Message]:
    groups = vocabulary().words["club_group"]
    lines = []
    for group, miss in facts.misses.items():
        text = _miss(miss)
        if text:
            lines.append(Message("Your usual miss, {groups}: {said}.", groups=groups[group].lower(), said=text))
    if facts.plain:
        lines.append(Message("Today, with the {club}: {told}", club=facts.club, told=joined(facts.plain, " ")))
    return lines


def _miss(miss: Mapping[str, Any]) -> Message:
    start = {
        "left": Message("starts left"),
        "right": Message("starts right"),
        "straight": Message("starts straight"),
        "both": Message("starts on both sides"),
    }
    curve = {
        "left": Message("curves left"),
        "right": Message("curves right"),
        "straight": Message("flies straight"),
        "both": Message("curves both ways"),
    }
    parts = [start.get(miss.get("start") or "", ""), curve.get(miss.get("curve") or "", "")]
    if miss.get("off_m"):
        parts.append(Message("finishes about {far:.0f} offline", far=Quantity(miss["off_m"], "m")))
    return joined(parts, " and ")


def _correction(facts: TakeHomeFacts) -> list[Message]:
    if facts.drill is None:
        return []
    result = [
        Message("“{cue}”", cue=facts.cue or facts.drill.cue),
        facts.drill.setup,
        Message("Success looks like: {small}", small=facts.drill.mark.begun_small()),
    ]
    if facts.felt_by is not None:
        result.append(made_felt(facts.felt_by))
    return result


def made_felt(way: Felt) -> Message:
    """Return how the movement is felt, in one line."""
    return Message("Feel: {way}. {how}", way=way.label.lower(), how=way.how)


def _proven(facts: TakeHomeFacts) -> list[Message]:
    if facts.status is None:
        return [Message("No correction was tried yet, so nothing is proven.")]
    result = {
        ProofStatus.VERIFIED: Message(
            ("Proven today: with the move, {changed}. Such a claim is wrong in at most one lesson in twenty."),
            changed=_changed(facts),
        ),
        ProofStatus.SUPPORTED: Message(
            "Changed, but not tested yet whether the move did it: {changed}.", changed=_changed(facts)
        ),
        ProofStatus.NOT_YET: Message("Not proven yet: too few balls with the move so far."),
        ProofStatus.NOT_SUPPORTED: Message(
            "Ruled out: you made the move and the ball did not change. We look for another cause."
        ),
        ProofStatus.COMPENSATED: Message(
            "Not proven: the number changed, but not because of the move. {reason}", reason=facts.reason
        ),
        ProofStatus.OVERCORRECTED: Message(
            "It works, but half of the last balls went too far to the other side. Do less of it."
        ),
    }
    lines = [result[ProofStatus(facts.status)]]
    shown = facts.status in (ProofStatus.VERIFIED, ProofStatus.SUPPORTED)
    if shown and facts.inferred:
        lines.append(Message("On some balls the number was calculated from the flight, not measured at the club."))
    if shown and facts.slope is not None and facts.slope.clear:
        told_slope = facts.slope.sentence
        lines.append(Message("Shot by shot, the ball followed your movement. {slope}", slope=told_slope))
    if shown and facts.stage not in (None, StageName.FULL, StageName.MIXED):
        stage = vocabulary().words["stage"][facts.stage].lower()
        lines.append(Message("Shown at {stage}, not at full speed.", stage=stage))
    if facts.status == ProofStatus.VERIFIED:
        lines.append(Message("The first balls of the next lesson show whether it lasts."))
    return lines


def _changed(facts: TakeHomeFacts) -> Message:
    change, metric = facts.change, facts.metric
    if change is None or metric is None or change.estimate is None:
        return Message("the numbers of this fault changed together")
    result = Message(
        "{metric} changed by about {size}",
        metric=metric.label.lower(),
        size=Quantity(abs(change.estimate), metric.unit),
    )
    if change.low is None or change.high is None:
        return result
    ends = sorted((abs(change.low), abs(change.high))) if change.low * change.high > 0 else [change.low, change.high]
    low, high = (Quantity(end, metric.unit) for end in ends)
    return Message("{told} (somewhere from {low} to {high})", told=result, low=low, high=high)


def _film(facts: TakeHomeFacts) -> list[Message]:
    if facts.drill is None:
        return []
    return [
        Message("Film five in a row and check one thing: {small}", small=facts.drill.mark.begun_small()),
        Message("Of ten, count the ones you felt. Honest numbers help more than good ones."),
    ]
