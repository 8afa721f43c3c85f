"""Which test to make next: what it tells for its minutes, money and danger."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, IntArray, require

Order = Literal["telling", "cheapest", "gauge", "pressure"]
ORDERS: tuple[Order, ...] = ("telling", "cheapest", "gauge", "pressure")
DANGER_MINUTES = np.array([0.0, 1.0, 4.0, 6.0])
"""What a danger weighs as much as (choice): hot and moving parts, or the wait for a cold engine [min]."""
SETUP_MINUTES = 10.0
"""What it takes to get at the car for any test at all (choice) [min]."""
LEAST_BITS = 1e-3
"""A test that tells less is not worth making (choice)."""
DANGEROUS = 2


def costs(minutes: FloatArray, money: FloatArray, danger: IntArray, hourly_rate: float) -> FloatArray:
    """(O,) what tests cost, in minutes.

    Parameters
    ----------
    hourly_rate : what an hour of the reader's is worth, in the money of ``money``; above 0.
    """
    require("hourly rate", hourly_rate, 1e-3, 1e6, "1/h")
    return np.asarray(SETUP_MINUTES + minutes + 60.0 * money / hourly_rate + DANGER_MINUTES[danger])


def ordered(
    bits: FloatArray,
    cost: FloatArray,
    danger: IntArray,
    order: Order = "telling",
    first: BoolArray | None = None,
) -> list[int]:
    """Tests by number, the next one first; those that tell nothing are left out.

    A dangerous test never stands before a safer one that tells as much.

    Parameters
    ----------
    bits, cost, danger : (O,) what each tells [bits], costs [min], and how dangerous it is (0 to 3).
    first : (O,) which come before all others, for orders that begin with the gauge or with pressure.
    """
    worth = -cost if order == "cheapest" else bits / cost
    ahead = np.zeros(len(bits), bool) if first is None or order in ("telling", "cheapest") else first
    left = sorted(np.flatnonzero(bits >= LEAST_BITS), key=lambda t: (not ahead[t], -worth[t], t))
    found: list[int] = []
    while left:
        chosen = left[0]
        while danger[chosen] >= DANGEROUS:
            safer = [t for t in left if danger[t] < danger[chosen] and bits[t] >= bits[chosen]]
            if not safer:
                break
            chosen = safer[0]
        left.remove(chosen)
        found.append(int(chosen))
    return found
