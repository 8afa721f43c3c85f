"""Work plans: nothing before what it needs, whatever the facts; every fact changes some plan; three plans read by a person."""

import json
import re
from itertools import product
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.build.build import Build
from ebbrin.build.car import Car
from ebbrin.core.cause.tables import OBSERVATIONS
from ebbrin.demo import demo_builds
from ebbrin.features.fit.mixing import for_the_fill
from ebbrin.features.fit.parts import parts_list
from ebbrin.features.fit.plan import Plan, plan_of, planned
from ebbrin.features.fit.proving import GaugeQuestion, GaugeReading, HoldQuestion, gauge, hold
from ebbrin.features.fit.situation import SCHOOL_WORDS, School, situation
from ebbrin.features.fit.table import STAGES, table
from ebbrin.features.judge import evaluate
from ebbrin.features.shelf import PRICES, shipped
from ebbrin.ground.words import Measure, printed
from oracles.made import made
from tests.features.fit.conftest import mule, with_variant

GOLDEN = Path(__file__).with_name("plans.json")
VALUES: dict[str, list[Any]] = {
    "drain": [None, "cock", "screw", "none"],
    "block_drains": [None, 0, 1, 3],
    "stays_share": [None, 0.1, 0.4],
    "filler": [None, "radiator", "remote", "bottle"],
    "filler_height_mm": [None, 400, 900],
    "heater_height_mm": [None, 300, 800],
    "outlet_height_mm": [None, 500, 700],
    "bleed_screws": [None, 0, 2],
    "bleed_height_mm": [None, 300, 950],
    "heater_flow": [None, "tap", "constant"],
    "vent_run": [None, "yes", "no"],
    "gearbox_lines": [None, "threaded", "quick", "hose"],
    **{
        name: [None, "yes", "no"]
        for name in (
            *("condenser_bolted", "fans_on_shroud", "shroud_lifts", "undertray", "heat_shield"),
            *("airbox", "battery", "strut", "sensor", "feet"),
        )
    },
    "fan_plugs": [None, 0, 2],
    "hoses_years": [None, 1, 12],
    "coolant_years": [None, 1, 9],
    **{name: [None, "good", "bad"] for name in ("hoses", "clamps", "cap", "thermostat", "belt")},
}


def test_every_fact_of_the_car_has_values_to_try() -> None:
    assert set(VALUES) == set(Car.model_fields)


def builds() -> list[tuple[Build, str]]:
    """Jobs of every kind: another core, a shroud, a coolant, a pump, a thermostat, nothing."""
    one = mule()
    jobs = [
        with_variant(one, "waterless", coolant={"kind": "waterless"}),
        with_variant(one, "weaker", coolant={"glycol_vol_share": 0.4}),
        with_variant(one, "electric", circuit={"pump_drive": "electric", "electric_rpm": 5000}),
        with_variant(one, "siphon", circuit={"pump_drive": "none"}),
        with_variant(one, "cooler", thermostat={"opens_c": 71}),
        with_variant(one, "switch", fan_switch={"on_c": 92, "off_c": 86}),
        with_variant(one, "cap", cap={"pressure_kpa": 90}),
        with_variant(one, "flushed", radiator={"blocked_tubes_share": 0.0, "blocked_face_share": 0.0}),
    ]
    found = [(job, job.variants[-1].id) for job in jobs]
    for build in demo_builds():
        standing = build.model_copy(update={"standing": build.variants[0].id})
        found += [(standing, variant.id) for variant in build.variants]
    return found


JOBS = builds()


def known_as(build: Build, car: dict[str, Any]) -> Build:
    return build.model_copy(update={"car": Car.model_validate(car)})


def steps_of(plan: Plan) -> dict[str, int]:
    return {step.id: step.number for step in plan.steps}


