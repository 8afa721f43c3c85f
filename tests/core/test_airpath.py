"""Air through the zones: the balance closes, and shroud, condenser and recirculation do what they must."""

from __future__ import annotations

import numpy as np
import pytest

from ebbrin.core.airpath import balance, fan, front_end
from ebbrin.core.base import GRAVITY
from ebbrin.core.media import air
from ebbrin.core.system.balance import air_demand, demand
from ebbrin.document.build import Build
from tests.builds import edited, linnet, part, plain_build, to_core


def solved(build: Build, stage: int = fan.FULL):  # type: ignore[no-untyped-def]
    system, cases = to_core(build)
    heat = demand(system, cases, stage)
    wanted = air_demand(system, cases, stage, heat.total, heat.brake_power)
    return system, wanted, balance.solve(system.air, system.core, system.surface, wanted)


@pytest.mark.parametrize("shroud", ["none", "ring", "full"])
@pytest.mark.parametrize("speed", [0.0, 25.0, 120.0])
@pytest.mark.parametrize("on", [True, False])
def test_pressures_balance_in_every_zone(shroud: str, speed: float, on: bool) -> None:
    stage = fan.FULL if on else fan.OFF
    system, wanted, flow = solved(part(plain_build(speed_km_h=speed), air__shroud=shroud), stage)
    density = flow.ambient_density[0]
    ram = 0.55 * 0.5 * density * (speed / 3.6) ** 2
    core_drop = balance.core_pressure_drop(system.surface, flow, wanted.pressure)[0]
    split = front_end.zone_split(system.air, wanted, flow.area / system.core.open_face)
    outlet = front_end.zone_temperatures(split, flow.mass_flow)[1][0]
    assert flow.area.shape[-1] == (1 if shroud == "full" else 2)
    for zone in range(flow.area.shape[-1]):
        lift = (density - air.density(outlet[zone], 101_325.0)) * GRAVITY * 0.4
        front = 3.5 * 0.5 * density * flow.velocity[0, zone] ** 2
        rise = 0.0
        if zone == 0:
            hot = air.density(outlet[0], 101_325.0)
            back = (0.15 if shroud == "none" else 0.05) if on else 0.0
            through = flow.mass_flow[0, 0] / hot / (1.0 - back)
            rise = float(fan.pressure_rise(system.air.fan, through, 1.0 if on else 0.0, hot))
        assert ram + lift + rise == pytest.approx(front + core_drop[zone], rel=1e-4, abs=1e-3)


def test_shroud_serves_the_whole_face_and_none_only_the_disc() -> None:
    _, _, full = solved(part(plain_build(speed_km_h=0), air__shroud="full"))
    system, _, bare = solved(part(plain_build(speed_km_h=0), air__shroud="none"))
    assert full.area[0].tolist() == [pytest.approx(0.24)]
    assert bare.area[0, 0] == pytest.approx(np.pi / 4 * 0.38**2)
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
    assert ring.volume_flow[0] > 1.05 * bare.volume_flow[0]


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
    assert low.area[0].tolist() == [pytest.approx(0.12), pytest.approx(0.12)]
    assert low.velocity[0, 0] > 4 * low.velocity[0, 1]
    assert full.velocity[0, 0] == pytest.approx(full.velocity[0, 1], rel=1e-6)
    assert full.volume_flow[0] > 1.7 * low.volume_flow[0]


def test_an_exit_that_holds_air_back_costs_flow() -> None:
    free, held = (
        solved(part(plain_build(speed_km_h=60), air__exit_loss_coefficient=loss))[2].volume_flow[0]
        for loss in (0, 6)
    )
    assert held < 0.95 * free


def test_intercooler_warms_the_air_with_the_power() -> None:
    build = part(plain_build(speed_km_h=60), air__charge_cooler=True)
    system, wanted, flow = solved(build)
    heat = 0.10 * float(demand(system, to_core(build)[1], fan.FULL).brake_power[0])
    assert wanted.ahead[0] == pytest.approx(heat)
    assert flow.fresh[0, 0] - 303.15 == pytest.approx(heat / (flow.total_mass_flow[0] * 1007.0), rel=1e-6)


def test_velocity_near_a_known_one_is_the_one_from_afar() -> None:
    system, wanted, flow = solved(plain_build(speed_km_h=50))
    for factor in (0.5, 1.0, 1.6):
        near = balance.solve(system.air, system.core, system.surface, wanted, flow.velocity * factor)
        assert near.velocity == pytest.approx(flow.velocity, rel=1e-6)
