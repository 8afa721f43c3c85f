"""The thermostat, at the engine's outlet or at the pump's inlet, and the fan switch."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray
from ebbrin.core.compiled import Numbers, both

POCKET_SHARE = 0.002  # choice: share of the radiator's return that reaches an inlet thermostat's bulb
HOUSING_LOSS = 1.0  # choice: what an inlet thermostat's pocket loses to the air, W/K


@dataclass(frozen=True)
class Thermostat:
    """Temperature at which it starts to open [K], the further rise to fully open [K], share of the full opening
    that it lets through when seated [-], and whether it sits at the pump's inlet (bool), its bulb in a pocket,
    instead of at the engine's outlet."""

    opens: FloatArray
    span: FloatArray
    leak: FloatArray
    at_inlet: BoolArray

    @property
    def fully_open(self) -> FloatArray:
        """Temperature at which the valve is fully open [K]."""
        return self.opens + self.span


@dataclass(frozen=True)
class FanSwitch:
    """Temperatures [K] at which the fan goes on (or its clutch engages) and off, and those of a staged
    fan's full stage; both pairs are measured at the top hose."""

    on: FloatArray
    off: FloatArray
    full_on: FloatArray
    full_off: FloatArray


@both
def valve_lift(thermostat: Numbers, bulb: Numbers) -> Numbers:
    """Lift on the centre line [-], 0 shut to 1 fully open, at the ``bulb`` temperature [K]; broadcasts.

    Hysteresis and lag belong to the drive over time, not to a steady state.

    Examples
    --------
    >>> stat = Thermostat(*(np.asarray(x) for x in (355.15, 12.0, 0.0, False)))
    >>> [round(float(valve_lift(stat, t)), 2) for t in (350.0, 361.15, 370.0)]
    [0.0, 0.5, 1.0]
    """
    rise = (bulb - thermostat.opens) / thermostat.span
    return np.minimum(np.maximum(rise, 0.0), 1.0)


@both
def valve_opening(thermostat: Numbers, lift: Numbers) -> Numbers:
    """Flow opening [-] for a ``lift`` [-]: its leak when seated; broadcasts."""
    return thermostat.leak + (1.0 - thermostat.leak) * lift


@both
def pocket_temperature(
    bypass_rate: Numbers, return_rate: Numbers, engine_out: Numbers, returned: Numbers, air: Numbers
) -> Numbers:
    """Temperature [K] of an inlet thermostat's bulb in its pocket; broadcasts.

    The pocket is fed by the bypass and by a small share of what comes back from the radiator, and loses heat
    to the air around it (common practice; the figures are choices).

    Parameters
    ----------
    bypass_rate, return_rate : (...) float arrays, capacity rates of bypass and radiator return [W/K].
    engine_out, returned, air : (...) float arrays, their temperatures [K].
    """
    share = POCKET_SHARE * return_rate
    warm = bypass_rate * engine_out + share * returned + HOUSING_LOSS * air
    return warm / (bypass_rate + share + HOUSING_LOSS)
