"""The pattern of a block in words, each with its numbers."""

from __future__ import annotations

from dataclasses import dataclass, replace

from instavis_core.golfer import Golfer
from instavis_core.knowledge import Club, vocabulary
from instavis_core.message import NOTHING, UNITS_WITHOUT_DECIMALS, Message, Quantity, joined
from instavis_core.reading.robust import Centre

STRONG_CURVE_DEG = 11.0  # spin axis from which a draw is called a hook and a fade a slice (assumption)
LOFT_AWAY_DEG = 4.0
Centres = dict[str, Centre]


@dataclass(frozen=True, kw_only=True)
class PatternWord:
    """One aspect of the pattern: the word and the sentence with its numbers (golfer frame).

    ``plain`` is for the student: no numbers, no terms, left and right as seen from behind the ball; may be empty.
    """

    aspect: str
    word: Message
    text: Message
    plain: Message = NOTHING


def say(metric: str, value: float) -> Message:
    """Format a value for a sentence: ``4.1° in-to-out`` (golfer frame)."""
    known = vocabulary().metrics[metric]
    if not known.plus:
        return Message("size", size=Quantity(value, known.unit))
    size = Quantity(abs(value), known.unit)
    if round(abs(value), 0 if known.unit in UNITS_WITHOUT_DECIMALS else 1) == 0:
        return Message("size", size=size)
    return Message("size-side", size=size, side=known.plus if value > 0 else known.minus)


def pattern_words(centres: Centres, golfer: Golfer, club: Club, two_sided: float | None) -> list[PatternWord]:
    """Return words for start, curve, contact, path, height and spread, as far as the balls allow."""
    makers = (_start, _curve, _contact, _path, _height, _spread)
    words = [word for make in makers if (word := make(centres, golfer, club)) is not None]
    if two_sided is not None and two_sided >= 0.5:
        words.append(
            PatternWord(
                aspect="sides",
                word=Message("baseline-two-sided"),
                text=Message("baseline-balls-finish-both-sides-probability", two_sided=two_sided),
            )
        )
    return [replace(word, plain=_plain(word, golfer)) for word in words]


PLAIN = {
    "common-straight": "baseline-starts-line",
    "baseline-pushed": "baseline-starts-pushed",
    "baseline-pulled": "baseline-starts-pulled",
    "baseline-no-curve": "baseline-hardly-curves",
    "baseline-slice": "baseline-slices",
    "baseline-fade": "baseline-fades",
    "baseline-hook": "baseline-hooks",
    "baseline-draw": "baseline-draws",
    "baseline-centred": "baseline-you-strike-near-center",
    "baseline-usual-height": "baseline-flies-usual-height",
    "baseline-high": "baseline-flies-higher-should-club",
    "baseline-low": "baseline-flies-lower-should-club",
    "baseline-two-sided": "baseline-ends-both-sides-target",
}
"""The sentence for the student for each word of the pattern."""


STRUCK = {
    "baseline-toe": Message("baseline-toe"),
    "baseline-heel": Message("baseline-heel"),
    "baseline-high": Message("baseline-top"),
    "baseline-low": Message("baseline-bottom"),
}
"""Positions on the face, for a student."""


def _plain(word: PatternWord, golfer: Golfer) -> Message:
    if word.plain or word.word.code not in PLAIN:
        return word.plain
    push, pull = Message("common-right"), Message("common-left")
    if golfer.hand != "right":
        push, pull = pull, push
    return Message(PLAIN[word.word.code], push=push, pull=pull)


