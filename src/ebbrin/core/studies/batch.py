"""Very many candidates at once: in chunks that fit the processor's cache, over several cores."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack
from dataclasses import dataclass, fields

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.compiled import on_one_core
from ebbrin.core.records import Record, part_of
from ebbrin.core.studies.chance import spare
from ebbrin.core.system import limits, timed
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import judged_by

CHUNK_ELEMENTS, LEAST_ELEMENTS = 8000, 800
"""Candidates times cases in one solve: at most, so that memory stays flat, and at least, so that threads are worth it."""


@dataclass(frozen=True)
class Outcome:
    """What many candidates come to, arrays (candidates, cases): temperature that margins are taken from [K], the
    steady state's or that at the end of a timed case, inf where there is neither; margin below the limit [K],
    -inf there."""

    hot: FloatArray
    margin: FloatArray


def outcome(system: System, cases: Cases) -> Outcome:
    """Solve candidates in one go; ``outcomes`` does it for very many. A timed case is driven to its end and no further,
    and what it would settle at is not asked."""
    boils = limits.boiling_temperature(system, cases, system.cap.holds)
    shape = np.broadcast_shapes(np.shape(boils), system.lead, cases.lead)
    limit = np.broadcast_to(limits.limit_temperature(system, boils), shape)
    runs = np.isfinite(cases.duration)
    hot = np.empty(shape)
    for which, asked in ((np.flatnonzero(~runs), judged_by), (np.flatnonzero(runs), timed.end_of)):
        if which.size:
            hot[..., which] = asked(system, cases.taken(which), limit[..., which])
    return Outcome(hot, np.asarray(limit - hot))


@dataclass(frozen=True)
class Left:
    """What is left at each case's limit temperature, (candidates, cases) [-], as chance.spare has it."""

    spare: FloatArray


def left(system: System, cases: Cases) -> Left:
    """Look at candidates at their limits in one go."""
    return Left(np.asarray(spare(system, cases)))


def outcomes(
    system: System,
    cases: Cases,
    workers: int | None = None,
    proceed: Callable[[float], bool] = lambda _share: True,
) -> Outcome | None:
    """Every candidate in every case, solved; as ``in_chunks``."""
    return in_chunks(outcome, system, cases, workers, proceed)


def in_chunks(
    solve: Callable[[System, Cases], Record],
    system: System,
    cases: Cases,
    workers: int | None = None,
    proceed: Callable[[float], bool] = lambda _share: True,
) -> Record | None:
    """What ``solve`` makes of every candidate in every case; None if ``proceed`` said to stop.

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
    candidates, count = (system.lead or (1,))[0], np.size(cases.ambient)
    threads = workers or os.cpu_count() or 1
    # No more in one go than memory holds well, and something for each thread; a little is spread by the loop itself.
    step = max(min(CHUNK_ELEMENTS // count, -(-candidates // threads)), LEAST_ELEMENTS // count, 1)
    firsts = range(0, candidates, step)
    out: Record | None = None
    stopped = False

    def chunk(first: int) -> tuple[int, Record | None]:
        if stopped:
            return first, None
        with on_one_core():
            return first, solve(part_of(system, slice(first, first + step)), cases)

    with ExitStack() as opened:
        parts: Iterator[tuple[int, Record | None]]
        if len(firsts) == 1:
            parts = iter([(0, solve(system, cases))])
        else:
            parts = opened.enter_context(ThreadPoolExecutor(threads)).map(chunk, firsts)
        for done, (first, part) in enumerate(parts):
            if part is None:
                continue
            if out is None:
                out = _room(part, (candidates, count))
            for field in fields(part):  # type: ignore[arg-type]
                getattr(out, field.name)[first : first + step] = getattr(part, field.name)
            stopped = stopped or not proceed((done + 1) / len(firsts))
    return None if stopped else out


def _room(like: Record, shape: tuple[int, ...]) -> Record:
    names = [f.name for f in fields(like)]  # type: ignore[arg-type]
    return type(like)(*(np.empty(shape, getattr(like, name).dtype) for name in names))
