"""Database indexes that migrations correct."""

from __future__ import annotations

from typing import Any

from django.db import migrations


def without_key_of(table: str, column: str) -> migrations.RunPython:
    """Drop the index of a single column if a wider index starts with it.

    A new database drops such an index by itself, because it made it for a reference; one restored from a backup keeps
    it.
    """

    def drop(apps: Any, schema: Any) -> None:  # noqa: ARG001 (called by Django)
        with schema.connection.cursor() as cursor:
            cursor.execute(
                "SELECT INDEX_NAME FROM information_schema.STATISTICS "
                "WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME = %s AND NON_UNIQUE = 1 "
                "GROUP BY INDEX_NAME HAVING COUNT(*) = 1 AND MAX(COLUMN_NAME) = %s",
                (table, column),
            )
            for (name,) in cursor.fetchall():
                schema.execute(f"ALTER TABLE {schema.quote_name(table)} DROP INDEX {schema.quote_name(name)}")

    return migrations.RunPython(drop, migrations.RunPython.noop, atomic=False)
