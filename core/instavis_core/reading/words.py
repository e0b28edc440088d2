"""The pattern of a block in words, each with its numbers."""

from __future__ import annotations

from dataclasses import dataclass, replace

from instavis_core.golfer import Golfer
from instavis_core.knowledge import Club, vocabulary
from instavis_core.message import NONE_SAID, WHOLE_UNITS, Message, Quantity, joined
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
    plain: Message = NONE_SAID


def say(metric: str, value: float) -> Message:
    """A value in the sentence form: ``4.1° in-to-out`` (golfer frame)."""
    known = vocabulary().metrics[metric]
    if not known.plus:
        return Message("{size}", size=Quantity(value, known.unit))
    size = Quantity(abs(value), known.unit)
    if round(abs(value), 0 if known.unit in WHOLE_UNITS else 1) == 0:
        return Message("{size}", size=size)
    return Message("{size} {side}", size=size, side=known.plus if value > 0 else known.minus)


def pattern_words(centres: Centres, golfer: Golfer, club: Club, two_sided: float | None) -> list[PatternWord]:
    """Return words for start, curve, contact, path, height and spread, as far as the balls allow."""
    makers = (_start, _curve, _contact, _path, _height, _spread)
    words = [word for make in makers if (word := make(centres, golfer, club)) is not None]
    if two_sided is not None and two_sided >= 0.5:
        words.append(
            PatternWord(
                aspect="sides",
                word=Message("two-sided"),
                text=Message("Balls finish on both sides (probability {two_sided:.2f}).", two_sided=two_sided),
            )
        )
    return [replace(word, plain=_plain(word, golfer)) for word in words]


PLAIN: dict[tuple[str, str], Message] = {
    ("start", "straight"): Message("It starts on the line."),
    ("start", "pushed"): Message("It starts to the {push} of the target."),
    ("start", "pulled"): Message("It starts to the {pull} of the target."),
    ("curve", "no curve"): Message("It hardly curves."),
    ("curve", "slice"): Message("It curves strongly to the {push}."),
    ("curve", "fade"): Message("It curves a little to the {push}."),
    ("curve", "hook"): Message("It curves strongly to the {pull}."),
    ("curve", "draw"): Message("It curves a little to the {pull}."),
    ("contact", "centred"): Message("You strike it near the center."),
    ("height", "usual height"): Message("It flies at its usual height."),
    ("height", "high"): Message("It flies higher than it should with this club."),
    ("height", "low"): Message("It flies lower than it should with this club."),
    ("sides", "two-sided"): Message("It ends on both sides of the target."),
}


STRUCK = {"toe": Message("toe"), "heel": Message("heel"), "high": Message("top"), "low": Message("bottom")}
"""Where on the face, for a student."""


def _plain(word: PatternWord, golfer: Golfer) -> Message:
    push, pull = Message("right"), Message("left")
    if golfer.hand != "right":
        push, pull = pull, push
    if word.aspect == "contact" and word.word != "centred":
        where = joined([STRUCK[part] for part in word.word.split(" and ")], " and ")
        return Message("You strike it toward the {where} of the face.", where=where)
    result = PLAIN.get((word.aspect, word.word))
    return Message(result.template, push=push, pull=pull) if result else NONE_SAID


def _start(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    start = centres.get("launch_direction_deg")
    if start is None or start.n == 0:
        return None
    near = golfer.skill.tolerance["launch_direction_deg"]
    aside = Message("pushed") if start.centre > 0 else Message("pulled")
    word = Message("straight") if abs(start.centre) <= near else aside
    return PatternWord(
        aspect="start", word=word, text=Message("Starts {say}.", say=say("launch_direction_deg", start.centre))
    )


def _curve(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    axis = centres.get("spin_axis_deg")
    if axis is None or axis.n == 0:
        return None
    size = abs(axis.centre)
    if size <= golfer.skill.tolerance["spin_axis_deg"] * 0.75:
        word = Message("no curve")
    elif axis.centre > 0:
        word = Message("slice") if size > STRONG_CURVE_DEG else Message("fade")
    else:
        word = Message("hook") if size > STRONG_CURVE_DEG else Message("draw")
    return PatternWord(
        aspect="curve",
        word=word,
        text=Message("Spin axis tilts {say}.", say=say("spin_axis_deg", axis.centre)),
    )


def _contact(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    toe, high = centres.get("strike_toe_mm"), centres.get("strike_high_mm")
    if toe is None or toe.n == 0:
        return None
    near = golfer.skill.tolerance["strike_toe_mm"]
    words = []
    if abs(toe.centre) > near:
        words.append(Message("toe") if toe.centre > 0 else Message("heel"))
    if high is not None and high.n and abs(high.centre) > near:
        words.append(Message("high") if high.centre > 0 else Message("low"))
    text = Message("Struck {say}", say=say("strike_toe_mm", toe.centre))
    if high is not None and high.n:
        text += Message(", {say}", say=say("strike_high_mm", high.centre))
    return PatternWord(aspect="contact", word=joined(words, " and ") or Message("centred"), text=text + ".")


def _path(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    path, face = centres.get("path_deg"), centres.get("face_deg")
    if path is None or path.n == 0:
        return None
    near = golfer.skill.tolerance["path_deg"]
    aside = Message("in-to-out") if path.centre > 0 else Message("out-to-in")
    word = Message("neutral path") if abs(path.centre) <= near else aside
    text = Message("Path {say}", say=say("path_deg", path.centre))
    if face is not None and face.n:
        gap = face.centre - path.centre
        side = Message("open") if gap > 0 else Message("closed")
        text += Message(
            ", face {say}: face-to-path {gap:.1f}° {side}", say=say("face_deg", face.centre), gap=abs(gap), side=side
        )
    return PatternWord(aspect="path", word=word, text=text + ".")


def _height(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    loft, attack = centres.get("dynamic_loft_deg"), centres.get("attack_deg")
    if loft is None or loft.n == 0:
        return None
    away = loft.centre - club.usual_dynamic_loft
    aside = Message("high") if away > 0 else Message("low")
    word = Message("usual height") if abs(away) <= LOFT_AWAY_DEG else aside
    text = Message(
        "Dynamic loft {centre:.1f}°, usual for this club is near {usual_dynamic_loft:.0f}°",
        centre=loft.centre,
        usual_dynamic_loft=club.usual_dynamic_loft,
    )
    if attack is not None and attack.n:
        text += Message("; attack {say}", say=say("attack_deg", attack.centre))
    return PatternWord(aspect="height", word=word, text=text + ".")


def _spread(centres: Centres, golfer: Golfer, club: Club) -> PatternWord | None:
    face = centres.get("face_deg")
    if face is None or face.n < 4:
        return None
    usual = golfer.skill.scatter["face_deg"]
    ratio = face.spread / usual
    aside = Message("tight") if ratio < 0.75 else Message("wide")
    word = Message("usual spread") if 0.75 <= ratio <= 1.4 else aside
    text = Message(
        "Face angle varies by {spread:.1f}° (one SD); {usual:.1f}° is usual at this level.",
        spread=face.spread,
        usual=usual,
    )
    return PatternWord(aspect="spread", word=word, text=text)
