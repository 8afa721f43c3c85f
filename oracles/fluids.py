"""CoolProp's properties of fluids; the library takes seconds to import, so only who asks for one brings it in."""

from __future__ import annotations

from typing import Any


def coolprop(*asked: Any) -> Any:
    """A property in SI units, asked for as of CoolProp's own PropsSI: coolprop("D", "T", 300.0, "P", 1e5, "Water")."""
    from CoolProp.CoolProp import PropsSI

    return PropsSI(*asked)
