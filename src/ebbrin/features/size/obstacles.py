"""What would have to give where nothing fits, and how far."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import numpy as np

from ebbrin.bridge.units import celsius
from ebbrin.core.base import IntArray
from ebbrin.core.sizing.search import CORE, Found
from ebbrin.features.size import words
from ebbrin.features.size.answers import Obstacle, Wishes
from ebbrin.features.size.choices import Choice, keeps_coolant
from ebbrin.features.size.table import MOST, Proceed, Table, affordable, good, searched, table_of, variant_of
from ebbrin.features.size.taken import Ground, ground_of

PROMISING = 2000  # combinations solved at a time while the best margin is looked for
LEAST = -1e6  # K: nothing that settles falls short of it
FIRST = 8
"""Combinations of which the own chance is looked at one after the other."""
MORE_ROOM = (1.1, 1.25, 1.5, 2.0, 3.0)
"""Width and height over those that there are."""


def obstacles(
    ground: Ground, table: Table, index: IntArray, searched_for: Found, surest: float, proceed: Proceed
) -> list[Obstacle]:
    """Each wish by itself given up or loosened: whether something fits then, and how far it has to give."""
    found: list[Obstacle] = []
    top, cases = float(ground.system.limits.top_hose), ground.cases
    over = np.isfinite(cases.duration) & (cases.start >= top)
    if over.any():
        names = (case.name for case in ground.resolved.cases)
        return [
            Obstacle(wish="parts", text=words.begins_over(name, celsius(start), celsius(top)))
            for name, start, there in zip(names, cases.start, over, strict=True)
            if there
        ]
    if len(table.coolants) == 0:
        coldest = celsius(np.min(ground.cases.ambient))
        return [Obstacle(wish="freezing", text=words.freezing(coldest, keeps_coolant(ground.wishes)))]
    if len(table.cores) == 0:
        found.append(Obstacle(wish="room", text=words.no_core(ground.room)))
    best = _best_margin(ground, table, index, searched_for, proceed)
    if best is not None:
        margin, case = best
        if margin >= ground.target.wanted:
            return [Obstacle(wish="chance", text=words.chance_too_high(ground.wishes, surest))]
        name = ground.resolved.cases[case].name
        give: Obstacle = (
            Obstacle(wish="chance", text=words.chance_must_give(-margin, name, ground.has_air(case, -margin)))
            if ground.wishes.by == "chance"
            else Obstacle(wish="margin", text=words.margin_must_give(ground.wishes, margin, name))
        )
        found.append(give)
    for wish, wishes in _loosened(ground.wishes, ground):
        if not proceed(0.92):
            break
        if any(entry.wish == "room" for entry in found if wish == "room"):
            continue
        # What there is to choose from is the same, whatever may be spent on it.
        said = _would_do(ground, wish, wishes, table if wish in ("budget", "electric") else None, proceed)
        if said is not None:
            found.append(Obstacle(wish=wish, text=said))
    return found or [Obstacle(wish="parts", text=words.NOTHING_AT_ALL)]


def _best_margin(
    ground: Ground, table: Table, index: IntArray, found: Found, proceed: Proceed
) -> tuple[float, int] | None:
    """The greatest margin that any combination keeps in all cases [K], and the number of the case that sets it.

    What is known of a combination bounds its margin from above: the most promising are solved in all cases, and
    then only those whose bound is better than the best of them.
    """
    order = np.argsort(-found.margin, kind="stable")
    order = order[np.isfinite(found.margin[order])]
    best: tuple[float, int] | None = None
    while order.size:
        some, order = order[:PROMISING], order[PROMISING:]
        anything = replace(ground.target, wanted=LEAST)
        solved = searched(ground, table, index[some], anything, lambda _share: proceed(0.91))
        if solved is None:
            return best
        row = int(np.argmax(np.where(solved.complete, solved.margin, -np.inf)))
        if solved.complete[row] and (best is None or solved.margin[row] > best[0]):
            best = float(solved.margin[row]), int(solved.case[row])
        if best is not None:
            order = order[found.margin[order] > best[0]]
    return best


def _loosened(wishes: Wishes, ground: Ground) -> Iterator[tuple[Any, Wishes]]:
    """Wishes with one of them given up."""
    if wishes.budget is not None:
        yield "budget", wishes.model_copy(update={"budget": None})
    if wishes.electric_w is not None:
        yield "electric", wishes.model_copy(update={"electric_w": None})
    for slot in wishes.keep:
        yield "keep", wishes.model_copy(update={"keep": [kept for kept in wishes.keep if kept != slot]})
    if wishes.cores != "any":
        yield "cores", wishes.model_copy(update={"cores": "any"})
    if wishes.coolant != "any" and "coolant" not in wishes.keep:
        yield "coolant", wishes.model_copy(update={"coolant": "any"})
    for factor in MORE_ROOM:
        room = {f"{side}_mm": getattr(ground.room, side) * factor for side in ("width", "height")}
        depth = min(ground.room.depth * factor, 150.0)
        yield "room", wishes.model_copy(update={**room, "depth_mm": depth})


def _would_do(ground: Ground, wish: Any, wishes: Wishes, table: Table | None, proceed: Proceed) -> Any:
    """What to say if something fits with these wishes, from a table of what they leave to choose from if there is one: how
    far the one that was given up has to give."""
    # By the same doubts: else something could be said to fit that is within the wishes as they were.
    asked = ground.question.model_copy(update={"wishes": wishes})
    other = replace(ground_of(asked, ground.shelf), doubt=ground.doubt)
    table = table or table_of(other)
    index = affordable(other, table)
    index = index[:: -(-len(index) // MOST)] if len(index) > MOST else index
    found = searched(other, table, index, other.target, lambda _share: proceed(0.93))
    if found is None:
        return None
    holds = index[good(found, other.target.wanted)]
    if len(holds) == 0:
        return None
    cost, electric, face = table.costs(holds), table.electric(holds), table.faces(holds)
    gives = {"electric": electric, "room": face}.get(wish, cost)
    row = _first_sure(other, table, holds, np.argsort(gives, kind="stable"))
    if row is None:
        return None
    smallest: Choice = table.cores[holds[row, CORE]]
    return words.must_give(wish, ground.wishes, wishes, float(cost[row]), float(electric[row]), smallest)


def _first_sure(ground: Ground, table: Table, index: IntArray, order: IntArray) -> int | None:
    """Of combinations that hold by the doubts of others, the first in an order that does by its own; of the later ones
    only some are looked at."""
    later = order[FIRST :: max(-(-len(order) // FIRST), 1)]
    for row in [*order[:FIRST].tolist(), *later.tolist()]:
        if ground.chances(variant_of(ground, table, index[row])).build >= ground.least_chance:
            return int(row)
    return None
