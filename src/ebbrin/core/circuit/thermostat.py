"""Thermostat at the engine outlet, and the fan switch."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray

LEAK = 0.01  # choice: share of the full opening that a shut valve lets through


@dataclass(frozen=True)
class Thermostat:
    """Temperature at which it starts to open [K] and the further rise to fully open [K]."""

    opens: FloatArray
    span: FloatArray

    @property
    def fully_open(self) -> FloatArray:
        """Temperature at which the valve is fully open [K]."""
        return self.opens + self.span


@dataclass(frozen=True)
class FanSwitch:
    """Temperatures [K] at which the fan goes on (or its clutch engages) and off."""

    on: FloatArray
    off: FloatArray

    @property
    def middle(self) -> FloatArray:
        """Middle of the band [K], where a cycling fan holds the coolant on average."""
        return 0.5 * (self.on + self.off)


def valve_lift(thermostat: Thermostat, temperature: ArrayLike) -> FloatArray:
    """Lift on the centre line [-], 0 shut to 1 fully open, at engine-out ``temperature`` [K]; broadcasts.

    Hysteresis and lag belong to the drive over time, not to a steady state.
    """
    return np.asarray(np.clip((np.asarray(temperature) - thermostat.opens) / thermostat.span, 0.0, 1.0))


def valve_opening(lift: ArrayLike) -> FloatArray:
    """Flow opening [-] for a ``lift`` [-]: a leak of LEAK when shut; broadcasts."""
    return np.asarray(LEAK + (1.0 - LEAK) * np.asarray(lift))
