"""Whether this process lives, and whether it can do its work."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from pathlib import Path

from django.conf import settings
from django.core.cache import cache
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, JsonResponse

LEAST_FREE_BYTES = 200 * 1024 * 1024
_migrated = False


def alive(request: HttpRequest) -> JsonResponse:
    """The process answers."""
    return JsonResponse({"state": "alive"})


def ready(request: HttpRequest) -> JsonResponse:
    """What a request rests on, each part good or not; 503 when one that balls need is not."""
    checks = {"database": _database, "migrations": _migrations, "redis": _redis, "disk": _disk}
    found = {name: _holds(check) for name, check in checks.items()}
    good = found["database"] and found["migrations"] and found["disk"]
    return JsonResponse({"state": "ready" if good else "not ready", "checks": found}, status=200 if good else 503)


def _holds(check: Callable[[], bool]) -> bool:
    try:
        return check()
    except Exception:
        return False


def _database() -> bool:
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1")
    return True


def _migrations() -> bool:
    global _migrated
    if not _migrated:
        executor = MigrationExecutor(connection)
        _migrated = not executor.migration_plan(executor.loader.graph.leaf_nodes())
    return _migrated


def _redis() -> bool:
    cache.set("ready", 1, 5)
    return True


def _disk() -> bool:
    folder = Path(settings.STORAGES["default"].get("OPTIONS", {}).get("location") or settings.STATIC_ROOT)
    while not folder.exists():
        folder = folder.parent
    return shutil.disk_usage(folder).free >= LEAST_FREE_BYTES
