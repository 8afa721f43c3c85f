"""A core of louvred serpentine fins on flat tubes, or of plain plate fins on round tubes: what is given
and the areas that follow."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, require
from ebbrin.core.records import with_axis

ROW_GAP = 0.002  # choice: clear distance between rows of flat tubes, m
ALUMINIUM_CONDUCTIVITY, COPPER_BRASS_CONDUCTIVITY = 200.0, 350.0  # fin, W/m K; common practice
SCALE_CONDUCTIVITY = 1.5  # W/m K; common practice, 1 to 2


@dataclass(frozen=True)
class Core:
    """Dimensions in metres, (...) float arrays that broadcast.

    width, height, depth of the finned block; rows [-]; crossflow (bool), tubes run along the width;
    passes [-] of the coolant through the face, in_depth (bool) one behind the other, last pass in front,
    instead of side by side on the face; plain (bool), plate fins on round tubes instead of louvred fins on flat ones;
    fin_pitch, fin_height (gap between tubes), fin_thickness, louvre_pitch, louvre_length, louvre_angle [rad]
    (the last three of no effect for plain fins); tube_height (outside, across the gap; the diameter of
    round tubes), tube_wall; conductivity of the fin [W/m K]; blocked_tubes and blocked_face, shares 0 to
    below 1; scale, its thickness on the coolant's side, a resistance on the clean bore as fouling is by
    convention: what a patchy, rough layer does to the flow is not known.
    UA_factor [-] from a maker's test point; air_film, air_friction and coolant_film [-] factors on the
    correlations, 1 unless their scatter is sampled.
    """

    width: FloatArray
    height: FloatArray
    depth: FloatArray
    rows: FloatArray
    crossflow: BoolArray
    passes: FloatArray
    in_depth: BoolArray
    plain: BoolArray
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
    scale: FloatArray
    UA_factor: FloatArray
    air_film: FloatArray
    air_friction: FloatArray
    coolant_film: FloatArray

    def checked(self) -> Core:
        """This core, once its dimensions leave room for fins and for coolant.

        Raises
        ------
        DomainError
            Naming the dimension, its value and its range.
        """
        for name in ("width", "height", "depth", "fin_pitch", "fin_height", "fin_thickness", "tube_height"):
            require(f"core {name.replace('_', ' ')}", getattr(self, name), 1e-5, 5.0, "m")
        for name in ("blocked_tubes", "blocked_face"):
            require(name.replace("_", " ") + " share", getattr(self, name), 0.0, 0.999, "-")
        require("rows", self.rows, 1.0, 12.0, "-")
        require("passes", self.passes, 1.0, 6.0, "-")
        require("gap between fins", self.fin_pitch - self.fin_thickness, 1e-5, 0.1, "m")
        require("bore of the tubes", self.tube_inner[1] - 2.0 * self.scale, 2e-4, 0.1, "m")
        require("inner width of the tubes", self.tube_inner[0], 2e-4, 1.0, "m")
        return self

    @cached_property
    def tube_pitch(self) -> FloatArray:
        """Distance between tube centres across the face [m]."""
        return self.fin_height + self.tube_height

    @cached_property
    def row_pitch(self) -> FloatArray:
        """Distance between rows along the air [m]."""
        return self.depth / self.rows

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
        flat = (self.depth - (self.rows - 1.0) * ROW_GAP) / self.rows
        return np.where(self.plain, self.tube_height, flat)

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
        """Hydraulic diameter of the passage between louvred fins [m]."""
        gap = self.fin_pitch - self.fin_thickness
        return 2.0 * self.fin_height * gap / (self.fin_height + gap)

    @cached_property
    def _plate_cell(self) -> tuple[FloatArray, FloatArray, FloatArray]:
        """Fin area and tube area of one cell of a plain core, and its least free-flow area [m²]."""
        gap = self.fin_pitch - self.fin_thickness
        fin = 2.0 * (self.tube_pitch * self.row_pitch - np.pi / 4.0 * self.tube_height**2)
        return fin, np.pi * self.tube_height * gap, self.fin_height * gap

    @cached_property
    def air_area_ratio(self) -> FloatArray:
        """Total air-side area over least free-flow area [-]."""
        fin, tube, free = self._plate_cell
        louvred = 4.0 * self.depth / self.air_hydraulic_diameter
        return np.where(self.plain, self.rows * (fin + tube) / free, louvred)

    @cached_property
    def fin_share(self) -> FloatArray:
        """Fin area over total air-side area [-]."""
        fin, tube, _ = self._plate_cell
        louvred = self.fin_height / (self.fin_height + self.fin_pitch - self.fin_thickness)
        return np.where(self.plain, fin / (fin + tube), louvred)

    @cached_property
    def air_area(self) -> FloatArray:
        """Air-side area of the open face [m²]."""
        return self.open_face * self.free_share * self.air_area_ratio

    @cached_property
    def tube_inner(self) -> tuple[FloatArray, FloatArray]:
        """Inner width (along the air) and height of a clean tube [m]."""
        lost = 2.0 * self.tube_wall
        return self.tube_depth - lost, self.tube_height - lost

    @cached_property
    def tube_flow_area(self) -> FloatArray:
        """Inner cross section of one tube [m²]."""
        wide, high = self.tube_inner
        return np.where(self.plain, np.pi / 4.0, 1.0) * wide * high

    @cached_property
    def tube_perimeter(self) -> FloatArray:
        """Inner perimeter of one tube [m]."""
        wide, high = self.tube_inner
        return np.where(self.plain, np.pi * high, 2.0 * (wide + high))

    @cached_property
    def tube_hydraulic_diameter(self) -> FloatArray:
        """Hydraulic diameter of a tube [m]."""
        return 4.0 * self.tube_flow_area / self.tube_perimeter

    @cached_property
    def tube_aspect(self) -> FloatArray:
        """Short side over long side of a flat tube [-]; 1 for a round one."""
        wide, high = self.tube_inner
        return np.minimum(wide, high) / np.maximum(wide, high)

    @cached_property
    def open_tubes(self) -> FloatArray:
        """Number of tubes that carry coolant [-]."""
        return self.tubes * (1.0 - self.blocked_tubes)

    @cached_property
    def parallel_area(self) -> FloatArray:
        """Cross section that the coolant has at any one place of its way [m²]."""
        return self.open_tubes / self.passes * self.tube_flow_area

    @cached_property
    def coolant_area(self) -> FloatArray:
        """Inner surface of all tubes, blocked ones included [m²]."""
        return self.tubes * self.tube_perimeter * self.tube_length

    @cached_property
    def zoned(self) -> Core:
        """The same core with a length-one axis at the end of each field, for the air zones."""
        return with_axis(self)
