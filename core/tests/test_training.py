"""Practice lessons: hidden faults show in ball and body, and only the right movement relieves them."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.figure import Ink
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.training import LEVELS, Attempt, CoachActions, score, training_ball, training_figure, training_golfer
from instavis_core.training.golfer import CLUB

NOW = datetime(2026, 5, 4, 9, tzinfo=UTC)
SEEDS = range(60)
FEW = range(18)
"""Golfers of tests that fly every ball or draw every frame."""


def balls(who, seed, fault, first=1, count=40):
    skill, records, efforts = None, [], []
    for number in range(first, first + count):
        record, attempt, skill = training_ball(who, vocabulary().clubs[CLUB], seed, number, NOW, fault, skill)
        records.append(record)
        efforts.append(attempt.effort if attempt else None)
    return records, efforts, skill


@pytest.mark.parametrize("level", LEVELS)
def test_seed_determines_the_golfer(level):
    drawn = [training_golfer(level, seed) for seed in SEEDS]
    assert [d.faults for d in drawn] == [training_golfer(level, seed).faults for seed in SEEDS]
    assert len({tuple(d.faults) for d in drawn}) > len(SEEDS) / 4
    for who in drawn:
        assert len(who.faults) == len(LEVELS[level].severity)
        assert list(who.faults.values()) == sorted(who.faults.values(), reverse=True)
        assert len({key.partition("/")[0] for key in who.faults}) == len(who.faults)


def test_an_unknown_level_is_named():
    with pytest.raises(InputError, match="clear, usual, tangled"):
        training_golfer("easy", 1)


@pytest.mark.parametrize("level", LEVELS)
def test_body_shows_signs_of_the_faults(level):
    """Of strong signs nearly all are there, of what no fault speaks for little is."""
    strong, elsewhere = [], []
    for seed in SEEDS:
        who = training_golfer(level, seed)
        faults = {key.partition("/")[0] for key in who.faults}
        for check in shipped_knowledge().checks.values():
            signs = max((check.speaks.get(g, {}).get(f, 0) for g in check.grades[1:] for f in faults), default=0)
            faulty = who.true_grade(check) != check.grades[0]
            (strong if signs == 2 else elsewhere if signs <= 0 else []).append(faulty)
    assert np.mean(strong) > LEVELS[level].strong - 0.07
    assert np.mean(elsewhere) < LEVELS[level].elsewhere + 0.04


def test_only_the_right_movement_changes_the_ball():
    """Over many golfers: what a fault does to the primary number goes with the movement that is against it."""
    answered, idle = [], []
    for seed in FEW:
        who = training_golfer("clear", seed)
        (key,) = who.faults
        name, _, variant = key.partition("/")
        effect = shipped_knowledge().cause(name, variant or None).effect
        metric = max(("path_deg", "face_to_target_deg", "attack_deg"), key=lambda m: abs(effect.get(m, 0)))
        if abs(effect.get(metric, 0)) < 2:
            continue
        other = next(c.id for c in shipped_knowledge().of_kind("fault") if c.id != name)
        before, with_it, beside = (
            np.mean([r[metric] for r in balls(who, seed, fault, first, 25)[0]])
            for fault, first in ((None, 1), (name, 101), (other, 201))
        )
        side = who.golfer.side if metric != "attack_deg" else 1
        sign = np.sign(effect[metric]) * side
        answered.append(sign * (before - with_it) > 0.5)
        idle.append(abs(before - beside))
    assert np.mean(answered) > 0.85
    assert np.median(idle) < 1.0


def test_tries_teach_and_balls_repeat_by_number():
    who = training_golfer("usual", 3)
    fault = next(iter(who.faults)).partition("/")[0]
    records, efforts, skill = balls(who, 3, fault)
    assert skill > who.simulated.skill_of_move
    assert efforts[20:].count("done") > efforts[:20].count("done") - 3
    again, result, _ = balls(who, 3, fault)
    assert (again, result) == (records, efforts)
    assert who.simulated.severity == who.faults
    assert who.simulated.balls == 0


def test_movement_reduces_the_drawn_sign():
    for seed in FEW:
        who = training_golfer("clear", seed)
        fault = next(iter(who.faults)).partition("/")[0]
        check = next(
            (n for n, (g, _) in who.checks.items() if shipped_knowledge().checks[n].speaks[g].get(fault) == 2), None
        )
        if check is None:
            continue
        asked, done, sound = (
            bones(training_figure(someone, check, seed, 1, attempt))
            for someone, attempt in (
                (who, None),
                (who, Attempt(fault=fault, effort="done")),
                (type(who)(**{**vars(who), "checks": {}}), None),
            )
        )
        assert np.abs(done - sound).max() < 0.5 * np.abs(asked - sound).max()


def bones(figure):
    return np.array([np.ravel([s.lines for s in frame if s.ink == Ink.BODY][0]) for frame in figure.frames])


def test_unknown_check_is_named():
    with pytest.raises(InputError, match="one-checks"):
        training_figure(training_golfer("clear", 1), "dance", 1, 1, None)


def actions(**changes):
    return CoachActions(**{"balls": 20, "graded": {}, **changes})


def test_score_compares_with_the_hidden_fault():
    who = training_golfer("usual", 11)
    lead, second = (key.partition("/")[0] for key in who.faults)
    known = shipped_knowledge()
    faulty = next(iter(who.checks))
    sound = next(c for c in known.checks.values() if c.id not in who.checks)
    unseen = next(c.id for c in known.checks.values() if c.id not in (faulty, sound.id))
    graded = {faulty: who.checks[faulty][0], sound.id: sound.grades[1], unseen: "not-seen"}
    marked = [("done", "done"), ("missed", "done"), ("done", "")]
    result = score(who, actions(graded=graded, corrected=lead, outcome="verified", marked=marked))
    assert [(f.id, f.leads) for f in result.faults] == [(lead, True), (second, False)]
    assert (result.checks_right, {check.check for check in result.checks}) == (1, {faulty, sound.id})
    assert (result.right_cause, result.leading_cause, result.right_claim) == (True, True, True)
    assert (result.marks, result.marks_right) == (2, 1)
    assert score(who, actions(corrected=second, outcome="not-supported")).right_claim is False


def test_not_supported_is_right_for_a_wrong_cause():
    who = training_golfer("clear", 2)
    other = next(c.id for c in shipped_knowledge().of_kind("fault") if who.fault_of(c.id) is None)
    result = score(who, actions(corrected=other, outcome="not-supported", marked=[("done", "done")]))
    assert (result.right_cause, result.leading_cause, result.right_claim, result.marks) == (False, False, True, 0)
    assert score(who, actions(corrected=other, outcome="verified")).right_claim is False


@pytest.mark.parametrize("outcome", [None, "open", "stopped"])
def test_unjudged_lesson_claims_nothing(outcome):
    who = training_golfer("clear", 2)
    result = score(who, actions(corrected=next(iter(who.faults)).partition("/")[0], outcome=outcome))
    assert result.right_claim is None
    assert score(who, actions()).right_cause is None