def _start(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    start = centres.get("launch_direction_deg")
    if start is None or start.n == 0:
        return None
    near = golfer.skill.tolerance["launch_direction_deg"]
    aside = Message("baseline-pushed") if start.centre > 0 else Message("baseline-pulled")
    word = Message("common-straight") if abs(start.centre) <= near else aside
    return PatternWord(
        aspect="start", word=word, text=Message("baseline-starts", say=say("launch_direction_deg", start.centre))
    )


def _curve(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    axis = centres.get("spin_axis_deg")
    if axis is None or axis.n == 0:
        return None
    size = abs(axis.centre)
    if size <= golfer.skill.tolerance["spin_axis_deg"] * 0.75:
        word = Message("baseline-no-curve")
    elif axis.centre > 0:
        word = Message("baseline-slice") if size > STRONG_CURVE_DEG else Message("baseline-fade")
    else:
        word = Message("baseline-hook") if size > STRONG_CURVE_DEG else Message("baseline-draw")
    return PatternWord(
        aspect="curve",
        word=word,
        text=Message("baseline-spin-axis-tilts", say=say("spin_axis_deg", axis.centre)),
    )


def _contact(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    toe, high = centres.get("strike_toe_mm"), centres.get("strike_high_mm")
    if toe is None or toe.n == 0:
        return None
    near = golfer.skill.tolerance["strike_toe_mm"]
    words = []
    if abs(toe.centre) > near:
        words.append(Message("baseline-toe") if toe.centre > 0 else Message("baseline-heel"))
    if high is not None and high.n and abs(high.centre) > near:
        words.append(Message("baseline-high") if high.centre > 0 else Message("baseline-low"))
    text = Message("baseline-struck", say=say("strike_toe_mm", toe.centre))
    if high is not None and high.n:
        text += Message("baseline-also", say=say("strike_high_mm", high.centre))
    text = Message("sentence", left=text)
    if not words:
        return PatternWord(aspect="contact", word=Message("baseline-centred"), text=text)
    where = joined([STRUCK[word.code] for word in words], "and")
    return PatternWord(
        aspect="contact",
        word=joined(words, "and"),
        text=text,
        plain=Message("baseline-you-strike-toward-face", where=where),
    )


def _path(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    path, face = centres.get("path_deg"), centres.get("face_deg")
    if path is None or path.n == 0:
        return None
    near = golfer.skill.tolerance["path_deg"]
    aside = Message("in-to-out") if path.centre > 0 else Message("out-to-in")
    word = Message("baseline-neutral-path") if abs(path.centre) <= near else aside
    text = Message("baseline-path-value", say=say("path_deg", path.centre))
    if face is not None and face.n:
        gap = face.centre - path.centre
        side = Message("common-open") if gap > 0 else Message("common-closed")
        text += Message("baseline-face-face-path", say=say("face_deg", face.centre), gap=abs(gap), side=side)
    return PatternWord(aspect="path", word=word, text=text + ".")


def _height(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    loft, attack = centres.get("dynamic_loft_deg"), centres.get("attack_deg")
    if loft is None or loft.n == 0:
        return None
    away = loft.centre - club.usual_dynamic_loft
    aside = Message("baseline-high") if away > 0 else Message("baseline-low")
    word = Message("baseline-usual-height") if abs(away) <= LOFT_AWAY_DEG else aside
    text = Message(
        "baseline-dynamic-loft-usual-club-near",
        centre=loft.centre,
        usual_dynamic_loft=club.usual_dynamic_loft,
    )
    if attack is not None and attack.n:
        text += Message("baseline-attack", say=say("attack_deg", attack.centre))
    return PatternWord(aspect="height", word=word, text=text + ".")


def _spread(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    face = centres.get("face_deg")
    if face is None or face.n < 4:
        return None
    usual = golfer.skill.scatter["face_deg"]
    ratio = face.spread / usual
    aside = Message("baseline-tight") if ratio < 0.75 else Message("baseline-wide")
    word = Message("baseline-usual-spread") if 0.75 <= ratio <= 1.4 else aside
    text = Message(
        "baseline-face-angle-varies-one-sd",
        spread=face.spread,
        usual=usual,
    )
    return PatternWord(aspect="spread", word=word, text=text)
