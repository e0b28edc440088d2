"""`recover`: restores access for the person who has the machine but neither password nor second factor."""

from __future__ import annotations

import argparse
import os
import subprocess
import sys

from launcher.academy import folder_of_data, is_there, reached
from launcher.application import NO_REDIS
from launcher.paths import SERVER
from launcher.shape import settings_for


def recover(arguments: list[str]) -> int:
    """Print a link with which a coach can choose a new password, once, within a day; it also removes their second
    factors.

    The academy may be served meanwhile. Without a name it lists the coaches.
    """
    parser = argparse.ArgumentParser(prog="./instavis recover", description=recover.__doc__)
    parser.add_argument("username", nargs="?", help="the coach's user name")
    options = parser.parse_args(arguments)
    folder = folder_of_data()
    if not is_there(folder):
        print(f"instavis: there is no academy in {folder} yet; run serve once.", file=sys.stderr)
        return 1
    with reached(folder) as access:
        environment = settings_for(folder, access.address, os.environ.get("INSTAVIS_REDIS_URL", NO_REDIS))
        command = [sys.executable, str(SERVER / "manage.py"), "recover", *filter(None, [options.username])]
        return subprocess.run(command, env={**os.environ, **environment}, check=False).returncode
