"""This very car as a witness: driven over the standard round with each fault, what would be seen becomes what a cause is
known by. Where the model has nothing to say the table's word stands."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.cause.network import STORY_WEIGHT, Network
from ebbrin.core.cause.reading import Car, Readings, fall_in_queue, readings
from ebbrin.core.cause.standard_round import ROUND, Part, standard_round
from ebbrin.core.cause.tables import CAUSES, OBSERVATIONS
from ebbrin.core.drive.faults import FAULTS, all_possible
from ebbrin.core.drive.legs import Trouble, drive_legs, drive_many
from ebbrin.core.drive.plant import plant_of
from ebbrin.core.drive.run import Course
from ebbrin.core.records import candidates_at
from ebbrin.core.studies.chance import Unknown, applied
from ebbrin.core.studies.draws import places
from ebbrin.core.system.parts import System

OWN_SEVERITIES, MIDDLE = (0.25, 1.0), 0.6
GUESSES = 2
"""A fault that can be more or less is driven at three severities: mild and at its worst on the car as it most likely is,
halfway on so many other cars that could be it, by what is guessed of it (choices)."""
SEED = 7
STEP = 0.5
"""s; what is read of a round stays what it is with a quarter of that, but for cars that hunt, of which an eighth tells other
things than a quarter, too."""
TABLE_COUNTS_AS = 2.0
"""The table's word weighs as much as so many drives (choice): the road is not always the standard round."""
UNSEEN = {"hoses_by_hand": ("lower_sucked_flat",)}
"""Values that no drive can show, because it knows no such state."""
HEALTHY_SHARE = 0.5
"""How much of a story's usual shares are those of this car sound (choice): one that gets hot uphill as it is gets hot
uphill whatever else is wrong."""


@dataclass(frozen=True)
class Testimony:
    """What the drives with one fault showed: mean shares of values over those that showed any, with how many of
    ``drives`` those were; hottest at its worst [K], in which part of the round and how many seconds into it the
    limit was passed, None where it was not, and after how many seconds driving off brought it back; fall, how much cooler
    the lower hose is than the upper at the end of a queue [K], None where none was got through."""

    drives: int
    shares: Readings
    shown_by: dict[str, int]
    hottest: float
    passed_in: Part | None
    passed_after: float
    back_after: float | None
    fall: float | None


@dataclass(frozen=True)
class Witness:
    """What a car says of each fault that it can have, and of itself when sound ("")."""

    said: dict[str, Testimony]
    drives: int
    limit: float


def witness_of(
    system: System, unknowns: Sequence[Unknown], ambient: float, altitude: float, seed: int = SEED
) -> Witness:
    """Drive one system (fields of shape ()) with every fault that it can have, mild and at its worst, and GUESSES more
    cars that could be it, halfway.

    Parameters
    ----------
    unknowns : what is guessed of the system.
    ambient, altitude : of its site [K, m].

    Raises
    ------
    DomainError
        If the system cannot be driven.
    """
    names = all_possible(system)
    of_itself = [
        ("", 0.0),
        *((n, s) for n in names for s in (OWN_SEVERITIES if FAULTS[n].graded else (1.0,))),
    ]
    of_others = [("", 0.0), *((n, MIDDLE if FAULTS[n].graded else 1.0) for n in names)]
    at = places(len(unknowns), GUESSES, seed)
    cars = [(system, of_itself)]
    for row in range(GUESSES):
        other = candidates_at(applied(system, unknowns, at[row : row + 1, None]), np.asarray(0))
        cars.append((other, of_others))
    found: dict[str, list[_Driven]] = {name: [] for name in ("", *names)}
    for car, asked in cars:
        for (name, _), driven in zip(asked, _drive(car, asked, ambient, altitude), strict=True):
            found[name].append(driven)
    limit = float(system.limits.top_hose)
    # Of the car itself as it most likely is, at its worst: the last of its own drives.
    own = {name: sum(n == name for n, _ in of_itself) for name in found}
    said = {name: _testimony(drives, drives[own[name] - 1]) for name, drives in found.items()}
    return Witness(said, sum(len(drives) for drives in found.values()), limit)


JUST_WELL = 3.0  # K below its limit
COLDEST = 253.15  # K
DAYS_TRIED = 4


def day_of(system: System, ambient: float, altitude: float) -> float:
    """The outside air [K] in which a sound system (fields of shape ()) just stays below its limit on the round, from
    COLDEST to that of its site.

    People come with a complaint on a day on which their car gets too hot. On a day that is too hot for the
    sound car its own weakness would speak for everything alike.

    Parameters
    ----------
    ambient : of its site [K].
    """
    limit = float(system.limits.top_hose) - JUST_WELL
    day = max(ambient, COLDEST)
    for _ in range(DAYS_TRIED):
        course = drive_legs(system, standard_round(system, day, altitude), day, step=STEP)
        hotter = float(course.engine_out.max()) - limit
        day = min(max(day - hotter, COLDEST), max(ambient, COLDEST))
        if abs(hotter) < 1.0:
            break
    return day


def seen_with(
    system: System, faults: Sequence[str], ambient: float, altitude: float, severity: float = 1.0
) -> dict[str, Readings]:
    """What a driver would see of one system (fields of shape ()) with each of some faults. Raises as ``witness_of``."""
    driven = _drive(system, [(name, severity) for name in faults], ambient, altitude)
    return {name: one.shares for name, one in zip(faults, driven, strict=True)}


