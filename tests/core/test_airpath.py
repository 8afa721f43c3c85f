"""Air through the zones: the balance closes, and shroud, condenser and recirculation do what they must."""

from __future__ import annotations

import numpy as np
import pytest

from ebbrin.core.airpath import balance, fan
from ebbrin.core.base import GRAVITY
from ebbrin.core.media import air
from ebbrin.core.system.balance import air_demand, demand
from ebbrin.document.build import Build
from tests.builds import edited, linnet, part, plain_build, to_core


def solved(build: Build, on: bool = True):  # type: ignore[no-untyped-def]
    system, cases = to_core(build)
    wanted = air_demand(system, cases, on, demand(system, cases, on).total)
    return system, wanted, balance.solve(system.air, system.core, wanted)


@pytest.mark.parametrize("shroud", ["none", "full"])
@pytest.mark.parametrize("speed", [0.0, 25.0, 120.0])
@pytest.mark.parametrize("on", [True, False])
def test_pressures_balance_in_every_zone(shroud: str, speed: float, on: bool) -> None:
    system, wanted, flow = solved(part(plain_build(speed_km_h=speed), air__shroud=shroud), on)
    density = flow.ambient_density[0]
    ram = 0.55 * 0.5 * density * (speed / 3.6) ** 2
    core_drop = balance.core_pressure_drop(system.core, flow, wanted.pressure)[0]
    split = balance.zone_split(system.air, wanted, flow.area / system.core.open_face)
    outlet = balance.zone_temperatures(split, flow.mass_flow)[1][0]
    for zone in range(2):
        if flow.area[0, zone] == 0.0:
            continue
        lift = (density - air.density(outlet[zone], 101_325.0)) * GRAVITY * 0.4
        front = 3.5 * 0.5 * density * flow.velocity[0, zone] ** 2
        rise = 0.0
        if zone == 0:
            hot = air.density(outlet[0], 101_325.0)
            back = (0.05 if shroud == "full" else 0.15) if on else 0.0
            through = flow.mass_flow[0, 0] / hot / (1.0 - back)
            rise = float(fan.pressure_rise(system.air.fan, through, 1.0 if on else 0.0, hot))
        assert ram + lift + rise == pytest.approx(front + core_drop[zone], rel=1e-4, abs=1e-3)


def test_shroud_serves_the_whole_face_and_none_only_the_disc() -> None:
    _, _, full = solved(part(plain_build(speed_km_h=0), air__shroud="full"))
    system, _, bare = solved(part(plain_build(speed_km_h=0), air__shroud="none"))
    assert full.area[0].tolist() == [pytest.approx(0.24), 0.0]
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
    shares = balance.front_recirculation(at_rest, np.array([0.0, 10.0 / 3.6, 40.0 / 3.6]))
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
