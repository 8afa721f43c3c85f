"""What happens in a drive, read off its course."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum

import numpy as np

from ebbrin.core.base import BoolArray
from ebbrin.core.drive.march import LEAST_FILL
from ebbrin.core.drive.run import Course

CAP_LIFTS = 0.999  # share of the cap's pressure at which it counts as lifting
QUIET = 5.0  # choice: what begins again within this time of its end has gone on, s


class EventKind(IntEnum):
    """What happens. Steam stands in the coolant where it is hotter than its pressure would allow while the cap is
    still shut; it boils once the cap lifts; it runs low once the pump begins to draw air, and dry where that ends the
    drive; it is over its rating where its pressure passes what the weakest part stands."""

    THERMOSTAT_OPENS = 0
    THERMOSTAT_WIDE_OPEN = 1
    THERMOSTAT_SHUTS = 2
    FAN_ON = 3
    FAN_OFF = 4
    LIMIT_PASSED = 5
    BACK_BELOW_LIMIT = 6
    CAP_LIFTS = 7
    STEAM_IN_ENGINE = 8
    BOILS = 9
    RUNS_LOW = 10
    OVER_RATING = 11
    RUNS_DRY = 12


@dataclass(frozen=True)
class Event:
    """One event: when [s], and the coolant leaving the engine then [K]."""

    time: float
    kind: EventKind
    engine_out: float


def events(course: Course, limit: float, rating: float = np.inf) -> list[Event]:
    """Events of a drive in their order.

    Parameters
    ----------
    limit : highest allowed temperature at the engine's outlet [K].
    rating : gauge pressure that the weakest part stands [Pa].
    """
    on = course.stage > 0
    lifting = course.pressure >= CAP_LIFTS * course.cap
    at_boiling = course.boiling_margin <= 1e-6
    hot = course.engine_out > limit
    states: list[tuple[BoolArray, EventKind, EventKind | None]] = [
        (course.lift > 0.0, EventKind.THERMOSTAT_OPENS, EventKind.THERMOSTAT_SHUTS),
        (course.lift >= 1.0, EventKind.THERMOSTAT_WIDE_OPEN, None),
        (on, EventKind.FAN_ON, EventKind.FAN_OFF),
        (hot, EventKind.LIMIT_PASSED, EventKind.BACK_BELOW_LIMIT),
        (at_boiling & ~lifting, EventKind.STEAM_IN_ENGINE, None),
        (at_boiling & lifting, EventKind.BOILS, None),
        (course.mass < LEAST_FILL * course.full, EventKind.RUNS_LOW, None),
        (course.pressure > rating, EventKind.OVER_RATING, None),
        (lifting & (course.cap > 0.0), EventKind.CAP_LIFTS, None),
    ]
    found = [event for state, rises, falls in states for event in _changes(course, state, rises, falls)]
    if course.runs_dry:
        found.append(Event(float(course.time[-1]), EventKind.RUNS_DRY, float(course.engine_out[-1])))
    return sorted(found, key=lambda event: event.time)


def _changes(course: Course, state: BoolArray, rises: EventKind, falls: EventKind | None) -> list[Event]:
    before = np.concatenate([[False], state[:-1]])
    found: list[tuple[EventKind | None, Event]] = []
    for i in np.flatnonzero(state != before):
        time = float(course.time[i])
        if state[i] and found and time - found[-1][1].time <= QUIET:
            found.pop()  # it went on: neither its end nor this beginning is told
            continue
        kind = rises if state[i] else falls
        found.append((kind, Event(time, rises if kind is None else kind, float(course.engine_out[i]))))
    return [event for kind, event in found if kind is not None]


def time_to(course: Course, temperature: float) -> float:
    """When the coolant leaving the engine first passes a temperature [s]; inf where it never does."""
    above = np.flatnonzero(course.engine_out > temperature)
    return float(course.time[int(above[0])]) if len(above) else float("inf")
