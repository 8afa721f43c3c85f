"""What every module of the core shares: the array type, the error and the two kinds of range."""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float64]
BoolArray = npt.NDArray[np.bool_]
IntArray = npt.NDArray[np.int64]
ArrayLike = npt.NDArray[Any] | float
"""What a function takes: a number or an array of them."""

GRAVITY = 9.80665
ZERO_CELSIUS = 273.15


class Abandoned(Exception):
    """Nobody waits for the answer any more."""


still_wanted: ContextVar[Callable[[], bool]] = ContextVar("still_wanted", default=lambda: True)
"""Whether an answer is still waited for; whoever asks for long work sets it."""


def go_on() -> None:
    """Stop here where nobody waits for the answer any more; called between the pieces of long work.

    Raises
    ------
    Abandoned
    """
    if not still_wanted.get()():
        raise Abandoned


class DomainError(ValueError):
    """A value outside what is physically possible; names the quantity, value, unit and range."""

    def __init__(self, quantity: str, value: float, low: float, high: float, unit: str) -> None:
        self.quantity, self.value, self.low, self.high, self.unit = quantity, value, low, high, unit
        super().__init__(f"{quantity} is {value:g} {unit}; it must lie between {low:g} and {high:g} {unit}")

    def __reduce__(self) -> tuple[type[DomainError], tuple[str, float, float, float, str]]:
        # An exception is pickled with its message alone, which does not make another: it would kill a pool of workers.
        return DomainError, (self.quantity, self.value, self.low, self.high, self.unit)


@dataclass(frozen=True)
class Range:
    """The stretch over which a correlation was fitted. Leaving it sets a flag, never an error."""

    low: float
    high: float
    unit: str

    def outside(self, value: ArrayLike) -> BoolArray:
        """True where ``value`` lies outside the range; same shape as ``value``."""
        v = np.asarray(value, dtype=np.float64)
        return np.asarray((v < self.low) | (v > self.high))


def require(quantity: str, value: ArrayLike, low: ArrayLike, high: ArrayLike, unit: str) -> FloatArray:
    """``value`` as a float array, once all of it is known to lie in [low, high], which broadcast with it.

    Raises
    ------
    DomainError
        Naming the first value that is NaN, infinite or outside.

    >>> require("drained volume", [1.0, 4.0], 0.0, [2.0, 3.0], "L")
    Traceback (most recent call last):
    ebbrin.core.base.DomainError: drained volume is 4 L; it must lie between 0 and 3 L
    """
    v = np.asarray(value, dtype=np.float64)
    good = (v >= low) & (v <= high)
    if not good.all():
        at = np.flatnonzero(~good)[0]
        wrong, least, most = (float(np.broadcast_to(x, good.shape).flat[at]) for x in (v, low, high))
        raise DomainError(quantity, wrong, least, most, unit)
    return v
