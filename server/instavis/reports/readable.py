"""Lists in which one unreadable entry does not hide the others."""

from __future__ import annotations

import logging
from collections.abc import Callable
from typing import TypeVar

from django.db import InterfaceError, OperationalError

from instavis.lessons.models import Lesson

logger = logging.getLogger(__name__)

UNREADABLE = "unreadable"
Row = TypeVar("Row")


def readable(lesson: Lesson, read: Callable[[], Row], instead: Callable[[], Row]) -> Row:
    """Return what is read from a lesson, or a substitute if that fails; the log says why.

    An unreachable database is not the lesson's fault and is raised.
    """
    try:
        return read()
    except (OperationalError, InterfaceError):
        raise
    except Exception:
        logger.exception("lesson %s cannot be read", lesson.pk)
        return instead()
