"""The take-home page in the student's words: what the ball did, the one cause, the one correction, what is proven."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from instavis_core.errors import InputError
from instavis_core.knowledge import Drill, Metric, vocabulary
from instavis_core.proof import Change
from instavis_core.terms import ProofStatus, StageName

SECTIONS = ("ball", "cause", "correction", "proven", "ugly", "fake", "film")
TITLES = {
    "ball": "What the ball did",
    "cause": "Why",
    "correction": "The one thing to change",
    "proven": "What is proven, and what is not",
    "ugly": "Expect at first",
    "fake": "How it is faked",
    "film": "Film and count at home",
}
MOST_LINES, LONGEST_LINE = 8, 300
YARD_M = 0.9144


@dataclass(frozen=True, kw_only=True)
class TakeHomeFacts:
    """What the page is made of.

    ``misses`` as in the intake; ``plain`` the pattern's sentences without numbers; ``why`` the sentence of the cause;
    ``status`` of the proof with its ``reason``; ``change`` of ``metric``; ``stage`` reached;
    ``inferred`` when some of the balls did not carry the metric themselves.
    """

    club: str
    units: str = "yd-mph"
    misses: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    plain: tuple[str, ...] = ()
    why: str = ""
    drill: Drill | None = None
    cue: str = ""
    status: str | None = None
    reason: str = ""
    change: Change | None = None
    metric: Metric | None = None
    stage: str | None = None
    inferred: bool = False


@dataclass(frozen=True, kw_only=True)
class Section:
    """One part of the page; ``edited`` when the lines are the coach's own."""

    id: str
    title: str
    lines: list[str]
    edited: bool = False


def take_home_sections(facts: TakeHomeFacts, own: Mapping[str, list[str]] | None = None) -> list[Section]:
    """The sections in order; one without lines is left out.

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
            lines=list(own[name]) if name in own else makers[name](facts),
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
        raise InputError("sections", raw, "an object of sections: " + ", ".join(SECTIONS))
    lines: dict[str, list[str]] = {}
    for name, texts in raw.items():
        if name not in SECTIONS:
            raise InputError("sections", name, "one of " + ", ".join(SECTIONS))
        if not isinstance(texts, list) or len(texts) > MOST_LINES:
            raise InputError(f"sections.{name}", texts, f"at most {MOST_LINES} lines")
        for i, text in enumerate(texts):
            if not isinstance(text, str) or len(text) > LONGEST_LINE or not text.replace("\t", "").isprintable():
                raise InputError(f"sections.{name}[{i}]", text, f"a line of at most {LONGEST_LINE} characters")
        lines[name] = [t.strip() for t in texts if t.strip()]
    return lines


def _ball(facts: TakeHomeFacts) -> list[str]:
    groups = vocabulary().words["club_group"]
    lines = []
    for group, miss in facts.misses.items():
        said = _miss(miss, facts.units)
        if said:
            lines.append(f"You said: {groups[group].lower()} {said}.")
    if facts.plain:
        lines.append(f"Today, with the {facts.club}: " + " ".join(facts.plain))
    return lines


def _miss(miss: Mapping[str, Any], units: str) -> str:
    start = {"left": "start left", "right": "start right", "straight": "start straight", "both": "start on both sides"}
    curve = {"left": "curve left", "right": "curve right", "straight": "fly straight", "both": "curve both ways"}
    parts = [start.get(miss.get("start") or "", ""), curve.get(miss.get("curve") or "", "")]
    if miss.get("off_m"):
        yards = units.startswith("yd")
        far = miss["off_m"] / YARD_M if yards else miss["off_m"]
        parts.append(f"finish about {far:.0f} {'yards' if yards else 'metres'} off")
    return " and ".join(p for p in parts if p)


def _correction(facts: TakeHomeFacts) -> list[str]:
    if facts.drill is None:
        return []
    return [f"“{facts.cue or facts.drill.cue}”", facts.drill.setup, f"It is right when: {_small(facts.drill.mark)}"]


def _proven(facts: TakeHomeFacts) -> list[str]:
    if facts.status is None:
        return ["No correction was tried yet, so nothing is proven."]
    told = {
        ProofStatus.VERIFIED: f"Proven today: with the move {_changed(facts)}."
        " This is said by mistake in at most one lesson in twenty.",
        ProofStatus.SUPPORTED: f"Not proven yet, but it leans the right way: {_changed(facts)}."
        " It may still be chance.",
        ProofStatus.NOT_YET: "Not proven yet: too few balls with the move so far.",
        ProofStatus.NOT_SUPPORTED: "Ruled out: the move was made and the ball did not answer."
        " We look for another cause.",
        ProofStatus.COMPENSATED: f"Not proven: the number changed, but not through the move. {facts.reason}",
        ProofStatus.OVERCORRECTED: "It works, and it now goes too far: half of the last balls passed on the other side."
        " Less of it.",
    }
    lines = [told[ProofStatus(facts.status)]]
    shown = facts.status in (ProofStatus.VERIFIED, ProofStatus.SUPPORTED)
    if shown and facts.inferred:
        lines.append("The number was worked out from the flight of some balls, not measured at the club.")
    if shown and facts.stage not in (None, StageName.FULL, StageName.MIXED):
        stage = vocabulary().words["stage"][facts.stage].lower()
        lines.append(f"Shown at {stage}, not at full speed.")
    if facts.status == ProofStatus.VERIFIED:
        lines.append("Whether it lasts is not known yet: the first balls of the next lesson tell.")
    return lines


def _changed(facts: TakeHomeFacts) -> str:
    change, metric = facts.change, facts.metric
    if change is None or metric is None or change.estimate is None:
        return "the number changed"
    unit = "°" if metric.unit == "°" else f" {metric.unit}"
    digits = 0 if metric.unit in ("mm", "rpm") else 1
    told = f"{metric.label.lower()} changed by about {abs(change.estimate):.{digits}f}{unit}"
    if change.low is None or change.high is None:
        return told
    ends = sorted((abs(change.low), abs(change.high))) if change.low * change.high > 0 else [change.low, change.high]
    low, high = (f"{v:.{digits}f}".replace("-", "−") for v in ends)
    return f"{told} (somewhere from {low} to {high}{unit})"


def _film(facts: TakeHomeFacts) -> list[str]:
    if facts.drill is None:
        return []
    return [
        f"Film five in a row and look for one thing: {_small(facts.drill.mark)}",
        "Count the ones you felt out of ten; honest numbers help more than good ones.",
    ]


def _small(text: str) -> str:
    return text[:1].lower() + text[1:]
