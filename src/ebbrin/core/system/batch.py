"""Very many candidates at once: in chunks that fit the processor's cache, over several cores."""

from __future__ import annotations

import os
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, fields

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.system import limits, timed
from ebbrin.core.system.assess import reached
from ebbrin.core.system.parts import Cases, System, part_of
from ebbrin.core.system.steady import shape_of, steady_state

CHUNK_ELEMENTS = 8000
"""Candidates times cases in one solve: the arrays of a step stay in the cache, and memory stays flat."""


@dataclass(frozen=True)
class Outcome:
    """What many candidates come to, arrays (candidates, cases): temperature that margins are taken from [K], the
    steady state's or that at the end of a timed case, inf where there is neither; margin below the limit [K],
    -inf there; fan duty [-], air [m³/s] and coolant [m³/s] of the steady state."""

    hot: FloatArray
    margin: FloatArray
    duty: FloatArray
    air_flow: FloatArray
    coolant_flow: FloatArray


def outcome(system: System, cases: Cases) -> Outcome:
    """Solve candidates in one go; ``outcomes`` does it for very many."""
    boils = limits.boiling_temperature(system, cases, system.cap.holds)
    limit = limits.limit_temperature(system, boils)
    shape = np.broadcast_shapes(np.shape(limit), shape_of(system), np.shape(cases.ambient))
    limit = np.broadcast_to(limit, shape)
    state = steady_state(system, cases, limit)
    hot = reached(state, timed.estimate(system, cases, limit), np.inf)
    margin = np.asarray(limit - hot)
    flow = state.shed.coolant.volume_flow
    return Outcome(hot, margin, state.duty, state.air_flow, flow)


def outcomes(
    system: System,
    cases: Cases,
    workers: int | None = None,
    proceed: Callable[[float], bool] = lambda _share: True,
) -> Outcome | None:
    """Every candidate in every case; None if ``proceed`` said to stop.

    Parameters
    ----------
    system : fields of shape () or (candidates, 1).
    workers : threads, as many as there are cores if None; NumPy lets them run side by side.
    proceed : called with the share that is done [-] as chunks end.

    Raises
    ------
    DomainError
        If a part or a case lies outside what is possible.
    """
    cases, system = cases.checked(), system.checked()
    candidates, count = (shape_of(system) or (1,))[0], np.size(cases.ambient)
    step = max(CHUNK_ELEMENTS // count, 1)
    firsts = range(0, candidates, step)
    out: Outcome | None = None
    stopped = False

    def chunk(first: int) -> tuple[int, Outcome | None]:
        if stopped:
            return first, None
        return first, outcome(part_of(system, slice(first, first + step)), cases)

    with ThreadPoolExecutor(workers or os.cpu_count() or 1) as pool:
        for done, (first, part) in enumerate(pool.map(chunk, firsts)):
            if part is None:
                continue
            if out is None:
                out = _room(part, (candidates, count))
            for field in fields(Outcome):
                getattr(out, field.name)[first : first + step] = getattr(part, field.name)
            stopped = stopped or not proceed((done + 1) / len(firsts))
    return None if stopped else out


def _room(like: Outcome, shape: tuple[int, ...]) -> Outcome:
    return Outcome(*(np.empty(shape, getattr(like, f.name).dtype) for f in fields(Outcome)))
