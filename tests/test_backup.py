"""Backups: made while the academy is served, read back, restored elsewhere the same, refused when not whole."""

from __future__ import annotations

import hashlib
import json
import os
import subprocess
import zipfile
from contextlib import closing
from pathlib import Path

import pytest

from launcher import backup as module
from launcher import mariadb
from launcher.backup import BackupError, _restore, _tables, _write

TABLES_FROM_TIME_TO_TIME = ("django_session", "axes_accessattempt", "axes_accesslog")


@pytest.fixture(scope="module")
def access(product):
    return module.Access(product.database.port, product.database.password)


@pytest.fixture(scope="module")
def made(product, access, tmp_path_factory):
    """A backup of the demo academy, made while its server runs."""
    place = tmp_path_factory.mktemp("backup")
    (product.folder / "secret").write_text("a-key-for-tests-only")
    (place / "work").mkdir()
    told = _write(access, product.folder, place / "academy.zip", place / "work")
    assert "read back and the same" in told
    return place / "academy.zip"


def changed(made: Path, to: Path, **parts: bytes | None) -> Path:
    """The backup with parts replaced, or left out for None."""
    with zipfile.ZipFile(made) as old, zipfile.ZipFile(to, "w") as new:
        for name in old.namelist():
            data = parts.get(name.partition(".")[0], old.read(name))
            if data is not None:
                new.writestr(name, data)
    return to


def test_a_backup_holds_everything_and_nobody_else_can_read_it(made, access):
    with zipfile.ZipFile(made) as archive:
        manifest = json.loads(archive.read("manifest.json"))
    live = _tables(access, "instavis")
    assert manifest["tables"].keys() == live.keys()
    assert manifest["tables"]["shots_shot"]["rows"] > 100
    for name, table in live.items():
        if name not in TABLES_FROM_TIME_TO_TIME:
            assert manifest["tables"][name] == table
    assert made.stat().st_mode & 0o077 == 0


def test_restored_elsewhere_it_is_the_same_and_serves(made, tmp_path):
    folder = tmp_path / "elsewhere"
    told = _restore(folder, made, False)
    assert "Restored" in told
    assert (folder / "secret").read_text() == "a-key-for-tests-only"
    with pytest.raises(BackupError, match="--replace"):
        _restore(folder, made, False)
    told = _restore(folder, made, True)
    (kept,) = folder.glob("before-restore-*.zip")
    assert str(kept) in told
    with zipfile.ZipFile(made) as one, zipfile.ZipFile(kept) as two:
        first, second = (json.loads(a.read("manifest.json"))["tables"] for a in (one, two))
    assert first == second


def _json(document: dict) -> bytes:
    return json.dumps(document).encode()


@pytest.mark.parametrize(
    ("kind", "told"),
    [
        ("cut", "not a whole backup"),
        ("no-zip", "not a whole backup"),
        ("other-zip", "not a backup of Instavis"),
        ("damaged", "changed or damaged"),
        ("newer-format", "instavis.backup/2"),
        ("lying-manifest", "does not read back"),
        ("newer", "newer Instavis \\(people.0999"),
    ],
)
def test_what_is_not_whole_changes_nothing(made, tmp_path, kind, told):
    file, folder = tmp_path / "bad.zip", tmp_path / "academy"
    with zipfile.ZipFile(made) as archive:
        manifest, dump = json.loads(archive.read("manifest.json")), archive.read("dump.sql")
    if kind == "cut":
        file.write_bytes(made.read_bytes()[:-2000])
    elif kind == "no-zip":
        file.write_text("not a backup")
    elif kind == "other-zip":
        changed(made, file, secret=None)
    elif kind == "damaged":
        changed(made, file, dump=dump.replace(b"Imke", b"Imka"))
    elif kind == "newer-format":
        changed(made, file, manifest=_json({**manifest, "format": "instavis.backup/2"}))
    elif kind == "lying-manifest":
        manifest["tables"]["shots_shot"]["rows"] += 1
        changed(made, file, manifest=_json(manifest))
    else:
        newer = dump.replace(b"'people','0001_initial'", b"'people','0999_next_year'")
        manifest["sha256"] = hashlib.sha256(newer).hexdigest()
        changed(made, file, dump=newer, manifest=_json(manifest))
    with pytest.raises(BackupError, match=told):
        _restore(folder, file, False)
    database = mariadb.start(folder / "database", quick=True)
    try:
        assert _tables(module.Access(database.port, database.password), "instavis") == {}
        assert not (folder / "secret").exists()
    finally:
        database.stop()


def test_the_command_says_what_is_wrong_without_a_traceback(root, tmp_path):
    empty = {**os.environ, "INSTAVIS_DATA": str(tmp_path / "nothing")}
    for verb in ("backup", "restore"):
        done = subprocess.run(
            [root / "instavis", verb, str(tmp_path / "x.zip")], env=empty, capture_output=True, text=True, check=False
        )
        assert done.returncode == 1
        assert done.stderr.startswith("instavis: ")
        assert "Traceback" not in done.stderr


def test_balls_that_come_in_meanwhile_do_not_hurt_it(product, access, tmp_path):
    """A transaction's snapshot: the dump is of one moment, whatever is written while it is made."""
    with closing(product.signed_in()) as client:
        student = client.post("/api/v1/students", json={"name": "Backed Upperton"}).json()
        lesson = client.post("/api/v1/lessons", json={"student_id": student["id"]}).json()
        bay = next(b for b in client.get("/api/v1/bays").json() if b["name"] == "South mat")
        client.put(f"/api/v1/lessons/{lesson['id']}/bay", json={"bay_id": bay["id"]})
    monitor = product.monitor("South mat", "--count", "60", "--pace", "0", "--seed", "3", wait=False)
    (tmp_path / "work").mkdir()
    (product.folder / "secret").write_text("a-key-for-tests-only")
    assert "the same" in _write(access, product.folder, tmp_path / "busy.zip", tmp_path / "work")
    assert monitor.wait(120) == 0
