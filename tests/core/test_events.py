"""What is told of a drive against the course itself."""

from __future__ import annotations

from dataclasses import fields

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.core.base import BoolArray
from ebbrin.core.drive.events import QUIET, EventKind, events
from ebbrin.core.drive.run import Course

LIMIT = 380.0
ENDS, BEGINS = EventKind.BACK_BELOW_LIMIT, EventKind.LIMIT_PASSED


def course(hot: BoolArray) -> Course:
    """A course of seconds in which nothing happens but that the engine's outlet is ``hot`` (steps,) or not."""
    numbers = {field.name: np.zeros(hot.size) for field in fields(Course)}
    still = {"full": 1.0, "energy_gap": 0.0, "bottle": 0.0, "ground": 0.0, "runs_dry": False}
    moving = {
        "time": np.arange(hot.size, dtype=float),
        "engine_out": np.where(hot, LIMIT + 1.0, LIMIT - 1.0),
        "stage": np.zeros(hot.size, np.int64),
        "mass": np.ones(hot.size),
        "boiling_margin": np.full(hot.size, 20.0),
        "cap": np.ones(hot.size),
    }
    return Course(**(numbers | still | moving))  # type: ignore[arg-type]


@given(st.lists(st.integers(1, 12), min_size=1, max_size=12), st.booleans())
def test_what_is_told_last_is_how_it_stands(lengths: list[int], first: bool) -> None:
    hot = np.concatenate([np.full(n, first ^ bool(k % 2)) for k, n in enumerate(lengths)])
    told = events(course(hot), LIMIT)
    kinds = [event.kind for event in told]
    assert kinds == [BEGINS, ENDS] * (len(kinds) // 2) + [BEGINS] * (len(kinds) % 2)
    assert hot[-1] == (kinds != [] and kinds[-1] is BEGINS)
    assert (BEGINS in kinds) == hot.any()
    for event in told:
        assert hot[int(event.time)] == (event.kind is BEGINS)
    # What is told to have ended did not begin again at once.
    for end, begin in zip(told[1::2], told[2::2], strict=False):
        assert begin.time - end.time > QUIET


def test_a_limit_that_is_passed_for_a_moment_is_told_and_a_flutter_is_told_once() -> None:
    once = np.zeros(60, bool)
    once[20:22] = True
    assert [(e.time, e.kind) for e in events(course(once), LIMIT)] == [(20.0, BEGINS), (22.0, ENDS)]
    flutters = np.ones(60, bool)
    flutters[[5, 9, 14]] = False
    assert [(e.time, e.kind) for e in events(course(flutters), LIMIT)] == [(0.0, BEGINS)]
