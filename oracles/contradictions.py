"""Words against numbers: what an answer says must follow from what it holds, whatever the build."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from typing import Any

import numpy as np

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.build.build import Build
from ebbrin.build.resolve import resolve
from ebbrin.core.system.limits import boiling_temperature, limit_temperature
from ebbrin.core.system.steady import steady_state
from ebbrin.features.judge.answers import CaseResult, Evaluation, Verdict
from ebbrin.ground.words import printed

NEAR = 0.35  # K, and what a chance is worth in kelvins is known no better near even odds
WIDE = 0.999
LEAST_HEAT = 0.01  # W, that a steady state may be off by besides a millionth of its heat


def contradictions(build: Build, answer: Evaluation) -> list[str]:
    """What does not go together in an answer; none if all does."""
    found = [f"{place} is not a number" for place in _not_numbers(answer.model_dump(), "answer")]
    found += list(_build(answer))
    for case in answer.cases:
        found += [f"{case.id}: {words}" for words in _case(case, build)]
    found += list(_cap(answer))
    found += list(_energy(build))
    return found


def by_chance(chance: float) -> Verdict:
    """The verdict that goes with a chance."""
    return "holds" if chance >= 0.9 else "tight" if chance >= 0.5 else "fails"


def _not_numbers(value: Any, place: str) -> Iterator[str]:
    if isinstance(value, dict):
        for name, inner in value.items():
            yield from _not_numbers(inner, f"{place}.{name}")
    elif isinstance(value, list):
        for i, inner in enumerate(value):
            yield from _not_numbers(inner, f"{place}[{i}]")
    elif isinstance(value, float) and not math.isfinite(value):
        yield place


def _build(answer: Evaluation) -> Iterator[str]:
    if answer.verdict != by_chance(answer.chance):
        yield f"{answer.verdict} at a chance of {answer.chance}"
    if answer.chance > min(case.chance for case in answer.cases) + 1e-9:
        yield "all cases together are likelier to hold than one of them"
    grave = {"holds": 0, "tight": 1, "fails": 2}
    if grave[answer.cases[0].verdict] != max(grave[case.verdict] for case in answer.cases):
        yield "the worst case is not the first"
    settled = sum(unknown.settles for unknown in answer.measure_first.unknowns)
    if len(answer.measure_first.unknowns) > 6 or settled > 1.0 + 1e-9:
        yield "more to be measured than there is doubt"
    said = "Nothing that you could measure" in printed(answer.measure_first.sentence)
    if said == answer.measure_first.changes:
        yield "what measuring would change is said wrongly"


def _case(case: CaseResult, build: Build) -> Iterator[str]:
    said = f"{printed(case.sentence)} {printed(case.detail)}"
    if case.verdict != by_chance(case.chance):
        yield f"{case.verdict} at a chance of {case.chance}"
    if not case.heat_low_kw * (1.0 - 1e-9) <= case.heat_kw <= case.heat_high_kw * (1.0 + 1e-9):
        yield f"{case.heat_kw} kW lie outside their band, {case.heat_low_kw} to {case.heat_high_kw}"
    until, limit = case.holding_ambient_c, case.limiting_ambient_c
    if until is not None and (limit is None or not -60.0 < until <= limit):
        yield f"the chance asked for in air of {until} °C, even odds up to {limit}"
    sure = abs(case.chance - 0.9) > 1e-3
    if sure and until is not None and (case.chance > 0.9) != (until >= case.ambient_c):
        yield f"a chance of {case.chance} in air of {case.ambient_c}, the one asked for up to {until}"
    yield from _control(case, said)
    yield from _heat(case, said)
    yield from _air(case, said)
    if "but not from there" not in said:
        yield from _margins(case)
    fan = build.variants[0].air.fan.kind
    if fan != "electric" and ("fan is in control" in said or "will not stop" in said or case.fan_cycles):
        yield "a switch that no fan has"


def _control(case: CaseResult, said: str) -> Iterator[str]:
    if ("wide open," in said or "is wide open:" in said) and case.thermostat_lift < WIDE:
        yield f"wide open at a lift of {case.thermostat_lift}"
    if "not wide open at the limit" in said and case.verdict == "holds":
        yield "a thermostat blamed for what holds"
    if "Stays cold" in said and (case.verdict != "holds" or case.thermostat_lift > 0.0):
        yield "stays cold, and does not"
    if "thermostat is in control" in said and not 0.0 < case.thermostat_lift < 1.0:
        yield f"the thermostat in control at a lift of {case.thermostat_lift}"
    if "fan is in control" in said and not (case.fan_cycles and 0.0 < case.fan_duty < 1.0):
        yield f"the fan in control at a duty of {case.fan_duty}"
    if case.fan_never_stops and (case.fan_cycles or case.fan_duty < 1.0):
        yield "a fan that never stops, and does"
    if "Hunts" in said:
        if case.hunt is None or case.hunt.coldest_c > case.hunt.hottest_c:
            yield "hunts between nothing"
        elif ("Hunts about" in said) != (case.hunt.hottest_c - case.hunt.coldest_c < 1.0):
            yield "the hunt between its ends"
        elif ("above the limit" in said) != (case.hunt.hottest_c > case.limit_c):
            yield "the hunt against the limit"


def _heat(case: CaseResult, said: str) -> Iterator[str]:
    hot = case.timed.end_c if case.timed else case.judged_c
    begins_over = case.timed is not None and case.timed.start_c >= case.limit_c
    if begins_over != ("Begins at" in said) or (begins_over and "must grow" in said):
        yield "what begins over its limit"
    boils = "Boils" in said or "Just boils" in said
    if boils and (hot is None or hot <= case.boils_c):
        yield "boils below boiling"
    if case.verdict == "holds" and (boils or (case.margin_k is not None and case.margin_k < -NEAR)):
        yield f"holds at {hot} °C, the limit being {case.limit_c}"
    over = hot is not None and hot > case.boils_c + 0.05
    if over and case.hunt is None and not boils and "Never settles" not in said:
        yield f"{hot} °C passed over in silence, boiling at {case.boils_c}"
    if "settle at" in said and case.top_hose_c is None:
        yield "settles without a steady state"
    if "Never settles" in said and not (case.shortfall_kw and case.shortfall_kw > 0.0):
        yield "never settles, and nothing is short"
    if case.top_hose_c is not None and abs(case.heat_kw - case.shed_kw) > 1e-5 * max(case.heat_kw, 0.01):
        yield f"settles with {case.heat_kw} kW in and {case.shed_kw} out"
    if case.boils_c < case.boils_without_cap_c - 1e-9:
        yield "boils sooner under its cap"
    if ("Too hot by" in said or "Just over its limit" in said) and (
        case.margin_k is None or case.margin_k >= 0.0
    ):
        yield "too hot below its limit"


def _air(case: CaseResult, said: str) -> Iterator[str]:
    needed, gets = case.air_needed_m3_per_s, case.air_available_m3_per_s
    short = re.search(r"needs ([\d.]+) m³/s, gets ([\d.]+) m³/s", said)
    if short and not (needed is not None and needed > gets and float(short[1]) > float(short[2])):
        yield f"short of air with {gets} of {needed} m³/s"
    more = re.search(r"Short of air: (\d+) ?% more would do", said)
    if more and not (needed is not None and abs(1e2 * (needed / gets - 1.0) - float(more[1])) <= 0.5001):
        yield f"{more[1]} % more air, {gets} of {needed} m³/s"
    if "none alone makes it hold" in said and (needed is not None or not case.wanted.to_limit):
        yield "no air makes it hold, and some does"
    if (
        case.cause == "air"
        and case.verdict != "holds"
        and case.hunt is None
        and (
            needed < gets * 0.999
            if needed is not None
            else "none alone makes it hold" not in said and "more than any fan moves" not in said
        )
    ):
        yield f"short of air with {gets} of {needed} m³/s"
    blameless = case.cause == "fan_switch" or case.hunt is not None or case.fan_runs_on
    if needed is not None and case.verdict != "holds" and not blameless and needed < gets * 0.98:
        yield f"air enough, {gets} of {needed} m³/s, and does not hold"
    if case.verdict == "holds" and "would do" in said:
        yield "something is wanted of what holds"
    if "times as much would do" in said and case.wanted.to_limit:
        yield "what only brings it to its limit is said to do"
    if case.wanted.to_limit != (case.chance < 0.5) and abs(case.chance - 0.5) > 0.01 and case.hunt is None:
        yield f"wanted to the limit is {case.wanted.to_limit} at a chance of {case.chance}"
    for factor in re.findall(r": ([\d.]+) times as much would", said):
        if float(factor) <= 1.0:
            yield f"{factor} times as much is not more"


def _margins(case: CaseResult) -> Iterator[str]:
    hot, margin, ambient = case.judged_c, case.margin_k, case.ambient_margin_k
    if hot is not None and margin is not None and abs(case.limit_c - hot - margin) > 1e-6:
        yield "the margin is not what is left to the limit"
    if ambient is None:
        return
    if abs(ambient) > NEAR and case.hunt is None:
        if (case.chance >= 0.5) != (ambient > 0.0):
            yield f"a chance of {case.chance} with {ambient} K of air to spare"
        if margin is not None and abs(margin) > NEAR and (margin > 0.0) != (ambient > 0.0):
            yield f"{margin} K to the limit and {ambient} K of air to spare"


def _cap(answer: Evaluation) -> Iterator[str]:
    chosen = [cap for cap in answer.caps if cap.reason == "chosen"]
    if len(chosen) > 1:
        yield "two caps chosen"
    fourth = answer.answers.cap
    if fourth.recommended is not None and chosen and abs(fourth.recommended - chosen[0].pressure_kpa) > 0.01:
        yield "another cap named than chosen"
    words = printed(fourth.sentence)
    if "weakest part" in words and fourth.verdict == "holds":
        yield "a cap that bursts a part holds"
    beyond, weak = "up to the limit" in words, "weakest part" in words
    if fourth.verdict != "holds" and (" would do" in words or " does" in words) and not beyond and not weak:
        yield f"a cap that does not do is said to, or a lower one: {words}"
    if fourth.verdict == "holds" and (" wanted" in words or "would take" in words):
        yield f"a cap that holds, and more is wanted: {words}"
    if beyond and all(case.margin_k is not None and case.margin_k >= 0.0 for case in answer.cases):
        yield f"no case goes beyond its limit, and a cap is weighed up to it: {words}"
    unsettled = any(case.boiling_margin_k is None for case in answer.cases)
    if "left to boiling" in words and unsettled != ("where it settles" in words):
        yield "what is left to boiling is said of what never settles"


def _energy(build: Build) -> Iterator[str]:
    resolved = resolve(build, build.variants[0].id)
    system, cases = system_from(resolved).checked(), cases_from(resolved).checked()
    limit = limit_temperature(system, boiling_temperature(system, cases, system.cap.holds))
    state = steady_state(system, cases, np.broadcast_to(limit, np.shape(cases.ambient)))
    off = np.abs(state.heat_in - state.heat_shed)
    for i in np.flatnonzero(state.exists & (off > 1e-6 * np.abs(state.heat_in) + LEAST_HEAT)):
        yield f"case {i} does not close: {state.heat_in[i]} W in, {state.heat_shed[i]} W out"
