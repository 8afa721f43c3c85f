"""The pump: its curve, what drives it, and what it needs at its inlet."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import GRAVITY, ArrayLike, BoolArray, FloatArray, require
from ebbrin.core.compiled import Numbers, both, choose


@dataclass(frozen=True)
class Pump:
    """What moves the coolant, (...) arrays. A centrifugal pump: belt driven or not (bool); shut_off pressure [Pa] and run_out
    flow [m³/s] at reference_speed [rev/s], tested on coolant of 1000 kg/m³; belt_ratio pump over crank
    [-]; electric_speed [rev/s]; npsh_required [m] at reference speed; electric_power [W]. Or no pump, where siphon,
    the height of the core's middle over the jacket's [m], is above 0: hot coolant rises by its buoyancy."""

    belt: BoolArray
    shut_off: FloatArray
    run_out: FloatArray
    reference_speed: FloatArray
    belt_ratio: FloatArray
    electric_speed: FloatArray
    npsh_required: FloatArray
    electric_power: FloatArray
    siphon: FloatArray

    def checked(self) -> Pump:
        """This pump, once it is one.

        Raises
        ------
        DomainError
            Naming the quantity, the value and the range.
        """
        require("pump shut-off pressure", self.shut_off, 1.0, 1e7, "Pa")
        require("pump run-out flow", self.run_out, 1e-6, 10.0, "m³/s")
        require("pump test speed", self.reference_speed, 0.1, 1e3, "rev/s")
        require("pump pulley ratio", self.belt_ratio, 1e-3, 20.0, "-")
        require("electric pump speed", self.electric_speed, 0.1, 1e3, "rev/s")
        require("height of the core above the jacket", self.siphon, 0.0, 10.0, "m")
        return self


@both
def speed_ratio(pump: Numbers, crank_speed: Numbers) -> Numbers:
    """Pump speed over reference speed [-]; broadcasts. ``crank_speed`` in rev/s."""
    return choose(pump.belt > 0.5, crank_speed * pump.belt_ratio, pump.electric_speed) / pump.reference_speed


@both
def pressure_rise(pump: Numbers, flow: Numbers, ratio: Numbers, density: Numbers) -> Numbers:
    """Pressure rise [Pa] at volume ``flow`` [m³/s], speed ``ratio`` [-]; broadcasts.

    A parabola through shut-off and run-out (choice) under the affinity laws: pressure follows speed
    squared and density, flow follows speed.

    References
    ----------
    white-fluid-mechanics, ch. 11 (affinity laws).
    """
    share = flow / pump.run_out
    return pump.shut_off * density / 1000.0 * (ratio * ratio - share * share)


def required_pressure(pump: Pump, crank_speed: ArrayLike, density: ArrayLike) -> FloatArray:
    """Pressure above vapour pressure that the inlet needs [Pa]; follows speed squared; broadcasts.

    References
    ----------
    white-fluid-mechanics, ch. 11 (net positive suction head).
    """
    return np.asarray(pump.npsh_required * speed_ratio(pump, crank_speed) ** 2 * density * GRAVITY)
