"""How the heat that is shed answers to coolant flow and to air, all else held: the belief that coolant must
be slowed down "so that it has time to cool" is settled by looking."""

from __future__ import annotations

import numpy as np

from ebbrin.core.airpath.fan import FULL
from ebbrin.core.base import ArrayLike, FloatArray, require
from ebbrin.core.system.balance import Gains, air_demand, air_side_of, coolant_at, scaled, shed
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import Settled


def _factors(factors: ArrayLike, on: Settled) -> FloatArray:
    f = require("flow factor", factors, 0.01, 100.0, "-")
    return f.reshape(-1, *(1 for _ in on.top_hose.shape))


def heat_by_coolant_flow(
    system: System, cases: Cases, on: Settled, top_hose: FloatArray, factors: ArrayLike
) -> FloatArray:
    """(n, cases) heat shed [W] at a ``top_hose`` [K] with ``factors`` (n,) times the coolant flow.

    Raises
    ------
    DomainError
        If a factor lies outside 0.01 to 100.
    """
    gains = Gains(coolant=_factors(factors, on))
    coolant = coolant_at(system, cases, top_hose, on.heat.total)
    return shed(system, cases, top_hose, coolant, on.air, on.heat.total, gains).heat


def heat_by_air(
    system: System, cases: Cases, on: Settled, top_hose: FloatArray, factors: ArrayLike
) -> FloatArray:
    """(n, cases) heat shed [W] at a ``top_hose`` [K] with ``factors`` (n,) times the air of the fan at full.

    Raises
    ------
    DomainError
        If a factor lies outside 0.01 to 100.
    """
    heat = on.heat.total
    coolant = coolant_at(system, cases, top_hose, heat)
    wanted = air_demand(system, cases, FULL, heat, on.heat.brake_power)
    side = air_side_of(system, scaled(system, wanted, on.air.flow, _factors(factors, on)))
    return np.asarray(shed(system, cases, top_hose, coolant, side, heat).heat)