@given(
    st.sampled_from(JOBS),
    st.sampled_from(list(SCHOOL_WORDS)),
    st.fixed_dictionaries({name: st.sampled_from(values) for name, values in VALUES.items()}),
)
def test_no_step_stands_before_what_it_needs(
    job: tuple[Build, str], school: School, car: dict[str, Any]
) -> None:
    build, variant = job
    plan = plan_of(situation(known_as(build, car), variant, school))
    at = steps_of(plan)
    assert sorted(at.values()) == list(range(1, len(at) + 1))
    table_after = {row.id: row for row in table().step}
    for step in plan.steps:
        # What the table says directly, apart from how the order was found.
        for before in (*table_after[step.id].after, *table_after[step.id].only_after):
            assert before not in at or at[before] < at[step.id], (before, step.id)
        assert all(at[one.step] < at[step.id] for one in step.if_skipped)
    # Facts of the trade, whatever else is so.
    for first, then in (
        ("cold", "cap_off"),
        ("cap_off", "drain_cock"),
        ("cap_off", "drain_hose"),
        ("basin", "drain_cock"),
        ("basin", "drain_hose"),
        ("battery_off", "fan_out"),
        ("battery_off", "fans_shroud_out"),
        ("condenser_off", "lift_out"),
        ("lift_out", "core_in"),
        ("lines_threaded_off", "lift_out"),
        ("drain_shut", "fill"),
        ("fill", "idle"),
        ("cool_funnel", "cap_on"),
        ("cap_on", "second_cycle"),
        ("second_cycle", "road"),
        ("shroud_in", "battery_on"),
        ("battery_on", "idle"),
        ("stands", "undertray_off"),
        ("thermostat_swap", "fill"),
        ("waterless_flush", "fill"),
    ):
        assert first not in at or then not in at or at[first] < at[then], (first, then)
    pairs = [("undertray_off", "tray_on"), ("airbox_off", "airbox_on"), ("battery_off", "battery_on")]
    pairs += [("battery_out", "battery_in"), ("strut_off", "strut_on"), ("heat_shield_off", "shield_on")]
    pairs += [("condenser_off", "condenser_on"), ("lift_out", "core_in"), ("fan_plugs_off", "fan_plugs_on")]
    for off, on in pairs:
        assert (off in at) == (on in at), (off, on)
    ways = {"drain_cock", "drain_screw", "drain_hose", "drain_partly"} & at.keys()
    assert len(ways) == ("fill" in at)
    if "lower_hose_off" in at or "drain_hose" in at:
        assert "lower_hose_on" in at
    if {"lines_threaded_off", "lines_quick_off", "lines_hose_off"} & at.keys():
        assert "lines_on" in at


@pytest.mark.long
def test_every_fact_changes_some_plan() -> None:
    def shown(build: Build, variant: str, car: dict[str, Any], school: School) -> str:
        plan = plan_of(situation(known_as(build, car), variant, school))
        return json.dumps(
            [(step.id, printed(step.title), [printed(line) for line in step.how]) for step in plan.steps]
        )

    usual = {
        "drain": "cock",
        "block_drains": 0,
        "bleed_screws": 2,
        "heater_height_mm": 600,
        "outlet_height_mm": 500,
        "filler_height_mm": 700,
        "bleed_height_mm": 800,
        "filler": "bottle",
        "vent_run": "no",
        "fans_on_shroud": "no",
    }
    plain = {**usual, "bleed_screws": 0, "filler": "radiator"}
    bases = (usual, plain, {**plain, "filler_height_mm": 400})

    def changes(name: str) -> bool:
        first, *others = (value for value in VALUES[name] if value is not None)
        for school, (build, variant), base in product(SCHOOL_WORDS, JOBS, bases):
            plan = shown(build, variant, {**base, name: first}, school)
            if any(shown(build, variant, {**base, name: value}, school) != plan for value in others):
                return True
        return False

    assert [name for name in VALUES if not changes(name)] == []


def test_the_table_holds_together() -> None:
    rows = table().step
    ids = [row.id for row in rows]
    cautions = {row.id for row in table().caution}
    assert len(set(ids)) == len(ids)
    for row in rows:
        assert set(row.after) | set(row.only_after) <= set(ids), row.id
        assert set(row.cautions) <= cautions, row.id
        assert {one.at for one in row.skipped} <= set(ids), row.id
        assert row.stage in STAGES
        for sign in row.bad:
            for observation, value in sign.evidence.items():
                assert value in OBSERVATIONS[observation].values, (row.id, observation, value)
    used = {name for row in rows for name in row.cautions}
    assert used == cautions


def test_cautions_stand_at_their_step() -> None:
    plan = plan_of(situation(mule(), "core-fans", "usual"))
    by_id = {step.id: " ".join(printed(caution) for caution in step.cautions) for step in plan.steps}
    assert "Never open it hot" in by_id["cap_off"]
    assert "kills pets" in by_id["drain_cock"]
    assert "starts by itself" in by_id["fan_plugs_off"]
    assert "minus off first" in by_id["battery_off"]
    assert "stands" in by_id["stands"]
    assert "never rev" in by_id["idle"]
    assert "Exhaust" in by_id["idle"]
    assert "138 kPa" in by_id["hold"]
    assert "licensed" in by_id["condenser_off"]


