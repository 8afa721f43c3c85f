"""From the core's assessment back to the document's units."""

from __future__ import annotations

from math import isfinite
from typing import Any

import numpy as np

from ebbrin.core.base import ZERO_CELSIUS
from ebbrin.core.circuit import cap as caps
from ebbrin.core.system.assess import Assessment
from ebbrin.core.system.parts import Cases
from ebbrin.document import result
from ebbrin.document.resolve import Resolved
from ebbrin.document.result import CAUSES, CONTROLS, VERDICTS, CaseResult

KILO = 1e3
L_PER_MIN = 60_000.0


def celsius(kelvin: Any) -> float:
    """Temperature in °C from K. Not for differences."""
    return float(kelvin) - ZERO_CELSIUS


def _heat(a: Assessment, i: int) -> result.Heat:
    heat = a.state.on.heat
    return result.Heat(
        chosen_kw=heat.engine[i] / KILO,
        low_kw=heat.low[i] / KILO,
        high_kw=heat.high[i] / KILO,
        energy_balance_kw=heat.energy_balance[i] / KILO,
        thirds_kw=heat.thirds[i] / KILO,
        gearbox_kw=heat.gearbox[i] / KILO,
        brake_power_kw=heat.brake_power[i] / KILO,
    )


def _timed(a: Assessment, cases: Cases, i: int) -> result.TimedRun | None:
    if not a.run.timed[i]:
        return None
    to_limit = float(a.run.time_to_limit[i])
    return result.TimedRun(
        duration_s=cases.duration[i],
        start_c=celsius(cases.start[i]),
        end_c=celsius(a.run.end[i]),
        time_to_limit_s=to_limit if isfinite(to_limit) else None,
    )


def _temperatures(a: Assessment, cases: Cases, i: int) -> dict[str, Any]:
    """Hoses, limit, boiling and ambients of one case; null where the case has none."""
    state, exists = a.state, bool(a.state.exists[i])
    hot = a.run.end[i] if a.run.timed[i] else state.margin_temperature[i]
    counts = exists or bool(a.run.timed[i])
    ambient, found = a.limiting_ambient.ambient[i], bool(a.limiting_ambient.found[i])
    return {
        "top_hose_c": celsius(state.top_hose[i]) if exists else None,
        "bottom_hose_c": celsius(state.bottom_hose[i]) if exists else None,
        "limit_c": celsius(a.limit[i]),
        "margin_k": float(a.margin[i]) if counts else None,
        "boils_c": celsius(a.boils[i]),
        "boils_without_cap_c": celsius(a.boils_without_cap[i]),
        "boiling_margin_k": float(a.boils[i] - hot) if counts else None,
        "boiling_margin_without_cap_k": float(a.boils_without_cap[i] - hot) if counts else None,
        "limiting_ambient_c": celsius(ambient) if found else None,
        "ambient_margin_k": float(ambient - cases.ambient[i]) if found else None,
        "air_to_boil_c": celsius(a.air_to_boil.ambient[i]) if a.air_to_boil.found[i] else None,
        "engine_rise_k": float(state.engine_heat[i] / state.shed.coolant_capacity[i]) if exists else None,
        "full_flow_rise_k": float(a.full_flow_rise[i]),
    }


def _air(a: Assessment, i: int) -> dict[str, Any]:
    need, found = a.air_need, bool(a.air_need.found[i])
    return {
        "fan_duty": float(a.state.duty[i]),
        "fan_cycles": bool(a.state.cycles[i]),
        "air_flow_m3_per_s": float(a.state.air_flow[i]),
        "air_available_m3_per_s": float(need.available[i]),
        "air_available_pa": float(need.available_pressure[i]),
        "air_needed_m3_per_s": float(need.needed[i]) if found else None,
        "air_needed_pa": float(need.needed_pressure[i]) if found else None,
        "air_under_fan_share": float(a.state.on.air.share[i, 0]),
    }


