"""Air through the zones: the balance closes, and shroud, condenser and recirculation do what they must."""

from __future__ import annotations

import dataclasses

import numpy as np
import pytest

from ebbrin.build.build import Build
from ebbrin.core.airpath import fan, front_end
from ebbrin.core.airpath.balance import Airflow, core_pressure_drop
from ebbrin.core.base import GRAVITY
from ebbrin.core.media import air
from ebbrin.core.records import stack
from ebbrin.core.studies.batch import outcome, outcomes
from ebbrin.core.studies.chance import spare
from ebbrin.core.system.balance import Shed, coolant_at, shed
from ebbrin.core.system.demand import demand, full_demand
from ebbrin.core.system.parts import Cases, System
from oracles.builds import edited, linnet, part, plain_build, to_core

TOP = 368.15


def found(build: Build, stage: int = fan.FULL, top: float = TOP) -> tuple[System, Cases, Shed]:
    """The core with its coolant at ``top`` [K] and the fan at a stage."""
    system, cases = to_core(build)
    hot = np.full(cases.ambient.shape, top)
    heat = full_demand(system, cases, stage).total
    return system, cases, shed(system, cases, stage, hot, coolant_at(system, cases, hot, heat), heat)


def solved(build: Build, stage: int = fan.FULL) -> tuple[System, Cases, Airflow]:
    system, cases, there = found(build, stage)
    return system, cases, there.air


@pytest.mark.parametrize("shroud", ["none", "ring", "full", "box"])
@pytest.mark.parametrize("speed", [0.0, 25.0, 120.0])
@pytest.mark.parametrize("on", [True, False])
def test_pressures_balance_in_every_zone(shroud: str, speed: float, on: bool) -> None:
    stage = fan.FULL if on else fan.OFF
    build = part(
        plain_build(speed_km_h=speed),
        air__shroud="full" if shroud == "box" else shroud,
        air__shroud_cover_share=0.85 if shroud == "box" else 1.0,
        radiator__blocked_face_share=0.0,
    )
    system, _, flow = solved(build, stage)
    density = flow.ambient_density[0]
    ram = 0.55 * 0.5 * density * (speed / 3.6) ** 2
    drop = core_pressure_drop(system.surface, flow, np.array([101_325.0]))[0]
    assert flow.area.shape[-1] == (1 if shroud == "full" else 2)
    for zone in range(flow.area.shape[-1]):
        hot = air.density(flow.leaving[0, zone], 101_325.0)
        lift = (density - hot) * GRAVITY * 0.4
        front = (3.5 + 1.5) * 0.5 * density * flow.velocity[0, zone] ** 2
        rise = 0.0
        if zone == 0:
            back = (0.15 if shroud == "none" else 0.05) if on else 0.0
            through = flow.mass_flow[0, 0] / hot / (1.0 - back)
            rise = float(fan.pressure_rise(system.air.fan, through, 1.0 if on else 0.0, hot)[0])
            # Without a shroud nothing ties the fan to the core: the air goes round one that would resist.
            rise = max(rise, 0.0) if shroud == "none" else rise
        assert ram + lift + rise == pytest.approx(front + drop[zone], rel=1e-4, abs=1e-3)


@pytest.mark.parametrize("shroud", ["none", "full"])
def test_each_zone_carries_its_own_heat_and_none_leaves_hotter_than_the_coolant(shroud: str) -> None:
    _, _, there = found(part(plain_build(speed_km_h=0), air__shroud=shroud))
    flow = there.air
    own = flow.mass_flow * 1007.0 * (flow.leaving - (2.0 * flow.mean - flow.leaving))
    assert own.sum(-1) == pytest.approx(there.radiator, rel=1e-9)
    assert (flow.leaving < TOP).all()
    if shroud == "none":
        # The starved open face leaves close to the coolant; the zone under the fan carries most of the heat.
        assert TOP - flow.leaving[0, 1] < 6.0
        assert flow.leaving[0, 1] > flow.leaving[0, 0]
        assert own[0, 0] > 3.0 * own[0, 1]


