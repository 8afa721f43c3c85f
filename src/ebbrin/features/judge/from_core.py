"""From the core's assessment back to the document's units."""

from __future__ import annotations

from enum import IntEnum
from math import isfinite
from typing import Any

import numpy as np

from ebbrin.bridge.units import KG_PER_HOUR, KILO, LITRE, LITRE_PER_MINUTE, RPM, celsius
from ebbrin.build.resolve import Resolved
from ebbrin.core.circuit import cap as caps
from ebbrin.core.circuit.cap import CapReason
from ebbrin.core.engine.heat import MEASURED
from ebbrin.core.studies.assess import Assessment
from ebbrin.core.studies.chance import holds_until
from ebbrin.core.studies.control_choice import SwitchReason, ThermostatReason
from ebbrin.core.system.limits import COLDEST_AMBIENT
from ebbrin.core.system.parts import Cases
from ebbrin.features.judge import answers as result
from ebbrin.features.judge.answers import CAUSES, CONTROLS, STAGES, VERDICTS, CaseResult


def _heat(a: Assessment, resolved: Resolved, i: int) -> result.Heat:
    heat, s = a.on.heat, a.schools
    published = [p[i] / KILO for p in (s.published_low, s.published_high)]
    chosen = result.SCHOOLS.index(resolved.variant.engine.heat_school)
    shown = [k for k in range(len(result.SCHOOLS)) if k != MEASURED or k == chosen]
    return result.Heat(
        chosen_kw=heat.engine[i] / KILO,
        published_low_kw=published[0],
        published_high_kw=published[1],
        low_kw=s.low[chosen, i] / KILO,
        high_kw=s.high[chosen, i] / KILO,
        schools=[
            result.SchoolHeat(
                school=result.SCHOOLS[k],
                heat_kw=s.heat[k, i] / KILO,
                low_kw=s.low[k, i] / KILO,
                high_kw=s.high[k, i] / KILO,
            )
            for k in shown
        ],
        turbo_kw=s.turbo[i] / KILO,
        oil_kw=s.oil[i] / KILO,
        egr_kw=s.egr[i] / KILO,
        gearbox_kw=heat.gearbox[i] / KILO,
        brake_power_kw=heat.brake_power[i] / KILO,
        asked_power_kw=a.road_power[i] / KILO,
        full_power_kw=a.full_power[i] / KILO,
        fuel_kg_per_h=a.fuel_flow[i] / KG_PER_HOUR,
    )


def _band(a: Assessment, resolved: Resolved, i: int) -> tuple[float, float]:
    """Band of the heat that a case has [kW]: its engine's school says how far the engine's may lie off, whatever the fans
    ask of it."""
    chosen, state = result.SCHOOLS.index(resolved.variant.engine.heat_school), a.state
    share = float(state.engine_heat[i] / a.on.heat.engine[i])
    low, high = (float(band[chosen, i]) * share for band in (a.schools.low, a.schools.high))
    gearbox = float(state.gearbox_heat[i])
    return (low + gearbox) / KILO, (high + gearbox) / KILO


def _timed(a: Assessment, cases: Cases, i: int) -> result.TimedRun | None:
    if not a.run.timed[i]:
        return None
    to_limit = float(a.run.time_to_limit[i])
    return result.TimedRun(
        duration_s=cases.duration[i],
        start_c=celsius(a.run.start[i]),
        end_c=celsius(a.run.end[i]),
        time_to_limit_s=to_limit if isfinite(to_limit) else None,
        beyond=bool(a.run.beyond[i]),
    )


