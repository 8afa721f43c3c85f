"""A drive as a list of legs: their operating points, with the faults that are there in each, and the march."""

from __future__ import annotations

import os
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, fields, replace
from typing import Any, TypeVar

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, IntArray, go_on, still_wanted
from ebbrin.core.compiled import on_one_core
from ebbrin.core.drive.controls import free, joined
from ebbrin.core.drive.faults import FAULTS, broken
from ebbrin.core.drive.maps import Maps, maps
from ebbrin.core.drive.places import Places, places
from ebbrin.core.drive.plant import plant_of
from ebbrin.core.drive.run import STEP, Course, drive
from ebbrin.core.system.balance import road_power
from ebbrin.core.system.parts import Cases, System

T = TypeVar("T")
SHARED = ("stages", "heat_capacity", "density", "place", "air")


@dataclass(frozen=True)
class Legs:
    """Legs of a drive, one after another: operating point of each as cases (legs,), how long it lasts [s], and
    whether the engine runs. Where ``shared``, points that lie close share one working-out of the components, as the
    many rows of a recording must."""

    points: Cases
    duration: FloatArray
    running: BoolArray
    shared: bool = False


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

    The components are worked out once for each leg under each set of faults that it meets. A fault that is there
    throughout counts from the start, whenever it is said to begin.

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
    grouped = _grouped(system, legs)
    sound = maps(system, legs.points, legs.running, grouped, _coldest(legs, start))
    return _driven(system, legs, start, troubles, step, grouped, sound)


def _coldest(legs: Legs, start: float) -> float:
    """Below which nothing of a drive falls: the coldest air, or where it starts [K]."""
    return min(float(np.min(legs.points.ambient)), start)


def _grouped(system: System, legs: Legs) -> Places | None:
    """How points share places, if they do. Whatever breaks moves the car as before, so it holds with any fault."""
    return places(legs.points, legs.running, road_power(system, legs.points)) if legs.shared else None


def _driven(
    system: System,
    legs: Legs,
    start: float,
    troubles: Sequence[Trouble],
    step: float,
    grouped: Places | None,
    sound: Maps,
) -> Course:
    """A drive whose places, and components without a fault, are known."""
    throughout = {t.fault: t.severity for t in troubles if t.fault in FAULTS and FAULTS[t.fault].throughout}
    if throughout:
        troubles = [t for t in troubles if t.fault not in throughout]
        system, _ = broken(system, free(1, 0.0), throughout)
        sound = maps(system, legs.points, legs.running, grouped, _coldest(legs, start), sound.air)
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
    made, held, point, count = [], [], np.zeros(len(times), np.int64), 0
    which = np.broadcast_to(np.reshape(which, -1), leg.shape)
    for n, present in enumerate(sets):
        faults = {t.fault: t.severity for t, is_here in zip(troubles, present, strict=True) if is_here}
        met = np.unique(leg[which == n])
        changed, controls = broken(system, free(len(met), float(system.cap.pressure)), faults)
        if changed is not system:
            part, its_places, places_met = _some(legs, grouped, met)
            like = replace(
                sound.air,
                velocity=sound.air.velocity[..., places_met, :],
                mean=sound.air.mean[..., places_met, :],
            )
            made.append(maps(changed, part.points, part.running, its_places, _coldest(legs, start), like))
        else:
            # What breaks in the controls alone leaves the components as they are.
            made.append(sound)
            met = np.arange(len(legs.duration))
            _, controls = broken(system, free(len(met), float(system.cap.pressure)), faults)
        held.append(controls)
        point[which == n] = count + np.searchsorted(met, leg[which == n])
        count += len(met)
    return drive(_joined(made), plant_of(system), joined(held), point, start, step)


def _some(legs: Legs, grouped: Places | None, met: IntArray) -> tuple[Legs, Places | None, IntArray]:
    """Some of the legs, by their indices, with the places that they stand at; and those places' indices."""
    part = replace(
        legs, points=legs.points.taken(met), duration=legs.duration[met], running=legs.running[met]
    )
    if grouped is None:
        return part, None, met
    places_met, of = np.unique(grouped.of[met], return_inverse=True)
    running = np.asarray(grouped.running)[places_met]
    return part, Places(of, grouped.points.taken(places_met), running), places_met


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
    grouped = _grouped(system, legs)
    sound = maps(system, legs.points, legs.running, grouped, _coldest(legs, start))
    wanted = still_wanted.get()

    def one(number: int) -> T:
        still_wanted.set(wanted)  # each thread has its own
        go_on()
        with on_one_core():
            return of(number, _driven(system, legs, start, troubles[number], step, grouped, sound))

    with ThreadPoolExecutor(os.cpu_count() or 1) as pool:
        return list(pool.map(one, range(len(troubles))))


def _joined(parts: list[Maps]) -> Maps:
    """Maps of several sets of points, one after another; coolant and stages are those of the first."""
    offsets = np.cumsum([0, *(part.segment.shape[-1] for part in parts)])
    values: dict[str, Any] = {
        f.name: np.concatenate([getattr(part, f.name) for part in parts], axis=-1)
        for f in fields(Maps)
        if f.name not in SHARED
    }
    values["place"] = np.concatenate([part.place + n for part, n in zip(parts, offsets, strict=False)])
    return replace(parts[0], **values)
