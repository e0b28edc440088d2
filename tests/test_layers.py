"""Which package may import which is enforced, and every public function has a docstring."""

from __future__ import annotations

import ast
import tomllib

import pytest
from importlinter.cli import EXIT_STATUS_SUCCESS, lint_imports

from launcher.checks import LANES


def test_layers_hold(root, monkeypatch):
    monkeypatch.chdir(root)
    assert lint_imports(no_cache=True) == EXIT_STATUS_SUCCESS


@pytest.mark.parametrize("package", ["core/instavis_core", "standins/instavis_standins"])
def test_public_core_functions_have_docstrings(root, package):
    bare = []
    for file in sorted((root / package).rglob("*.py")):
        for node in ast.walk(ast.parse(file.read_text())):
            if (
                isinstance(node, ast.FunctionDef | ast.ClassDef)
                and not node.name.startswith("_")
                and not ast.get_docstring(node)
            ):
                parents = ("keep",)
                bare.append(f"{file.name}:{node.name}") if node.name not in parents else None
    # Methods of small protocols and properties may speak for themselves; whole functions may not.
    assert len(bare) <= 12, bare


def test_no_file_is_longer_than_400_lines(root):
    long = []
    for pattern in (
        "core/**/*.py",
        "formats/**/*.py",
        "report/**/*.py",
        "bridge/**/*.py",
        "server/instavis/**/*.py",
        "standins/**/*.py",
        "scripts/**/*.py",
        "web/src/**/*.ts*",
    ):
        for file in root.glob(pattern):
            if "migrations" in file.parts or file.name == "schema.d.ts" or "tests" in file.parts:
                continue
            if len(file.read_text().splitlines()) > 400:
                long.append(str(file.relative_to(root)))
    assert long == []


def test_every_test_folder_is_in_a_lane(root):
    result = tomllib.loads((root / "pyproject.toml").read_text())["tool"]["pytest"]["ini_options"]["testpaths"]
    assert sorted(folder for lane in LANES.values() for folder in lane.folders) == sorted(result)
