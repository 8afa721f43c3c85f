"""What a sizing stands on: the build as asked for, and thermostat, fan switch and cap as they are taken."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ebbrin.bridge import to_core
from ebbrin.bridge.units import celsius, kilopascals
from ebbrin.bridge.unknowns import all_unknowns
from ebbrin.build.build import Build, Variant
from ebbrin.build.resolve import Resolved, UnknownVariant, resolve, resolve_part
from ebbrin.core.airpath.fan import Fan
from ebbrin.core.circuit import cap as caps
from ebbrin.core.records import changed
from ebbrin.core.sizing.switching import (
    APART,
    SwitchingPoints,
    second_stage,
    switching_points,
    with_switching_points,
)
from ebbrin.core.sizing.target import Target, for_chance, for_margin
from ebbrin.core.studies.assess import pumped
from ebbrin.core.studies.chance import TIGHT_FROM, Estimate, Unknown, estimate
from ebbrin.core.system import limits
from ebbrin.core.system.parts import Cases, System
from ebbrin.features.shelf import ShelfPart
from ebbrin.features.size import choices
from ebbrin.features.size.answers import SizingQuestion, Wishes
from ebbrin.features.size.choices import Room

SAME = 1e-6  # K or kPa


@dataclass(frozen=True)
class Ground:
    """What a sizing stands on: the question; the build with its variant alone, which has the thermostat, fan switch
    and cap that are taken; that variant, resolved; its system and cases; the system as it is fitted; the room;
    thermostat and fan switch, and the cap of the search [Pa]; the shelf; what is doubtful of it, for the chance
    asked."""

    question: SizingQuestion
    build: Build
    variant: Variant
    resolved: Resolved
    system: System
    cases: Cases
    fitted: System
    room: Room
    controls: SwitchingPoints
    cap: float
    shelf: Sequence[ShelfPart]
    doubt: Estimate

    @property
    def target(self) -> Target:
        """What every case must keep."""
        return self.target_by(self.doubt)

    def target_by(self, doubt: Estimate) -> Target:
        """What every case must keep where that is doubtful: a chance by it, or the margin that was asked for."""
        return for_chance(doubt) if self.wishes.by == "chance" else for_margin(self.wishes.margin_k)

    @property
    def margin(self) -> float:
        """Margin below the limit that was asked for [K]; none where a chance was."""
        return self.wishes.margin_k if self.wishes.by == "margin" else 0.0

    @property
    def wishes(self) -> Wishes:
        """What the parts must keep to."""
        return self.question.wishes

    @property
    def new_thermostat(self) -> bool:
        """Whether another thermostat is taken than the one fitted."""
        return abs(self.controls.opens - float(self.fitted.circuit.thermostat.opens)) > SAME

    @property
    def new_switch(self) -> bool:
        """Whether a fan that a switch runs gets another one than the one fitted."""
        fitted, taken = self.fitted.fan_switch, self.controls
        moved = max(abs(taken.on - float(fitted.on)), abs(taken.off - float(fitted.off)))
        return moved > SAME

    def buys_switch(self, fan: Fan) -> bool:
        """Whether a fan needs a switch that is not there: another one, or one at all."""
        return switched(fan) and (self.new_switch or not switched(self.fitted.air.fan))

    @property
    def least_chance(self) -> float:
        """The chance of all cases [-] below which a combination is refused: the one asked for, or even odds beside a margin."""
        return self.wishes.chance_share if self.wishes.by == "chance" else TIGHT_FROM

    def with_parts(self, **parts: Any) -> Variant:
        """The variant with other parts."""
        return self.variant.model_copy(update=parts)

    def filled(self, name: str, part: Any) -> Any:
        """A part in place of the variant's own, with nothing unknown."""
        variant = self.with_parts(**{name: part})
        return resolve_part(self.build.model_copy(update={"variants": [variant]}), variant, name)

    def system_of(self, variant: Variant) -> System:
        """The core's system of a variant of this build."""
        return to_core.system_from(self._resolved(variant))

    def in_doubt(self, variant: Variant) -> tuple[System, list[Unknown]]:
        """The core's system of a variant of this build, and what is not known of it."""
        resolved = self._resolved(variant)
        system = to_core.system_from(resolved)
        return system, [entry.unknown for entry in all_unknowns(system, resolved)]

    def chances(self, variant: Variant) -> Estimate:
        """The chances of a variant of this build by what is doubtful of that very one."""
        system, unknowns = self.in_doubt(variant)
        return estimate(system, self.cases, unknowns, self.wishes.chance_share)

    def has_air(self, case: int, cooler: float) -> bool:
        """Whether there is air so much ``cooler`` [K] than a case's, by its number."""
        return float(self.cases.ambient[case]) - cooler >= limits.COLDEST_AMBIENT

    def does(self, variant: Variant) -> bool:
        """Whether a variant of this build has the chance that was asked for, if one was."""
        return self.wishes.by == "margin" or self.chances(variant).build >= self.wishes.chance_share

    def capped(self, variant: Variant, cap: float) -> Variant:
        """A variant with a cap of ``cap``, gauge [Pa]; the fitted one as it is written, for it stays."""
        if abs(cap - self.cap) <= 1.0:
            return variant
        if abs(cap - float(self.fitted.cap.pressure)) <= 1.0:
            written = next(v.cap for v in self.question.build.variants if v.id == self.question.variant)
            return variant.model_copy(update={"cap": written})
        marked = variant.cap.model_copy(update={"pressure_kpa": kilopascals(cap), "from_shelf": None})
        return variant.model_copy(update={"cap": marked})

    def lowest_cap(self, variant: Variant, from_kpa: float) -> float:
        """The lowest cap from ``from_kpa`` [kPa] on with which a variant ``does``, else the one that the search takes; gauge
        [Pa]."""
        lower = [
            float(cap) for cap in caps.CANDIDATES if from_kpa <= kilopascals(cap) + SAME and cap < self.cap
        ]
        # A higher cap never takes of the chance.
        first = bisect_left(lower, True, key=lambda cap: self.does(self.capped(variant, cap)))
        return lower[first] if first < len(lower) else self.cap

    def _resolved(self, variant: Variant) -> Resolved:
        return resolve(self.build.model_copy(update={"variants": [variant]}), variant.id)


