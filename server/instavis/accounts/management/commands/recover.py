"""`manage.py recover [USER]`: print a link for a new password that also removes second factors; without a name, list
the coaches.
"""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils import timezone

from instavis.accounts.models import Coach
from instavis.accounts.people import note, password_link_for
from instavis_core.message import Message


class Command(BaseCommand):
    """For the person who has the machine: it is logged, and the coach is notified."""

    help = __doc__
    requires_system_checks = ()  # they load every route; the tests check

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("username", nargs="?")

    def handle(self, *args: Any, **options: Any) -> None:
        people = Coach.objects.filter(is_active=True).select_related("academy").order_by("academy_id", "username")
        if options["username"] is None:
            for each in people:
                self.stdout.write(f"{each.username}  {each.name}, {each.role}, {each.academy.name}")
            return
        coach = people.filter(username__iexact=options["username"]).first()
        if coach is None:
            raise CommandError(f"nobody who works here goes by {options['username']}; without a name all are listed.")
        now = timezone.now()
        link, token = password_link_for(coach, coach, now, lifts_factors=True)
        note(coach, Message("activity-password-link-on-server"), now)
        self.stdout.write(f"/password/{token}")
        self.stdout.write(f"Open it below the academy's address, once, before {link.expires_at:%Y-%m-%d %H:%M} UTC.")