def test_numbers_are_those_of_the_build() -> None:
    plan = plan_of(situation(mule(), "core-fans", "usual"))
    said = {step.id: " ".join(printed(line) for line in step.how) for step in plan.steps}
    assert "82 °C" in said["thermostat_test"]
    assert "103 kPa" in said["hold"]
    assert "96 °C" in said["fan_watch"]
    assert "14.0 L" in said["basin"]
    assert "Both plugs" in said["fan_plugs_off"]


def test_the_gauge_is_never_pumped_above_the_weakest_part() -> None:
    build = with_variant(
        mule(),
        "strong",
        cap={"pressure_kpa": 200, "weakest_part_kpa": 120},
        coolant={"glycol_vol_share": 0.4},
    )
    plan = plan_of(situation(build, "strong", "usual"))
    hold = next(step for step in plan.steps if step.id == "hold")
    assert "Pump to 120 kPa" in printed(hold.how[0])


def test_a_skipped_step_is_said_where_it_matters() -> None:
    plan = plan_of(situation(mule(), "core-fans", "usual"))
    mix = next(step for step in plan.steps if step.id == "mix")
    assert any(one.step == "block_drain" and "third of the old coolant" in one.text for one in mix.if_skipped)


def test_without_a_change_there_is_nothing_to_do() -> None:
    plan = plan_of(situation(mule(clamps="good", thermostat="good", cap="good"), "as-found", "usual"))
    assert plan.steps == []
    assert "Nothing is to be changed" in printed(plan.does)


def test_only_a_switch_or_a_thermostat_drains_a_part() -> None:
    build = with_variant(mule(coolant_years=1, clamps="good"), "cooler", thermostat={"opens_c": 71})
    plan = plan_of(situation(build, "cooler", "bad"))
    at = steps_of(plan)
    assert "drain_partly" in at
    assert not {"drain_cock", "block_drain", "mix", "flush_run"} & at.keys()
    part = next(step for step in plan.steps if step.id == "drain_partly")
    # The outlet stands 520 of 560 mm up: a fourteenth of 14 L is above it, and 15 % of that in reserve.
    runs = next(piece.value for piece in part.title if isinstance(piece, Measure))
    assert runs == pytest.approx(14.0 * 40.0 / 560.0 * 1.15)


@pytest.mark.parametrize(("number", "variant"), [(0, "sealed"), (1, "core-fans"), (2, "shroud")])
def test_the_plans_of_the_demo_builds_are_as_they_were_read(number: int, variant: str) -> None:
    build = demo_builds()[number]
    standing = build.model_copy(update={"standing": build.variants[0].id})
    plan = plan_of(situation(standing, variant, "usual"))
    golden = json.loads(GOLDEN.read_text(encoding="utf-8"))
    assert [step.id for step in plan.steps] == golden[build.name]


@pytest.mark.parametrize("seed", range(12))
def test_any_build_has_a_plan_a_list_and_a_hold(seed: int) -> None:
    """Builds made over their whole ranges: none is refused, and every amount is a number."""
    build = made(seed)
    assert build is not None
    for school in SCHOOL_WORDS:
        chosen = build.variants[-1].id
        assert plan_of(situation(build, chosen, school)).minutes >= 0.0
        found = parts_list(build, chosen, school, list(shipped()))
        assert all(line.price is None or 0.0 <= line.price < 1e6 for line in found.lines)
    shown = gauge(GaugeQuestion(build=build, variant=build.variants[0].id, leak_ml_h=20.0))
    readings = [GaugeReading(at_s=one.at_s, pressure_kpa=one.pressure_kpa) for one in shown]
    result = hold(HoldQuestion(build=build, variant=build.variants[0].id, readings=readings))
    assert result.low_ml_h <= result.leak_ml_h <= result.high_ml_h


