"""A sample clip: a made-up person swings in front of a camera; picture, sound of the strike, and the truth."""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

from bodies.draw import Camera, Studio, ground, rod
from bodies.posing import Posed, pose_person
from bodies.shape import Shape
from bodies.swings import Swing, swing_of
from instavis_core.figure.skeleton import stand

SOUND = 340.0  # m/s
RATE = 48_000  # samples of sound a second
SPINE_TOP = ("spine", "clavicle", "shoulder01", "upperarm")
CODECS = {
    ".webm": ("libvpx-vp9", {"crf": "34", "b:v": "0", "cpu-used": "5", "deadline": "good"}, "libopus"),
    ".mp4": ("libx264", {"crf": "26", "preset": "slow"}, "aac"),
}


@dataclass(frozen=True, kw_only=True)
class Scene:
    """What a clip is made of; ``distance`` and ``high`` place the camera [m], ``off`` is how far aside it looks [m]."""

    name: str
    view: str
    hand: str
    phenotype: dict[str, float]
    severity: dict[str, float] = field(default_factory=dict)
    seed: int = 1
    fps: float = 60.0
    jitter: float = 0.0
    width: int = 1280
    height: int = 720
    distance: float = 3.6
    high: float = 1.05
    off: float = 0.0
    roll_deg: float = 0.0
    light: float = 1.0
    grain: float = 3.0
    clothes: tuple[tuple[float, float, float], tuple[float, float, float]] = ((0.75, 0.22, 0.2), (0.16, 0.18, 0.26))
    skin: tuple[float, float, float] = (0.82, 0.62, 0.5)
    wall: tuple[float, float, float] = (0.72, 0.76, 0.74)
    behind: bool = False
    sound: bool = True
    end: str = ".webm"


def make(scene: Scene, shape: Shape, folder: Path) -> Path:
    """Write the clip and, beside it, the truth as JSON."""
    rng = np.random.default_rng(scene.seed)
    swing = swing_of(scene.severity, rng, scene.fps, scene.jitter)
    posed = [
        pose_person(shape, stand(p, grounded=_grounded(swing, t)), p, scene.hand)
        for p, t in zip(swing.poses, swing.times, strict=True)
    ]
    camera = _camera(scene)
    frames = _frames(scene, shape, posed, camera, rng)
    path = folder / f"{scene.name}{scene.end}"
    sound = _sound(swing, scene, rng) if scene.sound else None
    _write(path, frames, swing.times, sound, scene)
    path.with_suffix(".json").write_text(json.dumps(_truth(scene, shape, swing, posed), separators=(",", ":")) + "\n")
    return path


def _grounded(swing: Swing, at: float) -> bool:
    return at < swing.moments["address"]


def _camera(scene: Scene) -> Camera:
    side = 1.0 if scene.hand == "right" else -1.0
    if scene.view == "face-on":
        place, target = np.array([scene.off, -scene.distance - 0.3, scene.high]), np.array([0.0, -0.3, 0.92])
    else:
        place = np.array([-side * scene.distance, -0.35 + scene.off, scene.high])
        target = np.array([0.0, -0.35, 0.92])
    return Camera(place, target, 34.0, scene.width, scene.height, scene.roll_deg)


def _frames(scene: Scene, shape: Shape, posed: list[Posed], camera: Camera, rng: np.random.Generator):
    studio = Studio(scene.width, scene.height)
    colours = _colours(shape, scene)
    sun = np.array([0.3, -0.8, 0.9])
    floor = (*ground(), np.array([0.42, 0.55, 0.36]))
    wall = np.clip(scene.wall, 0, 1)
    for one in posed:
        parts = [floor, (one.vertices, shape.faces, colours)]
        parts.append((*rod(*one.club, 0.008), np.array([0.25, 0.25, 0.28])))
        head = one.club[1]
        parts.append((*rod(head - [0.0, 0.03, 0.0], head + [0.0, 0.03, 0.0], 0.02), np.array([0.2, 0.2, 0.22])))
        if scene.behind:
            away = np.array([1.4, 1.6, 0.0]) if scene.view == "face-on" else np.array([2.2, 1.2, 0.0])
            parts.append((posed[0].vertices * 0.97 + away, shape.faces, np.roll(colours, 1, axis=1)))
        frame = studio.draw(camera, parts, tuple(wall), sun, scene.light).astype(float)
        yield np.clip(frame + rng.normal(0, scene.grain, frame.shape[:2])[..., None], 0, 255).astype(np.uint8)


def _colours(shape: Shape, scene: Scene) -> np.ndarray:
    """Return shirt, trousers, shoes, hair and skin by the bone that moves a vertex most."""
    shirt, trousers = scene.clothes
    main = shape.bones[np.arange(len(shape.bones)), shape.weights.argmax(axis=1)]
    colours = np.empty((len(main), 3))
    crown = shape.vertices[:, 2].max()
    for i, bone in enumerate(main):
        name, (_, y, z) = shape.names[bone], shape.vertices[i]
        if name.startswith(("foot", "toe")):
            colours[i] = (0.92, 0.92, 0.9)
        elif name.startswith(("pelvis", "upperleg", "lowerleg", "root")):
            colours[i] = trousers
        elif name.startswith(SPINE_TOP):
            colours[i] = shirt
        elif name == "head" and (z > crown - 0.07 or (y > -0.02 and z > crown - 0.17)):
            colours[i] = (0.2, 0.14, 0.1)
        else:
            colours[i] = scene.skin
    return colours


