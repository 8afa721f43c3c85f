"""Rough prices of what no shelf holds."""

from __future__ import annotations

PRICES: dict[str, float] = {
    "concentrate": 8.0,
    "water": 1.0,
    "waterless": 25.0,
    "flush_fluid": 18.0,
    "additive": 15.0,
    "gearbox_fluid": 12.0,
    "clamp": 3.0,
    "gasket": 5.0,
    "radiator_hoses": 45.0,
    "heater_hoses": 30.0,
    "belt": 25.0,
    "sealant": 8.0,
    "seals": 4.0,
    "sock": 8.0,
    "foam": 12.0,
    "feet": 8.0,
    "switch": 15.0,
    "shroud_ring": 35.0,
    "shroud_full": 70.0,
    "wiring": 35.0,
}
"""Rough figures (choices), of one piece or one litre, in the shelf's money; the list says so and takes one's own."""
ROUGH = "a rough figure"
