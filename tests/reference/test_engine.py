"""Engine heat and road load against published laws and numbers worked by hand."""

from __future__ import annotations

import numpy as np
import pytest

from ebbrin.core.engine import fuel as fuels
from ebbrin.core.engine import heat
from ebbrin.core.engine.heat import Engine
from ebbrin.core.engine.road_load import Motion, Vehicle, brake_power, crank_speed
from oracles.parts import WATER

AIR = 1.1  # kg/m³


def engine(kind: int, **changes: float) -> Engine:
    given = {
        "kind": kind, "school": heat.ENERGY_BALANCE, "fuel": fuels.PETROL, "displacement": 2.0e-3,
        "rated_power": 100e3, "rated_speed": 95.0, "stroke": 0.086, "tune_factor": 1.0, "heat_factor": 1.0,
        "part_load_loss": fuels.PART_LOAD_LOSS,
        "cooled_turbo": 0.0, "oil_cooler": 0.0, "egr_cooler": 0.0, "gearbox_loss": 0.0,
        "electrical_load": 0.0, "heat_capacity": 4e4, "measured_heat": 0.0, "measured_fuel": 0.0,
        "measured_power": 50e3, "measured_speed": 60.0,
    }  # fmt: skip
    return Engine(**{name: np.asarray(value) for name, value in (given | changes).items()})


def test_petrol_friction_is_that_of_barnes_moss() -> None:
    # Heywood 1988, ch. 13: 0.97 + 0.15 n + 0.05 n² bar; 1.87 bar at 3000 rpm.
    assert fuels.friction_pressure(fuels.PETROL_NA, 50.0, 0.086) == pytest.approx(1.87e5)


def test_diesel_friction_is_that_of_millington_and_hartles() -> None:
    # Heywood 1988, ch. 13 (from memory): 75 + 48 n + 0.4 S_p² kPa; 2000 rpm, 90 mm: S_p = 6 m/s.
    assert fuels.friction_pressure(fuels.DIESEL, 2000 / 60, 0.09) == pytest.approx((75 + 96 + 0.4 * 36) * 1e3)


@pytest.mark.parametrize(
    # Heywood 1988, table 12.1 (from memory): coolant share of fuel energy at rated power, over all engines.
    ("kind", "low", "high"),
    [
        (fuels.PETROL_NA, 0.17, 0.26),
        (fuels.PETROL_BOOSTED, 0.17, 0.26),
        (fuels.DIESEL, 0.16, 0.35),
        (fuels.SIDE_VALVE, 0.17, 0.30),  # choice: vintage engines lie at the top and beyond
        (fuels.PRECHAMBER_DIESEL, 0.16, 0.35),
    ],
)
def test_coolant_share_at_rated_power_lies_in_heywoods_band(kind: int, low: float, high: float) -> None:
    e = engine(kind)
    result = heat.heat_rejection(e, 100e3, 95.0, AIR, 0.0, 0.0)
    burnt = fuels.fuel_power(e, 100e3, 95.0, None)
    assert low <= result.engine / burnt <= high
    several = heat.schools(e, 100e3, 95.0)
    assert several.published_low == pytest.approx(min(low, heat.COOLANT_SHARE_LOW[kind]) * burnt)
    assert several.published_high == pytest.approx(high * burnt)
    # The scatter of one engine of a known kind lies within, and its median in the middle of it.
    assert several.published_low - 1e-6 <= several.low[0] < several.heat[0] < several.high[0]
    assert several.high[0] <= several.published_high + 1e-6
    assert several.heat[0] == pytest.approx(0.5 * (several.low[0] + several.high[0]), rel=0.03)


def test_energy_balance_by_hand() -> None:
    # fmep at 5700 rpm 3.4495 bar, 65.54 kW of friction; (100 + 65.54)/0.37 = 447.4 kW; a fifth of it. At rated power
    # and above nothing is throttled.
    result = heat.heat_rejection(engine(fuels.PETROL_BOOSTED), 100e3, 95.0, AIR, 0.0, 0.0)
    assert result.engine == pytest.approx(0.19 * (100e3 + 3.4495e5 * 2e-3 * 47.5) / 0.35, rel=1e-4)


def test_a_throttled_engine_pumps_at_part_load_by_hand() -> None:
    # 3000 rpm, boosted, 20 kW of the 1.15·50/95·100 = 60.5 kW it has there: load 0.3304, 0.6·0.6696 = 0.4018 bar on top
    # of 1.87 bar; (20 + 2.2718e5·2e-3·25 W)/0.35 = 89.6 kW.
    burnt = fuels.fuel_power(engine(fuels.PETROL_BOOSTED), 20e3, 50.0, AIR)
    assert burnt == pytest.approx((20e3 + 2.27177e5 * 2e-3 * 25) / 0.35, rel=1e-4)
    assert fuels.fuel_power(engine(fuels.PETROL_BOOSTED), 20e3, 50.0, None) < burnt


