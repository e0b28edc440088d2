"""Programs started as copies: their output and exit reach the log; a loader that fails says where to look."""

from __future__ import annotations

import subprocess
import tempfile
import time
from pathlib import Path

import pytest

from instavis.platform.addresses import DatabaseAddress
from launcher.application import NO_REDIS
from launcher.loaded import Copy, Loader, loaded
from launcher.mariadb import DatabaseError
from launcher.shape import settings_for

from .conftest import PATIENCE_SECONDS

NOWHERE = DatabaseAddress(host="127.0.0.1", port=1, user="nobody", password="", name="nothing")


@pytest.fixture(scope="module")
def folder(tmp_path_factory) -> Path:
    return tmp_path_factory.mktemp("loader")


@pytest.fixture(scope="module")
def loader(folder):
    with loaded(settings_for(folder, NOWHERE, NO_REDIS), folder / "log") as loader:
        yield loader


def manage(loader: Loader, out, *words: str) -> Copy:
    return loader.copy("test", "manage", words, files=(0, out.fileno(), out.fileno()))


def test_copy_passes_on_output_and_exit_status(loader):
    with tempfile.TemporaryFile("w+") as out, tempfile.TemporaryFile("w+") as other:
        good, bad = manage(loader, out, "version"), manage(loader, other, "dance")
        assert (good.wait(PATIENCE_SECONDS), bad.wait(PATIENCE_SECONDS)) == (0, 1)
        out.seek(0)
        other.seek(0)
        assert out.read().startswith("5.")
        assert "Unknown command: 'dance'" in other.read()
        assert (good.poll(), bad.poll()) == (0, 1)
        good.kill()  # whoever has ended is not hit by a signal any more


def test_killed_copy_reports_its_signal_and_name(loader):
    with tempfile.TemporaryFile("w+") as out:
        waiting = manage(loader, out, "shell", "-c", "import time; time.sleep(600)")
        assert waiting.poll() is None
        with pytest.raises(subprocess.TimeoutExpired):
            waiting.wait(0.05)
        assert Path(f"/proc/{waiting.pid}/comm").read_text().strip() == "test"
        waiting.kill()
        assert waiting.wait(PATIENCE_SECONDS) == -9


def test_copies_end_with_their_loader(folder):
    environment = settings_for(folder, NOWHERE, NO_REDIS)
    loader = Loader(environment, folder / "log")
    process = loader.begin()
    with tempfile.TemporaryFile("w+") as out:
        waiting = manage(loader, out, "shell", "-c", "import time; time.sleep(600)")
        process.process.kill()
        assert waiting.wait(PATIENCE_SECONDS) == -15
        with pytest.raises(DatabaseError, match="could not be loaded"):
            manage(loader, out, "version")
        again = loader.begin()
        assert manage(loader, out, "version").wait(PATIENCE_SECONDS) == 0
    loader.close()
    again.stop()
    process.stop()


def test_load_error_names_the_log(folder):
    environment = settings_for(folder, NOWHERE, NO_REDIS) | {"INSTAVIS_WORKER_NICE": "very"}
    log = folder / "broken"
    with loaded(environment, log) as loader, tempfile.TemporaryFile("w+") as out:
        with pytest.raises(DatabaseError, match=str(log)):
            manage(loader, out, "version")
        assert "very" in log.read_text()


def test_killed_loader_and_its_programs_restart(product):
    [program] = product.loading.programs
    before = {k.process.pid for k in (*product.web.programs, *product.workers.programs)}
    program.process.kill()
    deadline = time.monotonic() + PATIENCE_SECONDS
    while any(
        k.process.pid in before or k.process.poll() is not None
        for k in (*product.web.programs, *product.workers.programs)
    ):
        assert time.monotonic() < deadline
        time.sleep(0.1)
    with product.signed_in() as client:
        assert client.get("/api/v1/bays").status_code == 200
