"""Candidate corrections and the terms that order them."""

from __future__ import annotations

import itertools
from collections.abc import Mapping
from dataclasses import dataclass, field

from instavis_core.body import BodyBounds
from instavis_core.body.bounds import NOT_TESTED
from instavis_core.cause.results import CauseRow, Ranking
from instavis_core.choice.gates import GateProposal, propose_gate
from instavis_core.choice.prediction import Prediction, predict_without
from instavis_core.knowledge import Drill, Knowledge, vocabulary
from instavis_core.knowledge.model import Felt
from instavis_core.message import Message
from instavis_core.shots import Block

MAX_CANDIDATES = 6
MIN_PROBABILITY = 0.05
CARRY_WEIGHT = 0.35  # a meter of carry against a meter offline (assumption)
CONTACT_WEIGHT = 12.0  # meters that a block of poor contact only is worth (assumption)
UPSTREAM_WEIGHT = 0.35
EFFORT, EFFORT_WITHOUT_DRILL = 0.25, 1.5  # m for each part of a drill (itself, each match-up, missing equipment, care)
PAIN = "pain"
NO_DRILL, SCALED_DRILL = 0.2, 0.6  # feasibility without a drill, and with drills that this body must scale down


@dataclass(frozen=True, kw_only=True)
class Student:
    """What limits the choice for one student.

    ``limits`` are pain, injury or stiff by body region: a drill that loads a painful region is left out, one that loads
    another limited region is scaled down. ``kit`` is the equipment at home, None if nothing was said. ``health`` are
    the health answers of the intake, ``body`` what the body tests leave possible.
    """

    limits: Mapping[str, str] = field(default_factory=dict)
    kit: frozenset[str] | None = None
    health: frozenset[str] = frozenset()
    body: BodyBounds = NOT_TESTED

    @property
    def spared(self) -> dict[str, str]:
        """Return every region to protect with its limit, from the student's answers and painful tests."""
        return {**self.limits, **dict.fromkeys(self.body.painful, PAIN)}

    @property
    def painful(self) -> frozenset[str]:
        """Return the painful regions."""
        return frozenset(region for region, kind in self.spared.items() if kind == PAIN)


@dataclass(frozen=True, kw_only=True)
class DrillChoice:
    """A drill for this student.

    ``scaled`` names the regions that need care, and ``short`` the limited body parts that the drill needs. ``cautions``
    are sentences. ``at_home`` is False if the student has no equipment for it at home, None if nothing was said.
    ``felt_by`` are the feels that this student can use, the most effective first. ``opposes_school`` is true if the
    drill belongs to the side that the coach did not choose.
    """

    drill: Drill
    scaled: tuple[str, ...]
    short: tuple[Message, ...]
    felt_by: tuple[Felt, ...]
    follows_school: bool
    opposes_school: bool
    at_home: bool | None
    cautions: tuple[Message, ...]


@dataclass(frozen=True, kw_only=True)
class Candidate:
    """One possible correction.

    ``benefit_m`` is the expected gain in meters over the student's own scatter; ``upstream`` is the factor for later
    faults that it also helps; ``feasibility`` [0 to 1] is for this body and equipment; ``effort_m`` is its cost in the
    same meters. ``score`` is probability × benefit × upstream × feasibility − effort.
    """

    id: str
    variant: str | None
    label: Message
    kind: str
    happens: Message
    probability: float
    word: Message
    severity: float
    benefit_m: float | None
    upstream: float
    feasibility: float
    effort_m: float
    score: float
    prediction: Prediction | None
    gate: GateProposal | None
    drills: list[DrillChoice]
    reason: Message


def rank_candidates(
    knowledge: Knowledge,
    ranking: Ranking,
    block: Block,
    school: Mapping[str, str] | None = None,
    student: Student | None = None,
) -> list[Candidate]:
    """Rank corrections by expected benefit; a fault that is not even possible comes after all possible ones.

    Parameters
    ----------
    knowledge : Knowledge
        What is held of faults and drills.
    ranking : Ranking
        What the causes are.
    block : Block
        The baseline, golfer frame.
    school : mapping of str, optional
        The coach's side of each question; it orders drills and nothing else. Where the coach has taken none, the side
        that asks less of this body does.
    student : Student, optional
        What bounds the choice for this student.
    """
    student = student or Student()
    sides = {**student.body.schools, **(school or {})}
    rows = [r for r in ranking.faults + ranking.partners if r.probability >= MIN_PROBABILITY]
    rows.sort(key=lambda r: -r.probability)
    probabilities = {r.id: r.probability for r in ranking.faults + ranking.partners}
    rows = rows[:MAX_CANDIDATES]
    predictions = predict_without(block, [(knowledge.cause(r.id, r.variant), r.severity) for r in rows])
    candidates = [
        _candidate(
            knowledge,
            row,
            prediction,
            block,
            _drills(knowledge, row.id, sides, student),
            probabilities,
            student.body.share.get(row.id, 1.0),
        )
        for row, prediction in zip(rows, predictions or itertools.repeat(None, len(rows)), strict=True)
    ]
    tier = vocabulary().correction_tier
    return sorted(candidates, key=lambda c: (tier(c.probability), -c.score))


