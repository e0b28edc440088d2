"""Frames of a posed person on a plain ground in front of a plain wall, drawn off screen."""

from __future__ import annotations

from dataclasses import dataclass

import moderngl
import numpy as np

VERTEX = """#version 330
uniform mat4 seen; in vec3 place; in vec3 normal; in vec3 colour; out vec3 n; out vec3 c;
void main() { gl_Position = seen * vec4(place, 1.0); n = normal; c = colour; }"""
FRAGMENT = """#version 330
uniform vec3 sun; uniform float dim; in vec3 n; in vec3 c; out vec4 drawn;
void main() { float lit = 0.55 + 0.45 * max(dot(normalize(n), sun), 0.0); drawn = vec4(c * lit * dim, 1.0); }"""


@dataclass(frozen=True)
class Camera:
    """Position and target of the camera [m], its vertical angle of view [°], and its picture [px]."""

    place: np.ndarray
    target: np.ndarray
    view_deg: float
    width: int
    height: int
    roll_deg: float = 0.0

    def matrix(self) -> np.ndarray:
        """World to clip space (4, 4)."""
        ahead = _unit(self.target - self.place)
        right = _unit(np.cross(ahead, [0, 0, 1.0]))
        up = np.cross(right, ahead)
        roll = np.radians(self.roll_deg)
        right, up = np.cos(roll) * right + np.sin(roll) * up, np.cos(roll) * up - np.sin(roll) * right
        view = np.eye(4)
        view[:3, :3] = [right, up, -ahead]
        view[:3, 3] = -view[:3, :3] @ self.place
        near, far, f = 0.1, 60.0, 1 / np.tan(np.radians(self.view_deg) / 2)
        lens = np.zeros((4, 4))
        lens[0, 0], lens[1, 1] = f * self.height / self.width, f
        lens[2, 2:], lens[3, 2] = [(far + near) / (near - far), 2 * far * near / (near - far)], -1
        return lens @ view

    def shares(self, point: np.ndarray) -> np.ndarray:
        """Return the position of a point (3,) in the picture: right and down, in shares."""
        x, y, _, w = self.matrix() @ np.append(point, 1.0)
        return np.array([(1 + x / w) / 2, (1 - y / w) / 2])


class Studio:
    """One off-screen picture that is drawn repeatedly."""

    def __init__(self, width: int, height: int) -> None:
        self.context = moderngl.create_standalone_context(backend="egl")
        self.program = self.context.program(vertex_shader=VERTEX, fragment_shader=FRAGMENT)
        self.soft = self.context.framebuffer(
            [self.context.renderbuffer((width, height), samples=4)],
            self.context.depth_renderbuffer((width, height), samples=4),
        )
        self.plain = self.context.framebuffer([self.context.renderbuffer((width, height))])
        self.context.enable(moderngl.DEPTH_TEST)

    def draw(self, camera: Camera, parts: list[tuple], sky: tuple, sun: np.ndarray, dim: float) -> np.ndarray:
        """Draw a frame (height, width, 3) of parts: vertices (v, 3), faces (f, 3), colors (v, 3) or (3,)."""
        self.soft.use()
        self.soft.clear(*(dim * np.array(sky)))
        self.program["seen"].write(camera.matrix().T.astype("f4").tobytes())
        self.program["sun"].value, self.program["dim"].value = tuple(_unit(sun)), dim
        for vertices, faces, colours in parts:
            table = np.concatenate(
                [vertices, _normals(vertices, faces), np.broadcast_to(colours, vertices.shape)], axis=1
            )
            points = self.context.buffer(table.astype("f4").tobytes())
            index = self.context.buffer(faces.astype("i4").tobytes())
            drawn = self.context.vertex_array(self.program, [(points, "3f 3f 3f", "place", "normal", "colour")], index)
            drawn.render()
            for one in (drawn, points, index):
                one.release()
        self.context.copy_framebuffer(self.plain, self.soft)
        frame = np.frombuffer(self.plain.read(components=3), np.uint8)
        return frame.reshape(camera.height, camera.width, 3)[::-1]


def _normals(vertices: np.ndarray, faces: np.ndarray) -> np.ndarray:
    a, b, c = (vertices[faces[:, i]] for i in range(3))
    flat = np.cross(b - a, c - a)
    normals = np.zeros_like(vertices)
    for i in range(3):
        np.add.at(normals, faces[:, i], flat)
    return normals / np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-9)


def rod(start: np.ndarray, end: np.ndarray, radius: float, sides: int = 8) -> tuple[np.ndarray, np.ndarray]:
    """Return a thin rod: vertices and faces."""
    along = _unit(end - start)
    one = _unit(np.cross(along, [0.3, 0.5, 0.8]))
    other = np.cross(along, one)
    angles = np.arange(sides) * 2 * np.pi / sides
    ring = radius * (np.cos(angles)[:, None] * one + np.sin(angles)[:, None] * other)
    i = np.arange(sides)
    j = (i + 1) % sides
    faces = np.concatenate([np.stack([i, j, i + sides], 1), np.stack([j, j + sides, i + sides], 1)])
    return np.concatenate([start + ring, end + ring]), faces


def ground(size: float = 12.0) -> tuple[np.ndarray, np.ndarray]:
    """Return the floor: vertices and faces, facing up."""
    corners = size * np.array([[-1.0, -1, 0], [1, -1, 0], [1, 1, 0], [-1, 1, 0]])
    return corners, np.array([[0, 1, 2], [0, 2, 3]])


def _unit(vector: np.ndarray) -> np.ndarray:
    vector = np.asarray(vector, float)
    return vector / np.linalg.norm(vector)
