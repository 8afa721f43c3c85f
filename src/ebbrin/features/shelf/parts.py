"""A part on the shelf: what it is called and the values of the document that it fills."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any, Literal

from pydantic import BaseModel, Field, ValidationError

from ebbrin.build import parts
from ebbrin.build.fan import Fan
from ebbrin.build.part import Identifier, Part, Words
from ebbrin.build.problems import problem
from ebbrin.ground.errors import FieldProblem

ShelfKind = Literal["radiator", "fan", "pump", "thermostat", "cap", "coolant"]


@dataclass(frozen=True)
class Slot:
    """Where parts of a kind belong: path within a variant, model, and the fields that a part brings;
    ``needed`` are those without which it is no such part."""

    path: str
    model: type[BaseModel]
    fields: tuple[str, ...]
    needed: tuple[str, ...]


OTHER_COUNT = 0.05
"""Choice: a single fan is so much less like a pair of its size, as a share of that size."""
SLOTS: dict[ShelfKind, Slot] = {
    "radiator": Slot(
        "/radiator",
        parts.Radiator,
        (
            *("core_type", "width_mm", "height_mm", "depth_mm", "rows", "flow", "passes", "pass_layout", "material"),
            *("fin_pitch_mm", "fin_height_mm", "fin_thickness_mm", "louvre_pitch_mm", "louvre_length_mm"),
            *("louvre_angle_deg", "tube_height_mm", "tube_wall_mm", "condition", "blocked_tubes_share", "scale_mm"),
            *("test_point", "test_heat_kw", "test_air_m_per_s", "test_coolant_l_per_min"),
            *("test_difference_k", "test_air_c", "test_coolant"),
        ),
        ("width_mm", "height_mm", "depth_mm"),
    ),
    "fan": Slot(
        "/air/fan",
        Fan,
        (
            *("kind", "fans", "mount", "diameter_mm", "curve", "curve_density_kg_per_m3", "test_voltage_v"),
            *("electric_power_w", "staging", "slow_speed_share"),
            *("curve_rpm", "engaged_share", "disengaged_share", "shaft_power_kw"),
        ),
        ("kind", "diameter_mm", "curve"),
    ),
    "pump": Slot(
        "/circuit",
        parts.Circuit,
        (
            *("pump_drive", "shut_off_kpa", "run_out_l_per_min", "pump_test_rpm"),
            *("electric_rpm", "electric_pump_w", "npsh_required_m"),
        ),
        ("pump_drive", "shut_off_kpa", "run_out_l_per_min", "pump_test_rpm"),
    ),
    "thermostat": Slot("/thermostat", parts.Thermostat, ("opens_c", "span_k", "drop_kpa"), ("opens_c",)),
    "cap": Slot("/cap", parts.Cap, ("pressure_kpa",), ("pressure_kpa",)),
    "coolant": Slot("/coolant", parts.Coolant, ("kind", "glycol_vol_share", "residual_water_share"), ("kind",)),
}  # fmt: skip


class ShelfPart(Part):
    """One part; its values are those fields of the build document that belong to its kind."""

    part: ShelfKind = Field(title="Part", description="Which kind of part it is.")
    id: Identifier = Field(title="Id", description="Letters, digits, - and _; a build remembers it.")
    version: int = Field(
        default=1, ge=1, le=1_000_000, title="Version", description="Rises when the values change."
    )
    name: Words = Field(min_length=1, max_length=120, title="Name", description="What people call it.")
    note: Words = Field(default="", max_length=500, title="Note", description="Anything worth knowing.")
    price: float | None = Field(
        default=None, ge=0, le=1e7, title="Price", description="In the workshop's own money."
    )
    mass_kg: float | None = Field(default=None, ge=0, le=1000, title="Mass", description="Dry.")
    values: dict[str, Any] = Field(
        title="Values", description="Fields of the build document, by their names and in its units."
    )


def read_part(raw: dict[str, Any]) -> tuple[ShelfPart | None, list[FieldProblem]]:
    """A part from what a file holds, or what is wrong with it, each problem with the name of its field."""
    try:
        part = ShelfPart.model_validate(raw)
    except ValidationError as error:
        return None, [problem(dict(e), root=ShelfPart) for e in error.errors()]
    slot = SLOTS[part.part]
    kind = part.part
    wrong = [
        FieldProblem(f"/values/{name}", f"A {kind} has no field {name}; leave it empty or correct its name.")
        for name in part.values
        if name not in slot.fields
    ]
    wrong += [
        FieldProblem(f"/values/{name}", f"A {kind} needs {name}.")
        for name in slot.needed
        if part.values.get(name) is None
    ]
    if wrong:
        return None, wrong
    try:
        given = slot.model.model_validate(part.values)
    except ValidationError as error:
        found = [problem(dict(e), root=slot.model) for e in error.errors()]
        return None, [replace(p, path=f"/values{p.path}") for p in found]
    # As the document writes them, so that equal parts are equal.
    dumped = given.model_dump(mode="json", include=set(part.values))
    return part.model_copy(update={"values": {k: v for k, v in dumped.items() if v is not None}}), []


def of_kind(shelf: Iterable[ShelfPart], kind: ShelfKind) -> list[ShelfPart]:
    """The parts of one kind."""
    return [part for part in shelf if part.part == kind]


def _nearest(
    shelf: Iterable[ShelfPart], kind: ShelfKind, far: Callable[[ShelfPart], float | None]
) -> ShelfPart | None:
    """The part of a kind with a price that is least ``far``, those left out of which that is None; None without one."""
    known = [(away, part) for part in of_kind(shelf, kind) if part.price is not None for away in [far(part)]]
    return min(((a, p) for a, p in known if a is not None), key=lambda pair: pair[0], default=(0.0, None))[1]


def nearest_price(
    shelf: Iterable[ShelfPart], kind: ShelfKind, values: Mapping[str, Any]
) -> tuple[ShelfPart, float] | None:
    """The priced part of a kind whose numbers are nearest to ``values`` and whose choices are the same, and its price
    for as many fans as are asked for. None where there is no such part, or a value of those asked for is not known."""

    def far(other: ShelfPart) -> float | None:
        away = 0.0 if _count(other.values) == _count(values) else OTHER_COUNT
        for name, mine in values.items():
            there = other.values.get(name)
            if isinstance(mine, int | float) and isinstance(there, int | float):
                away += abs(there - mine) / max(abs(mine), 1.0)
            elif not (isinstance(mine, list) or name == "fans") and (mine is None or mine != there):
                return None
        return away

    nearest = _nearest(shelf, kind, far)
    if nearest is None or nearest.price is None:
        return None
    return nearest, nearest.price * _count(values) / _count(nearest.values)


def _count(values: Mapping[str, Any]) -> int:
    """How many fans a part is; 1 for what is none. One that the engine drives is alone, whatever else is written."""
    return 2 if (values.get("kind"), values.get("fans")) == ("electric", "two") else 1


def is_still(part: ShelfPart, fitted: Mapping[str, Any]) -> bool:
    """Whether what is fitted, as the document writes it, is that part: what such a part must have is as it says. Wear and
    what somebody came to know of it make no other part."""
    same = all(fitted.get(name) == part.values.get(name) for name in SLOTS[part.part].needed)
    return same and _count(fitted) == _count(part.values)


def price_of(shelf: Iterable[ShelfPart], part: ShelfPart) -> float | None:
    """Price of a part; where nobody wrote one down, that of the priced part of its kind that is most like it by what such
    a part must have; None without one."""
    if part.price is not None:
        return part.price
    compared = (*SLOTS[part.part].needed, *(("fans",) if part.part == "fan" else ()))
    nearest = nearest_price(shelf, part.part, {name: part.values.get(name) for name in compared})
    return None if nearest is None else nearest[1]


def price_near(shelf: Iterable[ShelfPart], kind: ShelfKind, field: str, value: float) -> float:
    """Price of the shelf's part of a kind whose ``field`` is nearest to ``value``; 0 without one."""

    def far(part: ShelfPart) -> float | None:
        found = part.values.get(field)
        return None if found is None else abs(found - value)

    nearest = _nearest(shelf, kind, far)
    return nearest.price or 0.0 if nearest else 0.0
