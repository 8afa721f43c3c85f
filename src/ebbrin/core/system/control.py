"""How the fan's switch holds its stages, in plain numbers: one candidate, one case."""

from __future__ import annotations

import numpy as np

from ebbrin.core.airpath.fan import FULL, LOW, OFF
from ebbrin.core.base import ArrayLike, IntArray
from ebbrin.core.compiled import Numbers, compiled, flat, over_cores
from ebbrin.core.system.packed import CaseNumbers, Marks, case_of, parts_of
from ebbrin.core.system.parts import Cases, System, frame


@compiled
def stage_count(fan: Numbers) -> int:
    """Number of stages that a fan knows, off among them."""
    return 3 if fan.fitted > 0.5 and fan.staged > 0.5 else 2


@compiled
def stage_of(fan: Numbers, k: int) -> int:
    """Stage by its place from off upwards."""
    return OFF if k == 0 else (FULL if k == stage_count(fan) - 1 else LOW)


@compiled
def starts_at(marks: Marks, k: int) -> float:
    """Temperature [K] at which the stage above the ``k``-th comes on."""
    return marks.on if k == 0 else marks.full_on


@compiled
def stops_at(marks: Marks, k: int) -> float:
    """Temperature [K] at which the ``k``-th stage goes off, from 1."""
    return marks.off if k == 1 else marks.full_off


@compiled
def driven(fan: Numbers) -> bool:
    """Whether a belt drives the fan, so that it has no switch."""
    return fan.fitted > 0.5 and fan.mechanical > 0.5


@compiled
def kept(fan: Numbers, case: CaseNumbers) -> bool:
    """Whether the fan is kept from resting, by the air conditioning (choice) or by having no switch."""
    return fan.fitted > 0.5 and (fan.mechanical > 0.5 or case.air_conditioning > 0.5)


@compiled
def stage_below_at(fan: Numbers, marks: Marks, case: CaseNumbers, temperature: float) -> int:
    """As ``stage_below``, numbers."""
    last = stage_count(fan) - 1
    if fan.fitted < 0.5:
        return OFF
    if driven(fan):
        return FULL
    k = 0
    while k < last and starts_at(marks, k) <= temperature:
        k += 1
    return stage_of(fan, max(k, 1) if kept(fan, case) else k)


@compiled
def _stages_below(packed, cases, which, case, temperature, out, first, last):  # type: ignore[no-untyped-def]
    for e in range(first, last):
        parts = parts_of(packed, which[e])
        out[e] = stage_below_at(parts.fan, parts.marks, case_of(cases, case[e]), temperature[e])


def stage_below(system: System, cases: Cases, temperature: ArrayLike) -> IntArray:
    """Stage at which the fan stands when the top hose has risen to a ``temperature`` [K]: one whose on-point lies
    above it still rests; broadcasts."""
    shape, which, case = frame(system, cases, temperature)
    out = np.empty(which.size, np.int64)
    over_cores(0.02, _stages_below, system.packed, cases.rows, which, case, flat(temperature, shape), out)
    return out.reshape(shape)
