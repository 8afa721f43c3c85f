"""Walking records: shared axes and a leaf's own are never taken for one another."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np
import pytest

from ebbrin.core import records
from ebbrin.core.base import FloatArray
from ebbrin.core.records import Own, OwnAxis
from oracles.builds import linnet, to_core


@dataclass(frozen=True)
class Inner:
    curve: OwnAxis
    plain: FloatArray


@dataclass(frozen=True)
class Outer:
    grid: Annotated[FloatArray, Own(2)]
    inner: Inner


def made(number: int) -> Outer:
    """Three points on a curve, a grid of two by three, and a plain number."""
    return Outer(number + np.arange(6.0).reshape(2, 3), Inner(number * np.ones(3), np.asarray(float(number))))


def test_single_system_has_no_candidates_whatever_its_leaves_have_of_their_own() -> None:
    one = made(1)
    assert records.lead_of(one) == ()
    assert records.part_of(one, slice(0, 1)).grid.shape == (2, 3)
    assert records.candidates_at(one, np.array([0])).grid.shape == (2, 3)


def test_stacked_candidates_come_back_one_by_one() -> None:
    four = records.stack([made(k) for k in range(4)])
    assert records.lead_of(four) == (4, 1)
    assert four.grid.shape == (4, 1, 2, 3)
    assert records.part_of(four, np.array([2, 0])).inner.curve.shape == (2, 1, 3)
    third = records.candidates_at(four, np.array([2]))
    np.testing.assert_array_equal(third.grid[0], made(2).grid)
    np.testing.assert_array_equal(third.inner.plain, [2.0])
    np.testing.assert_array_equal(records.candidate(four, 3).inner.curve[0], made(3).inner.curve)


def test_what_all_share_stays_as_it_is() -> None:
    same = records.stack([made(1), made(1)])
    assert same.grid.shape == (2, 3)
    assert records.candidate(records.mapped(same, lambda a, _: a[None]), 5).grid.shape == (2, 3)


def test_cases_are_cut_ahead_of_the_own_axes() -> None:
    many = records.mapped(made(1), lambda a, own: np.broadcast_to(a, (4, 5, *a.shape)) if own >= 0 else a)
    cut = records.of_cases(many, np.array([0, 2]))
    assert (cut.grid.shape, cut.inner.curve.shape, cut.inner.plain.shape) == ((4, 2, 2, 3), (4, 2, 3), (4, 2))
    zoned = records.with_axis(made(1))
    assert (zoned.grid.shape, zoned.inner.curve.shape, zoned.inner.plain.shape) == ((1, 2, 3), (1, 3), (1,))


def test_a_factor_goes_over_the_shared_axes() -> None:
    factor = np.array([[1.0], [2.0]])
    for path, shape in (("grid", (2, 1, 2, 3)), ("inner.curve", (2, 1, 3)), ("inner.plain", (2, 1))):
        changed = records.scaled_at(made(3), path, records.value_at(made(3), path), factor)
        assert changed.shape == shape
        np.testing.assert_allclose(changed[1], 2.0 * changed[0])


def test_every_leaf_of_a_system_says_what_it_has_of_its_own() -> None:
    system = to_core(linnet())[0].checked()
    assert all(records.lead(array, own) == () for array, own in records.leaves(system))
    with pytest.raises(ValueError, match="broadcast"):  # three points are no three cases
        records.lead_of(Outer(np.ones((3, 2, 3)), Inner(np.ones((4, 3)), np.ones(4))))
