"""Where the switch leaves a fan: the quick answer is the whole one's, and each stage is held by its own points."""

from __future__ import annotations

import numpy as np
import pytest

from ebbrin.core.airpath.fan import FULL, OFF
from ebbrin.core.base import BoolArray, DomainError, FloatArray
from ebbrin.core.records import changed
from ebbrin.core.system import limits, timed
from ebbrin.core.system.balance import coolant_at, shed, shed_with_air
from ebbrin.core.system.demand import demand, full_demand
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.settle import settle
from ebbrin.core.system.steady import SteadyState, judged_by, steady_state
from oracles.builds import linnet, to_core
from oracles.made import made

pytestmark = pytest.mark.long

CLOSE = 2e-3  # K; twice what a balance that closes to 4e-7 of its heat leaves open, and the switch's own point besides


def steadily(cases: Cases) -> Cases:
    """The same cases, none of them timed."""
    return changed(cases, "duration", np.full_like(cases.duration, np.inf))


def limit_of(system: System, cases: Cases) -> FloatArray:
    """What each case is judged by [K]."""
    boils = limits.boiling_temperature(system, cases, system.cap.holds)
    shape = np.broadcast_shapes(np.shape(boils), system.lead, cases.lead)
    return np.broadcast_to(limits.limit_temperature(system, boils), shape)


def both(system: System, cases: Cases) -> tuple[FloatArray, SteadyState]:
    """What is judged by the short way, and the whole state."""
    limit = limit_of(system, cases)
    return judged_by(system, cases, limit), steady_state(system, cases, limit)


def agree(short: FloatArray, state: SteadyState) -> BoolArray:
    there = state.exists | state.hunts
    same = np.where(there, np.abs(short - state.judged) <= CLOSE, np.isinf(short))
    return np.asarray(same)


@pytest.mark.parametrize("first", [0, 60, 120, 180])
def test_what_is_judged_the_short_way_is_what_the_whole_state_says(first: int) -> None:
    seen = cycling = 0
    for seed in range(first, first + 60):
        build = made(seed)
        if build is None:
            continue
        system, cases = to_core(build)
        try:
            short, state = both(system.checked(), steadily(cases.checked()))
        except DomainError:
            continue
        assert agree(short, state).all(), seed
        seen += short.size
        cycling += int(state.cycles.sum())
    assert seen > 100
    assert cycling > 0


def swinging(count: int) -> tuple[System, Cases]:
    """Candidates around the demo's whose fans go to and fro, rest, run through, start too late and never suffice."""
    system, cases = to_core(linnet())
    rng = np.random.default_rng(7)
    on = rng.uniform(355.0, 392.0, (count, 1))
    for path, values in (
        ("core.width", rng.uniform(0.3, 0.8, (count, 1))),
        ("air.ram", rng.uniform(0.0, 0.9, (count, 1))),
        ("fan_switch.on", on),
        ("fan_switch.off", on - rng.uniform(0.5, 20.0, (count, 1))),
    ):
        system = changed(system, path, values)
    return system.checked(), steadily(cases.checked())


def test_fans_of_every_conduct_are_judged_the_same_way_by_both() -> None:
    system, cases = swinging(400)
    short, state = both(system, cases)
    assert agree(short, state).all()
    # All that a fan can do is among them.
    for conduct in (
        state.cycles,
        state.runs_on,
        state.by_switch,
        ~state.exists,
        state.stage == OFF,
        state.duty == 1.0,
    ):
        assert 5 < conduct.sum() < conduct.size - 5


