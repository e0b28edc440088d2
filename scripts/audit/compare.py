"""The comparison itself, and its output."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from pathlib import Path

from audit.advisories import findings, read_advisories
from audit.locked import locked_packages

NOTHING_TO_COMPARE = 3
OLD = timedelta(days=90)


def audit(root: Path, place: Path) -> int:
    """Compare the lock files below a folder with advisories."""
    packages = locked_packages(root)
    advisories = list(read_advisories(place)) if place.exists() else []
    if not advisories:
        print(f"{len(packages)} packages are locked; no advisories in {place}: skipped, nothing was compared.")
        return NOTHING_TO_COMPARE
    newest = max((str(a.get("modified", "")) for a in advisories), default="")
    found = findings(packages, iter(advisories))
    for finding in found:
        print(finding.line())
    print(f"{len(packages)} packages, {len(advisories)} advisories (newest {newest[:10]}): {len(found)} found.")
    if newest[:10] < (datetime.now(UTC) - OLD).date().isoformat():
        print("The advisories are more than three months old. Get newer ones.")
    return 1 if found else 0
