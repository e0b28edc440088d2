"""Advisories in the OSV format (schema 1.x), and the locked versions they affect."""

from __future__ import annotations

import json
import re
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from packaging.version import InvalidVersion, Version

PYPI, NPM = "PyPI", "npm"
Ordered = Callable[[str], Any]


@dataclass(frozen=True, order=True)
class Package:
    """One locked package."""

    ecosystem: str
    name: str
    version: str


@dataclass(frozen=True)
class Finding:
    """A locked package that an advisory affects; ``fixed`` names the versions without the weakness."""

    package: Package
    advisory: str
    says: str
    fixed: tuple[str, ...]

    def line(self) -> str:
        """Return the finding as it is printed."""
        mended = f"; mended in {', '.join(self.fixed)}" if self.fixed else "; not mended yet"
        return f"{self.package.name} {self.package.version}: {self.advisory} {self.says}{mended}"


def read_advisories(place: Path) -> Iterator[dict[str, Any]]:
    """Return every advisory of a ZIP, or of the JSON files and ZIPs of a folder; withdrawn ones are left out."""
    if place.is_dir():
        for file in sorted([*place.glob("*.json"), *place.glob("*.zip")]):
            yield from read_advisories(file)
        return
    if place.suffix == ".zip":
        with zipfile.ZipFile(place) as archive:
            documents = [json.loads(archive.read(name)) for name in archive.namelist() if name.endswith(".json")]
    else:
        result = json.loads(place.read_text(encoding="utf-8"))
        documents = result if isinstance(result, list) else [result]
    yield from (document for document in documents if not document.get("withdrawn"))


def findings(packages: list[Package], advisories: Iterator[dict[str, Any]]) -> list[Finding]:
    """Return what is known about the packages, in their order."""
    by_name: dict[tuple[str, str], list[Package]] = {}
    for package in packages:
        by_name.setdefault((package.ecosystem, package.name), []).append(package)
    found = []
    for advisory in advisories:
        for affected in advisory.get("affected", ()):
            result = affected.get("package", {})
            ecosystem = result.get("ecosystem", "")
            for package in by_name.get((ecosystem, plain_name(ecosystem, result.get("name", ""))), ()):
                if _is_about(affected, package):
                    says = (advisory.get("summary") or advisory.get("details", ""))[:120].split("\n")[0]
                    found.append(Finding(package, advisory["id"], says, _fixed(affected)))
    return sorted(set(found), key=lambda finding: (finding.package, finding.advisory))


def plain_name(ecosystem: str, name: str) -> str:
    """Return a name as the index compares it."""
    return re.sub(r"[-_.]+", "-", name).lower() if ecosystem == PYPI else name


def _is_about(affected: dict[str, Any], package: Package) -> bool:
    if package.version in affected.get("versions", ()):
        return True
    order = _python_order if package.ecosystem == PYPI else semantic_order
    ranges = (r for r in affected.get("ranges", ()) if r.get("type") in ("ECOSYSTEM", "SEMVER"))
    return any(_inside(package.version, result.get("events", ()), order) for result in ranges)


def _inside(version: str, events: Any, order: Ordered) -> bool:
    """Return whether a version lies between the one with the weakness and the one that fixed it."""
    ours, inside = order(version), False
    marks = [(order(text) if text != "0" else None, kind) for event in events for kind, text in event.items()]
    for at, kind in sorted(marks, key=lambda mark: (mark[0] is not None, mark[0] or ())):
        if kind == "introduced" and (at is None or ours >= at):
            inside = True
        elif (kind == "fixed" and ours >= at) or (kind == "last_affected" and ours > at):
            inside = False
    return inside


def _fixed(affected: dict[str, Any]) -> tuple[str, ...]:
    events = (event for result in affected.get("ranges", ()) for event in result.get("events", ()))
    return tuple(event["fixed"] for event in events if "fixed" in event)


def _python_order(text: str) -> tuple[Version]:
    try:
        return (Version(text),)
    except InvalidVersion:
        return (Version("0"),)


def semantic_order(text: str) -> tuple[Any, ...]:
    """Return the sort key of a version by semantic versioning 2.0: a pre-release before its release, numbers before
    words.
    """
    core, _, before = text.partition("+")[0].partition("-")
    numbers = tuple(int(part) if part.isdigit() else 0 for part in (core.split(".") + ["0", "0"])[:3])
    parts = tuple((not part.isdigit(), int(part) if part.isdigit() else 0, part) for part in before.split("."))
    return (*numbers, (True,) if not before else (False, *parts))
