"""Drive a build over time, with whatever breaks on the way."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.drive.events import events, time_to
from ebbrin.core.drive.legs import Legs, Trouble, drive_legs
from ebbrin.core.drive.run import Course
from ebbrin.document.drive import (
    DriveCourse,
    DriveEvent,
    DriveQuestion,
    EventName,
    LegSummary,
    named,
)
from ebbrin.document.drive_from_core import course_points, litres, thinned
from ebbrin.document.from_core import celsius
from ebbrin.document.resolve import resolve
from ebbrin.document.to_core import cases_from, kelvin, system_from
from ebbrin.formats import course as form
from ebbrin.verdict import drive as words


@dataclass(frozen=True)
class Driven:
    """A course of the core with what it takes to say it: limit [K], cap [Pa], density of the coolant [kg/m³], and
    name and beginning [s] of each leg."""

    course: Course
    limit: float
    cap: float
    density: float
    names: list[str]
    begins: list[float]


def driven(question: DriveQuestion) -> Driven:
    """The course of a drive.

    Raises
    ------
    MissingValues
        If a value without an honest default is unknown.
    KeyError
        If there is no such variant or case.
    DomainError
        If parts or legs do not make a physical system.
    """
    script = question.script
    resolve(question.build, question.variant)
    cases = [
        case.model_copy(update={"id": f"leg-{i}"})
        for i, case in enumerate(named(script.legs, question.build))
    ]
    resolved = resolve(question.build.model_copy(update={"cases": cases}), question.variant)
    system, points = system_from(resolved), cases_from(resolved)
    duration = np.array([leg.duration_s for leg in script.legs])
    legs = Legs(points, duration, np.array([leg.engine_runs for leg in script.legs]))
    start = float(points.ambient[0]) if script.start_c is None else float(kelvin(script.start_c))
    troubles = [
        Trouble(f.fault, f.severity_share, f.from_s, float("inf") if f.until_s is None else f.until_s)
        for f in script.faults
    ]
    course = drive_legs(system, legs, start, troubles)
    return Driven(
        course=course,
        limit=float(system.limits.top_hose),
        cap=float(system.cap.pressure),
        density=float(course.mass[0] / float(system.coolant_volume)),
        names=[case.name for case in cases],
        begins=[0.0, *np.cumsum(duration)[:-1].tolist()],
    )


def drive(question: DriveQuestion) -> DriveCourse:
    """The course of a drive with its events, thinned for a screen. Raises as ``driven`` does."""
    found = driven(question)
    course = found.course
    hottest = float(course.top_hose.max())
    over = time_to(course, found.limit)
    return DriveCourse(
        name=question.script.name,
        limit_c=celsius(found.limit),
        hottest_c=celsius(hottest),
        time_to_limit_s=over if np.isfinite(over) else None,
        coolant_in_bottle_l=litres(course.bottle, found.density),
        coolant_on_ground_l=litres(course.ground, found.density),
        legs=_legs(found),
        events=_events(found),
        points=course_points(course, thinned(course), found.density),
        caution=words.STOP if hottest > found.limit else None,
    )


def _legs(found: Driven) -> list[LegSummary]:
    course, ends = found.course, [*found.begins[1:], float("inf")]
    summaries = []
    for name, begins, end in zip(found.names, found.begins, ends, strict=True):
        here = course.top_hose[(course.time > begins) & (course.time <= end)]
        summaries.append(
            LegSummary(name=name, from_s=begins, hottest_c=celsius(here.max()), end_c=celsius(here[-1]))
        )
    return summaries


def _events(found: Driven) -> list[DriveEvent]:
    listed = []
    for event in events(found.course, found.limit, found.cap):
        kind: EventName = event.kind.name.lower()  # type: ignore[assignment]
        top = celsius(event.top_hose)
        listed.append(DriveEvent(time_s=event.time, kind=kind, top_hose_c=top, text=words.event(kind, top)))
    return listed


def as_csv(found: Driven) -> str:
    """Every step of a course as CSV, units in the header."""
    return form.write(course_points(found.course, np.arange(len(found.course.time)), found.density))
