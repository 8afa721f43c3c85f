"""The drive over time against textbooks, steam tables and facts of the trade."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.linalg import expm

from ebbrin.core.drive.events import EventKind, events
from ebbrin.core.drive.legs import Legs, Trouble, drive_legs
from ebbrin.core.drive.plant import BLOCK_LOSS, STILL_SHARE, plant_of
from ebbrin.core.drive.run import LATENT, Course
from ebbrin.core.system.parts import Cases, System
from oracles.builds import part, plain_build, to_core
from oracles.fluids import coolprop

pytestmark = pytest.mark.long

ZERO = 273.15


def over(
    built: tuple[System, Cases],
    lasts: list[float],
    start: float,
    *troubles: Trouble,
    running: list[bool] | None = None,
) -> Course:
    """The only case of a build, in as many legs as there are durations."""
    system, cases = built
    on = np.ones(len(lasts), bool) if running is None else np.array(running)
    return drive_legs(
        system, Legs(cases.taken(np.zeros(len(lasts), np.int64)), np.array(lasts), on), start, troubles
    )


def idling(**parts: object) -> tuple[System, Cases]:
    """An engine at fast idle on a mild day, with nothing that takes its heat but the radiator."""
    build = plain_build(brake_power_kw=6, engine_rpm=1200, speed_km_h=0, ambient_c=20)
    return to_core(part(build, **{"circuit__heater": False} | parts))


def stores(system: System) -> tuple[float, float]:
    """Heat capacities of the engine's metal and of the coolant in it [J/K]."""
    plant = plant_of(system)
    return plant.metal, plant.in_engine * plant.filled_density * plant.volume * plant.coolant_heat


def test_a_closed_engine_keeps_the_heat_that_it_gets() -> None:
    # Incropera, Fundamentals of Heat and Mass Transfer, first law for a closed volume: what goes in is what the lumps
    # of metal and coolant gain.
    built = idling()
    metal, coolant = stores(built[0])
    course = over(built, [240.0], 293.15, Trouble("thermostat_shut"))
    leak = course.flow * plant_of(built[0]).coolant_heat * (course.engine_out - course.bottom_hose)
    given = float((course.heat - leak).sum()) * 0.25
    gained = metal * (course.metal[-1] - 293.15) + coolant * (course.engine_out[-1] - 293.15)
    assert gained == pytest.approx(given, rel=0.01)
    assert leak.sum() < 0.12 * course.heat.sum()


def test_metal_and_standing_coolant_meet_as_two_bodies_do() -> None:
    # Two lumps that exchange heat, one of them losing some to the air: x' = A x, solved by SciPy's matrix exponential.
    built = to_core(
        part(
            plain_build(brake_power_kw=60, engine_rpm=4500, speed_km_h=110),
            circuit__heater=False,
            radiator__condition="new",
            air__exit_loss_coefficient=0,
        )
    )
    system, cases = built
    course = over(built, [300.0, 90.0], 363.15, running=[True, False])
    plant = plant_of(system)
    metal, coolant = plant.metal, plant.in_engine * course.mass[1199] * plant.coolant_heat
    grip, ambient = plant.metal_conductance * STILL_SHARE, float(cases.ambient[0])
    rates = np.array([[-(grip + BLOCK_LOSS) / metal, grip / metal], [grip / coolant, -grip / coolant]])
    before = np.array([course.metal[1199], course.engine_out[1199]]) - ambient
    assert before[0] - before[1] > 10.0
    for step in (1239, 1319, 1559):
        exact = expm(rates * (course.time[step] - 300.0)) @ before + ambient
        assert course.metal[step] == pytest.approx(exact[0], abs=0.1)
        assert course.engine_out[step] == pytest.approx(exact[1], abs=0.1)


