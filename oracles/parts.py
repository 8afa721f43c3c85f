"""Parts of the core that tests start from."""

from __future__ import annotations

from typing import Any

import numpy as np

from ebbrin.core.media import coolants
from ebbrin.core.media.coolants import Coolant
from ebbrin.core.radiator.geometry import Core

LOUVRED: dict[str, Any] = {
    "width": 0.65, "height": 0.42, "depth": 0.040, "rows": 1.0, "crossflow": True, "passes": 1.0,
    "in_depth": False, "plain": False, "fin_pitch": 0.0254 / 14, "fin_height": 0.008,
    "fin_thickness": 0.08e-3, "louvre_pitch": 1.2e-3, "louvre_length": 6.8e-3,
    "louvre_angle": float(np.radians(27)), "tube_height": 0.002, "tube_wall": 0.3e-3, "conductivity": 200.0,
    "blocked_tubes": 0.0, "blocked_face": 0.0, "scale": 0.0, "UA_factor": 1.0, "air_film": 1.0,
    "air_friction": 1.0, "coolant_film": 1.0,
}  # fmt: skip
PLATES = LOUVRED | {
    "plain": True, "depth": 0.066, "rows": 3.0, "fin_pitch": 0.0254 / 10, "fin_height": 0.012,
    "tube_height": 0.010, "conductivity": 350.0, "crossflow": False,
}  # fmt: skip


def louvred_core(**changes: Any) -> Core:
    """A common brazed aluminium core, 40 mm deep."""
    return Core(**{name: np.asarray(value) for name, value in (LOUVRED | changes).items()})


def plate_core(**changes: Any) -> Core:
    """A vintage copper core: three rows of 10 mm tubes through plain plates."""
    return Core(**{name: np.asarray(value) for name, value in (PLATES | changes).items()})


def mix(volume_share: float, kind: int = coolants.ETHYLENE_GLYCOL) -> Coolant:
    """A mix by volume."""
    return Coolant(np.asarray(kind), coolants.mass_fraction_from_volume(volume_share, kind))


def waterless(residual_water: float = 0.01) -> Coolant:
    """Waterless coolant with some water left in it, by mass."""
    return Coolant(np.asarray(coolants.WATERLESS), np.asarray(1.0 - residual_water))


WATER = Coolant(np.asarray(coolants.WATER), np.asarray(0.0))
