"""A louvred serpentine-fin core with flat tubes: what is given and the areas that follow."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from functools import cached_property

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray

ROW_GAP = 0.002  # choice: clear distance between tube rows, m
ALUMINIUM_CONDUCTIVITY, COPPER_BRASS_CONDUCTIVITY = 200.0, 350.0  # fin, W/m K; common practice


@dataclass(frozen=True)
class Core:
    """Dimensions in metres, (...) float arrays that broadcast.

    width, height, depth of the finned block; rows [-]; crossflow, tubes run along the width;
    fin_pitch, fin_height (gap between tubes), fin_thickness, louvre_pitch, louvre_length,
    louvre_angle [rad]; tube_height (outside, across the gap), tube_wall; conductivity of the fin
    [W/m K]; blocked_tubes and blocked_face, shares 0 to below 1.
    """

    width: FloatArray
    height: FloatArray
    depth: FloatArray
    rows: FloatArray
    crossflow: BoolArray
    fin_pitch: FloatArray
    fin_height: FloatArray
    fin_thickness: FloatArray
    louvre_pitch: FloatArray
    louvre_length: FloatArray
    louvre_angle: FloatArray
    tube_height: FloatArray
    tube_wall: FloatArray
    conductivity: FloatArray
    blocked_tubes: FloatArray
    blocked_face: FloatArray

    @cached_property
    def tube_pitch(self) -> FloatArray:
        """Distance between tube centres [m]."""
        return self.fin_height + self.tube_height

    @cached_property
    def tube_length(self) -> FloatArray:
        """Length of a tube [m]."""
        return np.where(self.crossflow, self.width, self.height)

    @cached_property
    def tubes(self) -> FloatArray:
        """Number of tubes over all rows [-], not rounded, so that area follows size smoothly."""
        return np.where(self.crossflow, self.height, self.width) / self.tube_pitch * self.rows

    @cached_property
    def tube_depth(self) -> FloatArray:
        """Outside depth of one tube along the air [m]."""
        return (self.depth - (self.rows - 1.0) * ROW_GAP) / self.rows

    @cached_property
    def open_face(self) -> FloatArray:
        """Face area that air can enter [m²]."""
        return self.width * self.height * (1.0 - self.blocked_face)

    @cached_property
    def free_share(self) -> FloatArray:
        """Least free-flow area over face area [-]."""
        return self.fin_height * (self.fin_pitch - self.fin_thickness) / (self.tube_pitch * self.fin_pitch)

    @cached_property
    def air_hydraulic_diameter(self) -> FloatArray:
        """Hydraulic diameter of the passage between fins [m]."""
        gap = self.fin_pitch - self.fin_thickness
        return 2.0 * self.fin_height * gap / (self.fin_height + gap)

    @cached_property
    def air_area_ratio(self) -> FloatArray:
        """Total air-side area over least free-flow area [-]."""
        return 4.0 * self.depth / self.air_hydraulic_diameter

    @cached_property
    def fin_share(self) -> FloatArray:
        """Fin area over total air-side area [-]."""
        return self.fin_height / (self.fin_height + self.fin_pitch - self.fin_thickness)

    @cached_property
    def air_area(self) -> FloatArray:
        """Air-side area of the open face [m²]."""
        return self.open_face * self.free_share * self.air_area_ratio

    @cached_property
    def tube_inner(self) -> tuple[FloatArray, FloatArray]:
        """Inner width (along the air) and height of a tube [m]."""
        return self.tube_depth - 2.0 * self.tube_wall, self.tube_height - 2.0 * self.tube_wall

    @cached_property
    def tube_flow_area(self) -> FloatArray:
        """Inner cross section of one tube [m²]."""
        wide, high = self.tube_inner
        return wide * high

    @cached_property
    def tube_hydraulic_diameter(self) -> FloatArray:
        """Hydraulic diameter of a tube [m]."""
        wide, high = self.tube_inner
        return 2.0 * wide * high / (wide + high)

    @cached_property
    def tube_aspect(self) -> FloatArray:
        """Short side over long side of a tube [-]."""
        wide, high = self.tube_inner
        return np.minimum(wide, high) / np.maximum(wide, high)

    @cached_property
    def open_tubes(self) -> FloatArray:
        """Number of tubes that carry coolant [-]."""
        return self.tubes * (1.0 - self.blocked_tubes)

    @cached_property
    def coolant_area(self) -> FloatArray:
        """Inner surface of all tubes, blocked ones included [m²]."""
        wide, high = self.tube_inner
        return self.tubes * 2.0 * (wide + high) * self.tube_length

    def with_trailing_axis(self) -> Core:
        """The same core with a length-one axis at the end of each field, for the air zones."""
        return replace(self, **{f.name: np.asarray(getattr(self, f.name))[..., None] for f in fields(self)})
