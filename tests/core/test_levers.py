"""Levers by re-solving, the choices with their reasons, and many candidates at once."""

from __future__ import annotations

import numpy as np
import pytest

from ebbrin.build.build import Build
from ebbrin.core.records import changed, part_of, stack
from ebbrin.core.studies import control_choice
from ebbrin.core.studies.assess import assess
from ebbrin.core.studies.batch import CHUNK_ELEMENTS, outcomes
from ebbrin.core.studies.chance import HOLDS
from ebbrin.core.studies.levers import LEVERS, applicable
from ebbrin.core.system.parts import Cases, System
from oracles.builds import edited, linnet, part, plain_build, to_core


def hot_build() -> Build:
    return part(
        plain_build(brake_power_kw=70, speed_km_h=40),
        air__shroud="none",
        radiator__blocked_face_share=0.1,
        radiator__blocked_tubes_share=0.1,
        radiator__scale_mm=0.1,
    )


def test_each_lever_is_worth_what_the_changed_system_says() -> None:
    system, cases = to_core(hot_build())
    a = assess(system, cases)
    names, others = applicable(system)
    assert names == a.levers.names
    assert set(names) == set(LEVERS) - {"half_glycol"}
    for k, other in enumerate(others):
        alone = assess(other, cases)
        gain = alone.limiting_ambient.ambient[0] - a.limiting_ambient.ambient[0]
        assert a.levers.ambient_gain[k, 0] == pytest.approx(gain, abs=0.02)
        if a.levers.settles[k, 0]:
            cooler = a.state.judged[0] - alone.state.judged[0]
            assert a.levers.cooler[k, 0] == pytest.approx(cooler, abs=1e-4)
            assert a.levers.spared[k, 0] == pytest.approx(alone.margin[0] - a.margin[0], abs=1e-4)


def test_a_lever_is_there_only_where_it_can_be_pulled() -> None:
    def offered(build: Build) -> tuple[str, ...]:
        return applicable(to_core(build)[0])[0]

    assert "pump_ratio" in offered(plain_build())
    assert "pump_ratio" not in offered(part(plain_build(), circuit__pump_drive="none"))
    assert "ram" in offered(part(plain_build(), air__ram_coefficient=0.7))  # to 0.9, the most that ducts give
    assert "ram" not in offered(part(plain_build(), air__ram_coefficient=0.71))


def test_levers_that_mend_help_and_one_that_changes_the_coolant_may_not() -> None:
    a = assess(*to_core(hot_build()))
    gains = dict(zip(a.levers.names, a.levers.ambient_gain[:, 0], strict=True))
    for name in ("core_area", "debris_cleared", "tubes_cleared", "descaled", "water", "ram"):
        assert gains[name] > 0.1
    assert gains["full_shroud"] < 0.0 < gains["ring_shroud"]  # moving, its fan holds ram air back
    assert gains["waterless"] < 0.0
    assert abs(gains["thermostat_down"]) < 1e-3  # capacity-limited: nothing but the time to get there


def test_a_lever_that_cures_says_so() -> None:
    build = part(plain_build(speed_km_h=0, brake_power_kw=30), air__shroud="none", air__fan__diameter_mm=300)
    a = assess(*to_core(build))
    assert not a.state.exists[0]
    cures = dict(zip(a.levers.names, a.levers.cures[:, 0], strict=True))
    assert cures["full_shroud"]
    assert not cures["cap_up"]
    assert not a.levers.settles.any()


def test_demo_queue_wants_a_shroud() -> None:
    # The story of the demo: the fan is unshrouded and air comes round the front.
    a = assess(*to_core(linnet()))
    best = a.levers.names[int(np.argmax(a.levers.ambient_gain[:, 0]))]
    assert best == "full_shroud"


def test_thermostat_reasons() -> None:
    system, _ = to_core(part(plain_build(), thermostat__opens_c=82))
    choice = control_choice.thermostat_choice(system, np.array([381.15]))
    names = [control_choice.ThermostatReason(r).name for r in choice.reason]
    assert names[:3] == ["TOO_COOL"] * 3
    assert names[3:5] == ["CHOSEN", "FURTHER_FROM_FITTED"]
    tight = control_choice.thermostat_choice(system, np.array([365.15]))
    assert set(tight.reason[3:]) == {control_choice.ThermostatReason.OPENS_TOO_LATE}
    assert tight.chosen == -1


