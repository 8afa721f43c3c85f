"""Drive a build over time, with whatever breaks on the way."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.bridge.units import celsius, kelvin
from ebbrin.build.build import Build
from ebbrin.build.case import Case
from ebbrin.build.drive import MOST_SECONDS, Drive
from ebbrin.build.resolve import Assumed, resolve
from ebbrin.core.drive.events import Event, EventKind, events, time_to
from ebbrin.core.drive.faults import FAULTS, all_possible
from ebbrin.core.drive.legs import Legs, Trouble, drive_legs, drive_many
from ebbrin.core.drive.plant import plant_of
from ebbrin.core.drive.run import Course
from ebbrin.core.media.coolants import Coolant
from ebbrin.core.system.parts import System
from ebbrin.features.drive import course_csv as form
from ebbrin.features.drive import words
from ebbrin.features.drive.answers import (
    DriveCourse,
    DriveEvent,
    DriveQuestion,
    EventName,
    FaultOutcome,
    LegSummary,
)
from ebbrin.features.drive.from_core import course_points, litres, thinned
from ebbrin.features.drive.recording import Recording, legs_from
from ebbrin.ground.errors import EbbrinError
from ebbrin.ground.paths import parts_of
from ebbrin.ground.words import Text, printed

MOST_ROWS_OF_EACH = 4000
"""Rows of a recording over which every fault is driven: an hour at one a second."""
HALF = 0.5
"""How bad a fault is taken to be that there can be more or less of, where all are driven."""


@dataclass(frozen=True)
class Begun:
    """A leg's name, the case of the build that it is if it is one, and when it begins [s]."""

    name: str
    case_id: str | None
    begins: float


@dataclass(frozen=True)
class Driven:
    """A course of the core with what it takes to say it: limit [K], rating of the weakest part [Pa], the
    coolant and the density of its cold fill [kg/m³], whether it is pumped, the legs, and what is
    guessed of them."""

    course: Course
    limit: float
    rating: float
    coolant: Coolant
    density: float
    pumped: bool
    legs: list[Begun]
    guessed: list[Text]


SCALDING = {EventKind.BOILS, EventKind.STEAM_IN_ENGINE}
"""What asks for the caution of an engine that is too hot below its limit too: with a low cap, or high up."""


class NoDrive(EbbrinError):
    """Legs that cannot be driven; the message says which and why."""

    status, kind, title = 422, "no-drive", "This cannot be driven"


@dataclass(frozen=True)
class Asked:
    """A drive for the core: the system, its legs, temperature at the start [K], what breaks, the legs' names, and what is
    guessed of them."""

    system: System
    legs: Legs
    start: float
    troubles: list[Trouble]
    begun: list[Begun]
    guessed: list[Text]


def asked_of(question: DriveQuestion, recording: Recording | None = None) -> Asked:
    """A drive over its legs, or over a ``recording`` if there is one, as the core drives it.

    Raises
    ------
    MissingValues
        If a value without an honest default is unknown.
    UnknownVariant
        If there is no such variant.
    NoDrive
        If a leg names a case that the build does not have, the legs last too long, or the recording is missing.
    DomainError
        If parts or legs do not make a physical system.
    """
    asked = question.drive
    resolved, guessed = resolve(question.build, question.variant), []
    if recording is None and asked.recording is not None:
        raise NoDrive(f"The drive follows the recording {asked.recording.name}; give its file too.")
    if recording is None:
        cases = cases_of(asked, question.build)
        resolved = resolve(question.build.model_copy(update={"cases": cases}), question.variant)
        guessed = [
            words.guessed(cases[leg].name, value)
            for value in resolved.assumed
            if (leg := _leg_of(value, asked)) is not None
        ]
        duration = np.array([leg.duration_s for leg in asked.legs])
        if duration.sum() > MOST_SECONDS:
            raise NoDrive(
                f"The legs last {np.ceil(duration.sum() / 60.0):.0f} minutes; a drive may last four hours."
            )
        points, runs = cases_from(resolved), np.array([leg.engine_runs for leg in asked.legs])
        # With the engine off the car stands, whatever the speed of its case.
        legs = Legs(replace(points, speed=np.where(runs, points.speed, 0.0)), duration, runs)
        begins = np.cumsum(duration) - duration
        begun = [
            Begun(case.name, leg.case_id, float(at))
            for case, leg, at in zip(cases, asked.legs, begins, strict=True)
        ]
    else:
        fitted = resolved.variant
        legs = legs_from(recording, question.build.site, fitted.air.condenser, fitted.circuit.heater)
        begun = [Begun(recording.name, None, 0.0)]
    system = system_from(resolved)
    start = float(legs.points.ambient[0]) if asked.start_c is None else float(kelvin(asked.start_c))
    troubles = [
        Trouble(f.fault, f.severity_share, f.from_s, float("inf") if f.until_s is None else f.until_s)
        for f in asked.faults
    ]
    return Asked(system, legs, start, troubles, begun, guessed)


OF_A_LEG = ("duration_s", "start_c")
"""What a drive says for its legs, whatever their cases leave open."""


def _leg_of(value: Assumed, asked: Drive) -> int | None:
    """The leg whose work hangs on a guessed value, by its place; None where none does."""
    of, number, *field = parts_of(value.path)
    guessed = of == "cases" and value.guess and field[0] not in OF_A_LEG
    return int(number) if guessed and asked.legs[int(number)].engine_runs else None


