"""The parts of the coolant's way beside the core: bypass, heater, hoses, and all of them with pump and thermostat."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray, IntArray, require
from ebbrin.core.circuit.pump import Pump
from ebbrin.core.circuit.thermostat import Thermostat
from ebbrin.core.compiled import Numbers, both
from ebbrin.core.ducts import Duct

BEND_LENGTHS = 20.0  # hose diameters that a moulded 90 degree bend counts for; crane-tp-410
BYPASS_OPEN, BYPASS_SPRING, BYPASS_BLOCKED = 0, 1, 2


@dataclass(frozen=True)
class Bypass:
    """Passage from engine outlet to pump inlet, (...) arrays: kind, int (BYPASS_OPEN; BYPASS_SPRING, which
    opens between the cracking pressure and twice that; BYPASS_BLOCKED by the thermostat's foot);
    conductance, volume flow over the root of pressure on coolant of 1000 kg/m³ [m³/s Pa^-½], 0 for none;
    cracking pressure [Pa]."""

    kind: IntArray
    conductance: FloatArray
    cracking: FloatArray


@dataclass(frozen=True)
class Heater:
    """Cabin heater between engine outlet and pump inlet, (...) arrays: conductance as in Bypass, 0 for
    none; effectiveness [-] of its core while the heater is on."""

    conductance: FloatArray
    effectiveness: FloatArray


@dataclass(frozen=True)
class Circuit:
    """Pump, thermostat and resistances, (...) arrays: jacket and thermostat (wide open) as pressure over
    volume flow squared on coolant of 1000 kg/m³ [Pa s²/m⁶]; hose bore and length of top and bottom hose
    together [m]; bends."""

    pump: Pump
    thermostat: Thermostat
    bypass: Bypass
    heater: Heater
    jacket_resistance: FloatArray
    thermostat_resistance: FloatArray
    hose_bore: FloatArray
    hose_length: FloatArray
    hose_bends: FloatArray

    @cached_property
    def numbers(self) -> Loop:
        """What compiled code asks of it."""
        pump, valve = self.pump, self.thermostat
        return Loop(
            pump.belt,
            pump.shut_off,
            pump.run_out,
            pump.reference_speed,
            pump.belt_ratio,
            pump.electric_speed,
            pump.electric_power,
            pump.siphon,
            valve.opens,
            valve.span,
            valve.leak,
            valve.at_inlet,
            self.bypass.kind,
            self.bypass.conductance,
            self.bypass.cracking,
            self.heater.conductance,
            self.heater.effectiveness,
            self.jacket_resistance,
            self.thermostat_resistance,
            self.hose_bore,
            self.hose_length,
            self.hose_bends,
        )

    def checked(self) -> Circuit:
        """This circuit, once its numbers are possible.

        Raises
        ------
        DomainError
            Naming the quantity, the value and the range.
        """
        self.pump.checked()
        require("jacket resistance", self.jacket_resistance, 0.0, 1e14, "Pa s²/m⁶")
        require("thermostat resistance", self.thermostat_resistance, 1.0, 1e14, "Pa s²/m⁶")
        require("thermostat opening temperature", self.thermostat.opens, 273.15, 400.0, "K")
        require("thermostat opening span", self.thermostat.span, 0.5, 60.0, "K")
        require("thermostat leak", self.thermostat.leak, 1e-5, 1.0, "-")
        require("hose bore", self.hose_bore, 1e-3, 0.5, "m")
        require("heater effectiveness", self.heater.effectiveness, 0.0, 1.0, "-")
        return self


class Loop(NamedTuple):
    """A circuit in one row, arrays (...), numbers in compiled code: fields of its pump, thermostat, bypass and heater, and
    its own."""

    belt: Numbers
    shut_off: Numbers
    run_out: Numbers
    reference_speed: Numbers
    belt_ratio: Numbers
    electric_speed: Numbers
    electric_power: Numbers
    siphon: Numbers
    opens: Numbers
    span: Numbers
    leak: Numbers
    at_inlet: Numbers
    bypass_kind: Numbers
    bypass_conductance: Numbers
    cracking: Numbers
    heater_conductance: Numbers
    heater_effectiveness: Numbers
    jacket_resistance: Numbers
    thermostat_resistance: Numbers
    hose_bore: Numbers
    hose_length: Numbers
    hose_bends: Numbers


@both
def hose_duct(circuit: Numbers, coolant: Numbers) -> Duct:
    """Both hoses with their bends as one duct; broadcasts.

    References
    ----------
    crane-tp-410 (equivalent lengths of bends).
    """
    bore = circuit.hose_bore
    area = np.pi / 4.0 * bore * bore
    return Duct(
        coolant.density * bore / (area * coolant.viscosity),
        64.0,
        circuit.hose_length / bore + circuit.hose_bends * BEND_LENGTHS,
        0.0,
        0.5 * coolant.density / (area * area),
    )


def hose_velocity(circuit: Circuit, volume_flow: ArrayLike) -> FloatArray:
    """Mean velocity in the hoses [m/s] for a ``volume_flow`` [m³/s]; broadcasts."""
    return np.asarray(np.asarray(volume_flow) / (np.pi / 4.0 * circuit.hose_bore**2))
