"""From the core's course back to the document's units, whole or thinned for a screen."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from ebbrin.bridge.units import KILO, LITRE, LITRE_PER_MINUTE
from ebbrin.core.base import ZERO_CELSIUS, FloatArray, IntArray
from ebbrin.core.drive.run import Course
from ebbrin.core.media.coolants import Coolant, properties
from ebbrin.features.drive.answers import CoursePoints

STRETCHES = 400
"""Stretches that a course is shown in; of each the ends and the extremes are kept."""


def litres(mass: float, density: float) -> float:
    """Volume of a mass [kg] of coolant, L."""
    return mass / density / LITRE


def thinned(course: Course, stretches: int = STRETCHES) -> IntArray:
    """Indices of the steps that are kept: the ends of each stretch, and where the coolant that leaves the engine, both
    hoses, flow and pressure are greatest and least within it."""
    count = len(course.time)
    edges = np.unique(np.linspace(0, count, min(stretches, count) + 1).astype(np.int64))
    kept = {0, count - 1}
    for first, last in pairwise(edges):
        kept.add(int(first))
        for values in (course.engine_out, course.top_hose, course.bottom_hose, course.flow, course.pressure):
            here = values[first:last]
            kept.update((int(first + here.argmin()), int(first + here.argmax())))
    return np.array(sorted(kept), np.int64)


def _rounded(values: FloatArray, digits: int) -> list[float]:
    found: list[float] = np.round(values, digits).tolist()
    return found


def course_points(course: Course, at: IntArray, coolant: Coolant, filled_density: float) -> CoursePoints:
    """The course at some of its steps: its flow as it leaves the engine, as every verdict tells it, and what is left of the
    ``coolant`` at the density of the cold fill [kg/m³]."""
    density = properties(coolant, coolant.within(course.engine_out[at])).density

    def celsius(values: FloatArray) -> list[float]:
        return _rounded(values[at] - ZERO_CELSIUS, 2)

    return CoursePoints(
        time_s=course.time[at].tolist(),
        metal_c=celsius(course.metal),
        engine_out_c=celsius(course.engine_out),
        top_hose_c=celsius(course.top_hose),
        bottom_hose_c=celsius(course.bottom_hose),
        thermostat_lift=_rounded(course.lift[at], 3),
        fan_stage=course.stage[at].tolist(),
        coolant_flow_l_per_min=_rounded(course.flow[at] / density / LITRE_PER_MINUTE, 2),
        pumped_l_per_min=_rounded(course.pumped[at] / density / LITRE_PER_MINUTE, 2),
        pressure_kpa=_rounded(course.pressure[at] / KILO, 2),
        boiling_margin_k=_rounded(course.boiling_margin[at], 2),
        shed_kw=_rounded(course.shed[at] / KILO, 3),
        heater_air_c=celsius(course.heater_air) if course.heater.any() else None,
        coolant_l=_rounded(course.mass[at] / filled_density / LITRE, 3),
    )
