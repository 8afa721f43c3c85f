"""What the workbench has against what is to be fitted, and what a job leaves as it is: said before anything is bought."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from ebbrin.build.build import Build
from ebbrin.build.resolve import MissingValues, extra, relevant
from ebbrin.core.base import DomainError
from ebbrin.features.fit.situation import Situation
from ebbrin.features.judge import surely, warnings
from ebbrin.ground.paths import value_at
from ebbrin.ground.words import Measure, Text, in_sentence


def against(build: Build, chosen_id: str) -> list[Text]:
    """Cases in which a variant fails, then what is warned of in it; nothing where too little is known to judge it.

    Raises
    ------
    UnknownVariant
    """
    try:
        answer = surely(build, chosen_id)
    except (MissingValues, DomainError):
        return []
    name = next(variant.name for variant in build.variants if variant.id == chosen_id)
    where = "; ".join(case.name for case in answer.cases if case.verdict == "fails")
    fails: list[Text] = [[f"By the workbench “{name}” fails in {where}."]] if where else []
    return [*fails, *warnings(answer)]


LOOKED_AT = ("engine", "air", "circuit", "cap")
"""Parts that hold more than what steps change."""
CHANGED = (
    *("/air/fan/", "/air/shroud", "/air/blade_recirculation_share"),
    *("/circuit/pump_drive", "/circuit/shut_off_kpa", "/circuit/run_out_l_per_min", "/circuit/pump_test_rpm"),
    *("/circuit/belt_ratio", "/circuit/electric_", "/circuit/npsh_required_m", "/cap/pressure_kpa"),
)
"""Beginnings of the paths of what has slots, and steps of its own (situation.py)."""
KNOWLEDGE = (
    "/engine/heat_school",
    "/engine/measured_",
    "/engine/tune_factor",
    "/engine/rated",
    "/cap/weakest_part_kpa",
)
"""What is known of a part or done with it, and is none."""


def besides(so: Situation) -> list[Text]:
    """In what else the chosen variant differs from the one that stands in the car: no step of the plan changes that."""
    found: Text = []
    for path, info in _fields(type(so.chosen), LOOKED_AT):
        if path.startswith((*CHANGED, *KNOWLEDGE)) or path.endswith("/from_shelf"):
            continue
        if path == "/air/front_recirculation_share" and "front_sealed" in so.also:
            continue
        before, after = (_value(variant, path, info) for variant in (so.standing, so.chosen))
        if before == after or not any(relevant(info, v, so.build) for v in (so.standing, so.chosen)):
            continue
        found += [
            *(["; "] if found else []),
            f"{info.title}, ",
            *_said(before, info),
            " → ",
            *_said(after, info),
        ]
    return [["No step here changes what else differs between the two: ", *found, "."]] if found else []


def _fields(
    model: type[BaseModel], names: tuple[str, ...] | None = None, prefix: str = ""
) -> Iterator[tuple[str, FieldInfo]]:
    for name, info in model.model_fields.items():
        if names is not None and name not in names:
            continue
        if isinstance(info.annotation, type) and issubclass(info.annotation, BaseModel):
            yield from _fields(info.annotation, None, f"{prefix}/{name}")
        else:
            yield f"{prefix}/{name}", info


def _value(variant: BaseModel, path: str, info: FieldInfo) -> Any:
    """What is known or assumed of a field; None where nothing is, or only words tell what is assumed."""
    value, assumed = value_at(variant, path), extra(info).get("assumed")
    return assumed if value is None and isinstance(assumed, int | float) else value


def _said(value: Any, info: FieldInfo) -> Text:
    more = extra(info)
    if value is None:
        return [str(more.get("null_means", "not known"))]
    if isinstance(value, bool):
        return ["yes" if value else "no"]
    if "labels" in more:
        return [in_sentence(more["labels"][str(value)])]
    return [Measure(quantity=str(more["quantity"]), value=value)]
