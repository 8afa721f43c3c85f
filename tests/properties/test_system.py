"""Relations that must hold for any build: monotone where physics is, and energy that closes."""

from __future__ import annotations

from dataclasses import fields, replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.build.build import Build
from ebbrin.core.airpath.fan import FULL
from ebbrin.core.media import air
from ebbrin.core.media.coolants import properties
from ebbrin.core.radiator import air_side, coolant_side
from ebbrin.core.radiator.exchange import crossflow_effectiveness
from ebbrin.core.records import stack
from ebbrin.core.system import limits
from ebbrin.core.system.balance import coolant_at, shed, shed_with_air
from ebbrin.core.system.demand import full_demand
from ebbrin.core.system.needs import AIR_FACTORS, needs
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.settle import settle
from ebbrin.core.system.steady import steady_state
from oracles.builds import edited, part, plain_build, to_core

pytestmark = pytest.mark.long

SLACK = (
    1.5e-4  # K; what a balance that closes to 4e-7 of its heat leaves open of a rise of 180 K, at either side
)
grows = st.floats(1.02, 1.6)
builds = st.builds(
    lambda width, height, depth, power, speed, rpm, ambient: edited(
        part(plain_build(), radiator__width_mm=width, radiator__height_mm=height, radiator__depth_mm=depth),
        site__ambient_c=ambient,
        cases__0__brake_power_kw=power,
        cases__0__speed_km_h=speed,
        cases__0__engine_rpm=rpm,
    ),
    st.floats(400, 800),
    st.floats(300, 600),
    st.floats(20, 70),
    st.floats(1, 80),
    st.floats(0, 150),
    st.floats(900, 6000),
    st.floats(-10, 45),
)


def limit_of(system: System, cases: Cases) -> Any:
    return limits.limit_temperature(system, limits.boiling_temperature(system, cases, system.cap.holds))


def hottest(system: System, cases: Cases) -> float:
    """Top hose with the fan on [K]; the end of the tables where there is no steady state."""
    return float(settle(system, cases, FULL).top_hose[0])


@given(build=builds, factor=grows)
def test_more_air_never_raises_the_top_hose(build: Build, factor: float) -> None:
    system, cases = to_core(build)
    fan = replace(
        system.air.fan, free_flow=system.air.fan.free_flow * factor, pressure=system.air.fan.pressure * factor
    )
    stronger = replace(system, air=replace(system.air, fan=fan))
    assert hottest(stronger, cases) <= hottest(system, cases) + SLACK


@given(build=builds, factor=grows)
def test_longer_tubes_never_raise_the_top_hose(build: Build, factor: float) -> None:
    system, cases = to_core(build)
    longer = replace(system, core=replace(system.core, width=system.core.width * factor))
    # Once the thermostat is well open: through a crack of it the core cools all that comes, and longer
    # tubes only slow the trickle.
    before, after = hottest(system, cases), hottest(longer, cases)
    valve = system.circuit.thermostat
    assert after <= before + SLACK or after < float(valve.opens + 0.1 * valve.span)


@given(build=builds, factor=grows)
def test_more_coolant_flow_never_raises_the_top_hose(build: Build, factor: float) -> None:
    # "Slow the coolant down so that it has time to cool" is refuted here.
    system, cases = to_core(build)
    pump = replace(system.circuit.pump, shut_off=system.circuit.pump.shut_off * factor)
    faster = replace(system, circuit=replace(system.circuit, pump=pump))
    assert hottest(faster, cases) <= hottest(system, cases) + SLACK


@given(build=builds, cooler=st.floats(0.5, 25))
def test_cooler_air_never_raises_the_top_hose(build: Build, cooler: float) -> None:
    system, cases = to_core(build)
    colder = replace(cases, ambient=cases.ambient - cooler)
    assert hottest(system, colder) <= hottest(system, cases) + SLACK


@given(build=builds, kpa=st.floats(1, 60), lower=st.floats(1, 2500))
def test_higher_cap_or_lower_altitude_never_lowers_boiling(build: Build, kpa: float, lower: float) -> None:
    system, cases = to_core(edited(build, site__altitude_m=2600))
    boils = limits.boiling_temperature(system, cases, 50e3)
    assert limits.boiling_temperature(system, cases, 50e3 + kpa * 1e3) > boils
    assert limits.boiling_temperature(system, replace(cases, altitude=cases.altitude - lower), 50e3) > boils


