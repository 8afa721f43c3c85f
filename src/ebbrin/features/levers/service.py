"""What each lever is called, and what it changes in a variant, so that one press tries it.

The core's levers.py changes arrays; these change the document, by the same amounts, and a test compares both.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from ebbrin.bridge.units import kilopascals
from ebbrin.build.build import Build, Variant
from ebbrin.build.problems import InvalidDocument
from ebbrin.build.resolve import resolve
from ebbrin.core.studies import levers as core
from ebbrin.ground.errors import EbbrinError, NotFound
from ebbrin.ground.paths import parts_of, put_at
from ebbrin.ground.words import Text, difference, pressure, printed

Changes = dict[str, Any]
"""Values by path within a variant, such as /radiator/width_mm."""


@dataclass(frozen=True)
class Change:
    """One lever: what it is called, and what it changes."""

    title: Text
    of: Callable[[Variant], Changes]


class UnknownLever(NotFound):
    """There is no such lever."""

    def __init__(self, name: str) -> None:
        super().__init__(f"There is no lever {name}.")


class LeverRefused(EbbrinError):
    """The change would leave what a build may hold."""

    status, kind, title = 422, "http", "Request refused"

    def __init__(self, error: ValidationError) -> None:
        self._fields = InvalidDocument(error).fields
        said = " ".join(field.message for field in self._fields)
        super().__init__(f"This change would leave what a build may hold. {said}")


def _more(factor: float) -> str:
    return f"{factor - 1.0:.0%}".replace("%", " %")


def _size(v: Variant) -> Changes:
    by = core.AREA**0.5
    return {f"/radiator/{name}": round(_number(getattr(v.radiator, name)) * by, 2) for name in ("width_mm", "height_mm")}  # fmt: skip


def _fan(v: Variant) -> Changes:
    points = [
        {"flow_m3_per_s": round(p.flow_m3_per_s * core.FAN, 5), "pressure_pa": round(p.pressure_pa * core.FAN**2, 3)}
        for p in v.air.fan.curve or []
    ]  # fmt: skip
    return {"/air/fan/curve": points}


def _pump(v: Variant) -> Changes:
    name = "belt_ratio" if v.circuit.pump_drive == "belt" else "electric_rpm"
    return {f"/circuit/{name}": round(_number(getattr(v.circuit, name)) * core.PUMP, 4)}


def _ram(v: Variant) -> Changes:
    return {"/air/ram_coefficient": round(_number(v.air.ram_coefficient) + core.RAM, 4)}


def _number(value: float | None) -> float:
    return 0.0 if value is None else float(value)


def _set(**values: Any) -> Callable[[Variant], Changes]:
    return lambda _: {"/" + path.replace("__", "/"): value for path, value in values.items()}


LEVERS: dict[str, Change] = {
    "core_area": Change([f"Core {_more(core.AREA)} larger"], _size),
    "core_depth": Change(
        [f"Core {_more(core.DEPTH)} deeper"],
        lambda v: {"/radiator/depth_mm": round(_number(v.radiator.depth_mm) * core.DEPTH, 2)},
    ),
    "fin_density": Change(
        [f"Fins {_more(core.FINS)} closer"],
        lambda v: {"/radiator/fin_pitch_mm": round(_number(v.radiator.fin_pitch_mm) / core.FINS, 4)},
    ),
    "full_shroud": Change(
        ["A full shroud"], _set(air__shroud="full", air__blade_recirculation_share=core.FULL_RECIRCULATION)
    ),
    "ring_shroud": Change(
        ["A ring round the fan"],
        _set(air__shroud="ring", air__blade_recirculation_share=core.RING_RECIRCULATION),
    ),
    "fan_flow": Change([f"A fan with {_more(core.FAN)} more flow"], _fan),
    "ram": Change([f"Better ducting: {core.RAM:g} more of the ram pressure"], _ram),
    "front_sealed": Change(
        ["Front sealed, no warm air coming round"], _set(air__front_recirculation_share=0.0)
    ),
    "debris_cleared": Change(["Face cleared of debris"], _set(radiator__blocked_face_share=0.0)),
    "tubes_cleared": Change(["Blocked tubes cleared"], _set(radiator__blocked_tubes_share=0.0)),
    "descaled": Change(["Scale removed"], _set(radiator__scale_mm=0.0)),
    "pump_ratio": Change([f"Pump {_more(core.PUMP)} faster"], _pump),
    "water": Change(["Plain water"], _set(coolant__kind="water")),
    "half_glycol": Change(
        ["Half water, half ethylene glycol"],
        _set(coolant__kind="ethylene_glycol", coolant__glycol_vol_share=0.5),
    ),
    "waterless": Change(
        ["Waterless coolant"], _set(coolant__kind="waterless", coolant__residual_water_share=0.01)
    ),
    "cap_up": Change(
        ["A cap ", pressure(kilopascals(core.CAP_STEP)), " stronger"],
        lambda v: {"/cap/pressure_kpa": _number(v.cap.pressure_kpa) + kilopascals(core.CAP_STEP)},
    ),
    "thermostat_down": Change(
        ["A thermostat ", difference(core.THERMOSTAT_STEP), " cooler"],
        lambda v: {"/thermostat/opens_c": _number(v.thermostat.opens_c) - core.THERMOSTAT_STEP},
    ),
}
"""By the name of the core's lever; tests prove that none is missing and that both change by the same."""


def pull(build: Build, variant_id: str, lever: str) -> Build:
    """The build with one more variant: a copy of one with a lever pulled, named after both. Stores nothing.

    Raises
    ------
    UnknownVariant, UnknownLever
    MissingValues
        If the variant lacks what an answer needs.
    LeverRefused
        If the change leaves what a build may hold, or there is no room for another variant.
    """
    resolved = resolve(build, variant_id).variant
    if lever not in LEVERS:
        raise UnknownLever(lever)
    change = LEVERS[lever]
    changes, words = change.of(resolved), printed(change.title)
    document = build.model_dump(mode="json")
    variants = document["variants"]
    source = next(v for v in variants if v["id"] == variant_id)
    copy: dict[str, Any] = deepcopy(source)
    copy["id"] = _fresh_id(f"{variant_id}-{lever}", {v["id"] for v in variants})
    copy["name"] = f"{source['name']} + {words[0].lower()}{words[1:]}"[:120]
    for path, value in changes.items():
        put_at(copy, path, value)
    try:
        return Build.model_validate({**document, "variants": [*variants, copy]})
    except ValidationError as error:
        raise LeverRefused(error) from error


def pulled(variant: Variant, lever: str) -> Variant:
    """A resolved variant as it is with a lever pulled, which may be more than a build may hold."""
    found: Any = variant
    for path, value in LEVERS[lever].of(variant).items():
        found = _with(found, parts_of(path), value)
    return found  # type: ignore[no-any-return]


def _with(model: Any, path: Sequence[str], value: Any) -> Any:
    name, *rest = path
    return model.model_copy(update={name: _with(getattr(model, name), rest, value) if rest else value})


def _fresh_id(wanted: str, taken: set[str]) -> str:
    base = wanted.replace("_", "-")[:58]
    number, found = 2, base
    while found in taken:
        found, number = f"{base}-{number}", number + 1
    return found
