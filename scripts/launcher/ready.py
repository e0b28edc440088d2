"""`python -m launcher.ready [COMMAND|ARGUMENT|…]`: tables, static files and further commands, in one short process."""

from __future__ import annotations

import io
import os
import sys

import django
from django.core.management import call_command


def main() -> None:
    """Print what the further commands say."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "instavis.config.settings")
    django.setup()
    call_command("migrate", interactive=False, verbosity=0, stdout=io.StringIO())
    call_command("collectstatic", interactive=False, verbosity=0, stdout=io.StringIO())
    for wanted in sys.argv[1:]:
        call_command(*wanted.split("|"))


if __name__ == "__main__":
    main()