def test_a_part_that_the_chosen_variant_has_not_is_taken_out_and_not_bought() -> None:
    bare = with_variant(mule(), "bare", air={"fan": {"kind": "none"}, "shroud": "none"})
    so = situation(bare, "bare", "bad")
    plan = plan_of(so)
    assert "fan taken out, shroud taken out" in printed(plan.does)
    new = printed(plan.does).split(", fan taken out")[0].split(": ")[1]
    assert not {"fan", "shroud", "fan switch"} & set(
        new.removeprefix("new ").replace(" and ", ", ").split(", ")
    )
    ids = {step.id for step in plan.steps}
    assert "fan_out" in ids or "fans_shroud_out" in ids
    assert not ids & {"fan_plugs_on", "shroud_in", "fan_watch"}
    assert not {line.id for line in parts_list(bare, "bare", "bad", []).lines} & {
        "fan",
        "shroud",
        "fan_switch",
    }


def test_without_its_fan_a_shroud_goes_too_whatever_its_field_still_says() -> None:
    assert mule().variants[0].air.shroud != "none"
    plan = plan_of(situation(with_variant(mule(), "bare", air={"fan": {"kind": "none"}}), "bare", "bad"))
    assert "fan taken out, shroud taken out" in printed(plan.does)
    assert "shroud_in" not in steps_of(plan)


def test_a_pump_is_taken_out_between_draining_and_filling_and_its_belt_with_it() -> None:
    so = situation(with_variant(mule(), "siphon", circuit={"pump_drive": "none"}), "siphon", "bad")
    plan = plan_of(so)
    at = steps_of(plan)
    assert "pump taken out" in printed(plan.does)
    assert "pump_swap" not in at
    drained = next(at[name] for name in ("drain_cock", "drain_screw", "drain_hose") if name in at)
    filled = next(at[step.id] for step in plan.steps if step.stage == "fill")
    assert drained < at["pump_out"] < filled
    assert mule().variants[0].circuit.pump_drive == "belt"
    assert at["belt_off"] < at["pump_out"]
    # Nothing of the new variant needs it back on.
    assert "belt_on" not in at


def test_a_belt_comes_off_for_the_pump_that_it_drove_though_the_new_one_needs_none() -> None:
    electric = with_variant(mule(), "electric", circuit={"pump_drive": "electric", "electric_rpm": 5000})
    at = steps_of(plan_of(situation(electric, "electric", "bad")))
    assert at["belt_off"] < at["pump_swap"]
    assert "belt_on" not in at


def test_what_is_caught_and_what_stays_behind_is_of_the_fill_that_is_in_the_car() -> None:
    grown = with_variant(
        mule(), "grown", radiator={"width_mm": 700, "height_mm": 500}, coolant={"volume_l": 20.0}
    )
    grown.variants[0].coolant.volume_l = 8.0
    so = situation(grown, "grown", "bad")
    basin = next(step for step in plan_of(so).steps if step.id == "basin")
    assert "8.0 L that is in there" in printed(basin.how[0]).replace("\u202f", " ").replace("\xa0", " ")
    poured = for_the_fill(so)
    assert poured.left_l == pytest.approx(so.left_behind * 8.0)
    assert poured.pours_l == pytest.approx(20.0 - so.left_behind * 8.0)


def test_what_the_workbench_has_against_the_chosen_variant_is_said_before_it_is_bought() -> None:
    def said(build: Build, variant: str) -> list[str]:
        return [printed(text) for text in planned(build, variant, "usual").against]

    assert said(mule(), "core-fans") == []
    fails = [c.name for c in evaluate(mule(), "core", levers=False).cases if c.verdict == "fails"]
    assert fails
    assert said(mule(), "core")[0] == f"By the workbench “Bigger core” fails in {'; '.join(fails)}."
    # A core that does not go in, a cap that a part does not stand, a coolant that freezes: bought, they are paid for.
    wrong = with_variant(
        mule(),
        "wrong",
        radiator={"width_mm": 900.0},
        cap={"pressure_kpa": 138.0, "weakest_part_kpa": 110.0},
        coolant={"kind": "water"},
    )
    text = " ".join(said(wrong, "wrong"))
    assert "The core is 900 mm wide; the car has room for 740 mm." in text
    assert "The cap holds 138 kPa" in text
    assert "The coolant freezes at 0 °C" in text
    unknown = with_variant(mule(), "unknown", radiator={"width_mm": None})
    assert said(unknown, "unknown") == []


