"""What every test may use."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parent


@pytest.fixture(scope="session")
def root() -> Path:
    return ROOT


@pytest.fixture(scope="session")
def cli():
    """cli("simulate", "--shots", "5") runs a core verb as a program and gives its output."""

    def run(*arguments: str, stdin: str = "") -> str:
        command = [sys.executable, "-m", "instavis_cli", *arguments]
        return subprocess.run(command, input=stdin, capture_output=True, text=True, check=True).stdout

    return run
