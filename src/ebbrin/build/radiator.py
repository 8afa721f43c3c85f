"""The core as people describe it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build.fields import assumed, choice, known, needed, switch
from ebbrin.build.part import LOUVRED, TESTED, Number, Part, ShelfRef, from_shelf


class Radiator(Part):
    """The finned block, without tanks."""

    core_type: Literal["louvred", "plain"] = choice(
        "louvred",
        "Kind of core",
        {"louvred": "Louvred fins, flat tubes", "plain": "Plain plate fins, round tubes"},
        "Modern cores have louvred fins; many old ones plain plates on round tubes.",
    )
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
    passes: Annotated[int | None, Field()] = assumed(
        "Passes", "count", 1, 4, 1, "How often the coolant crosses the core from tank to tank."
    )
    pass_layout: Literal["side_by_side", "in_depth"] = choice(
        "side_by_side",
        "Passes lie",
        {"side_by_side": "Side by side on the face", "in_depth": "One behind the other, the last in front"},
        "Side by side, each pass meets its own share of fresh air.",
        when={"/radiator/passes": [2, 3, 4]},
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
        "Gap between tubes",
        "small_length",
        4,
        40,
        "8 mm; 12 mm between round tubes",
        "Height of the fins between two tubes.",
    )
    fin_thickness_mm: Number = assumed(
        "Fin thickness", "small_length", 0.03, 0.3, 0.08, "Sheet thickness of the fin."
    )
    louvre_pitch_mm: Number = assumed(
        "Louvre pitch",
        "small_length",
        0.5,
        3.0,
        1.2,
        "Distance from louvre to louvre along the air.",
        when=LOUVRED,
    )
    louvre_length_mm: Number = assumed(
        "Louvre length",
        "small_length",
        2,
        39,
        "85 % of the gap between tubes",
        "Length of the cut, across the fin.",
        when=LOUVRED,
    )
    louvre_angle_deg: Number = assumed(
        "Louvre angle", "angle", 8, 35, 27, "Angle of the louvres to the air.", when=LOUVRED
    )
    tube_height_mm: Number = assumed(
        "Tube thickness",
        "small_length",
        1.2,
        20,
        "2 mm; 10 mm for round tubes",
        "Outside size of a flat tube across the gap, or diameter of a round one.",
    )
    tube_wall_mm: Number = assumed("Tube wall", "small_length", 0.1, 0.55, 0.3, "Wall thickness of the tube.")
    condition: Literal["new", "used", "unknown"] = choice(
        "unknown",
        "Condition",
        {"new": "New", "used": "Used and sound", "unknown": "Not known"},
        "What to expect of tubes, face and scale where they are not looked at: a core can look perfect and shed half of what it did.",
    )
    blocked_tubes_share: Number = assumed(
        "Tubes blocked",
        "share",
        0.0,
        0.9,
        "0.5 % in a new core, 4 % in a sound used one, 8 % if its condition is not known",
        "Share of tubes silted or soldered shut; the air through them stays cold.",
        guess=True,
    )
    blocked_face_share: Number = assumed(
        "Face blocked",
        "share",
        0.0,
        0.9,
        "1 % in a new core, 4 % in a sound used one, 6 % if its condition is not known",
        "Share of the face closed by debris, bent fins or anything in front.",
        guess=True,
    )
    scale_mm: Number = assumed(
        "Scale in the tubes",
        "small_length",
        0.0,
        1.0,
        "none in a new core, 0.03 mm in a sound used one, 0.06 mm if its condition is not known",
        "Thickness of the layer on the coolant's side: 0.1 to 0.5 mm in a neglected core.",
        guess=True,
    )
    test_point: bool = switch(
        False,
        "A test of this core is known",
        "By its maker or on a bench; it sets one factor on the computed conductance.",
    )
    test_heat_kw: Number = needed("Heat in the test", "power", 0.5, 2000, "What it shed.", when=TESTED)
    test_air_m_per_s: Number = needed(
        "Air speed in the test", "velocity", 0.3, 40, "At the core's face.", when=TESTED
    )
    test_coolant_l_per_min: Number = needed(
        "Coolant flow in the test", "coolant_flow", 1, 3000, "Through the core.", when=TESTED
    )
    test_difference_k: Number = assumed(
        "Inlet difference in the test",
        "temperature_difference",
        5,
        120,
        60,
        "Coolant in less air in.",
        when=TESTED,
    )
    test_air_c: Number = assumed(
        "Air in the test", "temperature", -20, 60, 25, "Before the core.", when=TESTED
    )
    test_coolant: Literal["water", "half_glycol"] = choice(
        "half_glycol",
        "Coolant in the test",
        {"water": "Water", "half_glycol": "Half water, half ethylene glycol"},
        "What ran through the core.",
        when=TESTED,
    )
    from_shelf: ShelfRef | None = from_shelf("core")

    @model_validator(mode="after")
    def fits_together(self) -> Radiator:
        """Refuse dimensions that exclude each other."""
        if self.core_type == "louvred":
            self._check_louvres()
        self._check_rows()
        self._check_bore()
        return self

    def _check_louvres(self) -> None:
        gap = gap_between_tubes(self)
        if self.louvre_length_mm is not None and self.louvre_length_mm >= gap:
            raise PydanticCustomError(
                "louvre_length_mm",
                "Louvre length must be below the gap between tubes ({gap} mm)",
                {"gap": gap},
            )

    def _check_rows(self) -> None:
        rows, depth = self.rows or 1, self.depth_mm
        if depth is None:
            return
        least = 8.0 if self.core_type == "louvred" else tube_height(self) + 1.0
        room = (depth - 2.0 * (rows - 1)) / rows if self.core_type == "louvred" else depth / rows
        if room < least:
            raise PydanticCustomError(
                "rows",
                "Each row needs at least {least} mm of depth: {rows} rows do not fit into {depth} mm",
                {"rows": rows, "depth": f"{depth:g}", "least": f"{least:g}"},
            )

    def _check_bore(self) -> None:
        wall = known(self, "tube_wall_mm")
        bore = tube_height(self) - 2.0 * (wall + (self.scale_mm or 0.0))
        if bore < LEAST_BORE:
            raise PydanticCustomError(
                "scale_mm",
                "Wall and scale leave {bore} mm of bore in the tube; {least} mm is the least",
                {"bore": f"{bore:.2f}", "least": LEAST_BORE},
            )


LEAST_BORE = 0.2
CONDITIONS = {
    "new": {"blocked_tubes_share": 0.005, "blocked_face_share": 0.01, "scale_mm": 0.0},
    "used": {"blocked_tubes_share": 0.04, "blocked_face_share": 0.04, "scale_mm": 0.03},
    "unknown": {"blocked_tubes_share": 0.08, "blocked_face_share": 0.06, "scale_mm": 0.06},
}
"""What half of such cores are below (choices)."""


def scale_room(radiator: Radiator) -> float:
    """Thickest scale [mm] that the tubes have room for."""
    wall = known(radiator, "tube_wall_mm")
    return max(0.5 * (tube_height(radiator) - LEAST_BORE) - wall, 0.0)


def likely_scale(radiator: Radiator) -> float:
    """Scale [mm] that half of the cores of this condition stay below, no more than its tubes have room for."""
    return min(CONDITIONS[radiator.condition]["scale_mm"], scale_room(radiator))


def gap_between_tubes(radiator: Radiator) -> float:
    """The gap [mm], its default if it is not known."""
    if radiator.fin_height_mm is not None:
        return radiator.fin_height_mm
    return 12.0 if radiator.core_type == "plain" else 8.0


def tube_height(radiator: Radiator) -> float:
    """Tube thickness or diameter [mm], its default if it is not known."""
    if radiator.tube_height_mm is not None:
        return radiator.tube_height_mm
    return 10.0 if radiator.core_type == "plain" else 2.0