def test_a_fan_over_several_zones_has_one_plenum() -> None:
    build = part(
        plain_build(speed_km_h=0, air_conditioning=True),
        air__condenser=True,
        air__condenser_cover_share=0.6,
        air__shroud="full",
    )
    system, _, flow = solved(build)
    assert flow.area.shape[-1] == 2
    assert flow.velocity[0, 1] > flow.velocity[0, 0]  # nothing stands before the rest of the face
    hot = (flow.mass_flow * flow.leaving).sum() / flow.mass_flow.sum()
    rho = air.density(hot, 101_325.0)
    rise = float(fan.pressure_rise(system.air.fan, flow.mass_flow.sum() / rho / 0.95, 1.0, rho)[0])
    drop = core_pressure_drop(system.surface, flow, np.array([101_325.0]))[0]
    for zone, heads in enumerate((3.5 + 1.5 + 12.0, 3.5 + 1.5)):
        lift = (flow.ambient_density[0] - air.density(flow.leaving[0, zone], 101_325.0)) * GRAVITY * 0.4
        lost = heads * 0.5 * flow.ambient_density[0] * flow.velocity[0, zone] ** 2 + drop[zone]
        assert rise + lift == pytest.approx(lost, rel=1e-4)


def test_a_clutch_follows_the_air_behind_the_core() -> None:
    build = part(plain_build(speed_km_h=0, engine_rpm=2000), air__fan__kind="mechanical")
    cool, warm, hot = (found(build, top=top)[2].air for top in (325.15, 365.15, 400.15))
    full = 2000 * 1.1 / 2000
    assert cool.fan_ratio[0, 0] == pytest.approx(0.25 * full)
    assert cool.fan_ratio[0, 0] < warm.fan_ratio[0, 0] < hot.fan_ratio[0, 0] <= 0.9 * full + 1e-9
    slipping = found(edited(build, cases__0__engine_rpm=6000), top=405.15)[2].air
    assert slipping.fan_ratio[0, 0] <= 2800 / 2000 + 1e-12


def test_shroud_serves_the_whole_face_and_none_only_the_disc() -> None:
    _, _, full = solved(part(plain_build(speed_km_h=0), air__shroud="full"))
    system, _, bare = solved(part(plain_build(speed_km_h=0), air__shroud="none"))
    assert full.area[0].tolist() == [pytest.approx(0.24 * 0.94)]
    assert bare.area[0, 0] == pytest.approx(np.pi / 4 * 0.38**2 * 0.94)
    assert bare.area[0].sum() == pytest.approx(system.core.open_face)
    assert bare.velocity[0, 0] > 5 * bare.velocity[0, 1]


def test_condenser_resists_always_and_warms_while_it_runs() -> None:
    build = part(plain_build(speed_km_h=40), air__condenser=True)
    _, _, without = solved(plain_build(speed_km_h=40))
    _, _, idle = solved(build)
    _, _, running = solved(edited(build, cases__0__air_conditioning=True))
    assert idle.volume_flow[0] < without.volume_flow[0]
    assert idle.fresh[0, 0] == pytest.approx(303.15)
    assert running.fresh[0, 0] > idle.fresh[0, 0] + 3.0


def test_warm_air_comes_round_the_front_only_below_20_km_h() -> None:
    at_rest = np.array([0.1, 0.1, 0.1])
    shares = front_end.front_recirculation(at_rest, np.array([0.0, 10.0 / 3.6, 40.0 / 3.6]))
    assert shares.tolist() == [pytest.approx(0.1), pytest.approx(0.05), 0.0]


def test_pusher_moves_more_than_puller_in_hot_air() -> None:
    # A puller works in warm, thin air: less pressure at the same speed.
    _, _, puller = solved(part(linnet(), air__fan__mount="puller"))
    _, _, pusher = solved(part(linnet(), air__fan__mount="pusher"))
    assert pusher.volume_flow[0] > puller.volume_flow[0]


def test_thin_air_at_altitude_carries_less() -> None:
    _, _, sea = solved(plain_build(speed_km_h=0))
    _, _, pass_ = solved(edited(plain_build(speed_km_h=0), site__altitude_m=2200))
    assert pass_.total_mass_flow[0] < 0.85 * sea.total_mass_flow[0]
    assert pass_.volume_flow[0] == pytest.approx(sea.volume_flow[0], rel=0.12)


def test_ring_serves_the_disc_and_loses_less_round_the_blades() -> None:
    bare, ring = (solved(part(plain_build(speed_km_h=0), air__shroud=kind))[2] for kind in ("none", "ring"))
    assert ring.area[0, 0] == pytest.approx(bare.area[0, 0])
    assert ring.volume_flow[0] > 1.03 * bare.volume_flow[0]


