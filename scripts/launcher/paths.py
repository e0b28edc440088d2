"""Paths, as set by the shell part of the launcher."""

from __future__ import annotations

import os
from pathlib import Path

ROOT = Path(os.environ["INSTAVIS_ROOT"])
STATE = Path(os.environ["INSTAVIS_STATE"])
SERVER = ROOT / "server"
WEB = ROOT / "web"
