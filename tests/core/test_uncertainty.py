"""Sampling: the draws, the chances, the sensitivities, and that it can be stopped."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats

from ebbrin.core.system import uncertainty
from ebbrin.core.system.uncertainty import Unknown, chances, drawn, scatter, sensitivity, triangular
from tests.builds import linnet, part, plain_build, to_core


@pytest.mark.parametrize(("low", "mode", "high"), [(0.0, 0.0, 1.0), (0.8, 1.0, 1.3), (-2.0, 5.0, 5.0)])
def test_triangular_is_scipys(low: float, mode: float, high: float) -> None:
    share = np.linspace(0.0, 1.0, 21)
    theirs = stats.triang.ppf(share, (mode - low) / (high - low), loc=low, scale=high - low)
    assert triangular(share, low, mode, high) == pytest.approx(theirs)


def test_triangular_of_no_width_is_its_mode() -> None:
    assert triangular(np.array([0.0, 0.7]), 2.0, 2.0, 2.0).tolist() == [2.0, 2.0]


def test_draws_spread_evenly_and_repeat() -> None:
    unknowns = [Unknown("a", (), 0.0, 0.5, 1.0), Unknown("b", (), 1.0, 1.0, 2.0)]
    first, again = drawn(unknowns, 400, 20), drawn(unknowns, 400, 20)
    assert np.array_equal(first, again)
    assert first.shape == (400, 2)
    for column, unknown in zip(first.T, unknowns, strict=True):
        edges = triangular(np.linspace(0, 1, 401), unknown.low, unknown.mode, unknown.high)
        counts, _ = np.histogram(column, edges)
        assert np.all(counts == 1)  # Latin hypercube: one in each equal share


def test_scatter_names_the_band_of_the_school() -> None:
    system, _ = to_core(plain_build())
    found = {u.name: u for u in scatter(system)}
    assert set(found) == {"heat", "air_friction", "air_film", "coolant_film", "cap"}
    assert (found["heat"].low, found["heat"].high) == (pytest.approx(0.17 / 0.20), pytest.approx(0.26 / 0.20))
    tested = {u.name for u in scatter(system, tested=True)}
    assert tested == {"heat", "air_friction", "core", "cap"}
    open_system, _ = to_core(part(plain_build(), cap__pressure_kpa=0))
    assert "cap" not in {u.name for u in scatter(open_system)}


def test_nothing_unknown_gives_certainty() -> None:
    system, cases = to_core(linnet())
    sure = chances(system, cases, [], samples=10)
    assert sure is not None
    assert set(sure.holds.tolist()) <= {0.0, 1.0}
    assert sure.holds.tolist() == [0.0, 1.0, 1.0, 1.0]
    assert sure.quantiles[0] == pytest.approx(sure.quantiles[2])


def test_chances_fall_with_heat_and_bands_are_ordered() -> None:
    calm, hot = (to_core(plain_build(brake_power_kw=power, speed_km_h=60)) for power in (30, 45))
    a, b = (chances(system, cases, scatter(system), samples=120) for system, cases in (calm, hot))
    assert a is not None
    assert b is not None
    assert a.holds[0] > b.holds[0]
    assert 0.0 < b.holds[0] < b.below_limit[0] <= 1.0
    assert np.all(np.diff(b.quantiles[:, 0]) > 0)
    assert b.build_holds == b.holds[0]


def test_build_holds_less_often_than_its_worst_case() -> None:
    system, cases = to_core(linnet())
    sure = chances(system, cases, scatter(system), samples=100)
    assert sure is not None
    assert sure.build_holds <= sure.holds.min()


def test_sampling_stops_when_told() -> None:
    system, cases = to_core(plain_build())
    seen: list[float] = []

    def proceed(share: float) -> bool:
        seen.append(share)
        return len(seen) < 2

    assert chances(system, cases, scatter(system), proceed=proceed) is None
    assert seen == [0.0, uncertainty.CHUNK / uncertainty.SAMPLES]


def test_sensitivity_is_the_difference_of_two_solves() -> None:
    system, cases = to_core(plain_build(brake_power_kw=60))
    unknowns = scatter(system)
    found = sensitivity(system, cases, unknowns)
    heat = unknowns[0]
    ends = [
        sensitivity(heat.applied(system, np.array([value])[:, None]), cases, []).likeliest[0]
        for value in (heat.low, heat.high)
    ]
    assert found.at_low[0, 0] == pytest.approx(ends[0], abs=1e-4)
    assert found.at_high[0, 0] == pytest.approx(ends[1], abs=1e-4)
    assert found.swing[0, 0] == pytest.approx(abs(ends[1] - ends[0]), abs=2e-4)
    assert found.names[int(np.argmax(found.swing[:, 0]))] == "heat"