def _temperatures(a: Assessment, cases: Cases, i: int) -> dict[str, Any]:
    """Hoses, limit, boiling and ambients of one case; null where the case has none."""
    state, exists, hunts = a.state, bool(a.state.exists[i]), bool(a.state.hunts[i])
    hot = a.run.end[i] if a.run.timed[i] else state.judged[i]
    counts = exists or hunts or bool(a.run.timed[i])
    ambient, found = a.limiting_ambient.ambient[i], bool(a.limiting_ambient.found[i])
    until = holds_until(a.chance, cases.ambient, a.limiting_ambient.ambient)[i]
    return {
        "top_hose_c": celsius(state.top_hose[i]) if exists else None,
        "bottom_hose_c": celsius(state.bottom_hose[i]) if exists else None,
        "hunt": result.Hunt(coldest_c=celsius(state.coldest[i]), hottest_c=celsius(state.hottest[i]))
        if hunts
        else None,
        "judged_c": celsius(hot) if counts else None,
        "limit_c": celsius(a.limit[i]),
        "margin_k": float(a.margin[i]) if counts else None,
        "boils_c": celsius(a.boils[i]),
        "boils_without_cap_c": celsius(a.boils_without_cap[i]),
        "boiling_margin_k": float(a.boils[i] - hot) if counts else None,
        "boiling_margin_without_cap_k": float(a.boils_without_cap[i] - hot) if counts else None,
        "limiting_ambient_c": celsius(ambient) if found else None,
        "ambient_margin_k": float(ambient - cases.ambient[i]) if found else None,
        "holding_ambient_c": celsius(until) if found and until > COLDEST_AMBIENT else None,
        "air_to_boil_c": celsius(a.air_to_boil.ambient[i]) if a.air_to_boil.found[i] else None,
        "engine_rise_k": float(state.top_hose[i] - state.pump_inlet[i]) if exists else None,
        "full_flow_rise_k": float(a.full_flow_rise[i]),
    }


def _air(a: Assessment, resolved: Resolved, i: int) -> dict[str, Any]:
    need, found = a.air_need, bool(a.air_need.found[i])
    return {
        "fan_duty": float(a.state.duty[i]),
        "fan_cycles": bool(a.state.cycles[i]),
        "fan_runs_on": bool(a.state.runs_on[i]),
        "fan_never_stops": _never_stops(a, resolved, i),
        "fan_stage": STAGES[int(a.state.stage[i])],
        "air_flow_m3_per_s": float(a.state.air_flow[i]),
        "air_available_m3_per_s": float(need.available[i]),
        "air_available_pa": float(need.available_pressure[i]),
        "air_needed_m3_per_s": float(need.needed[i]) if found else None,
        "air_needed_pa": float(need.needed_pressure[i]) if found else None,
        "air_under_fan_share": float(a.fan_share),
    }


def _never_stops(a: Assessment, resolved: Resolved, i: int) -> bool:
    """An electric fan that a thermostat with room to spare keeps running."""
    switched = resolved.variant.air.fan.kind == "electric" and not resolved.cases[i].air_conditioning
    runs = bool(a.state.exists[i]) and float(a.state.duty[i]) == 1.0 and not a.state.cycles[i]
    return switched and runs and CONTROLS[int(a.control[i])] == "thermostat"


def _flow(a: Assessment, i: int) -> dict[str, Any]:
    shed, ends = a.state.shed, float(a.cavitation_speed[i])
    flow = shed.coolant
    litres = float(flow.volume_flow[i] / flow.mass_flow[i]) / LITRE_PER_MINUTE
    return {
        "coolant_flow_l_per_min": float(flow.volume_flow[i]) / LITRE_PER_MINUTE,
        "bypass_flow_l_per_min": float(flow.bypass_mass[i]) * litres,
        "heater_flow_l_per_min": float(flow.heater_mass[i]) * litres,
        "heater_kw": float(shed.heater[i]) / KILO,
        "cavitation_rpm": ends / RPM if isfinite(ends) else None,
        "hose_velocity_m_per_s": float(a.hose_velocity[i]),
        "thermostat_lift": float(flow.lift[i]),
        "pump_rise_kpa": float(flow.pump_rise[i]) / KILO,
        "pump_inlet_margin_kpa": float(a.inlet_margin[i]) / KILO,
        "pump_inlet_margin_without_cap_kpa": float(a.inlet_margin_without_cap[i]) / KILO,
        "tube_velocity_m_per_s": float(a.tube_velocity[i]),
        "tube_reynolds": float(shed.tube_reynolds[i]),
        "conductance_kw_per_k": float(shed.UA[i]) / KILO,
        "outside_fit": bool(a.state.outside_fit[i]),
    }


