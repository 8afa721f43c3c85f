"""How a case's heat answers to coolant flow and to air: the same core, asked many times."""

from __future__ import annotations

import numpy as np

from ebbrin.core.airpath.balance import core_pressure_drop
from ebbrin.core.airpath.fan import FULL
from ebbrin.core.media import air
from ebbrin.core.system import limits
from ebbrin.core.system.balance import air_demand, coolant_at, scaled
from ebbrin.core.system.curves import heat_by_air, heat_by_coolant_flow
from ebbrin.core.system.steady import settle
from ebbrin.document import from_core
from ebbrin.document.build import Build
from ebbrin.document.resolve import resolve
from ebbrin.document.result import Curves
from ebbrin.document.to_core import cases_from, system_from

FACTORS = np.geomspace(0.15, 2.5, 25)


def curves(build: Build, variant_id: str, case_id: str) -> Curves:
    """Heat that one case would shed at its limit temperature with more or less coolant flow, and with more or
    less air, all else as it is with the fan on.

    Raises
    ------
    MissingValues
        If a value without an honest default is unknown.
    KeyError
        If there is no such variant or case.
    DomainError
        If the parts do not make a physical system.
    """
    resolved = resolve(build, variant_id)
    index = next((i for i, case in enumerate(resolved.cases) if case.id == case_id), None)
    if index is None:
        raise KeyError(case_id)
    system = system_from(resolved).checked()
    cases = cases_from(resolved).checked().taken(np.array([index]))
    limit = limits.limit_temperature(system, limits.boiling_temperature(system, cases, system.cap.pressure))
    on = settle(system, cases, FULL)
    heat = on.heat.total
    coolant = coolant_at(system, cases, limit, heat)
    wanted = air_demand(system, cases, FULL, heat, on.heat.brake_power)
    flows = scaled(system, wanted, on.air.flow, FACTORS[:, None])
    drops = core_pressure_drop(system.surface, flows, air.standard_pressure(cases.altitude)).max(-1)
    by_coolant = heat_by_coolant_flow(system, cases, on, limit, FACTORS)
    by_air = heat_by_air(system, cases, on, limit, FACTORS)
    return from_core.curves(
        case_id,
        limit,
        heat,
        (FACTORS * coolant.volume_flow[0], by_coolant[:, 0]),
        (FACTORS * on.air.flow.volume_flow[0], by_air[:, 0], drops[:, 0]),
        (coolant.volume_flow, on.air.flow.volume_flow),
    )
