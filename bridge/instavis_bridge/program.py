"""`instavis-bridge`: watch where a monitor's program writes, and send its rows."""

from __future__ import annotations

import argparse
import contextlib
import json
import logging
import platform
import signal
import sys
import threading
import time
from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import httpx

from instavis_bridge import settings as stored
from instavis_bridge.folder import PATTERNS, Folder
from instavis_bridge.journal import Entry, Journal
from instavis_bridge.link import AskedToWaitError, Link, NotTakenError, TokenRefusedError
from instavis_bridge.page import serve_page
from instavis_bridge.settings import AnotherOneError, Settings
from instavis_bridge.streams import STREAMS, Stream

logger = logging.getLogger("instavis.bridge")

SCAN_EVERY = 0.1  # s between two scans of a folder
MAX_IN_A_BATCH = 100
FIRST_WAIT, LONGEST_WAIT = 0.25, 8.0
SAY_EVERY = 4.0  # s
MANY_WITHOUT_BALLS = 3  # rows in a row of one file: titles and headers are fewer
REFUSED_LATELY = 600.0  # s for which a refused row is reported
PAGE = 8770


def main(arguments: list[str] | None = None) -> int:
    """Run until Ctrl-C; return the exit status."""
    options = _parser().parse_args(arguments)
    logging.basicConfig(level=logging.INFO, format="%(asctime)s %(message)s", datefmt="%H:%M:%S", stream=sys.stderr)
    logging.getLogger("httpx").setLevel(logging.WARNING)
    logging.getLogger("websockets").setLevel(logging.WARNING)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    folder = Path(options.state) if options.state else stored.home()
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    try:
        with contextlib.closing(stored.only_one(folder / "lock")):
            return _run(folder, options)
    except AnotherOneError:
        print(f"instavis-bridge: another bridge runs with {folder}.", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 0


def run() -> None:
    """Run `main` as a program."""
    sys.exit(main())


def _run(folder: Path, options: argparse.Namespace) -> int:
    result = stored.load(folder)
    result = replace(
        result,
        server=options.server or result.server,
        source=options.source or result.source,
        files=tuple(options.files or ()) or result.files,
    )
    if options.code:
        try:
            result = paired(result, options.code, options.name)
        except (NotTakenError, AskedToWaitError, httpx.HTTPError) as error:
            print(f"instavis-bridge: not paired: {error}", file=sys.stderr)
            return 1
    stored.save(folder, result)
    bridge = Bridge(folder, result)
    with serve_page(bridge, options.page) as address:
        if address:
            print(f"instavis-bridge: how it is stands at {address}", flush=True)
        bridge.run()
    return 0


def paired(config: Settings, code: str, name: str) -> Settings:
    """Exchange a code for a token; return the settings with it.

    Raises
    ------
    NotTakenError, AskedToWaitError, httpx.HTTPError
        When the code pairs nothing, or nobody answers.
    """
    answer = Link(config.server).pair(code, name)
    print(f"instavis-bridge: paired with {answer.bay} as {answer.device}", flush=True)
    return replace(config, token=answer.token, bay=answer.bay)


class Bridge:
    """Find rows, keep them in the journal, send them, and report the state."""

    def __init__(self, folder: Path, config: Settings) -> None:
        self.folder, self.settings = folder, config
        first = not (folder / "journal").exists()
        self.journal = Journal(folder / "journal")
        self.link = Link(config.server, config.token)
        self._first = first
        self._watched: Folder | Stream | None = None
        self._lock_of_source: Any = None
        self._stop = threading.Event()
        self._revoked = False
        self._line = ""
        self._counts = {"stored": 0, "known": 0, "no_balls": 0}
        self._refused: list[str] = []
        self._refused_at = 0.0
        self._without_balls: dict[str, int] = {}
        self._last_at: str = ""
        self._clock_off: float | None = None
        self._listening: bool | None = None
        self._unmapped = 0
        self._odd = ""
        self._examples: list[tuple[str, list[str], list[str]]] = []

    def run(self) -> None:
        """Run until stopped."""
        threads = [threading.Thread(target=work, daemon=True) for work in (self._send_all, self._say_all)]
        for thread in threads:
            thread.start()
        try:
            while not self._stop.is_set():
                self._scan()
                self._stop.wait(SCAN_EVERY)
        finally:
            self._stop.set()
            if isinstance(self._watched, Stream):
                self._watched.stop()
            for thread in threads:
                thread.join(LONGEST_WAIT)

    def stop(self) -> None:
        """Stop."""
        self._stop.set()

    def change(self, config: Settings) -> None:
        """Change pairing or source without a restart."""
        stored.save(self.folder, config)
        if config.source != self.settings.source or config.files != self.settings.files:
            if isinstance(self._watched, Stream):
                self._watched.stop()
            self._watched = None
        self.settings = config
        self.link = Link(config.server, config.token)
        self._revoked = False

    def status(self) -> dict[str, Any]:
        """Return the state, for the page and the server."""
        return {
            "server": self.settings.server,
            "bay": self.settings.bay,
            "source": self.settings.source,
            "paired": bool(self.settings.token) and not self._revoked,
            "revoked": self._revoked,
            "watching": self._watched is not None,
            "waiting": len(self.journal.unsent),
            "unmapped": self._unmapped,
            "listening": self._listening,
            "last_at": self._last_at,
            "clock_off_s": self._clock_off,
            "problem": self._problem(),
            "refused": self._refused[-5:],
            **self._counts,
        }

    def _problem(self) -> str:
        watched = dict(self._watched.problems) if self._watched else {}
        if self._revoked:
            return "The server refuses this bridge: it was ended on the Bays page. Pair it anew; what is kept is sent."
        for name, rows in self._without_balls.items():
            if rows >= MANY_WITHOUT_BALLS:
                watched.setdefault(name, f"The last {rows} rows of {name} hold no balls: too few numbers were found.")
        if self._refused_at and time.time() - self._refused_at < REFUSED_LATELY:
            watched["refused"] = f"A row was refused: {self._refused[-1]}"
        return self._odd or self._line or "; ".join(watched.values())

    def _scan(self) -> None:
        try:
            if self._watched is None and self.settings.source:
                self._watched = self._begin_to_watch()
            if isinstance(self._watched, Folder):
                found = self._watched.poll()
                if found:
                    logger.info("%s new rows", found)
            self._odd = ""
        except AnotherOneError:
            self._odd = "Another bridge on this computer watches the same: end it first."
        except OSError as error:
            self._odd = f"{error.strerror or error}: nothing is lost, it is tried again."

    def _begin_to_watch(self) -> Folder | Stream:
        source = self.settings.source
        if self._lock_of_source is not None:
            self._lock_of_source.close()
        self._lock_of_source = stored.only_one(stored.lock_of(source))
        kind = STREAMS.get(source.partition(":")[0])
        if kind is not None:
            stream = kind(source, self.journal)
            stream.start()
            return stream
        folder = Folder(Path(source).expanduser(), self.journal, self.settings.files or PATTERNS)
        if not folder.path.exists():
            raise FileNotFoundError(2, f"{folder.path} is not there")
        if self._first:
            self._examples = folder.know_what_is_there()
            self._first = False
            threading.Thread(target=self._show_examples, daemon=True).start()
        return folder

    def _show_examples(self) -> None:
        """Show old rows of the newest file, so that a coach can set the columns before the first ball."""
        while not self._stop.is_set():
            if self.settings.token:
                try:
                    for name, texts, head in self._examples:
                        batch = [
                            Entry(number=i, name=name, text=text, head=tuple(head)) for i, text in enumerate(texts)
                        ]
                        self.link.send(batch, example=True)
                    return
                except (NotTakenError, TokenRefusedError):
                    return
                except (AskedToWaitError, httpx.HTTPError):
                    pass
            self._stop.wait(LONGEST_WAIT / 4)

    def _send_all(self) -> None:
        pause = FIRST_WAIT
        while not self._stop.is_set():
            batch = self.journal.batch(MAX_IN_A_BATCH) if self.settings.token and not self._revoked else []
            if not batch:
                self._stop.wait(SCAN_EVERY / 4)
                continue
            try:
                self._send(batch)
                self._line, pause = "", FIRST_WAIT
            except TokenRefusedError:
                self._revoked = True
            except AskedToWaitError as error:
                self._line = str(error)
            except httpx.HTTPError:
                self._line = f"{self.settings.server} does not answer: what is found is kept, and sent later."
            except OSError as error:
                self._line = f"The journal cannot be written: {error.strerror}. It is tried again."
            if self._line:
                self._stop.wait(pause)
                pause = min(LONGEST_WAIT, 2 * pause)

    def _send(self, batch: Sequence[Entry]) -> None:
        try:
            answer = self.link.send(batch)
        except NotTakenError as error:
            if len(batch) > 1:  # one of them is bad: send each alone
                for entry in batch:
                    self._send([entry])
                return
            self._put_aside(batch[0], str(error))
            answer = {"refused": [{"index": 0, "message": str(error)}]}
        self.journal.confirmed(batch)
        for name in self._counts:
            self._counts[name] += answer.get(name, 0)
        read = sum(answer.get(name, 0) for name in ("stored", "known", "waiting")) + len(answer.get("refused", ()))
        name = batch[0].name
        self._without_balls[name] = 0 if read else self._without_balls.get(name, 0) + len(batch)
        if answer.get("refused"):
            self._refused_at = time.time()
        self._refused += [f"{batch[r['index']].name}: {r['message']}" for r in answer.get("refused", ())]
        del self._refused[:-50]
        if answer.get("stored"):
            self._last_at = datetime.now(UTC).isoformat()

    def _put_aside(self, entry: Entry, why: str) -> None:
        """Store a row that the server can never accept, with the reason."""
        with (self.folder / "put-aside.ndjson").open("a", encoding="utf-8") as out:
            out.write(json.dumps({"number": entry.number, "name": entry.name, "text": entry.text, "why": why}) + "\n")

    def _say_all(self) -> None:
        while not self._stop.is_set():
            if self.settings.token and not self._revoked:
                with contextlib.suppress(AskedToWaitError, NotTakenError, httpx.HTTPError, KeyError):
                    try:
                        asked = time.time()
                        result = self.link.say_here(self.settings.source, len(self.journal.unsent), self._problem())
                        server = datetime.fromisoformat(result["server_time"]).timestamp()
                        self._clock_off = round((asked + time.time()) / 2 - server, 1)
                        self._listening, self._unmapped = result["listening"], result["unmapped"]
                    except TokenRefusedError:
                        self._revoked = True
            self._stop.wait(SAY_EVERY)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="instavis-bridge", description=__doc__)
    parser.add_argument(
        "source",
        nargs="?",
        default="",
        help="a folder or file, tcp://HOST:PORT, listen://HOST:PORT, ws://ADDRESS or serial:DEVICE[:BAUD]; "
        "what was watched before when left out",
    )
    parser.add_argument("--server", default="", help="address of the server, https://instavis.example")
    parser.add_argument("--code", default="", help="six digits from the Bays page, needed once")
    parser.add_argument("--name", default=platform.node()[:60] or "Bay computer", help="name on the Bays page")
    parser.add_argument("--files", action="append", help="file names to read, such as '*.csv'; can be repeated")
    parser.add_argument("--state", default="", help="folder for the journal and the token")
    parser.add_argument(
        "--page", type=int, default=PAGE, help="port of the status page; 0 for any free port, -1 for none"
    )
    return parser