def test_the_joints_to_look_at_are_those_that_the_car_has() -> None:
    def joints(build: Build, variant: str) -> str:
        steps = plan_of(situation(build, variant, "usual")).steps
        return printed(next(step for step in steps if step.id == "look_joints").how[0])

    whole = mule(drain="cock", gearbox_lines="hose")
    said = joints(whole, "core")
    assert said == "Hoses, housing, drain, pump and cooler lines: first heat cycle passed without a drop."
    bare = with_variant(
        mule(drain="none"), "bare", circuit={"pump_drive": "none"}, engine={"gearbox_cooler": False}
    )
    document = bare.model_dump(mode="json")
    document["variants"][0]["engine"]["gearbox_cooler"] = False
    said = joints(Build.model_validate(document), "bare")
    assert said == "Hoses and housing: first heat cycle passed without a drop."


def test_a_fan_that_draws_more_is_wired_with_the_battery_off() -> None:
    plan = plan_of(situation(mule(), "core-fans", "bad"))
    at = steps_of(plan)
    assert at["battery_off"] < at["wire_up"] < at["fan_plugs_on"] < at["battery_on"]
    wire = next(step for step in plan.steps if step.id == "wire_up")
    line = next(
        line for line in parts_list(mule(), "core-fans", "bad", list(shipped())).lines if line.id == "wiring"
    )
    assert printed(line.amount) in printed(wire.how[0])
    assert "wire_up" not in steps_of(plan_of(situation(mule(), "core", "all")))


def test_another_pulley_has_its_step_its_price_and_its_words() -> None:
    build = with_variant(mule(), "faster", circuit={"belt_ratio": 1.6})
    plan = plan_of(situation(build, "faster", "bad"))
    at = steps_of(plan)
    assert at["belt_off"] < at["pulley_swap"] < at["belt_on"]
    assert "another pulley for the pump" in printed(plan.does)
    swap = next(step for step in plan.steps if step.id == "pulley_swap")
    assert printed(swap.how[0]).startswith("The pump's, of ratio 1.60")
    line = next(
        line for line in parts_list(build, "faster", "bad", list(shipped())).lines if "Pulley" in line.title
    )
    assert (line.title, printed(line.amount), line.price) == (
        "Pulley for the pump",
        "of ratio 1.60",
        PRICES["pulley"],
    )
    assert "faster" in printed(line.why)
    assert "pulley_swap" not in steps_of(plan_of(situation(mule(), "core", "all")))


def test_another_pulley_for_a_driven_fan_is_no_new_fan() -> None:
    build = demo_builds()[2]
    fan = {**build.variants[0].air.fan.model_dump(mode="json"), "pulley_ratio": 0.9}
    air = {**build.variants[0].air.model_dump(mode="json"), "fan": fan}
    slower = with_variant(build, "slower", air=air)
    plan = plan_of(situation(slower, "slower", "bad"))
    assert "another pulley for the fan" in printed(plan.does)
    assert "new fan" not in printed(plan.does)
    assert {"belt_off", "pulley_swap", "belt_on"} <= set(steps_of(plan))
    line = next(
        line for line in parts_list(slower, "slower", "bad", list(shipped())).lines if "Pulley" in line.title
    )
    assert "slower" in printed(line.why)


def test_what_else_differs_and_no_step_changes_is_said() -> None:
    def said(build: Build, variant: str) -> str:
        texts = [printed(text) for text in planned(build, variant, "bad").against]
        return next((text for text in texts if text.startswith("No step here")), "")

    other = with_variant(
        mule(),
        "other",
        circuit={"hose_bore_mm": 45, "heater": False},
        cap={"bottle_l": 3.0, "pressure_kpa": 90.0},
    )
    assert re.sub(r"\s", " ", said(other, "other")) == (
        "No step here changes what else differs between the two: Cabin heater in the circuit, yes → no; "
        "Hose bore, 38 mm → 45 mm; Overflow bottle takes, 1.5 L → 3.0 L."
    )
    swapped = with_variant(mule(), "swap", engine={"kind": "petrol", "fuel": "e85"})
    assert "Kind, diesel, direct injection → petrol; Fuel, petrol → E85 (ethanol)" in said(swapped, "swap")
    # What is not known is as it is assumed; what has a step, or is only known of a part, is not named.
    assert said(mule(), "core-fans") == ""
    same = with_variant(mule(), "same", cap={"bottle_l": None, "weakest_part_kpa": 150.0})
    same.variants[0].cap.bottle_l = None
    assert said(same, "same") == ""
    sealed = with_variant(mule(), "sealed", air={"front_recirculation_share": 0.02})
    assert said(sealed, "sealed") == ""
    opened = with_variant(mule(), "opened", air={"front_recirculation_share": 0.3})
    assert "Warm air coming round at rest" in said(opened, "opened")
