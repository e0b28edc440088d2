"""Follow the person in a clip from frame to frame: landmarks in shares of the picture.

If no person was found yet, or the last landmarks are doubtful, the detector searches the whole picture; otherwise the
search starts where the body was last found. There is no smoothing here, because it would lag; it is done later without
lag.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from ai_edge_litert.interpreter import Interpreter
from PIL import Image

from instavis_camera.model import Networks

LEFT = {"ear": 7, "shoulder": 11, "elbow": 13, "wrist": 15, "hip": 23, "knee": 25, "ankle": 27, "heel": 29, "toe": 31}
"""The network's index of each joint on the left side; the right side's is the next."""
DETECTED, FOLLOWED = 0.5, 0.5  # minimum score of the detector, and of a look
DETECTOR_SIDE, CROP_SIDE = 224, 256
MARGIN = 1.25
STRIDES = (8, 16, 32, 32, 32)
POINTS, EXTRA = 33, 2


@dataclass(frozen=True)
class Crop:
    """A square of the picture, turned: ``centre`` (2,) and ``side`` [px]; ``turn`` [rad] of its upright direction."""

    centre: np.ndarray
    side: float
    turn: float

    def to_picture(self, points: np.ndarray) -> np.ndarray:
        """Convert points (k, 2) from shares of the square to pixels of the picture."""
        cos, sin = np.cos(self.turn), np.sin(self.turn)
        return self.centre + self.side * (points - 0.5) @ np.array([[cos, sin], [-sin, cos]])


@dataclass(frozen=True)
class Found:
    """What was found.

    ``points`` (33, 3) are shares of the picture to the right and down, and visibility; ``body`` (33, 3) [m] is the
    network's 3-D estimate: right, down and away from the camera, about the hips.
    """

    points: np.ndarray
    body: np.ndarray


class Follower:
    """Follow one person through a clip; ``others`` is the relative size of the next person at detection."""

    def __init__(self, networks: Networks) -> None:
        self.networks = networks
        self.next: Crop | None = None
        self.others = 0.0

    def find(self, picture: np.ndarray) -> Found | None:
        """Return the landmarks in the next frame; None if nobody is found."""
        if self.next is None:
            people = detect(self.networks, picture)
            if not people:
                return None
            self.next = people[0]
            self.others = max(self.others, people[1].side / people[0].side if len(people) > 1 else 0.0)
        points, body, score = _landmarks(self.networks, picture, self.next)
        if score < FOLLOWED:
            self.next = None
            return None
        self.next = _crop_around(points[POINTS], points[POINTS + 1])
        height, width = picture.shape[:2]
        shares = points[:POINTS].copy()
        shares[:, :2] /= (width, height)
        return Found(shares, body)


def detect(networks: Networks, picture: np.ndarray) -> list[Crop]:
    """Detect people, the largest first."""
    height, width = picture.shape[:2]
    side = max(height, width)
    full_picture = Crop(np.array([width, height]) / 2, float(side), 0.0)
    boxes, scores = _run(networks.detector, _cropped(picture, full_picture, DETECTOR_SIDE) * 2 - 1)
    scores = 1 / (1 + np.exp(-np.clip(scores[0, :, 0], -50, 50)))
    good = np.flatnonzero(scores > DETECTED)
    anchors = _anchors()[good]
    found = boxes[0, good] / DETECTOR_SIDE
    found[:, 0:2] += anchors
    for k in range(4, 12, 2):
        found[:, k : k + 2] += anchors
    crops = []
    for row in _one_box_each(found, scores[good]):
        hips, crown = full_picture.to_picture(row[4:8].reshape(2, 2))
        crops.append(_crop_around(hips, crown))
    return sorted(crops, key=lambda crop: -crop.side)


def _one_box_each(found: np.ndarray, scores: np.ndarray) -> list[np.ndarray]:
    """Return one box for each person: overlapping ones averaged by score."""
    left = list(np.argsort(-scores))
    people = []
    while left:
        best = left[0]
        same = [i for i in left if _overlap(found[best], found[i]) > 0.3]
        people.append(np.average(found[same], axis=0, weights=scores[same]))
        left = [i for i in left if i not in same]
    return people


def _overlap(a: np.ndarray, b: np.ndarray) -> float:
    low = np.maximum(a[:2] - a[2:4] / 2, b[:2] - b[2:4] / 2)
    high = np.minimum(a[:2] + a[2:4] / 2, b[:2] + b[2:4] / 2)
    both = float(np.prod(np.maximum(high - low, 0)))
    return both / max(1e-9, float(np.prod(a[2:4]) + np.prod(b[2:4])) - both)


def _anchors() -> np.ndarray:
    centres = []
    for stride in STRIDES:
        count = DETECTOR_SIDE // stride
        y, x = np.mgrid[0:count, 0:count]
        cells = (np.stack([x, y], axis=-1).reshape(-1, 2) + 0.5) / count
        centres.append((stride, np.repeat(cells, 2, axis=0)))
    # Layers of one stride stand cell by cell, all their boxes together.
    merged = [c for s, c in centres if s < 32] + [np.repeat(centres[-1][1][::2], 6, axis=0)]
    return np.concatenate(merged)


def _crop_around(middle: np.ndarray, far: np.ndarray) -> Crop:
    away = far[:2] - middle[:2]
    turn = np.pi / 2 - np.arctan2(-away[1], away[0])
    return Crop(np.array(middle[:2], float), 2 * MARGIN * float(np.hypot(*away)), float(turn))


def _landmarks(networks: Networks, picture: np.ndarray, crop: Crop) -> tuple[np.ndarray, np.ndarray, float]:
    """Return landmarks (35, 3) as pixels and visibility, the 3-D body (33, 3), and the person score."""
    points, sure, _, _, body = _run(networks.landmarks, _cropped(picture, crop, CROP_SIDE))
    table = points[0].reshape(-1, 5)[: POINTS + EXTRA]
    placed = crop.to_picture(table[:, :2] / CROP_SIDE)
    visible = 1 / (1 + np.exp(-np.clip(table[:, 3], -50, 50)))
    # In space the network sees the square upright: turned back as the picture is.
    space = body[0].reshape(-1, 3)[:POINTS].copy()
    cos, sin = np.cos(crop.turn), np.sin(crop.turn)
    space[:, :2] = space[:, :2] @ np.array([[cos, sin], [-sin, cos]])
    return np.column_stack([placed, visible]), space, float(sure[0, 0])


def _cropped(picture: np.ndarray, crop: Crop, side: int) -> np.ndarray:
    """Return the pixels of a square, side × side, from 0 to 1; black beyond the picture."""
    scale = crop.side / side
    cos, sin = scale * np.cos(crop.turn), scale * np.sin(crop.turn)
    x, y = crop.centre
    half = side / 2
    affine = (cos, -sin, x - cos * half + sin * half, sin, cos, y - sin * half - cos * half)
    # Downscaled first if the look is much larger than the network's input; otherwise every second pixel is lost.
    reduce = max(1, int(scale))
    image = Image.fromarray(np.ascontiguousarray(picture))
    if reduce > 1:
        image = image.reduce(reduce)
        affine = tuple(v / reduce for v in affine)
    pixels = image.transform((side, side), Image.Transform.AFFINE, affine, Image.Resampling.BILINEAR)
    return np.asarray(pixels, np.float32)[None] / 255


def _run(network: Interpreter, given: np.ndarray) -> list[np.ndarray]:
    network.set_tensor(network.get_input_details()[0]["index"], given.astype(np.float32))
    network.invoke()
    return [network.get_tensor(row["index"]) for row in network.get_output_details()]
