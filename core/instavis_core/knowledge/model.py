"""The types of the knowledge base."""

from __future__ import annotations

from dataclasses import dataclass, field

from instavis_core.knowledge.clubs import Club
from instavis_core.message import NOTHING, Message, plain


@dataclass(frozen=True, kw_only=True)
class Metric:
    """One measurement of a shot record; ``range`` in ``unit``; ``plus`` and ``minus`` in the golfer frame."""

    id: str
    label: Message
    unit: str
    kind: str
    lane: str
    range: tuple[float, float]
    noise: float
    mirrored: bool = False
    plus: Message = NOTHING
    minus: Message = NOTHING


@dataclass(frozen=True, kw_only=True)
class Cause:
    """Something that shifts the delivery: a pivot fault, another cause or a compensation.

    ``effect`` holds mean shifts in metric units (golfer frame, full severity) and the multipliers ``face_spread`` and
    ``low_point_spread``. ``together`` and ``scatter`` hold standard deviations of shifts of unknown sign, all together
    or each by itself. ``resembles`` is the share of checks that show a sign at random.
    """

    id: str
    label: Message
    happens: Message
    prior: float
    kind: str
    moment: Message = NOTHING
    variant: str = ""
    effect: dict[str, float] = field(default_factory=dict)
    wide: tuple[str, ...] = ()
    together: dict[str, float] = field(default_factory=dict)
    scatter: dict[str, float] = field(default_factory=dict)
    resembles: float = 0.0

    @property
    def key(self) -> str:
        """``id`` or ``id/variant``: unique."""
        return f"{self.id}/{self.variant}" if self.variant else self.id

    @property
    def family(self) -> Message:
        """The short name, shared by all variants of a fault."""
        short = self.label.split(",")[0]
        return self.label if short == self.label else Message.entry(f"{self.label.code}-family", short)


@dataclass(frozen=True)
class Edge:
    """``source`` makes ``target`` more likely and carries part of its effect."""

    source: str
    target: str
    target_variant: str = ""


@dataclass(frozen=True, kw_only=True)
class Check:
    """A check. ``speaks[grade][cause id]`` is a strength from −2 to +2; ``seconds`` is the coach's time."""

    id: str
    label: Message
    question: Message
    moment: Message
    view: str
    seconds: float
    grades: tuple[str, ...]
    speaks: dict[str, dict[str, int]] = field(default_factory=dict)


class OneSided:
    """A one-sided bound: ``above`` or ``below``, never both."""

    above: float | None
    below: float | None

    @property
    def bound(self) -> float:
        """Return the bound, in either direction."""
        return self.above if self.above is not None else self.below  # type: ignore[return-value]

    def holds(self, value: float) -> bool:
        """Return True if a value is beyond the bound."""
        return value > self.above if self.above is not None else value < self.bound


@dataclass(frozen=True, kw_only=True)
class Window(OneSided):
    """A bound on a recorded series at a moment (or its change since another one) that supports an answer to a check."""

    id: str
    look: str
    grade: str
    series: str
    at: str
    since: str = ""
    above: float | None = None
    below: float | None = None


@dataclass(frozen=True, kw_only=True)
class IntakeWord:
    """A contact or feel word of the intake and the causes it supports."""

    id: str
    label: Message
    kind: str
    speaks: dict[str, int]


@dataclass(frozen=True, kw_only=True)
class BodyTest:
    """A body test; ``seconds`` is the coach's time; ``not_with`` are health answers that rule it out."""

    id: str
    label: Message
    how: Message
    enough: Message
    seconds: float
    regions: tuple[str, ...]
    not_with: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class BodyPart:
    """One part of a test, and what a limited result means; see ``body.toml``."""

    id: str
    test: str
    label: Message
    says: Message
    windows: dict[str, float] = field(default_factory=dict)
    faults: dict[str, float] = field(default_factory=dict)
    schools: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class Felt:
    """A way to feel a movement; ``ball`` is True if a ball can be hit that way."""

    id: str
    label: Message
    how: Message
    ball: bool
    needs: tuple[str, ...] = ()
    asks: tuple[str, ...] = ()
    not_with: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Observed:
    """What an instrument measures of a drill's movement: a body series at a moment, or its change since another moment.

    ``guards`` are series that must keep their value from that moment.
    """

    series: str
    at: str
    since: str = ""
    guards: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Drill:
    """A drill.

    ``school`` is ``question:side`` or empty. ``asks`` are the body parts it needs, ``felt_by`` the feels; ``seen`` is
    how an instrument measures it, or None.
    """

    id: str
    name: Message
    faults: tuple[str, ...]
    school: str
    object: Message
    kit: tuple[str, ...]
    setup: Message
    cue: Message
    mark: Message
    fake: Message
    wanted: Message
    ugly: Message
    matchups: tuple[Message, ...]
    regions: tuple[str, ...]
    stages: tuple[str, ...]
    home: bool
    cautions: tuple[str, ...]
    asks: tuple[str, ...] = ()
    felt_by: tuple[str, ...] = ()
    seen: Observed | None = None

    def fits_at_home(self, kit: frozenset[str] | None) -> bool | None:
        """Return True if the drill can be done with the equipment at home; None if that is unknown."""
        if not self.home or not self.kit:
            return self.home
        return None if kit is None else bool(kit & set(self.kit))


