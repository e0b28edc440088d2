"""Rank the causes by exact enumeration of combinations; each piece of evidence is measured by leaving it out."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.sparse import csr_array

from instavis_core.cause.calibration import calibrated, coherent, logit
from instavis_core.cause.evidence import CENTRES, PIECES, Intake, Measured, joined, measure
from instavis_core.cause.eye import USUAL_EYE, Eye
from instavis_core.cause.hypotheses import Hypotheses, build_hypotheses
from instavis_core.cause.likelihood import Fit, fit_measured, severities
from instavis_core.cause.notes import ENOUGH_BALLS, ENOUGH_PROBABILITY, notes_of
from instavis_core.cause.results import CauseRow, Evidence, NextCheck, Ranking, WouldChange
from instavis_core.cause.telling import checks_or_balls
from instavis_core.cause.words import check_text, intake_pieces, metric_text
from instavis_core.knowledge import Cause, Knowledge, vocabulary
from instavis_core.message import NOTHING, Message, plain
from instavis_core.shots import Block

MIN_EVIDENCE = 0.05  # log-odds below which evidence is not listed
WORTH_A_LINK = 0.10  # probability that both ends hold
MINIMUM = 1e-300  # weight of an impossible combination
TOO_LIGHT = 1e-7  # weight of combinations ignored when rating evidence and checks; together below 1e-3
LOOKED_AHEAD = 5  # open checks tried for a change of the leader


@dataclass(frozen=True, kw_only=True)
class _Piece:
    kind: str
    id: str
    text: Message
    log: np.ndarray


@dataclass(frozen=True, kw_only=True)
class _Posterior:
    """Posterior over combinations.

    ``weight`` (s,) sums to 1; ``marginal`` (c,) is the probability of each cause. ``heavy`` are the positions of
    combinations with a weight that matters; ``together`` (c, c) is the probability of two causes at once; ``without``
    (pieces, c) holds the marginals with one piece left out; ``numbers_alone`` and ``checks_alone`` (c,) are the
    marginals from one kind of evidence.
    """

    knowledge: Knowledge
    eye: Eye
    space: Hypotheses
    fit: Fit
    weight: np.ndarray
    heavy: np.ndarray
    together: np.ndarray
    marginal: np.ndarray
    pieces: list[_Piece]
    without: np.ndarray
    numbers_alone: np.ndarray | None
    checks_alone: np.ndarray | None


def rank_causes(
    knowledge: Knowledge,
    block: Block,
    intake: Intake | None = None,
    checks: Mapping[str, str | Sequence[str]] | None = None,
    set_aside: frozenset[int] = frozenset(),
    tried: Mapping[str, float] | None = None,
    others: Sequence[Block] = (),
    eye: Eye = USUAL_EYE,
) -> Ranking:
    """Rank faults, partners and compensations for one golfer.

    Parameters
    ----------
    knowledge : Knowledge
        What is held of the faults: as shipped, as an academy changed it, as the student's own balls taught.
    block : Block
        n balls, n may be 0.
    intake : Intake, optional
        The student's words.
    checks : mapping of str, optional
        Graded looks, as `read_checks` gives them; several grades of one look, where coaches see it differently,
        count in equal parts and not as so many looks.
    set_aside : frozenset of int
        0-based balls the coach excluded.
    tried : mapping of float, optional
        Log-odds that the balls of a correction gave to a cause key or id (+), or took from it (−).
    others : sequence of Block
        What the same golfer hit with other clubs: one golfer, so a cause must explain all of them.
    eye : Eye
        How far the grades are believed.

    Returns
    -------
    Ranking
        Every fault id once, most probable first. The school never enters.
    """
    intake, checks = intake or Intake(), checks or {}
    space = build_hypotheses(knowledge)
    measured = joined(measure(block, set_aside), [measure(other) for other in others], block.golfer)
    fit = fit_measured(space, measured, block.golfer, block.club)
    posterior = _posterior(knowledge, eye, space, measured, fit, block, intake, checks, tried or {})
    rows = _rows(posterior)
    faults = rows["fault"]
    gains = _next_checks(posterior, checks)
    telling = checks_or_balls(measured, fit, posterior.weight, gains, knowledge.checks, block.golfer, block.club)
    return Ranking(
        faults=faults,
        partners=rows["partner"],
        compensations=rows["compensation"],
        chain=_chain(posterior),
        next_checks=gains,
        would_change=_would_change(posterior, gains),
        enough=faults[0].probability >= ENOUGH_PROBABILITY and measured.clean >= ENOUGH_BALLS,
        unexplained=_unexplained(posterior, measured),
        clean_balls=measured.clean,
        signs_in_doubt=bool(measured.disagreements),
        notes=notes_of(measured, faults, rows["compensation"], telling),
    )


def _posterior(
    knowledge: Knowledge,
    eye: Eye,
    space: Hypotheses,
    measured: Measured,
    fit: Fit,
    block: Block,
    intake: Intake,
    checks: Mapping[str, str | Sequence[str]],
    tried: Mapping[str, float],
) -> _Posterior:
    pieces = [
        _Piece(kind="metric", id=piece, text=metric_text(piece, measured), log=fit.piece[k])
        for k, piece in enumerate(PIECES)
        if not np.isnan(measured.away[k])
    ]
    independent = [
        _Piece(kind=kind, id=name, text=text, log=log)
        for kind, name, text, log in intake_pieces(intake, block.golfer, space, fit.mean, measured.away)
    ]
    for name, grade in checks.items():
        result = (grade,) if isinstance(grade, str) else tuple(grade)
        known = knowledge.checks[name]
        rows = [space.grades[name].start + known.grades.index(one) for one in result]
        log = np.log(eye.likelihood(name, space.by_grade[rows], len(known.grades))).mean(0)
        independent.append(_Piece(kind="check", id=name, text=check_text(known, result), log=log))
    for key, log_odds in tried.items():
        hit = [i for i, c in enumerate(space.causes) if key in (c.key, c.id)]
        sentence = (
            Message("cause-balls-followed-correction")
            if log_odds > 0
            else Message("cause-balls-did-not-follow-correction")
        )
        independent.append(
            _Piece(
                kind="trial",
                id=key,
                text=Message("cause-with-label", text=sentence, label=_label(knowledge, key)),
                log=log_odds * space.membership[:, hit].max(1),
            )
        )
    log = space.log_prior + fit.log_likelihood + sum((p.log for p in independent), np.zeros(len(space.log_prior)))
    pieces += independent
    pieces.append(
        _Piece(kind="chain", id="chain", text=Message("cause-fits-upstream-downstream-faults"), log=space.log_chain)
    )
    weight = _normalise(log)
    without = _normalise(log - np.stack([piece.log for piece in pieces]))
    heavy = np.flatnonzero(weight > TOO_LIGHT)
    numbers = [p.log for p in pieces if p.kind == "metric"]
    answers = [p.log for p in independent if p.kind == "check"]
    return _Posterior(
        knowledge=knowledge,
        eye=eye,
        space=space,
        fit=fit,
        weight=weight,
        heavy=heavy,
        together=space.together(weight),
        marginal=weight @ space.membership,
        pieces=pieces,
        without=without @ space.membership,
        numbers_alone=_alone(space, fit.log_likelihood) if numbers else None,
        checks_alone=_alone(space, sum(answers, np.zeros(len(space.log_prior)))) if answers else None,
    )


def _alone(space: Hypotheses, log: np.ndarray) -> np.ndarray:
    """Return the marginals (c,) from one kind of evidence."""
    result: np.ndarray = _normalise(space.log_prior + log) @ space.membership
    return result


def _label(knowledge: Knowledge, key: str) -> Message:
    """Label of a cause by key or id."""
    return next((c.label for c in knowledge.causes.values() if key in (c.key, c.id)), plain(key))


def _normalise(log: np.ndarray) -> np.ndarray:
    weight = np.exp(log - log.max(-1, keepdims=True))
    return weight / weight.sum(-1, keepdims=True)


def _rows(posterior: _Posterior) -> dict[str, list[CauseRow]]:
    space = posterior.space
    severity = severities(space, posterior.fit, posterior.weight)
    groups: dict[str, list[int]] = {}
    for i, cause in enumerate(space.causes):
        groups.setdefault(cause.id, []).append(i)
    ids = list(groups)
    of_group = np.array([[cause.id == name for name in ids] for cause in space.causes], float)
    checks = sum(piece.kind == "check" for piece in posterior.pieces)
    each = calibrated(posterior.marginal @ of_group, checks)
    # A combination never contains two variants of one fault, so their probabilities add up.
    probability = coherent(each, of_group.T @ posterior.together @ of_group, checks)
    alone = [
        None if part is None else calibrated(part @ of_group, checks)
        for part in (posterior.numbers_alone, posterior.checks_alone)
    ]
    change = logit(each) - logit(calibrated(posterior.without @ of_group, checks))  # (pieces, groups)
    rows: dict[str, list[CauseRow]] = {"fault": [], "partner": [], "compensation": []}
    for g, columns in enumerate(groups.values()):
        leader = max(columns, key=lambda i: posterior.marginal[i])
        result = [None if part is None else float(part[g]) for part in alone]
        row = _row(posterior, columns, leader, float(probability[g]), change[:, g], float(severity[leader]), *result)
        rows[space.causes[leader].kind].append(row)
    for cause in posterior.knowledge.of_kind("compensation"):
        if cause.id not in groups:
            rows["compensation"].append(_untested(cause))
    for kind in rows:
        rows[kind].sort(key=lambda row: -row.probability)
    return rows


def _row(
    posterior: _Posterior,
    columns: list[int],
    leader: int,
    probability: float,
    change: np.ndarray,
    severity: float,
    numbers_alone: float | None,
    checks_alone: float | None,
) -> CauseRow:
    space = posterior.space
    cause = space.causes[leader]
    evidence = [
        Evidence(kind=p.kind, id=p.id, log_odds=float(change[k]), text=p.text)
        for k, p in enumerate(posterior.pieces)
        if abs(change[k]) >= MIN_EVIDENCE and p.kind != "silence"
    ]
    evidence.sort(key=lambda e: -abs(e.log_odds))
    share = probability / max(float(posterior.marginal[columns].sum()), 1e-12)
    variants = {c.variant: share * float(posterior.marginal[i]) for i in columns if (c := space.causes[i]).variant}
    return CauseRow(
        id=cause.id,
        label=cause.family if len(columns) > 1 else cause.label,
        kind=cause.kind,
        moment=cause.moment,
        happens=cause.happens,
        variant=cause.variant or None,
        variants=variants,
        probability=probability,
        word=vocabulary().probability_word(probability),
        severity=severity,
        evidence=evidence,
        numbers_alone=numbers_alone,
        looks_alone=checks_alone,
    )


def _untested(cause: Cause) -> CauseRow:
    """Return a row for a confounder that one block cannot test: its prior, without evidence."""
    word = vocabulary().probability_word(cause.prior)
    return CauseRow(
        id=cause.id,
        label=cause.label,
        kind=cause.kind,
        moment=NOTHING,
        happens=cause.happens,
        variant=None,
        variants={},
        probability=cause.prior,
        word=word,
        severity=0.0,
        evidence=[],
        numbers_alone=None,
        looks_alone=None,
    )


def _chain(posterior: _Posterior) -> list[tuple[str, str]]:
    """Return upstream links whose two ends are both probable."""
    space = posterior.space
    links: dict[tuple[str, str], float] = {}
    for i, j in np.argwhere(space.upstream):
        key = (space.causes[i].id, space.causes[j].id)
        links[key] = links.get(key, 0.0) + float(posterior.together[i, j])
    return [key for key, p in sorted(links.items(), key=lambda item: -item[1]) if p >= WORTH_A_LINK]


def _next_checks(posterior: _Posterior, checks: Mapping[str, object]) -> list[NextCheck]:
    """Return the expected information [bits] of every open check about which pivot faults are present."""
    space = posterior.space
    unseen = [c for c in posterior.knowledge.checks.values() if c.id not in checks]
    # What a set of faults says about an answer, averaged over partners and confounders; rows of a set are adjacent.
    heavy = posterior.heavy
    starts = np.append(np.flatnonzero(np.diff(space.fault_set[heavy], prepend=-1)), heavy.size)
    sets = csr_array((posterior.weight[heavy], heavy, starts), (starts.size - 1, len(posterior.weight)))
    if not unseen:
        return []
    held = sets.sum(1)
    right = sets @ space.grade_share
    # The eye's error is mixed in alike for every combination of a set.
    likelihoods = [
        posterior.eye.likelihood(c.id, right[:, space.grades[c.id]], len(c.grades), held[:, None]) for c in unseen
    ]
    by_set = np.maximum(np.hstack(likelihoods), MINIMUM)
    within = -(by_set * np.log(by_set / np.maximum(held, MINIMUM)[:, None])).sum(0)
    expected = by_set.sum(0)
    result = iter(((-expected * np.log(expected) - within) / np.log(2)).tolist())
    gains = []
    for check in unseen:
        gain = max(0.0, sum(next(result) for _ in check.grades))
        gains.append(
            NextCheck(
                id=check.id,
                label=check.label,
                question=check.question,
                view=check.view,
                moment=check.moment,
                gain_bits=gain,
                bits_per_second=gain / check.seconds,
            )
        )
    return sorted(gains, key=lambda g: -g.gain_bits)


def _would_change(posterior: _Posterior, gains: list[NextCheck]) -> WouldChange | None:
    """Return the most likely single answer of an open check that would put another fault in the lead."""
    space = posterior.space
    faults = np.array([i for i, c in enumerate(space.causes) if c.kind == "fault"])
    ids = np.array([space.causes[i].id for i in faults])
    leader = ids[posterior.marginal[faults].argmax()]
    best = None
    for gain in gains[:LOOKED_AHEAD]:
        grades = posterior.knowledge.checks[gain.id].grades
        weighted = (
            posterior.eye.likelihood(gain.id, space.by_grade[space.grades[gain.id]], len(grades)) * posterior.weight
        )
        expected = weighted.sum(1)
        after = (weighted @ space.membership)[:, faults] / expected[:, None]
        for g, grade in enumerate(grades):
            new = ids[after[g].argmax()]
            if new != leader and (best is None or expected[g] > best.probability):
                best = WouldChange(check=gain.id, grade=grade, probability=float(expected[g]), leader=str(new))
    return best


def _unexplained(posterior: _Posterior, measured: Measured) -> float:
    """Return the share of the pattern's size, in standard errors, that the ranked causes leave unexplained."""
    space, fit, weight = posterior.space, posterior.fit, posterior.weight
    pieces = [k for k in range(len(CENTRES)) if not np.isnan(measured.away[k])]
    if not pieces:
        return 0.0
    error = measured.error[pieces]
    size = measured.away[pieces] / error
    # A shift of unknown sign (strike, aim, equipment) explains as much as its probability allows.
    free = np.array([[bool({**c.scatter, **c.together}.get(PIECES[k])) for k in pieces] for c in space.causes])
    reached = weight @ (space.membership @ free > 0)
    left = (measured.away[pieces] - (fit.mean @ weight)[pieces]) / error * (1 - reached)
    beyond_chance = max(float((size**2).sum()) - len(pieces), 1e-9)
    return float(np.clip(max((left**2).sum() - len(pieces), 0.0) / max(beyond_chance, len(pieces)), 0.0, 1.0))