def seen_together(
    system: System, severities: Mapping[str, float], ambient: float, altitude: float
) -> Readings:
    """What a driver would see of one system (fields of shape ()) with several faults at once, by their severities [-].
    Raises as ``witness_of``."""
    troubles = [Trouble(name, severity) for name, severity in severities.items()]
    day = day_of(system, ambient, altitude)
    course = drive_legs(system, standard_round(system, day, altitude), day, troubles, STEP)
    return readings(course, _car(system, day))


@dataclass(frozen=True)
class _Driven:
    shares: Readings
    hottest: float
    fall: float | None
    passed_in: Part | None
    passed_after: float
    back_after: float | None


def _drive(system: System, asked: list[tuple[str, float]], ambient: float, altitude: float) -> list[_Driven]:
    ambient = day_of(system, ambient, altitude)
    car = _car(system, ambient)
    legs = standard_round(system, ambient, altitude)
    troubles = [[Trouble(name, severity)] if name else [] for name, severity in asked]
    return drive_many(system, legs, ambient, troubles, lambda _, course: _seen(course, car), STEP)


def _car(system: System, ambient: float) -> Car:
    fan = system.air.fan
    return Car(
        limit=float(system.limits.top_hose),
        opens=float(system.circuit.thermostat.opens),
        fan_on=float(system.fan_switch.on),
        electric_fan=bool(fan.fitted) and not bool(fan.mechanical),
        heater=float(system.circuit.heater.conductance) > 0.0,
        ambient=ambient,
        density=plant_of(system).filled_density,
    )


def _seen(course: Course, car: Car) -> _Driven:
    top, limit = course.engine_out, car.limit
    fall = fall_in_queue(course)
    over = np.flatnonzero(top > limit)
    if not over.size:
        return _Driven(readings(course, car), float(top.max()), fall, None, 0.0, None)
    begins = np.cumsum([0.0, *(piece.seconds for piece in ROUND)])
    passed = float(course.time[over[0]])
    leg = min(int(np.searchsorted(begins, passed, side="left")) - 1, len(ROUND) - 1)
    away = [piece.part for piece in ROUND].index("drive_off")
    driving = (course.time > begins[away]) & (course.time <= begins[away + 1])
    back = None
    if driving.any() and top[driving][0] > limit and (top[driving] < limit).any():
        back = float(course.time[driving][np.argmax(top[driving] < limit)] - begins[away])
    first = ROUND[leg].part
    since = begins[[piece.part for piece in ROUND].index(first)]
    return _Driven(readings(course, car), float(top.max()), fall, first, passed - float(since), back)


def _testimony(drives: list[_Driven], worst: _Driven) -> Testimony:
    names = {name for driven in drives for name in driven.shares}
    by = {name: [d.shares[name] for d in drives if name in d.shares] for name in names}
    return Testimony(
        drives=len(drives),
        shares={name: np.mean(shares, axis=0) for name, shares in by.items()},
        shown_by={name: len(shares) for name, shares in by.items()},
        hottest=max(driven.hottest for driven in drives),
        passed_in=worst.passed_in,
        passed_after=worst.passed_after,
        back_after=worst.back_after,
        fall=worst.fall,
    )


def with_witness(table: Network, witness: Witness) -> tuple[Network, frozenset[tuple[str, str]]]:
    """The table's network with what this car says put in its place, and the (cause, observation) pairs of which the
    car speaks."""
    shows = [shown.copy() for shown in table.shows]
    base = list(table.base)
    healthy = witness.said[""]
    spoken: set[tuple[str, str]] = set()
    for number, name in enumerate(table.observations):
        if table.story[number] and name in healthy.shares and name != "complaint":
            base[number] = (1.0 - HEALTHY_SHARE) * base[number] + HEALTHY_SHARE * healthy.shares[name]
        for c, cause in enumerate(table.causes):
            said = witness.said.get(CAUSES[cause].drive_fault) if CAUSES[cause].drive_fault else None
            if said is None or 2 * said.shown_by.get(name, 0) < said.drives:
                continue
            seen, drives = said.shares[name], said.shown_by[name]
            by_table = _alone(table, number, c)
            wanted = (drives * seen + TABLE_COUNTS_AS * by_table) / (drives + TABLE_COUNTS_AS)
            row = _shows(wanted, base[number], table.story[number])
            for value in UNSEEN.get(name, ()):
                at = OBSERVATIONS[name].telling.index(value)
                row[at] = table.shows[number][c, at]
            shows[number][c] = row
            spoken.add((cause, name))
    return replace(table, base=tuple(base), shows=tuple(shows)), frozenset(spoken)


def _alone(network: Network, observation: int, cause: int) -> FloatArray:
    """(V,) shares of an observation's values where one cause alone is there."""
    shown, base = network.shows[observation][cause], network.base[observation]
    if network.story[observation]:
        weights = base + STORY_WEIGHT * shown
    else:
        weights = 1.0 - (1.0 - base) * (1.0 - shown)
        weights[0] *= (1.0 - shown[1:]).prod()
    return np.asarray(weights / weights.sum())


MOST_SURE = 0.98


def _shows(wanted: FloatArray, base: FloatArray, story: bool) -> FloatArray:
    """(V,) how surely a cause shows each value, so that alone it shows about the shares ``wanted``."""
    if story:
        whole = 1.0 + STORY_WEIGHT * MOST_SURE
        return np.asarray(np.clip((wanted * whole - base) / STORY_WEIGHT, 0.0, MOST_SURE))
    found = np.clip((wanted - base) / np.maximum(1.0 - base, 1e-9), 0.0, MOST_SURE)
    found[0] = 0.0
    return np.asarray(found)
