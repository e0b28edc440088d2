"""What one fault alone does to the club and the ball."""

from __future__ import annotations

from dataclasses import dataclass

from instavis_core.cause.evidence import CENTRES, neutral_delivery
from instavis_core.cause.likelihood import SEVERITY, effect_table
from instavis_core.choice.what_if import WhatIf, what_if
from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Club, Knowledge
from instavis_core.message import Message


@dataclass(frozen=True)
class FaultBall:
    """A fault of typical severity and nothing else: the ball without and with it.

    ``shown_by`` are (check, answer) pairs that support the fault, ``refuted_by`` those that speak against it, strongest
    first.
    """

    id: str
    variant: str | None
    ball: WhatIf
    shown_by: list[tuple[str, str]]
    refuted_by: list[tuple[str, str]]


def ball_of_fault(
    knowledge: Knowledge,
    fault: str,
    variant: str | None,
    golfer: Golfer,
    club: Club,
    club_speed_mps: float | None = None,
) -> FaultBall:
    """Compare the ball of a golfer who has only one fault with the ball without it.

    Parameters
    ----------
    knowledge : Knowledge
    fault : str
        Id of a fault or partner.
    variant : str or None
        One of its variants; the first when none is named.
    golfer : Golfer
    club : Club
    club_speed_mps : float, optional
        Usual for the club when left out.

    Raises
    ------
    InputError
        For an unknown fault or variant.
    """
    known = [c for c in knowledge.causes.values() if c.id == fault and c.kind != "compensation"]
    if not known:
        raise InputError("fault", fault, Message("correct-id-fault-partner"))
    if variant and variant not in [c.variant for c in known]:
        variants = ", ".join(c.variant for c in known if c.variant) or "none"
        raise InputError("variant", variant, Message("common-one", known=variants))
    cause = knowledge.cause(fault, variant)
    neutral = neutral_delivery(club)
    plain = {metric: neutral.get(metric, 0.0) for metric in CENTRES}
    if club_speed_mps is not None:
        plain["club_speed_mps"] = club_speed_mps
    shift = SEVERITY * effect_table((cause,), golfer, club)[0]
    changes = {m: plain[m] + float(s) for m, s in zip(CENTRES, shift, strict=False) if s}
    if club_speed_mps is not None:
        slower = SEVERITY * cause.effect.get("club_speed_pct", 0.0) / 100
        changes["club_speed_mps"] = club_speed_mps * (1 + slower)
    return FaultBall(
        cause.id, cause.variant or None, what_if(plain, changes, golfer, club), *_signs(knowledge, cause.id)
    )


def _signs(knowledge: Knowledge, fault: str) -> tuple[list[tuple[str, str]], list[tuple[str, str]]]:
    """Return answers that show the fault, and answers against it (or the OK answer of one of its strongest checks)."""
    shown, against = [], []
    for check in knowledge.checks.values():
        strengths = {grade: speaks.get(fault, 0) for grade, speaks in check.speaks.items()}
        shown += [(s, check.id, grade) for grade, s in strengths.items() if s > 0]
        against += [(s, check.id, grade) for grade, s in strengths.items() if s < 0]
        if max(strengths.values(), default=0) == 2 and not any(s < 0 for s in strengths.values()):
            against.append((-1, check.id, check.grades[0]))
    shown.sort(key=lambda row: -row[0])
    against.sort(key=lambda row: row[0])
    return [(c, g) for _, c, g in shown], [(c, g) for _, c, g in against]
