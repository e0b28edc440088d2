"""The claims of a proof in lessons that do not come from the engine: false ones, true ones, and how soon."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from instavis_core.proof import Proof
from instavis_core.proof.change import RunningChange
from validation.lessons import BALLS, SCATTER, SPEED, Fault, World, draw_fault, hit
from validation.report import Table

LESSONS = 500
SOON = 25
PLAIN = World()
NOTHING: dict[str, tuple[World, str]] = {
    "independent balls, t with 5 degrees": (PLAIN, "≤ .02"),
    "skewed": (replace(PLAIN, skew=True), "≤ .02"),
    "t with 3 degrees": (replace(PLAIN, tail=3.0), "≤ .02"),
    "one ball like the last, AR(1) .3": (replace(PLAIN, ar=0.3), "≤ .03"),
    "form .35 SD between blocks": (replace(PLAIN, form=0.35), "≤ .03"),
    "warm-up 1 SD, time constant 10 balls": (replace(PLAIN, warm=1.0), "≤ .05"),
    "worst of three blocks as the baseline, form .35": (replace(PLAIN, worst=True, form=0.35), "≤ .06"),
    "shift of 1.5 SD on all balls, blind marks on .6": (replace(PLAIN, shift=1.5, made=(0.6, 0.6)), "≤ .05"),
    "the same, marks on .85": (replace(PLAIN, shift=1.5, made=(0.85, 0.85)), "≤ .05"),
    "seen marks follow the ball on 30 %": (replace(PLAIN, follow=0.3, basis="seen"), "≤ .03"),
    "seen marks follow the ball on 60 %": (replace(PLAIN, follow=0.6, basis="seen"), "≤ .06"),
    "half of the bad balls left unmarked": (replace(PLAIN, unmarked=0.5), "≤ .02"),
}
BESIDE: dict[str, tuple[World, str]] = {
    "path: made balls aimed 2.5° elsewhere": (replace(PLAIN, form=0.35, aim=2.5), "path_deg"),
    "any number: made balls aimed 2.5° elsewhere": (replace(PLAIN, form=0.35, aim=2.5), ""),
    "any number, which follows speed: made balls 4 % slower": (replace(PLAIN, form=0.35, slower=0.04), ""),
    "every bad ball left unmarked": (replace(PLAIN, form=0.35, unmarked=1.0), ""),
    "blind marks that follow the ball on 30 %": (replace(PLAIN, form=0.35, follow=0.3), ""),
    "blind marks that follow the ball on 60 %": (replace(PLAIN, form=0.35, follow=0.6), ""),
}
"""What goes with the movement and is not the movement; the number the fault is about, empty for any."""
CONFOUNDED: dict[str, tuple[str, dict[str, float], tuple[str, ...], str]] = {
    "aim off 2.4°": ("path_deg", {"path_deg": 2.4, "face_deg": 2.4}, (), "full"),
    "aim off 4°": ("path_deg", {"path_deg": 4.0, "face_deg": 4.0}, (), "full"),
    "aim off 4°, face not measured": ("path_deg", {"path_deg": 4.0}, ("face_deg",), "full"),
    "swing 10 % easier, path 2.4°": ("path_deg", {"path_deg": 2.4, "club_speed_mps": -0.1 * SPEED}, (), "full"),
    "half swings, path 2.4°": ("path_deg", {"path_deg": 2.4, "club_speed_mps": -0.3 * SPEED}, (), "half"),
    "tee 8 mm higher": ("strike_high_mm", {"strike_high_mm": 8.0}, (), "full"),
}


def tables() -> Iterator[Table]:
    """False claims, power, other causes, the interval, and what is ruled out, each as soon as it is known."""
    return (make() for make in (_false, _power, _power_at, _contrast, _beside, _confounded, _interval, _ruled_out))


def _share(hits: list[bool]) -> str:
    """A share with its standard error."""
    share = float(np.mean(hits))
    return f"{share:.3f} ± {np.sqrt(max(share * (1 - share), 1e-9) / len(hits)):.3f}"


def _lessons(world: World, seed: int, share: float, balls: int = BALLS, **fault) -> Iterator[tuple[Fault, Proof]]:
    rng = np.random.default_rng(seed)
    for _ in range(LESSONS):
        drawn = draw_fault(rng, **fault)
        yield drawn, hit(rng, world, drawn, share, balls)


def _false() -> Table:
    rows = []
    for name, (world, wanted) in NOTHING.items():
        result = [proof for _, proof in _lessons(replace(world, stick=True), 4, 0.0)]
        rows.append([name, _share([p.verified_at is not None for p in result]), wanted])
    title = f"No change, or none of the movement's: *verified* at any of {BALLS} looks, {LESSONS} lessons a row"
    return Table(title, ["what goes on", "falsely verified", "wanted"], rows)


def _power() -> Table:
    rows = []
    kinds = (("blind marks, alignment stick", "blind", True), ("seen marks, alignment stick", "seen", True))
    for name, basis, stick in (*kinds, ("blind marks, no stick", "blind", False)):
        found: list[tuple[float, int | None, str]] = []
        for fault, proof in _lessons(replace(PLAIN, form=0.35, basis=basis, stick=stick), 5, 1.0, SOON):
            found.append((abs(float(fault.change[fault.primary])), proof.verified_at, str(proof.status)))
        sizes = np.array([f[0] for f in found])
        right = np.array([f[1] is not None for f in found])
        cells = [
            f"{right[(sizes > a) & (sizes <= b)].mean():.2f}" for a, b in ((0, 0.8), (0.8, 1.3), (1.3, 2), (2, 99))
        ]
        others = Counter(f[2] for f in found)
        wrong = sum(others[s] for s in ("compensated", "not-supported", "overcorrected")) / LESSONS
        rows.append([name, _share(right.tolist()), *cells, f"{wrong:.2f}"])
    header = [
        "realistic lessons",
        f"verified within {SOON} balls",
        "to .8 SD",
        ".8–1.3",
        "1.3–2",
        "over 2",
        "wrong verdict",
    ]
    title = "True changes (1.27 SD in the middle), form .35, movement learned from .35 to .85 of balls, a third partly"
    return Table(title, header, rows)


def _power_at() -> Table:
    rows = []
    for name, stick in (("with an alignment stick", True), ("without", False)):
        cells = []
        for size in (1.0, 1.5, 2.0):
            result = [p for _, p in _lessons(replace(PLAIN, form=0.35, stick=stick), 9, 1.0, SOON, size=size)]
            cells.append(_share([p.verified_at is not None for p in result]))
        rows.append([name, *cells])
    title = f"True changes of one size, blind marks, form .35: *verified* within {SOON} balls, {LESSONS} lessons a cell"
    return Table(title, ["", "1 SD (target ≥ .40)", "1.5 SD (≥ .75)", "2 SD (≥ .88)"], rows)


def _contrast() -> Table:
    """A golfer who makes the movement on every ball, and who hits four without it when the screen asks, after six."""
    rows = []
    every = replace(PLAIN, form=0.35, stick=True, made=(1.0, 1.0))
    worlds = {"made on every ball": every, "four old ones when asked": replace(every, old=(6, 7, 8, 9))}
    for name, world in worlds.items():
        cells = []
        for size in (1.5, 2.5):
            result = [p for _, p in _lessons(world, 10, 1.0, SOON, size=size)]
            cells.append(_share([p.verified_at is not None for p in result]))
        rows.append([name, *cells])
    title = f"A golfer who makes every movement: *verified* within {SOON} balls, {LESSONS} lessons a cell"
    return Table(title, ["", "1.5 SD", "2.5 SD (target ≥ .85)"], rows)


def _beside() -> Table:
    rows = []
    for name, (world, primary) in BESIDE.items():
        result = [p for _, p in _lessons(world, 8, 0.0, 30, size=1.3, primary=primary or None)]
        rows.append(
            [
                name,
                _share([p.verified_at is not None for p in result]),
                "≤ .08" if "aimed" in name or "slower" in name else "≤ .05",
            ]
        )
    title = f"Something goes with the movement, which does nothing: *verified* within 30 balls, {LESSONS} lessons a row"
    return Table(title, ["what goes with it", "falsely verified", "target"], rows)


def _confounded() -> Table:
    rows = []
    for name, (primary, moved, missing, stage) in CONFOUNDED.items():
        rng, result = np.random.default_rng(6), []
        for _ in range(LESSONS):
            fault = draw_fault(rng, 1.3, primary)
            sign = float(np.sign(fault.change[fault.primary]))
            shifts = {m: v if m == "club_speed_mps" else sign * v for m, v in moved.items()}
            only = tuple(m for m in PLAIN.only if m not in missing)
            world = replace(PLAIN, form=0.2, moved=shifts, only=only, made=(0.7, 0.7), stage=stage, stick=True)
            result.append(hit(rng, world, fault, 0.0, 30))
        shares = Counter(str(p.status) for p in result)
        named = [f"{shares[s] / LESSONS:.2f}" for s in ("compensated", "supported", "overcorrected")]
        rows.append([name, _share([p.verified_at is not None for p in result]), *named])
    header = ["on every ball, marks by chance on .7", "falsely verified", "compensated", "supported", "overcorrected"]
    return Table("Something else moved the number; 30 balls", header, rows)


def _interval() -> Table:
    """Keeps the link, which is needed for the interval."""
    rows = []
    worlds = {
        "t with 5 degrees": {},
        "skewed": {"skew": True},
        "t with 3 degrees": {"tail": 3.0},
        "AR(1) .3": {"ar": 0.3},
    }
    read = RunningChange.change
    for name, more in worlds.items():
        true_effects, held, widths = [], [], []

        def watched(self, link, confidence=0.95, true_effects=true_effects):
            true_effects.append(link)
            return read(self, link, confidence)

        RunningChange.change = watched
        try:
            for fault, _ in _lessons(World(form=0.35, made=(0.6, 0.6), partly=0.0, **more), 7, 1.0, size=2.0):
                link, true = true_effects[0], float(fault.change[fault.primary] * SCATTER[fault.primary])
                half = link.half_width(0.95)
                held.append(bool((np.abs(link.estimate - true) <= half)[link.known].all()))
                widths.append(half[[19, 59]] / SCATTER[fault.primary])
                true_effects.clear()
        finally:
            RunningChange.change = read
        at = np.median(np.array(widths), axis=0)
        rows.append([name, _share(held), f"{at[0]:.2f}", f"{at[1]:.2f}"])
    header = ["scatter, form .35, movement on 60 %", "holds at all 60 looks", "half width at 20 [SD]", "at 60"]
    return Table("The interval of the effect of a full movement (target ≥ .93)", header, rows)


def _ruled_out() -> Table:
    rows = []
    for predicted, real, balls in ((3, 1.2, 25), (3, 1.2, 60), (2, 0.8, 60), (2, 0.0, 20), (2, 0.0, 40), (3, 0.0, 20)):
        rng, result = np.random.default_rng(8), []
        for _ in range(LESSONS):
            fault = draw_fault(rng, float(predicted))
            fault.document["predicted"] = float(fault.change[fault.primary] * SCATTER[fault.primary])
            result.append(str(hit(rng, replace(PLAIN, form=0.35), fault, real / predicted, balls).status))
        rows.append([f"{predicted} SD", f"{real:g} SD", balls, _share([t == "not-supported" for t in result])])
    title = "*Not supported*: at most .10 where .4 of a large prediction is real"
    return Table(title, ["predicted", "real", "balls", "not supported"], rows)