def test_a_fan_goes_to_and_fro_where_each_of_its_stages_sends_it_to_the_other() -> None:
    system, cases = swinging(400)
    state = steady_state(system, cases, limit_of(system, cases))
    rest, run = settle(system, cases, OFF), settle(system, cases, FULL)
    on, off = (
        np.broadcast_to(v, state.top_hose.shape) for v in (system.fan_switch.on, system.fan_switch.off)
    )
    starts = ~rest.exists | (rest.top_hose > on)
    stops = run.exists & (run.top_hose < off)
    clear = (np.abs(rest.top_hose - on) > CLOSE) & (np.abs(run.top_hose - off) > CLOSE)
    assert (state.cycles == (starts & stops))[clear].all()
    assert (state.top_hose[state.cycles] <= on[state.cycles] + CLOSE).all()
    assert (state.top_hose[state.cycles] >= off[state.cycles] - CLOSE).all()
    assert ((state.duty > 0.0) & (state.duty < 1.0))[state.cycles & clear].all()
    # One that rests has its own balance, one that runs through the other.
    assert np.abs(state.top_hose - rest.top_hose)[~starts & clear].max() <= CLOSE
    through = starts & ~stops & run.exists & clear
    assert np.abs(state.top_hose - run.top_hose)[through].max() <= CLOSE


def test_a_cycle_sheds_in_the_mean_what_it_is_sent() -> None:
    system, cases = swinging(400)
    state = steady_state(system, cases, limit_of(system, cases))
    assert state.cycles.sum() > 20
    assert state.heat_shed[state.cycles] == pytest.approx(state.heat_in[state.cycles], rel=2e-3)


@pytest.mark.parametrize("stage", [OFF, FULL])
def test_air_is_the_same_wherever_it_is_looked_for_from(stage: int) -> None:
    # Foreseen from another coolant temperature, far or near, up or down, and from nothing.
    system, cases = swinging(60)
    top = np.broadcast_to(np.array([350.0, 352.0, 380.0, 355.0])[:, None, None], (4, 60, cases.ambient.size))
    heat = np.broadcast_to(full_demand(system, cases, stage).total, top.shape)
    coolant = coolant_at(system, cases, top, heat)
    afresh = shed(system, cases, stage, top, coolant, heat)
    for other in (1, 2, 3):
        at = [0, other]
        ahead = shed(
            system, cases, stage, top[other], coolant_at(system, cases, top[other], heat[other]), heat[other]
        )
        from_there = shed(
            system, cases, stage, top[0], coolant_at(system, cases, top[0], heat[0]), heat[0], near=ahead.air
        )
        assert from_there.heat == pytest.approx(afresh.heat[at[0]], rel=2e-5)
        assert from_there.air.velocity == pytest.approx(afresh.air.velocity[at[0]], rel=2e-5)


def test_a_timed_case_that_ends_at_its_limit_is_neither_here_nor_there() -> None:
    # In the air that the limit is found for it ends there, in cooler air below and in hotter air above.
    seen = 0
    for seed in range(200):
        build = made(seed)
        if build is None:
            continue
        system, cases = to_core(build)
        which = np.flatnonzero(np.isfinite(cases.duration))
        if not which.size:
            continue
        try:
            system, cases = system.checked(), cases.checked().taken(which)
            limit = limit_of(system, cases)
            ambient, found = timed.ambient_for(system, cases, limit)
        except DomainError:
            continue
        inside = found & (ambient > timed.COLDEST_AIR + 5.0) & (ambient < np.minimum(333.0, limit - 8.0))
        for n in np.flatnonzero(inside):
            one = cases.taken(np.array([n]))
            ends = [
                float(
                    timed.end_of(system, changed(one, "ambient", ambient[n : n + 1] + by), limit[n : n + 1])[
                        0
                    ]
                )
                for by in (-3.0, 0.0, 3.0)
            ]
            if not ends[0] < ends[1] < ends[2]:
                continue  # one that throttles less in thin air
            assert ends[0] - 0.1 <= limit[n] <= ends[2] + 0.1, seed
            assert ends[1] == pytest.approx(limit[n], abs=0.35), seed
            seen += 1
    assert seen > 10


def test_air_that_is_given_carries_what_the_same_air_found_does() -> None:
    system, cases = swinging(40)
    top = np.full((40, cases.ambient.size), 365.0)
    heat = full_demand(system, cases, FULL).total
    coolant = coolant_at(system, cases, top, heat)
    found = shed(system, cases, FULL, top, coolant, heat)
    given = shed_with_air(system, cases, FULL, top, coolant, heat, found.air.velocity, found.air.mean)
    assert given.heat == pytest.approx(found.heat, rel=1e-5)
    assert demand(system, cases, found.air.fan_ratio).total == pytest.approx(heat, rel=1e-9)
