"""Backups: made while the academy is running, restored identically elsewhere, refused when incomplete."""

from __future__ import annotations

import contextlib
import getpass
import hashlib
import json
import os
import shutil
import subprocess
import zipfile
from contextlib import closing
from pathlib import Path

import MySQLdb
import pytest
from django.core.files.base import ContentFile

from instavis.platform.addresses import DatabaseAddress
from launcher import mariadb, package
from launcher.academy import RESTORING, UPGRADING, database_of, mend
from launcher.application import NO_REDIS, make_ready
from launcher.backup import back_up, bring_back
from launcher.dumps import Access, BackupError
from launcher.files import keep
from launcher.loaded import loaded
from launcher.sealed import make_key
from launcher.shape import settings_for
from launcher.storage import names_in, storage_of

TABLES_FROM_TIME_TO_TIME = ("people_session",)


@pytest.fixture(scope="module")
def access(product):
    return Access(product.database.address)


@pytest.fixture(scope="module")
def made(product, access, tmp_path_factory):
    """A backup of the demo academy, made while its server runs."""
    place = tmp_path_factory.mktemp("backup")
    result = package.write(access, product.folder, place / "academy.zip")
    assert "read back and the same" in result
    return place / "academy.zip"


def changed(made: Path, to: Path, **parts: bytes | None) -> Path:
    """The backup with parts replaced, or left out for None."""
    with zipfile.ZipFile(made) as old, zipfile.ZipFile(to, "w") as new:
        for name in old.namelist():
            data = parts.get(name.partition(".")[0], old.read(name))
            if data is not None:
                new.writestr(name, data)
    return to


def test_backup_is_complete_and_private(made, access):
    with zipfile.ZipFile(made) as archive:
        manifest = json.loads(archive.read("manifest.json"))
    live = access.tables("instavis")
    assert manifest["tables"].keys() == live.keys()
    assert manifest["tables"]["shots_shot"]["rows"] > 100
    for name, table in live.items():
        if name not in TABLES_FROM_TIME_TO_TIME:
            assert manifest["tables"][name] == table
    assert made.stat().st_mode & 0o077 == 0


def test_backup_restored_elsewhere_is_served(made, tmp_path):
    folder = tmp_path / "elsewhere"
    result = bring_back(folder, made, False)
    assert "Restored" in result
    with zipfile.ZipFile(made) as archive:
        assert (folder / "secret").read_bytes() == archive.read("secret")
    with pytest.raises(BackupError, match="--replace"):
        bring_back(folder, made, False)
    result = bring_back(folder, made, True)
    (saved,) = folder.glob("before-restore-*.zip")
    assert str(saved) in result
    with zipfile.ZipFile(made) as one, zipfile.ZipFile(saved) as two:
        first, second = (json.loads(a.read("manifest.json"))["tables"] for a in (one, two))
    assert first == second


def test_encrypted_backup_needs_its_key(product, made, tmp_path, monkeypatch):
    ours, other, folder = tmp_path / "ours.key", tmp_path / "other.key", tmp_path / "academy"
    public = make_key(ours)
    make_key(other)
    assert ours.stat().st_mode & 0o077 == 0
    with pytest.raises(BackupError, match="there already"):
        make_key(ours)
    file = tmp_path / "sealed"
    monkeypatch.setattr("launcher.backup.reached", lambda _: contextlib.nullcontext(Access(product.database.address)))
    result = back_up(product.folder, file, [public])
    assert "read back and the same" in result
    assert "sealed for 1 key" in result
    assert file.stat().st_mode & 0o077 == 0
    sealed = file.read_bytes()
    assert (product.folder / "secret").read_bytes() not in sealed
    cut, torn = tmp_path / "cut", tmp_path / "torn"
    cut.write_bytes(sealed[:-2000])
    torn.write_bytes(sealed[:5000] + bytes([sealed[5000] ^ 1]) + sealed[5001:])
    no_key = tmp_path / "no.key"
    no_key.write_text("# nothing\n")
    for bad, key, why in (
        (file, None, "--key names"),
        (file, other, "cannot be opened"),
        (file, no_key, "holds no key"),
        (cut, ours, "cannot be opened"),
        (torn, ours, "cannot be opened"),
    ):
        with pytest.raises(BackupError, match=why):
            bring_back(folder, bad, False, key)
        assert [left.name for left in folder.iterdir()] == ["lock"]
    assert "Restored" in bring_back(folder, file, False, ours)
    assert (folder / "secret").read_bytes() == (product.folder / "secret").read_bytes()
    with pytest.raises(BackupError, match="expected a public key"):
        back_up(product.folder, tmp_path / "more", ["age1nobody"])


