"""The take-home page in the student's words: what the ball did, the cause, the correction, what is proven."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from instavis_core.errors import InputError
from instavis_core.knowledge import Drill, Metric, vocabulary
from instavis_core.knowledge.model import Felt
from instavis_core.message import NOTHING, Message, Quantity, joined, plain
from instavis_core.proof import Change, Slope
from instavis_core.terms import ProofStatus, StageName

SECTIONS = ("ball", "cause", "correction", "proven", "ugly", "fake", "film")
TITLES = {
    "ball": Message("take-home-what-ball-did"),
    "cause": Message("take-home-why"),
    "correction": Message("take-home-one-thing-change"),
    "proven": Message("take-home-proven-not-proven"),
    "ugly": Message("take-home-first-you-may-see"),
    "fake": Message("take-home-common-fake"),
    "film": Message("take-home-film-count-home"),
}
MAX_LINES, LONGEST_LINE = 8, 300


@dataclass(frozen=True, kw_only=True)
class TakeHomeFacts:
    """The facts on the page.

    ``misses`` are those of the intake, ``plain`` the pattern's sentences without numbers, ``why`` the sentence of the
    cause. ``status`` is that of the proof, with its ``reason``; ``change`` is that of ``metric``, ``slope`` its
    dependence on the measured body; ``stage`` is the one reached. ``inferred`` is true if some of the balls did not
    measure the metric.
    """

    club: str
    misses: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    plain: tuple[Message, ...] = ()
    why: Message = NOTHING
    drill: Drill | None = None
    felt_by: Felt | None = None
    cue: Message = NOTHING
    status: str | None = None
    reason: Message = NOTHING
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
        raise InputError("sections", raw, Message("take-home-object-sections", known=", ".join(SECTIONS)))
    lines: dict[str, list[str]] = {}
    for name, texts in raw.items():
        if name not in SECTIONS:
            raise InputError("sections", name, Message("common-one", known=", ".join(SECTIONS)))
        if not isinstance(texts, list) or len(texts) > MAX_LINES:
            raise InputError(f"sections.{name}", texts, Message("take-home-most-lines", most=MAX_LINES))
        for i, text in enumerate(texts):
            if not isinstance(text, str) or len(text) > LONGEST_LINE or not text.replace("\t", "").isprintable():
                raise InputError(
                    f"sections.{name}[{i}]",
                    text,
                    Message("take-home-line-most-characters", longest=LONGEST_LINE),
                )
        lines[name] = [t.strip() for t in texts if t.strip()]
    return lines


def _ball(facts: TakeHomeFacts) -> list[Message]:
    groups = vocabulary().words["club_group"]
    lines = []
    for group, miss in facts.misses.items():
        text = _miss(miss)
        if text:
            lines.append(Message("take-home-your-usual-miss", groups=groups[group].lower(), text=text))
    if facts.plain:
        lines.append(Message("take-home-today", club=facts.club, text=joined(facts.plain, "space")))
    return lines


def _miss(miss: Mapping[str, Any]) -> Message:
    start = {
        "left": Message("take-home-starts-left"),
        "right": Message("take-home-starts-right"),
        "straight": Message("take-home-starts-straight"),
        "both": Message("take-home-starts-both-sides"),
    }
    curve = {
        "left": Message("take-home-curves-left"),
        "right": Message("take-home-curves-right"),
        "straight": Message("take-home-flies-straight"),
        "both": Message("take-home-curves-both-ways"),
    }
    parts = [start.get(miss.get("start") or "", ""), curve.get(miss.get("curve") or "", "")]
    if miss.get("off_m"):
        parts.append(Message("take-home-finishes-about-offline", far=Quantity(miss["off_m"], "m")))
    return joined(parts, "and")


def _correction(facts: TakeHomeFacts) -> list[Message]:
    if facts.drill is None:
        return []
    result = [
        Message("quoted", words=facts.cue or facts.drill.cue),
        facts.drill.setup,
        Message("take-home-success-looks-like", small=facts.drill.mark.begun_small()),
    ]
    if facts.felt_by is not None:
        result.append(feel_line(facts.felt_by))
    return result


def feel_line(feel: Felt) -> Message:
    """Return the feel of the movement in one line."""
    return Message("take-home-feel", way=feel.label.lower(), how=feel.how)


def _proven(facts: TakeHomeFacts) -> list[Message]:
    if facts.status is None:
        return [Message("take-home-no-correction-tried-yet-so")]
    result = {
        ProofStatus.VERIFIED: Message(
            ("take-home-proven-today-move-such-claim"),
            changed=_changed(facts),
        ),
        ProofStatus.SUPPORTED: Message("take-home-changed-but-not-tested-yet", changed=_changed(facts)),
        ProofStatus.NOT_YET: Message("take-home-not-proven-yet-too-few"),
        ProofStatus.NOT_SUPPORTED: Message("take-home-ruled-out-you-made-move"),
        ProofStatus.COMPENSATED: Message("take-home-not-proven-number-changed-but", reason=facts.reason),
        ProofStatus.OVERCORRECTED: Message("take-home-works-but-half-last-balls"),
    }
    lines = [result[ProofStatus(facts.status)]]
    shown = facts.status in (ProofStatus.VERIFIED, ProofStatus.SUPPORTED)
    if shown and facts.inferred:
        lines.append(Message("take-home-some-balls-number-calculated-flight"))
    if shown and facts.slope is not None and facts.slope.clear:
        slope_sentence = facts.slope.sentence
        lines.append(Message("take-home-shot-shot-ball-followed-your", slope=slope_sentence))
    if shown and facts.stage not in (None, StageName.FULL, StageName.MIXED):
        stage = vocabulary().words["stage"][facts.stage].lower()
        lines.append(Message("take-home-shown-not-full-speed", stage=stage))
    if facts.status == ProofStatus.VERIFIED:
        lines.append(Message("take-home-first-balls-next-lesson-show"))
    return lines


def _changed(facts: TakeHomeFacts) -> Message:
    change, metric = facts.change, facts.metric
    if change is None or metric is None or change.estimate is None:
        return Message("take-home-numbers-fault-changed-together")
    result = Message(
        "take-home-changed-about",
        metric=metric.label.lower(),
        size=Quantity(abs(change.estimate), metric.unit),
    )
    if change.low is None or change.high is None:
        return result
    ends = sorted((abs(change.low), abs(change.high))) if change.low * change.high > 0 else [change.low, change.high]
    low, high = (Quantity(end, metric.unit) for end in ends)
    return Message("take-home-somewhere", text=result, low=low, high=high)


def _film(facts: TakeHomeFacts) -> list[Message]:
    if facts.drill is None:
        return []
    return [
        Message("take-home-film-five-row-check-one", small=facts.drill.mark.begun_small()),
        Message("take-home-ten-count-ones-you-felt"),
    ]
