"""Heat that each case sends into the coolant."""

from __future__ import annotations

import numpy as np

from ebbrin.core.airpath import fan as fans
from ebbrin.core.base import ArrayLike, FloatArray
from ebbrin.core.compiled import compiled, flat, over_cores
from ebbrin.core.engine import heat as engines
from ebbrin.core.engine.heat import Heat
from ebbrin.core.engine.road_load import brake_power
from ebbrin.core.media import air
from ebbrin.core.system.packed import CaseNumbers, Parts, case_of, parts_of
from ebbrin.core.system.parts import Cases, System, frame, works


def road_power(system: System, cases: Cases) -> FloatArray:
    """Brake power for the motion alone [W], stated or from the road; broadcasts."""
    density = air.density(cases.ambient, air.standard_pressure(cases.altitude))
    return np.where(cases.power_is_given, cases.given_power, brake_power(system.vehicle, cases, density))


@compiled
def demand_at(
    parts: Parts, case: CaseNumbers, first: float, second: float
) -> tuple[float, float, float, float]:
    """Heat from the engine and from the gearbox, brake power and fuel power [W] with both fan zones at a speed ratio."""
    density = air.density_at(case.ambient, case.pressure)
    fan, loop = parts.fan, parts.loop
    electric, shaft = fans.power_at(fan, fan.first * first**3 + fan.second * second**3, density)
    pump = 0.0 if loop.belt > 0.5 else loop.electric_power
    compressor = works(parts.car, case.ambient, case.crank_speed)[1] if case.air_conditioning > 0.5 else 0.0
    road = case.given_power
    if case.power_is_given < 0.5:
        road = brake_power(parts.car, case, density)
    shafts = shaft + compressor + case.shaft_power
    return engines.sent(parts.fuel, parts.heat, road, case.crank_speed, density, shafts, electric + pump)


@compiled
def full_demand_at(parts: Parts, case: CaseNumbers, stage: int) -> tuple[float, float, float, float]:
    """As ``demand_at`` with the fans at a ``stage``, a clutch wholly engaged."""
    fan = parts.fan
    first = fans.turns(fan, fan.low_first, stage, case.crank_speed)[1]
    second = fans.turns(fan, fan.low_second, stage, case.crank_speed)[1]
    return demand_at(parts, case, first, second)


@compiled
def _demands(packed, cases, which, case, one, other, out, first, last):  # type: ignore[no-untyped-def]
    for e in range(first, last):
        out[e] = demand_at(parts_of(packed, which[e]), case_of(cases, case[e]), one[e], other[e])


@compiled
def _full_demands(packed, cases, which, case, stage, out, first, last):  # type: ignore[no-untyped-def]
    for e in range(first, last):
        out[e] = full_demand_at(parts_of(packed, which[e]), case_of(cases, case[e]), stage[e])


def heat_of(columns: FloatArray, shape: tuple[int, ...]) -> Heat:
    """From the columns (elements, 4) of a compiled demand, over a ``shape``."""
    return Heat(*(columns[:, k].reshape(shape) for k in range(4)))


def demand(system: System, cases: Cases, fan_ratio: FloatArray) -> Heat:
    """Heat that each case sends into the coolant with the fans at a speed ratio (..., fans) [-]; broadcasts."""
    ratios = fan_ratio[..., 0], fan_ratio[..., -1]
    shape, which, case = frame(system, cases, *ratios)
    out = np.empty((which.size, 4))
    over_cores(0.2, _demands, system.packed, cases.rows, which, case, *(flat(r, shape) for r in ratios), out)
    return heat_of(out, shape)


def full_demand(system: System, cases: Cases, stage: ArrayLike) -> Heat:
    """As ``demand`` with the fans at ``stage``, a clutch wholly engaged; broadcasts."""
    shape, which, case = frame(system, cases, stage)
    out = np.empty((which.size, 4))
    over_cores(0.2, _full_demands, system.packed, cases.rows, which, case, flat(stage, shape), out)
    return heat_of(out, shape)
