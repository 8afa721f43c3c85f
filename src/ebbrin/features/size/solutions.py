"""The few combinations worth choosing from, judged as the workbench judges, and how they fare elsewhere."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import numpy as np

from ebbrin.bridge import to_core
from ebbrin.bridge.units import kilopascals
from ebbrin.build.build import Variant
from ebbrin.build.resolve import resolve
from ebbrin.core.airpath.fan import Fan
from ebbrin.core.base import DomainError, FloatArray, IntArray
from ebbrin.core.circuit import cap as caps
from ebbrin.core.media import air as atmosphere
from ebbrin.core.records import stack
from ebbrin.core.sizing.requirement import face_needed
from ebbrin.core.sizing.search import AIR, CORE, Found, representatives, systems_of
from ebbrin.core.sizing.target import chance_of_all
from ebbrin.core.studies.assess import assess, reached
from ebbrin.core.studies.batch import in_chunks, left
from ebbrin.core.studies.chance import TIGHT_FROM
from ebbrin.features.judge import evaluate, verdict_at
from ebbrin.features.shelf import price_near
from ebbrin.features.size import choices, words
from ebbrin.features.size.answers import FrontPoint, Move, Requirement, Slot, Solution, Wishes
from ebbrin.features.size.requirement import as_new
from ebbrin.features.size.table import Proceed, Table, front, objectives
from ebbrin.features.size.taken import Ground, switched
from ebbrin.ground.words import Text, pressure, temperature

FEW, TRIED = 6, 12
"""Solutions that are shown, and combinations whose chance is sampled to find them."""
HOTTER = (-10.0, -5.0, 0.0, 5.0, 10.0)
HIGHER = (500.0, 1000.0, 2000.0)


def chosen(
    ground: Ground, table: Table, index: IntArray, found: Found, proceed: Proceed
) -> tuple[list[FrontPoint], list[Solution] | None, float]:
    """The front, the few of it, and the best chance among those refused for theirs [-]; no solutions where none
    holds, None where it was stopped."""
    best = front(table, index, found, ground.target.wanted)
    refused: set[int] = set()
    judged: dict[int, Solution] = {}
    surest = 0.0
    for _ in range(TRIED):
        rows = np.array([r for r in best if int(r) not in refused], np.int64)
        if rows.size == 0:
            break
        picks = rows[representatives(objectives(table, index[rows], found.margin[rows]), FEW)]
        fresh = [int(r) for r in picks if int(r) not in judged]
        if not fresh or len(judged) + len(refused) >= TRIED:
            break
        for row in fresh:
            if not proceed(min((len(judged) + len(refused)) / FEW, 1.0)):
                return [], None, surest
            solution = _solution(ground, table, index, found, row)
            if solution.chance_share < _least_chance(ground.wishes):
                refused.add(row)
                surest = max(surest, solution.chance_share)
            else:
                judged[row] = solution
    rows = np.array([r for r in best if int(r) not in refused], np.int64)
    if not judged:
        return [], [], surest
    costs = objectives(table, index[rows], found.margin[rows])
    shown_rows = [int(rows[k]) for k in representatives(costs, FEW) if int(rows[k]) in judged]
    titled = words.titles(np.array([costs[list(rows).index(row)] for row in shown_rows]))
    shown = [
        judged[row].model_copy(update={"titles": titles})
        for row, titles in zip(shown_rows, titled, strict=True)
    ]
    cost, electric, face = table.costs(index), table.electric(index), table.faces(index)
    shares = _chances(ground, table, index[rows])
    points = [
        FrontPoint(
            kept_k=float(found.margin[row]),
            chance_share=judged[int(row)].chance_share if int(row) in shown_rows else float(shares[k]),
            cost=judged[int(row)].cost if int(row) in shown_rows else float(cost[row]),
            electric_w=float(electric[row]),
            face_m2=float(face[row]),
            solution=shown_rows.index(int(row)) if int(row) in shown_rows else None,
        )
        for k, row in enumerate(rows)
    ]
    return points, shown, surest


def _least_chance(wishes: Wishes) -> float:
    """The chance of all cases below which a combination is refused: the one asked for, or even odds beside a margin."""
    return wishes.chance_share if wishes.by == "chance" else TIGHT_FROM


def _chances(ground: Ground, table: Table, index: IntArray) -> FloatArray:
    """(n,) chance that all cases stay below their limits, with the doubts of the build as it is."""
    found = in_chunks(left, systems_of(ground.system, table.options, index), ground.cases)
    assert found is not None
    return chance_of_all(ground.doubt, found.spare)


def _solution(ground: Ground, table: Table, index: IntArray, found: Found, row: int) -> Solution:
    core, air, pump, coolant = table.at(index[row])
    variant = ground.with_parts(radiator=core.part, air=air.part, circuit=pump.part, coolant=coolant.part)
    cap = _cap(ground, variant)
    update: dict[str, Any] = {"id": f"sized-{row}", "name": words.name_of(core)}
    if abs(cap - ground.cap) > 1.0:
        update["cap"] = variant.cap.model_copy(update={"pressure_kpa": kilopascals(cap), "from_shelf": None})
    variant = Variant.model_validate(variant.model_copy(update=update).model_dump())
    build = ground.build.model_copy(update={"variants": [variant]})
    answer = evaluate(build, variant.id, levers=False)
    margins = [case.margin_k for case in answer.cases if case.margin_k is not None]
    worst = min(answer.cases, key=lambda case: -1e9 if case.margin_k is None else case.margin_k)
    parts = words.parts(
        (core, air, pump, coolant),
        _controls(ground, table.options.airs[index[row, AIR]].fan),
        _cap_words(ground, cap),
    )
    one = index[[row]]
    return Solution(
        titles=[],
        parts=parts,
        variant=variant,
        verdict=answer.verdict,
        margin_k=min(margins, default=-1e3),
        chance_share=answer.chance,
        cost=sum(part.price or 0.0 for part in parts),
        electric_w=float(table.electric(one)[0]),
        face_m2=float(table.faces(one)[0]),
        mass_kg=core.mass_kg,
        limit=words.limit(worst),
        neighbours=list(_neighbours(ground, table, index, found, row)),
        answers=answer.answers,
        unsure=words.unsure(answer.measure_first),
    )


def _controls(ground: Ground, fan: Fan) -> list[tuple[Slot, Text, bool, float]]:
    """Slot, text, whether it is new, and price of thermostat and fan switch."""
    v = ground.resolved.variant
    opens = v.thermostat.opens_c or 0.0
    price = price_near(ground.shelf, "thermostat", "opens_c", opens)
    found: list[tuple[Slot, Text, bool, float]] = [
        ("thermostat", ["opens at ", temperature(opens)], ground.new_thermostat, price)
    ]
    if switched(fan):
        pair: Text = [
            "on at ",
            temperature(v.fan_switch.on_c or 0.0),
            ", off at ",
            temperature(v.fan_switch.off_c or 0.0),
        ]
        found.append(("fan_switch", pair, ground.new_switch, choices.SWITCH_PRICE))
    return found


def _cap_words(ground: Ground, cap: float) -> tuple[Text, bool, float]:
    new = abs(cap - float(ground.fitted.cap.pressure)) > 1.0
    return (
        [pressure(kilopascals(cap))],
        new,
        price_near(ground.shelf, "cap", "pressure_kpa", kilopascals(cap)),
    )


def _cap(ground: Ground, variant: Variant) -> float:
    """The fitted cap where it does; else the lowest that leaves the wanted margin too, else the one that the search
    took; gauge [Pa]."""
    if "cap" in ground.wishes.keep:
        return ground.cap
    system = ground.system_of(variant)
    a = assess(system, ground.cases, with_levers=False)
    hottest = np.minimum(reached(a.state, a.run, np.inf), system.limits.top_hose) + ground.margin
    choice = caps.choose(
        hottest,
        atmosphere.standard_pressure(ground.cases.altitude),
        a.inlet_margin_without_cap,
        system.coolant,
        float(system.limits.boiling_margin),
        float(system.cap.weakest_part),
        a.cap.pumped,
    )
    lowest = float(caps.CANDIDATES[choice.chosen]) if choice.chosen >= 0 else ground.cap
    fitted = float(ground.fitted.cap.pressure)
    bears = float(system.cap.weakest_part) - a.cap.pumped + 1.0
    return fitted if lowest - 1.0 <= fitted <= bears else lowest


def _neighbours(ground: Ground, table: Table, index: IntArray, found: Found, row: int) -> Iterator[Any]:
    """Of the combinations that differ in one part alone and are better in something: the one that comes nearest to
    holding, and why it does not; and of larger cores the one that gains most for its price."""
    cost, electric, face = table.costs(index), table.electric(index), table.faces(index)
    better = (cost < cost[row] - 0.5) | (electric < electric[row] - 1.0) | (face < face[row] - 1e-4)
    margin = ground.target.wanted
    for axis in range(4):
        same = np.all(np.delete(index, axis, 1) == np.delete(index[row], axis), axis=1)
        same[row] = False
        short = np.flatnonzero(same & better & (found.margin < margin))
        if short.size:
            best = int(short[np.argmax(found.margin[short])])
            case = ground.resolved.cases[int(found.case[best])]
            yield words.lost(table.at(index[best])[axis], axis, float(found.margin[best]), margin, case.name)
        if axis == CORE:
            more = np.flatnonzero(
                same & found.complete & (found.margin > found.margin[row] + 0.5) & (cost > cost[row])
            )
            if more.size:
                dear = (cost[more] - cost[row]) / (found.margin[more] - found.margin[row])
                best = int(more[np.argmin(dear)])
                gain, price = float(found.margin[best] - found.margin[row]), float(cost[best] - cost[row])
                yield words.dearer(table.cores[index[best, CORE]], gain, price)


def moves(ground: Ground, variants: list[Variant], required: Requirement) -> list[Move]:
    """The same solutions, and the face that the requirement takes, in hotter air and higher up."""
    places = [(hotter, 0.0) for hotter in HOTTER] + [(0.0, higher) for higher in HIGHER]
    systems = stack([ground.system_of(v) for v in variants]) if variants else None
    face = None
    if required.variant is not None:
        resolved = resolve(
            ground.build.model_copy(update={"variants": [required.variant]}), required.variant.id
        )
        face = as_new(to_core.system_from(resolved))
    found = []
    for hotter, higher in places:
        cases = replace(
            ground.cases, ambient=ground.cases.ambient + hotter, altitude=ground.cases.altitude + higher
        )
        try:
            cases = cases.checked()
        except DomainError:
            continue  # no such place
        needed = None
        if face is not None:
            factor = float(face_needed(face, cases, ground.target).factor[0])
            needed = factor * float(face.core.width * face.core.height) if np.isfinite(factor) else None
        shares: list[float] = []
        if systems is not None:
            there = in_chunks(left, systems, cases)
            assert there is not None
            shares = [float(share) for share in chance_of_all(ground.doubt, there.spare)]
        verdicts = [verdict_at(share) for share in shares]
        found.append(
            Move(hotter_k=hotter, higher_m=higher, face_m2=needed, chances=shares, verdicts=verdicts)
        )
    return found
