"""The settings as they are, but that tests in several processes do not share keys, and works are called to by hand."""

from __future__ import annotations

import os

from instavis.project.settings import *  # noqa: F403 (all of them)
from instavis.project.settings import CACHES, STORAGES

_worker = os.environ.get("PYTEST_XDIST_WORKER", "main")
CACHES["default"]["KEY_PREFIX"] += f"-{_worker}"
CHANNEL_LAYERS = {"default": {"BACKEND": "channels.layers.InMemoryChannelLayer"}}  # a loop of its own for every test
STORAGES["default"] = {"BACKEND": "django.core.files.storage.InMemoryStorage"}
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
