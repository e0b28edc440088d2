"""Deeds that are done whole or not at all, and begun anew when the database stopped them only to let another pass."""

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
"""After a deadlock, and after a row that somebody held for the whole of the database's patience."""
FIRST_PAUSE = 0.01  # seconds, doubled each time


def whole(deed: Callable[P, R]) -> Callable[P, R]:
    """The function in one transaction, which is begun anew when it lost against another.

    It must not count on anything it changed of its arguments. Inside another transaction it is a part of that one.
    """

    @wraps(deed)
    def done(*args: P.args, **kwargs: P.kwargs) -> R:
        if connection.in_atomic_block:
            with transaction.atomic():
                return deed(*args, **kwargs)
        for tries in range(1, TRIES + 1):
            try:
                with transaction.atomic():
                    return deed(*args, **kwargs)
            except OperationalError as error:
                if not lost_to_another(error) or tries == (TRIES if error.args[0] == DEADLOCK else SLOW_TRIES):
                    raise
                logger.info("%s is begun anew (%s)", deed.__name__, error.args[0])
                time.sleep(FIRST_PAUSE * 2**tries * (0.5 + random.random()))  # noqa: S311
        raise AssertionError

    return done


def lost_to_another(error: Exception) -> bool:
    """Whether the database rolled everything back so that somebody else could go on."""
    return isinstance(error, OperationalError) and bool(error.args) and error.args[0] in (DEADLOCK, LOCK_TOOK_TOO_LONG)


def line_is_gone(error: Exception) -> bool:
    """Whether there is no database to speak to any more."""
    return isinstance(error, OperationalError) and bool(error.args) and error.args[0] in (GONE, LOST)
