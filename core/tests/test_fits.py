"""Fits of single balls: cached ones equal fresh ones, and impossible landings are found."""

from __future__ import annotations

import numpy as np
import pytest

from instavis_core.flight import fly
from instavis_core.reading import fits
from instavis_core.reading.completion import complete
from instavis_core.reading.doubts import _looked_up, doubtful_landings


@pytest.fixture(autouse=True)
def _nothing_remembered(monkeypatch):
    monkeypatch.setattr(fits, "_remembered", {})


def launches(n: int, seed: int = 1) -> np.ndarray:
    rng = np.random.default_rng(seed)
    return np.column_stack(
        [
            rng.uniform(25, 75, n),
            rng.uniform(6, 40, n),
            rng.normal(0, 4, n),
            rng.uniform(1500, 10000, n),
            rng.normal(0, 10, n),
        ]
    )


def test_ball_is_fitted_once_and_cached(hit, monkeypatch):
    block = hit("hip-stall", 3, 12)
    calls = []
    fit = fits._fit
    monkeypatch.setattr(fits, "_fit", lambda *a: calls.append(len(a[0])) or fit(*a))
    first, second = complete(block), complete(block)
    assert calls == [12]
    assert first.doubtful == second.doubtful
    more = complete(hit("hip-stall", 3, 14))
    assert sum(calls) <= 12 + 14
    assert len(more.doubtful) == 14


def test_cached_fits_equal_fresh_ones(hit):
    block = hit("upper-body-first", 5, 16, columns="ball")
    fresh = complete(block).columns["path_deg"]
    again = complete(block.keep(np.arange(16) % 2 == 0)).columns["path_deg"]
    np.testing.assert_allclose(again, fresh[::2])
    fits._remembered.clear()
    # Balls are fitted together until all are settled, so a ball alone may stop a step earlier.
    np.testing.assert_allclose(complete(block.keep(np.arange(16) % 2 == 0)).columns["path_deg"], fresh[::2], atol=0.02)


def test_another_club_needs_another_fit(hit, knowledge):
    from dataclasses import replace

    block = hit("hang-back", 5, 8, columns="ball")
    seven, five = complete(block), complete(replace(block, club=knowledge.vocabulary.clubs["5i"]))
    assert not np.allclose(seven.columns["dynamic_loft_deg"], five.columns["dynamic_loft_deg"], equal_nan=True)


def test_fit_cache_is_bounded(hit, monkeypatch):
    monkeypatch.setattr(fits, "MAX_REMEMBERED", 20)
    for seed in range(5):
        complete(hit("hip-stall", seed, 12))
    assert len(fits._remembered) == 20


def test_flight_table_is_close_to_the_flights():
    table = launches(300)
    carry, side = _looked_up(table)
    flight = fly(*table.T)
    assert np.median(np.abs(carry / flight.carry_m - 1)) < 0.02
    assert np.max(np.abs(carry - flight.carry_m) / np.maximum(flight.carry_m, 20)) < 0.12
    assert np.max(np.abs(side - flight.side_m) / np.maximum(flight.carry_m, 40)) < 0.10


@pytest.mark.parametrize(
    ("carry", "side", "found"), [(1.0, 0.0, None), (0.5, 0.0, "carry_m"), (1.6, 0.0, "carry_m"), (1.0, 60.0, "side_m")]
)
def test_impossible_landings_are_named(carry, side, found):
    table = launches(40, seed=2)
    table[:, 1] = np.clip(table[:, 1], 10, 30)
    table[:, 0] = np.clip(table[:, 0], 45, 75)
    flight = fly(*table.T)
    landing = np.column_stack([flight.carry_m * carry, flight.side_m + side])
    assert set(doubtful_landings(table, landing)) == {found}


def test_balls_without_launch_or_landing_are_not_doubted():
    table = launches(4)
    landing = np.full((4, 2), np.nan)
    assert doubtful_landings(table, landing) == [None] * 4
    table[:, 3] = np.nan
    assert doubtful_landings(table, np.ones((4, 2))) == [None] * 4
    assert doubtful_landings(np.empty((0, 5)), np.empty((0, 2))) == []
