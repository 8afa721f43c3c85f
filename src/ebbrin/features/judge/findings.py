"""What is worth knowing beside the verdict: causes of trouble that no margin shows."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Literal

from ebbrin.bridge.units import celsius, kilopascals
from ebbrin.build.parts import Number
from ebbrin.build.resolve import Resolved
from ebbrin.core.studies import levers as core
from ebbrin.core.studies.cautions import (
    BETWEEN_REGIMES,
    EROSION_VELOCITY,
    MOST_RISE,
    POWER_SCATTER,
    SIPHON_RISE,
)
from ebbrin.core.studies.control_choice import WARM_ENOUGH
from ebbrin.features.judge.answers import CaseResult, Evaluation, Finding, FindingCode, Ladder
from ebbrin.features.judge.four_answers import LEAST_INLET, inlet_words
from ebbrin.features.levers import Lever, pulled
from ebbrin.ground.words import Measure, Text, difference, power, pressure, temperature


def findings(resolved: Resolved, cases: list[CaseResult], ladder: Ladder, pumped_kpa: float) -> list[Finding]:
    """All findings, warnings first."""
    found = [*_of_the_build(resolved, cases, ladder, pumped_kpa)]
    pumped = resolved.variant.circuit.pump_drive != "none"
    most_rise = MOST_RISE if pumped else SIPHON_RISE
    for case in cases:
        found += _of_a_case(case, most_rise, pumped)
    return sorted(found, key=lambda finding: finding.kind != "warning")


def warnings(answer: Evaluation, *but: FindingCode) -> list[Text]:
    """What is warned of in parts that somebody means to fit, but for what a case asks of its engine, which no part
    changes, and ``but`` what is said elsewhere."""
    left_out = ("asks_too_much", *but)
    return [f.text for f in answer.findings if f.kind == "warning" and f.code not in left_out]


MORE_OF: dict[str, FindingCode] = {
    "core_area": "too_large", "core_depth": "too_large", "cap_up": "over_rating",
}  # fmt: skip
"""What a lever makes worse where it is there already."""


def of_levers(
    levers: list[Lever],
    known: core.Levers,
    resolved: Resolved,
    cases: list[CaseResult],
    ladder: Ladder,
    pumped_kpa: float,
) -> list[Lever]:
    """Levers with what the build as a whole would have against it once each is pulled, and has not now, or less."""
    now = list(_of_the_build(resolved, cases, ladder, pumped_kpa))
    codes = {finding.code for finding in now}

    def cautions(name: str) -> list[Text]:
        k, variant = known.names.index(name), pulled(resolved.variant, name)
        marks = {
            "freezes_c": celsius(float(known.freezes[k])),
            "thermostat_opens_c": _value(variant.thermostat.opens_c),
        }
        then = _of_the_build(
            replace(resolved, variant=variant),
            cases,
            ladder.model_copy(update=marks),
            kilopascals(known.pumped[k]),
        )
        return [f.text for f in then if f.code not in codes or (f.code == MORE_OF.get(name) and f not in now)]

    return [lever.model_copy(update={"cautions": cautions(lever.name)}) for lever in levers]


SHOWN_KPA, SHOWN_MM = 0.5, 1.0
"""What is shown as none, and two figures that may be shown alike."""
NOTES: frozenset[FindingCode] = frozenset(
    {"cool_engine", "outside_fit", "inlet_without_cap", "between_regimes"}
)
"""What is worth knowing but calls for nothing; all else is a warning."""


def _finding(code: FindingCode, station: str, text: Text, case: CaseResult | None = None) -> Finding:
    kind: Literal["warning", "note"] = "note" if code in NOTES else "warning"
    return Finding(code=code, kind=kind, station=station, case_id=case.id if case else None, text=text)


def _of_the_build(
    resolved: Resolved, cases: list[CaseResult], ladder: Ladder, pumped_kpa: float
) -> Iterator[Finding]:
    coldest = min(cases, key=lambda case: case.ambient_c)
    if coldest.ambient_c < ladder.freezes_c:
        text: Text = ["The coolant freezes at ", temperature(ladder.freezes_c), ", above the air of "]
        yield _finding("freezes", "coolant", [*text, f"{coldest.name}."], coldest)
    cool = celsius(WARM_ENOUGH)
    if ladder.thermostat_opens_c < cool:
        text = [
            "Below ",
            temperature(cool),
            " the heater is weak and the engine management may stay in warm-up.",
        ]
        yield _finding("cool_engine", "thermostat", text)
    cap, weakest = _value(resolved.variant.cap.pressure_kpa), _value(resolved.variant.cap.weakest_part_kpa)
    if cap + pumped_kpa > weakest:
        text = ["The cap holds ", pressure(cap)]
        if pumped_kpa >= SHOWN_KPA:
            text += [", the pump adds ", pressure(pumped_kpa), " between itself and the cap"]
        just = cap + pumped_kpa - weakest < 2.0 * SHOWN_KPA
        text += (
            [", which is just more than the weakest part stands, "]
            if just
            else [", the weakest part stands "]
        )
        yield _finding("over_rating", "cap", [*text, pressure(weakest), "."])
    yield from _of_the_room(resolved)
    if any(case.outside_fit for case in cases):
        text = [
            "Some figures lie outside what their source measured (coolant above ",
            temperature(100.0),
            ", very slow air); they are continued, not clipped.",
        ]
        yield _finding("outside_fit", "radiator", text)


def _of_the_room(resolved: Resolved) -> Iterator[Finding]:
    """Where the core is larger than what the car has room for."""
    core, car = resolved.variant.radiator, resolved.variant.vehicle
    for name, size, room in (
        ("wide", core.width_mm, car.space_width_mm),
        ("high", core.height_mm, car.space_height_mm),
        ("deep", core.depth_mm, car.space_depth_mm),
    ):
        if room is not None and _value(size) > room:
            text: Text = ["The core is ", _length(_value(size)), f" {name}"]
            if _value(size) - room < SHOWN_MM:
                text += [", less than a millimetre more than the car has room for."]
            else:
                text += ["; the car has room for ", _length(room), "."]
            yield _finding("too_large", "radiator", text)


def _length(value: float) -> Measure:
    return Measure(quantity="length", value=value)


def _value(number: Number) -> float:
    return 0.0 if number is None else number


def _of_a_case(case: CaseResult, most_rise: float, pumped: bool) -> Iterator[Finding]:
    most = case.heat.full_power_kw
    if case.heat.asked_power_kw > most * POWER_SCATTER:
        text: Text = [
            f"{case.name} asks for ",
            power(case.heat.asked_power_kw),
            "; at that speed and in that air the engine gives about ",
            power(most),
            ".",
        ]
        yield _finding("asks_too_much", "engine", text, case)
    if case.full_flow_rise_k > most_rise:
        text = [
            f"{case.name}: coolant warms by ",
            difference(case.full_flow_rise_k),
            " in the engine with the thermostat wide open. More flow is wanted.",
        ]
        yield _finding("warms_too_much", "flow", text, case)
    if case.tube_velocity_m_per_s > EROSION_VELOCITY:
        speed = Measure(quantity="velocity", value=case.tube_velocity_m_per_s)
        yield _finding(
            "wears_tubes",
            "flow",
            [f"{case.name}: coolant runs at ", speed, " in the tubes and wears them."],
            case,
        )
    if case.pump_inlet_margin_kpa < LEAST_INLET:
        text = [f"{case.name}: the coolant boils at {inlet_words(pumped)} there."]
        if case.pump_inlet_margin_kpa >= SHOWN_KPA:
            left = pressure(case.pump_inlet_margin_kpa)
            text = [f"{case.name}: {inlet_words(pumped)} is only ", left, " from boiling there."]
        yield _finding("inlet_boils", "flow", text, case)
    elif case.pump_inlet_margin_without_cap_kpa < 0.0:
        vapour = "the pump would draw vapour" if pumped else "it would boil at the engine's inlet"
        yield _finding("inlet_without_cap", "flow", [f"{case.name}: with a failed cap {vapour}."], case)
    if case.fan_never_stops:
        yield _finding(
            "fan_never_stops",
            "fan",
            [
                f"{case.name}: the thermostat holds the coolant above the fan's off-point, so the fan never stops."
            ],
            case,
        )
    if BETWEEN_REGIMES[0] < case.tube_reynolds < BETWEEN_REGIMES[1] and case.control != "thermostat":
        text = [
            f"{case.name}: flow in the tubes is between laminar and turbulent (Re {case.tube_reynolds:.0f}); a few percent of flow move the result more than usual."
        ]
        yield _finding("between_regimes", "radiator", text, case)
