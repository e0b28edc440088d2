"""Logs: one JSON object per line with time, level and what is known of the request; never a person's words."""

from __future__ import annotations

import logging
import os
from typing import Any

LONGEST_LINE = 4000


class Shortened(logging.Filter):
    """Limits the length of a log line, so that no line fills a disk."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Shorten a long message; every record passes."""
        text = record.getMessage()
        if len(text) > LONGEST_LINE:
            record.msg, record.args = text[:LONGEST_LINE] + " …", ()
        return True


class Whose(logging.Filter):
    """Names the program: a copy of a loaded process gets its name after its log was set up."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Name the program; every record passes."""
        record.program = os.environ.get("INSTAVIS_PROCESS", "")
        return True


class WithoutDatabaseErrors(logging.Filter):
    """Drops Django's traceback of an error whose answer was that the database is unreachable."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Everything else passes."""
        return getattr(record, "status_code", None) != 503


def configuration() -> dict[str, Any]:
    """What Django's ``LOGGING`` takes."""
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "filters": {
            "shortened": {"()": Shortened},
            "said already": {"()": WithoutDatabaseErrors},
            "whose": {"()": Whose},
        },
        "formatters": {
            "json": {
                "()": "pythonjsonlogger.json.JsonFormatter",
                "format": "%(asctime)s %(levelname)s %(name)s %(program)s %(message)s",
                "rename_fields": {"asctime": "at", "levelname": "level", "name": "logger", "program": "process"},
                "json_ensure_ascii": False,
            }
        },
        "handlers": {
            "console": {"class": "logging.StreamHandler", "formatter": "json", "filters": ["shortened", "whose"]}
        },
        "root": {"handlers": ["console"], "level": "WARNING"},
        "loggers": {
            "instavis": {"level": "INFO"},
            # Every answer has its own line.
            "django.request": {"level": "ERROR", "filters": ["said already"]},
            # Repeated while Redis is down: connections and tasks log it themselves and use the database.
            "channels_redis": {"level": "CRITICAL"},
            "celery.beat": {"level": "CRITICAL"},
            "django.security": {"level": "WARNING"},
            "weasyprint": {"level": "ERROR"},  # it would log every letter missing from a font, each time
        },
    }
