"""Every combination of causes the engine weighs, and what each predicts before any data.

Up to three causes at a time out of faults with their variants, partners and those compensations that
shift the delivery. The tables depend on the knowledge only and are built once.
"""

from __future__ import annotations

import functools
import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from instavis_core.knowledge import Cause, Knowledge

MAX_CAUSES = 3
PRIOR_SCALE = 0.75  # the files' priors are for golfers who come for a lesson, one cause among others
CHAIN_ODDS = 2.2  # factor on the prior of a fault when its upstream cause is present (assumption)
DOWNSTREAM_SEVERITY = 0.6  # share of a fault's own severity when its upstream cause carries part of it
EXCLUSIVE = (("ball-position-back", "ball-position-forward"), ("open-face", "closed-face"))
# A strong sign is then seen in 90 %, a weak one in 50 % of cases (assumption).
LOG_STRENGTH = {2: 4.2, 1: 1.9, -1: -1.0, -2: -2.2}
SOUND_SHARE = 0.87  # how often a check is OK in a golfer without any of its faults (assumption)
WORD_BASE = 0.14  # how often a golfer uses a contact or feel word without its causes (assumption)


@dataclass(frozen=True, eq=False, kw_only=True)
class Hypotheses:
    """The combinations.

    A table equals only itself, so derived values can be cached. Rows are ordered by ``fault_set`` (s,), which numbers
    the sets of pivot faults. ``places`` (s, 3) are the columns of the members, padded with c; ``membership`` (s, c) is
    0 or 1; ``weights`` (s, c) is the severity share of each member. ``upstream`` (c, c) is true where the row carries
    part of the column. ``log_prior`` (s,) is the prior, and ``log_chain`` (s,) the part that the chain adds to it.
    ``grade_share`` (s, g) is the probability of every answer of every check, check by check, for an eye without error;
    ``by_grade`` (g, s) is its transpose, and ``grades[look]`` its columns for a check. ``log_word[word]`` (s, 2) is for
    absent and present.
    """

    causes: tuple[Cause, ...]
    membership: np.ndarray
    places: np.ndarray
    fault_set: np.ndarray
    weights: np.ndarray
    weight_of: np.ndarray
    upstream: np.ndarray
    log_prior: np.ndarray
    log_chain: np.ndarray
    grade_share: np.ndarray
    by_grade: np.ndarray
    grades: dict[str, slice]
    log_word: dict[str, np.ndarray]

    def summed(self, values: np.ndarray) -> np.ndarray:
        """Sum over combinations by member: values (s, 3), one for each of ``places``; returns (c,)."""
        many = len(self.causes) + 1
        sums: np.ndarray = np.bincount(self.places.ravel(), values.ravel(), many)[:-1]
        return sums

    def together(self, weight: np.ndarray) -> np.ndarray:
        """Return the weight (s,) of combinations that contain both of two causes.

        Shape (c, c), single causes on the diagonal.
        """
        many = len(self.causes) + 1
        joint = np.zeros(many * many)
        for one, other in itertools.product(self.places.T, repeat=2):
            joint += np.bincount(one * many + other, weight, many * many)
        return joint.reshape(many, many)[:-1, :-1]

    def index(self, key: str) -> int:
        """Column of a cause by its key."""
        return next(i for i, cause in enumerate(self.causes) if cause.key == key)


@functools.lru_cache(maxsize=12)
def build_hypotheses(knowledge: Knowledge) -> Hypotheses:
    """Enumerate the combinations of a knowledge base."""
    causes = tuple(c for c in knowledge.causes.values() if c.effect or c.together or c.scatter)
    causes = tuple(c for c in causes if c.id != "swing-easier")  # needs a baseline to be recognized
    membership = _members(causes)
    fault_set = _fault_sets(membership, causes)
    order = np.argsort(fault_set, kind="stable")
    membership, fault_set = membership[order], fault_set[order]
    upstream = _upstream(causes, knowledge)
    linked = (membership > 0) & (membership @ upstream > 0)
    log_chain = np.log(CHAIN_ODDS) * linked.sum(1)
    odds = np.log([c.prior * PRIOR_SCALE / (1 - c.prior * PRIOR_SCALE) for c in causes])
    places = _places(membership)
    weights = np.where(linked, DOWNSTREAM_SEVERITY, 1.0) * membership
    shares = np.hstack([_grade_shares(c.grades, c.speaks, causes, membership) for c in knowledge.checks.values()])
    shares = _resembling(shares, knowledge, causes, membership)
    ends = np.cumsum([0, *(len(c.grades) for c in knowledge.checks.values())]).tolist()
    return Hypotheses(
        causes=causes,
        membership=membership,
        places=places,
        fault_set=fault_set,
        weights=weights,
        weight_of=np.take_along_axis(np.pad(weights, ((0, 0), (0, 1))), places, 1),
        upstream=upstream > 0,
        log_prior=membership @ odds + log_chain,
        log_chain=log_chain,
        grade_share=shares,
        by_grade=np.ascontiguousarray(shares.T),
        grades={name: slice(a, b) for name, a, b in zip(knowledge.checks, ends, ends[1:], strict=False)},
        log_word={key: _log_word(w.speaks, causes, membership) for key, w in knowledge.vocabulary.intake_words.items()},
    )


