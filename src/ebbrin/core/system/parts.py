"""A whole cooling system and its duty cases, as arrays that broadcast."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, is_dataclass
from typing import TypeVar

import numpy as np

from ebbrin.core.airpath.balance import AirPath
from ebbrin.core.base import BoolArray, FloatArray, require
from ebbrin.core.circuit.cap import Cap
from ebbrin.core.circuit.flow import Circuit
from ebbrin.core.circuit.thermostat import FanSwitch
from ebbrin.core.engine.heat import Engine
from ebbrin.core.engine.road_load import Vehicle
from ebbrin.core.media.coolants import Coolant
from ebbrin.core.radiator.geometry import Core

Record = TypeVar("Record")


@dataclass(frozen=True)
class Condenser:
    """An air-conditioning condenser ahead of the core: heat and compressor power while it runs [W]."""

    heat: FloatArray
    compressor_power: FloatArray


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
    condenser: Condenser
    circuit: Circuit
    fan_switch: FanSwitch
    cap: Cap
    limits: Limits


@dataclass(frozen=True)
class Cases:
    """Duty cases, each field (cases,).

    ambient [K], altitude [m], speed and headwind [m/s], gradient [-], acceleration [m/s²],
    crank_speed [rev/s], given_power [W] and power_is_given (bool) where brake power is stated instead of
    following from the road, air_conditioning (bool), duration [s], inf where the case is steady,
    start [K] top hose when a timed case begins.
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
    air_conditioning: BoolArray
    duration: FloatArray
    start: FloatArray

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
        require("gradient", self.gradient, -1.0, 1.0, "-")
        require("headwind", self.headwind, -40.0, 40.0, "m/s")
        return self


def stack(records: Sequence[Record]) -> Record:
    """Equal records stacked into one whose arrays have a (candidates, 1) lead, ready for cases.

    Arrays that already have a trailing axis of their own (fan curves) keep it behind the case axis.
    """
    first = records[0]
    if is_dataclass(first) and not isinstance(first, type):
        values = {f.name: stack([getattr(r, f.name) for r in records]) for f in fields(first)}
        return type(first)(**values)
    arrays = [np.asarray(r) for r in records]
    stacked = np.stack(arrays)
    return stacked.reshape(stacked.shape[0], 1, *stacked.shape[1:])  # type: ignore[return-value]


def pick(record: Record, index: int) -> Record:
    """Entry ``index`` of the leading axis of every array in a record."""
    if is_dataclass(record) and not isinstance(record, type):
        values = {f.name: pick(getattr(record, f.name), index) for f in fields(record)}
        return type(record)(**values)
    return record[index]  # type: ignore[index,no-any-return]


def choose(condition: BoolArray, yes: Record, no: Record) -> Record:
    """Element by element ``yes`` where ``condition`` holds, else ``no``, for every array of two records."""
    if is_dataclass(yes) and not isinstance(yes, type):
        values = {f.name: choose(condition, getattr(yes, f.name), getattr(no, f.name)) for f in fields(yes)}
        return type(yes)(**values)
    return np.where(condition, yes, no)  # type: ignore[call-overload,no-any-return]