@given(build=builds, shroud=st.sampled_from(["full", "ring", "none"]), on=st.floats(70, 110))
def test_energy_closes(build: Build, shroud: str, on: float) -> None:
    build = part(build, air__shroud=shroud, fan_switch__on_c=on, fan_switch__off_c=on - 5)
    system, cases = to_core(build)
    state = steady_state(system, cases, limit_of(system, cases))
    for i in np.flatnonzero(state.exists):
        assert abs(state.heat_in[i] - state.heat_shed[i]) <= 1e-6 * state.heat_in[i]
        if state.duty[i] in (0.0, 1.0):
            again = heat_from_outside(system, cases, state.shed.air, state, int(i))
            assert abs(again - state.heat_in[i]) <= 1e-6 * state.heat_in[i]


def heat_from_outside(system: System, cases: Cases, side: Any, state: Any, i: int) -> float:
    """Heat that the air takes, worked out once more from the returned velocities and temperatures."""
    core, total = system.core, 0.0
    coolant = state.shed.coolant
    mass_flow = coolant.mass_flow[i]
    mean = max(
        state.top_hose[i] - 0.5 * state.heat_in[i] / (mass_flow * 3700.0),
        0.5 * (state.top_hose[i] + cases.ambient[i]),
    )
    fluid = properties(system.coolant, mean)
    surface, tubes = air_side.surface(core), coolant_side.tubes(core)
    Re = coolant_side.tube_reynolds(tubes, mass_flow / fluid.density, fluid)
    film = coolant_side.heat_transfer_coefficient(tubes, Re, fluid)
    for zone in range(side.area.shape[-1]):
        share = float(side.area[i, zone] / side.area[i].sum())
        if share == 0.0:
            continue
        G = side.velocity[i, zone] * side.ambient_density[i]
        h = air_side.heat_transfer_coefficient(surface, G, air_side.reynolds(surface, G, side.mean[i, zone]))
        eta = air_side.surface_efficiency(air_side.fin_efficiency(surface, h), core.fin_share)
        open_tubes = 1.0 - core.blocked_tubes
        outer = eta * h * core.air_area * share * open_tubes
        inner = core.coolant_area * share * open_tubes
        layers = core.tube_wall / 160.0 + core.scale / 1.5
        UA = 1.0 / (1.0 / outer + 1.0 / (film * inner) + layers / inner)
        C = [
            side.mass_flow[i, zone] * air.HEAT_CAPACITY * open_tubes,
            mass_flow * fluid.heat_capacity * share,
        ]
        effectiveness = crossflow_effectiveness(UA / min(C), min(C) / max(C))
        # What enters lies as far below the mean as what leaves lies above it.
        inlet = 2.0 * side.mean[i, zone] - side.leaving[i, zone]
        heat = float(effectiveness) * min(C) * (state.top_hose[i] - inlet)
        total += heat
    return total


@given(build=builds, share=st.floats(0.0, 0.4), debris=st.floats(0.02, 0.4))
def test_debris_never_lowers_the_top_hose(build: Build, share: float, debris: float) -> None:
    clean = part(build, radiator__blocked_face_share=share)
    worse = part(build, radiator__blocked_face_share=share + debris)
    before, after = (to_core(b) for b in (clean, worse))
    assert hottest(*after) >= hottest(*before) - SLACK


@given(build=builds, kilowatts=st.floats(0.5, 30))
def test_more_load_never_lowers_the_top_hose(build: Build, kilowatts: float) -> None:
    system, cases = to_core(build)
    loaded = replace(cases, shaft_power=cases.shaft_power + kilowatts * 1e3)
    assert hottest(system, loaded) >= hottest(system, cases) - SLACK


@given(build=builds, more=st.floats(0.05, 0.8))
def test_more_ram_never_raises_the_top_hose(build: Build, more: float) -> None:
    system, cases = to_core(build)
    ducted = replace(system, air=replace(system.air, ram=system.air.ram + more))
    assert hottest(ducted, cases) <= hottest(system, cases) + SLACK


