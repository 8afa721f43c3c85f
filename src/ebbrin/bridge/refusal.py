"""What the core refuses, in the document's units."""

from __future__ import annotations

from ebbrin.bridge.units import KILO, KM_H, MM, RPM
from ebbrin.core.base import ZERO_CELSIUS, DomainError
from ebbrin.ground.errors import EbbrinError

READABLE: dict[str, tuple[float, float, str]] = {
    "K": (1.0, -ZERO_CELSIUS, " °C"),
    "rev/s": (1.0 / RPM, 0.0, " rpm"),
    "Pa": (1.0 / KILO, 0.0, " kPa"),
    "W": (1.0 / KILO, 0.0, " kW"),
    "m": (1.0 / MM, 0.0, " mm"),
    "m/s": (1.0 / KM_H, 0.0, " km/h"),
    "m³/s": (1.0, 0.0, " m³/s"),
    "-": (1.0, 0.0, ""),
}
"""Factor, offset and unit in which a person reads a quantity of the core."""
DIFFERENCES = ("span", "margin")
"""Quantities in K that are differences of temperatures, by a word of their names."""


def refusal(error: DomainError) -> str:
    """What cannot be, where and within what, in the document's units."""
    factor, offset, unit = READABLE.get(error.unit, (1.0, 0.0, f" {error.unit}"))
    if error.unit == "K" and any(word in error.quantity for word in DIFFERENCES):
        factor, offset, unit = 1.0, 0.0, " K"
    value, low, high = (f"{v * factor + offset:.5g}" for v in (error.value, error.low, error.high))
    return f"{error.quantity} comes to {value}{unit}; it must lie between {low} and {high}{unit}"


class NotPhysical(EbbrinError):
    """The parts do not make a physical system: the core's refusal, as a person reads it."""

    status, kind, title = 422, "not-physical", "This cannot be computed"

    def __init__(self, error: DomainError) -> None:
        said = refusal(error)
        super().__init__(f"{said[0].upper()}{said[1:]}.")
