"""Builds and systems that tests start from."""

from __future__ import annotations

from typing import Any

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.build.build import Build
from ebbrin.build.resolve import resolve
from ebbrin.core.system.parts import Cases, System
from ebbrin.demo import demo_builds


def linnet() -> Build:
    """The demo's hillclimb coupé."""
    return demo_builds()[0]


def edited(build: Build, **changes: Any) -> Build:
    """A copy with values changed by path, slashes written as double underscores."""
    document = build.model_dump(mode="json")
    for path, value in changes.items():
        *parts, last = path.split("__")
        node: Any = document
        for part in parts:
            node = node[int(part) if part.isdigit() else part]
        node[last] = value
    return Build.model_validate(document)


def part(build: Build, **changes: Any) -> Build:
    """A copy with values of the first variant changed."""
    return edited(build, **{f"variants__0__{path}": value for path, value in changes.items()})


def to_core(build: Build) -> tuple[System, Cases]:
    """System and cases of the first variant."""
    resolved = resolve(build, build.variants[0].id)
    return system_from(resolved), cases_from(resolved)


def plain_build(**case: Any) -> Build:
    """A shrouded electric fan, fixed brake power and one case: what the monotone relations are stated for."""
    return Build.model_validate(
        {
            "name": "plain",
            "site": {"ambient_c": 30, "altitude_m": 0},
            "cases": [
                {"id": "one", "name": "one", "load": "power", "brake_power_kw": 40, "engine_rpm": 2500}
                | {"speed_km_h": 30}
                | case
            ],
            "variants": [
                {
                    "id": "v",
                    "name": "v",
                    "engine": {"displacement_l": 2.0, "rated_power_kw": 110},
                    "radiator": {"width_mm": 600, "height_mm": 400, "depth_mm": 40},
                    "air": {"shroud": "full", "fan": {"kind": "electric"}},
                }
            ],
        }
    )
