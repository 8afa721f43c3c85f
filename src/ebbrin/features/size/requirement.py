"""What the cases ask of a radiator, whoever makes it, as a short specification for a shop."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ebbrin.bridge import to_core
from ebbrin.bridge.units import kilopascals, kilowatts
from ebbrin.build.build import Build, Variant
from ebbrin.build.radiator import CONDITIONS
from ebbrin.build.resolve import Resolved, resolve
from ebbrin.core.airpath.front_end import FULL_SHROUD
from ebbrin.core.radiator.bench_point import heat_at
from ebbrin.core.records import changed
from ebbrin.core.sizing.requirement import FaceNeed, face_needed
from ebbrin.core.sizing.target import Target
from ebbrin.core.studies.assess import assess, pumped
from ebbrin.core.studies.levers import FULL_RECIRCULATION
from ebbrin.core.system.parts import Cases, System
from ebbrin.features.judge import evaluate
from ebbrin.features.size import specification
from ebbrin.features.size.answers import CaseNeed, FaceOption, Requirement, TestPoint
from ebbrin.features.size.choices import clean
from ebbrin.features.size.from_core import case_need, face_option, stronger
from ebbrin.features.size.taken import Ground, switched

FAN_AIR = (1.0, 1.25, 1.5, 2.0)
"""Factors on the air that the fans give, tried in this order."""
TEST_AIR_C, TEST_DIFFERENCE_K = 25.0, 60.0  # choice: what a shop's bench can do


@dataclass(frozen=True)
class AirWay:
    """One way of moving the air: with the full shroud or as fitted, and a factor on what the fans give."""

    shrouded: bool
    factor: float


def ways(system: System) -> list[AirWay]:
    """As it is, then with a full shroud, then with stronger fans."""
    if not system.air.fan.fitted:
        return [AirWay(False, 1.0)]
    shroud = bool(system.air.shroud != FULL_SHROUD)
    stronger = [AirWay(shroud, factor) for factor in FAN_AIR[1:]]
    return [AirWay(False, 1.0), *([AirWay(True, 1.0)] if shroud else []), *stronger]


def shrouded(system: System) -> System:
    """The system with a full shroud."""
    system = changed(system, "air.shroud", np.asarray(FULL_SHROUD))
    return changed(system, "air.blade_recirculation", np.asarray(FULL_RECIRCULATION))


def as_new(system: System) -> System:
    """The system with a core as new: no scale, as few silted tubes as a new one has, no test of its own."""
    silted = CONDITIONS["new"]["blocked_tubes_share"]
    for path, value in (("core.blocked_tubes", silted), ("core.scale", 0.0), ("core.UA_factor", 1.0)):
        system = changed(system, path, np.asarray(value))
    return system


def faces(system: System, cases: Cases, target: Target, found: Sequence[AirWay]) -> FaceNeed:
    """The face for each way, arrays (ways,)."""
    parts = []
    for covered in (False, True):
        factors = [way.factor for way in found if way.shrouded is covered]
        if factors:
            parts.append(face_needed(shrouded(system) if covered else system, cases, target, factors))
    order = np.argsort(np.argsort([way.shrouded for way in found], kind="stable"), kind="stable")
    joined: list[Any] = [
        np.concatenate([getattr(part, name) for part in parts])[order]
        for name in ("factor", "margin", "best_margin", "case")
    ]
    return FaceNeed(*joined)


def requirement(ground: Ground) -> Requirement:
    """The requirement of the cases on a core of the fitted kind and depth."""
    build, raw, resolved, room = ground.build, ground.variant, ground.resolved, ground.room
    system, cases = as_new(ground.system), ground.cases
    found = ways(system)
    need = faces(system, cases, ground.target, found)
    options = [
        face_option(
            specification.air_way(way.shrouded, way.factor),
            float(need.factor[i]),
            float(need.best_margin[i]),
            resolved.variant.radiator,
            room,
        )
        for i, way in enumerate(found)
    ]
    chosen = _chosen(options)
    if chosen is None:
        return Requirement(
            faces=options, chosen=None, case_id=None, variant=None, cases=[], thermostats_c=[],
            fan_on_c=None, fan_off_c=None, cap_lowest_kpa=None, cap_highest_kpa=None, test=None,
            ask=[], measure=[], refuse=[],
        )  # fmt: skip
    option = options[chosen]
    variant = _variant(raw, resolved, found[chosen], option)
    needs, spent = _case_needs(ground, variant)
    answer = evaluate(build.model_copy(update={"variants": [variant]}), variant.id, levers=False)
    determining = resolved.cases[int(need.case[chosen])]
    test = _test(build, variant, max(needs, key=lambda one: one.heat_kw))
    caps = [c.pressure_kpa for c in answer.caps if c.reason == "chosen"]
    rating = float(resolved.variant.cap.weakest_part_kpa or 0.0) - kilopascals(pumped(system, cases))
    allowed = [c.pressure_kpa for c in answer.caps if c.pressure_kpa <= rating + 1e-3]
    switch = resolved.variant.fan_switch
    works = [t.opens_c for t in answer.thermostats if t.reason in ("chosen", "further_from_fitted")]
    return Requirement(
        faces=options,
        chosen=chosen,
        case_id=determining.id,
        variant=variant,
        cases=needs,
        thermostats_c=works,
        fan_on_c=switch.on_c if switched(system.air.fan) else None,
        fan_off_c=switch.off_c if switched(system.air.fan) else None,
        cap_lowest_kpa=caps[0] if caps else None,
        cap_highest_kpa=max(allowed, default=None),
        test=test,
        **specification.sentences(variant.radiator, option, needs, test, spent, rating),
    )


def _chosen(options: list[FaceOption]) -> int | None:
    """The first that has room, else the least face of all."""
    for i, option in enumerate(options):
        if option.in_room:
            return i
    reached_ones = [i for i, option in enumerate(options) if option.face_m2 is not None]
    return min(reached_ones, key=lambda i: options[i].face_m2 or 0.0) if reached_ones else None


def _variant(raw: Variant, resolved: Resolved, way: AirWay, option: FaceOption) -> Variant:
    """The variant with the required core, and its air moved that way."""
    radiator = clean(raw.radiator).model_copy(
        update={"width_mm": option.width_mm, "height_mm": option.height_mm}
    )
    air = raw.air
    if way.shrouded:
        air = air.model_copy(update={"shroud": "full", "blade_recirculation_share": None})
    if way.factor != 1.0:
        fan = raw.air.fan.model_copy(update={"curve": resolved.variant.air.fan.curve})
        air = air.model_copy(update={"fan": stronger(fan, way.factor)})
    update = {"id": "required", "name": "Required", "radiator": radiator, "air": air}
    return Variant.model_validate(raw.model_copy(update=update).model_dump())


def _case_needs(ground: Ground, variant: Variant) -> tuple[list[CaseNeed], float]:
    """What each case asks, in the build's order, and the hotter air [K] that a tenth of the tubes plugged costs."""
    resolved = resolve(ground.build.model_copy(update={"variants": [variant]}), variant.id)
    system, cases = to_core.system_from(resolved), to_core.cases_from(resolved)
    a = assess(system, cases, with_levers=False)
    needs = [
        case_need(a, cases, resolved, i, ground.margin, float(ground.hotter[i]))
        for i in range(len(resolved.cases))
    ]
    plugged = assess(changed(system, "core.blocked_tubes", np.asarray(0.1)), cases, with_levers=False)
    worst = int(
        np.argmin(np.where(a.limiting_ambient.found, a.limiting_ambient.ambient - cases.ambient, np.inf))
    )
    lost = a.limiting_ambient.ambient[worst] - plugged.limiting_ambient.ambient[worst]
    return needs, float(lost) if plugged.limiting_ambient.found[worst] else 0.0


def _test(build: Build, variant: Variant, need: CaseNeed) -> TestPoint:
    """A bench point near to the case that sheds most, in round figures, and the heat that the core sheds there."""
    resolved = resolve(build.model_copy(update={"variants": [variant]}), variant.id)
    core = to_core.system_from(resolved).core
    velocity = round(min(max(need.air_m3_per_s / float(core.open_face), 1.0), 10.0) * 2.0) / 2.0
    flow = max(round(need.coolant_l_per_min / 10.0) * 10.0, 10.0)
    name = "water" if resolved.variant.coolant.kind == "water" else "half_glycol"
    point = TestPoint(
        test_heat_kw=1.0,
        test_air_m_per_s=velocity,
        test_coolant_l_per_min=flow,
        test_difference_k=TEST_DIFFERENCE_K,
        test_air_c=TEST_AIR_C,
        test_coolant=name,
    )
    radiator = resolved.variant.radiator.model_copy(update=point.model_dump())
    heat = heat_at(
        replace(core, blocked_face=np.asarray(0.0)), to_core.bench_point(radiator), np.asarray(1.0)
    )
    return point.model_copy(update={"test_heat_kw": kilowatts(heat)})
