"""The normal settings, except that parallel tests use separate keys and tasks are run by hand."""

from __future__ import annotations

import os
from pathlib import Path

from instavis.project.settings import *  # noqa: F403 (all of them)
from instavis.project.settings import CACHES, STATIC_ROOT, STORAGES

_worker = os.environ.get("PYTEST_XDIST_WORKER", "gw0")
# A separate number, so that one worker may empty it.
CACHES["default"]["LOCATION"] = CACHES["default"]["LOCATION"].rpartition("/")[0] + f"/{1 + int(_worker[2:]) % 15}"
CHANNEL_LAYERS = {"default": {"BACKEND": "channels.layers.InMemoryChannelLayer"}}  # a separate loop for every test
STORAGES["default"] = {"BACKEND": "django.core.files.storage.InMemoryStorage"}
Path(STATIC_ROOT).mkdir(parents=True, exist_ok=True)  # nothing is built for these tests; an empty folder is enough
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
