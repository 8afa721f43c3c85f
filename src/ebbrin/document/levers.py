"""A lever as a change of a variant, so that one press tries it. The core's levers.py changes arrays; these
change the document, by the same amounts, and a test compares both."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from ebbrin.core.system import levers as core
from ebbrin.document.build import Build, Variant
from ebbrin.document.resolve import resolve

Changes = dict[str, Any]
"""Values by path within a variant, such as radiator/width_mm."""


def _size(v: Variant) -> Changes:
    by = core.AREA**0.5
    return {f"radiator/{name}": round(_number(getattr(v.radiator, name)) * by, 2) for name in ("width_mm", "height_mm")}  # fmt: skip


def _fan(v: Variant) -> Changes:
    points = [
        {"flow_m3_per_s": round(p.flow_m3_per_s * core.FAN, 5), "pressure_pa": round(p.pressure_pa * core.FAN**2, 3)}
        for p in v.air.fan.curve or []
    ]  # fmt: skip
    return {"air/fan/curve": points}


def _pump(v: Variant) -> Changes:
    name = "belt_ratio" if v.circuit.pump_drive == "belt" else "electric_rpm"
    return {f"circuit/{name}": round(_number(getattr(v.circuit, name)) * core.PUMP, 4)}


def _ram(v: Variant) -> Changes:
    return {"air/ram_coefficient": round(min(_number(v.air.ram_coefficient) + core.RAM, core.MOST_RAM), 4)}


def _number(value: float | None) -> float:
    return 0.0 if value is None else float(value)


def _set(**values: Any) -> Callable[[Variant], Changes]:
    return lambda _: {path.replace("__", "/"): value for path, value in values.items()}


CHANGES: dict[str, Callable[[Variant], Changes]] = {
    "core_area": _size,
    "core_depth": lambda v: {"radiator/depth_mm": round(_number(v.radiator.depth_mm) * core.DEPTH, 2)},
    "fin_density": lambda v: {"radiator/fin_pitch_mm": round(_number(v.radiator.fin_pitch_mm) / core.FINS, 4)},
    "full_shroud": _set(air__shroud="full", air__blade_recirculation_share=core.FULL_RECIRCULATION),
    "ring_shroud": _set(air__shroud="ring", air__blade_recirculation_share=core.RING_RECIRCULATION),
    "fan_flow": _fan,
    "ram": _ram,
    "front_sealed": _set(air__front_recirculation_share=0.0),
    "debris_cleared": _set(radiator__blocked_face_share=0.0),
    "tubes_cleared": _set(radiator__blocked_tubes_share=0.0),
    "descaled": _set(radiator__scale_mm=0.0),
    "pump_ratio": _pump,
    "water": _set(coolant__kind="water"),
    "half_glycol": _set(coolant__kind="ethylene_glycol", coolant__glycol_vol_share=0.5),
    "waterless": _set(coolant__kind="waterless", coolant__residual_water_share=0.01),
    "cap_up": lambda v: {"cap/pressure_kpa": _number(v.cap.pressure_kpa) + core.CAP_STEP / 1e3},
    "thermostat_down": lambda v: {"thermostat/opens_c": _number(v.thermostat.opens_c) - core.THERMOSTAT_STEP},
}  # fmt: skip
"""By the name of the core's lever."""


def with_lever(build: Build, variant_id: str, lever: str, name: str) -> Build:
    """The build with one more variant: a copy of one with a lever pulled, called ``name``.

    Raises
    ------
    KeyError
        If there is no such variant or lever.
    MissingValues
        If the variant lacks what an answer needs.
    pydantic.ValidationError
        If the change leaves what a build may hold, or there is no room for another variant.
    """
    resolved = resolve(build, variant_id).variant
    changes = CHANGES[lever](resolved)
    document = build.model_dump(mode="json")
    variants = document["variants"]
    source = next(v for v in variants if v["id"] == variant_id)
    copy: dict[str, Any] = {**{k: _copied(v) for k, v in source.items()}}
    copy["id"], copy["name"] = _fresh_id(f"{variant_id}-{lever}", {v["id"] for v in variants}), name[:120]
    for path, value in changes.items():
        *parts, last = path.split("/")
        node = copy
        for part in parts:
            node = node[part]
        node[last] = value
    return Build.model_validate({**document, "variants": [*variants, copy]})


def _copied(value: Any) -> Any:
    return {k: _copied(v) for k, v in value.items()} if isinstance(value, dict) else value


def _fresh_id(wanted: str, taken: set[str]) -> str:
    base = wanted.replace("_", "-")[:58]
    number, found = 2, base
    while found in taken:
        found, number = f"{base}-{number}", number + 1
    return found
