"""A whole cooling system and its duty cases, as arrays that broadcast."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import TypeVar

import numpy as np

from ebbrin.core.airpath.front_end import AirPath
from ebbrin.core.base import ArrayLike, BoolArray, FloatArray, IntArray, require
from ebbrin.core.circuit.cap import Cap
from ebbrin.core.circuit.parts import Circuit
from ebbrin.core.circuit.thermostat import FanSwitch
from ebbrin.core.compiled import Numbers, both, choose, flat, places
from ebbrin.core.engine.heat import Engine
from ebbrin.core.engine.road_load import Vehicle
from ebbrin.core.media import air
from ebbrin.core.media.coolants import Coolant
from ebbrin.core.radiator import air_side, coolant_side
from ebbrin.core.radiator.air_side import Surface
from ebbrin.core.radiator.coolant_side import Tubes
from ebbrin.core.radiator.geometry import Core
from ebbrin.core.records import lead_of, of_cases
from ebbrin.core.system.packed import CaseNumbers, Packed, packed

Record = TypeVar("Record")

MILD_AMBIENT, RATED_AMBIENT, RATED_CRANK = 293.15, 308.15, 25.0  # choices: of air conditioning, K, K, rev/s


@dataclass(frozen=True)
class Exchangers:
    """What stands ahead of the core: heat of an air-conditioning condenser and its compressor's power while
    it runs [W], each as stated or, where it ``follows`` the weather and the engine's speed (bool), at RATED_AMBIENT and
    RATED_CRANK; and heat of a charge-air cooler over brake power [-], 0 without one."""

    condenser_heat: FloatArray
    compressor_power: FloatArray
    condenser_follows: BoolArray
    compressor_follows: BoolArray
    charge_cooler: FloatArray


@both
def works(ahead: Numbers, ambient: Numbers, crank_speed: Numbers) -> tuple[Numbers, Numbers]:
    """Heat of the condenser and power of the compressor [W] of ``Exchangers`` at an ``ambient`` [K] and a crank speed
    [rev/s]: cooling asked for falls with the outside air, and a slow compressor gives less (choices); broadcasts."""
    warm = 0.5 + 0.5 * (ambient - MILD_AMBIENT) / (RATED_AMBIENT - MILD_AMBIENT)
    hard = np.minimum(np.maximum(warm, 0.3), 1.3) * np.minimum(1.0, np.sqrt(crank_speed / RATED_CRANK))
    return (
        ahead.condenser_heat * choose(ahead.condenser_follows > 0.5, hard, 1.0),
        ahead.compressor_power * choose(ahead.compressor_follows > 0.5, hard, 1.0),
    )


@dataclass(frozen=True)
class Limits:
    """Highest allowed top hose [K] and margin below boiling [K]."""

    top_hose: FloatArray
    boiling_margin: FloatArray


@dataclass(frozen=True)
class System:
    """One cooling system; fields are () arrays, or (candidates, 1) for many at once."""

    vehicle: Vehicle
    engine: Engine
    coolant: Coolant
    coolant_volume: FloatArray
    core: Core
    air: AirPath
    ahead: Exchangers
    circuit: Circuit
    fan_switch: FanSwitch
    cap: Cap
    limits: Limits

    @cached_property
    def surface(self) -> Surface:
        """The core as air meets it."""
        return air_side.surface(self.core)

    @cached_property
    def tubes(self) -> Tubes:
        """The core as coolant meets it."""
        return coolant_side.tubes(self.core)

    @cached_property
    def lead(self) -> tuple[int, ...]:
        """Shape that all its parts share."""
        return lead_of(self)

    @cached_property
    def packed(self) -> Packed:
        """What compiled code asks of it."""
        return packed(self)

    @cached_property
    def table_end(self) -> FloatArray:
        """Highest temperature that the coolant's tables hold [K]: no steady state lies beyond it."""
        return self.coolant.table_end

    def checked(self) -> System:
        """This system, once each part is one that can exist.

        Raises
        ------
        DomainError
            Naming the quantity, the value and the range.
        """
        for part in (self.coolant, self.core, self.air, self.circuit, self.cap):
            part.checked()
        require("displacement", self.engine.displacement, 1e-5, 0.2, "m³")
        require("rated power", self.engine.rated_power, 1.0, 1e8, "W")
        require("rated speed", self.engine.rated_speed, 1.0, 500.0, "rev/s")
        require("tune factor", self.engine.tune_factor, 0.5, 3.0, "-")
        require("driveline efficiency", self.vehicle.driveline_efficiency, 0.01, 1.0, "-")
        require("coolant volume", self.coolant_volume, 1e-5, 10.0, "m³")
        require("top hose limit", self.limits.top_hose, 273.15, 473.15, "K")
        require("boiling margin", self.limits.boiling_margin, 0.0, 150.0, "K")
        require("fan switch on-point", self.fan_switch.on, 250.0, 500.0, "K")
        require("fan switch off-point", self.fan_switch.off, 250.0, 500.0, "K")
        return self


