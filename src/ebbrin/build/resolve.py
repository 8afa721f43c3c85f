"""Unknown values become their stated defaults, each marked as assumed; missing ones are named."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, reduce
from typing import Any, NamedTuple

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from ebbrin.build.build import Build, Variant
from ebbrin.build.case import Case
from ebbrin.build.circuit import SECOND_STAGE
from ebbrin.build.fields import known
from ebbrin.build.parts import CurvePoint
from ebbrin.build.radiator import CONDITIONS, gap_between_tubes, likely_scale, tube_height
from ebbrin.ground.errors import EbbrinError, FieldProblem, NotFound
from ebbrin.ground.paths import parts_of, value_at

Derived = Callable[[Variant], Any]


def _generic_fan(variant: Variant) -> list[CurvePoint]:
    """A middling axial fan of the blade diameter (choice): free flow at 6.5 m/s over the disc, 190 Pa shut."""
    diameter = 0.001 * known(variant.air.fan, "diameter_mm")
    free, shut = 6.5 * 0.785398 * diameter**2, 190.0
    shape = ((0.0, 1.0), (0.3, 0.78), (0.6, 0.55), (0.85, 0.24), (1.0, 0.0))
    return [CurvePoint(flow_m3_per_s=round(free * q, 5), pressure_pa=round(shut * p, 2)) for q, p in shape]


def _condenser_heat(variant: Variant) -> float:
    stated = variant.air.condenser_heat_kw
    return float(DERIVED["/air/condenser_heat_kw"](variant) if stated is None else stated)


# What a default in words follows from. Paths within a variant; a test proves that none is missing.
DERIVED: dict[str, Derived] = {
    "/engine/rated_rpm": lambda v: 4000.0 if v.engine.kind in ("diesel", "prechamber_diesel") else 6000.0,
    "/engine/metal_heat_kj_per_k": lambda v: 22.0 * (v.engine.displacement_l or 2.0),
    "/coolant/volume_l": lambda v: 4.0 + 2.0 * (v.engine.displacement_l or 2.0),
    "/radiator/fin_height_mm": lambda v: gap_between_tubes(v.radiator),
    "/radiator/tube_height_mm": lambda v: tube_height(v.radiator),
    "/radiator/louvre_length_mm": lambda v: 0.85 * gap_between_tubes(v.radiator),
    "/radiator/blocked_tubes_share": lambda v: CONDITIONS[v.radiator.condition]["blocked_tubes_share"],
    "/radiator/blocked_face_share": lambda v: CONDITIONS[v.radiator.condition]["blocked_face_share"],
    "/radiator/scale_mm": lambda v: likely_scale(v.radiator),
    "/air/condenser_heat_kw": lambda v: 8.0 if (v.vehicle.mass_kg or 0.0) > 2000.0 else 5.0,
    "/air/compressor_kw": lambda v: _condenser_heat(v) / 3.0,
    "/air/blade_recirculation_share": lambda v: 0.15 if v.air.shroud == "none" else 0.05,
    "/air/fan/voltage_v": lambda v: 13.5 if v.air.fan.test_voltage_v is None else v.air.fan.test_voltage_v,
    "/fan_switch/full_on_c": lambda v: known(v.fan_switch, "on_c") + SECOND_STAGE,
    "/fan_switch/full_off_c": lambda v: known(v.fan_switch, "off_c") + SECOND_STAGE,
    "/air/fan/curve": _generic_fan,
    "/circuit/run_out_l_per_min": lambda v: max(1.6 * (v.engine.rated_power_kw or 0.0), 150.0),
}


@dataclass(frozen=True)
class Assumed:
    """A value that was not known: where, what it is called, what was taken, and whether that is a guess."""

    path: str
    title: str
    value: Any
    quantity: str
    guess: bool


@dataclass(frozen=True)
class Missing:
    """A field without which there is no answer."""

    path: str
    title: str
    description: str
    low: float
    high: float


class MissingValues(EbbrinError):
    """The build cannot be evaluated yet; ``missing`` names every field that it lacks."""

    status, kind, title = 422, "values-needed", "More is needed for an answer"

    def __init__(self, missing: list[Missing]) -> None:
        self.missing = missing
        super().__init__("needed: " + ", ".join(m.title.lower() for m in missing))

    @property
    def detail(self) -> str:
        """How many they are."""
        return "One value is needed." if len(self.missing) == 1 else f"{len(self.missing)} values are needed."

    @property
    def fields(self) -> list[FieldProblem]:
        """Each of them, and what it is for."""
        return [
            FieldProblem(m.path, f"{m.title} is needed for an answer. {m.description}", m.low, m.high)
            for m in self.missing
        ]


class UnknownVariant(NotFound):
    """The build has no such variant."""

    def __init__(self, variant_id: str) -> None:
        super().__init__(f"The build has no variant {variant_id}.")


class UnknownCase(NotFound):
    """The build has no such case."""

    def __init__(self, case_id: str) -> None:
        super().__init__(f"The build has no case {case_id}.")


@dataclass(frozen=True)
class Resolved:
    """One variant and the cases with every value filled, and what was assumed to do so."""

    variant: Variant
    cases: list[Case]
    assumed: list[Assumed]

    def assumes(self, path: str) -> bool:
        """Whether a value of the variant, such as /air/ram_coefficient, was not known."""
        return any(a.path.startswith("/variants/") and a.path.endswith(path) for a in self.assumed)

    def assumes_start(self, case: int) -> bool:
        """Whether nobody said how warm the engine is when the ``case``-th case begins."""
        return any(a.path == f"/cases/{case}/start_c" for a in self.assumed)


def extra(info: FieldInfo) -> dict[str, Any]:
    """What fields.py wrote beside a field."""
    found = info.json_schema_extra
    return found if isinstance(found, dict) else {}


def bounds(info: FieldInfo) -> tuple[float, float]:
    """Lowest and highest allowed value of a number."""
    low = next((m.ge for m in info.metadata if hasattr(m, "ge")), float("-inf"))
    high = next((m.le for m in info.metadata if hasattr(m, "le")), float("inf"))
    return float(low), float(high)


class _Field(NamedTuple):
    """A field of a part: its name, what is stated beside it, what is assumed where it is not known, and whether there is no
    answer without it."""

    name: str
    info: FieldInfo
    assumed: Any
    needed: bool


@cache
def _fields(model: type[BaseModel]) -> tuple[_Field, ...]:
    stated = ((name, info, extra(info)) for name, info in model.model_fields.items())
    return tuple(
        _Field(name, info, more.get("assumed"), bool(more.get("needed"))) for name, info, more in stated
    )


@cache
def _steps(path: str) -> tuple[str, ...]:
    """Names on the way to a field, by a pointer or by the name of one of the root's own."""
    return tuple(parts_of("/" + path.removeprefix("/")))