def test_backup_includes_files_and_detects_changes(product, access, tmp_path, monkeypatch):
    monkeypatch.setenv("INSTAVIS_FILES", str(tmp_path / "here"))
    storage = storage_of(product.folder)
    files = {"drafts/one.csv": b"carry\n150\n", "clips/2026/swing.bin": bytes(range(256)) * 999, "top": b""}
    for name, data in files.items():
        storage.save(name, ContentFile(data))
    made = tmp_path / "with-files.zip"
    assert "3 files" in package.write(access, product.folder, made)
    with zipfile.ZipFile(made) as archive:
        manifest = json.loads(archive.read("manifest.json"))
    assert manifest["files"].keys() == files.keys()

    folder = tmp_path / "elsewhere"
    monkeypatch.setenv("INSTAVIS_FILES", str(tmp_path / "there"))
    there = storage_of(folder)
    there.save("drafts/stale.csv", ContentFile(b"of another academy"))
    bring_back(folder, made, False)
    assert {name: there.open(name).read() for name in names_in(there)} == files

    torn = rewritten(made, tmp_path / "torn.zip", {"files/drafts/one.csv": b"carry\n250\n"})
    more = rewritten(made, tmp_path / "more.zip", {"files/../../climbed": b"x"})
    for bad, why in ((torn, "its files are not"), (more, "not a backup")):
        with pytest.raises(BackupError, match=why):
            bring_back(folder, bad, True)
    assert {name: there.open(name).read() for name in names_in(there)} == files
    assert not (tmp_path / "climbed").exists()


def rewritten(made: Path, to: Path, files: dict[str, bytes]) -> Path:
    """The backup with files in it changed or added."""
    with zipfile.ZipFile(made) as old, zipfile.ZipFile(to, "w") as new:
        for name in {*old.namelist(), *files}:
            new.writestr(name, files[name] if name in files else old.read(name))
    return to


def test_academy_moves_to_an_external_database_and_back(made, tmp_path, monkeypatch):
    """Another server, another name, another user: as when an academy grows beyond one machine."""
    server = mariadb.start(tmp_path / "server", quick=True)
    try:
        root = MySQLdb.connect(unix_socket=str(server.socket_folder / "m.sock"), user=getpass.getuser())
        with closing(root), root.cursor() as cursor:
            for statement in mariadb.grants("club_data", "club", "127.0.0.1", "a-password-of-its-own"):
                cursor.execute(statement)
        there = DatabaseAddress(
            host="127.0.0.1", port=server.port, user="club", password="a-password-of-its-own", name="club_data"
        )
        monkeypatch.setenv("INSTAVIS_DATABASE_URL", there.url)
        folder = tmp_path / "many"
        monkeypatch.setenv("INSTAVIS_SECRET_KEY", "one-secret-for-all-machines-of-this-academy")
        assert "recovery codes are worth nothing" in bring_back(folder, made, False)
        assert Access(there).tables("club_data") == tables_of(made)
        with loaded(settings_for(folder, there, NO_REDIS), tmp_path / "log") as loader:
            make_ready(folder, loader)
        assert not (folder / "database").exists()
        package.write(Access(there), folder, tmp_path / "again.zip")
    finally:
        server.stop()
    monkeypatch.delenv("INSTAVIS_DATABASE_URL")
    monkeypatch.delenv("INSTAVIS_SECRET_KEY")
    assert "worth nothing" not in bring_back(tmp_path / "one", tmp_path / "again.zip", False)
    assert tables_of(tmp_path / "again.zip") == tables_of(made)


