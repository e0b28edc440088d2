"""Which clips exist: those used to fit windows and biases, those of other people that ship, and the demo's."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from bodies.clips import Scene

RED, NAVY, SAND, MOSS, PLUM, SLATE = (
    (0.75, 0.22, 0.2),
    (0.16, 0.18, 0.26),
    (0.78, 0.7, 0.55),
    (0.25, 0.4, 0.28),
    (0.45, 0.25, 0.42),
    (0.35, 0.4, 0.46),
)
PALE, TAN, BROWN, DARK = (0.9, 0.72, 0.62), (0.8, 0.6, 0.46), (0.58, 0.4, 0.3), (0.36, 0.25, 0.2)
WALLS = ((0.72, 0.76, 0.74), (0.62, 0.6, 0.56), (0.8, 0.8, 0.84), (0.55, 0.62, 0.66), (0.7, 0.7, 0.66))
VIEWS = ("face-on", "down-the-line")


def person(gender: float, age: float, muscle: float, weight: float, height: float) -> dict[str, float]:
    """The few numbers of the body model, from 0 to 1."""
    return {
        "gender": gender,
        "age": age,
        "muscle": muscle,
        "weight": weight,
        "height": height,
        "proportions": 0.5,
    }


def shipped() -> list[Scene]:
    """Return people, cameras and swings that were not used in any fit."""
    people = [
        ("ansa", person(0.0, 0.62, 0.5, 0.45, 0.52), "right", (MOSS, SLATE), PALE, {}),
        ("bero", person(1.0, 0.68, 0.6, 0.6, 0.62), "right", (SLATE, SAND), BROWN, {"early-extension": 0.9}),
        ("cato", person(1.0, 0.6, 0.4, 0.4, 0.45), "left", (PLUM, NAVY), TAN, {"lateral-slide": 0.9}),
        ("dunja", person(0.0, 0.7, 0.5, 0.62, 0.4), "right", (RED, SLATE), DARK, {"trail-sway": 0.9}),
        ("edda", person(0.1, 0.58, 0.7, 0.5, 0.6), "left", (SAND, MOSS), PALE, {"standing-up": 0.9}),
    ]
    return _scenes(
        people,
        900,
        lambda i: {
            "distance": (3.4, 4.2, 3.0, 3.7, 3.3)[i],
            "high": (1.0, 1.2, 0.9, 1.1, 1.3)[i],
            "off": (0.0, 0.15, -0.1, 0.05, -0.15)[i],
            "light": (1.0, 0.85, 1.0, 1.1, 0.7)[i],
            "wall": WALLS[i],
            "end": ".mp4" if i % 2 else ".webm",
        },
    )


def demo() -> list[Scene]:
    """Return a left-hander of the sample academy from behind the hands: before the correction, with it, and without it
    again.
    """
    around = {"distance": 3.3, "high": 1.0, "light": 1.0, "wall": WALLS[0], "end": ".webm"}
    who = ("jorun", person(0.15, 0.66, 0.55, 0.5, 0.55), "left", (SLATE, NAVY), PALE)
    swings = {"before": 0.95, "done": 0.15, "missed": 0.85}
    return [
        replace(scene, name=name, seed=700 + i)
        for i, (name, severity) in enumerate(swings.items())
        for scene in _scenes([(*who, {"early-extension": severity})], 0, lambda _: around)
        if scene.view == "down-the-line"
    ]


def fitting() -> list[Scene]:
    """Return the clips that windows, biases and errors are fitted on; made on demand."""
    people = [
        ("fit-a", person(1.0, 0.66, 0.5, 0.5, 0.5), "right", (RED, NAVY), TAN, {}),
        ("fit-b", person(0.0, 0.6, 0.45, 0.5, 0.5), "right", (SAND, NAVY), PALE, {"early-extension": 0.9}),
        ("fit-c", person(0.8, 0.7, 0.5, 0.7, 0.55), "right", (MOSS, SAND), BROWN, {"trail-sway": 0.9}),
        ("fit-d", person(1.0, 0.6, 0.7, 0.45, 0.65), "left", (SLATE, SLATE), PALE, {"hip-stall": 0.9}),
        ("fit-e", person(0.2, 0.64, 0.5, 0.4, 0.4), "left", (PLUM, SAND), DARK, {"hang-back": 0.9}),
        ("fit-f", person(1.0, 0.72, 0.4, 0.65, 0.5), "right", (NAVY, SAND), PALE, {"trail-hip-jam": 0.9}),
        ("fit-g", person(0.0, 0.66, 0.6, 0.55, 0.6), "right", (SLATE, NAVY), TAN, {"backswing-thrust": 0.9}),
        ("fit-h", person(1.0, 0.63, 0.5, 0.55, 0.4), "left", (RED, SLATE), BROWN, {"early-extension": 0.6}),
        ("fit-i", person(0.3, 0.61, 0.4, 0.45, 0.45), "right", (MOSS, NAVY), PALE, {"lateral-slide": 0.7}),
        ("fit-j", person(1.0, 0.7, 0.6, 0.5, 0.7), "right", (PLUM, SLATE), TAN, {"spin-out": 0.8}),
        ("fit-k", person(0.0, 0.65, 0.5, 0.6, 0.55), "left", (SAND, SLATE), PALE, {"standing-up": 0.7}),
        ("fit-l", person(0.7, 0.64, 0.55, 0.5, 0.5), "right", (SLATE, MOSS), DARK, {}),
        ("fit-m", person(1.0, 0.62, 0.55, 0.5, 0.6), "right", (SAND, NAVY), TAN, {"upper-body-first": 0.9}),
        ("fit-n", person(0.0, 0.68, 0.5, 0.55, 0.45), "left", (RED, SAND), BROWN, {"reverse-pivot": 0.9}),
        ("fit-o", person(0.9, 0.65, 0.45, 0.6, 0.5), "right", (MOSS, SLATE), PALE, {"early-lead-leg-post": 0.9}),
        ("fit-p", person(0.1, 0.63, 0.5, 0.45, 0.5), "right", (NAVY, SLATE), DARK, {"upper-body-first": 0.5}),
    ]
    return _scenes(
        people,
        100,
        lambda i: {
            "distance": 3.2 + 0.2 * (i % 4),
            "high": 0.9 + 0.1 * (i % 4),
            "off": 0.1 * (i % 3 - 1),
            "light": 1.0 - 0.1 * (i % 3),
        },
    )


def _scenes(people: list[tuple], seed: int, around: Callable[[int], dict[str, Any]]) -> list[Scene]:
    """Yield both views of every person, with different surroundings."""
    return [
        Scene(
            name=f"{name}-{view}",
            view=view,
            hand=hand,
            phenotype=body,
            severity=severity,
            seed=seed + 2 * i + k,
            clothes=clothes,
            skin=skin,
            **around(i),
        )
        for i, (name, body, hand, clothes, skin, severity) in enumerate(people)
        for k, view in enumerate(VIEWS)
    ]