def _sound(swing: Swing, scene: Scene, rng: np.random.Generator) -> np.ndarray:
    """Return quiet noise, the strike, and a step that is not a strike."""
    count = int((swing.times[-1] + 0.1) * RATE)
    wave = rng.normal(0, 0.004, count)
    for at, loud in ((swing.moments["impact"] + scene.distance / SOUND, 0.6), (0.2, 0.03)):
        start = int(at * RATE)
        ring = np.arange(min(int(0.03 * RATE), count - start)) / RATE
        wave[start : start + ring.size] += loud * np.exp(-ring / 0.004) * np.sin(2 * np.pi * 3200 * ring)
    return np.clip(wave, -1, 1).astype(np.float32)


def _write(path: Path, frames, times: np.ndarray, sound: np.ndarray | None, scene: Scene) -> None:
    codec, options, speech = CODECS[scene.end]
    with av.open(str(path), "w") as file:
        video = file.add_stream(codec, rate=Fraction(round(scene.fps)).limit_denominator(), options=options)
        video.width, video.height, video.pix_fmt = scene.width, scene.height, "yuv420p"
        video.codec_context.time_base = Fraction(1, 1000)
        audio = file.add_stream(speech, rate=RATE) if sound is not None else None
        for pixels, at in zip(frames, times, strict=True):
            frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels), format="rgb24")
            frame.pts, frame.time_base = round(1000 * at), Fraction(1, 1000)
            file.mux(video.encode(frame))
        file.mux(video.encode())
        if audio is not None:
            for start in range(0, sound.size, 960):
                some = np.zeros((1, 960), np.float32)
                some[0, : sound[start : start + 960].size] = sound[start : start + 960]
                part = av.AudioFrame.from_ndarray(np.repeat(some, 1, 0), format="fltp", layout="mono")
                part.sample_rate, part.pts, part.time_base = RATE, start, Fraction(1, RATE)
                file.mux(audio.encode(part))
            file.mux(audio.encode())


def _truth(scene: Scene, shape: Shape, swing: Swing, posed: list[Posed]) -> dict:
    """Return what the body truly did, relative to address, in the signs of the motion table; knees absolute."""
    side = 1.0 if scene.hand == "right" else -1.0
    axes = np.array([[side, 0, 0], [0, -1.0, 0], [0, 0, 1.0]])

    def path(*names: str) -> np.ndarray:
        return np.mean([[axes @ p.joints[n] for p in posed] for n in names], axis=0)

    still = swing.times < swing.moments["address"] - 0.05
    hips, shoulders = path("lead-hip", "trail-hip"), path("lead-shoulder", "trail-shoulder")
    across = path("lead-hip") - path("trail-hip")
    trunk, chest = shoulders - hips, path("lead-shoulder") - path("trail-shoulder")
    head, hands = path("head"), path("lead-wrist", "trail-wrist")
    arms = hands - shoulders
    columns = {
        "sway_cm": 100 * hips[:, 0],
        "thrust_cm": 100 * hips[:, 1],
        "lift_cm": 100 * hips[:, 2],
        "turn_deg": np.degrees(np.unwrap(np.arctan2(-across[:, 1], across[:, 0]))),
        "bend_deg": np.degrees(np.arctan2(trunk[:, 1], trunk[:, 2])),
        "side_bend_deg": np.degrees(np.arctan2(across[:, 2], np.hypot(across[:, 0], across[:, 1]))),
        "chest_turn_deg": np.degrees(np.unwrap(np.arctan2(-chest[:, 1], chest[:, 0]))),
        "arm_turn_deg": np.degrees(np.unwrap(np.arctan2(arms[:, 0], -arms[:, 2]))),
        "head_sway_cm": 100 * head[:, 0],
        "head_thrust_cm": 100 * head[:, 1],
        "head_lift_cm": 100 * head[:, 2],
        "hands_sway_cm": 100 * hands[:, 0],
        "hands_thrust_cm": 100 * hands[:, 1],
        "hands_lift_cm": 100 * hands[:, 2],
    }
    columns = {name: values - values[still].mean() for name, values in columns.items()}
    for which in ("lead", "trail"):
        columns[f"{which}_knee_deg"] = _flex(path(f"{which}-hip"), path(f"{which}-knee"), path(f"{which}-ankle"))
    return {
        "view": scene.view,
        "hand": scene.hand,
        "height_cm": round(100 * shape.height, 1),
        "severity": scene.severity,
        "moments_s": {name: round(at, 4) for name, at in swing.moments.items()},
        "times_s": swing.times.round(4).tolist(),
        "body": {name: values.round(2).tolist() for name, values in columns.items()},
    }


def _flex(hip: np.ndarray, knee: np.ndarray, ankle: np.ndarray) -> np.ndarray:
    above, below = knee - hip, ankle - knee
    cosine = (above * below).sum(1) / np.linalg.norm(above, axis=1) / np.linalg.norm(below, axis=1)
    return np.degrees(np.arccos(np.clip(cosine, -1, 1)))
