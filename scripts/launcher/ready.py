"""`python -m launcher.ready [demo]`: tables, static files and the sample academy, in one short process."""

from __future__ import annotations

import io
import os
import sys

import django
from django.core.management import call_command


def main() -> None:
    """Print what the demo command says, if it was asked for."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "instavis.config.settings")
    django.setup()
    call_command("migrate", interactive=False, verbosity=0, stdout=io.StringIO())
    call_command("collectstatic", interactive=False, verbosity=0, stdout=io.StringIO())
    if "demo" in sys.argv[1:]:
        call_command("demo")


if __name__ == "__main__":
    main()