def driven(question: DriveQuestion, recording: Recording | None = None) -> Driven:
    """The course of a drive. Raises as ``asked_of`` does."""
    asked = asked_of(question, recording)
    system = asked.system
    return Driven(
        course=drive_legs(system, asked.legs, asked.start, asked.troubles),
        limit=float(system.limits.top_hose),
        rating=float(system.cap.weakest_part),
        coolant=system.coolant,
        density=plant_of(system).filled_density,
        pumped=float(system.circuit.pump.siphon) == 0.0,
        legs=asked.begun,
        guessed=asked.guessed,
    )


WORSE = (("hottest_c", 0.5), ("boils", 1), ("runs_dry", 1), ("lost_l", 0.05))
"""By how much of each a drive is worse with a fault than without it: less is shown as none."""


def each_fault(question: DriveQuestion, recording: Recording | None = None) -> list[FaultOutcome]:
    """The drive once more with every single fault on top of its own, those with a severity at half of it, the
    hottest first. Raises as ``asked_of`` does, and NoDrive for a recording of more than MOST_ROWS_OF_EACH rows."""
    if recording is not None and len(recording.time_s) > MOST_ROWS_OF_EACH:
        raise NoDrive(
            f"Every fault is driven over at most {MOST_ROWS_OF_EACH} rows of a recording, and {recording.name} has "
            f"{len(recording.time_s)}. Leave rows out, such as every second one, or drive one fault at a time."
        )
    asked = asked_of(question, recording)
    names = all_possible(asked.system)
    single = [[Trouble(name, HALF if FAULTS[name].graded else 1.0)] for name in names]
    sets = [[*asked.troubles, *fault] for fault in [[], *single]]
    limit, density = float(asked.system.limits.top_hose), plant_of(asked.system).filled_density

    def outcome(_: int, course: Course) -> dict[str, Any]:
        over = time_to(course, limit)
        return {
            "hottest_c": celsius(course.engine_out.max()),
            "time_to_limit_s": over if np.isfinite(over) else None,
            "boils": any(event.kind is EventKind.BOILS for event in events(course, limit)),
            "runs_dry": course.runs_dry,
            "lost_l": litres(course.ground, density),
        }

    without, *found = drive_many(asked.system, asked.legs, asked.start, sets, outcome)
    outcomes = [
        FaultOutcome(fault=name, **one, worse=any(one[what] >= without[what] + much for what, much in WORSE))
        for name, one in zip(names, found, strict=True)
    ]
    return sorted(outcomes, key=lambda one: -one.hottest_c)


def cases_of(drive: Drive, build: Build) -> list[Case]:
    """The case of each leg.

    Raises
    ------
    NoDrive
        If a leg names a case that the build does not have.
    """
    by_id = {case.id: case for case in build.cases}
    found = []
    for number, leg in enumerate(drive.legs, 1):
        case = leg.case or by_id.get(leg.case_id or "")
        if case is None:
            raise NoDrive(f"Leg {number} is as in the case {leg.case_id}, which the build does not have.")
        found.append(case.model_copy(update={"id": f"leg-{number}"}))
    return found


def drive(question: DriveQuestion, recording: Recording | None = None) -> DriveCourse:
    """The course of a drive with its events, thinned for a screen. Raises as ``driven`` does."""
    return course_of(question, driven(question, recording))


def course_of(question: DriveQuestion, found: Driven) -> DriveCourse:
    """A course as the page and the command line tell it."""
    course = found.course
    hottest = float(course.engine_out.max())
    over = time_to(course, found.limit)
    happened = events(course, found.limit, found.rating)
    return DriveCourse(
        name=question.drive.name,
        limit_c=celsius(found.limit),
        hottest_c=celsius(hottest),
        hottest_at_s=float(course.time[course.engine_out.argmax()]),
        time_to_limit_s=over if np.isfinite(over) else None,
        runs_dry_s=float(course.time[-1]) if course.runs_dry else None,
        coolant_in_bottle_l=litres(course.bottle, found.density),
        coolant_on_ground_l=litres(course.ground, found.density),
        legs=_legs(found),
        events=[_event(event, found.pumped) for event in happened],
        points=course_points(course, thinned(course), found.coolant, found.density),
        cautions=words.cautions(
            too_hot=hottest > found.limit or any(event.kind in SCALDING for event in happened),
            over_rating=bool((course.pressure > found.rating).any()),
            runs_low=any(event.kind is EventKind.RUNS_LOW for event in happened),
            pumped=found.pumped,
        ),
        guessed=list({printed(text): text for text in found.guessed}.values()),
    )


def _legs(found: Driven) -> list[LegSummary]:
    course, ends = found.course, [*(leg.begins for leg in found.legs[1:]), float("inf")]
    summaries = []
    for leg, end in zip(found.legs, ends, strict=True):
        here = course.engine_out[(course.time > leg.begins) & (course.time <= end)]
        if not here.size:
            break  # the engine has run dry before
        summaries.append(
            LegSummary(
                name=leg.name,
                case_id=leg.case_id,
                from_s=leg.begins,
                hottest_c=celsius(here.max()),
                end_c=celsius(here[-1]),
            )
        )
    return summaries


def _event(event: Event, pumped: bool) -> DriveEvent:
    kind: EventName = event.kind.name.lower()  # type: ignore[assignment]
    top = celsius(event.engine_out)
    return DriveEvent(time_s=event.time, kind=kind, engine_out_c=top, text=words.event(kind, top, pumped))


def as_csv(found: Driven) -> str:
    """Every step of a course as CSV, units in the header."""
    every = np.arange(len(found.course.time))
    return form.write(course_points(found.course, every, found.coolant, found.density))
