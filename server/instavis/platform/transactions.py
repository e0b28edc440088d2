"""Functions that run in one transaction and are retried after a deadlock or a lock timeout."""

from __future__ import annotations

import logging
import random
import time
from collections.abc import Callable
from functools import wraps
from typing import ParamSpec, TypeVar

from django.db import OperationalError, connection, transaction

logger = logging.getLogger(__name__)

P = ParamSpec("P")
R = TypeVar("R")

DEADLOCK, LOCK_TOOK_TOO_LONG, GONE, LOST = 1213, 1205, 2006, 2013
TRIES, SLOW_TRIES = 6, 2
"""Pauses after a deadlock, and after a lock timeout."""
FIRST_PAUSE = 0.01  # seconds, doubled each time


def transactional(function: Callable[P, R]) -> Callable[P, R]:
    """Run a function in one transaction; retry it after a deadlock or a lock timeout.

    The function must not rely on changes it made to its arguments. Inside another transaction it becomes part of that.
    """

    @wraps(function)
    def done(*args: P.args, **kwargs: P.kwargs) -> R:
        if connection.in_atomic_block:
            with transaction.atomic():
                return function(*args, **kwargs)
        for tries in range(1, TRIES + 1):
            try:
                with transaction.atomic():
                    return function(*args, **kwargs)
            except OperationalError as error:
                if not lost_to_another(error) or tries == (TRIES if error.args[0] == DEADLOCK else SLOW_TRIES):
                    raise
                logger.info("%s is retried (%s)", function.__name__, error.args[0])
                time.sleep(FIRST_PAUSE * 2**tries * (0.5 + random.random()))  # noqa: S311
        raise AssertionError

    return done


def lost_to_another(error: Exception) -> bool:
    """Return True if the database rolled everything back in favor of another transaction."""
    return isinstance(error, OperationalError) and bool(error.args) and error.args[0] in (DEADLOCK, LOCK_TOOK_TOO_LONG)


def line_is_gone(error: Exception) -> bool:
    """Return True if the database connection is gone."""
    return isinstance(error, OperationalError) and bool(error.args) and error.args[0] in (GONE, LOST)
