"""Migrations and models describe the same tables; the other tests create tables from the models."""

from __future__ import annotations

import io

from django.core.management import call_command


def test_every_model_change_has_a_migration(db):
    result = io.StringIO()
    call_command("makemigrations", "--check", "--dry-run", stdout=result)
    assert "No changes detected" in result.getvalue()


def test_django_checks_report_nothing(db):
    """Commands of ours do not run them: they load every route."""
    call_command("check", fail_level="WARNING")