def _members(causes: tuple[Cause, ...]) -> np.ndarray:
    forbidden = set()
    for i, j in itertools.combinations(range(len(causes)), 2):
        pair = {causes[i].id, causes[j].id}
        if len(pair) == 1 or any(pair == set(e) for e in EXCLUSIVE):
            forbidden.add((i, j))
    rows = []
    for size in range(MAX_CAUSES + 1):
        for combination in itertools.combinations(range(len(causes)), size):
            if not any(pair in forbidden for pair in itertools.combinations(combination, 2)):
                rows.append(combination)
    membership = np.zeros((len(rows), len(causes)))
    for r, combination in enumerate(rows):
        membership[r, list(combination)] = 1.0
    return membership


def _places(membership: np.ndarray) -> np.ndarray:
    """Return the columns of each combination's members, padded with the number of causes."""
    places = np.full((len(membership), MAX_CAUSES), membership.shape[1])
    for row, places_of in zip(membership, places, strict=True):
        columns = np.flatnonzero(row)
        places_of[: columns.size] = columns
    return places


def _fault_sets(membership: np.ndarray, causes: tuple[Cause, ...]) -> np.ndarray:
    """Number combinations so that those with the same pivot faults share a number."""
    ids = sorted({c.id for c in causes if c.kind == "fault"})
    by_id = np.array([[c.kind == "fault" and c.id == name for name in ids] for c in causes])
    return np.unique(membership @ by_id, axis=0, return_inverse=True)[1].ravel()


def _upstream(causes: tuple[Cause, ...], knowledge: Knowledge) -> np.ndarray:
    """``[i, j]`` is 1 if cause i is upstream of cause j."""
    table = np.zeros((len(causes), len(causes)))
    for edge in knowledge.edges:
        for i, a in enumerate(causes):
            for j, b in enumerate(causes):
                if a.id == edge.source and b.id == edge.target and edge.target_variant in ("", b.variant):
                    table[i, j] = 1
    return table


def _grade_shares(
    grades: Sequence[str], speaks: Mapping[str, Mapping[str, int]], causes: tuple[Cause, ...], membership: np.ndarray
) -> np.ndarray:
    """Chance of each grade for each combination, shape (s, grades)."""
    score = np.full((len(causes), len(grades)), 0.0)
    for g, grade in enumerate(grades):
        for i, cause in enumerate(causes):
            strength = speaks.get(grade, {}).get(cause.id, 0)
            score[i, g] = LOG_STRENGTH.get(strength, 0.0)
    base = np.full(len(grades), (1 - SOUND_SHARE) / (len(grades) - 1))
    base[0] = SOUND_SHARE
    raw = np.exp(np.log(base) + membership @ score)
    share: np.ndarray = raw / raw.sum(1, keepdims=True)
    return share


def _resembling(
    shares: np.ndarray, knowledge: Knowledge, causes: tuple[Cause, ...], membership: np.ndarray
) -> np.ndarray:
    """Mix in random answers for causes that can look like anything."""
    any_grade = np.concatenate([np.full(len(c.grades), 1 / len(c.grades)) for c in knowledge.checks.values()])
    resembles = (membership @ np.array([c.resembles for c in causes]))[:, None]
    mixed: np.ndarray = (1 - resembles) * shares + resembles * any_grade
    return mixed


def _log_word(speaks: Mapping[str, int], causes: tuple[Cause, ...], membership: np.ndarray) -> np.ndarray:
    """Log probability that an intake word is absent or present, shape (s, 2)."""
    score = np.array([0.6 * LOG_STRENGTH.get(speaks.get(c.id, 0), 0.0) for c in causes])
    odds = WORD_BASE / (1 - WORD_BASE) * np.exp(membership @ score)
    present = np.clip(odds / (1 + odds), 0.03, 0.8)
    return np.log(np.stack([1 - present, present], axis=1))
