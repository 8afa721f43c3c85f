"""Prices of what no shelf holds: rough figures, and of cores made to measure what the shelf's cores tell."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from ebbrin.build.fields import known
from ebbrin.build.parts import Coolant, Radiator
from ebbrin.features.shelf.parts import ShelfPart, of_kind

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
    "pulley": 45.0,
    "shroud_none": 0.0,
    "shroud_ring": 35.0,
    "shroud_full": 70.0,
    "wiring": 35.0,
}
"""Rough figures (choices), of one piece or one litre, in the shelf's money; the list says so and takes one's own."""
ROUGH = "a rough figure"


def fill_price(coolant: Coolant, litres: float) -> float:
    """Rough price of a fill of so many litres with a coolant whose share of glycol is known.

    >>> from ebbrin.build.parts import Coolant
    >>> fill_price(Coolant(kind="ethylene_glycol", glycol_vol_share=0.5), 10.0)
    45.0
    """
    if coolant.kind == "water":
        return litres * PRICES["water"] + PRICES["additive"]
    if coolant.kind == "waterless":
        return litres * (PRICES["waterless"] + PRICES["flush_fluid"])
    share = known(coolant, "glycol_vol_share")
    return litres * (share * PRICES["concentrate"] + (1.0 - share) * PRICES["water"])


MADE_TO_MEASURE = 1.25  # choice: price over that of a like core of the shelf


@dataclass(frozen=True)
class CoreEstimate:
    """Price and mass of a core by its face and volume, fitted to the cores of the shelf (least squares)."""

    price: Any
    mass: Any

    @classmethod
    def over(cls, shelf: Sequence[ShelfPart], core_type: str) -> CoreEstimate | None:
        """None where fewer than four priced cores of the kind are on the shelf."""
        like = [p for p in of_kind(shelf, "radiator") if p.values.get("core_type", "louvred") == core_type]

        def fit(name: str) -> Any:
            known = [p for p in like if getattr(p, name) is not None]
            if len(known) < 4:
                return None
            sizes = np.array(
                [_size(p.values["width_mm"], p.values["height_mm"], p.values["depth_mm"]) for p in known]
            )
            return np.linalg.lstsq(sizes, np.array([getattr(p, name) for p in known]), rcond=None)[0]

        price = fit("price")
        return None if price is None else cls(price, fit("mass_kg"))

    def price_of(self, radiator: Radiator) -> float:
        """In the shelf's money, made to measure."""
        return float(max(_of(radiator) @ self.price, 0.0)) * MADE_TO_MEASURE

    def mass_of(self, radiator: Radiator) -> float | None:
        """Dry [kg]."""
        return None if self.mass is None else float(max(_of(radiator) @ self.mass, 0.0))


def _size(width: float, height: float, depth: float) -> list[float]:
    face = width * height * 1e-6
    return [1.0, face, face * depth]


def _of(radiator: Radiator) -> Any:
    return np.array(_size(radiator.width_mm or 0.0, radiator.height_mm or 0.0, radiator.depth_mm or 0.0))


def core_estimate(shelf: Sequence[ShelfPart], core_type: str) -> CoreEstimate | None:
    """The estimate for a kind of core, by louvred ones where too few of the kind have a price."""
    return CoreEstimate.over(shelf, core_type) or CoreEstimate.over(shelf, "louvred")
