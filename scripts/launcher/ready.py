"""`ready FOLDER [COMMAND|ARGUMENT|…]`, a program of the loader's: tables, static files, further commands.

It lets itself be asked to stop but finishes what it began: a table that is half migrated is nobody's. Killed all the
same, it leaves a marker, and the next start begins again from before (`launcher.academy.mend`).
"""

from __future__ import annotations

import io
import os
import signal
from pathlib import Path

from django.apps import apps
from django.conf import settings
from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from instavis.platform.addresses import DatabaseAddress
from launcher import package
from launcher.academy import UPGRADING
from launcher.dumps import Access
from launcher.files import keep
from launcher.static import collect

UPGRADE_SECONDS = 50


def main(arguments: list[str]) -> None:
    """Print what the further commands say; needs Django set up."""
    for ending in (signal.SIGINT, signal.SIGTERM):
        signal.signal(ending, signal.SIG_IGN)
    folder, *further = arguments
    migrate(Path(folder))
    collect(Path(settings.STATIC_ROOT))
    for wanted in further:
        call_command(*wanted.split("|"))


def migrate(folder: Path) -> None:
    """Bring the tables to this release's shape, one machine at a time; an academy that is there is backed up first."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT GET_LOCK(%s, %s)", [f"{connection.settings_dict['NAME']}.upgrade", UPGRADE_SECONDS])
        if cursor.fetchone()[0] != 1:
            raise SystemExit("another machine has been upgrading this database for too long")
    try:
        _migrate(folder)
    finally:
        with connection.cursor() as cursor:
            cursor.execute("SELECT RELEASE_LOCK(%s)", [f"{connection.settings_dict['NAME']}.upgrade"])


def _migrate(folder: Path) -> None:
    executor = MigrationExecutor(connection)
    if not executor.migration_plan(executor.loader.graph.leaf_nodes()):
        return
    before = ""
    if executor.loader.applied_migrations:
        access = Access(DatabaseAddress.read(os.environ["INSTAVIS_DATABASE_URL"]))
        before = package.write_before(access, folder, "upgrade").name
    keep(folder / UPGRADING, before)
    if not before:
        make_tables()
    call_command("migrate", fake=not before, interactive=False, verbosity=0, stdout=io.StringIO())
    (folder / UPGRADING).unlink()


def make_tables() -> None:
    """Make the tables of an empty database as the models are today, which is what all migrations come to.

    Going through every release's shape takes five times as long; `tests/test_upgrade.py` holds both against each other.
    """
    with connection.schema_editor() as editor:
        for model in apps.get_models():
            if model._meta.can_migrate(connection):
                editor.create_model(model)
