"""A balance found with top hose, coolant and air all on their way, beside looks that are each balanced on their own."""

from __future__ import annotations

from typing import Any

import numba
import numpy as np
import pytest

from ebbrin.core.base import DomainError, FloatArray
from ebbrin.core.compiled import compiled, compiled_with_room
from ebbrin.core.records import changed
from ebbrin.core.system import limits
from ebbrin.core.system.balance import coolant_at, shed
from ebbrin.core.system.control import stage_below
from ebbrin.core.system.demand import demand, full_demand
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.settle import settle
from ebbrin.core.system.steady import steady_state
from oracles.builds import linnet, to_core
from oracles.made import made

MADE = range(300)
VARIED = (
    ("core.width", 0.35, 0.8),
    ("core.depth", 0.02, 0.06),
    ("core.fin_pitch", 1.3e-3, 2.6e-3),
    ("air.ram", 0.0, 0.9),
    ("air.fan.diameter", 0.2, 0.3),
    ("circuit.pump.run_out", 1e-3, 6e-3),
    ("circuit.thermostat.opens", 344.0, 364.0),
    ("circuit.thermostat_resistance", 1e9, 3e11),
)


def varied(count: int) -> tuple[System, Cases]:
    """Many candidates around the demo's, from a choked coolant to a wide one, from no ram to much."""
    system, cases = to_core(linnet())
    rng = np.random.default_rng(5)
    for path, low, high in VARIED:
        system = changed(system, path, rng.uniform(low, high, (count, 1)))
    return system.checked(), cases.checked()


def left(system: System, cases: Cases, stage: int, T: Any) -> Any:
    """Logarithm of heat shed over heat sent at a top hose, the coolant and the air each balanced to the end."""
    heat = full_demand(system, cases, stage).total
    there = shed(system, cases, stage, T, coolant_at(system, cases, T, heat), heat)
    return np.log(np.maximum(there.heat, 1e-9) / demand(system, cases, there.air.fan_ratio).total)


@pytest.mark.parametrize("stage", [0, 2])
def test_what_settles_balances_when_each_look_is_balanced_alone(stage: int) -> None:
    system, cases = varied(250)
    found = settle(system, cases, stage)
    T, exists = found.top_hose, found.exists
    assert exists.mean() > 0.5
    assert np.abs(left(system, cases, stage, T))[exists].max() < 2e-6
    beside = 0.01  # K
    below, above = (
        left(system, cases, stage, np.minimum(T + by, system.table_end)) for by in (-beside, beside)
    )
    assert ((below < 0.0) & (above > 0.0))[exists].all()
    # Where it says that nothing settles, heat is short at the end of the tables as well.
    assert (left(system, cases, stage, T)[~exists] < 0.0).all()
    assert T[~exists] == pytest.approx(np.broadcast_to(system.table_end, T.shape)[~exists])


def test_a_glance_tells_what_is_spare_as_a_whole_balance_does() -> None:
    apart, looked = [], 0
    for seed in MADE:
        build = made(seed)
        if build is None:
            continue
        system, cases = to_core(build)
        try:
            system, cases = system.checked(), cases.checked()
        except DomainError:
            continue
        steady = np.flatnonzero(~np.isfinite(cases.duration))
        if not steady.size:
            continue
        cases = cases.taken(steady)
        limit = np.broadcast_to(
            limits.limit_temperature(system, limits.boiling_temperature(system, cases, system.cap.holds)),
            cases.ambient.shape,
        )
        spare = limits.spare_at_limit(system, cases, limit)
        whole = left(system, cases, stage_below(system, cases, limit), limit)  # type: ignore[arg-type]
        seen = spare > limits.LEAST_SPARE
        apart += np.abs(spare - whole)[seen].tolist()
        looked += 1
    assert looked > 150
    assert np.quantile(apart, 0.99) < 8e-6
    assert max(apart) < 3e-5


def test_compiled_code_makes_no_array_but_where_it_says_so() -> None:
    def makes(n: int) -> float:
        return float(np.zeros(n).sum())

    with pytest.raises(numba.core.errors.NumbaError):
        compiled(makes)(3)

    def returns(x: FloatArray) -> FloatArray:
        return x

    with pytest.raises(TypeError, match="returns an array"):
        compiled(returns)

    def may(n: int) -> float:  # of its own name, by which compiled code is kept
        return float(np.zeros(n).sum())

    assert compiled_with_room(may)(3) == 0.0


@pytest.mark.parametrize("seed", [2986, 3027, 6692])
def test_what_rises_by_itself_settles_and_does_not_hunt(seed: int) -> None:
    """Found by a comparison of 20 000 random builds: the slope of buoyancy is no more than near, so that the last step of
    the coolant's flow does not square what is left."""
    build = made(seed)
    assert build is not None
    system, cases = to_core(build)
    limit = np.broadcast_to(
        limits.limit_temperature(system, limits.boiling_temperature(system, cases, system.cap.holds)),
        cases.ambient.shape,
    )
    assert float(system.circuit.pump.siphon) > 0.0
    assert not steady_state(system, cases, limit).hunts.any()