def test_heat_of_vaporisation_is_that_of_the_steam_tables() -> None:
    # IAPWS through CoolProp, at 100 to 120 °C.
    for kelvin in (373.15, 383.15, 393.15):
        exact = coolprop("H", "T", kelvin, "Q", 1, "Water") - coolprop("H", "T", kelvin, "Q", 0, "Water")
        assert exact == pytest.approx(LATENT, rel=0.03)


def test_the_bottle_takes_what_warm_water_grows_by() -> None:
    # Density of water from IAPWS through CoolProp, from the fill at 20 °C to what it has when warm; with no cap
    # pressure nothing is held back by hoses that give. All of it moves, so it is warm throughout.
    built = idling(coolant__kind="water", cap__pressure_kpa=0, cap__bottle_l=5.0)
    course = over(built, [800.0], 293.15, Trouble("thermostat_open"), Trouble("fan_dead"))
    warm = 0.5 * float(course.engine_out[-1] + course.bottom_hose[-1])
    assert 335.0 < warm < 371.0
    assert (np.diff(course.engine_out[40:]) >= 0.0).all()
    filled, grown = (coolprop("D", "T", kelvin, "P", 101_325.0, "Water") for kelvin in (293.15, warm))
    volume = float(built[0].coolant_volume)
    assert course.bottle / filled == pytest.approx(volume * (1.0 - grown / filled), rel=0.06)
    assert course.ground == 0.0


def test_a_core_goes_cool_within_a_minute_once_no_hot_coolant_comes() -> None:
    # Common practice, no source: a cooler core with a good fan goes cool to the touch within half a minute. A core
    # of this size with its coolant, standing still in front of half a cubic metre a second, takes about twice that.
    curve = [{"flow_m3_per_s": 0, "pressure_pa": 350}, {"flow_m3_per_s": 1.4, "pressure_pa": 0}]
    built = idling(air__fan__curve=curve, air__shroud="full")
    ambient = float(built[1].ambient[0])
    course = over(built, [61.0], 363.15, Trouble("thermostat_shut"), Trouble("fan_always_on"))
    # With the same air through it, what it sheds goes with how much hotter than the air it is.
    felt = ambient - ZERO + (363.15 - ambient) * course.shed / course.shed[0]
    assert felt[119] < 63.0  # half a minute: it can be held
    assert felt[239] < 50.0  # a minute: warm


def test_an_engine_that_is_driven_off_is_warm_within_minutes() -> None:
    # Common practice, no source: some 3 to 10 minutes of driving on a mild day, longer at idle.
    road = to_core(plain_build(brake_power_kw=12, engine_rpm=2200, speed_km_h=60, ambient_c=15))
    opens = [
        next(e.time for e in events(course, 381.15) if e.kind is EventKind.THERMOSTAT_OPENS)
        for course in (over(road, [1500.0], 288.15), over(idling(), [1800.0], 288.15))
    ]
    assert 120.0 < opens[0] < 600.0
    assert opens[0] < opens[1] < 1500.0


def test_a_dead_return_valve_fills_the_bottle_and_empties_the_radiator() -> None:
    # Common practice, no source: over warm and cold again and again, nothing comes back.
    built = idling(cap__bottle_l=5.0)
    warm_and_cold = [1500.0, 7200.0, 1500.0, 7200.0]
    on = [True, False, True, False]
    sound = over(built, warm_and_cold, 293.15, running=on)
    dead = over(built, warm_and_cold, 293.15, Trouble("return_valve_dead"), running=on)
    assert sound.bottle < 0.15
    assert dead.bottle > sound.bottle + 0.1
    assert dead.mass[-1] < sound.mass[-1]


def test_a_swept_pressure_stays_between_the_caps_valves() -> None:
    built = idling()
    course = over(built, [1500.0, 7200.0], 293.15, running=[True, False])
    cap = float(built[0].cap.holds)
    assert course.pressure.max() <= cap + 1e-6
    assert course.pressure.min() >= -3000.0 - 1e-6
    assert course.pressure.max() > 0.3 * cap
