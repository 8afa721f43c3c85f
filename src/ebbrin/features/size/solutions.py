"""The few combinations worth choosing from, judged as the workbench judges, and how they fare elsewhere."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import replace
from typing import Any

import numpy as np

from ebbrin.bridge.units import kilopascals
from ebbrin.build.build import Variant
from ebbrin.core.airpath.fan import Fan
from ebbrin.core.base import DomainError, FloatArray, IntArray
from ebbrin.core.circuit import cap as caps
from ebbrin.core.media import air as atmosphere
from ebbrin.core.sizing.requirement import face_needed
from ebbrin.core.sizing.search import AIR, CORE, Found, representatives, systems_of
from ebbrin.core.sizing.target import chance_of_all, chance_of_each
from ebbrin.core.studies.assess import assess, reached
from ebbrin.core.studies.batch import in_chunks, left
from ebbrin.core.studies.chance import estimate, in_kelvin
from ebbrin.core.system.parts import Cases
from ebbrin.features.judge import evaluate, verdict_at, warnings
from ebbrin.features.shelf import PRICES, price_near
from ebbrin.features.size import words
from ebbrin.features.size.answers import FrontPoint, Move, Requirement, Slot, Solution
from ebbrin.features.size.requirement import doubt_of, face_at
from ebbrin.features.size.table import Proceed, Table, front, objectives, variant_of
from ebbrin.features.size.taken import Ground, switched
from ebbrin.ground.words import Text, pressure, temperature

FEW, TRIED = 6, 36
"""Solutions that are shown, and combinations whose own chance is looked at to find them."""
LOST, CLOSE = 3, 3.0
"""Neighbours whose own chance is looked at to find one that falls short, and how close to what is asked they are [K]: further
away it is the same by the doubts of the others."""
HOTTER = (-10.0, -5.0, 5.0, 10.0)
HIGHER = (500.0, 1000.0, 2000.0)


def chosen(
    ground: Ground, table: Table, index: IntArray, found: Found, proceed: Proceed
) -> tuple[list[FrontPoint], list[Solution] | None, float]:
    """The front, the few of it, and the best chance among those refused for theirs [-]; no solutions where none
    holds, None where it was stopped."""
    best = front(table, index, found, ground.target.wanted)
    least = ground.least_chance
    shares: dict[int, float] = {}
    refused: set[int] = set()
    judged: dict[int, Solution] = {}
    while True:
        rows = np.array([r for r in best if int(r) not in refused], np.int64)
        if rows.size == 0:
            break
        picks = rows[representatives(objectives(table, index[rows], found.margin[rows]), FEW)].tolist()
        fresh = [row for row in picks if row not in shares]
        if fresh and len(shares) < TRIED:
            for row in fresh:
                if not proceed(0.5 * len(shares) / TRIED):
                    return [], None, 0.0
                # With the cap of the search, which is the highest: what is not sure enough so need not be judged.
                shares[row] = ground.chances(variant_of(ground, table, index[row])).build
            refused |= {row for row in fresh if shares[row] < least}
            continue
        fresh = [row for row in picks if row in shares and row not in judged]
        if not fresh:
            break
        for row in fresh:
            if not proceed(0.5 + 0.5 * min(len(judged) / FEW, 1.0)):
                return [], None, 0.0
            judged[row] = _solution(ground, table, index, found, row)
            shares[row] = judged[row].chance_share
        unsure = {row for row in fresh if shares[row] < least}
        refused |= unsure
        judged = {row: solution for row, solution in judged.items() if row not in unsure}
    surest = max((shares[row] for row in refused), default=0.0)
    rows = np.array([r for r in best if int(r) not in refused], np.int64)
    if not judged:
        return [], [], surest
    costs = objectives(table, index[rows], found.margin[rows])
    shown_rows = [int(rows[k]) for k in representatives(costs, FEW) if int(rows[k]) in judged]
    titled = words.titles(np.array([_said(ground, judged[row]) for row in shown_rows]))
    shown = [
        judged[row].model_copy(update={"titles": titles})
        for row, titles in zip(shown_rows, titled, strict=True)
    ]
    cost, electric, face = table.costs(index), table.electric(index), table.faces(index)
    likely = _chances(ground, table, index[rows])
    points = [
        FrontPoint(
            kept_k=float(found.margin[row]),
            chance_share=judged[int(row)].chance_share if int(row) in shown_rows else float(likely[k]),
            cost=judged[int(row)].cost if int(row) in shown_rows else float(cost[row]),
            electric_w=float(electric[row]),
            face_m2=float(face[row]),
            solution=shown_rows.index(int(row)) if int(row) in shown_rows else None,
        )
        for k, row in enumerate(rows)
    ]
    return points, shown, surest


def _said(ground: Ground, solution: Solution) -> tuple[float, float, float, float]:
    """What a solution is compared by, smaller being better, as it is said of it."""
    hand = round(solution.chance_share, 3) if ground.wishes.by == "chance" else round(solution.margin_k, 1)
    return -hand, round(solution.cost), round(solution.electric_w), round(solution.face_m2, 3)


def _chances(ground: Ground, table: Table, index: IntArray) -> FloatArray:
    """(n,) chance that all cases stay below their limits, by the doubts of the search."""
    found = in_chunks(left, systems_of(ground.system, table.options, index), ground.cases)
    assert found is not None
    return chance_of_all(ground.doubt, found.spare)


def _solution(ground: Ground, table: Table, index: IntArray, found: Found, row: int) -> Solution:
    core, air, pump, coolant = table.at(index[row])
    variant = variant_of(ground, table, index[row])
    cap = _cap(ground, variant)
    update = {"id": f"sized-{row}", "name": words.name_of(core)}
    variant = Variant.model_validate(ground.capped(variant, cap).model_copy(update=update).model_dump())
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
        cautions=warnings(answer),
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
        found.append(("fan_switch", pair, ground.buys_switch(fan), PRICES["switch"]))
    return found


def _cap_words(ground: Ground, cap: float) -> tuple[Text, bool, float]:
    new = abs(cap - float(ground.fitted.cap.pressure)) > 1.0
    return (
        [pressure(kilopascals(cap))],
        new,
        price_near(ground.shelf, "cap", "pressure_kpa", kilopascals(cap)),
    )


def _cap(ground: Ground, variant: Variant) -> float:
    """The fitted cap where it does; else the lowest that does; else the one that the search took; gauge [Pa]. It does
    that keeps the margin which was asked for, and with which the chance is the one that was."""
    if "cap" in ground.wishes.keep:
        return ground.cap
    system = ground.system_of(variant)
    a = assess(system, ground.cases, with_levers=False, unknowns=())  # its chance is not asked for
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
    if choice.chosen < 0:
        return ground.cap
    lowest = float(caps.CANDIDATES[choice.chosen])
    fitted = float(ground.fitted.cap.pressure)
    bears = float(system.cap.weakest_part) - a.cap.pumped + 1.0
    if lowest - 1.0 <= fitted <= bears and ground.does(ground.capped(variant, fitted)):
        return fitted
    return ground.lowest_cap(variant, kilopascals(lowest))


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
        for best in short[np.argsort(-found.margin[short], kind="stable")][:LOST]:
            lacks = _lacking(ground, table, index[best], float(found.margin[best]), int(found.case[best]))
            if lacks is not None:
                lack, case = lacks
                air = ground.wishes.by == "margin" or ground.has_air(case, lack)
                name = ground.resolved.cases[case].name
                yield words.lost(table.at(index[best])[axis], axis, lack, name, air)
                break
        if axis == CORE:
            more = np.flatnonzero(
                same & found.complete & (found.margin > found.margin[row] + 0.5) & (cost > cost[row])
            )
            if more.size:
                dear = (cost[more] - cost[row]) / (found.margin[more] - found.margin[row])
                best = int(more[np.argmin(dear)])
                gain, price = float(found.margin[best] - found.margin[row]), float(cost[best] - cost[row])
                yield words.dearer(table.cores[index[best, CORE]], gain, price)


def _lacking(
    ground: Ground, table: Table, chosen: IntArray, kept: float, case: int
) -> tuple[float, int] | None:
    """How far the parts ``chosen`` (4,) fall short of what is wanted [K], inf where nothing settles, and the number of the
    case that says so; None where they do not, by what is doubtful of these very parts. ``kept`` and ``case`` are what the search
    found."""
    if ground.wishes.by == "margin" or kept < -CLOSE:
        return ground.target.wanted - kept, case
    own = ground.chances(variant_of(ground, table, chosen))
    if own.build >= ground.wishes.chance_share:
        return None
    spare = in_kelvin(own.middle - own.wanted, own.per_kelvin)
    return max(float(-spare.min()), 0.0), int(spare.argmin())


def moves(ground: Ground, solutions: Sequence[Solution], required: Requirement) -> list[Move]:
    """The same solutions, judged as the workbench would judge them in hotter air and higher up, and the face that the
    requirement takes there."""
    here = Move(
        hotter_k=0.0,
        higher_m=0.0,
        face_m2=None if required.chosen is None else required.faces[required.chosen].face_m2,
        chances=[entry.chance_share for entry in solutions],
        verdicts=[entry.verdict for entry in solutions],
    )
    places = _places(ground.cases)
    if not places:
        return [here]
    joined = _joined([cases for _, _, cases in places])
    chances = [_chances_at(ground, entry, joined, len(places)) for entry in solutions]
    faces = _faces_at(ground, required, [cases for _, _, cases in places])
    found = [here]
    for i, (hotter, higher, _) in enumerate(places):
        shares = [float(chance[i]) for chance in chances]
        found.append(
            Move(
                hotter_k=hotter,
                higher_m=higher,
                face_m2=faces[i],
                chances=shares,
                verdicts=[verdict_at(share) for share in shares],
            )
        )
    return sorted(found, key=lambda move: (move.higher_m, move.hotter_k))


def _places(cases: Cases) -> list[tuple[float, float, Cases]]:
    """How much hotter [K], how much higher [m] and the cases there, for each other place that there is."""
    found = []
    for hotter, higher in [(hotter, 0.0) for hotter in HOTTER] + [(0.0, higher) for higher in HIGHER]:
        there = replace(cases, ambient=cases.ambient + hotter, altitude=cases.altitude + higher)
        with suppress(DomainError):
            found.append((hotter, higher, there.checked()))
    return found


def _joined(places: Sequence[Cases]) -> Cases:
    """The cases of all places, one place after the other."""
    count = np.size(places[0].ambient)
    wide = places[0].taken(np.arange(len(places) * count) % count)
    return replace(
        wide,
        ambient=np.concatenate([cases.ambient for cases in places]),
        altitude=np.concatenate([cases.altitude for cases in places]),
    )


def _chances_at(ground: Ground, solution: Solution, joined: Cases, places: int) -> FloatArray:
    """(places,) chance that all cases stay below their limits with a solution, by its own doubts."""
    system, unknowns = ground.in_doubt(solution.variant)
    return chance_of_each(estimate(system.checked(), joined.checked(), unknowns), places)


def _faces_at(ground: Ground, required: Requirement, places: Sequence[Cases]) -> list[float | None]:
    """Face [m²] of the required kind that each place takes, with the air moved as required; where nothing does at the
    build's own place, in any way that does there. None where none does."""
    if required.variant is None:
        return [face_at(ground, cases) for cases in places]
    system, unknowns = ground.in_doubt(required.variant)
    face = float(system.core.width * system.core.height)
    asked = ground.wishes.chance_share
    factors = [
        float(
            face_needed(system, cases, ground.target_by(doubt_of(system, cases, unknowns, asked))).factor[0]
        )
        for cases in places
    ]
    return [factor * face if np.isfinite(factor) else None for factor in factors]
