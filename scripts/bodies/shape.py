"""The mesh of a made-up person: skin, bones and weights at rest, from an open, parametric body model."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np


@dataclass(frozen=True)
class Shape:
    """A person at rest, arms half out, facing −y, left to +x, z up [m].

    ``vertices`` (v, 3) and ``faces`` (f, 3) are the skin. ``bones`` and ``weights`` (v, k) are the bones that move a
    vertex, and how much. ``heads`` (b, 3) are the starts of the bones; ``names`` and ``parents`` (b,).
    """

    vertices: np.ndarray
    faces: np.ndarray
    bones: np.ndarray
    weights: np.ndarray
    heads: np.ndarray
    names: list[str]
    parents: np.ndarray

    def at(self, name: str) -> np.ndarray:
        """Where a bone begins."""
        return self.heads[self.names.index(name)]

    def middle(self, name: str) -> np.ndarray:
        """Return the center of what a bone moves more than any other does."""
        main = self.bones[np.arange(len(self.bones)), self.weights.argmax(axis=1)]
        moved = self.vertices[main == self.names.index(name)]
        return (moved.min(axis=0) + moved.max(axis=0)) / 2

    @property
    def height(self) -> float:
        """Return the height from the soles to the crown [m]."""
        return float(np.ptp(self.vertices[:, 2]))

    def skinned(self, moved: np.ndarray) -> np.ndarray:
        """Return vertices (v, 3) under transforms of the bones (b, 4, 4)."""
        known = np.concatenate([self.vertices, np.ones((len(self.vertices), 1))], axis=1)
        mixed = np.einsum("vk,vkij->vij", self.weights, moved[self.bones, :3])
        return np.einsum("vij,vj->vi", mixed, known)


def load(model: Any, phenotype: dict[str, float]) -> Shape:
    """Return one person of the body model from a few numbers from 0 to 1: gender, age, muscle, weight, height,
    proportions.
    """
    import torch

    with torch.no_grad():
        result = model(phenotype_kwargs={name: torch.tensor([value]) for name, value in phenotype.items()})
    return Shape(
        vertices=result["rest_vertices"][0].numpy().astype(float),
        faces=model.get_triangular_faces().numpy(),
        bones=model.vertex_bone_indices.numpy(),
        weights=model.vertex_bone_weights.numpy().astype(float),
        heads=result["rest_bone_heads"][0].numpy().astype(float),
        names=list(model.bone_labels),
        parents=np.array(model.bone_parents),
    )


def body_model() -> Any:
    """Return the model itself; slow the first time."""
    import anny

    return anny.Anny()
