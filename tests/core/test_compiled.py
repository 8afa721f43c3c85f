"""Compiled looks: one text for numbers and arrays, spread over cores, kept where one may write."""

from __future__ import annotations

import os
import stat
import tempfile
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from ebbrin.core import compiled as making
from ebbrin.core.base import Abandoned, still_wanted
from ebbrin.core.compiled import both, choose, compiled, on_one_core, over_arrays, over_cores, places, rows
from ebbrin.core.engine import fuel as fuels
from ebbrin.core.media import air, coolants
from ebbrin.core.media.coolants import Coolant, properties, properties_at
from ebbrin.core.records import stack
from ebbrin.core.studies.levers import applicable
from ebbrin.core.system import limits
from ebbrin.core.system.demand import demand, full_demand
from ebbrin.core.system.settle import settle
from ebbrin.core.system.steady import steady_state
from ebbrin.core.system.timed import estimate
from oracles.builds import linnet, to_core


@both
def _bent(x: Any) -> Any:
    return choose(x > 2.0, np.sqrt(x), x * x)


@compiled
def _bent_number(x: float) -> float:
    return _bent(x)


def test_one_text_serves_numbers_and_arrays() -> None:
    x = np.linspace(0.5, 4.0, 30)
    assert over_arrays(_bent_number)(x) == pytest.approx(_bent(x), rel=1e-15)
    assert over_arrays(_bent_number)(3.0).shape == ()


@pytest.mark.parametrize("kind", [coolants.WATER, coolants.ETHYLENE_GLYCOL, coolants.PROPYLENE_GLYCOL])
def test_properties_of_compiled_code_are_the_tables(kind: int) -> None:
    share = 0.0 if kind == coolants.WATER else 0.37
    coolant = Coolant(np.asarray(kind), np.asarray(share))
    T = np.linspace(coolants.TABLE_LOW, float(coolant.table_end), 200)
    columns, which = coolant.columns
    assert which.tolist() == [0]
    found = np.array([properties_at(columns[0], t) for t in T])
    for mine, theirs in zip(found.T, properties(coolant, T), strict=True):
        assert mine == pytest.approx(theirs, rel=1e-12)


def test_each_strength_of_many_coolants_is_tabled_once() -> None:
    kinds = np.array([[0], [1], [1], [2], [1]])
    shares = np.array([[0.0], [0.5], [0.3], [0.5], [0.5]])
    columns, which = Coolant(kinds, shares).columns
    assert len(columns) == 4
    assert which[1] == which[4]
    for k in range(5):
        alone = Coolant(kinds[k, 0], shares[k, 0]).columns[0][0]
        assert columns[which[k]] == pytest.approx(alone)


def test_places_say_which_candidate_an_element_is() -> None:
    assert places((3, 1), (2, 3, 2)).tolist() == [0, 0, 1, 1, 2, 2] * 2
    assert places((), (4,)).tolist() == [0, 0, 0, 0]


def test_rows_lay_records_out_for_each_candidate() -> None:
    law = linnet_law = to_core(linnet())[0].engine.fuel_law
    laid = rows((3, 1), law._replace(swept=np.array([[1.0], [2.0], [3.0]])))
    assert laid["swept"].tolist() == [1.0, 2.0, 3.0]
    assert laid["efficiency"].tolist() == [float(linnet_law.efficiency)] * 3


def test_answers_do_not_hang_on_how_many_cores_share_the_work() -> None:
    system, cases = to_core(linnet())
    many = stack([system, *applicable(system)[1]])
    limit = np.full((len(applicable(system)[1]) + 1, len(cases.ambient)), 381.15)

    def asked() -> list[Any]:
        state = steady_state(many, cases, limit)
        return [
            state.top_hose,
            state.duty,
            state.shed.air.velocity,
            settle(many, cases, 2).top_hose,
            limits.ambient_for(many, cases, limit).ambient,
            limits.spare_at_limit(many, cases, limit),
            estimate(many, cases, limit).end,
        ]

    spread = asked()
    with on_one_core():
        alone = asked()
    for mine, theirs in zip(spread, alone, strict=True):
        assert np.array_equal(mine, theirs)


def test_work_that_nobody_waits_for_is_not_begun() -> None:
    system, cases = to_core(linnet())
    token = still_wanted.set(lambda: False)
    try:
        with pytest.raises(Abandoned):
            settle(system, cases, 2)
    finally:
        still_wanted.reset(token)


