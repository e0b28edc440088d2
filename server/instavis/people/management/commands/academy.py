"""`manage.py academy [NAME] [USER]`: the first academy and its head coach, with a password that is told once."""

from __future__ import annotations

import json
import secrets

from django.core.management.base import BaseCommand, CommandParser

from instavis.people.models import Academy, Coach
from instavis.people.services import found_academy


class Command(BaseCommand):
    """Does nothing when there is an academy already, unless another name is given."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name", nargs="?", default="My academy")
        parser.add_argument("user", nargs="?", default="head")

    def handle(self, *args, **options) -> None:
        name, user = options["name"], options["user"]
        taken = Academy.objects.filter(name=name).exists() or Coach.objects.filter(username=user).exists()
        if taken or (name == "My academy" and Academy.objects.exists()):
            self.stdout.write("null")
            return
        password = "-".join(secrets.token_hex(3) for _ in range(3))
        found_academy(name, user, password)
        self.stdout.write(json.dumps({"academy": name, "username": user, "password": password}))
