"""What a first run after filling should look like on this very car: driven at idle in the model, from cold."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from ebbrin.core.base import BoolArray, go_on, require
from ebbrin.core.drive.events import EventKind, events
from ebbrin.core.drive.legs import Legs, drive_legs
from ebbrin.core.drive.plant import plant_of
from ebbrin.core.drive.run import Course
from ebbrin.core.media.coolants import properties
from ebbrin.core.records import candidates_at
from ebbrin.core.studies.chance import Unknown, applied
from ebbrin.core.studies.draws import places
from ebbrin.core.system.parts import Cases, System

WARM_HOSE = 318.15  # choice: a hose is warm to the hand from 45 °C, K
SAFE_TEMPERATURE = 323.15  # common practice: a cap is touched below 50 °C, K
SAFE_PRESSURE = 3000.0  # choice: what hisses no more, Pa
OTHERS, SEED = 8, 11
"""Other cars that could be this one, by what is guessed of it (choice); the band is theirs and its own."""
TRAPPED = (0.02, 0.06)
"""Choice: share of the fill that is still air while the thermostat is shut; half a litre for a middling car is
common practice."""
RUN = 5400.0  # s
STANDS = 6.0 * 3600.0  # s
STEP, OTHERS_STEP, COOLING_STEP = 0.25, 1.0, 1.0
"""Steps [s] of the car's own run, of those of the others, which say how far apart it may come about (within 5 s of what
shorter steps come to, in half an hour and more), and of what cools."""


@dataclass(frozen=True)
class Band:
    """What is likely, with the lowest and highest of the cars that it could be."""

    likely: float
    low: float
    high: float


@dataclass(frozen=True)
class Expected:
    """What a run at one engine speed with the cap off comes to, each None where it does not come about within RUN.

    Seconds from the start until the upper hose is warm, the thermostat opens, the lower hose is warm, the fan comes on
    and goes off again; coolant that goes in once the thermostat has opened [m³]; temperature at which it settles [K];
    whether it boils with the cap off."""

    upper_warm: Band | None
    opens: Band | None
    lower_warm: Band | None
    fan_on: Band | None
    fan_off: Band | None
    tops_up: Band
    hottest: Band
    boils_open: bool


@dataclass(frozen=True)
class SecondCycle:
    """A run under the cap, then the engine off: gauge pressure reached, hottest while it runs, and hottest of all, for heat
    goes on into standing coolant [Pa, K]; and seconds until the cap may be touched, None where STANDS is not long enough."""

    pressure: float
    running: float
    hottest: float
    safe_after: float | None


def idling(ambient: float, altitude: float, rotation: float) -> Cases:
    """A car that stands and whose engine turns at ``rotation`` [rev/s], as one case."""
    return Cases(
        ambient=np.full(1, ambient),
        altitude=np.full(1, altitude),
        speed=np.zeros(1),
        headwind=np.zeros(1),
        gradient=np.zeros(1),
        acceleration=np.zeros(1),
        crank_speed=np.full(1, rotation),
        given_power=np.zeros(1),
        power_is_given=np.zeros(1, bool),
        shaft_power=np.zeros(1),
        towing=np.zeros(1),
        air_conditioning=np.zeros(1, bool),
        heater=np.zeros(1, bool),
        duration=np.full(1, np.inf),
        start=np.full(1, np.nan),
    ).checked()


def filling_run(
    system: System, ambient: float, altitude: float, rotation: float, step: float = STEP
) -> Course:
    """The course of the first run: from cold, heater open but its blower off, cap off, at one engine speed.

    Raises
    ------
    DomainError
        If the parts make no system.
    """
    opened = replace(system, cap=replace(system.cap, pressure=np.asarray(0.0)))
    points = idling(ambient, altitude, rotation)
    return drive_legs(opened, Legs(points, np.array([RUN]), np.array([True])), ambient, (), step)


def expected(
    system: System, unknowns: Sequence[Unknown], ambient: float, altitude: float, rotation: float
) -> Expected:
    """What the first run should look like.

    Parameters
    ----------
    system : of one car (fields of shape ()).
    unknowns : what is guessed of it.
    ambient, altitude, rotation : air of the day [K], height [m], engine speed [rev/s].

    Raises
    ------
    DomainError
    """
    require("engine speed", rotation, 5.0, 60.0, "rev/s")
    own = filling_run(system, ambient, altitude, rotation)
    runs = [_read(system, own)]
    for row in places(len(unknowns), OTHERS, SEED):
        go_on()
        other = candidates_at(applied(system, unknowns, row[None, None]), np.asarray(0))
        runs.append(_read(other, filling_run(other, ambient, altitude, rotation, OTHERS_STEP)))
    when = {name: _band([getattr(run, name) for run in runs]) for name in _TIMES}
    hottest = [run.hottest for run in runs]
    return Expected(
        **when,
        tops_up=_tops_up(system, own, runs[0].opens),
        hottest=Band(hottest[0], min(hottest), max(hottest)),
        boils_open=runs[0].boils,
    )


class FirstRun(NamedTuple):
    """Times of one run [s], None where it does not come to it; hottest [K]; whether it boils."""

    upper_warm: float | None
    opens: float | None
    lower_warm: float | None
    fan_on: float | None
    fan_off: float | None
    hottest: float
    boils: bool


_TIMES = ("upper_warm", "opens", "lower_warm", "fan_on", "fan_off")


def _read(system: System, course: Course) -> FirstRun:
    happened = events(course, float(system.limits.top_hose))
    # A driven fan turns with the engine: it neither comes on nor goes off.
    switched = bool(system.air.fan.fitted) and not bool(system.air.fan.mechanical)

    def first(kind: EventKind) -> float | None:
        return next((event.time for event in happened if event.kind is kind), None)

    return FirstRun(
        _first(course, course.top_hose >= WARM_HOSE),
        first(EventKind.THERMOSTAT_OPENS),
        _first(course, course.bottom_hose >= WARM_HOSE),
        first(EventKind.FAN_ON) if switched else None,
        first(EventKind.FAN_OFF) if switched else None,
        float(course.engine_out.max()),
        first(EventKind.BOILS) is not None,
    )


def first_run(system: System, ambient: float, altitude: float, rotation: float) -> FirstRun:
    """The first run of the car itself, without the others that it could be. Arguments as of ``expected``.

    Raises
    ------
    DomainError
    """
    return _read(system, filling_run(system, ambient, altitude, rotation))


def _first(course: Course, state: BoolArray) -> float | None:
    at = np.flatnonzero(state)
    return float(course.time[at[0]]) if at.size else None


def _band(times: list[float | None]) -> Band | None:
    """None where the car itself does not come to it; a car that could be it and does not counts as late as the run."""
    likely = times[0]
    if likely is None:
        return None
    all_of_them = [RUN if time is None else time for time in times]
    return Band(likely, min(all_of_them), max(all_of_them))


def _tops_up(system: System, course: Course, opens: float | None) -> Band:
    """The air behind a shut thermostat, less what the coolant has grown by the time it goes out [m³]."""
    volume, filled = float(system.coolant_volume), plant_of(system).filled_density
    at = len(course.time) - 1 if opens is None else int(np.searchsorted(course.time, opens))
    # Engine and heater are hot by then, radiator and hoses as the course has them.
    where = np.array([course.engine_out[at], course.bottom_hose[at]])
    shares = np.array([plant_of(system).in_engine, 1.0 - plant_of(system).in_engine])
    grown = volume * float(shares @ (filled / properties(system.coolant, where).density - 1.0))
    low, high = (max(share * volume - grown, 0.0) for share in TRAPPED)
    return Band(0.5 * (low + high), low, high)


def second_cycle(system: System, ambient: float, altitude: float, rotation: float) -> SecondCycle:
    """A run under the cap until it has settled, then the engine off until the cap may be touched.

    Raises
    ------
    DomainError
    """
    points = idling(ambient, altitude, rotation)
    both = Legs(points.taken(np.zeros(2, np.int64)), np.array([RUN, STANDS]), np.array([True, False]))
    course = drive_legs(system, both, ambient, (), COOLING_STEP)
    running = course.time <= RUN
    safe = (course.engine_out <= SAFE_TEMPERATURE) & (course.pressure <= SAFE_PRESSURE) & ~running
    after = _first(course, safe)
    return SecondCycle(
        float(course.pressure[running].max()),
        float(course.engine_out[running].max()),
        float(course.engine_out.max()),
        None if after is None else after - RUN,
    )
