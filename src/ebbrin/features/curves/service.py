"""What stands beside the fields of a station: the same core, asked many times for one case."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.bridge.units import celsius, kilowatts
from ebbrin.build.build import Build
from ebbrin.build.resolve import Resolved, UnknownCase, resolve
from ebbrin.core.airpath import front_end
from ebbrin.core.base import FloatArray
from ebbrin.core.studies import curves as core
from ebbrin.core.studies.assess import assess
from ebbrin.core.system import limits
from ebbrin.core.system.balance import coolant_at
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.settle import Settled, with_fan_on
from ebbrin.features.curves import answers as result
from ebbrin.features.curves import from_core

FACTORS = np.geomspace(0.15, 2.5, 25)
STEPS = 25
MOST_BLOCKED, MOST_SCALE, LEAST_BORE = 0.9, 1e-3, 0.2e-3
CONDITIONS: dict[result.ConditionName, str] = {
    "blocked_tubes_share": "core.blocked_tubes",
    "blocked_face_share": "core.blocked_face",
    "scale_mm": "core.scale",
}


@dataclass(frozen=True)
class OneCase:
    """One variant with one of its cases, as the core has them."""

    resolved: Resolved
    id: str
    system: System
    cases: Cases

    @property
    def limit(self) -> FloatArray:
        """Limit temperature [K], (1,)."""
        boils = limits.boiling_temperature(self.system, self.cases, self.system.cap.holds)
        return limits.limit_temperature(self.system, boils)

    @property
    def on(self) -> Settled:
        """The case with its fan at full."""
        return with_fan_on(self.system, self.cases, self.limit)


def one_case(build: Build, variant_id: str, case_id: str) -> OneCase:
    """One case of a variant.

    Raises
    ------
    MissingValues
        If a value without an honest default is unknown.
    UnknownVariant, UnknownCase
    DomainError
        If the parts do not make a physical system.
    """
    resolved = resolve(build, variant_id)
    index = next((i for i, case in enumerate(resolved.cases) if case.id == case_id), None)
    if index is None:
        raise UnknownCase(case_id)
    cases = cases_from(resolved).checked().taken(np.array([index]))
    return OneCase(resolved, case_id, system_from(resolved).checked(), cases)


def heat_curves(build: Build, variant_id: str, case_id: str) -> result.HeatCurves:
    """Heat that one case would shed at its limit temperature with more or less coolant flow, and with more or
    less air, all else as it is with the fan on. Raises as ``one_case``."""
    one = one_case(build, variant_id, case_id)
    system, cases, limit, on = one.system, one.cases, one.limit, one.on
    coolant = coolant_at(system, cases, limit, on.heat.total)
    by_coolant = core.heat_by_coolant_flow(system, cases, on, limit, FACTORS)
    by_air = core.heat_by_air(system, cases, on, limit, FACTORS)
    flow = on.shed.air.volume_flow
    return from_core.heat_curves(
        case_id,
        limit,
        on.heat.total,
        (FACTORS * coolant.volume_flow[0], by_coolant[:, 0]),
        (FACTORS * flow[0], by_air[:, 0]),
        (coolant.volume_flow, flow),
    )


def condition_costs(build: Build, variant_id: str, case_id: str) -> result.Conditions:
    """What silted tubes, a covered face and scale cost at the limit temperature, each alone against the core
    without it. Raises as ``one_case``."""
    one = one_case(build, variant_id, case_id)
    limit, on = one.limit, one.on
    tube = one.system.core
    # Up to the least bore, and within it to rounding.
    room = float(tube.tube_height) / 2.0 - float(tube.tube_wall) - 0.500001 * LEAST_BORE
    most_scale = min(MOST_SCALE, max(room, float(tube.scale), 1e-9))
    found = []
    for field, path in CONDITIONS.items():
        now = float(getattr(one.resolved.variant.radiator, field))
        steps = np.linspace(0.0, most_scale if field == "scale_mm" else MOST_BLOCKED, STEPS)
        asked = np.append(steps, now / from_core.CONDITION_SCALE[field])
        heat = core.heat_by_condition(one.system, one.cases, on, limit, path, asked)[:, 0]
        found.append(from_core.condition(field, now, float(heat[0] - heat[-1]), steps, heat[:-1]))
    return result.Conditions(
        case_id=case_id,
        at_c=celsius(limit[0]),
        heat_kw=kilowatts(on.heat.total[0]),
        conditions=found,
    )


def air_lines(build: Build, variant_id: str, case_id: str) -> result.AirLines:
    """Fan and resistance of each zone, and where they meet. Raises as ``one_case``."""
    one = one_case(build, variant_id, case_id)
    on, fan = one.on, one.system.air.fan
    flow = on.shed.air
    now = (flow.velocity * flow.area)[0]
    share = (flow.area / flow.area.sum(-1, keepdims=True))[0]
    factors = np.linspace(0.15, 1.6, STEPS)
    against, adds = (lines[:, 0] for lines in core.zone_lines(one.system, one.cases, on, factors))
    working = core.zone_lines(one.system, one.cases, on, 1.0)[1][0, 0]
    by_fan = front_end.zones(one.system.air, one.system.core).serves.reshape(now.size, -1)
    names = ("first_fan", "second_fan") if by_fan.shape[-1] == 2 else ("fan",)
    zones = []
    for k in range(now.size):
        served, by = bool(fan.fitted) and bool(by_fan[k].any()), int(np.argmax(by_fan[k]))
        if share[k] <= 0.0:
            continue
        zones.append(
            result.Zone(
                name=names[by] if served else "open_face",
                face_share=float(share[k]),
                flow_m3_per_s=float(now[k]),
                pressure_pa=float(working[by]) if served else 0.0,
                fan=from_core.pressures(factors * now[k], adds[:, by]) if served else [],
                resistance=from_core.pressures(factors * now[k], against[:, k]),
            )
        )
    return result.AirLines(case_id=case_id, zones=zones)


def flow_lines(build: Build, variant_id: str, case_id: str) -> result.FlowLines:
    """Pump curve, resistances with the thermostat open and shut, where they meet, and where the pump's inlet
    begins to boil. Raises as ``one_case``."""
    one = one_case(build, variant_id, case_id)
    system, cases = one.system, one.cases
    solved = assess(system, cases, with_levers=False)
    state, belt = solved.state, bool(system.circuit.pump.belt)
    hot, flow = state.top_hose, state.shed.coolant
    density = flow.mass_flow / flow.volume_flow
    ends = float(solved.cavitation_speed[0])
    cavitates = None
    if 0.0 < ends < np.inf:
        faster = core.at_crank_speed(cases, ends)
        there = coolant_at(system, faster, hot, state.heat_in)
        cavitates = from_core.working_point(ends, (there.total_mass / density)[0], there.pump_rise[0])
    factors = np.linspace(0.05, 1.3, STEPS)
    pumped = float(system.circuit.pump.siphon) == 0.0
    speed = cases.crank_speed[0] if belt or not pumped else system.circuit.pump.electric_speed
    return result.FlowLines(
        case_id=case_id,
        pumped=pumped,
        pump=from_core.flow_points(
            core.pump_line(system, cases, hot, state.heat_in, flow, np.linspace(0.0, 1.0, STEPS))
        ),
        wide_open=from_core.flow_points(
            core.resistance_line(system, cases, hot, state.heat_in, 1.0, factors)
        ),
        shut=from_core.flow_points(core.resistance_line(system, cases, hot, state.heat_in, 0.0, factors)),
        now=from_core.working_point(speed, (flow.total_mass / density)[0], flow.pump_rise[0]),
        cavitates=cavitates,
    )