@given(build=builds, thicker=st.floats(0.02, 0.4))
def test_scale_never_lowers_the_top_hose(build: Build, thicker: float) -> None:
    system, cases = to_core(build)
    scaled = replace(system, core=replace(system.core, scale=system.core.scale + thicker * 1e-3))
    assert hottest(scaled, cases) >= hottest(system, cases) - SLACK


@given(build=builds, kind=st.sampled_from(["open", "spring", "blocked"]))
def test_mass_is_kept_where_the_branches_meet(build: Build, kind: str) -> None:
    # Heat in the engine at the pump's flow equals what the branches bring back cooler.
    system, cases = to_core(part(edited(build, cases__0__heater=True), circuit__bypass=kind))
    state = steady_state(system, cases, limit_of(system, cases))
    flow = state.shed.coolant
    assert flow.total_mass == pytest.approx(flow.mass_flow + flow.bypass_mass + flow.heater_mass)
    if state.exists[0] and state.duty[0] in (0.0, 1.0):
        gearbox = state.gearbox_heat[0]
        cp = properties(system.coolant, state.top_hose).heat_capacity
        taken = flow.total_mass * cp * (state.top_hose - state.pump_inlet)
        assert taken[0] + gearbox == pytest.approx(state.shed.heat[0], rel=1e-6)


@given(build=builds)
def test_limiting_ambient_puts_the_top_hose_at_the_limit(build: Build) -> None:
    system, cases = to_core(build)
    limit = limit_of(system, cases)
    found = limits.ambient_for(system, cases, limit)
    if found.found[0] and float(found.ambient[0]) > 234.0:
        there = replace(cases, ambient=found.ambient)
        assert abs(hottest(system, there) - float(limit[0])) < 0.02


@given(build=builds)
def test_needed_air_puts_the_top_hose_at_the_limit(build: Build) -> None:
    system, cases = to_core(build)
    limit = limit_of(system, cases)
    on = settle(system, cases, FULL)
    need, _ = needs(system, cases, on, limit, air.standard_pressure(cases.altitude), 0.0, 0.0)
    if need.found[0] and on.exists[0]:
        enough = bool(need.available[0] >= need.needed[0])
        if abs(on.top_hose[0] - limit[0]) > 0.02:
            assert enough == bool(on.top_hose[0] <= limit[0])
        # With so much air, whatever drives it, the heat that is sent is shed at the limit.
        factor = need.needed[0] / need.available[0]
        if factor > AIR_FACTORS[0] * 1.01:
            heat = full_demand(system, cases, FULL).total
            coolant = coolant_at(system, cases, limit, heat)
            flow = shed(system, cases, FULL, limit, coolant, heat).air
            there = shed_with_air(
                system, cases, FULL, limit, coolant, heat, flow.velocity * factor, flow.mean
            )
            assert there.heat[0] == pytest.approx(heat[0], rel=2e-4)


@given(several=st.lists(builds, min_size=2, max_size=4))
def test_candidates_in_one_call_equal_candidates_one_by_one(several: list[Build]) -> None:
    pairs = [to_core(build) for build in several]
    together = stack([system for system, _ in pairs])
    cases = Cases(**{f.name: np.concatenate([getattr(c, f.name) for _, c in pairs]) for f in fields(Cases)})
    at_once = steady_state(together, cases, np.full((len(pairs), len(pairs)), 381.15))
    shape = (len(pairs), len(pairs))
    top, exists = (np.broadcast_to(v, shape) for v in (at_once.top_hose, at_once.exists))
    for i, (system, own) in enumerate(pairs):
        alone = steady_state(system, own, np.full(1, 381.15))
        assert abs(top[i, i] - alone.top_hose[0]) < 1e-4
        assert exists[i, i] == alone.exists[0]


def test_candidates_that_share_every_part_are_as_many_as_their_limits() -> None:
    # A fan that cannot hold an idling engine: no steady state, so that the limit itself is looked at.
    system, cases = to_core(part(plain_build(brake_power_kw=90), radiator__width_mm=150))
    limits = np.array([[375.15], [381.15], [385.15]])
    state = steady_state(stack([system] * 3), cases, limits)
    assert not state.exists.any()
    assert np.broadcast_to(state.top_hose, (3, 1))[:, 0] == pytest.approx(limits[:, 0])
