"""Flight against published averages, a tight integration, and physical laws."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from validation.published import averages

from instavis_core.flight import Air, fly, fly_traced, roll_after
from instavis_core.flight.aerodynamics import (
    BALL_AREA,
    BALL_MASS,
    BALL_RADIUS,
    drag_coefficient,
    lift_coefficient,
    spin_decay_rate,
)


@pytest.mark.parametrize("who", ["men", "women"])
def test_published_averages_are_reproduced(who):
    known = averages(who)
    flight = fly(known.ball_speed, known.launch, 0, known.spin, 0, Air(temperature_c=25))
    carry, apex = np.abs(flight.carry_m / known.carry - 1), np.abs(flight.apex_m / known.apex - 1)
    assert len(known.clubs) >= 10
    assert carry.max() < 0.05
    assert carry.mean() < 0.03
    assert apex.mean() < 0.10


@pytest.mark.parametrize(
    ("speed", "angle", "direction", "spin", "axis", "wind"),
    [
        (72, 11, -3, 2700, 8, 0),
        (53, 17, 2, 6800, -12, 6),
        (25, 35, 0, 9000, 0, 3),
        (70, 4, 0, 2200, 30, 0),
        (40, 2, 1, 3000, 5, 0),
        (82, 40, 0, 11000, -20, 9),
    ],
)
def test_agrees_with_a_tight_integration(speed, angle, direction, spin, axis, wind):
    air = Air(wind_mps=wind, wind_from_deg=40)
    fast = fly(speed, angle, direction, spin, axis, air)
    forward, right = independent_landing(speed, angle, direction, spin, axis, air)
    assert fast.carry_m[0] == pytest.approx(np.hypot(forward, right), rel=1e-3)
    assert fast.side_m[0] == pytest.approx(right, abs=0.1)
    assert fly(speed, angle, direction, spin, axis, air).apex_m[0] > 0


def independent_landing(speed, angle, direction, spin, axis, air):
    """The same forces written with vectors and solved by an adaptive method at rtol 1e-9."""
    a, d, t = np.radians([angle, direction, axis])
    velocity = speed * np.array([np.cos(a) * np.cos(d), np.sin(a), np.cos(a) * np.sin(d)])
    right, up = np.array([-np.sin(d), 0, np.cos(d)]), np.array([0, 1, 0])
    turn = np.cos(t) * right - np.sin(t) * up
    turn -= velocity * (turn @ velocity) / (velocity @ velocity)
    turn /= np.linalg.norm(turn)

    def slope(_, state):
        through = state[3:6] - air.wind * Air.wind_share(np.array(state[1]))
        v = np.linalg.norm(through)
        ratio = BALL_RADIUS * state[6] / v
        force = 0.5 * air.density * BALL_AREA / BALL_MASS * v
        pull = -drag_coefficient(ratio, 2 * BALL_RADIUS * v / air.viscosity) * through
        lift = lift_coefficient(ratio) * np.cross(turn, through)
        return [*state[3:6], *(force * (pull + lift) - 9.81 * up), -spin_decay_rate(v) * state[6]]

    def ground(_, state):
        return state[1] if _ > 0 else 1.0

    ground.terminal, ground.direction = True, -1
    start = [0, 0, 0, *velocity, spin * 2 * np.pi / 60]
    done = solve_ivp(slope, (0, 20), start, rtol=1e-9, atol=1e-9, events=ground)
    return done.y_events[0][0][0], done.y_events[0][0][2]


def test_spin_axis_to_the_right_curves_to_the_right():
    flight = fly(60, 15, 0, 5000, np.array([-10.0, 0, 10]))
    assert flight.curve_m[0] < -5
    assert abs(flight.curve_m[1]) < 1e-6
    assert flight.curve_m[2] == pytest.approx(-flight.curve_m[0])


@settings(max_examples=40, deadline=None, derandomize=True)
@given(
    speed=st.floats(20, 85),
    angle=st.floats(2, 45),
    direction=st.floats(-10, 10),
    spin=st.floats(500, 11000),
    axis=st.floats(-40, 40),
)
def test_mirror_image_and_more_speed_goes_further(speed, angle, direction, spin, axis):
    flight = fly(
        [speed, speed, speed * 1.05],
        angle,
        [direction, -direction, direction],
        spin,
        [axis, -axis, axis],
    )
    assert flight.side_m[1] == pytest.approx(-flight.side_m[0], abs=1e-6)
    assert flight.carry_m[1] == pytest.approx(flight.carry_m[0])
    assert flight.carry_m[2] > flight.carry_m[0]


def test_wind_and_air_have_the_right_direction():
    calm = fly(60, 15, 0, 5000, 0).carry_m[0]
    assert fly(60, 15, 0, 5000, 0, Air(wind_mps=6)).carry_m[0] < calm - 5
    assert fly(60, 15, 0, 5000, 0, Air(wind_mps=6, wind_from_deg=180)).carry_m[0] > calm + 3
    assert fly(60, 15, 0, 5000, 0, Air(wind_mps=6, wind_from_deg=90)).side_m[0] < -3
    # Rule of thumb of the trade: one per cent of carry or a little more for 300 m of altitude.
    assert 1.025 < fly(70, 11, 0, 2700, 0, Air(pressure_hpa=850)).carry_m[0] / fly(70, 11, 0, 2700, 0).carry_m[0] < 1.08


def test_moist_air_has_the_published_density():
    # CIPM-2007 (Picard et al., Metrologia 45 (2008) 149): 1.1992 kg/m³ at 20 °C, 1013.25 hPa, 50 %.
    assert Air().density == pytest.approx(1.1992, rel=2e-3)


def test_a_traced_flight_ends_where_the_fast_one_does():
    flight, points = fly_traced(60, 15, 3, 5000, 5)
    assert np.hypot(points[-1, 1], points[-1, 3]) == pytest.approx(flight.carry_m[0])
    assert points[:, 2].max() == pytest.approx(flight.apex_m[0], abs=0.15)


def test_batch_flight_equals_single_flights():
    rng = np.random.default_rng(3)
    balls = [rng.uniform(20, 75, 9000), rng.uniform(2, 40, 9000), rng.normal(0, 4, 9000)]
    balls += [rng.uniform(1500, 9000, 9000), rng.normal(0, 10, 9000)]
    together = fly(*balls)
    for i in (0, 3999, 4000, 8999):
        alone = fly(*(column[i] for column in balls))
        assert alone.carry_m[0] == pytest.approx(together.carry_m[i], rel=1e-9)
        assert alone.apex_m[0] == pytest.approx(together.apex_m[i], rel=1e-9)


def test_topped_and_missed_balls_stay_on_the_ground():
    flight = fly([30.0, 0.0], [-8.0, 0.0], 0, [2000.0, 0.0], 0)
    assert np.all(flight.carry_m < 0.5)
    assert np.all(np.isfinite(flight.time_s))


def test_a_ball_blown_back_has_no_positive_carry():
    back = fly(25.0, 65.0, 0, 9000.0, 0, Air(wind_mps=25.0, wind_from_deg=0.0))
    assert back.carry_m[0] < 0


def test_thinner_and_warmer_air_carry_every_ball_farther_by_about_its_density():
    """At 2,200 m players reckon with some 8 % (a well-kept rule of 1.16 % a thousand feet); a warm day gives 2 %."""
    speed, launch, spin = np.array([74.7, 53.6, 45.6]), np.array([10.9, 16.3, 24.2]), np.array([2686, 7097, 9304])
    sea, high = (fly(speed, launch, 0, spin, 0, Air(pressure_hpa=p)).carry_m for p in (1013.25, 775.0))
    cold, warm = (fly(speed, launch, 0, spin, 0, Air(temperature_c=t)).carry_m for t in (10.0, 30.0))
    assert np.all((high / sea > 1.07) & (high / sea < 1.10))
    assert np.all((warm / cold > 1.015) & (warm / cold < 1.03))


def test_topped_balls_have_no_run():
    assert np.isnan(roll_after(40.0, 8.0, -500.0))
    assert np.isnan(roll_after(33.0, 40.0, 3000.0))
    assert np.isfinite(roll_after(28.0, 38.0, 2500.0))


def test_low_driver_runs_and_steep_wedge_stops():
    driver, wedge = fly(70, 9, 0, 2300, 0), fly(35, 32, 0, 9500, 0)
    runs = [float(roll_after(f.landing_mps, f.descent_deg, f.landing_rpm)[0]) for f in (driver, wedge)]
    assert 10 < runs[0] < 45
    assert -6 < runs[1] < 3
    # More backspin, a steeper or a slower landing: never a longer run.
    assert np.all(np.diff(roll_after(25.0, 38.0, np.array([1000.0, 3000, 6000, 9000]))) <= 0)
    assert np.all(np.diff(roll_after(25.0, np.array([25.0, 35, 45, 55]), 3000.0)) <= 0)


def test_penner_bounce_at_a_landing_worked_by_hand():
    # A ball without spin falling straight down at 10 m/s: e = 0.51 − 0.375 + 0.0903 = 0.2253; it does not run.
    assert roll_after(10.0, 90.0, 0.0) == pytest.approx(0.0, abs=1e-9)