def _other_thermostat(a: Assessment, resolved: Resolved, i: int) -> result.OtherThermostat | None:
    if CAUSES[int(a.bottleneck.cause[i])] != "thermostat":
        return None
    fitted = resolved.variant.thermostat
    full_c = (fitted.opens_c or 0.0) + (fitted.span_k or 0.0)
    return result.OtherThermostat(
        unsettled=bool(a.unsettled[i]),
        at_outlet=fitted.position == "inlet",
        sooner=full_c > celsius(a.limit[i]),
        fan_too=bool(a.bottleneck.fan_too[i]),
    )


def case_result(a: Assessment, resolved: Resolved, cases: Cases, i: int) -> CaseResult:
    """Case ``i`` in the document's units, without its sentences."""
    case, settles = resolved.cases[i], bool(a.state.exists[i] or a.state.hunts[i])
    factors = [float(f) if isfinite(f) else None for f in a.bottleneck.factors[:, i]]
    low, high = _band(a, resolved, i)
    return CaseResult(
        id=case.id,
        name=case.name,
        verdict=VERDICTS[int(a.verdict[i])],
        chance=float(a.chance.below[i]),
        control=CONTROLS[int(a.control[i])],
        cause=CAUSES[int(a.bottleneck.cause[i])],
        other_thermostat=_other_thermostat(a, resolved, i),
        ambient_c=celsius(cases.ambient[i]),
        altitude_m=float(cases.altitude[i]),
        speed_km_h=case.speed_km_h,
        engine_rpm=float(cases.crank_speed[i]) / RPM,
        heat=_heat(a, resolved, i),
        heat_kw=float(a.state.heat_in[i]) / KILO,
        heat_low_kw=low,
        heat_high_kw=high,
        shed_kw=float(a.state.heat_shed[i]) / KILO,
        shortfall_kw=None if settles else float(a.state.shortfall[i]) / KILO,
        wanted=result.Wanted(
            air=factors[0],
            core=factors[1],
            coolant=factors[2],
            to_limit=bool(a.chance.middle[i] < 0.0),
        ),
        timed=_timed(a, cases, i),
        **_temperatures(a, cases, i),
        **_air(a, resolved, i),
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
            reason=_name(CapReason, c.reason[i]),
        )
        for i, pressure in enumerate(caps.CANDIDATES)
    ]


SHOWN_K = 0.5
"""What two limits must lie apart by to be written with other degrees."""


def lowered_limit_c(a: Assessment) -> float | None:
    """The lowest limit of all cases [°C] with the cap that was chosen, where that brings any down by a degree that shows."""
    falls = float(np.max(a.limit - a.cap_limit))
    return celsius(np.min(a.cap_limit)) if falls >= SHOWN_K else None


def thermostat_candidates(a: Assessment) -> list[result.ThermostatCandidate]:
    """Every thermostat that was weighed."""
    t = a.thermostat
    return [
        result.ThermostatCandidate(
            opens_c=round(celsius(opens), 6),
            open_early_enough=bool(t.early_enough[i]),
            warm_enough=bool(t.warm_enough[i]),
            fan_can_stop=bool(t.fan_can_stop[i]),
            reason=_name(ThermostatReason, t.reason[i]),
        )
        for i, opens in enumerate(np.atleast_1d(t.opens))
    ]


def switch_candidates(a: Assessment) -> list[result.SwitchCandidate]:
    """Every pair of fan switch points that was weighed."""
    s = a.switch
    return [
        result.SwitchCandidate(
            on_c=round(celsius(on), 6),
            off_c=round(celsius(off), 6),
            below_limit=bool(s.below_limit[i]),
            can_stop=bool(s.can_stop[i]),
            reason=_name(SwitchReason, s.reason[i]),
        )
        for i, (on, off) in enumerate(s.pairs)
    ]


def tank(a: Assessment) -> result.Tank:
    """Room for the hot fill."""
    space = float(a.tank.air_space) / LITRE
    return result.Tank(
        growth_l=float(a.tank.growth) / LITRE,
        bottle_l=float(a.tank.bottle) / LITRE,
        air_space_l=space if isfinite(space) else None,
    )


def _name(reasons: type[IntEnum], value: Any) -> Any:
    return reasons(int(value)).name.lower()


def ladder(a: Assessment, resolved: Resolved) -> result.Ladder:
    """Marks that belong to the parts."""
    v = resolved.variant
    fitted = v.air.fan.kind == "electric"
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