@pytest.mark.parametrize(
    # Idle fuel without load, a US energy department's table (from memory): 2.0 L petrol 0.45, 4.6 L petrol 1.10, 2.0 L
    # diesel 0.54 kg/h.
    ("kind", "litres", "kg_per_h"),
    [(fuels.PETROL_NA, 2.0, 0.45), (fuels.PETROL_NA, 4.6, 1.10), (fuels.DIESEL, 2.0, 0.54)],
)
def test_idle_fuel_is_near_what_is_published(kind: int, litres: float, kg_per_h: float) -> None:
    fuel = fuels.DIESEL_FUEL if kind == fuels.DIESEL else fuels.PETROL
    e = engine(kind, displacement=litres * 1e-3, rated_power=50e3 * litres, fuel=fuel)
    found = fuels.fuel_mass_flow(e, fuels.fuel_power(e, 0.0, 750 / 60, AIR)) * 3600.0
    assert found == pytest.approx(kg_per_h, rel=0.40)


def test_schools_stand_side_by_side_and_one_is_chosen() -> None:
    # Thirds: as much as the crank, said of rated power; the shares of brake power are common practice, no source.
    for kind, share in ((0, 0.65), (1, 0.55), (2, 0.55), (3, 0.90), (4, 0.55)):
        rated = heat.schools(engine(kind), 100e3, 95.0)
        assert rated.heat[heat.THIRDS] == pytest.approx(100e3)
        assert rated.heat[heat.SHARE_OF_POWER] == pytest.approx(share * 100e3)
        several = heat.schools(engine(kind), 60e3, 60.0, AIR)
        assert np.all((several.low < several.heat) & (several.heat < several.high))
        for school in range(4):
            chosen = heat.heat_rejection(engine(kind, school=school), 60e3, 60.0, AIR, 0.0, 0.0)
            assert chosen.engine == pytest.approx(several.heat[school])


def test_rules_go_with_the_fuel_below_rated_power() -> None:
    # A third of 2 kW of idle power would be no answer: below rated power a rule follows the fuel to the power 0.85.
    e = engine(fuels.PETROL_NA)
    for school, rated in ((heat.THIRDS, 100e3), (heat.SHARE_OF_POWER, 65e3)):
        idle = heat.schools(e, 2e3, 14.0, AIR)
        burnt, whole = fuels.fuel_power(e, 2e3, 14.0, AIR), fuels.fuel_power(e, 100e3, 95.0, None)
        wanted = min(rated * (burnt / whole) ** 0.85, 0.45 * burnt)
        assert idle.heat[school] == pytest.approx(wanted)
        assert idle.low[school] < idle.heat[school] < idle.high[school]
        assert idle.heat[school] > 2e3


def test_measured_heat_is_met_where_it_was_measured_and_follows_the_load() -> None:
    # 100 L/min of water warming by 6 K at 90 °C: 965 kg/m³, 4205 J/kg K: 40.6 kW.
    carried = heat.carried_heat(WATER, 100e-3 / 60, 6.0)
    assert carried == pytest.approx(100e-3 / 60 * 965.3 * 4205 * 6, rel=2e-3)
    e = engine(fuels.PETROL_NA, school=heat.MEASURED, measured_heat=float(carried), cooled_turbo=1.0)
    there = heat.heat_rejection(e, 50e3, 60.0, fuels.RATED_DENSITY, 0.0, 0.0)
    assert there.engine == pytest.approx(carried)
    half = heat.heat_rejection(e, 25e3, 60.0, fuels.RATED_DENSITY, 0.0, 0.0)
    balance = heat.schools(engine(fuels.PETROL_NA), np.array([25e3, 50e3]), 60.0, fuels.RATED_DENSITY).heat[0]
    extra = 0.01 * 25e3
    assert (half.engine - extra) / (carried - 2 * extra) == pytest.approx(balance[0] / balance[1])


def test_measured_fuel_flow_sets_the_efficiency() -> None:
    # LHV 43.5 MJ/kg (Heywood 1988, app. D, from memory): 14.4 kg/h are 174 kW.
    e = engine(fuels.PETROL_NA, school=heat.MEASURED, measured_fuel=14.4 / 3600)
    there = fuels.fuel_power(e, 50e3, 60.0, fuels.RATED_DENSITY)
    assert there == pytest.approx(14.4 / 3600 * 43.5e6)
    assert fuels.fuel_mass_flow(e, there) == pytest.approx(14.4 / 3600)
    ethanol = engine(fuels.PETROL_NA, fuel=fuels.E85)
    assert fuels.fuel_mass_flow(ethanol, 174e3) == pytest.approx(174e3 / 29.2e6)


