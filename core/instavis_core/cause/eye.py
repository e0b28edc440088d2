"""How reliable a coach's answers are, check by check; stored as data, so each coach has their own weights."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.shots import read_number

USUAL_ERROR = 0.05  # share of uninformative answers: nobody is perfect (assumption)
MEASURED_RIGHT = 0.9  # probability that a clear answer by an instrument is true (`validate camera`)
LEANING = 0.2  # share of answers that repeat the leader once the coach has seen the ranking (assumption)
USUAL_PAIRS = 10.0  # weight of the usual value, in compared answers (assumption)
MAX_ERROR = 0.95  # a coach without any accuracy would make a check impossible to weigh


@dataclass(frozen=True, kw_only=True)
class Eye:
    """A coach's accuracy.

    ``says_nothing`` is, by check, the share of answers that do not depend on what was there.
    """

    says_nothing: Mapping[str, float] = field(default_factory=dict)

    def likelihood(self, check: str, share: np.ndarray, grades: int, of: np.ndarray | float = 1.0) -> np.ndarray:
        """Return the probability that this coach gives one of ``of`` answers whose true probability is ``share``."""
        error = self.says_nothing.get(check, USUAL_ERROR)
        graded: np.ndarray = (1 - error) * share + error / grades * of
        return graded

    def after_ranking(self, checks: Iterable[str]) -> Eye:
        """Return the accuracy when some checks were answered after the ranking had been seen.

        Whoever knows the leader sees its signs more easily; such answers count as uninformative in one of five.

        Parameters
        ----------
        checks : iterable of str
            Ids of the checks that were answered with the ranking in mind.

        Examples
        --------
        >>> Eye().after_ranking(["seat-line"]).says_nothing
        {'seat-line': 0.24}
        """
        shares = {name: self.says_nothing.get(name, USUAL_ERROR) for name in checks}
        leaning = {name: round(1 - (1 - share) * (1 - LEANING), 6) for name, share in shares.items()}
        return Eye(says_nothing={**self.says_nothing, **leaning})


USUAL_EYE = Eye()


@dataclass(frozen=True, kw_only=True)
class Record:
    """Answers of one check by a coach and by instruments.

    ``same`` of ``both`` agree; ``grades`` is the number of possible answers; ``right`` of ``practised`` made-up swings
    were answered correctly.
    """

    same: int
    both: int
    grades: int
    right: int = 0
    practised: int = 0


def calibrated_eye(records: Mapping[str, Record]) -> Eye:
    """Estimate a coach's accuracy from comparisons.

    The share of uninformative answers is the posterior mean under a beta prior about the usual share. An uninformative
    answer agrees by chance; any other agrees as often as instruments are right. Made-up swings count the same, but
    together no more than the prior does, because a drawn figure is not a golfer.
    """
    share = np.linspace(0.0, MAX_ERROR, 96)
    prior = (USUAL_ERROR * USUAL_PAIRS - 1) * np.log(np.maximum(share, share[1] / 2))
    prior += ((1 - USUAL_ERROR) * USUAL_PAIRS - 1) * np.log1p(-share)
    says_nothing = {}
    for check, result in records.items():
        same = (1 - share) * MEASURED_RIGHT + share / result.grades
        share_of_practice = min(1.0, USUAL_PAIRS / result.practised) if result.practised else 0.0
        alike = result.same + share_of_practice * result.right
        unlike = result.both - result.same + share_of_practice * (result.practised - result.right)
        log = prior + alike * np.log(same) + unlike * np.log1p(-same)
        weight = np.exp(log - log.max())
        says_nothing[check] = float(weight @ share / weight.sum())
    return Eye(says_nothing=says_nothing)


def read_eye(checks: Mapping[str, object], raw: Any) -> Eye:
    """Check accuracy weights: by check the share of uninformative answers, 0 to 0.95.

    Raises
    ------
    InputError
        For unknown checks and shares out of range.
    """
    if raw is None:
        return USUAL_EYE
    if not isinstance(raw, dict):
        raise InputError("eye", raw, Message("cause-object-check-share"))
    for name in raw:
        if name not in checks:
            known = ", ".join(checks)
            raise InputError(f"eye.{name}"[:80], raw[name], Message("common-one-checks", known=known))
    return Eye(says_nothing={n: read_number(f"eye.{n}", v, (0.0, MAX_ERROR), "share") for n, v in raw.items()})
