"""Where the fan's switch leaves a case: the stage that it settles at, or the two between which it goes to and fro."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ebbrin.core.airpath import room as rooms
from ebbrin.core.airpath.balance import PRESSURE_RESIDUAL
from ebbrin.core.base import FloatArray
from ebbrin.core.circuit.flow import Flows
from ebbrin.core.compiled import compiled
from ebbrin.core.system.balance import Gone, stand_at
from ebbrin.core.system.control import driven, kept, stage_count, stage_of, starts_at, stops_at
from ebbrin.core.system.packed import CaseNumbers, Packed, Parts
from ebbrin.core.system.settle import settle_at, share_at
from ebbrin.core.system.together import AFRESH, OTHER_STAGE, SURE, glance_at, single

SIGN_ROUGH, SIGN_FINE = 0.01, 0.1  # as settle.ROUGH and FINE, where little more than the sign is asked


class FanStands(NamedTuple):
    """Where the switch leaves a case, numbers: the place of its stage from off upwards; its on- and its off-point [K], -inf
    where something else keeps it on; whether the fan goes to and fro between it and the stage below; whether the next
    stage, once started, would not stop, and where that settles [K].

    Then the balance at that stage: top hose [K], by how much heat shed and heat sent differ there (as ``settle_at``); heat
    demand, coolant flow and what is shed. Where the fan goes to and fro that balance is not looked for if it need not be:
    the top hose is then one that it lies below, itself below the limit, what is left is 0, and the rest nothing."""

    k: int
    on: float
    off: float
    cycles: bool
    runs_on: bool
    hotter: float
    top: float
    left: float
    sent: tuple[float, float, float, float]
    flows: Flows
    there: Gone


@compiled
def _over(
    parts: Parts, case: CaseNumbers, packed: Packed, c: int, stage: int, at: float, s: FloatArray, near: bool
) -> float:
    """Logarithm of heat shed over heat demand [-] at ``at`` [K] with the fan at a ``stage``, its sign at least: above
    nothing where the balance lies below."""
    stand = stand_at(parts, case, stage)
    if single(parts, case):
        how = OTHER_STAGE if near else AFRESH
        return glance_at(parts, case, packed, c, stand, at, 0.0, s, how, PRESSURE_RESIDUAL, SURE).share
    share, _, _, _ = share_at(
        parts, case, packed, c, stand.meets, stand.total, at, 0.0, s, near, SIGN_ROUGH, SIGN_FINE
    )
    return share


@compiled
def fan_at(
    parts: Parts, case: CaseNumbers, packed: Packed, c: int, limit: float, s: FloatArray, other: FloatArray
) -> FanStands:
    """Where the fan stands, and the balance there, whose air is left in ``s``; ``other`` is room of the same kind.

    It is the lowest stage whose balance lies below the next one's on-point; if that also lies below its own off-point, the
    fan alternates between it and the one beneath.
    """
    fan, marks = parts.fan, parts.marks
    last = stage_count(fan) - 1
    has_none, by_belt, is_kept = fan.fitted < 0.5, driven(fan), kept(fan, case)
    k, looked = 1 if is_kept else 0, False
    above, at_above = 0.0, 0.0
    if by_belt:
        k = last
    elif not has_none:
        while k < last:
            at = max(min(starts_at(marks, k), marks.table_end), case.ambient)
            over = _over(parts, case, packed, c, stage_of(fan, k), at, s, looked)
            looked = True
            if over > 0.0:
                above, at_above = at, over
                break
            k += 1
    stage = stage_of(fan, k)
    # A stage that something else than its switch keeps on has no points.
    switched = not (by_belt or has_none or (is_kept and k <= 1))
    on = starts_at(marks, k - 1) if switched and k > 0 else -np.inf
    off = stops_at(marks, k) if switched and k > 0 else -np.inf
    cycles = False
    if case.ambient < off < marks.table_end and single(parts, case):
        # A look at the off-point tells on which side of it the one balance lies.
        over = _over(parts, case, packed, c, stage, off, s, looked)
        looked, cycles = True, over > 0.0 and off < limit
        if over <= 0.0 or above <= 0.0:
            above, at_above = off, over
    nothing = Flows(0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0)
    top, left, sent, flows, there = (
        off,
        0.0,
        (0.0, 0.0, 0.0, 0.0),
        nothing,
        Gone(0.0, 0.0, 0.0, 0.0, 0.0, 0.0),
    )
    if not cycles:
        top, left, sent, flows, there = settle_at(
            parts, case, packed, c, stage, s, looked, above, at_above, 0.0
        )
    settles = np.isfinite(left)
    cycles = cycles or (settles and top < off)
    runs_on, hotter = False, top
    stop = stops_at(marks, k + 1) if switched and k < last else np.inf
    if settles and stop < marks.table_end:
        # In a room of its own: the air of the stage that it settles at stays as it is.
        rooms.copy(s, other)
        higher, at = stage_of(fan, k + 1), max(stop, case.ambient)
        if _over(parts, case, packed, c, higher, at, other, True) <= 0.0:
            hotter, at_higher, _, _, _ = settle_at(parts, case, packed, c, higher, other, True, 0.0, 0.0, 0.0)
            runs_on = np.isfinite(at_higher) and hotter > stop
    return FanStands(k, on, off, cycles, runs_on, hotter, top, left, sent, flows, there)
