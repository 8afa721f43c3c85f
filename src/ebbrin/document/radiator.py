"""The core as people describe it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.document.fields import assumed, choice, needed
from ebbrin.document.part import Number, Part


class Radiator(Part):
    """The finned block, without tanks."""

    width_mm: Number = needed("Core width", "length", 100, 2000, "Across the car, fins only.")
    height_mm: Number = needed("Core height", "length", 100, 2000, "Fins only, without tanks.")
    depth_mm: Number = needed("Core depth", "length", 12, 150, "Along the air.")
    rows: Annotated[int | None, Field()] = assumed(
        "Rows of tubes", "count", 1, 4, 1, "Tube rows one behind the other."
    )
    flow: Literal["crossflow", "downflow"] = choice(
        "crossflow",
        "Tubes run",
        {"crossflow": "Side to side (crossflow)", "downflow": "Top to bottom (downflow)"},
        "Direction of the tubes: it sets their number and length.",
    )
    material: Literal["aluminium", "copper_brass"] = choice(
        "aluminium",
        "Material",
        {"aluminium": "Aluminium", "copper_brass": "Copper and brass"},
        "Sets how well the fins conduct.",
    )
    fin_pitch_mm: Number = assumed(
        "Fin pitch",
        "fin_pitch",
        0.8,
        4.0,
        1.8143,
        "Distance from fin to fin; 14 fins per inch is 1.81 mm.",
        guess=True,
    )
    fin_height_mm: Number = assumed(
        "Gap between tubes", "small_length", 4, 20, 8, "Height of the fins between two tubes."
    )
    fin_thickness_mm: Number = assumed(
        "Fin thickness", "small_length", 0.03, 0.3, 0.08, "Sheet thickness of the fin."
    )
    louvre_pitch_mm: Number = assumed(
        "Louvre pitch", "small_length", 0.5, 3.0, 1.2, "Distance from louvre to louvre along the air."
    )
    louvre_length_mm: Number = assumed(
        "Louvre length",
        "small_length",
        2,
        19,
        "85 % of the gap between tubes",
        "Length of the cut, across the fin.",
    )
    louvre_angle_deg: Number = assumed("Louvre angle", "angle", 8, 35, 27, "Angle of the louvres to the air.")
    tube_height_mm: Number = assumed(
        "Tube thickness", "small_length", 1.2, 8, 2.0, "Outside size of a flat tube across the gap."
    )
    tube_wall_mm: Number = assumed("Tube wall", "small_length", 0.1, 0.55, 0.3, "Wall thickness of the tube.")
    blocked_tubes_share: Number = assumed(
        "Tubes blocked",
        "share",
        0.0,
        0.9,
        0.0,
        "Share of tubes silted or soldered shut; the air through them stays cold.",
        guess=True,
    )
    blocked_face_share: Number = assumed(
        "Face blocked",
        "share",
        0.0,
        0.9,
        0.0,
        "Share of the face closed by debris, bent fins or anything in front.",
        guess=True,
    )

    @model_validator(mode="after")
    def fits_together(self) -> Radiator:
        """Refuse dimensions that exclude each other."""
        gap = self.fin_height_mm if self.fin_height_mm is not None else 8.0
        if self.louvre_length_mm is not None and self.louvre_length_mm >= gap:
            raise PydanticCustomError(
                "louvre_length_mm",
                "Louvre length must be below the gap between tubes ({gap} mm)",
                {"gap": gap},
            )
        rows, depth = self.rows or 1, self.depth_mm
        if depth is not None and (depth - 2.0 * (rows - 1)) / rows < 8.0:
            raise PydanticCustomError(
                "rows",
                "Each row needs at least 8 mm of depth: {rows} rows do not fit into {depth} mm",
                {"rows": rows, "depth": depth},
            )
        return self
