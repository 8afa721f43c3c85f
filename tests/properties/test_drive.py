"""Properties of drives and recordings, over whatever drives there can be."""

from __future__ import annotations

import csv
import io
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ebbrin.core.drive.events import events
from ebbrin.core.drive.faults import FAULTS
from ebbrin.core.drive.legs import Legs, Trouble, drive_legs
from ebbrin.core.drive.march import DRY_FILL
from ebbrin.core.drive.plant import plant_of
from ebbrin.demo import demo_builds
from ebbrin.features.drive import course_csv as written
from ebbrin.features.drive.from_core import course_points, thinned
from ebbrin.features.drive.recording import COLUMNS, Recording
from ebbrin.features.drive.recording_csv import read
from oracles.builds import to_core

pytestmark = pytest.mark.long

SYSTEMS = [to_core(build) for build in demo_builds()]
FEW = settings(max_examples=25, deadline=None)

severities = st.floats(0.0, 1.0)
troubles = st.lists(
    st.builds(Trouble, st.sampled_from(sorted(FAULTS)), severities, st.floats(0.0, 900.0)),
    max_size=3,
    unique_by=lambda trouble: trouble.fault,
)


@st.composite
def drives(draw: st.DrawFn) -> tuple[int, Legs]:
    """A demo system and up to four legs of it, of any ambient, engine running or not."""
    which = draw(st.integers(0, len(SYSTEMS) - 1))
    _, cases = SYSTEMS[which]
    count = draw(st.integers(1, 4))
    chosen = cases.taken(np.array([draw(st.integers(0, len(cases.ambient) - 1)) for _ in range(count)]))
    ambient = np.array([draw(st.floats(258.15, 318.15)) for _ in range(count)])
    duration = np.array([draw(st.floats(5.0, 600.0)) for _ in range(count)])
    running = np.array([draw(st.booleans()) for _ in range(count)])
    return which, Legs(replace(chosen, ambient=ambient), duration, running)


@FEW
@given(driven=drives(), broken=troubles, start=st.floats(258.15, 373.15))
def test_heat_and_coolant_are_kept_in_any_drive(
    driven: tuple[int, Legs], broken: list[Trouble], start: float
) -> None:
    which, legs = driven
    system, _ = SYSTEMS[which]
    course = drive_legs(system, legs, start, broken)
    assert abs(course.energy_gap) <= 1e-6
    if course.runs_dry:
        assert len(course.time) * 0.25 < legs.duration.sum()
        assert course.mass[-1] < DRY_FILL * course.mass.max() + course.ground
    else:
        assert abs(len(course.time) * 0.25 - legs.duration.sum()) <= 0.25
    for values in (course.engine_out, course.top_hose, course.bottom_hose, course.metal, course.pressure):
        assert np.isfinite(values).all()
    assert (course.mass >= 0.0).all()
    assert ((course.lift >= 0.0) & (course.lift <= 1.0)).all()
    # Only a fault of the fill or of the mix changes how much there was.
    names = {trouble.fault for trouble in broken}
    if not names & {"coolant_low", "mix_weak", "mix_strong"}:
        whole = course.mass[-1] + course.bottle + course.ground
        most = float(system.coolant_volume) * plant_of(system).filled_density
        assert whole <= most * (1.0 + 1e-6)
        room = float(system.cap.bottle) * plant_of(system).filled_density
        assert course.bottle <= room * (1.0 + 1e-6)
    found = events(course, 381.15, float(system.cap.weakest_part))
    assert [event.time for event in found] == sorted(event.time for event in found)


@FEW
@given(
    driven=drives(),
    fault=st.sampled_from(sorted(n for n, f in FAULTS.items() if not f.graded)),
    severity=severities,
)
def test_a_fault_that_is_there_or_not_has_no_degrees(
    driven: tuple[int, Legs], fault: str, severity: float
) -> None:
    which, legs = driven
    system, _ = SYSTEMS[which]
    some = drive_legs(system, legs, 300.0, [Trouble(fault, severity)])
    all_of_it = drive_legs(system, legs, 300.0, [Trouble(fault, 1.0)])
    assert np.array_equal(some.engine_out, all_of_it.engine_out)


