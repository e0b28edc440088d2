"""The answers that the front end is tested with have the server's current shape."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from jsonschema import Draft202012Validator
from referencing import Registry, Resource
from referencing.jsonschema import DRAFT202012

from instavis.project.api import api as ninja

ANSWERS = sorted((Path(__file__).parents[2] / "web" / "src" / "test" / "answers").glob("*.json"))
AT_THE_ROOT = ("session", "knowledge", "bays", "students", "lessons", "day", "outcomes", "academy")
AT_THE_ROOT += ("coaches", "colleagues", "invitations", "audit", "roster", "eye", "trainings")
ELSEWHERE = {
    "lesson": "/lessons/{lesson_id}",
    "cause-history": "/lessons/{lesson_id}/cause/history",
    "versions": "/knowledge/versions",
    "account": "/session/account",
    "list": "/session/list",
    "notices": "/session/notices",
    "history": "/students/{student_id}/history",
    "tray": "/bays/{bay_id}/tray",
    "refused": "/bays/{bay_id}/refused",
    "cameras": "/bays/{bay_id}/cameras",
    "bridges": "/bays/{bay_id}/bridges",
    "sources": "/bays/{bay_id}/sources",
    "home": "/home/{token}",
    "ask": "/ask/{token}",
}


@pytest.fixture(scope="module")
def interface() -> dict:
    return json.loads(json.dumps(ninja.get_openapi_schema(), default=str))


def path_of(name: str) -> str:
    if name in AT_THE_ROOT:
        return f"/api/v1/{name}"
    return "/api/v1" + ELSEWHERE.get(name, f"/lessons/{{lesson_id}}/{name}")


@pytest.mark.parametrize("file", ANSWERS, ids=lambda f: f.stem)
def test_recorded_answers_match_the_api_schema(interface, file):
    """When this fails: `python -m recorded`, and look at what the front end makes of it."""
    content = interface["paths"][path_of(file.stem)]["get"]["responses"]["200"]["content"]
    registry = Registry().with_resource("openapi", Resource(interface, DRAFT202012))
    shape = json.loads(json.dumps(content["application/json"]["schema"]).replace('"#/', '"openapi#/'))
    errors = list(Draft202012Validator(shape, registry=registry).iter_errors(json.loads(file.read_text())))
    assert errors == [], errors[0].message
    components = interface["components"]["schemas"]
    named = shape.get("$ref", "").rpartition("/")[2]
    if named:
        assert set(json.loads(file.read_text())) == set(components[named]["properties"]), "a field more or less"