def test_additions_stand_on_their_own_lines() -> None:
    e = engine(fuels.DIESEL, cooled_turbo=1.0, oil_cooler=0.06, egr_cooler=0.03, tune_factor=1.2)
    several = heat.schools(e, 80e3, 50.0, AIR)
    burnt = fuels.fuel_power(e, 80e3, 50.0, AIR)
    assert several.turbo == pytest.approx(800.0)
    assert several.oil == pytest.approx(4800.0)
    assert several.egr == pytest.approx(0.03 * burnt)
    bare = heat.schools(engine(fuels.DIESEL), 80e3, 50.0, AIR)
    assert several.heat[0] == pytest.approx(1.2 * bare.heat[0] + 5600.0 + 0.03 * burnt)


def test_boosted_engines_keep_their_power_in_thin_air() -> None:
    at = np.array([fuels.RATED_DENSITY, 0.9])
    assert fuels.full_power(engine(fuels.PETROL_BOOSTED), 95.0, at).tolist() == [100e3, 100e3]
    for kind in (fuels.PETROL_NA, fuels.SIDE_VALVE, fuels.PRECHAMBER_DIESEL):
        assert fuels.full_power(engine(kind), 95.0, at).tolist() == pytest.approx([100e3, 90e3 / 1.157])
    assert fuels.full_power(engine(fuels.PETROL_NA), 95.0 / 2, fuels.RATED_DENSITY) == pytest.approx(57.5e3)


def test_alternator_and_compressor_are_driven_by_the_engine() -> None:
    # Common practice, no source: an alternator gives back some 55 % of what it takes.
    e = engine(fuels.PETROL_NA, electrical_load=330.0)
    assert heat.demanded_power(e, 10e3, 2e3, 220.0) == pytest.approx(10e3 + 2e3 + 1e3)


def test_idle_heat_is_what_the_trade_knows() -> None:
    # Common practice, no source: a warm engine idles at 2 to 8 kW of coolant heat.
    result = heat.heat_rejection(engine(fuels.PETROL_NA), 0.0, 15.0, AIR, 0.0, 400.0)
    assert 2e3 < result.engine < 8e3


def test_heat_never_passes_its_share_of_the_fuel() -> None:
    power = np.linspace(0.0, 100e3, 20)
    e = engine(fuels.DIESEL)
    result = heat.heat_rejection(e, power, 40.0, AIR, 0.0, 0.0)
    most = heat.MOST_OF_FUEL * fuels.fuel_power(e, power, 40.0, AIR)
    assert np.all(heat.schools(e, power, 40.0, AIR).high[0] <= most + 1e-6)
    assert np.all(np.diff(result.engine) > 0)


def test_gearbox_loss_stays_out_of_the_engine() -> None:
    with_box = heat.heat_rejection(engine(fuels.DIESEL, gearbox_loss=0.12), 50e3, 40.0, AIR, 0.0, 0.0)
    without = heat.heat_rejection(engine(fuels.DIESEL), 50e3, 40.0, AIR, 0.0, 0.0)
    assert with_box.gearbox == pytest.approx(6e3)
    assert with_box.engine == pytest.approx(without.engine)
    assert with_box.total - without.total == pytest.approx(6e3)


def motion(speed: float, **more: float) -> Motion:
    given = {"gradient": 0.0, "acceleration": 0.0, "headwind": 0.0, "towing": 0.0} | more
    return Motion(np.asarray(speed), **{name: np.asarray(value) for name, value in given.items()})


car = Vehicle(*map(np.asarray, (1500.0, 0.66, 0.015, 0.9, 500.0, 0.34)))


@pytest.mark.parametrize(
    ("movement", "watts"),
    [
        # Worked by hand from Gillespie 1992, ch. 4, air of 1.2 kg/m³:
        # rolling 220.65 N, drag 356.4 N at 30 m/s; 6 % grade 880.99 N; 1 m/s² 1500 N.
        (motion(30.0), (220.65 + 356.4) * 30 / 0.9),
        (motion(30.0, gradient=0.06), (220.65 * 0.998205 + 880.99 + 356.4) * 30 / 0.9),
        (motion(10.0, acceleration=1.0), (220.65 + 39.6 + 1500.0) * 10 / 0.9),
        (motion(20.0, headwind=10.0), (220.65 + 356.4) * 20 / 0.9),
        (motion(20.0, gradient=-0.1), 0.0),
        # Trailer of 500 kg: rolling 294.2 N, drag of 1.0 m² 540 N.
        (motion(30.0, towing=1.0), (294.2 + 540.0) * 30 / 0.9),
    ],
)
def test_road_load_worked_example(movement: Motion, watts: float) -> None:
    assert brake_power(car, movement, 1.2) == pytest.approx(watts, rel=1e-4)


def test_gearing_by_hand() -> None:
    # 100 km/h on a 0.31 m wheel are 14.26 turns a second; at 3.6 to 1 3081 rpm.
    assert crank_speed(100 / 3.6, 3.6, 0.31) * 60 == pytest.approx(3081, abs=1)
