"""What is said: sentences, the four answers, findings."""

from __future__ import annotations

import numpy as np
import pytest

from ebbrin.build.build import Build
from ebbrin.core.system.needs import MOST_CHANGE
from ebbrin.demo import NAMES, demo_builds
from ebbrin.features.judge.answers import CaseResult, Evaluation
from ebbrin.features.judge.command import _report
from ebbrin.features.judge.service import evaluate
from ebbrin.ground.words import printed
from oracles.builds import edited, linnet, part, plain_build


def case(result: Evaluation, case_id: str) -> CaseResult:
    return next(entry for entry in result.cases if entry.id == case_id)


def said(build: Build, case_id: str = "one") -> str:
    entry = case(evaluate(build), case_id)
    return f"{printed(entry.sentence)} {printed(entry.detail)}".strip()


def test_tight_queue_names_cause_and_number() -> None:
    words = said(linnet(), "queue")
    assert words.startswith("Stays below its limit seven days in ten, with 10 K of hotter air to spare.")
    assert "Short of air: needs 0.158 m³/s, gets 0.130 m³/s." in words
    assert "a cooler one changes nothing but the time to get there" in words


def test_timed_run_says_when_the_limit_would_come() -> None:
    assert said(linnet(), "hill").startswith("Ends its 75 s at 101 °C; the limit would come after 116 s.")


def test_thermostat_in_control() -> None:
    assert said(plain_build(brake_power_kw=15, speed_km_h=90)).startswith("The thermostat is in control")


def test_fan_in_control() -> None:
    assert said(plain_build(speed_km_h=0, brake_power_kw=0, engine_rpm=900)).startswith(
        "The fan is in control, on "
    )


def test_never_settles() -> None:
    build = part(plain_build(speed_km_h=0, brake_power_kw=60), air__fan__kind="none")
    assert "Never settles: " in said(build)
    assert "kW short at the limit" in said(build)


def test_worst_case_comes_first() -> None:
    result = evaluate(linnet())
    assert result.worst_case_id == "queue"
    assert result.verdict == "tight"
    margins = [c.ambient_margin_k for c in result.cases if c.verdict == "holds" and c.timed is None]
    assert margins == sorted(margins)  # type: ignore[type-var]


def test_four_answers_of_the_demo() -> None:
    answers = evaluate(linnet()).answers
    assert printed(answers.radiator.headline) == "560 × 360 × 42 mm"
    assert printed(answers.radiator.sentence) == "holds 3 of 4 cases"
    assert printed(answers.airflow.sentence) == "short in Paddock queue, idle"
    assert printed(answers.thermostat.sentence) == "82 or 88 °C both work"
    assert answers.cap.verdict == "holds"


def test_thermostat_that_is_too_hot_gets_another_recommended() -> None:
    answer = evaluate(part(linnet(), thermostat__opens_c=100)).answers.thermostat
    assert answer.verdict == "tight"
    assert answer.recommended == 88
    assert "fully open too close to the limit" in printed(answer.sentence)


def test_cap_that_leaves_too_little_is_tight_and_a_better_one_is_named() -> None:
    answer = evaluate(part(linnet(), cap__pressure_kpa=0, limits__boiling_margin_k=12)).answers.cap
    assert answer.verdict != "holds"
    assert answer.recommended is None or answer.recommended > 0


def test_what_is_left_to_boiling_is_not_said_of_a_case_that_never_settles() -> None:
    found = evaluate(demo_builds()[NAMES.index("mule")])
    assert [case.id for case in found.cases if case.boiling_margin_k is None] == ["pass"]
    assert "left to boiling where it settles" in printed(found.answers.cap.sentence)
    easy = evaluate(demo_builds()[0]).answers.cap
    assert "left to boiling" in printed(easy.sentence)
    assert "where it settles" not in printed(easy.sentence)


def test_no_cap_is_said_to_mend_what_lies_beyond_the_limit() -> None:
    parade = evaluate(demo_builds()[2])
    assert printed(parade.answers.cap.sentence) == (
        "boiling lies 3 K below the hottest case; up to the limit it would take 4 kPa"
    )
    # One that begins at 112 °C has its limit at 108 and boils under 28 kPa at 107; without it the cap is judged by all.
    easy = part(linnet(), cap__pressure_kpa=28)
    timed = [case.id for case in easy.cases if case.duration_s]
    began = easy.model_copy(
        update={
            "cases": [c.model_copy(update={"start_c": 112.0}) if c.id in timed else c for c in easy.cases]
        }
    )
    found = evaluate(began).answers.cap
    assert found.recommended is not None
    assert "below the hottest case; up to the limit " in printed(found.sentence)
    assert found.verdict == "fails"
    without = easy.model_copy(update={"cases": [c for c in easy.cases if c.id not in timed]})
    assert "up to the limit" not in printed(evaluate(without).answers.cap.sentence)


def test_a_cap_of_which_more_is_wanted_does_not_hold() -> None:
    # Over the pass it never settles: at its limit there the fitted cap would keep too little.
    found = evaluate(part(demo_builds()[1], cap__pressure_kpa=69)).answers.cap
    assert printed(found.sentence).endswith("left to boiling where it settles; up to the limit 90 kPa wanted")
    assert found.verdict == "tight"