@dataclass(frozen=True, kw_only=True)
class Stage:
    """A stage; see ``stages.toml``."""

    id: str
    ball: bool
    speed: tuple[float, float]
    least: int
    need: int
    of: int
    widen: float
    wanted: Message


@dataclass(frozen=True, kw_only=True)
class Ugly:
    """A bad first phase that is expected: its sign in the balls, and the missing match-up."""

    id: str
    faults: tuple[str, ...]
    need: int
    of: int
    text: Message
    matchup: Message
    turf: tuple[str, ...] = ()
    metric: str = ""
    above: float | None = None
    below: float | None = None


@dataclass(frozen=True, kw_only=True)
class Skill:
    """Tolerances, golfer-to-golfer offsets and ball-to-ball scatter of a handicap range."""

    id: str
    label: Message
    handicap_to: float
    effect_scale: float
    tolerance: dict[str, float]
    between_sd: dict[str, float]
    scatter: dict[str, float]


@dataclass(frozen=True)
class SchoolSide:
    """One side of a question, and its statement."""

    id: str
    says: Message


@dataclass(frozen=True, kw_only=True)
class School:
    """A question practitioners disagree about."""

    id: str
    question: Message
    sides: tuple[SchoolSide, ...]
    data: Message


@dataclass(frozen=True)
class Caution:
    """A caution and what triggers it."""

    id: str
    when: Message
    text: Message


@dataclass(frozen=True)
class ProbabilityWord:
    """The word for probabilities from ``start`` up; ``correct`` is true if such a fault may be corrected first."""

    start: float
    word: Message
    correct: bool


@dataclass(frozen=True, eq=False, kw_only=True)
class Vocabulary:
    """What is the same for everyone, by id, in file order: metrics, units and words.

    ``fault_ids`` are the ids of pivot faults and other causes; academies can neither add nor remove any.
    """

    metrics: dict[str, Metric]
    clubs: dict[str, Club]
    intake_words: dict[str, IntakeWord]
    stages: dict[str, Stage]
    ugly: dict[str, Ugly]
    skills: tuple[Skill, ...]
    schools: dict[str, School]
    cautions: dict[str, Caution]
    body_tests: dict[str, BodyTest]
    body_parts: dict[str, BodyPart]
    felt: dict[str, Felt]
    words: dict[str, dict[str, Message]]
    probability_words: tuple[ProbabilityWord, ...]
    fault_ids: frozenset[str]

    def skill_of(self, handicap: float | None) -> Skill:
        """Return the skill row of a handicap; the middle row if the handicap is unknown."""
        if handicap is None:
            return self.skills[len(self.skills) // 2]
        return next((s for s in self.skills if handicap <= s.handicap_to), self.skills[-1])

    def probability_word(self, probability: float) -> Message:
        """Return the word for a probability."""
        return next(row.word for row in self.probability_words if probability >= row.start)

    def correction_tier(self, probability: float) -> int:
        """Return 0 for a fault that is likely enough to be corrected first, 1 and up for each word below."""
        words = [row for row in self.probability_words if not row.correct and probability < row.start]
        enough = any(row.correct and probability >= row.start for row in self.probability_words)
        return 0 if enough else len(words) + 1


@dataclass(frozen=True, eq=False, kw_only=True)
class Knowledge:
    """Faults, checks and drills: as shipped, as an academy changed them, or with a student's own effects.

    A knowledge equals only itself, so tables made from it can be cached. It is passed to the code that uses it.
    """

    vocabulary: Vocabulary
    causes: dict[str, Cause]
    edges: tuple[Edge, ...]
    checks: dict[str, Check]
    windows: dict[str, Window]
    drills: dict[str, Drill]

    def of_kind(self, kind: str) -> list[Cause]:
        """Return causes of one kind: ``fault``, ``partner`` or ``compensation``."""
        return [c for c in self.causes.values() if c.kind == kind]

    def cause(self, fault: str, variant: str | None = None) -> Cause:
        """Return a cause by id and variant; its first variant if that one is missing or unknown.

        Raises
        ------
        KeyError
            For an unknown fault.
        """
        key = f"{fault}/{variant}" if variant else fault
        found = self.causes.get(key) or next((c for c in self.causes.values() if c.id == fault), None)
        if found is None:
            raise KeyError(fault)
        return found

    def label_of(self, fault: str) -> Message:
        """Return the short name of a fault; its id if it is unknown."""
        return next((c.family for c in self.causes.values() if c.id == fault), plain(fault))
