"""Facts of the trade: common practice, no published source. The whole core must come out where workshops do."""

from __future__ import annotations

import numpy as np
import pytest

from ebbrin.core.circuit import cap as caps
from ebbrin.core.media import air, boiling, coolants
from ebbrin.core.studies import control_choice
from ebbrin.core.studies.assess import THERMOSTAT_CONTROLLED, assess
from ebbrin.core.studies.curves import heat_by_air, heat_by_coolant_flow
from oracles.builds import linnet, part, plain_build, to_core
from oracles.parts import WATER, mix, waterless

SEA = 101_325.0
PSI = 6894.757


def celsius(kelvin: object) -> float:
    return float(np.asarray(kelvin)) - 273.15


def test_water_without_a_cap_boils_at_an_indicated_96() -> None:
    # In a hill town: 100 °C at the sea, 96 some 1200 m up.
    boils = boiling.boiling_temperature(air.standard_pressure(1200.0), WATER)
    assert celsius(boils) == pytest.approx(96.0, abs=0.5)


def test_a_stuck_cap_lets_water_reach_120_at_two_bar() -> None:
    assert celsius(boiling.boiling_temperature(200e3, WATER)) == pytest.approx(120.0, abs=0.5)


def test_one_bar_is_about_a_hundred_and_twenty_degrees_for_water() -> None:
    # "One bar gives about 110 °C" is on the safe side, also at 2500 m.
    assert celsius(boiling.boiling_temperature(air.standard_pressure(2500.0) + 1e5, WATER)) > 110.0


def test_cap_marks_of_the_trade_are_candidates() -> None:
    # 0.9 is about 13 psi, 1.1 about 16 psi; road systems seldom exceed 17 psi.
    marks = caps.CANDIDATES / PSI
    for psi in (4, 7, 10, 13, 15, 16, 18, 20):
        assert np.min(np.abs(marks - psi)) < 0.1


def test_wrong_cap_by_three_psi_is_noticed() -> None:
    right, wrong = (boiling.boiling_temperature(SEA + psi * PSI, mix(0.5)) for psi in (16, 13))
    assert 3.0 < right - wrong < 5.0


def test_thermostats_of_the_trade_are_candidates() -> None:
    sold = np.array([68.0, 71.0, 77.0, 82.0, 88.0, 91.0, 95.0])
    assert pytest.approx(sold) == control_choice.CANDIDATES - 273.15


@pytest.mark.parametrize(
    # On 90 / off 85 °C with a 71 to 77 °C thermostat; on 102 / off 96 with one of 88 to 92 °C.
    ("opens", "on", "off"),
    [(71, 90, 85), (77, 90, 85), (88, 102, 96), (91, 102, 96)],
)
def test_common_pairs_of_thermostat_and_switch_work(opens: float, on: float, off: float) -> None:
    build = part(plain_build(), thermostat__opens_c=opens, fan_switch__on_c=on, fan_switch__off_c=off)
    system, _ = to_core(build)
    choice = control_choice.switch_choice(system, np.array([381.15]))
    assert choice.fitted_works
    chosen = choice.pairs[choice.chosen] - 273.15
    assert chosen.tolist() == pytest.approx([on, off])


def test_fan_never_stops_with_its_off_point_below_the_thermostat() -> None:
    build = part(plain_build(), thermostat__opens_c=88, fan_switch__on_c=90, fan_switch__off_c=85)
    system, _ = to_core(build)
    choice = control_choice.switch_choice(system, np.array([381.15]))
    assert not choice.fitted_works
    pair = int(np.argmin(np.abs(choice.pairs[:, 0] - 363.15)))
    assert choice.reason[pair] == control_choice.SwitchReason.NEVER_STOPS


def test_waterless_reads_a_few_kelvins_hotter() -> None:
    # 3 to 6 K by the trade, on a build with some reserve. At its limit this one would read 15 K hotter: the
    # thicker coolant flows laminar.
    hot = part(plain_build(brake_power_kw=40, speed_km_h=110), radiator__condition="new")
    water_mix, dry = (
        assess(*to_core(part(hot, coolant__kind=kind))) for kind in ("ethylene_glycol", "waterless")
    )
    assert 3.0 < dry.on.top_hose[0] - water_mix.on.top_hose[0] < 6.0


def test_waterless_boils_near_190_and_survives_40_below() -> None:
    assert 180.0 < celsius(boiling.boiling_temperature(SEA, waterless())) < 198.0
    assert celsius(coolants.freezing_temperature(waterless())) == pytest.approx(-40.0)


def test_slower_coolant_never_cools_better() -> None:
    # The belief: "slow the coolant down so that it has time to cool". Heat against flow never falls.
    system, cases = to_core(linnet())
    a = assess(system, cases)
    factors = np.geomspace(0.05, 4.0, 40)
    heat = heat_by_coolant_flow(system, cases, a.on, a.limit, factors)
    assert heat.shape == (40, len(cases.ambient))
    assert np.all(np.diff(heat, axis=0) > 0.0)


def test_more_air_sheds_more_with_falling_return() -> None:
    system, cases = to_core(linnet())
    a = assess(system, cases)
    heat = heat_by_air(system, cases, a.on, a.limit, np.array([0.5, 1.0, 1.5, 2.0]))
    gains = np.diff(heat, axis=0)
    assert np.all(gains > 0.0)
    assert np.all(np.diff(gains, axis=0) < 0.0)


def test_a_fan_takes_out_more_than_an_idling_engine_sends() -> None:
    # A running fan on an idling engine takes out more than the engine sends.
    a = assess(*to_core(plain_build(speed_km_h=0, brake_power_kw=0, engine_rpm=900)))
    assert a.state.duty[0] < 0.8


def test_a_road_engine_rises_five_to_twelve_kelvins_wide_open() -> None:
    # Aim 5 to 10 K, warn over 12 K.
    a = assess(*to_core(plain_build(brake_power_kw=60, speed_km_h=100, engine_rpm=4000)))
    assert 3.0 < a.full_flow_rise[0] < 12.0


def test_an_open_thermostat_holds_the_road_within_its_span() -> None:
    a = assess(*to_core(plain_build(brake_power_kw=15, speed_km_h=90)))
    assert a.control[0] == THERMOSTAT_CONTROLLED
    assert 88.0 < celsius(a.state.top_hose[0]) < 100.0
