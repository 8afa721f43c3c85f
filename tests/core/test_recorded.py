"""A recorded drive: gradient and acceleration from its rows, each of which is a leg."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.core.base import FloatArray
from ebbrin.core.drive.legs import Legs, Trouble, drive_legs
from ebbrin.core.drive.recorded import acceleration_along, gradient_along
from ebbrin.core.system.parts import Cases
from ebbrin.demo import demo_builds
from oracles.builds import to_core

DEMO = [build.name for build in demo_builds()]


@given(slope=st.floats(-0.3, 0.3), speed=st.floats(0.5, 60.0), every=st.floats(0.2, 20.0))
def test_an_even_slope_is_found_whatever_the_speed(slope: float, speed: float, every: float) -> None:
    time: FloatArray = every * np.arange(60.0)
    altitude = 100.0 + slope * speed * time
    assert gradient_along(time, np.full(60, speed), altitude) == pytest.approx(np.full(60, slope), abs=1e-6)


def test_steps_of_a_metre_do_not_become_hills() -> None:
    # A logger that rounds altitude to a metre, once a second at 36 km/h: 10 % between two rows.
    time = np.arange(600.0)
    altitude = np.round(200.0 + 0.04 * 10.0 * time)
    gradient = gradient_along(time, np.full(600, 10.0), altitude)
    assert np.abs(np.diff(altitude)).max() / 10.0 == 0.1
    assert np.abs(gradient - 0.04).max() < 0.021


def test_a_car_that_stands_has_no_gradient_and_no_acceleration() -> None:
    time, still = np.arange(50.0), np.zeros(50)
    assert (gradient_along(time, still, np.full(50, 300.0)) == 0.0).all()
    assert (acceleration_along(time, still) == 0.0).all()


def test_an_even_acceleration_is_found() -> None:
    time = np.cumsum(np.random.default_rng(4).uniform(0.2, 1.5, 80))
    assert acceleration_along(time, 3.0 + 1.7 * time) == pytest.approx(np.full(80, 1.7), rel=1e-9)


def wandering(cases: Cases, rows: int) -> Legs:
    """A drive up and down through town and hills, a row each second."""
    t = np.arange(rows, dtype=float)
    speed = np.clip(14.0 + 12.0 * np.sin(t / 47.0) + 6.0 * np.sin(t / 11.0), 0.0, None)
    one = cases.taken(np.zeros(rows, np.int64))
    points = replace(
        one,
        speed=speed,
        crank_speed=np.where(speed < 1.0, 15.0, 18.0 + 1.1 * speed),
        gradient=0.04 * np.sin(t / 130.0),
        acceleration=np.gradient(speed),
        altitude=400.0 + 120.0 * np.sin(t / 260.0),
        ambient=np.full(rows, 303.15),
        power_is_given=np.zeros(rows, bool),
        air_conditioning=np.zeros(rows, bool),
    )
    return Legs(points, np.ones(rows), np.ones(rows, bool))


def test_a_fault_breaks_a_recording_from_when_it_is_told() -> None:
    system, cases = to_core(demo_builds()[0])
    legs = wandering(cases, 600)
    sound = drive_legs(system, legs, 340.0)
    broken = drive_legs(system, legs, 340.0, [Trouble("core_silted", 0.8, 300.0)])
    before = sound.time < 299.0
    assert np.allclose(broken.engine_out[before], sound.engine_out[before])
    assert broken.engine_out[-1] > sound.engine_out[-1] + 1.0


def test_a_leg_cut_into_rows_is_the_same_leg() -> None:
    system, cases = to_core(demo_builds()[1])
    whole = Legs(cases.taken(np.array([1, 0])), np.array([600.0, 300.0]), np.ones(2, bool))
    rows = Legs(cases.taken(np.repeat([1, 0], [600, 300])), np.ones(900), np.ones(900, bool))
    assert np.array_equal(
        drive_legs(system, whole, 300.0).engine_out, drive_legs(system, rows, 300.0).engine_out
    )
