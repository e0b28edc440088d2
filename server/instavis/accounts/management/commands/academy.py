"""`manage.py academy [NAME] [USER]`: create the first academy and its head coach, and print the password once."""

from __future__ import annotations

import json
import secrets
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from instavis.accounts.models import Academy, Coach
from instavis.accounts.services import found_academy


class Command(BaseCommand):
    """Does nothing if an academy exists, unless another name is given."""

    help = __doc__
    requires_system_checks = ()  # they load every route; the tests check

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name", nargs="?", default="My academy")
        parser.add_argument("user", nargs="?", default="head")
        parser.add_argument("--password", default="", help="the first password; printed again while it is valid")

    def handle(self, *args: Any, **options: Any) -> None:
        name, user, given = options["name"], options["user"], options["password"]
        password = given or "-".join(secrets.token_hex(3) for _ in range(3))
        there = Coach.objects.filter(username=user).first()
        taken = there or Academy.objects.filter(name=name).exists()
        if not taken and not (name == "My academy" and Academy.objects.exists()):
            found_academy(name, user, password)
        elif not (given and there and there.check_password(given)):
            # A start that was interrupted after the academy was created has not printed its password yet.
            self.stdout.write("null")
            return
        self.stdout.write(json.dumps({"academy": name, "username": user, "password": password}))
