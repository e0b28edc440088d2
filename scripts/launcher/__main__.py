"""`python -m launcher VERB`, called by scripts/run.sh after everything is installed."""

from __future__ import annotations

import signal
import sys

from instavis.platform.addresses import AddressError
from launcher import application, backup, checks, doctor, recover
from launcher.dumps import BackupError
from launcher.mariadb import DatabaseError

VERBS = {
    "demo": application.demo,
    "doctor": doctor.doctor,
    "serve": application.serve,
    "test": checks.run_all,
    "export": lambda arguments: application.move_archives(["export", *arguments]),
    "backup": backup.backup,
    "restore": backup.restore,
    "recover": recover.recover,
    "import": lambda arguments: application.move_archives(["import", *arguments]),
}


def main() -> int:
    """Run a verb; Ctrl-C and a polite kill end it in the same clean way."""
    signal.signal(signal.SIGTERM, _interrupt)
    verb, arguments = sys.argv[1], sys.argv[2:]
    try:
        return VERBS[verb](arguments)
    except (AddressError, DatabaseError, BackupError) as error:
        print(f"instavis: {error}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130


def _interrupt(*_) -> None:
    raise KeyboardInterrupt


if __name__ == "__main__":
    sys.exit(main())