def _flow(a: Assessment, i: int) -> dict[str, Any]:
    shed = a.state.shed
    return {
        "coolant_flow_l_per_min": float(shed.coolant.volume_flow[i]) * L_PER_MIN,
        "thermostat_lift": float(shed.coolant.lift[i]),
        "pump_rise_kpa": float(shed.coolant.pump_rise[i]) / KILO,
        "pump_inlet_margin_kpa": float(a.inlet_margin[i]) / KILO,
        "pump_inlet_margin_without_cap_kpa": float(a.inlet_margin_without_cap[i]) / KILO,
        "tube_velocity_m_per_s": float(a.tube_velocity[i]),
        "tube_reynolds": float(shed.tube_reynolds[i]),
        "conductance_kw_per_k": float(shed.UA[i]) / KILO,
        "outside_fit": bool(shed.outside_fit[i]),
    }


def case_result(a: Assessment, resolved: Resolved, cases: Cases, i: int) -> CaseResult:
    """Case ``i`` in the document's units, without its sentences."""
    case, exists = resolved.cases[i], bool(a.state.exists[i])
    gains = a.bottleneck.gains[:, i]
    return CaseResult(
        id=case.id,
        name=case.name,
        verdict=VERDICTS[int(a.verdict[i])],
        control=CONTROLS[int(a.control[i])],
        cause=CAUSES[int(a.bottleneck.cause[i])],
        ambient_c=celsius(cases.ambient[i]),
        altitude_m=float(cases.altitude[i]),
        speed_km_h=case.speed_km_h,
        engine_rpm=case.engine_rpm,
        heat=_heat(a, i),
        heat_kw=float(a.state.heat_in[i]) / KILO,
        shed_kw=float(a.state.heat_shed[i]) / KILO,
        shortfall_kw=None if exists else float(a.state.shortfall[i]) / KILO,
        gains=result.Gains(air=gains[0], core=gains[1], coolant=gains[2]),
        timed=_timed(a, cases, i),
        **_temperatures(a, cases, i),
        **_air(a, i),
        **_flow(a, i),
    )


def cap_candidates(a: Assessment) -> list[result.CapCandidate]:
    """Every cap that was weighed."""
    c = a.cap
    return [
        result.CapCandidate(
            pressure_kpa=float(pressure) / KILO,
            boiling_margin_k=float(c.boiling_margin[i]),
            pump_inlet_margin_kpa=float(c.inlet_margin[i]) / KILO,
            clears_margin=bool(c.clears[i]),
            pump_inlet_holds=bool(c.inlet_holds[i]),
            within_rating=bool(c.within_rating[i]),
        )
        for i, pressure in enumerate(caps.CANDIDATES)
    ]


def thermostat_candidates(a: Assessment) -> list[result.ThermostatCandidate]:
    """Every thermostat that was weighed."""
    t = a.thermostat
    return [
        result.ThermostatCandidate(
            opens_c=round(celsius(opens), 6),
            open_early_enough=bool(t.early_enough[i]),
            warm_enough=bool(t.warm_enough[i]),
            fan_can_stop=bool(t.fan_can_stop[i]),
        )
        for i, opens in enumerate(np.atleast_1d(t.opens))
    ]


def ladder(a: Assessment, resolved: Resolved) -> result.Ladder:
    """Marks that belong to the parts."""
    v = resolved.variant
    fitted = v.air.fan.kind != "none"
    opens = float(v.thermostat.opens_c or 0.0)
    return result.Ladder(
        freezes_c=celsius(a.freezes),
        thermostat_opens_c=opens,
        thermostat_full_c=opens + float(v.thermostat.span_k or 0.0),
        fan_on_c=v.fan_switch.on_c if fitted else None,
        fan_off_c=v.fan_switch.off_c if fitted else None,
    )


def cap_needed_kpa(a: Assessment) -> float:
    """Cap pressure that it would take, gauge."""
    return a.cap.needed / KILO
