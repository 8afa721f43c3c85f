"""Every field of a build that a person may write, by its path within a variant or a case."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from ebbrin.build.build import Variant
from ebbrin.build.case import Case
from ebbrin.build.resolve import extra


def fields_of(model: type[BaseModel], path: str = "") -> list[tuple[str, Any]]:
    found = []
    for name, info in model.model_fields.items():
        inner = info.annotation
        if isinstance(inner, type) and issubclass(inner, BaseModel):
            found += fields_of(inner, f"{path}/{name}")
        else:
            found.append((f"{path}/{name}", info))
    return found


DESCRIBED = [(p, i) for model in (Variant, Case) for p, i in fields_of(model) if p not in ("/id", "/name")]
NUMBERS = [(p, i) for p, i in DESCRIBED if extra(i)["quantity"] not in ("choice", "switch", "curve", "shelf")]
