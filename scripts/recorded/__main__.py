"""`python -m recorded`: serve the sample academy and write what the seven stations request as test data.

Run it when the shape of an answer changes; a server test compares the files with the API's schema.
"""

from __future__ import annotations

import json
import sys
import tempfile
from pathlib import Path

import httpx

from instavis_report.catalog import ENGLISH, PSEUDO
from launcher.application import served
from launcher.mariadb import free_port
from launcher.paths import WEB

ANSWERS = WEB / "src" / "test" / "answers"
PSEUDO_ANSWERS = WEB / "src" / "test" / "answers-pseudo"
"""The same in the pseudo-language, in which every sentence of the server is bracketed."""
STUDENT = "Dov Marrick"
"""A lesson in the middle of a proof: every station has something to show."""
ON_RECORD = "Lasse Corrigall"
"""A student with three lessons on record."""
LINKS = {"home": "home-link", "ask": "intake-link"}
PAGES = ("session", "knowledge", "bays", "students", "lessons", "day", "outcomes", "academy")
PAGES += ("coaches", "colleagues", "invitations", "audit", "roster", "eye")
ACCOUNT = ("account", "list", "notices")
LESSON = (
    "",
    "shots",
    "intake",
    "reading",
    "setups",
    "earlier",
    "cold-test",
    "checks",
    "body",
    "recordings",
    "clips",
    "stills",
)
LESSON += (
    "cause",
    "cause/history",
    "why",
    "corrections",
    "proof",
    "trials",
    "take-home",
    "schedule",
    "home-link",
    "practice",
)


def main() -> int:
    """Record the answers; print what was written."""
    with tempfile.TemporaryDirectory() as data, served(Path(data), free_port(), "demo") as running:
        login = json.loads(running.output)["logins"][0]
        with httpx.Client(base_url=f"{running.address}/api/v1", trust_env=False, timeout=60) as client:
            client.get(f"{running.address}/")
            client.headers["X-CSRFToken"] = client.cookies["instavis_csrf"]
            client.post("/session", json={k: login[k] for k in ("username", "password")}).raise_for_status()
            client.headers["X-CSRFToken"] = client.cookies["instavis_csrf"]
            lesson = next(row["id"] for row in client.get("/lessons").json() if row["student_name"] == STUDENT)
            wanted = {name: f"/{name}" for name in PAGES}
            wanted["versions"] = "/knowledge/versions"
            wanted |= {name: f"/session/{name}" for name in ACCOUNT}
            wanted["history"] = f"/students/{_student(client, ON_RECORD)}/history"
            wanted |= {name: _link(client, lesson, kind) for name, kind in LINKS.items()}
            first = client.get("/bays").json()[0]["id"]
            wanted |= {name: f"/bays/{first}/{name}" for name in ("tray", "refused", "cameras", "bridges", "sources")}
            wanted |= {
                f"lesson/{name or 'lesson'}".replace("cause/", "cause-"): f"/lessons/{lesson}/{name}".rstrip("/")
                for name in LESSON
            }
            wanted |= _practice_lesson(client)
            for language, folder in ((ENGLISH, ANSWERS), (PSEUDO, PSEUDO_ANSWERS)):
                client.patch("/session", json={"language": language}).raise_for_status()
                for name, path in wanted.items():
                    keep(folder / f"{name.replace('lesson/', '')}.json", client.get(path).raise_for_status().json())
    return 0


def _practice_lesson(client: httpx.Client) -> dict[str, str]:
    """Record the page of an ended practice lesson, and the list of them."""
    lesson = client.post("/trainings", json={"level": "usual"}).raise_for_status().json()["lesson_id"]
    client.post(f"/lessons/{lesson}/training/balls", json={"count": 10}).raise_for_status()
    client.put(f"/lessons/{lesson}/checks", json={"grades": {"seat-line": "leaves-early"}}).raise_for_status()
    client.patch(f"/lessons/{lesson}", json={"ended": True}).raise_for_status()
    return {"trainings": "/trainings", "lesson/training": f"/lessons/{lesson}/training"}


def _student(client: httpx.Client, name: str) -> int:
    return int(next(row["id"] for row in client.get("/students").json() if row["name"] == name))


def _link(client: httpx.Client, lesson: int, kind: str) -> str:
    """Return where a phone reads what a link of a lesson opens."""
    return str(client.post(f"/lessons/{lesson}/{kind}").raise_for_status().json()["path"])


def keep(file: Path, answer: object) -> None:
    """Write one answer down."""
    file.parent.mkdir(parents=True, exist_ok=True)
    file.write_text(json.dumps(answer, ensure_ascii=False, separators=(",", ":")) + "\n")
    print(f"{file.relative_to(WEB)}: {file.stat().st_size} bytes")


if __name__ == "__main__":
    sys.exit(main())
