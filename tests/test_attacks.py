"""Short forms of `./instavis attack`; run the long ones by hand."""

from __future__ import annotations

import shutil

import pytest
from attack import bridge, crash, fuzz, load, pages, tenancy
from attack.siege import besieged_in

from launcher.shape import Shape

from .conftest import made_once


@pytest.fixture(scope="module")
def siege(tmp_path_factory):
    folder = tmp_path_factory.mktemp("siege") / "academy"
    shutil.copytree(made_once(tmp_path_factory), folder)
    with besieged_in(folder, Shape(web=2, workers=1)) as besieged:
        yield besieged


def missed(figures) -> list[str]:
    return [row.row() for row in figures if not row.met]


def test_strangers_see_nothing(siege):
    """Every sixth operation; the server's tests walk all of them with another academy's coach and with nobody."""
    assert missed(tenancy.attack(siege, examples=1, one_of=6)) == []


def test_odd_requests_are_answered_as_described(siege):
    assert missed(fuzz.attack(siege, count=80, number=11)) == []


def test_every_verdict_arrives_under_load(siege):
    paced, _, flat_out = load.attack(siege, bays=4, every=0.5, seconds=4)
    assert "(32 of 32 heard)" in paced.figure, paced
    assert not flat_out.figure.startswith("0 ")


def test_kills_lose_nothing(siege):
    figures = list(crash.attack(siege, kills=6, seed=5))
    assert [row.row() for row in figures[:2] if not row.met] == []
    assert len(figures) > 3


def test_killed_bridges_lose_and_duplicate_nothing(siege):
    *timed, killed = bridge.attack(siege, kills=3, old=5, seconds=3, seed=2)
    assert ["p95" in figure.figure for figure in timed] == [True, True]
    assert killed.met, killed


def test_every_page_of_a_large_academy_answers(siege):
    filled, unknown, *opened = pages.attack(siege, balls=400, lessons=4, turns=2)
    assert filled.met, filled
    assert "nothing is kept" in unknown.what
    assert len(opened) == len(pages.PAGES)