@pytest.mark.parametrize(
    "build", [*demo_builds(), part(linnet(), cap__pressure_kpa=150)], ids=lambda b: b.name
)
def test_a_lower_cap_that_would_do_is_told_with_the_limit_that_it_brings(build: Build) -> None:
    """By that limit the cases are judged: under Linnet's 48 kPa the hill run no longer holds."""
    for variant in build.variants:
        alone = build.model_copy(update={"variants": [variant]})
        found = evaluate(alone, levers=False)
        would_do, fitted = found.answers.cap.recommended, variant.cap.pressure_kpa or 0.0
        if would_do is None or would_do > fitted - 1.0:
            assert "lower the limit" not in printed(found.answers.cap.sentence)
            continue
        under = evaluate(part(alone, cap__pressure_kpa=would_do), levers=False)
        limits = {case.id: case.limit_c for case in under.cases}
        falls = max(case.limit_c - limits[case.id] for case in found.cases)
        said = f"{would_do:.0f} kPa would do"
        if falls >= 0.5:
            said += f", and lower the limit to {min(limits.values()):.0f} °C"
        assert printed(found.answers.cap.sentence).endswith(said)
        verdicts = {case.id: case.verdict for case in under.cases}
        worse = any(verdicts[case.id] != case.verdict for case in found.cases)
        assert falls >= 0.5 or not worse


def test_a_cap_that_is_wanted_is_enough_at_the_pump_s_inlet() -> None:
    """Both go by what a cap likely holds: one that is asked for is not tight there once it is fitted."""
    asked = 0
    for kpa in (0.0, 28.0, 48.0, 69.0):
        for head in np.linspace(4.0, 12.0, 9):
            build = part(linnet(), cap__pressure_kpa=kpa, circuit__npsh_required_m=float(head))
            found = evaluate(build, levers=False).answers.cap
            if found.recommended is not None and found.recommended > kpa + 1.0:
                asked += 1
                fitted = evaluate(part(build, cap__pressure_kpa=found.recommended), levers=False).answers.cap
                assert fitted.verdict == "holds", (
                    kpa,
                    head,
                    printed(found.sentence),
                    printed(fitted.sentence),
                )
    assert asked > 5


def test_cap_above_the_weakest_part_fails() -> None:
    answer = evaluate(part(linnet(), cap__pressure_kpa=160)).answers.cap
    assert answer.verdict == "fails"
    assert "more than the weakest part stands: 138 kPa" in printed(answer.sentence)


@pytest.mark.parametrize(
    ("build", "code", "words"),
    [
        (edited(plain_build(brake_power_kw=200)), "asks_too_much", "the engine gives about"),
        (
            part(edited(plain_build(), site__ambient_c=-10), coolant__kind="water"),
            "freezes",
            "The coolant freezes at 0 °C",
        ),
        (
            part(plain_build(), cap__pressure_kpa=180, cap__weakest_part_kpa=138),
            "over_rating",
            "The cap holds 180 kPa, the weakest part stands 138 kPa.",
        ),
        (
            part(plain_build(), cap__pressure_kpa=138.4, cap__weakest_part_kpa=138),
            "over_rating",
            "The cap holds 138 kPa, which is just more than the weakest part stands, 138 kPa.",
        ),
        (
            part(plain_build(), vehicle__space_height_mm=390),
            "too_large",
            "The core is 400 mm high; the car has room for 390 mm.",
        ),
        (
            part(plain_build(), vehicle__space_height_mm=399.6),
            "too_large",
            "The core is 400 mm high, less than a millimetre more than the car has room for.",
        ),
        (
            part(plain_build(brake_power_kw=60), circuit__run_out_l_per_min=40),
            "warms_too_much",
            "in the engine with the thermostat wide open",
        ),
        (
            part(plain_build(engine_rpm=6000), circuit__npsh_required_m=15, cap__pressure_kpa=0),
            "inlet_boils",
            "the coolant boils at the pump inlet there",
        ),
        (part(plain_build(), thermostat__opens_c=71), "cool_engine", "the heater is weak"),
        (
            part(plain_build(brake_power_kw=15, speed_km_h=90), fan_switch__on_c=80, fan_switch__off_c=75),
            "fan_never_stops",
            "so the fan never stops",
        ),
    ],
)
def test_findings_say_what_no_margin_shows(build: Build, code: str, words: str) -> None:
    found = [f for f in evaluate(build).findings if f.code == code]
    assert found
    assert words in printed(found[0].text)


def test_good_build_has_no_warning() -> None:
    easy = plain_build(brake_power_kw=15, speed_km_h=90)
    assert [f for f in evaluate(easy).findings if f.kind == "warning"] == []