def _candidate(
    knowledge: Knowledge,
    row: CauseRow,
    prediction: Prediction | None,
    block: Block,
    drills: list[DrillChoice],
    probabilities: dict[str, float],
    within_reach: float,
) -> Candidate:
    cause = knowledge.cause(row.id, row.variant)
    feasibility = NO_DRILL if not drills else SCALED_DRILL if all(d.scaled or d.short for d in drills) else 1.0
    feasibility *= within_reach
    upstream = 1 + UPSTREAM_WEIGHT * min(1.0, _downstream(knowledge, row.id, probabilities))
    benefit = _benefit(prediction)
    # Without balls to fly, the order depends on the probability alone.
    effort = _effort(drills)
    score = row.probability * (max(benefit, 0.1) if benefit is not None else 1.0) * upstream * feasibility - effort
    return Candidate(
        id=row.id,
        variant=row.variant,
        label=row.label,
        kind=row.kind,
        happens=row.happens,
        probability=row.probability,
        word=row.word,
        severity=row.severity,
        benefit_m=benefit,
        upstream=upstream,
        feasibility=feasibility,
        effort_m=effort,
        score=score,
        prediction=prediction,
        gate=propose_gate(block, cause, row.severity, row.probability),
        drills=drills,
        reason=_reason(row, prediction, benefit),
    )


def _benefit(prediction: Prediction | None) -> float | None:
    if prediction is None:
        return None
    before, after = prediction.before, prediction.after
    return (
        before.offline_m
        - after.offline_m
        + CARRY_WEIGHT * (after.carry_m - before.carry_m)
        + CONTACT_WEIGHT * (before.poor_contact - after.poor_contact)
    )


def _effort(drills: list[DrillChoice]) -> float:
    """Return what the easiest drill costs student and coach, in meters of benefit (assumption)."""
    parts = (1 + len(d.drill.matchups) + 2 * (d.at_home is False) + 2 * bool(d.scaled or d.short) for d in drills)
    return EFFORT * min(parts, default=EFFORT_WITHOUT_DRILL / EFFORT)


def _downstream(knowledge: Knowledge, fault: str, probabilities: dict[str, float]) -> float:
    return sum(probabilities.get(e.target, 0.0) for e in knowledge.edges if e.source == fault)


def _drills(knowledge: Knowledge, fault: str, school: Mapping[str, str], student: Student) -> list[DrillChoice]:
    """Return drills that serve the fault and load nothing painful.

    Drills this body can do come first, then the school's (the other side last), then those possible at home, then the
    most specific.
    """
    chosen = [
        _drill(d, school, student)
        for d in knowledge.drills.values()
        if fault in d.faults and not student.painful & set(d.regions)
    ]

    def order(choice: DrillChoice) -> tuple[int, int, bool, int]:
        asked_too_much = len(choice.scaled) + len(choice.short)
        side = choice.opposes_school - choice.follows_school
        return asked_too_much, side, choice.at_home is False, choice.drill.faults.index(fault)

    return sorted(chosen, key=order)


def _drill(drill: Drill, school: Mapping[str, str], student: Student) -> DrillChoice:
    question, _, side = drill.school.partition(":")
    known = vocabulary()
    return DrillChoice(
        drill=drill,
        scaled=tuple(r for r in drill.regions if r in student.limits),
        short=tuple(known.body_parts[p].label for p in drill.asks if p in student.body.held_back),
        felt_by=tuple(known.felt[feel] for feel in drill.felt_by if can_be_felt(known.felt[feel], student)),
        follows_school=bool(question) and school.get(question) == side,
        opposes_school=school.get(question, side) != side,
        at_home=drill.fits_at_home(student.kit),
        cautions=tuple(known.cautions[c].text for c in drill.cautions),
    )


def can_be_felt(feel: Felt, student: Student) -> bool:
    """Return True if body and health allow a feel.

    Its object can be lent in a lesson.
    """
    return not student.body.held_back & set(feel.asks) and not student.health & set(feel.not_with)


def _reason(row: CauseRow, prediction: Prediction | None, benefit: float | None) -> Message:
    if prediction is None or benefit is None:
        return Message("correct-not-enough-balls-estimate-gain", word=row.word.capital())
    gain = Message("correct-brings-balls-closer-target") if benefit > 0.5 else Message("correct-little-gain")
    return Message("correct-gain", word=row.word.capital(), gain=gain, remains=prediction.remains)