@dataclass(frozen=True)
class Cases:
    """Duty cases, each field (cases,).

    ambient [K], altitude [m], speed and headwind [m/s], gradient [-], acceleration [m/s²],
    crank_speed [rev/s], given_power [W] and power_is_given (bool) where brake power is stated instead of
    following from the road, shaft_power [W] of a pump or winch on top, towing [0 or 1], air_conditioning and heater
    (bool), duration [s], inf where the case is steady, start [K] top hose when a timed case begins, NaN for where the
    thermostat stands wide open.
    """

    ambient: FloatArray
    altitude: FloatArray
    speed: FloatArray
    headwind: FloatArray
    gradient: FloatArray
    acceleration: FloatArray
    crank_speed: FloatArray
    given_power: FloatArray
    power_is_given: BoolArray
    shaft_power: FloatArray
    towing: FloatArray
    air_conditioning: BoolArray
    heater: BoolArray
    duration: FloatArray
    start: FloatArray

    @cached_property
    def lead(self) -> tuple[int, ...]:
        """Shape that all its fields share."""
        return lead_of(self)

    @cached_property
    def rows(self) -> FloatArray:
        """What compiled code asks of each case, one row for each."""
        pressure = air.standard_pressure(self.altitude)
        values = (*(getattr(self, name) for name in CaseNumbers._fields[:-1]), pressure)
        return np.stack([flat(value, self.lead) for value in values], -1)

    def taken(self, which: IntArray) -> Cases:
        """Some of the cases, by their indices."""
        return of_cases(self, which)

    def checked(self) -> Cases:
        """These cases, once each lies where a car can be.

        Raises
        ------
        DomainError
            Naming the quantity, the value and the range.
        """
        require("ambient temperature", self.ambient, 233.1, 333.2, "K")
        require("altitude", self.altitude, -430.0, 5000.0, "m")
        require("speed", self.speed, 0.0, 120.0, "m/s")
        require("engine speed", self.crank_speed, 1.0, 400.0, "rev/s")
        require("brake power", self.given_power, 0.0, 5.0e6, "W")
        require("shaft work", self.shaft_power, 0.0, 5.0e6, "W")
        require("gradient", self.gradient, -1.0, 1.0, "-")
        require("acceleration", self.acceleration, -30.0, 30.0, "m/s²")
        require("headwind", self.headwind, -40.0, 40.0, "m/s")
        return self


def frame(system: System, cases: Cases, *values: ArrayLike) -> tuple[tuple[int, ...], IntArray, IntArray]:
    """Shape over which system, cases and values broadcast, and for each of its elements, as one axis, which candidate
    and which case it is."""
    shape = np.broadcast_shapes(system.lead, cases.lead, *(np.shape(v) for v in values))
    return shape, places(system.lead, shape), places(cases.lead, shape)
