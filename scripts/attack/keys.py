"""Real keys of an academy's objects, by path parameter."""

from __future__ import annotations

import json
import random
from dataclasses import dataclass, field
from typing import Any

from attack.siege import Siege

TABLES = {
    "student_id": "people_student",
    "coach_id": "people_coach",
    "invitation_id": "people_invitation",
    "passkey_id": "mfa_authenticator",
    "lesson_id": "lessons_lesson",
    "shot_id": "shots_shot",
    "block_id": "lessons_block",
    "bay_id": "devices_bay",
    "device_id": "devices_device",
    "correction_id": "corrections_correction",
    "trial_id": "trials_trial",
    "recording_id": "recordings_recording",
    "before_id": "recordings_recording",
    "now_id": "recordings_recording",
    "still_id": "stills_still",
    "clip_id": "clips_clip",
    "draft_id": "files_draft",
    "bridge_id": "bridges_bridge",
    "source_id": "bridges_source",
    "setup_id": "findings_setupnote",
}

NOT_BY_CHANCE = ("coach_id",)
"""Keys that no odd request is given, because it would remove the user who makes the requests."""


@dataclass(frozen=True, kw_only=True)
class Keys:
    """``known`` keys by parameter, a device's ``token``, a take-home page's ``home`` token."""

    known: dict[str, list[int]]
    token: str
    home: str
    chance: random.Random = field(default_factory=lambda: random.Random(7))  # noqa: S311

    def one(self, name: str) -> Any:
        """Return a real key for a parameter, or None if there is none."""
        if name == "token":
            return self.home
        known = self.known.get(name)
        return self.chance.choice(known) if known else None

    def put_into(self, case: Any) -> None:
        """Replace half of a request's path parameters by real ones."""
        for name in case.path_parameters or {}:
            if name in NOT_BY_CHANCE:
                continue
            if (key := self.one(name)) is not None and self.chance.random() < 0.5:
                case.path_parameters[name] = key


def keys_of(siege: Siege) -> Keys:
    """Return the keys in the sample academy."""
    known = {}
    for name, table in TABLES.items():
        rows = siege.access.ask(siege.access.name, f"SELECT id FROM {table} ORDER BY id LIMIT 40")
        known[name] = [row[0] for row in rows]
    facts = json.loads(siege.running.output)
    return Keys(known=known, token=next(iter(facts["tokens"].values())), home=facts["home"].removeprefix("/home/"))
