"""What is locked: every package of the lock files, with its version."""

from __future__ import annotations

import json
import re
from pathlib import Path

from audit.advisories import NPM, PYPI, Package, plain_name

LOCKED = re.compile(r"^([A-Za-z0-9][\w.\-]*)==(\S+)", re.MULTILINE)


def locked_packages(root: Path) -> list[Package]:
    """Return the packages of Python and the front end, each once."""
    found = set()
    for file in sorted(root.glob("requirements*.txt")):
        for name, version in LOCKED.findall(file.read_text()):
            found.add(Package(PYPI, plain_name(PYPI, name), version))
    lock = json.loads((root / "web" / "package-lock.json").read_text())
    for place, result in lock["packages"].items():
        if place and "version" in result:
            found.add(Package(NPM, result.get("name") or place.rpartition("node_modules/")[2], result["version"]))
    return sorted(found)
