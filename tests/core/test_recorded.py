"""A recorded drive: gradient and acceleration from its rows, and rows that share one working-out of the components."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.core.base import FloatArray
from ebbrin.core.drive.legs import Legs, Trouble, drive_legs
from ebbrin.core.drive.places import places
from ebbrin.core.drive.recorded import acceleration_along, gradient_along
from ebbrin.core.system.balance import road_power
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


@pytest.mark.parametrize("which", range(len(DEMO)), ids=DEMO)
def test_shared_places_lead_to_the_same_temperatures(which: int) -> None:
    system, cases = to_core(demo_builds()[which])
    each = wandering(cases, 900)
    shared = replace(each, shared=True)
    grouped = places(each.points, each.running, road_power(system, each.points))
    assert len(grouped.running) < 600
    alone = drive_legs(system, each, 340.0)
    together = drive_legs(system, shared, 340.0)
    # Up to where it boils: then coolant leaves a little sooner or later.
    steps = min(len(alone.time), len(together.time))
    boils = (together.boiling_margin[:steps] <= 0.0) | (alone.boiling_margin[:steps] <= 0.0)
    calm = np.cumsum(boils) == 0
    assert calm.sum() > 600
    apart = np.abs(together.engine_out[:steps] - alone.engine_out[:steps])[calm]
    assert apart.max() < 0.4
    assert apart.mean() < 0.1
    # Heat itself is not shared: it is that of each row.
    same_stage = together.stage[:steps] == alone.stage[:steps]
    assert np.allclose(together.heat[:steps][same_stage], alone.heat[:steps][same_stage])
    assert abs(together.energy_gap) < 1e-6


def test_a_fault_breaks_a_recording_from_when_it_is_told() -> None:
    system, cases = to_core(demo_builds()[0])
    legs = replace(wandering(cases, 600), shared=True)
    sound = drive_legs(system, legs, 340.0)
    broken = drive_legs(system, legs, 340.0, [Trouble("core_silted", 0.8, 300.0)])
    before = sound.time < 299.0
    assert np.allclose(broken.engine_out[before], sound.engine_out[before])
    assert broken.engine_out[-1] > sound.engine_out[-1] + 1.0


def test_places_keep_apart_what_switches_and_hold_every_row() -> None:
    system, cases = to_core(demo_builds()[0])
    legs = wandering(cases, 300)
    running = np.arange(300) % 7 > 0
    heater = np.arange(300) % 5 == 0
    points = replace(legs.points, heater=heater)
    grouped = places(points, running, road_power(system, points), most=60)
    assert len(grouped.running) <= 60
    assert (grouped.running[grouped.of] == running).all()
    assert (np.asarray(grouped.points.heater)[grouped.of] == heater).all()
    power = road_power(system, points)
    mean = np.bincount(grouped.of, power) / np.bincount(grouped.of)
    assert grouped.points.given_power == pytest.approx(mean)
