"""What the cases ask of a radiator, whoever makes it, as a short specification for a shop."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ebbrin.bridge import to_core
from ebbrin.bridge.units import kilopascals, kilowatts
from ebbrin.build.build import Build, Variant
from ebbrin.build.fan import Fan
from ebbrin.build.resolve import Resolved, resolve
from ebbrin.core.airpath.front_end import FULL_SHROUD
from ebbrin.core.base import FloatArray
from ebbrin.core.radiator.bench_point import heat_at
from ebbrin.core.records import changed
from ebbrin.core.sizing.requirement import MOST_SIDE, FaceNeed, face_needed, with_face, with_fan_air
from ebbrin.core.sizing.target import Target, at_borders
from ebbrin.core.studies.assess import assess, pumped
from ebbrin.core.studies.chance import Estimate, Unknown, asked_for, estimate
from ebbrin.core.studies.levers import FULL_RECIRCULATION
from ebbrin.core.system.parts import Cases, System
from ebbrin.features.judge import evaluate, warnings
from ebbrin.features.size import specification
from ebbrin.features.size.answers import CaseNeed, FaceOption, Requirement, TestPoint
from ebbrin.features.size.choices import clean
from ebbrin.features.size.from_core import can_be, case_need, face_option, stronger
from ebbrin.features.size.taken import Ground, switched

FAN_AIR = (1.0, 1.25, 1.5, 2.0)
"""Factors on the air that the fans give, tried in this order."""
TURNS, ENOUGH = 6, 0.2
"""Turns in which a chance is looked for, and the share of what is left above it [-] that counts as a little more."""
LARGER, FURTHER = 1.04, 20
"""How much larger each face is that is tried where turns do not lead there, and how many (choices)."""
SOME, SUREST = 0.005, 0.999  # less is not looked after; the most that one case is asked for (choice)
TEST_AIR_C, TEST_DIFFERENCE_K = 25.0, 60.0  # choice: what a shop's bench can do


@dataclass(frozen=True)
class AirWay:
    """One way of moving the air: with the full shroud or as fitted, and a factor on what the fans give."""

    shrouded: bool
    factor: float


def ways(system: System, fan: Fan) -> list[AirWay]:
    """As it is, then with a full shroud, then with stronger fans as far as a build can hold them."""
    if not system.air.fan.fitted:
        return [AirWay(False, 1.0)]
    shroud = bool(system.air.shroud != FULL_SHROUD)
    faster = [AirWay(shroud, factor) for factor in FAN_AIR[1:] if can_be(fan, factor)]
    return [AirWay(False, 1.0), *([AirWay(True, 1.0)] if shroud else []), *faster]


def shrouded(system: System) -> System:
    """The system with a full shroud."""
    system = changed(system, "air.shroud", np.asarray(FULL_SHROUD))
    return changed(system, "air.blade_recirculation", np.asarray(FULL_RECIRCULATION))


def moved_by(system: System, way: AirWay) -> System:
    """The system with its air moved that way."""
    system = shrouded(system) if way.shrouded else system
    return system if way.factor == 1.0 else with_fan_air(system, way.factor)


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


@dataclass(frozen=True)
class Needed:
    """What a requirement comes to: the face with each way of moving the air; index of the one chosen, None where none
    does; the case that asks for it there; what is doubtful of that core, and of all that were looked at on the way."""

    options: list[FaceOption]
    chosen: int | None
    case: int
    doubt: Estimate
    seen: list[Estimate]


def needed(ground: Ground, system: System, unknowns: Sequence[Unknown], found: Sequence[AirWay]) -> Needed:
    """The faces of a system's core by which all cases keep what is asked.

    A chance is that of the core chosen, by what is doubtful of that very core, which is not what is doubtful of the
    fitted one: looked for in turns, until it is what is asked or a little more.
    """
    cases, asked = ground.cases, ground.wishes.chance_share
    seen, does = [doubt_of(system, cases, unknowns, asked)], list[Needed]()
    for _ in range(TURNS):
        need = faces(system, cases, ground.target_by(at_borders(seen)), found)
        options = [_option(ground, way, need, i) for i, way in enumerate(found)]
        chosen = _chosen(options)
        if chosen is None:
            return Needed(options, None, 0, seen[0], seen)
        there = with_face(moved_by(system, found[chosen]), need.factor[chosen])
        doubt = doubt_of(there, cases, unknowns, asked)
        seen.append(doubt)
        turn = Needed(options, chosen, int(need.case[chosen]), doubt, seen)
        if ground.wishes.by == "margin":
            return turn
        if doubt.build >= asked:
            does.append(turn)
            if doubt.build <= asked + ENOUGH * (1.0 - asked):
                break
    if does:
        return min(does, key=lambda one: one.doubt.build)
    return _larger(ground, system, unknowns, found, need, turn) or turn


def _larger(
    ground: Ground,
    system: System,
    unknowns: Sequence[Unknown],
    found: Sequence[AirWay],
    need: FaceNeed,
    turn: Needed,
) -> Needed | None:
    """The first core somewhat larger than that of the last turn that has the chance asked: of a case beside a jump neither
    this side's doubts nor the other's lead there. None where none of FURTHER that a build can hold has it."""
    assert turn.chosen is not None
    face = float(system.core.width * system.core.height)
    for step in range(1, FURTHER + 1):
        factor = float(need.factor[turn.chosen]) * LARGER**step
        if factor * face > MOST_SIDE**2:
            break
        there = with_face(moved_by(system, found[turn.chosen]), factor)
        doubt = doubt_of(there, ground.cases, unknowns, ground.wishes.chance_share)
        if doubt.build >= ground.wishes.chance_share:
            factors = need.factor.copy()
            factors[turn.chosen] = factor
            options = [_option(ground, way, replace(need, factor=factors), i) for i, way in enumerate(found)]
            case = int(np.argmin(doubt.below))
            return Needed(options, turn.chosen, case, doubt, [*turn.seen, doubt])
    return None


def face_at(ground: Ground, cases: Cases) -> float | None:
    """Face [m²] of a core of the fitted kind, as new, that does in these cases, its air moved in the first way that does;
    None where none does."""
    system, unknowns = ground.in_doubt(ground.with_parts(radiator=clean(ground.variant.radiator)))
    found = needed(
        replace(ground, cases=cases), system, unknowns, ways(system, ground.resolved.variant.air.fan)
    )
    return None if found.chosen is None else found.options[found.chosen].face_m2


def doubt_of(system: System, cases: Cases, unknowns: Sequence[Unknown], asked: float) -> Estimate:
    """What is doubtful of a system if all cases together are to have a chance ``asked`` [-], or a little more: each is asked
    for as much more as all together have less than the least sure of them."""
    asked += 0.5 * ENOUGH * (1.0 - asked)
    found = estimate(system, cases, unknowns, asked)
    more = float(found.below.min()) - found.build
    return asked_for(found, min(asked + more, SUREST)) if more > SOME else found


def _option(ground: Ground, way: AirWay, need: FaceNeed, i: int) -> FaceOption:
    return face_option(
        specification.air_way(way.shrouded, way.factor),
        float(need.factor[i]),
        float(need.best_margin[i]),
        ground.resolved.variant.radiator,
        ground.room,
    )


def requirement(ground: Ground) -> tuple[Requirement, Estimate]:
    """The requirement of the cases on a core of the fitted kind and depth, as new, and what is doubtful of such a
    core."""
    build, raw, resolved = ground.build, ground.variant, ground.resolved
    cases = ground.cases
    system, unknowns = ground.in_doubt(ground.with_parts(radiator=clean(raw.radiator)))
    found = ways(system, resolved.variant.air.fan)
    need = needed(ground, system, unknowns, found)
    if need.chosen is None:
        nothing = Requirement(
            faces=need.options, chosen=None, case_id=None, variant=None, cases=[], thermostats_c=[],
            fan_on_c=None, fan_off_c=None, cap_lowest_kpa=None, cap_highest_kpa=None, test=None,
            ask=[], measure=[], refuse=[],
        )  # fmt: skip
        return nothing, at_borders(need.seen)
    option = need.options[need.chosen]
    variant = _variant(raw, resolved, found[need.chosen], option)
    hotter = need.doubt.hotter if ground.wishes.by == "chance" else np.zeros(len(resolved.cases))
    needs, spent = _case_needs(ground, variant, np.maximum(hotter, 0.0))
    answer = evaluate(build.model_copy(update={"variants": [variant]}), variant.id, levers=False)
    determining = resolved.cases[need.case]
    test = _test(build, variant, max(needs, key=lambda one: one.heat_kw))
    caps = [c.pressure_kpa for c in answer.caps if c.reason == "chosen"]
    rating = float(resolved.variant.cap.weakest_part_kpa or 0.0) - kilopascals(pumped(system, cases))
    allowed = [c.pressure_kpa for c in answer.caps if c.pressure_kpa <= rating + 1e-3]
    fitted = float(resolved.variant.cap.pressure_kpa or 0.0)
    # One that no candidate betters, such as none at all where the weakest part stands next to nothing.
    stays = [fitted] if fitted <= rating + 1e-3 and not caps else []
    switch = resolved.variant.fan_switch
    works = [t.opens_c for t in answer.thermostats if t.reason in ("chosen", "further_from_fitted")]
    asked_for = Requirement(
        faces=need.options,
        chosen=need.chosen,
        case_id=determining.id,
        variant=variant,
        cases=needs,
        thermostats_c=works,
        fan_on_c=switch.on_c if switched(system.air.fan) else None,
        fan_off_c=switch.off_c if switched(system.air.fan) else None,
        cap_lowest_kpa=kilopascals(ground.lowest_cap(variant, caps[0]))
        if caps
        else next((cap for cap in stays if answer.answers.cap.verdict == "holds"), None),
        cap_highest_kpa=max([*allowed, *stays], default=None),
        test=test,
        cautions=warnings(answer, "too_large"),
        **specification.sentences(variant.radiator, option, needs, test, spent, rating, not ground.cap),
    )
    return asked_for, at_borders(need.seen)


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


def _case_needs(ground: Ground, variant: Variant, hotter: FloatArray) -> tuple[list[CaseNeed], float]:
    """What each case asks if the air is ``hotter`` (cases,) [K], in the build's order, and the hotter air [K] that a tenth of
    the tubes plugged costs."""
    resolved = resolve(ground.build.model_copy(update={"variants": [variant]}), variant.id)
    system, cases = to_core.system_from(resolved), to_core.cases_from(resolved)
    a = assess(system, cases, with_levers=False, unknowns=())  # its chance is not asked for
    needs = [
        case_need(a, cases, resolved, i, ground.margin, float(hotter[i])) for i in range(len(resolved.cases))
    ]
    silted = changed(system, "core.blocked_tubes", np.asarray(0.1))
    plugged = assess(silted, cases, with_levers=False, unknowns=())
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
