"""What is to be done to a car: what changes from the variant that stands in it to the chosen one, what a school renews
along with it, and what is known of the car. Plan and parts are both made from this."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from pydantic import BaseModel

from ebbrin.bridge.units import MM
from ebbrin.build.build import Build, Variant
from ebbrin.build.car import Car
from ebbrin.build.fields import known
from ebbrin.build.resolve import DERIVED, UnknownVariant
from ebbrin.core.fit.places import SCHOOLS, Heights, works
from ebbrin.features.fit.wiring import circuits

School = Literal["bad", "usual", "all"]
SCHOOL_WORDS: dict[School, str] = {
    "bad": "Only what is bad",
    "usual": "Usual: thermostat, cap and opened clamps with it",
    "all": "All: old hoses, belt and switch too",
}
Slot = Literal["radiator", "fan", "shroud", "pump", "thermostat", "fan_switch", "cap", "coolant"]
SLOTS: tuple[Slot, ...] = ("radiator", "fan", "shroud", "pump", "thermostat", "fan_switch", "cap", "coolant")
OLD_HOSES, OLD_COOLANT = 5.0, 5.0  # years, common practice
LEFT_BEHIND = 0.25
"""Share of the fill that draining leaves behind: 10 to 40 % (common practice), less where the block is drained."""
LEFT_BEHIND_DRAINED = 0.10
MOST_LEFT = 0.9
"""Choice: what stays behind stands in block and heater, which are not all of the new fill either, however much smaller."""


@dataclass(frozen=True)
class Situation:
    """One job: from which variant to which, by which school; slots that get a new part, with why; names of what holds,
    for the conditions of steps; what of the car is not known, by its title; the filling schools that work."""

    build: Build
    standing: Variant
    chosen: Variant
    school: School
    new: dict[Slot, str]
    also: dict[str, str] = field(default_factory=dict)
    holds: frozenset[str] = frozenset()
    unknown: tuple[str, ...] = ()
    fills_by: str = "funnel"

    @property
    def marked(self) -> bool:
        """Whether it is marked which variant stands in the car."""
        return self.build.standing == self.standing.id

    @property
    def left_behind(self) -> float:
        """Share of the old fill that stays in the system when it is drained: as measured, else as practice has it."""
        if self.build.car.stays_share is not None:
            return self.build.car.stays_share
        drained = {"block_drain", "full_drain"} <= self.holds
        return LEFT_BEHIND_DRAINED if drained else LEFT_BEHIND

    @property
    def left_l(self) -> float:
        """What draining leaves behind of the fill that is in the car [L]: before waterless coolant the flush fluid, which
        filled the new parts, too."""
        if "waterless_new" in self.holds:
            return self.left_behind * volume_of(self.chosen)
        return min(self.left_behind * volume_of(self.standing), MOST_LEFT * volume_of(self.chosen))


def fitted(slot: Slot, variant: Variant) -> bool:
    """Whether a variant has a part in a slot at all."""
    there = {
        "fan": variant.air.fan.kind != "none",
        # Without a fan there is nothing that a shroud would lead its air to: what the field says is of before.
        "shroud": variant.air.fan.kind != "none" and variant.air.shroud != "none",
        "pump": variant.circuit.pump_drive != "none",
        "fan_switch": variant.air.fan.kind == "electric",
    }
    return there.get(slot, True)


def situation(build: Build, chosen_id: str, school: School) -> Situation:
    """What is to be done to get from the variant that stands in the car, the first where none is marked, to the chosen
    one. Where that is the same, only what a school renews is to be done.

    Raises
    ------
    UnknownVariant
    """
    by_id = {variant.id: variant for variant in build.variants}
    if chosen_id not in by_id:
        raise UnknownVariant(chosen_id)
    chosen = by_id[chosen_id]
    standing = build.in_the_car
    car = build.car
    new = {slot: "the chosen variant has another one" for slot in SLOTS if differs(slot, standing, chosen)}
    also: dict[str, str] = {}
    if "radiator" not in new:
        if _less(chosen.radiator.blocked_face_share, standing.radiator.blocked_face_share):
            also["core_cleaned"] = "the chosen variant has a cleaner one"
        if _less(chosen.radiator.scale_mm, standing.radiator.scale_mm) or _less(
            chosen.radiator.blocked_tubes_share, standing.radiator.blocked_tubes_share
        ):
            also["core_flushed"] = "the chosen variant has a cleaner one inside"
    if _less(chosen.air.front_recirculation_share, standing.air.front_recirculation_share):
        also["front_sealed"] = "the chosen variant lets less hot air come round"
    also |= _pulleys(new, standing, chosen)
    _by_school(new, also, car, chosen, school)
    holds = _holds(build, standing, chosen, new, also)
    fills_by = _fills_by(build, chosen)
    if "fills" in holds:
        holds |= {f"school_{fills_by}"} | ({"school_funnel"} if fills_by == "nose" else set())
    return Situation(
        build,
        standing,
        chosen,
        school,
        new,
        also,
        frozenset(holds),
        tuple(_unknown(build, standing, chosen, holds)),
        fills_by,
    )


def _pulleys(new: dict[Slot, str], standing: Variant, chosen: Variant) -> dict[str, str]:
    """Pulleys that are changed because something turns at another speed."""

    def other(one: BaseModel, two: BaseModel, ratio: str) -> dict[str, str]:
        before, after = known(one, ratio), known(two, ratio)
        if before == after:
            return {}
        return {ratio: f"the chosen variant turns it {'faster' if after > before else 'slower'}"}

    found: dict[str, str] = {}
    if standing.circuit.pump_drive == chosen.circuit.pump_drive == "belt":
        found |= other(standing.circuit, chosen.circuit, "belt_ratio")
    if standing.air.fan.kind == chosen.air.fan.kind == "mechanical" and "fan" not in new:
        found |= other(standing.air.fan, chosen.air.fan, "pulley_ratio")
    return found


def _less(one: float | None, other: float | None) -> bool:
    return one is not None and other is not None and one < other


def volume_of(variant: Variant) -> float:
    """The fill of a variant [L], known or assumed."""
    stated = variant.coolant.volume_l
    return float(DERIVED["/coolant/volume_l"](variant) if stated is None else stated)


def run_out_of(variant: Variant) -> float:
    """What the pump of a variant moves against nothing [L/min], known or assumed."""
    stated = variant.circuit.run_out_l_per_min
    return float(DERIVED["/circuit/run_out_l_per_min"](variant) if stated is None else stated)


PULLEY_OF = {"belt_ratio": "pump", "pulley_ratio": "fan"}
"""What each pulley turns, by the field that holds its ratio."""


def ratio_of(variant: Variant, field: str) -> float:
    """Ratio of one of ``PULLEY_OF``, known or assumed."""
    return known(variant.circuit if field == "belt_ratio" else variant.air.fan, field)


def differs(slot: Slot, one: Variant, other: Variant) -> bool:
    """Whether two variants have different parts in a slot. A part's condition is part of it; what is only assumed of
    both is not looked at."""
    return _part(slot, one) != _part(slot, other)


_CLEANED = ("from_shelf", "condition", "blocked_face_share", "blocked_tubes_share", "scale_mm")
_PUMP = (
    "pump_drive",
    "shut_off_kpa",
    "run_out_l_per_min",
    "pump_test_rpm",
    "electric_rpm",
    "electric_pump_w",
)


def _part(slot: Slot, variant: Variant) -> object:
    if slot == "shroud":
        return variant.air.shroud if fitted("shroud", variant) else "none"
    if slot == "fan":
        return variant.air.fan.model_dump(exclude={"from_shelf", "voltage_v", "pulley_ratio"})
    if slot == "pump":
        return variant.circuit.model_dump(include=set(_PUMP))
    if slot == "cap":
        return variant.cap.pressure_kpa
    if slot == "radiator":
        return variant.radiator.condition == "new", variant.radiator.model_dump(exclude=set(_CLEANED))
    if slot == "fan_switch":  # one of a fan that is not there is none
        return variant.fan_switch.model_dump() if fitted("fan_switch", variant) else None
    if slot == "coolant":
        return variant.coolant.kind, variant.coolant.glycol_vol_share
    return getattr(variant, slot).model_dump(exclude={"from_shelf"})


def _by_school(new: dict[Slot, str], also: dict[str, str], car: Car, chosen: Variant, school: School) -> None:
    """What is renewed besides: what is bad in any school, more in the others."""
    pressurised = known(chosen.cap, "pressure_kpa") > 0.0
    if car.thermostat == "bad":
        new.setdefault("thermostat", "it is bad")
    if car.cap == "bad" and pressurised:
        new.setdefault("cap", "it is bad")
    for name, state in (("hoses", car.hoses), ("clamps", car.clamps), ("belt", car.belt)):
        if state == "bad" and (name != "belt" or _belt(chosen)):
            also[name] = "those that are there are bad" if name != "belt" else "the one that is there is bad"
    if school == "bad":
        return
    opened = {"radiator", "pump", "thermostat"} & new.keys()
    if "radiator" in new:
        new.setdefault("thermostat", "all with the radiator [common practice]")
        if pressurised:
            new.setdefault("cap", "all with the radiator [common practice]")
    if opened or "coolant" in new:
        also.setdefault("clamps", "each one that is opened")
    if school == "all":
        if car.hoses != "good" and (car.hoses_years is None or car.hoses_years >= OLD_HOSES):
            also.setdefault("hoses", "older than 5 years, or nobody knows")
        if _belt(chosen):
            also.setdefault("belt", "while one can reach it")
        if chosen.air.fan.kind == "electric":
            new.setdefault("fan_switch", "while it is drained")


def _belt(variant: Variant) -> bool:
    return variant.circuit.pump_drive == "belt" or variant.air.fan.kind == "mechanical"


def _yes(answer: str | None, otherwise: bool = False) -> bool:
    return otherwise if answer is None else answer == "yes"


def _holds(
    build: Build, standing: Variant, chosen: Variant, new: dict[Slot, str], also: dict[str, str]
) -> set[str]:
    car = build.car
    radiator, mixes = "radiator" in new, chosen.coolant.kind in ("ethylene_glycol", "propylene_glycol")
    opens = {"radiator", "pump", "thermostat", "coolant"} & new.keys()
    if chosen.air.fan.kind == "electric" and "fan_switch" in new:
        opens.add("fan_switch")
    drains = bool(opens) or bool({"hoses", "clamps", "core_flushed"} & also.keys())
    partial = (
        drains
        and opens <= {"thermostat", "fan_switch"}
        and not ({"hoses", "core_flushed"} & also.keys())
        and not _dirty(car)
    )
    waterless_new = chosen.coolant.kind == "waterless" and standing.coolant.kind != "waterless"
    other_kind = chosen.coolant.kind != standing.coolant.kind
    flush = (
        drains and not partial and not waterless_new and (other_kind or _dirty(car) or "core_flushed" in also)
    )
    below = car.undertray == "yes" or car.drain != "cock" or bool(car.block_drains)
    pulleys = bool({"belt_ratio", "pulley_ratio"} & also.keys())
    true = {
        "drain_cock": car.drain == "cock",
        "drain_screw": car.drain == "screw",
        "drain_none": car.drain in (None, "none"),
        "block_drain": bool(car.block_drains),
        "heater": chosen.circuit.heater,
        "heater_tap": chosen.circuit.heater and car.heater_flow != "constant",
        "vent_run": chosen.circuit.pump_drive == "electric" and _yes(car.vent_run),
        "gearbox": standing.engine.gearbox_cooler or chosen.engine.gearbox_cooler,
        "lines_threaded": car.gearbox_lines in (None, "threaded"),
        "lines_quick": car.gearbox_lines == "quick",
        "lines_hose": car.gearbox_lines == "hose",
        "condenser_bolted": standing.air.condenser and _yes(car.condenser_bolted, True),
        "fan": fitted("fan", standing),
        "fan_new": fitted("fan", chosen),
        "electric_old": fitted("fan_switch", standing),
        "electric_new": fitted("fan_switch", chosen),
        "fans_on_shroud": standing.air.fan.kind != "none" and standing.air.shroud != "none" and _yes(car.fans_on_shroud),
        "fan_plugs": "electric" in (standing.air.fan.kind, chosen.air.fan.kind) and car.fan_plugs != 0,
        "shroud": fitted("shroud", standing),
        "shroud_lifts": _yes(car.shroud_lifts),
        "undertray": _yes(car.undertray),
        "heat_shield": _yes(car.heat_shield),
        "airbox": _yes(car.airbox),
        "battery_in_way": _yes(car.battery),
        "strut": _yes(car.strut),
        "sensor": _yes(car.sensor),
        "feet": _yes(car.feet),
        "bottle": known(chosen.cap, "bottle_l") > 0.0,
        "belt": _belt(chosen),
        "belt_old": _belt(standing),
        "pressure": known(chosen.cap, "pressure_kpa") > 0.0,
        "old_glycol": standing.coolant.kind in ("ethylene_glycol", "propylene_glycol"),
        "glycol_new": mixes,
        "mixes": chosen.coolant.kind != "waterless",
        "waterless_new": waterless_new and drains,
        "flush": flush,
        "work": bool(new or also),
        "core_cleaned": "core_cleaned" in also,
        "front_sealed": "front_sealed" in also,
        "radiator": radiator,
        "radiator_new": radiator and chosen.radiator.condition == "new",
        "fan_work": bool({"fan", "shroud"} & new.keys()),
        "fan_out": bool({"fan", "shroud"} & new.keys() or "core_cleaned" in also) or (("pump" in new or pulleys) and standing.air.fan.kind == "mechanical"),
        "thermostat_work": "thermostat" in new,
        "switch_work": "fan_switch" in new and fitted("fan_switch", chosen),
        "cap_work": "cap" in new,
        "pump_work": "pump" in new and fitted("pump", chosen),
        "pump_out": "pump" in new and fitted("pump", standing) and not fitted("pump", chosen),
        "hoses_work": "hoses" in also,
        "clamps_work": "clamps" in also,
        "belt_work": "belt" in also,
        "pulley_work": pulleys,
        "wiring": bool(circuits(standing, chosen, new)),
        "drains": drains,
        "fills": drains,
        "partial": partial,
        "full_drain": drains and not partial,
        "below": below and drains and not partial,
        "below_work": drains and not partial,
    }  # fmt: skip
    return {name for name, is_so in true.items() if is_so}


def _dirty(car: Car) -> bool:
    return car.coolant_years is not None and car.coolant_years >= OLD_COOLANT


def heights_of(build: Build, variant: Variant) -> Heights:
    """Where the places stand that hold air [m above the lower hose], None where nobody knows."""
    car = build.car

    def metres(value: float | None) -> float | None:
        return None if value is None else MM * value

    return Heights(
        filler=metres(car.filler_height_mm),
        heater=metres(car.heater_height_mm) if variant.circuit.heater else 0.0,
        outlet=metres(car.outlet_height_mm),
        bleed=metres(car.bleed_height_mm) if car.bleed_screws else None,
        bleed_screws=car.bleed_screws,
        bottle=car.filler == "bottle",
        vent_run=variant.circuit.pump_drive == "electric" and _yes(car.vent_run),
    )


def _fills_by(build: Build, variant: Variant) -> str:
    heights = heights_of(build, variant)
    found = [name for name in SCHOOLS if works(name, heights).works]
    return found[0] if found else "nose"


def _unknown(build: Build, standing: Variant, chosen: Variant, holds: set[str]) -> list[str]:
    """Titles of the facts that nobody knows and that bear on this job."""
    matters: dict[str, bool] = {
        "drain": "full_drain" in holds,
        "block_drains": "full_drain" in holds,
        "filler": "fills" in holds,
        "filler_height_mm": "fills" in holds,
        "heater_height_mm": "fills" in holds and chosen.circuit.heater,
        "outlet_height_mm": "fills" in holds,
        "bleed_screws": "fills" in holds,
        "bleed_height_mm": "fills" in holds and bool(build.car.bleed_screws),
        "heater_flow": "fills" in holds and chosen.circuit.heater,
        "vent_run": "fills" in holds and chosen.circuit.pump_drive == "electric",
        "gearbox_lines": "radiator" in holds and "gearbox" in holds,
        "condenser_bolted": "radiator" in holds and standing.air.condenser,
        "fans_on_shroud": "shroud" in holds and "fan" in holds and bool({"radiator", "fan_out"} & holds),
        "fan_plugs": "fan_plugs" in holds and bool({"radiator", "fan_out"} & holds),
        "shroud_lifts": "shroud" in holds
        and bool({"radiator", "fan_out"} & holds)
        and "fans_on_shroud" not in holds,
        "undertray": "full_drain" in holds,
        "heat_shield": "drains" in holds,
        "airbox": "drains" in holds,
        "battery": "drains" in holds,
        "strut": "radiator" in holds,
        "sensor": "radiator" in holds,
        "feet": "radiator" in holds,
        "hoses_years": "drains" in holds,
        "coolant_years": "drains" in holds,
        "hoses": True,
        "clamps": True,
        "cap": "pressure" in holds,
        "thermostat": True,
        "belt": "belt" in holds,
    }
    fields = Car.model_fields
    return [
        str(fields[name].title)
        for name, bears in matters.items()
        if bears and getattr(build.car, name) is None
    ]
