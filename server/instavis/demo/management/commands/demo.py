"""`manage.py demo`: create the sample academy once and print its logins and device tokens as JSON."""

from __future__ import annotations

import json
from datetime import datetime
from typing import Any

from django.core.management.base import BaseCommand
from django.utils import timezone

from instavis.capture.devices.models import Bay
from instavis.capture.devices.services import issue_device, revoke_device
from instavis.demo.builder import build_demo
from instavis.demo.scenario import ACADEMY, BELT, COACHES, HOME_OF, MAT, MONITOR, PASSWORD
from instavis.lessons.models import Lesson
from instavis.practice.services import make_home_link


class Command(BaseCommand):
    """Idempotent except for tokens: every start issues new ones and revokes the old."""

    help = __doc__
    requires_system_checks = ()  # they load every route; the tests check

    def handle(self, *args: Any, **options: Any) -> None:
        now = timezone.now()
        made = build_demo(now)
        tokens = {name: self._issued(name, now) for name in (MONITOR, BELT, MAT)}
        logins = [{"username": c.username, "name": c.name, "password": PASSWORD} for c in COACHES]
        home = _home_of(HOME_OF, now)
        result = {
            "home": home,
            "made": made,
            "logins": logins,
            "tokens": tokens[MONITOR],
            "belts": tokens[BELT],
            "mats": tokens[MAT],
        }
        self.stdout.write(json.dumps(result))

    def _issued(self, name: str, now: datetime) -> dict[str, str]:
        """Issue a new token per bay for the stand-in of that name; earlier ones are revoked."""
        tokens = {}
        for bay in Bay.objects.filter(academy__name=ACADEMY).order_by("id"):
            for device in bay.devices.filter(name=name, revoked_at__isnull=True):
                revoke_device(device, now)
            tokens[bay.name] = issue_device(bay, name)[1]
        return tokens


def _home_of(student: str, now: datetime) -> str:
    """Return the path of a sample student's page; every start creates a new one."""
    lesson = Lesson.objects.filter(academy__name=ACADEMY, student__name=student).order_by("-started_at").first()
    if lesson is None:  # deleted by a person who tried it out
        return ""
    return f"/home/{make_home_link(lesson, lesson.coach, now)[1]}"