def _values(build: Build, pattern: str) -> list[Any]:
    """What a pattern such as /cases/*/kind finds in a build."""
    listed, rest = pattern.strip("/").split("/*/")
    return [value_at(entry, "/" + rest) for entry in getattr(build, listed)]


def relevant(info: FieldInfo, root: BaseModel, build: Build) -> bool:
    """Whether a field matters, given the choices made elsewhere under ``root`` (by a pointer, or by the name of one of its
    own fields) and, for a condition with a star, anywhere in the build."""
    for path, allowed in extra(info).get("relevant_when", {}).items():
        found = _values(build, path) if "*" in path else [reduce(getattr, _steps(path), root)]
        if not any(value in allowed for value in found):
            return False
    return True


def _fill(
    build: Build,
    root: BaseModel,
    prefix: str,
    out: list[Assumed] | None,
    missing: list[Missing],
    thermostat: float,
    part: str = "",
) -> Any:
    """A copy of ``root``, or of one ``part`` of it, with nothing unknown; what was assumed is written down in ``out``."""

    def walk(model: BaseModel, path: str) -> BaseModel:
        changes: dict[str, Any] = {}
        for name, info, assumed, needed in _fields(type(model)):
            value = getattr(model, name)
            if value is None:
                here = f"{path}/{name}"
                filled = _default(root, here, assumed, thermostat)
                if filled is None and needed and relevant(info, root, build):
                    missing.append(
                        Missing(prefix + here, info.title or name, info.description or "", *bounds(info))
                    )
                elif filled is not None:
                    changes[name] = filled
                    if out is not None and relevant(info, root, build):
                        out.append(_assumed(prefix + here, info, filled))
            elif isinstance(value, BaseModel):
                changes[name] = walk(value, f"{path}/{name}")
        return model.model_copy(update=changes)

    return walk(getattr(root, part), f"/{part}") if part else walk(root, "")


def _default(root: BaseModel, path: str, assumed: Any, thermostat: float) -> Any:
    if not isinstance(assumed, str):
        return assumed
    return DERIVED[path](root) if isinstance(root, Variant) else thermostat


def _assumed(path: str, info: FieldInfo, value: Any) -> Assumed:
    more = extra(info)
    if isinstance(value, list):
        value = [point.model_dump() for point in value]
    return Assumed(path, info.title or "", value, str(more["quantity"]), bool(more.get("guess")))


def resolve_part(build: Build, variant: Variant, part: str) -> Any:
    """One part of a variant, by the name of its field, as ``resolve`` fills it.

    Raises
    ------
    MissingValues
        Naming every field of it that has no honest default and no value.
    """
    missing: list[Missing] = []
    filled = _fill(build, variant, "", None, missing, 0.0, part)
    if missing:
        raise MissingValues(missing)
    return filled


def resolve(build: Build, variant_id: str) -> Resolved:
    """Fill every unknown of one variant and of the cases.

    Raises
    ------
    MissingValues
        Naming every field that has no honest default and no value.
    UnknownVariant
    """
    index = next((i for i, v in enumerate(build.variants) if v.id == variant_id), None)
    if index is None:
        raise UnknownVariant(variant_id)
    out: list[Assumed] = []
    missing: list[Missing] = []
    variant = _fill(build, build.variants[index], f"/variants/{index}", out, missing, 0.0)
    if missing:
        raise MissingValues(missing)
    opens = float(variant.thermostat.opens_c + variant.thermostat.span_k)
    site = build.site
    cases = [
        _fill(build, case, f"/cases/{i}", out, missing, opens).model_copy(
            update={
                "ambient_c": site.ambient_c if case.ambient_c is None else case.ambient_c,
                "altitude_m": site.altitude_m if case.altitude_m is None else case.altitude_m,
            }
        )
        for i, case in enumerate(build.cases)
    ]
    return Resolved(variant, cases, out)
