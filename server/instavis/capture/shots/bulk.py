"""Insert many balls in one statement, bypassing the model layer, for files of thousands."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable
from typing import Any

from django.db import connection
from django.db.models import Field

from instavis.capture.shots.models import Shot

_FIELDS = [field for field in Shot._meta.concrete_fields if not field.primary_key]


def insert_shots(rows: Iterable[dict[str, Any]]) -> None:
    """Insert balls by their field values (foreign keys as ``lesson_id``); missing ones get their default.

    The caller holds the transaction. Values must be checked records: nothing is validated here.
    """
    defaults = {field.attname: _default(field) for field in _FIELDS}
    table = [{**defaults, **row, "extra": json.dumps(row.get("extra") or {})} for row in rows]
    if not table:
        return
    for row in table:
        for name in ("at", "received_at"):
            if row[name] is not None:
                row[name] = row[name].replace(tzinfo=None)  # the connection uses UTC
    # Values that all balls share are written once; turning values into SQL is most of the work.
    varying = [f for f in _FIELDS if any(row[f.attname] != table[0][f.attname] for row in table)]
    same = [f for f in _FIELDS if f not in varying]
    columns = ", ".join(f"`{field.column}`" for field in (*varying, *same))
    with connection.cursor() as cursor:
        quoted = cursor.connection.literal
        constants = "".join(f", {_literal(table[0][f.attname], quoted)}" for f in same)
        names = [f.attname for f in varying]
        values = (f"({', '.join(_literal(row[name], quoted) for name in names)}{constants})" for row in table)
        cursor.execute(f"INSERT INTO `{Shot._meta.db_table}` ({columns}) VALUES {', '.join(values)}")  # noqa: S608


def _literal(value: Any, quoted: Callable[[Any], bytes]) -> str:
    """Return a value as SQL; everything but numbers is quoted by the database driver."""
    if value is None:
        return "NULL"
    if type(value) in (float, int):
        return repr(value)
    return quoted(value).decode()


def _default(field: Field[Any, Any]) -> Any:
    if field.has_default():
        return field.get_default()
    return "" if field.empty_strings_allowed and not field.null else None
