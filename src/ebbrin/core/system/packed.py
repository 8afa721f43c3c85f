"""Systems and cases as compiled code takes them: rows of numbers for each candidate and each case, and back into records
of numbers for one of them. What follows from a candidate alone is worked out here, once."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, NamedTuple

import numpy as np
from numba.np.unsafe.ndarray import to_fixed_tuple

from ebbrin.core.airpath.balance import face, front
from ebbrin.core.airpath.fan import CURVE_POINTS
from ebbrin.core.base import FloatArray, IntArray
from ebbrin.core.compiled import Numbers, compiled, rows
from ebbrin.core.radiator.block import block

if TYPE_CHECKING:
    from ebbrin.core.system.parts import System


class CaseNumbers(NamedTuple):
    """One case in numbers: fields of ``Cases``, and the air's pressure [Pa]."""

    ambient: float
    altitude: float
    speed: float
    headwind: float
    gradient: float
    acceleration: float
    crank_speed: float
    given_power: float
    power_is_given: float
    shaft_power: float
    towing: float
    air_conditioning: float
    heater: float
    duration: float
    start: float
    pressure: float


class CarNumbers(NamedTuple):
    """The car and what stands ahead of the core, in numbers: fields of ``Vehicle`` and of ``Exchangers``; heat
    capacity of the engine's metal [J/K] and the coolant's volume [m³]."""

    mass: float
    drag_area: float
    rolling_resistance: float
    driveline_efficiency: float
    trailer_mass: float
    trailer_drag_area: float
    condenser_heat: float
    compressor_power: float
    condenser_follows: float
    compressor_follows: float
    charge_cooler: float
    metal: float
    volume: float


class Marks(NamedTuple):
    """Temperatures that control a candidate [K], in numbers: the points of ``FanSwitch``, and the end of the coolant's
    tables."""

    on: Numbers
    off: Numbers
    full_on: Numbers
    full_off: Numbers
    table_end: Numbers


class Parts(NamedTuple):
    """One candidate in numbers: a ``Loop``, ``Tubes``, ``FuelLaw``, ``HeatLaw``, ``CarNumbers``, ``Surface``, ``Block``,
    ``Front``, ``FanNumbers`` and ``Marks``."""

    loop: Numbers
    tubes: Numbers
    fuel: Numbers
    heat: Numbers
    car: Numbers
    surface: Numbers
    block: Numbers
    front: Numbers
    fan: Numbers
    marks: Numbers


class Packed(NamedTuple):
    """Candidates: numbers (candidates,), structures of the fields of ``Parts``; columns (strengths, T, 4) of coolants
    and column_of (candidates,), which each has; curves (candidates or 1, CURVE_POINTS) of fans and curve_of (candidates,),
    likewise; faces (candidates, 4, zones)."""

    numbers: FloatArray
    columns: FloatArray
    column_of: IntArray
    curves: FloatArray
    curve_of: IntArray
    faces: FloatArray


def packed(system: System) -> Packed:
    """All candidates of a system."""
    lead, engine, ahead, vehicle = system.lead, system.engine, system.ahead, system.vehicle
    switch = system.fan_switch
    columns, column_of = system.coolant.columns
    kinds = np.broadcast_shapes(np.shape(system.coolant.kind), np.shape(system.coolant.mass_fraction))
    car = [getattr(vehicle if hasattr(vehicle, name) else ahead, name) for name in CarNumbers._fields[:-2]]
    car += [engine.heat_capacity, system.coolant_volume]
    curves = np.asarray(system.air.fan.pressure)
    which = np.arange(int(np.prod(curves.shape[:-1]))).reshape(curves.shape[:-1])
    parts = Parts(
        system.circuit.numbers,
        system.tubes,
        engine.fuel_law,
        engine.heat_law,
        CarNumbers(*car),
        system.surface,
        block(system.core),
        front(system.air),
        system.air.fan.numbers,
        Marks(switch.on, switch.off, switch.full_on, switch.full_off, system.table_end),
    )
    return Packed(
        rows(lead, parts),
        columns,
        np.array(np.broadcast_to(column_of.reshape(kinds), lead)).reshape(-1),
        np.array(curves.reshape(-1, CURVE_POINTS)),  # a copy: of one kind whatever it was
        np.array(np.broadcast_to(which, lead)).reshape(-1),
        face(system.air, system.core, lead),
    )


def joined(several: Sequence[Packed]) -> Packed:
    """Candidates of several systems, one after another; zones that some do not have are of no area."""
    zones = max(each.faces.shape[2] for each in several)
    faces = np.zeros((sum(len(each.faces) for each in several), 4, zones))
    columns, curves, first, column, curve = [], [], 0, 0, 0
    for each in several:
        faces[first : first + len(each.faces), :, : each.faces.shape[2]] = each.faces
        columns.append(each.column_of + column)
        curves.append(each.curve_of + curve)
        first, column, curve = first + len(each.faces), column + len(each.columns), curve + len(each.curves)
    return Packed(
        np.concatenate([each.numbers for each in several]),
        np.concatenate([each.columns for each in several]),
        np.concatenate(columns),
        np.concatenate([each.curves for each in several]),
        np.concatenate(curves),
        faces,
    )


_CASE = len(CaseNumbers._fields)


@compiled
def parts_of(packed: Packed, c: int) -> Parts:
    """Candidate ``c``."""
    return packed.numbers[c]


@compiled
def case_of(cases: FloatArray, n: int) -> CaseNumbers:
    """Case ``n``."""
    return CaseNumbers(*to_fixed_tuple(cases[n], _CASE))  # type: ignore[call-arg]


@compiled
def in_air(case: CaseNumbers, ambient: float) -> CaseNumbers:
    """The same case in air of another temperature [K]."""
    return CaseNumbers(
        ambient,
        case.altitude,
        case.speed,
        case.headwind,
        case.gradient,
        case.acceleration,
        case.crank_speed,
        case.given_power,
        case.power_is_given,
        case.shaft_power,
        case.towing,
        case.air_conditioning,
        case.heater,
        case.duration,
        case.start,
        case.pressure,
    )
