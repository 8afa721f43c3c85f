"""Random builds over the whole ranges of their fields, as a search makes them."""

from __future__ import annotations

from typing import Any

import numpy as np
from pydantic import BaseModel, ValidationError
from pydantic.fields import FieldInfo

from ebbrin.bridge.to_core import cases_from
from ebbrin.build.build import Build, Variant
from ebbrin.build.case import Case
from ebbrin.build.resolve import bounds, extra, resolve

KNOWN = 0.35
"""Share of the fields that may be unknown and are given."""
WIDE = 0.5
"""Share of given numbers drawn over the whole range; the others lie about the middle of it."""
ALWAYS = {"displacement_l", "rated_power_kw", "width_mm", "height_mm", "depth_mm"}
LEFT_OUT = {"from_shelf", "id", "name", "curve"}


def _number(rng: np.random.Generator, info: FieldInfo) -> float:
    low, high = bounds(info)
    share = rng.random() if rng.random() < WIDE else rng.beta(2.0, 5.0)
    if low > 0.0 and high / low > 20.0:
        return float(low * (high / low) ** share)
    return float(low + share * (high - low))


def _value(rng: np.random.Generator, name: str, info: FieldInfo) -> Any:
    """A value of a field, or nothing where it is left as it is."""
    more = extra(info)
    if isinstance(info.annotation, type) and issubclass(info.annotation, BaseModel):
        return _part(rng, info.annotation)
    if name in LEFT_OUT or name.startswith(("test_", "measured_")):
        return None
    if info.annotation is bool:
        return bool(rng.random() < 0.3) if name != "test_point" else None
    if "labels" in more:
        choices = [key for key in more["labels"] if key != "measured"]
        return str(rng.choice(choices)) if rng.random() < 0.6 else None
    if "quantity" not in more or bounds(info)[0] == float("-inf"):
        return None
    if name not in ALWAYS and rng.random() > KNOWN:
        return None
    value = _number(rng, info)
    return int(round(value)) if more["quantity"] == "count" else float(f"{value:.4g}")


def _part(rng: np.random.Generator, model: type[BaseModel]) -> dict[str, Any]:
    drawn = {name: _value(rng, name, info) for name, info in model.model_fields.items()}
    return {name: value for name, value in drawn.items() if value is not None}


def _drop(document: dict[str, Any], where: tuple[Any, ...]) -> bool:
    """Take out what an error names; the part that it stands in where it names no field."""
    node: Any = document
    for name in where[:-1]:
        if not isinstance(node, dict | list) or (isinstance(node, dict) and name not in node):
            return False
        node = node[name]
    if isinstance(node, dict) and where[-1] in node:
        value = node.pop(where[-1])
        if isinstance(value, dict):
            node[where[-1]] = {name: v for name, v in value.items() if name in ALWAYS}
        return True
    return False


def _turns(build: Build) -> bool:
    """Whether gearing leaves every engine speed within what engines do; else the build is refused, and says so."""
    crank = cases_from(resolve(build, "v")).crank_speed
    return bool((crank >= 1.0).all() and (crank <= 400.0).all())


def made(seed: int, cases: int = 3) -> Build | None:
    """A random build, or none where what was drawn excludes itself. What a part refuses is taken out of it: the field
    by whose name the refusal goes, else the whole part."""
    rng = np.random.default_rng([20, seed])
    variant = {"id": "v", "name": "v", **_part(rng, Variant)}
    document = {
        "name": f"made {seed}",
        "site": {"ambient_c": float(rng.uniform(-20, 50)), "altitude_m": float(rng.uniform(0, 4000))},
        "cases": [{"id": f"c{i}", "name": f"c{i}", **_part(rng, Case)} for i in range(cases)],
        "variants": [variant],
    }
    for _ in range(12):
        try:
            build = Build.model_validate(document)
            return build if _turns(build) else None
        except ValidationError as error:
            for entry in error.errors():
                where = entry["loc"]
                if not _drop(document, (*where, entry["type"])) and not _drop(document, where):
                    return None
    return None