def test_switch_reasons_near_a_low_limit_and_without_a_fan() -> None:
    system, _ = to_core(part(plain_build(), thermostat__opens_c=71))
    choice = control_choice.switch_choice(system, np.array([373.15]))
    names = [control_choice.SwitchReason(r).name for r in choice.reason]
    assert names[-2:] == ["TOO_NEAR_LIMIT"] * 2
    assert "CHOSEN" in names
    bare, _ = to_core(part(plain_build(), air__fan__kind="none", air__shroud="none"))
    none = control_choice.switch_choice(bare, np.array([381.15]))
    assert none.chosen == -1
    assert set(none.reason) == {control_choice.SwitchReason.NO_FAN}
    assert none.fitted_works


def many(n: int) -> tuple[System, Cases]:
    system, cases = to_core(linnet())
    rng = np.random.default_rng(7)
    for path, low, high in (
        ("core.width", 0.3, 0.8),
        ("core.depth", 0.02, 0.06),
        ("air.ram", 0.2, 0.9),
        ("circuit.thermostat.opens", 345.0, 365.0),
        ("circuit.pump.run_out", 1e-3, 6e-3),
    ):
        system = changed(system, path, rng.uniform(low, high, (n, 1)))
    return system, cases


def test_chunks_and_threads_change_nothing() -> None:
    cases_per_chunk = CHUNK_ELEMENTS // 4
    system, cases = many(cases_per_chunk + 37)
    out = outcomes(system, cases)
    assert out is not None
    assert out.margin.shape == (cases_per_chunk + 37, 4)
    some = np.array([0, 5, cases_per_chunk - 1, cases_per_chunk, cases_per_chunk + 36])
    few = outcomes(part_of(system, some), cases, workers=1)
    assert few is not None
    assert few.hot == pytest.approx(out.hot[some], abs=1e-3)
    assert few.margin == pytest.approx(out.margin[some], abs=1e-3)
    assert (np.isposinf(out.hot) == np.isneginf(out.margin)).all()


def test_batch_agrees_with_the_assessment() -> None:
    system, cases = many(3)
    out = outcomes(system, cases)
    assert out is not None
    for i in range(3):
        alone = part_of(system, np.array([i]))
        only = assess(_scalar(alone), cases)
        assert only.run.timed.any()
        assert out.margin[i] == pytest.approx(only.margin, abs=1e-3)


def _scalar(system: System) -> System:
    for path in (
        "core.width",
        "core.depth",
        "air.ram",
        "circuit.thermostat.opens",
        "circuit.pump.run_out",
    ):
        value = system
        for name in path.split("."):
            value = getattr(value, name)
        system = changed(system, path, np.asarray(value)[0, 0])
    return system


def test_a_batch_stops_when_told() -> None:
    system, cases = many(3 * (CHUNK_ELEMENTS // 4))
    seen: list[float] = []

    def proceed(share: float) -> bool:
        seen.append(share)
        return False

    assert outcomes(system, cases, proceed=proceed) is None
    assert seen
    assert seen[0] <= 1.0


def test_stack_keeps_what_all_share() -> None:
    system, _ = to_core(plain_build())
    other = changed(system, "core.width", np.asarray(0.7))
    both = stack([system, other])
    assert both.vehicle is system.vehicle
    assert both.core.height is system.core.height
    assert both.core.width.shape == (2, 1)


def test_needed_air_is_bounded_where_hardly_any_would_do() -> None:
    a = assess(*to_core(edited(plain_build(brake_power_kw=1, engine_rpm=900), site__ambient_c=-30)))
    assert a.air_need.found[0]
    assert a.air_need.needed[0] < 0.1 * a.air_need.available[0]
    assert a.verdict[0] == HOLDS


def test_an_assessment_without_levers_says_the_same_of_the_rest() -> None:
    system, cases = to_core(linnet())
    whole, quick = assess(system, cases), assess(system, cases, with_levers=False)
    assert quick.levers.names == ()
    assert quick.verdict.tolist() == whole.verdict.tolist()
    assert quick.margin == pytest.approx(whole.margin, abs=1e-4)
    assert quick.limiting_ambient.ambient == pytest.approx(whole.limiting_ambient.ambient, abs=0.02)
