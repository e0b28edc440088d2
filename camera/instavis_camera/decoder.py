"""Decode a clip in a separate process, so that a bad file can harm only that process.

The child has limits of memory and processor time, can open no other file, and writes pictures to a pipe. Its standard
input is the file.
"""

from __future__ import annotations

import json
import os
import resource
import select
import struct
import subprocess
import sys
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any

import av
import numpy as np

from instavis_camera.video import ClipRefused, Frame, open_clip

MAX_MEMORY = 2 * 1024**3  # bytes of address space
MAX_SECONDS = 60  # s of processor time for one film, and of waiting for its pictures
_HEAD = struct.Struct(">dII")  # time [s], height, width; without a height the next line ends the film


@dataclass
class Decoded:
    """A clip whose pictures come from the child process: see `instavis_camera.video.Clip`."""

    width: int
    height: int
    frames_per_second: float
    sound: np.ndarray
    sound_from: float
    _pipe: _Pipe

    def frames(self) -> Iterator[Frame]:
        """Yield the pictures in order; this works only once.

        Raises
        ------
        ClipRefused
            When the clip turns out to be too long or too costly.
        """
        try:
            while True:
                at, height, width = _HEAD.unpack(self._pipe.read(_HEAD.size))
                if not height:
                    _raise(json.loads(self._pipe.line()))
                    return
                picture = np.frombuffer(self._pipe.read(height * width * 3), np.uint8)
                yield Frame(at, picture.reshape(height, width, 3))
        finally:
            self._pipe.close()


def decode(path: Path) -> Decoded:
    """Open a clip in a separate process.

    Parameters
    ----------
    path : Path
        A video file, also one without a name such as ``/proc/self/fd/7``.

    Raises
    ------
    ClipRefused
        When it is not a video, is too long or too large, or costs too much to decode.
    """
    pipe = _Pipe(path)
    try:
        result = json.loads(pipe.line())
        _raise(result)
        sound = np.frombuffer(pipe.read(4 * result.pop("samples")), np.float32)
        return Decoded(**result, sound=sound, _pipe=pipe)
    except BaseException:
        pipe.close()
        raise


def _raise(record: dict[str, Any]) -> None:
    if "refused" in record:
        code, found = record["refused"]
        raise ClipRefused(code, found)


class _Pipe:
    """Read the child's output; a timeout or a lost child means that the film is too expensive to decode."""

    def __init__(self, path: Path) -> None:
        command = [sys.executable, "-m", "instavis_camera.decoder"]
        quiet = {**os.environ, "OPENBLAS_NUM_THREADS": "1", "PYTHONPATH": os.pathsep.join(filter(None, sys.path))}
        try:
            with path.open("rb") as film:
                self._child = subprocess.Popen(
                    command, stdin=film, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, env=quiet, bufsize=0
                )
        except OSError as error:
            raise ClipRefused("unreadable") from error
        assert self._child.stdout is not None
        self._out: IO[bytes] = self._child.stdout
        self._left = float(MAX_SECONDS)

    def read(self, count: int) -> bytes:
        data = bytearray()
        while len(data) < count:
            begun = time.monotonic()
            ready, _, _ = select.select([self._out], [], [], self._left)
            self._left -= time.monotonic() - begun
            part = self._out.read(min(count - len(data), 1 << 20)) if ready else b""
            if not part:
                raise ClipRefused("too-costly")
            data += part
        return bytes(data)

    def line(self) -> bytes:
        return self.read(int.from_bytes(self.read(4), "big"))

    def close(self) -> None:
        self._child.kill()
        self._out.close()
        self._child.wait()


def main() -> None:
    """Decode standard input within limits and write what `Decoded` reads."""
    resource.setrlimit(resource.RLIMIT_AS, (MAX_MEMORY, MAX_MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (MAX_SECONDS, MAX_SECONDS))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    out = sys.stdout.buffer
    try:
        clip = open_clip(Path("/proc/self/fd/0"))
        sound = np.ascontiguousarray(clip.sound, np.float32)
        result = {"width": clip.width, "height": clip.height, "frames_per_second": clip.frames_per_second}
        _write_line(out, {**result, "sound_from": clip.sound_from, "samples": sound.size})
        out.write(sound.tobytes())
    except ClipRefused as error:
        _write_line(out, {"refused": [error.code, error.found]})
        return
    ended: dict[str, object] = {}
    try:
        for frame in clip.frames():
            height, width, _ = frame.picture.shape
            out.write(_HEAD.pack(frame.time, height, width))
            out.write(np.ascontiguousarray(frame.picture).tobytes())
    except ClipRefused as error:
        ended = {"refused": [error.code, error.found]}
    except MemoryError:
        ended = {"refused": ["too-costly", None]}
    except av.FFmpegError:  # broken off; what arrived before is used
        pass
    out.write(_HEAD.pack(0.0, 0, 0))
    _write_line(out, ended)


def _write_line(out: IO[bytes], record: dict[str, object]) -> None:
    data = json.dumps(record).encode()
    out.write(len(data).to_bytes(4, "big") + data)
    out.flush()


if __name__ == "__main__":
    main()