@pytest.fixture(scope="module")
def elsewhere(made, tmp_path_factory):
    """Folder and database of another academy, into which the backup was brought."""
    folder = tmp_path_factory.mktemp("elsewhere")
    database = mariadb.start(folder / "database", quick=True)
    access = Access(database.address)
    package.put_in_place(access, folder, made)
    yield folder, access
    database.stop()


def tables_of(made: Path) -> dict:
    with zipfile.ZipFile(made) as archive:
        return json.loads(archive.read("manifest.json"))["tables"]


def forged(made: Path, to: Path, statement: bytes) -> Path:
    """A backup whose manifest vouches for a dump with one more statement."""
    with zipfile.ZipFile(made) as archive:
        manifest, dump = json.loads(archive.read("manifest.json")), archive.read("dump.sql")
    dump += b"\n" + statement + b"\n"
    manifest["sha256"] = hashlib.sha256(dump).hexdigest()
    return changed(made, to, dump=dump, manifest=_json(manifest))


@pytest.mark.parametrize(
    "statement",
    [
        b"\\! touch {file}",
        b"system touch {file}",
        b"SELECT 1 INTO OUTFILE '{file}';",
        b"SELECT 1;\n\\! touch {file}\nSELECT 2;",
        b"DROP TABLE instavis.people_student;",
        b"DELETE FROM instavis.people_student;",
        b"INSERT INTO people_academy SELECT id + 50, name FROM instavis.people_academy;",
        b"USE instavis;",
        b"SET GLOBAL max_connections = 11;",
        b"LOAD DATA LOCAL INFILE '/etc/passwd' INTO TABLE people_academy (name);",
        b"CREATE TRIGGER t BEFORE INSERT ON people_student FOR EACH ROW DELETE FROM people_coach;",
        b"CREATE VIEW v AS SELECT * FROM people_coach;",
    ],
)
def test_nothing_in_a_backup_is_executed(made, elsewhere, tmp_path, statement):
    folder, access = elsewhere
    before, file = access.tables("instavis"), tmp_path / "ran"
    bad = forged(made, tmp_path / "bad.zip", statement.replace(b"{file}", str(file).encode()))
    with pytest.raises(BackupError, match="may not be restored"):
        package.put_in_place(access, folder, bad)
    assert not file.exists()
    assert access.tables("instavis") == before


def test_foreign_keys_are_restored(made, elsewhere):
    folder, access = elsewhere
    package.put_in_place(access, folder, made)
    columns = "TABLE_NAME, COLUMN_NAME, REFERENCED_TABLE_SCHEMA, REFERENCED_TABLE_NAME"
    wanted = "TABLE_SCHEMA = 'instavis' AND REFERENCED_TABLE_NAME IS NOT NULL"
    found = set(access.ask("information_schema", f"SELECT {columns} FROM KEY_COLUMN_USAGE WHERE {wanted}"))
    assert {row[2] for row in found} == {"instavis"}
    assert ("shots_shot", "lesson_id", "instavis", "lessons_lesson") in found


@pytest.mark.parametrize("moved", [False, True])
def test_interrupted_restore_is_finished_at_the_next_start(made, elsewhere, moved):
    folder, access = elsewhere
    shutil.copyfile(made, folder / RESTORING)
    if moved:
        package.put_in_place(access, folder, made)
    else:
        access.make("instavis")
    mend(folder, access)
    assert access.tables("instavis") == tables_of(made)
    assert not (folder / RESTORING).exists()


