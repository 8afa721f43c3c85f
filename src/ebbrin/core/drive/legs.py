"""A drive as a list of legs: their operating points, with the faults that are there in each, and the march."""

from __future__ import annotations

import os
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import TypeVar

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, go_on, still_wanted
from ebbrin.core.compiled import on_one_core
from ebbrin.core.drive.controls import free, joined
from ebbrin.core.drive.faults import FAULTS, broken
from ebbrin.core.drive.plant import plant_of
from ebbrin.core.drive.run import STEP, Course, drive
from ebbrin.core.system.parts import Cases, System

T = TypeVar("T")


@dataclass(frozen=True)
class Legs:
    """Legs of a drive, one after another: operating point of each as cases (legs,), how long it lasts [s], and
    whether the engine runs."""

    points: Cases
    duration: FloatArray
    running: BoolArray


@dataclass(frozen=True)
class Trouble:
    """A fault by name, its severity [-], and from when to when it is there [s]."""

    fault: str
    severity: float = 1.0
    since: float = 0.0
    until: float = float("inf")


def drive_legs(
    system: System, legs: Legs, start: float, troubles: Sequence[Trouble] = (), step: float = STEP
) -> Course:
    """The course of one system (fields of shape ()) over legs, with faults that come and go.

    A fault that is there throughout counts from the start, whenever it is said to begin.

    Parameters
    ----------
    start : temperature of everything when it begins [K].

    Raises
    ------
    KeyError
        If there is no such fault.
    DomainError
        If a part, a leg or a severity lies outside what is possible.
    """
    throughout = {t.fault: t.severity for t in troubles if t.fault in FAULTS and FAULTS[t.fault].throughout}
    if throughout:
        troubles = [t for t in troubles if t.fault not in throughout]
        system, _ = broken(system, free(1, 0.0), throughout)
    ends = np.cumsum(legs.duration)
    times = (np.arange(int(round(float(ends[-1]) / step))) + 0.5) * step
    leg = np.minimum(np.searchsorted(ends, times, side="right"), len(ends) - 1)
    here = np.array([(times >= t.since) & (times < t.until) for t in troubles]).reshape(
        len(troubles), len(times)
    )
    # Most often all are there all the time; to sort the steps costs as much as to march through them.
    if here.all():
        sets, which = here[:, :1].T, np.zeros(1, np.int64)
    else:
        number = np.zeros(len(times), np.int64)
        for one in here:
            # A number for each set: doubled for each trouble, and small again before the next.
            number = np.unique(2 * number + one, return_inverse=True)[1]
        _, first, which = np.unique(number, return_index=True, return_inverse=True)
        sets = here[:, first].T
    states, held = [], []
    for present in sets:
        faults = {t.fault: t.severity for t, is_here in zip(troubles, present, strict=True) if is_here}
        changed, controls = broken(system, free(1, float(system.cap.holds)), faults)
        states.append(changed)
        held.append(controls)
    state = np.broadcast_to(np.reshape(which, -1), leg.shape)
    return drive(states, legs.points, legs.running, plant_of(system), joined(held), leg, state, start, step)


def drive_many(
    system: System,
    legs: Legs,
    start: float,
    troubles: Sequence[Sequence[Trouble]],
    of: Callable[[int, Course], T],
    step: float = STEP,
) -> list[T]:
    """The same drive with each of several sets of faults, over several cores: what ``of`` makes of each set's
    number and course, which is not kept. Raises as ``drive_legs`` does."""
    wanted = still_wanted.get()

    def one(number: int) -> T:
        still_wanted.set(wanted)  # each thread has its own
        go_on()
        with on_one_core():
            return of(number, drive_legs(system, legs, start, troubles[number], step))

    with ThreadPoolExecutor(os.cpu_count() or 1) as pool:
        return list(pool.map(one, range(len(troubles))))
