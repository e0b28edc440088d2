"""`manage.py demo`: makes the sample academy once and prints its logins and device tokens as JSON."""

from __future__ import annotations

import json

from django.core.management.base import BaseCommand
from django.utils import timezone

from instavis.demo.builder import build_demo
from instavis.demo.scenario import ACADEMY, COACHES, PASSWORD
from instavis.devices.models import Bay
from instavis.devices.services import issue_device, revoke_device

STAND_IN = "Stand-in monitor"


class Command(BaseCommand):
    """Idempotent but for the tokens: every start gets fresh ones, the old ones are revoked."""

    help = __doc__

    def handle(self, *args, **options) -> None:
        now = timezone.now()
        made = build_demo(now)
        tokens = {}
        for bay in Bay.objects.filter(academy__name=ACADEMY).order_by("id"):
            for device in bay.devices.filter(name=STAND_IN, revoked_at__isnull=True):
                revoke_device(device, now)
            tokens[bay.name] = issue_device(bay, STAND_IN)[1]
        logins = [{"username": c.username, "name": c.name, "password": PASSWORD} for c in COACHES]
        self.stdout.write(json.dumps({"made": made, "logins": logins, "tokens": tokens}))
