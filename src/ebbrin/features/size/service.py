"""From what a build asks to the parts that do it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ebbrin.bridge.units import kilopascals
from ebbrin.features.shelf import ShelfPart
from ebbrin.features.size import words
from ebbrin.features.size.answers import Sizing, SizingQuestion
from ebbrin.features.size.obstacles import obstacles
from ebbrin.features.size.requirement import requirement
from ebbrin.features.size.solutions import chosen, moves
from ebbrin.features.size.table import Proceed, affordable, looked_through, table_of
from ebbrin.features.size.taken import ground_of


def size(
    question: SizingQuestion, shelf: Sequence[ShelfPart], proceed: Proceed = lambda _share: True
) -> Sizing | None:
    """The whole answer, or None if ``proceed``, which is told the share that is done [-], said to stop.

    Raises
    ------
    MissingValues
        If a value without an honest default is unknown.
    UnknownVariant
        If there is no such variant.
    DomainError
        If the parts do not make a physical system.
    """
    ground = ground_of(question, shelf)
    if not proceed(0.02):
        return None
    required, doubt = requirement(ground)
    if "radiator" not in question.wishes.keep:
        # That of cores that are just enough, as those worth showing are.
        ground = replace(ground, doubt=doubt)
    if not proceed(0.1):
        return None
    table = table_of(ground)
    index = affordable(ground, table)
    found = looked_through(ground, table, index, lambda share: proceed(0.15 + 0.5 * share))
    if found is None:
        return None
    index, result = found
    front, few, surest = chosen(ground, table, index, result, lambda share: proceed(0.65 + 0.25 * share))
    if few is None:
        return None
    if not proceed(0.9):
        return None
    hindered = [] if few else obstacles(ground, table, index, result, surest, proceed)
    moved = moves(ground, few, required)
    return Sizing(
        variant_id=question.variant,
        requirement=required,
        front=front,
        solutions=few,
        obstacles=hindered,
        moves=moved,
        taken=words.taken(
            ground.room,
            ground.controls,
            kilopascals(ground.cap),
            [*table.cores, *table.airs, *table.coolants],
        ),
        combinations=len(index),
        caution=words.CAUTION,
    )