def test_a_new_build_warns_of_none_of_its_defaults() -> None:
    """Displacement, rated power and the core's three measures are all that has to be known."""
    new = Build.model_validate(
        {
            "format": "ebbrin-build",
            "version": 4,
            "name": "New",
            "site": {},
            "variants": [
                {
                    "id": "a",
                    "name": "As it is",
                    "engine": {"displacement_l": 2.0, "rated_power_kw": 110},
                    "radiator": {"width_mm": 640, "height_mm": 420, "depth_mm": 42},
                }
            ],
            "cases": [
                {"id": "q", "name": "Traffic, idle", "speed_km_h": 0, "engine_rpm": 850},
                {"id": "c", "name": "Crawl", "speed_km_h": 6, "engine_rpm": 1100},
                {"id": "m", "name": "Motorway", "speed_km_h": 120, "engine_rpm": 2900},
            ],
        }
    )
    assert [printed(f.text) for f in evaluate(new).findings if f.kind == "warning"] == []


def test_the_thinnest_fins_far_apart_get_an_answer() -> None:
    """The printed friction form ends where fins are a hundredth of their pitch thick."""
    for thin in (0.03, 0.04, 0.05):
        thinnest = part(plain_build(), radiator__fin_thickness_mm=thin, radiator__fin_pitch_mm=4.0)
        assert (evaluate(thinnest).cases[0].top_hose_c or 0.0) > 0.0


@pytest.mark.parametrize("name", ["Linnet", "Mule", "Brigade"])
def test_where_air_alone_would_do_no_other_thing_is_said_to_be_missing(name: str) -> None:
    """Without a fan a standing case may want ten times its air: that is much, but it is one thing."""
    build = next(build for build in demo_builds() if build.name == name)
    bare = part(build, air__fan__kind="none", air__fan__fans="one", air__fan__staging="single")
    cases = evaluate(bare, levers=False).cases
    for case in cases:
        assert case.cause != "no_single" or case.air_needed_m3_per_s is None, case.name
    assert MOST_CHANGE == 6.0, "the page and the description of Wanted say six times"
    if name == "Linnet":
        idle = next(case for case in cases if case.speed_km_h == 0.0)
        assert (idle.verdict, idle.cause, idle.wanted.air) == ("fails", "air", None), "over six times"
        assert "Short of air: needs 0.1" in printed(idle.sentence)


def test_a_run_that_leaves_the_tables_is_said_to_end_hotter_than_they_do() -> None:
    """Of the coolant nothing is known above 140 °C; no figure there is passed off as the end."""
    build = linnet()
    hill = next(case for case in build.cases if case.duration_s)
    found = {}
    for lasts in (10.0, 3600.0):
        far = hill.model_copy(update={"duration_s": lasts, "brake_power_kw": 250.0})
        asked = build.model_copy(update={"cases": [far]})
        answer = evaluate(asked, levers=False)
        case = answer.cases[0]
        assert case.timed is not None
        found[lasts] = case.timed
        assert case.timed.beyond == ("top hose more than 140 °C at its end" in _report(asked, answer, None))
        words = "Boils: more than 140 °C would be reached" if case.timed.beyond else "more than"
        assert case.timed.beyond == (words in printed(case.sentence)), printed(case.sentence)
    assert (found[10.0].beyond, found[3600.0].beyond) == (False, True)
    assert found[10.0].end_c < found[3600.0].end_c == pytest.approx(140.0)


@pytest.mark.parametrize("fan", ["none", "electric"])
def test_air_that_stands_still_behind_a_condenser_is_not_said_to_be_beyond_help(fan: str) -> None:
    """What enters is hotter than the limit because so little of it takes the condenser's heat: more of it is no hotter
    than the air outside by the heat over the flow."""
    build = part(linnet(), air__fan__kind=fan, air__condenser=True, air__condenser_heat_kw=8)
    idle = build.cases[0].model_copy(update={"air_conditioning": True})
    answer = evaluate(build.model_copy(update={"cases": [idle, *build.cases[1:]]}), levers=False)
    found = next(case for case in answer.cases if case.speed_km_h == 0.0)
    assert (found.verdict, found.cause) == ("fails", "inlet_air")
    needed = found.air_needed_m3_per_s
    assert needed is not None
    assert needed > 2.0 * found.air_available_m3_per_s
    heat = found.heat_kw + 8.0
    assert needed * 1.2 * 1.006 * (found.limit_c - 32.0) > heat, "the air must carry both at the least"
    assert "More air is warmed less: needs 0." in printed(found.sentence)
    assert answer.answers.airflow.sentence == [f"short in {found.name}"]


def test_a_car_without_a_pump_is_not_told_of_one() -> None:
    """What is said of the inlet is said of the engine's; nothing of it feeds a pump or draws vapour."""
    linnet_ = next(build for build in demo_builds() if build.name == "Linnet")
    for pressure_kpa in (0.0, 110.0):
        build = part(linnet_, circuit__pump_drive="none", cap__pressure_kpa=pressure_kpa)
        found = evaluate(build)
        told = [*(f.text for f in found.findings), *(cap.text for cap in found.caps)]
        told += [answer.sentence for _, answer in found.answers]
        words = " ".join(printed(text) for text in told)
        assert "pump" not in words, words
        assert "engine's inlet" in words
        pumped = evaluate(part(linnet_, cap__pressure_kpa=pressure_kpa))
        assert any("pump" in printed(cap.text) for cap in pumped.caps)
