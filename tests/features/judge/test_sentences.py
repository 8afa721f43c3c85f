"""What is said of a case at the edges: no figure is written as nothing, as all, or as the one beside it."""

from __future__ import annotations

import re
from typing import Any, Literal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.demo import demo_builds
from ebbrin.features.judge.answers import CapCandidate, CaseResult, OtherThermostat, Wanted
from ebbrin.features.judge.candidates import caps
from ebbrin.features.judge.sentences import case_detail, case_sentence
from ebbrin.features.judge.service import evaluate
from ebbrin.ground.words import printed

CASES = evaluate(demo_builds()[0], "as-found", levers=False).cases
STEADY = next(case for case in CASES if case.timed is None and case.hunt is None)
TIMED = next(case for case in CASES if case.timed is not None)
RUN = TIMED.timed
assert RUN is not None

EMPTY = re.compile(r"(?<![\d.])-?0(\.0+)? (K|kW|%|s|°C)(?!\w)|\b100 % (open|of the time)")
"""A quantity that is written as nothing, or a part as all of it."""
small = st.floats(0.0, 1.2)
signed = st.floats(-1.2, 1.2)


def said(case: CaseResult, **changes: Any) -> str:
    """Sentence and detail of a case with something changed."""
    other = case.model_copy(update=changes)
    return f"{printed(case_sentence(other))} {printed(case_detail(other))}".strip()


@given(small)
def test_a_fan_that_goes_to_and_fro_is_on_some_of_the_time(duty: float) -> None:
    text = said(STEADY, verdict="holds", control="capacity", fan_cycles=True, fan_duty=min(duty, 1.0))
    assert text.startswith("The fan is in control, on ")
    assert not EMPTY.search(text), text


@given(st.floats(1e-6, 1.0))
def test_a_thermostat_in_control_is_partly_open(lift: float) -> None:
    text = said(STEADY, verdict="holds", control="thermostat", fan_cycles=False, thermostat_lift=lift)
    assert text.startswith("The thermostat is in control, ")
    assert not EMPTY.search(text), text


@given(st.floats(0.0, 2.0))
def test_what_never_settles_is_short_of_something(short: float) -> None:
    text = said(STEADY, verdict="fails", control="no_steady_state", shortfall_kw=short, boiling_margin_k=None)
    assert text.startswith("Never settles: ")
    assert not EMPTY.search(text), text
    assert ("kW" in text) == (short > 0.05)


@given(st.floats(1e-6, 4.0))
def test_boiling_is_told_with_two_figures_only_where_they_differ(over: float) -> None:
    hot = STEADY.boils_c + over
    text = said(STEADY, verdict="fails", control="capacity", judged_c=hot, boiling_margin_k=-over)
    figures = re.findall(r"(\d+) °C", text.split(". ")[0])
    assert len(figures) == len(set(figures)), text
    assert ("Just boils" in text) == (hot - STEADY.boils_c < 1.0)


@given(st.floats(1e-6, 4.0))
def test_what_would_be_hotter_still_does_not_just_boil(over: float) -> None:
    run = RUN and RUN.model_copy(update={"end_c": 140.0, "beyond": True})
    changes = {"verdict": "fails", "timed": run, "judged_c": 140.0, "boils_c": 140.0 - over}
    text = said(TIMED, **changes, boiling_margin_k=-over)
    assert "more than 140 °C would be reached" in text
    assert "Just boils" not in text


@given(st.floats(-3.0, -1e-6), st.floats(0.0, 0.5))
def test_too_hot_is_too_hot_by_something(margin: float, chance: float) -> None:
    text = said(
        STEADY, verdict="fails", control="capacity", margin_k=margin, chance=chance, boiling_margin_k=5.0
    )
    assert not EMPTY.search(text), text
    assert text.startswith("Too hot by " if margin < -0.5 else "Just over its limit")


@given(signed, st.sampled_from([None, 0.0, 0.3, 0.7, 1.2]), st.floats(0.5, 0.89))
def test_what_is_tight_has_no_nothing_to_spare(ambient: float, margin: float | None, chance: float) -> None:
    for air in (ambient, None):
        text = said(
            STEADY,
            verdict="tight",
            control="capacity",
            ambient_margin_k=air,
            margin_k=margin,
            chance=chance,
            boiling_margin_k=5.0,
        )
        assert text.startswith("Stays below its limit ")
        assert not EMPTY.search(text), text


@given(st.floats(1.0, 900.0), st.floats(-2.0, 2.0), st.sampled_from(["holds", "tight", "fails"]))
def test_a_timed_case_says_when_only_where_that_is_another_time(
    lasts: float, later: float, verdict: str
) -> None:
    assert TIMED.timed is not None
    run = TIMED.timed.model_copy(
        update={
            "duration_s": lasts,
            "time_to_limit_s": max(lasts + later, 0.6),
            "end_c": TIMED.boils_c - 10.0,
        }
    )
    text = said(TIMED, timed=run, verdict=verdict, control="capacity").split(". ")[0]
    times = re.findall(r"(\d+) s\b", text)
    assert len(times) == len(set(times)) or abs(later) >= 0.5, text
    late = run.time_to_limit_s is not None and run.time_to_limit_s > run.duration_s
    assert text.startswith("Ends its " if late else "At the limit ")


