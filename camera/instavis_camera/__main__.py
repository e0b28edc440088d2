"""`./instavis camera FILE…`: landmarks and body of clips, one JSON per line; no server, no database."""

from __future__ import annotations

import argparse
import json
import os
import sys
from pathlib import Path
from typing import Any

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

from instavis_camera.clip import MODEL, landmarks_of
from instavis_camera.model import SHIPPED, ModelError, Networks, load
from instavis_core.camera import VIEWS, body_of
from instavis_core.errors import InputError
from instavis_io.poses import body_record, pose_record
from instavis_report.catalog import english

BAD_INPUT, NO_MODEL = 2, 3


def main(arguments: list[str] | None = None) -> int:
    """Answer every file with one line; return 2 if one could not be read."""
    options = _parser().parse_args(arguments)
    try:
        networks = load(SHIPPED)
    except ModelError as error:
        print(f"instavis: {error}", file=sys.stderr)
        return NO_MODEL
    status = 0
    for path in options.files:
        try:
            answer = _answer(path, networks, options)
        except InputError as error:
            status = BAD_INPUT
            answer = {"file": path.name, "error": {"field": error.field, "message": english(error.message)}}
        print(json.dumps(answer, ensure_ascii=False, allow_nan=False), flush=True)
    return status


def _answer(path: Path, networks: Networks, options: argparse.Namespace) -> dict[str, Any]:
    series = landmarks_of(path, options.view, options.hand, networks)
    body = body_of(series, options.height_cm)
    return {"file": path.name, **pose_record(series, MODEL), "body": body_record(body)}


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./instavis camera", description=__doc__)
    parser.add_argument("files", nargs="+", type=Path, metavar="FILE", help="MP4, MOV or WebM of one swing")
    parser.add_argument("--view", choices=VIEWS, help="camera view; otherwise found from the picture")
    parser.add_argument("--hand", choices=("right", "left"), default="right", help="the golfer's hand")
    parser.add_argument("--height-cm", type=float, help="the golfer's height; otherwise a usual adult's")
    return parser


if __name__ == "__main__":
    raise SystemExit(main())
