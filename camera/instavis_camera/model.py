"""The two networks that find a person and their landmarks, shipped in an npm package.

`@mediapipe/pose` 0.5 (Apache-2.0): BlazePose (Bazarevsky et al., 2020, arXiv:2006.10204), a detector and a landmark
network. Only its model files are used, read from the installed package and checked by their hash; nothing is fetched.
"""

from __future__ import annotations

from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path

from ai_edge_litert.interpreter import Interpreter

NAME, VERSION = "blazepose-full", "0.5.1675469404"
SHIPPED = Path(__file__).parents[1] / "node_modules" / "@mediapipe" / "pose"
"""Folder of the installed package."""
DETECTOR_FILE = "pose_solution_packed_assets.data"
DETECTOR_SHA = "a63c614bef30d35947f13be361820b1e4e3bec9cfeebf4d11216a18373108e85"
LANDMARK_FILE, LANDMARK_SHA = (
    "pose_landmark_full.tflite",
    "e9a5c5cb17f736fafd4c2ec1da3b3d331d6edbe8a0d32395855aeb2cdfd64b9f",
)


class ModelError(RuntimeError):
    """The model files differ from the validated ones."""


@dataclass(frozen=True)
class Networks:
    """``detector`` on 224 × 224 pixels, ``landmarks`` on 256 × 256."""

    detector: Interpreter
    landmarks: Interpreter


def load(folder: Path) -> Networks:
    """Load both networks from the installed package.

    Raises
    ------
    ModelError
        When a file is missing or another one than was measured.
    """
    files = ((DETECTOR_FILE, DETECTOR_SHA), (LANDMARK_FILE, LANDMARK_SHA))
    return Networks(*(_ready(_checked(folder / name, expected)) for name, expected in files))


def _checked(path: Path, expected: str) -> bytes:
    try:
        data = path.read_bytes()
    except OSError as error:
        raise ModelError(f"{path.name} cannot be read: {error}") from error
    if (found := sha256(data).hexdigest()) != expected:
        raise ModelError(f"{path.name} is another file than was measured: {found}")
    return data


def _ready(data: bytes) -> Interpreter:
    network = Interpreter(model_content=data, num_threads=1)
    network.allocate_tensors()
    return network