@FEW
@given(driven=drives(), at=st.floats(0.0, 1.0))
def test_a_leg_cut_in_two_is_the_same_leg(driven: tuple[int, Legs], at: float) -> None:
    which, legs = driven
    system, _ = SYSTEMS[which]
    whole = Legs(legs.points.taken(np.array([0])), np.array([300.0]), legs.running[:1])
    first = max(round(at * 300.0 / 0.25) * 0.25, 0.25)
    cut = Legs(legs.points.taken(np.array([0, 0])), np.array([first, 300.25 - first]), legs.running[[0, 0]])
    one, two = drive_legs(system, whole, 320.0), drive_legs(system, cut, 320.0)
    assert np.array_equal(one.engine_out, two.engine_out[: len(one.engine_out)])


@FEW
@given(driven=drives(), broken=troubles)
def test_what_is_shown_keeps_the_extremes_and_the_file_has_every_step(
    driven: tuple[int, Legs], broken: list[Trouble]
) -> None:
    which, legs = driven
    course = drive_legs(SYSTEMS[which][0], legs, 300.0, broken)
    at = thinned(course)
    for values in (course.engine_out, course.top_hose, course.bottom_hose, course.flow, course.pressure):
        assert (values[at].min(), values[at].max()) == (values.min(), values.max())
    every = np.arange(len(course.time))
    text = written.write(course_points(course, every, SYSTEMS[which][0].coolant, 1000.0))
    rows = list(csv.reader(io.StringIO(text)))
    assert len(rows) == len(course.time) + 1
    assert {len(row) for row in rows} == {len(rows[0])}
    assert [float(row[0]) for row in rows[1:]] == course.time.tolist()


@st.composite
def recordings(draw: st.DrawFn) -> Recording:
    """Rows that a car can have driven, with or without what is not needed."""
    count = draw(st.integers(2, 30))
    steps = [draw(st.floats(1.0, 60.0)) for _ in range(count)]

    def column(low: float, high: float) -> list[float]:
        return [draw(st.floats(low, high)) for _ in range(count)]

    sometimes = {
        "altitude_m": column(400.0, 400.1),
        "trailer": [float(draw(st.booleans())) for _ in range(count)],
        "heater": [float(draw(st.booleans())) for _ in range(count)],
        "brake_power_kw": column(0.0, 300.0),
    }
    kept = {name: values for name, values in sometimes.items() if draw(st.booleans())}
    return Recording(
        name="Lane",
        time_s=np.cumsum(steps).tolist(),
        speed_km_h=column(40.0, 90.0),
        engine_rpm=column(0.0, 7000.0),
        ambient_c=column(-30.0, 45.0),
        gradient_share=column(-0.3, 0.3),
        **kept,
    )


@FEW
@given(recording=recordings(), semicolons=st.booleans())
def test_a_recording_that_is_written_is_read_again(recording: Recording, semicolons: bool) -> None:
    columns = [column for column in COLUMNS if getattr(recording, column.field) is not None]
    separator = ";" if semicolons else ","
    lines = [separator.join(column.head for column in columns)]
    for row in zip(*(getattr(recording, column.field) for column in columns), strict=True):
        cells = []
        for column, value in zip(columns, row, strict=True):
            unit = next(iter(column.units.values()))
            text = str(int(value)) if "" in column.units else repr(value / unit[0] - unit[1])
            cells.append(text.replace(".", ",") if semicolons else text)
        lines.append(separator.join(cells))
    found = read("\n".join(lines), "Lane")
    assert found.refused == []
    assert found.recording is not None
    for column in COLUMNS:
        before, after = getattr(recording, column.field), getattr(found.recording, column.field)
        assert (before is None) == (after is None)
        if before is not None:
            assert after == pytest.approx(before)
