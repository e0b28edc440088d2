"""Whether this process is alive, and whether it can work."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from pathlib import Path

from django.conf import settings
from django.core.cache import cache
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, JsonResponse
from django.utils import timezone

from instavis.work.services import round_age

LATEST_ROUND = 60.0
"""Seconds after which the scheduler, which runs every five, counts as stopped."""
MIN_FREE_BYTES = 200 * 1024 * 1024
_migrated = False


def alive(request: HttpRequest) -> JsonResponse:
    """The process answers."""
    return JsonResponse({"state": "alive"})


def ready(request: HttpRequest) -> JsonResponse:
    """Return the state of everything a request needs; 503 if something that balls need is down."""
    checks = {"database": _database, "migrations": _migrations, "redis": _redis, "disk": _disk, "rounds": _rounds}
    found = {name: _holds(check) for name, check in checks.items()}
    good = found["database"] and found["migrations"] and found["disk"]
    # Balls are accepted without Redis and the scheduler, but monitoring must report it.
    state = "not ready" if not good else "ready" if all(found.values()) else "degraded"
    return JsonResponse({"state": state, "checks": found}, status=200 if good else 503)


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


def _rounds() -> bool:
    """Return whether the scheduler ran lately: without it nothing is retried and nothing is deleted on time."""
    age = round_age(timezone.now())
    return age is not None and age < LATEST_ROUND


def _disk() -> bool:
    folder = Path(settings.STORAGES["default"].get("OPTIONS", {}).get("location") or settings.STATIC_ROOT)
    while not folder.exists():
        folder = folder.parent
    return shutil.disk_usage(folder).free >= MIN_FREE_BYTES