def ground_of(question: SizingQuestion, shelf: Sequence[ShelfPart]) -> Ground:
    """What a question stands on, with thermostat, fan switch and cap taken.

    Raises
    ------
    MissingValues
        If a value without an honest default is unknown.
    UnknownVariant
        If there is no such variant.
    DomainError
        If the parts do not make a physical system.
    """
    build, wishes = question.build, question.wishes
    variant = next((v for v in build.variants if v.id == question.variant), None)
    if variant is None:
        raise UnknownVariant(question.variant)
    resolved = resolve(build, variant.id)
    fitted, cases = to_core.system_from(resolved).checked(), to_core.cases_from(resolved)
    keep = wishes.keep
    cap = float(fitted.cap.pressure)
    allowed = caps.CANDIDATES[fitted.cap.weakest_part + 1.0 >= caps.CANDIDATES + pumped(fitted, cases)]
    if "cap" not in keep and allowed.size:
        cap = float(allowed[-1])
    system = changed(fitted, "cap.pressure", np.asarray(cap))
    limit = limits.limit_temperature(system, limits.boiling_temperature(system, cases, system.cap.holds))
    limit = np.broadcast_to(limit, cases.ambient.shape)
    margin = wishes.margin_k if wishes.by == "margin" else limits.SAFE_MARGIN
    found = switching_points(system, limit, margin, "thermostat" in keep, "fan_switch" in keep)
    room = choices.room_of(wishes, resolved.variant.vehicle, resolved.variant.radiator)
    ground = Ground(
        question,
        build,
        variant,
        resolved,
        with_switching_points(system, found),
        cases,
        fitted,
        room,
        found,
        cap,
        shelf,
        _doubt(resolved, with_switching_points(system, found), cases, wishes),
    )
    taken = variant.model_copy(update=_control_parts(ground))
    alone = build.model_copy(update={"variants": [taken]})
    return replace(ground, build=alone, variant=taken, resolved=resolve(alone, taken.id))


def _doubt(resolved: Resolved, system: System, cases: Cases, wishes: Wishes) -> Estimate:
    unknowns = [entry.unknown for entry in all_unknowns(system, resolved)]
    return estimate(system, cases, unknowns, wishes.chance_share)


def _control_parts(ground: Ground) -> dict[str, Any]:
    """Thermostat, fan switch and cap of the variant as they are taken; what stays the same is left alone."""
    parts: dict[str, Any] = {}
    variant, found = ground.variant, ground.controls
    opens, on, off = (round(celsius(t), 2) for t in (found.opens, found.on, found.off))
    if ground.new_thermostat:
        parts["thermostat"] = variant.thermostat.model_copy(update={"opens_c": opens, "from_shelf": None})
    if ground.new_switch:
        switch = {"on_c": on, "off_c": off}
        if variant.fan_switch.full_on_c is not None or variant.fan_switch.full_off_c is not None:
            pair = second_stage(ground.fitted.fan_switch, found.on, found.off)
            full_on, full_off = (round(celsius(t), 2) for t in pair)
            if full_on < full_off + APART:  # by what rounding has brought
                full_off = round(full_off - 0.01, 2)
            switch |= {"full_on_c": full_on, "full_off_c": full_off}
        parts["fan_switch"] = variant.fan_switch.model_copy(update=switch)
    if abs(ground.cap - float(ground.fitted.cap.pressure)) > 1.0:
        parts["cap"] = variant.cap.model_copy(
            update={"pressure_kpa": kilopascals(ground.cap), "from_shelf": None}
        )
    return parts


def switched(fan: Fan) -> bool:
    """Whether a switch runs this fan."""
    return bool(fan.fitted & ~fan.mechanical)
