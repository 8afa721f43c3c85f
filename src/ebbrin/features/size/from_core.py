"""From the core's sizing back to the document's units."""

from __future__ import annotations

from math import isfinite

import numpy as np

from ebbrin.bridge.units import LITRE_PER_MINUTE, celsius, kilopascals, kilowatts
from ebbrin.build.fan import CurvePoint, Fan
from ebbrin.build.radiator import Radiator
from ebbrin.build.resolve import Resolved, bounds
from ebbrin.core.airpath.fan import fan_laws
from ebbrin.core.sizing.requirement import sides
from ebbrin.core.studies.assess import Assessment, reached
from ebbrin.core.system.parts import Cases
from ebbrin.features.size.answers import CaseNeed, FaceOption
from ebbrin.features.size.choices import Room
from ebbrin.ground.words import Text

MM = 1e-3
"""Millimetres to metres."""


def face_of(radiator: Radiator) -> float:
    """Face of a core, m²."""
    return (radiator.width_mm or 0.0) * (radiator.height_mm or 0.0) * MM**2


def sides_of(face: float, radiator: Radiator) -> tuple[float, float]:
    """Width and height [mm] of a core with so much ``face`` [m²]: of the shape that one has, as far as its sides are ones
    that a build can hold."""
    width, height = sides((radiator.width_mm or 0.0) * MM, (radiator.height_mm or 0.0) * MM, face)
    return float(width) / MM, float(height) / MM


def face_option(air: Text, factor: float, best: float, radiator: Radiator, room: Room) -> FaceOption:
    """The face that does with one way of moving the air: ``factor`` [-] times that of the fitted core, inf where
    none does; ``best`` [K], the most that any face keeps beyond what is asked."""
    does = isfinite(factor)
    face = face_of(radiator) * factor if does else None
    sides = sides_of(face, radiator) if face is not None else (None, None)
    # A shop may change the shape: what counts is whether so much face has room.
    fits = face is not None and face <= room.width * room.height * MM**2 * (1.0 + 1e-9)
    return FaceOption(
        air=air,
        width_mm=sides[0],
        height_mm=sides[1],
        face_m2=face,
        in_room=fits,
        best_kept_k=best if isfinite(best) else None,
    )


MOST_FLOW, MOST_PRESSURE = (
    bounds(CurvePoint.model_fields[name])[1] for name in ("flow_m3_per_s", "pressure_pa")
)


def can_be(fan: Fan, factor: float) -> bool:
    """Whether a build can hold a fan with a curve, as if it ran ``factor`` times as fast."""
    points = [fan_laws(point.flow_m3_per_s, point.pressure_pa, factor) for point in fan.curve or []]
    return all(flow <= MOST_FLOW and pressure <= MOST_PRESSURE for flow, pressure in points)


def stronger(fan: Fan, factor: float) -> Fan:
    """A fan with a curve, as if it ran ``factor`` times as fast; taken from no shelf any more."""
    curve = []
    for point in fan.curve or []:
        flow, pressure = fan_laws(point.flow_m3_per_s, point.pressure_pa, factor)
        curve.append(CurvePoint(flow_m3_per_s=float(flow), pressure_pa=float(pressure)))
    return fan.model_copy(update={"curve": curve, "from_shelf": None})


def case_need(
    a: Assessment, cases: Cases, resolved: Resolved, i: int, margin: float, hotter: float
) -> CaseNeed:
    """What case ``i`` asks of the assessed system if it is to keep ``margin`` [K] in air ``hotter`` by so much [K]."""
    hot = float(reached(a.state, a.run, np.inf)[i])
    allowed, heat = float(a.limit[i]) - margin, float(a.on.heat.total[i])
    flow = a.state.shed.coolant
    return CaseNeed(
        case_id=resolved.cases[i].id,
        name=resolved.cases[i].name,
        heat_kw=kilowatts(heat),
        allowed_c=celsius(allowed),
        hotter_k=hotter,
        top_hose_c=celsius(hot) if isfinite(hot) else None,
        ambient_c=float(resolved.cases[i].ambient_c or 0.0),
        heat_per_degree_kw_per_k=kilowatts(heat / max(allowed - hotter - float(cases.ambient[i]), 1.0)),
        conductance_kw_per_k=kilowatts(a.state.shed.UA[i]),
        air_m3_per_s=float(a.air_need.available[i]),
        air_pa=float(a.air_need.available_pressure[i]),
        coolant_l_per_min=float(flow.volume_flow[i]) / LITRE_PER_MINUTE,
        coolant_kpa=kilopascals(float(flow.radiator_drop[i])),
    )