def test_interrupted_upgrade_starts_again(made, elsewhere):
    folder, access = elsewhere
    package.put_in_place(access, folder, made)
    keep(folder / UPGRADING, package.write_before(access, folder, "upgrade").name)
    access.ask("instavis", "ALTER TABLE people_student DROP COLUMN name")
    mend(folder, access)
    assert access.tables("instavis") == tables_of(made)
    keep(folder / UPGRADING, "")  # a first start has nothing before it
    mend(folder, access)
    assert access.tables("instavis") == {}
    assert not (folder / UPGRADING).exists()


def test_two_servers_do_not_share_temporary_tables(tmp_path):
    first = mariadb.start(tmp_path / "one", quick=True)
    access = Access(first.address)
    place = access.ask("instavis", "SELECT @@tmpdir")[0][0]
    second = mariadb.start(tmp_path / "two", quick=True)
    try:
        other = Access(second.address).ask("instavis", "SELECT @@tmpdir")[0][0]
        assert Path(place) != Path(other)
        assert Path(place).parent == tmp_path / "one"
        assert Path(place).stat().st_mode & 0o077 == 0
    finally:
        first.stop()
        second.stop()


def test_database_is_created_in_its_own_temporary_folder(tmp_path, monkeypatch):
    monkeypatch.setenv("TMPDIR", str(tmp_path / "somebody else's"))
    mariadb.start(tmp_path / "one", quick=True).stop()


def _json(document: dict) -> bytes:
    return json.dumps(document).encode()


@pytest.mark.parametrize(
    ("kind", "message"),
    [
        ("cut", "not a whole backup"),
        ("no-zip", "not a whole backup"),
        ("other-zip", "not a backup of Instavis"),
        ("damaged", "changed or damaged"),
        ("newer-format", "instavis.backup/3"),
        ("lying-manifest", "does not read back"),
        ("newer", "newer Instavis \\(people.0999"),
    ],
)
def test_incomplete_backup_changes_nothing(made, tmp_path, kind, message):
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
        changed(made, file, manifest=_json({**manifest, "format": "instavis.backup/3"}))
    elif kind == "lying-manifest":
        manifest["tables"]["shots_shot"]["rows"] += 1
        changed(made, file, manifest=_json(manifest))
    else:
        newer = dump.replace(b"'people','0001_initial'", b"'people','0999_next_year'")
        manifest["sha256"] = hashlib.sha256(newer).hexdigest()
        changed(made, file, dump=newer, manifest=_json(manifest))
    with pytest.raises(BackupError, match=message):
        bring_back(folder, file, False)
    with database_of(folder) as database:
        assert Access(database.address).tables("instavis") == {}
    assert not (folder / "secret").exists()
    assert list(folder.glob("*.zip*")) == []


def test_backup_command_reports_errors_without_traceback(root, tmp_path):
    empty = {**os.environ, "INSTAVIS_DATA": str(tmp_path / "nothing")}
    for verb in ("backup", "restore"):
        done = subprocess.run(
            [root / "instavis", verb, str(tmp_path / "x.zip")], env=empty, capture_output=True, text=True, check=False
        )
        assert done.returncode == 1
        assert done.stderr.startswith("instavis: ")
        assert "Traceback" not in done.stderr


def test_backup_works_while_balls_arrive(product, access, tmp_path):
    """A transaction's snapshot: the dump is of one moment, whatever is written while it is made."""
    with closing(product.signed_in()) as client:
        student = client.post("/api/v1/students", json={"name": "Backed Upperton"}).json()
        lesson = client.post("/api/v1/lessons", json={"student_id": student["id"]}).json()
        bay = next(b for b in client.get("/api/v1/bays").json() if b["name"] == "South mat")
        client.put(f"/api/v1/lessons/{lesson['id']}/bay", json={"bay_id": bay["id"]})
    monitor = product.monitor("South mat", "--count", "60", "--pace", "0", "--seed", "3")
    assert "the same" in package.write(access, product.folder, tmp_path / "busy.zip")
    assert monitor.wait(120) == 0
