"""Curves of one case from the core's arrays to the document's units."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ebbrin.bridge.units import KILO, LITRE_PER_MINUTE, MM, RPM, celsius
from ebbrin.core.base import FloatArray
from ebbrin.core.studies.curves import Line
from ebbrin.features.curves import answers as curves

CONDITION_SCALE: dict[curves.ConditionName, float] = {
    "blocked_tubes_share": 1.0,
    "blocked_face_share": 1.0,
    "scale_mm": 1.0 / MM,
}
"""Document's unit over the core's, by field."""


def heat_curves(
    case_id: str,
    limit: FloatArray,
    heat: FloatArray,
    by_coolant: tuple[FloatArray, FloatArray],
    by_air: tuple[FloatArray, FloatArray],
    now: tuple[FloatArray, FloatArray],
) -> curves.HeatCurves:
    """Heat against flows: coolant flow and heat, air flow and heat (n,), and the coolant and air that the
    case gets (1,), all SI."""
    return curves.HeatCurves(
        case_id=case_id,
        at_c=celsius(limit[0]),
        heat_kw=float(heat[0]) / KILO,
        coolant_now_l_per_min=float(now[0][0]) / LITRE_PER_MINUTE,
        air_now_m3_per_s=float(now[1][0]),
        coolant=[
            curves.CoolantPoint(flow_l_per_min=float(flow) / LITRE_PER_MINUTE, heat_kw=float(q) / KILO)
            for flow, q in zip(*by_coolant, strict=True)
        ],
        air=[
            curves.AirPoint(flow_m3_per_s=float(flow), heat_kw=float(q) / KILO)
            for flow, q in zip(*by_air, strict=True)
        ],
    )


def condition(
    field: curves.ConditionName, value: float, cost: float, values: FloatArray, heat: FloatArray
) -> curves.Condition:
    """One fault: ``value`` as the document has it; cost [W]; values and heat (n,), SI."""
    scale = CONDITION_SCALE[field]
    return curves.Condition(
        field=field,
        value=value,
        cost_kw=cost / KILO,
        points=[
            curves.ConditionPoint(value=float(v) * scale, heat_kw=float(q) / KILO)
            for v, q in zip(values, heat, strict=True)
        ],
    )


def pressures(flow: FloatArray, pressure: FloatArray) -> list[curves.PressurePoint]:
    """Points of an air line, flow [m³/s] and pressure [Pa] (n,)."""
    return [
        curves.PressurePoint(flow_m3_per_s=float(q), pressure_pa=float(p))
        for q, p in zip(flow, pressure, strict=True)
    ]


def flow_points(line: Line) -> list[curves.FlowPoint]:
    """Points of a coolant line of one case."""
    return [
        curves.FlowPoint(flow_l_per_min=float(q) / LITRE_PER_MINUTE, pressure_kpa=float(p) / KILO)
        for q, p in zip(line.flow[:, 0], line.pressure[:, 0], strict=True)
    ]


def working_point(speed: Any, flow: Any, pressure: Any) -> curves.WorkingPoint:
    """Speed [rev/s], flow [m³/s] and pressure [Pa] where pump and resistances meet."""
    return curves.WorkingPoint(
        rpm=float(speed) / RPM,
        flow_l_per_min=float(flow) / LITRE_PER_MINUTE,
        pressure_kpa=float(pressure) / KILO,
    )


def strengths(
    shares: Sequence[float], freezes: FloatArray, boils: FloatArray, open_boils: FloatArray
) -> list[curves.StrengthPoint]:
    """Freezing and boiling [K] (n,) of each strength."""
    return [
        curves.StrengthPoint(
            share=float(share), freezes_c=celsius(f), boils_c=celsius(b), boils_without_cap_c=celsius(o)
        )
        for share, f, b, o in zip(shares, freezes, boils, open_boils, strict=True)
    ]