@pytest.mark.parametrize(
    ("cause", "says"),
    [
        ("fan_switch", "a switch that comes on sooner is wanted"),
        ("thermostat", "one that opens sooner is wanted"),
        ("inlet_air", "what stands ahead warms it too much"),
        ("no_single", "air, core and coolant flow must grow together"),
        ("core", "The core is too small"),
        ("coolant", "Short of coolant flow"),
    ],
)
def test_every_cause_says_what_would_help(cause: str, says: str) -> None:
    wanted = Wanted(air=None, core=None, coolant=None, to_limit=False)
    late = OtherThermostat(unsettled=False, at_outlet=False, sooner=True, fan_too=False)
    other = late if cause == "thermostat" else None
    text = said(
        STEADY,
        verdict="fails",
        control="capacity",
        margin_k=-4.0,
        cause=cause,
        wanted=wanted,
        other_thermostat=other,
    )
    assert says in text
    assert says not in said(STEADY, verdict="holds", control="capacity", fan_cycles=False, cause=cause)


@given(st.floats(0.01, 3.0), st.floats(1.0, 1.6))
def test_air_that_is_short_is_told_by_figures_that_differ(gets: float, factor: float) -> None:
    needed = gets * factor
    text = said(
        STEADY,
        verdict="fails",
        control="capacity",
        margin_k=-4.0,
        cause="air",
        air_needed_m3_per_s=needed,
        air_available_m3_per_s=gets,
    )
    figures = re.findall(r"(\d+\.\d+) m³/s", text)
    assert len(figures) in (0, 2)
    assert len(figures) == len(set(figures)), text
    assert not EMPTY.search(text), text


MARGIN = st.one_of(st.floats(-40.0, 40.0), st.sampled_from([-0.4, 0.0, 0.3, 0.6, 9.4, 9.7, 9.99]))


@given(MARGIN, MARGIN)
def test_a_cap_that_does_not_do_says_how_far_it_comes_in_words(kelvins: float, inlet: float) -> None:
    reasons: tuple[Literal["boils"], Literal["pump_inlet"]] = ("boils", "pump_inlet")
    for reason in reasons:
        cap = CapCandidate(
            pressure_kpa=90.0,
            boiling_margin_k=kelvins,
            pump_inlet_margin_kpa=min(inlet, 9.999),
            clears_margin=reason != "boils",
            pump_inlet_holds=reason != "pump_inlet",
            within_rating=True,
            reason=reason,
        )
        said = printed(caps([cap])[0].text)
        assert not re.search(r"[-−]\d", said)
        left = re.search(r"Left: ([\d.]+\d|\d)", said)
        if left is not None:
            assert float(left[1]) > 0.0
        if reason == "boils":
            assert ("below the hottest case" in said) == (kelvins <= -0.5)
            assert ("Left" in said) == (kelvins >= 0.5)
        else:
            assert ("boils there" in said) == (min(inlet, 9.999) < 0.5)
            # "Less than 10 kPa. Left: 10 kPa" would contradict itself.
            assert left is None or int(left[1]) < 10


def starting(start_c: float) -> CaseResult:
    """The demo's hill run, begun so hot."""
    build = demo_builds()[0]
    hill = next(case for case in build.cases if case.duration_s)
    cases = [case.model_copy(update={"start_c": start_c}) if case is hill else case for case in build.cases]
    judged = evaluate(build.model_copy(update={"cases": cases}), "as-found", levers=False).cases
    return next(case for case in judged if case.timed is not None)


@pytest.mark.parametrize(
    ("start_c", "text"),
    [
        (
            108.2,
            "Begins at its limit of 108 °C: nothing that sheds more heat changes that. Let it begin cooler.",
        ),
        (112.0, "Begins at 112 °C, above its limit of 108 °C: nothing that sheds more heat"),
        (
            135.0,
            "Boils: 135 °C would be reached, boiling is at 130 °C. Begins at 135 °C, above its limit of 108 °C: nothing that sheds",
        ),
    ],
)
def test_a_case_that_begins_over_its_limit_is_not_said_to_lack_parts(start_c: float, text: str) -> None:
    case = starting(start_c)
    assert case.verdict == "fails"
    assert text in said(case)
    assert "must grow" not in said(case)
    assert "must grow" not in said(starting(107.0))
    assert "Begins" not in said(starting(107.0))


def plain(answer: Any) -> list[str]:
    """All words of an answer that are no measure."""
    if isinstance(answer, str):
        return [answer]
    parts = answer.values() if isinstance(answer, dict) else answer if isinstance(answer, list) else ()
    return [words for part in parts for words in plain(part)]


@pytest.mark.parametrize("number", range(3))
def test_no_figure_with_a_unit_stands_in_plain_words(number: int) -> None:
    # Such a one would stay metric for whoever reads gallons and Fahrenheit. Titles of fields are turned by the page.
    build = demo_builds()[number]
    found = evaluate(build, build.variants[0].id, levers=True)
    assert found.findings
    unit = re.compile(r"\d (°C|K|kPa|Pa|mm|L/min|kW|m³/s|km/h|kg)\b")
    assert [
        words for words in plain(found.model_dump(mode="json", exclude={"assumed"})) if unit.search(words)
    ] == []