def test_flaps_open_for_ram_while_the_fan_stands() -> None:
    fast = part(plain_build(speed_km_h=120), air__shroud="full")
    shut, open_ = (solved(part(fast, air__flaps=flaps), fan.OFF)[2] for flaps in (False, True))
    assert open_.volume_flow[0] > 1.1 * shut.volume_flow[0]
    running = [solved(part(fast, air__flaps=flaps))[2].volume_flow[0] for flaps in (False, True)]
    assert running[1] >= running[0]


def test_one_of_two_fans_serves_half_and_lets_the_other_half_stand() -> None:
    build = part(
        plain_build(speed_km_h=0),
        air__shroud="full",
        air__fan__fans="two",
        air__fan__staging="one_of_two",
        air__fan__diameter_mm=280,
    )
    _, _, low = solved(build, fan.LOW)
    _, _, full = solved(build, fan.FULL)
    assert low.area[0].tolist() == [pytest.approx(0.12 * 0.94), pytest.approx(0.12 * 0.94)]
    assert low.velocity[0, 0] > 4 * low.velocity[0, 1]
    assert full.velocity[0, 0] == pytest.approx(full.velocity[0, 1], rel=1e-6)
    assert full.volume_flow[0] > 1.7 * low.volume_flow[0]


def test_fans_of_any_kind_in_one_batch_answer_as_each_alone() -> None:
    """A single fan beside two that can run apart, a driven one, a clutch, and none: what one has never touches another."""
    base = plain_build(speed_km_h=0, brake_power_kw=0)
    builds = [
        base,
        part(base, air__fan__fans="two"),
        part(base, air__fan__fans="two", air__fan__staging="one_of_two"),
        part(base, air__fan__staging="slow"),
        part(base, air__fan__kind="mechanical"),
        part(base, air__fan__kind="none"),
        part(base, air__shroud="ring", air__fan__fans="two", air__fan__staging="one_of_two"),
        part(base, air__shroud="ring"),
    ]
    pairs = [to_core(build) for build in builds]
    together, cases = stack([system for system, _ in pairs]), pairs[0][1]
    at_once = spare(together, cases)
    found = outcomes(together, cases)
    assert found is not None
    for i, (system, own) in enumerate(pairs):
        alone = outcome(system, own)
        assert at_once[i, 0] == pytest.approx(float(spare(system, own)[0]), abs=1e-5)
        assert found.hot[i, 0] == pytest.approx(float(alone.hot[0]), abs=2e-3)


def test_an_exit_that_holds_air_back_costs_flow() -> None:
    free, held = (
        solved(part(plain_build(speed_km_h=60), air__exit_loss_coefficient=loss))[2].volume_flow[0]
        for loss in (0, 6)
    )
    assert held < 0.95 * free


def test_intercooler_warms_the_air_with_the_power() -> None:
    build = part(plain_build(speed_km_h=60), air__charge_cooler=True)
    system, cases, flow = solved(build)
    heat = 0.10 * float(demand(system, cases, flow.fan_ratio).brake_power[0])
    assert flow.fresh[0, 0] - 303.15 == pytest.approx(heat / (flow.total_mass_flow[0] * 1007.0), rel=1e-6)


def test_what_stands_ahead_warms_all_that_passes_it_alike() -> None:
    build = part(
        plain_build(speed_km_h=0, air_conditioning=True),
        air__shroud="none",
        air__condenser=True,
        air__condenser_heat_kw=4,
        air__front_recirculation_share=0,
    )
    _, _, flow = solved(build)
    rise = 4e3 / (flow.total_mass_flow[0] * 1007.0)
    assert flow.fresh[0] - 303.15 == pytest.approx(np.full(2, rise), rel=1e-6)


def test_air_near_a_known_one_is_the_one_from_afar() -> None:
    system, cases, there = found(part(plain_build(speed_km_h=50), air__shroud="none"))
    hot = np.full(1, TOP)
    heat = full_demand(system, cases, fan.FULL).total
    for factor in (0.5, 1.0, 1.6):
        near = dataclasses.replace(there.air, velocity=there.air.velocity * factor)
        again = shed(system, cases, fan.FULL, hot, there.coolant, heat, near)
        assert again.air.velocity == pytest.approx(there.air.velocity, rel=1e-5)
        assert again.heat == pytest.approx(there.heat, rel=1e-6)
