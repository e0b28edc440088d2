"""Known weaknesses are found in locked versions; a failed comparison never passes as "none found"."""

from __future__ import annotations

import json
import zipfile

import pytest
from audit.advisories import NPM, PYPI, Package, findings, semantic_order
from audit.compare import NOTHING_TO_COMPARE, audit
from audit.locked import locked_packages


def advisory(ecosystem: str, name: str, *events: dict, versions=(), **more) -> dict:
    affected = {
        "package": {"ecosystem": ecosystem, "name": name},
        "ranges": [{"type": "ECOSYSTEM", "events": list(events)}],
        "versions": list(versions),
    }
    return {"id": "MADE-UP-1", "summary": "Lets anybody in", "modified": "2026-11-01", "affected": [affected], **more}


SINCE, MENDED = {"introduced": "1.2"}, {"fixed": "1.4.1"}


@pytest.mark.parametrize(
    ("version", "about"),
    [
        ("1.1", False),
        ("1.2", True),
        ("1.4.1rc1", True),
        ("1.4.1", False),
        ("2.0", False),
        ("2.1", True),
        ("2.1.5", False),
    ],
)
def test_version_ranges_are_applied(version, about):
    result = advisory(PYPI, "Left.Pad_er", SINCE, MENDED, {"introduced": "2.1"}, {"last_affected": "2.1.4"})
    found = findings([Package(PYPI, "left-pad-er", version)], iter([result]))
    assert bool(found) == about
    assert all(f.fixed == ("1.4.1",) for f in found)


def test_semantic_versions_are_ordered():
    """The example of the standard's clause 11."""
    rising = "1.0.0-alpha 1.0.0-alpha.1 1.0.0-alpha.beta 1.0.0-beta 1.0.0-beta.2 1.0.0-beta.11 1.0.0-rc.1 1.0.0 1.0.1"
    right = [*rising.split(), "2.10.0"]
    backwards = right[::-1]
    assert sorted(backwards, key=semantic_order) == right


def test_other_ecosystems_and_withdrawn_advisories_are_handled():
    ours = [Package(NPM, "@a/b", "3.0.0"), Package(PYPI, "b", "3.0.0")]
    exact = advisory(NPM, "@a/b", versions=["3.0.0"])
    assert [f.package for f in findings(ours, iter([exact]))] == [ours[0]]
    assert findings(ours, iter([advisory("crates.io", "b", {"introduced": "0"})])) == []


def test_every_locked_package_is_checked(root):
    packages = locked_packages(root)
    names = {package.name for package in packages}
    assert {"django", "django-allauth", "react", "@tanstack/react-query", "uv"} <= names
    assert all(package.version[0].isdigit() for package in packages)


def test_audit_command_reports_findings_or_nothing_compared(root, tmp_path, capsys):
    django = next(p for p in locked_packages(root) if p.name == "django")
    assert audit(root, tmp_path / "none") == NOTHING_TO_COMPARE
    assert "skipped, nothing was compared" in capsys.readouterr().out
    (tmp_path / "a.json").write_text(json.dumps(advisory(PYPI, "Django", {"introduced": "0"}, {"fixed": "2.0"})))
    assert audit(root, tmp_path) == 0
    with zipfile.ZipFile(tmp_path / "more.zip", "w") as archive:
        archive.writestr("b.json", json.dumps(advisory(PYPI, "Django", {"introduced": "0"}, modified="2025-01-01")))
        archive.writestr("c.json", json.dumps(advisory(PYPI, "Django", {"introduced": "0"}, withdrawn="2026-01-01")))
    capsys.readouterr()
    assert audit(root, tmp_path) == 1
    out = capsys.readouterr().out
    assert f"django {django.version}: MADE-UP-1 Lets anybody in; not mended yet" in out
    assert "2 advisories" in out