def test_demand_of_compiled_code_is_the_engines() -> None:
    # By the function of arrays that the engine's own tests hold against published figures.
    system, cases = to_core(linnet())
    still = demand(system, cases, np.zeros((len(cases.ambient), 1)))
    again = fuels.fuel_power(system.engine, still.brake_power, cases.crank_speed, air.density(
        cases.ambient, air.standard_pressure(cases.altitude)
    ))  # fmt: skip
    assert still.fuel_power == pytest.approx(again, rel=1e-12)
    assert (full_demand(system, cases, 2).total >= still.total).all()


def test_compiled_code_is_kept_where_one_may_write(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    shut, open_ = tmp_path / "shut", tmp_path / "open"
    shut.write_text("a file where a folder should be")
    monkeypatch.setenv("EBBRIN_COMPILED", str(shut))
    monkeypatch.setenv("XDG_CACHE_HOME", str(open_))
    found = making.cache_folder()
    assert found is not None
    assert found.is_relative_to(open_)
    assert stat.S_IMODE(found.stat().st_mode) == 0o700


def test_compiled_code_of_somebody_else_is_not_trusted(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("EBBRIN_COMPILED", str(tmp_path / "theirs"))
    theirs = making.cache_folder()
    assert theirs is not None
    monkeypatch.setattr(os, "getuid", lambda: 12_345)
    monkeypatch.setattr(tempfile, "gettempdir", lambda: str(tmp_path))
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "also theirs"))
    (tmp_path / "also theirs").mkdir()
    found = making.cache_folder()
    assert found is None or not found.is_relative_to(tmp_path / "theirs")


def test_states_that_nobody_uses_any_more_are_forgotten(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("EBBRIN_COMPILED", str(tmp_path))
    old, newer = tmp_path / "compiled" / "old", tmp_path / "compiled" / "newer"
    old.mkdir(parents=True)
    newer.mkdir()
    os.utime(old, (1e9, 1e9))
    kept = making.cache_folder()
    assert kept is not None
    assert kept.exists()
    assert newer.exists()
    assert not old.exists()


def test_each_loop_is_compiled_for_one_kind_of_arrays() -> None:
    # A second kind would be compiled while somebody waits.
    system, cases = to_core(linnet())
    many = stack([system, *applicable(system)[1]])
    for some in (system, many, stack([system] * 2)):
        shape = (*many.lead[:1], len(cases.ambient)) if some is many else cases.ambient.shape
        limit = np.full(shape, 381.15)
        steady_state(some, cases, limit)
        limits.ambient_for(some, cases, limit)
        limits.spare_at_limit(some, cases, limit)
        estimate(some, cases, limit)
        settle(some, cases, 2)
    from ebbrin.core.system import settle as settling
    from ebbrin.core.system import steady, timed

    loops: list[Any] = [steady._steadies, settling._settles, timed._runs, limits._ambients, limits._spares]
    assert [len(loop.signatures) for loop in loops] == [1] * len(loops)


@pytest.mark.parametrize("count", [1, 2, 7, 64, 1000, 4097])
@pytest.mark.parametrize("cost", [0.1, 30.0, 900.0])
def test_every_element_is_worked_out_once_whatever_it_costs(count: int, cost: float) -> None:
    done = np.zeros(count, np.int64)
    blocks: list[tuple[int, int]] = []

    def kernel(_a: Any, _b: Any, which: Any, first: int, last: int) -> None:
        done[first:last] += which[first:last]
        blocks.append((first, last))

    over_cores(cost, kernel, None, None, np.ones(count, np.int64))
    assert (done == 1).all()
    assert sum(last - first for first, last in blocks) == count
    assert all(first < last for first, last in blocks)


def test_what_one_core_meets_in_its_block_is_told(monkeypatch: pytest.MonkeyPatch) -> None:
    def kernel(_a: Any, _b: Any, _which: Any, first: int, last: int) -> None:
        if first <= 700 < last:
            raise ZeroDivisionError("the seven hundredth")

    monkeypatch.setattr(making, "_CORES", 3)
    monkeypatch.setattr(making, "_pool", None)
    with pytest.raises(ZeroDivisionError, match="the seven hundredth"):
        over_cores(50.0, kernel, None, None, np.ones(1000))
