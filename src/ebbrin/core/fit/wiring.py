"""Fuse and wire for a fan's current, by rules of thumb until the wiring is described."""

from __future__ import annotations

from math import pi

from ebbrin.core.base import require

FUSES = (5.0, 7.5, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 60.0, 80.0)
"""Blade and bolt fuses [A]: ISO 8820 (from memory)."""
CONTINUOUS = 0.75  # common practice: share of a fuse's rating that may flow for long
WIRES = {1.5: 19.0, 2.5: 26.0, 4.0: 34.0, 6.0: 44.0, 10.0: 61.0, 16.0: 80.0}
"""Current [A] that a single wire of a cross-section [mm²], insulation for 105 °C, carries in air of 80 °C: from a balance of
heat with still air (Churchill and Chu 1975) and radiation; 2.5, 6 and 10 mm² as given there, the others interpolated
by area to the power 0.6."""
IN_A_LOOM = 0.75  # choice


RATED = 13.5  # common practice: what a 12 V system has while its engine runs, V
RELAY = 1.25  # common practice: what a relay must switch, over what runs through it


def drawn(power: float, tested: float, volts: float) -> float:
    """What a fan draws [A] by its tested ``power`` [W] and voltages, ``tested`` and at its plug [V]: speed follows voltage
    and power speed cubed. Below the tested voltage as there: better wires may bring it more.

    >>> drawn(270.0, 13.5, 13.5), round(drawn(270.0, 13.5, 14.85), 2), drawn(270.0, 13.5, 12.0)
    (20.0, 24.2, 20.0)
    """
    return power / tested * max(1.0, volts / tested) ** 2


def fuse_for(current: float) -> float | None:
    """The smallest fuse [A] that a continuous current [A] may load; None where no size is large enough.

    >>> fuse_for(28.1)
    40.0
    """
    require("current", current, 0.0, 1000.0, "A")
    return next((fuse for fuse in FUSES if current <= CONTINUOUS * fuse), None)


def wire_for(current: float) -> float | None:
    """The thinnest wire [mm²] in a loom that carries what its fuse lets through [A]; None where none does.

    >>> wire_for(14.0)
    4.0
    """
    fuse = fuse_for(current)
    if fuse is None:
        return None
    return next((area for area, carries in WIRES.items() if fuse <= IN_A_LOOM * carries), None)


def gauge_for(area: float) -> int:
    """The thinnest even American wire gauge with a copper section [mm²] of no less: AWG 16 or thicker, down to 2.

    Raises
    ------
    DomainError
        Beyond 33 mm².

    References
    ----------
    ASTM B258: a diameter of 0.127 mm times 92 to the power (36 - n)/39.

    >>> gauge_for(2.5), gauge_for(6.0)
    (12, 8)
    """
    require("section", area, 0.0, 33.0, "mm²")
    return next(n for n in range(16, 0, -2) if 0.25 * pi * (0.127 * 92.0 ** ((36 - n) / 39.0)) ** 2 >= area)
