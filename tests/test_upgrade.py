"""Academies of earlier releases are upgraded without losing a row."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import zipfile
from pathlib import Path

import pytest

from launcher import mariadb, package
from launcher.academy import UPGRADING
from launcher.application import NO_REDIS, make_ready
from launcher.dumps import Access
from launcher.loaded import loaded
from launcher.paths import SERVER
from launcher.shape import settings_for

DATA = Path(__file__).parent / "data"
RELEASES = sorted(DATA.glob("academy-*.zip"))
OF_THE_FRAMEWORK = ("django_migrations", "django_content_type", "auth_permission")  # one row more a new table
EXCEPT = "AND table_name <> 'auth_group_permissions'"  # not used; Django itself makes its key of two sizes
EMPTIED = ("axes_", "django_session")  # failed tries and sessions: everybody signs in anew


@pytest.mark.parametrize("file", RELEASES, ids=lambda f: f.stem)
def test_upgrade_keeps_every_row(file, tmp_path):
    database = mariadb.start(tmp_path / "database", quick=True)
    try:
        access = Access(database.address)
        package.put_in_place(access, tmp_path, file)
        environment = settings_for(tmp_path, database.address, NO_REDIS)
        with loaded(environment, tmp_path / "log") as loader:
            make_ready(tmp_path, loader)
        assert not (tmp_path / UPGRADING).exists()
        (before,) = tmp_path.glob("before-upgrade-*.zip")
        with zipfile.ZipFile(file) as archive:
            old = json.loads(archive.read("manifest.json"))["tables"]
        with zipfile.ZipFile(before) as archive:
            assert json.loads(archive.read("manifest.json"))["tables"] == old
        now = access.tables("instavis")
        for table, result in old.items():
            if table not in OF_THE_FRAMEWORK and not table.startswith(EMPTIED):
                assert now[table]["rows"] == result["rows"], table
        wrong = access.ask(
            "instavis",
            "SELECT COUNT(*) FROM lessons_lesson l JOIN people_student s ON s.id = l.student_id WHERE l.hand <> s.hand",
        )
        assert wrong[0][0] == 0
        hands = access.ask("instavis", "SELECT DISTINCT hand FROM lessons_lesson")
        assert {row[0] for row in hands} == {"left", "right"}
        if file == RELEASES[0]:  # the way of the farthest back is the way of all
            _exports_every_lesson(access, environment, tmp_path)
            upgraded = _shape(access)
            access.make("instavis")
            with loaded(environment, tmp_path / "log") as loader:
                make_ready(tmp_path, loader)
            made = _shape(access)
            assert {k: (upgraded[k] - made[k], made[k] - upgraded[k]) for k in made} == dict.fromkeys(
                made, (set(), set())
            )
    finally:
        database.stop()


def _shape(access: Access) -> dict[str, set[tuple]]:
    """What the tables are, whatever the order of their columns and the names of their keys."""
    asked = {
        "columns": "SELECT table_name, column_name, column_type, is_nullable, column_default, extra, collation_name, "
        f"generation_expression FROM columns WHERE table_schema = 'instavis' {EXCEPT}",
        "keys": "SELECT table_name, non_unique, GROUP_CONCAT(column_name ORDER BY seq_in_index) FROM statistics "
        f"WHERE table_schema = 'instavis' {EXCEPT} GROUP BY table_name, index_name, non_unique",
        "references": "SELECT table_name, constraint_name, referenced_table_name, delete_rule "
        f"FROM referential_constraints WHERE constraint_schema = 'instavis' {EXCEPT}",
        "rules": "SELECT table_name, constraint_name, check_clause FROM check_constraints "
        f"WHERE constraint_schema = 'instavis' {EXCEPT}",
    }
    return {what: set(access.ask("information_schema", statement)) for what, statement in asked.items()}


def _exports_every_lesson(access: Access, environment: dict[str, str], folder: Path) -> None:
    lessons = [row[0] for row in access.ask("instavis", "SELECT id FROM lessons_lesson ORDER BY id")]
    one = "call_command('archive', 'export', 'lesson', '{key}', r'{file}')"
    each = [one.format(key=key, file=folder / f"{key}.zip") for key in lessons]
    program = "; ".join(["from django.core.management import call_command", *each])
    done = subprocess.run(
        [sys.executable, str(SERVER / "manage.py"), "shell", "-c", program],
        env={**os.environ, **environment},
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    assert {file.stem for file in folder.glob("*.zip")} >= {str(key) for key in lessons}
