"""Curves beside the stations: they pass through the answer, and rise and fall as they must."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest

from ebbrin.build.build import Build
from ebbrin.build.resolve import UnknownCase, UnknownVariant
from ebbrin.demo import demo_builds
from ebbrin.features.curves.coolants import compare
from ebbrin.features.curves.service import CONDITIONS, air_lines, condition_costs, flow_lines, heat_curves
from ebbrin.features.judge.answers import CaseResult
from ebbrin.features.judge.service import evaluate
from oracles.builds import linnet, part, plain_build
from oracles.made import made

BUILDS = [(build, v.id) for build in demo_builds() for v in build.variants]
NAMES = [f"{build.name} {variant}" for build, variant in BUILDS]


def result_of(build: Build, variant: str, case_id: str) -> CaseResult:
    return next(c for c in evaluate(build, variant, levers=False).cases if c.id == case_id)


def rises(values: list[float]) -> bool:
    return all(b > a for a, b in pairwise(values))


def test_heat_passes_through_the_state_and_never_falls() -> None:
    found = heat_curves(linnet(), "as-found", "hill")
    assert rises([p.heat_kw for p in found.coolant])
    assert rises([p.heat_kw for p in found.air])
    case = result_of(linnet(), "as-found", "hill")
    assert found.heat_kw == pytest.approx(case.heat_kw, rel=1e-6)
    assert found.air_now_m3_per_s == pytest.approx(case.air_available_m3_per_s)
    # More air than a case needs sheds more than its heat.
    case, found = result_of(linnet(), "as-found", "motorway"), heat_curves(linnet(), "as-found", "motorway")
    assert case.air_needed_m3_per_s is not None
    assert all(p.heat_kw > found.heat_kw for p in found.air if p.flow_m3_per_s >= case.air_needed_m3_per_s)


@pytest.mark.parametrize(("build", "variant"), BUILDS, ids=NAMES)
def test_fan_meets_its_resistance_at_the_flow_of_the_answer(build: Build, variant: str) -> None:
    for case in build.cases:
        lines = air_lines(build, variant, case.id)
        whole = sum(zone.flow_m3_per_s for zone in lines.zones)
        answer = result_of(build, variant, case.id)
        assert whole == pytest.approx(answer.air_available_m3_per_s, rel=1e-4)
        assert sum(zone.face_share for zone in lines.zones) == pytest.approx(1.0, abs=1e-9)
        for zone in lines.zones:
            flow = [p.flow_m3_per_s for p in zone.resistance]
            against = np.interp(zone.flow_m3_per_s, flow, [p.pressure_pa for p in zone.resistance])
            # Straight between points of a curve: within a few per cent of its own height.
            assert against == pytest.approx(zone.pressure_pa, abs=0.5 + 0.02 * abs(zone.pressure_pa))
            if zone.fan:
                adds = np.interp(zone.flow_m3_per_s, flow, [p.pressure_pa for p in zone.fan])
                assert adds == pytest.approx(zone.pressure_pa, abs=0.5 + 0.02 * abs(zone.pressure_pa))


@pytest.mark.parametrize("seed", range(48))
def test_curves_of_any_build_are_drawn_and_each_zone_has_its_own_fan(seed: int) -> None:
    # One fan behind a condenser that covers part of it serves two zones (seed 31); scale up to the least bore (45).
    build = made(seed)
    if build is None:
        pytest.skip("excludes itself")
    variant, case = build.variants[0].id, build.cases[0].id
    for zone in air_lines(build, variant, case).zones:
        if zone.fan:
            flow, adds = zip(*((p.flow_m3_per_s, p.pressure_pa) for p in zone.fan), strict=True)
            height = max(abs(p) for p in adds)
            assert np.interp(zone.flow_m3_per_s, flow, adds) == pytest.approx(
                zone.pressure_pa, abs=0.05 * height + 0.5
            )
    costs = condition_costs(build, variant, case).conditions
    assert {cost.field for cost in costs} == set(CONDITIONS)
    assert heat_curves(build, variant, case).heat_kw > 0.0
    assert rises([p.flow_l_per_min for p in flow_lines(build, variant, case).pump])


def test_resistance_of_a_zone_rises_with_its_flow() -> None:
    for zone in air_lines(linnet(), "shroud", "motorway").zones:
        assert rises([p.pressure_pa for p in zone.resistance])


@pytest.mark.parametrize(("build", "variant"), BUILDS, ids=NAMES)
def test_pump_meets_its_resistance_at_the_flow_of_the_answer(build: Build, variant: str) -> None:
    for case in build.cases:
        lines = flow_lines(build, variant, case.id)
        answer = result_of(build, variant, case.id)
        total = answer.coolant_flow_l_per_min + answer.bypass_flow_l_per_min + answer.heater_flow_l_per_min
        assert lines.now.flow_l_per_min == pytest.approx(total, rel=1e-6)
        assert lines.now.pressure_kpa == pytest.approx(answer.pump_rise_kpa, rel=1e-6)
        gives = np.interp(total, [p.flow_l_per_min for p in lines.pump], [p.pressure_kpa for p in lines.pump])
        assert gives == pytest.approx(answer.pump_rise_kpa, rel=0.02)
        for line in (lines.wide_open, lines.shut):
            assert rises([p.flow_l_per_min for p in line])
            assert rises([p.pressure_kpa for p in line])
        # A shut thermostat resists more at the same flow.
        wide, shut = lines.wide_open[-1], lines.shut[-1]
        assert shut.pressure_kpa / shut.flow_l_per_min**2 > wide.pressure_kpa / wide.flow_l_per_min**2
        if answer.cavitation_rpm:
            assert lines.cavitates is not None
            assert lines.cavitates.rpm == pytest.approx(answer.cavitation_rpm, rel=1e-3)


def test_without_a_pump_the_rise_of_hot_coolant_meets_the_resistance_at_the_flow_of_the_answer() -> None:
    build = part(
        plain_build(speed_km_h=25, brake_power_kw=4, engine_rpm=1200),
        engine__kind="side_valve",
        engine__rated_power_kw=15,
        engine__rated_rpm=1800,
        circuit__pump_drive="none",
        circuit__jacket_drop_kpa=0.5,
        circuit__hose_bore_mm=55,
        thermostat__opens_c=60,
        thermostat__drop_kpa=0.5,
        air__fan__kind="mechanical",
        air__fan__engaged_share=1.0,
        air__fan__disengaged_share=1.0,
    )
    answer = evaluate(build, levers=False).cases[0]
    lines = flow_lines(build, "v", "one")
    assert not lines.pumped
    assert lines.cavitates is None
    total = lines.now.flow_l_per_min
    driven = [(p.flow_l_per_min, p.pressure_kpa) for p in lines.pump]
    flows, lifts = np.array(driven).T
    assert np.interp(total, flows, lifts) == pytest.approx(answer.pump_rise_kpa, rel=0.01)
    assert all(b[1] <= a[1] for a, b in pairwise(driven))
    assert driven[-1][1] > 0.0
    opened = [(p.flow_l_per_min, p.pressure_kpa) for p in lines.wide_open]
    assert opened[-1][0] > opened[0][0] > 0.0
    assert all(b[1] >= a[1] for a, b in pairwise(opened))


def test_an_electric_pump_has_a_line_of_its_own_speed() -> None:
    build = part(plain_build(), circuit__pump_drive="electric", circuit__electric_rpm=4000)
    lines = flow_lines(build, "v", "one")
    assert lines.now.rpm == pytest.approx(4000)
    assert lines.cavitates is None


def test_condition_costs_what_the_clean_core_would_shed_more() -> None:
    silted = part(plain_build(), radiator__blocked_tubes_share=0.3, radiator__scale_mm=0.2)
    found = {c.field: c for c in condition_costs(silted, "v", "one").conditions}
    assert set(found) == set(CONDITIONS)
    for name, fault in found.items():
        assert rises([p.value for p in fault.points])
        assert rises([-p.heat_kw for p in fault.points])
        values, heats = zip(*[(p.value, p.heat_kw) for p in fault.points], strict=True)
        assert fault.cost_kw == pytest.approx(heats[0] - np.interp(fault.value, values, heats), abs=0.05)
        assert (fault.cost_kw == 0.0) == (fault.value == 0.0), name
    # The same, by heat balance: with the tubes cleared, at the same limit, the core sheds so much more.
    clean = condition_costs(part(silted, radiator__blocked_tubes_share=0.0), "v", "one")
    before = {c.field: c for c in clean.conditions}["scale_mm"].points[0].heat_kw
    assert found["scale_mm"].points[0].heat_kw < before


def test_coolants_compared_are_what_the_build_would_give() -> None:
    found = compare(linnet(), "as-found", "queue")
    fitted, *others = found.outcomes
    assert fitted.fitted
    assert not any(o.fitted for o in others)
    answer = result_of(linnet(), "as-found", "queue")
    assert (fitted.top_hose_c, fitted.verdict) == (answer.top_hose_c, answer.verdict)
    by_kind = {o.kind: o for o in found.outcomes}
    # Common practice, no source: water runs coolest and boils first, waterless reads hotter and hardly boils.
    water, waterless = by_kind["water"], by_kind["waterless"]
    assert water.top_hose_c is not None
    assert waterless.top_hose_c is not None
    assert water.top_hose_c < fitted.top_hose_c < waterless.top_hose_c  # type: ignore[operator]
    assert water.boils_c < fitted.boils_c < waterless.boils_c
    assert water.freezes_c == pytest.approx(0.0, abs=0.01)
    assert rises([p.boils_c for p in found.strengths])
    assert rises([-p.freezes_c for p in found.strengths])


@pytest.mark.parametrize("build", demo_builds(), ids=lambda build: build.name)
def test_the_lines_of_strength_pass_through_what_is_fitted(build: Build) -> None:
    found = compare(build, build.variants[0].id, build.cases[0].id)
    fitted, lines = found.outcomes[0], found.strengths
    assert fitted.fitted
    for name in ("freezes_c", "boils_c", "boils_without_cap_c"):
        line = np.interp(fitted.share or 0.0, [p.share for p in lines], [getattr(p, name) for p in lines])
        assert line == pytest.approx(getattr(fitted, name), abs=0.02)


def test_curves_are_reckoned_at_the_limit_of_the_answer() -> None:
    # Where boiling less its margin is the limit, what the cap holds counts.
    build = part(linnet(), limits__top_hose_c=130)
    for case in evaluate(build, "as-found", levers=False).cases:
        assert heat_curves(build, "as-found", case.id).at_c == pytest.approx(case.limit_c, abs=1e-6)


@pytest.mark.parametrize("kind", ["water", "waterless", "propylene_glycol"])
def test_strengths_belong_to_the_kind_that_is_fitted(kind: str) -> None:
    found = compare(part(plain_build(), coolant__kind=kind), "v", "one")
    assert found.strength_of == ("ethylene_glycol" if kind == "water" else kind)
    assert sum(o.fitted for o in found.outcomes) == 1
    assert len({(o.kind, o.share) for o in found.outcomes}) == len(found.outcomes)


def test_unknown_variant_and_case_are_named() -> None:
    with pytest.raises(UnknownVariant, match="no variant none"):
        heat_curves(linnet(), "none", "hill")
    with pytest.raises(UnknownCase, match="no case none"):
        air_lines(linnet(), "as-found", "none")
