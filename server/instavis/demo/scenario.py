"""The sample academy: a practice barn on a windy island, made up, every ball simulated."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date
from typing import Any

ACADEMY = "Hollin Skerry Practice Barn"
PASSWORD = "lantern-and-kelp"
TEMPERATURE_C, WIND_MPS = 9.0, 0.0  # the mats are under the roof
CONDITIONS = {"lie": "dry", "turf": "mat", "ball": "practice", "aim": "stick", "flight": "hidden"}
"""Of every lesson: an alignment stick fixes the aim, and a net hides the flight."""


@dataclass(frozen=True)
class Person:
    """A coach."""

    username: str
    name: str
    role: str


COACHES = (Person("imke", "Imke Tollander", "head"), Person("bram", "Bram Oduwick", "coach"))
BAYS = ("North mat", "South mat")
HOME_OF = "Dov Marrick"
"""The student whose phone page the launcher shows."""
MONITOR, BELT, MAT = "Stand-in monitor", "Stand-in motion belt", "Stand-in pressure mat"


@dataclass(frozen=True, kw_only=True)
class Story:
    """One student and the state of the work.

    ``faults`` are hidden in the simulated golfer. ``chosen`` is the coach's correction (None: the engine's first
    candidate); ``proof`` is the number of proof balls; ``learns`` says whether the movement succeeds and the ball
    follows.
    """

    name: str
    hand: str
    handicap: float | None
    born: date | None
    seed: int
    faults: dict[str, float]
    days_ago: float
    intake: dict[str, Any]
    guardian: str = ""
    baseline: int = 0
    checks: dict[str, str] = field(default_factory=dict)
    body: dict[str, str] = field(default_factory=dict)
    belt: bool = False
    stills: tuple[str, ...] = ()
    correct: bool = False
    chosen: str | None = None
    proof: int = 0
    learns: bool = True
    toe_mm: float = 0.0
    station: str = "ask"
    take_home: dict[str, Any] | None = None
    practised: float = 0.0
    ended: bool = False
    retry: bool = False
    filmed: bool = False


@dataclass(frozen=True)
class Visit:
    """One lesson of a longer story: the number of proof balls and their stage (none: only the first balls), and the
    share of practice days done afterwards.
    """

    days_ago: float
    stage: str = ""
    proof: int = 0
    practised: float = 0.0


@dataclass(frozen=True, kw_only=True)
class LongStory:
    """A student with several lessons; ``remembers`` is after how many days a third of the new movement is left."""

    name: str
    hand: str
    handicap: float
    born: date
    seed: int
    faults: dict[str, float]
    intake: dict[str, Any]
    checks: dict[str, str]
    chosen: str
    remembers: float
    visits: tuple[Visit, ...]
    expected_today: bool = False


STORIES = (
    Story(
        name="Tamsin Quarrelow",
        hand="right",
        handicap=18.0,
        born=date(1984, 3, 9),
        seed=11,
        faults={"upper-body-first": 0.9},
        days_ago=0.0,
        intake={},
        station="ask",
    ),
    Story(
        name="Jorun Aldwhistle",
        hand="left",
        handicap=9.0,
        born=date(1971, 11, 22),
        seed=23,
        faults={"early-extension/from-inside": 0.95},
        days_ago=0.02,
        intake={
            "misses": {
                "irons": {"start": "left", "curve": "right", "off_m": 18},
                "driver": {"start": "left", "curve": "both", "off_m": 30},
            },
            "contact": ["heel", "thin"],
            "feels": ["no-room"],
            "good_feel": "Like brushing the wall behind.",
            "thoughts": "Keep the left elbow in.",
            "limits": {"lower-back": "stiff"},
            "pain": "Stiff lower back in the morning, no pain.",
            "kit": ["wall", "chair", "soft-ball"],
            "goal": "One ball flight to trust before the island cup.",
        },
        body={"hip-turn.lead-in": "short", "hip-turn.trail-in": "free", "squat": "free", "hamstring-reach": "short"},
        baseline=14,
        belt=True,
        stills=("seat-line",),
        checks={
            "ball-distance": "fits",
            "foot-pressure": "balls-of-feet",
            "seat-line": "leaves-early",
            "trail-hip-depth": "clears-back",
        },
        correct=True,
        chosen="early-extension",
        proof=9,
        filmed=True,
        station="prove",
    ),
    Story(
        name="Dov Marrick",
        hand="right",
        handicap=7.0,
        born=date(1996, 6, 1),
        seed=37,
        faults={"hip-stall": 0.95},
        days_ago=6.0,
        intake={
            "misses": {"irons": {"start": "both", "curve": "both", "off_m": 15}},
            "contact": ["thin"],
            "feels": ["flip"],
            "old_faults": ["early-release"],
            "goal": "No two-way miss.",
            "kit": ["mirror", "rod"],
        },
        body={"hip-turn.trail-in": "short", "hip-turn.lead-in": "free", "balance.lead": "free"},
        baseline=15,
        checks={"pelvis-open-impact": "facing-ball", "hands-impact": "behind", "seat-line": "on-line"},
        correct=True,
        chosen="hip-stall",
        proof=20,
        station="take-home",
        take_home={"note": "Film five buckles a day. Slow counts.", "minutes": 10, "days_a_week": 4},
        practised=0.7,
        ended=True,
    ),
    Story(
        name="Ilse Pendrake",
        hand="right",
        handicap=24.0,
        born=date(1958, 1, 30),
        seed=41,
        faults={},
        toe_mm=19.0,
        days_ago=1.1,
        intake={
            "misses": {"irons": {"start": "straight", "curve": "left", "off_m": 12}},
            "contact": ["toe"],
            "limits": {"hip": "injury"},
            "kit": ["chair"],
        },
        baseline=13,
        checks={"ball-distance": "fits", "seat-line": "on-line"},
        station="cause",
    ),
    Story(
        name="Wren Stroudley",
        hand="right",
        handicap=21.0,
        born=date(2013, 8, 17),
        guardian="Maud Stroudley",
        seed=53,
        faults={"lateral-slide": 0.9},
        days_ago=2.2,
        intake={
            "misses": {"irons": {"start": "right", "curve": "straight", "off_m": 10}},
            "contact": ["thin"],
            "feels": ["stuck"],
        },
        baseline=11,
        belt=True,
        stills=("pelvis-lateral-impact",),
        station="check",
    ),
    Story(
        name="Kofi Underlarch",
        hand="right",
        handicap=12.0,
        born=date(1989, 9, 4),
        seed=67,
        faults={"restricted-hip-turn": 1.0},
        days_ago=3.3,
        intake={"misses": {"irons": {"start": "left", "curve": "straight", "off_m": 14}}, "feels": ["lunge"]},
        baseline=14,
        checks={"first-mover": "shoulders-arms"},
        correct=True,
        chosen="upper-body-first",
        proof=24,
        learns=False,
        station="cause",
        retry=True,
    ),
)

LONG_STORIES = (
    LongStory(
        name="Lasse Corrigall",
        hand="right",
        handicap=11.0,
        born=date(1979, 4, 18),
        seed=71,
        faults={"early-extension/from-inside": 0.95},
        intake={
            "misses": {"irons": {"start": "right", "curve": "left", "off_m": 16}},
            "contact": ["heel"],
            "feels": ["no-room"],
            "kit": ["wall", "chair"],
            "goal": "Stop aiming for the block.",
        },
        checks={"seat-line": "leaves-early", "trail-hip-depth": "clears-back", "ball-distance": "fits"},
        chosen="early-extension",
        remembers=45.0,
        visits=(
            Visit(42, "three-quarter", 16, 0.9),
            Visit(28, "full", 16, 0.9),
            Visit(14, "full", 14, 0.8),
        ),
        expected_today=True,
    ),
    LongStory(
        name="Oona Brackwater",
        hand="left",
        handicap=16.0,
        born=date(1966, 9, 2),
        seed=85,
        faults={"hip-stall": 1.0},
        intake={
            "misses": {"irons": {"start": "both", "curve": "right", "off_m": 20}},
            "contact": ["thin"],
            "feels": ["flip"],
            "limits": {"hip": "stiff"},
            "kit": ["rod"],
            "goal": "Keep what we find from one lesson to the next.",
        },
        checks={"pelvis-open-impact": "facing-ball", "hands-impact": "behind", "seat-line": "on-line"},
        chosen="hip-stall",
        remembers=4.0,
        visits=(
            Visit(29, "three-quarter", 18, 0.9),
            Visit(15, "three-quarter", 28, 0.1),
            Visit(0.005),
        ),
    ),
)
