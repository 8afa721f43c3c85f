"""Fitting, filling and proving of builds made over their whole ranges: what is said keeps together."""

from __future__ import annotations

import csv
import io
import math
import re

import pytest

from ebbrin.build.build import Build
from ebbrin.build.fields import known
from ebbrin.build.resolve import resolve
from ebbrin.demo import demo_builds
from ebbrin.features.fit.filling import Filling, FillQuestion, TimeBand, filling
from ebbrin.features.fit.parts import SCHOOLS, parts_list
from ebbrin.features.fit.parts_csv import as_csv
from ebbrin.features.fit.plan import plan_of, planned
from ebbrin.features.fit.proving import GaugeQuestion, GaugeReading, HoldQuestion, gauge, hold
from ebbrin.features.fit.situation import SCHOOL_WORDS, School, situation, volume_of
from ebbrin.features.shelf import shipped
from ebbrin.ground.words import printed
from oracles.made import made

SHELF = list(shipped())
SEEDS = [seed for seed in range(40, 60) if made(seed) is not None][:10]
RUN = 90 * 60.0  # s, as long as a filling is looked at


def build_of(seed: int) -> Build:
    found = made(seed)
    assert found is not None
    return found


@pytest.mark.parametrize("seed", SEEDS)
@pytest.mark.parametrize("school", SCHOOL_WORDS)
def test_a_plan_is_numbered_counted_and_in_an_order_that_can_be_worked(seed: int, school: School) -> None:
    build = build_of(seed)
    plan = plan_of(situation(build, build.variants[-1].id, school))
    assert [step.number for step in plan.steps] == list(range(1, len(plan.steps) + 1))
    assert sum(stage.steps for stage in plan.stages) == len(plan.steps)
    done: set[str] = set()
    for step in plan.steps:
        assert set(step.after) <= done, step.id
        assert set(step.beside) <= {other.id for other in plan.steps} - {step.id}
        done.add(step.id)
    # One person does one thing after the other; two are never slower, nor quicker than twice as fast.
    assert plan.minutes == pytest.approx(sum(step.minutes for step in plan.steps))
    assert 0.5 * plan.minutes - 1e-9 <= plan.minutes_by_two <= plan.minutes + 1e-9
    needed = [tool for step in plan.steps for tool in step.tools]
    assert plan.tools == list(dict.fromkeys(needed))
    assert {step.id for step in plan.steps} <= set(plan.titles)


@pytest.mark.parametrize("seed", SEEDS)
def test_what_is_mixed_is_what_is_filled_in_or_is_said_to_be_more(seed: int) -> None:
    build = build_of(seed)
    steps = {s.id: s for s in plan_of(situation(build, build.variants[-1].id, "all")).steps}
    if "mix" not in steps:
        pytest.skip("nothing is mixed")
    mixed, filled = (" ".join(map(printed, [steps[i].title, *steps[i].how])) for i in ("mix", "fill"))
    amounts = [float(found) for found in re.findall(r"([\d.]+) L of ", mixed)]
    into = float(re.findall(r"([\d.]+) L", filled)[0])
    assert sum(amounts) == pytest.approx(into, abs=0.151) or "take up less room than apart" in mixed


@pytest.mark.parametrize("seed", SEEDS)
def test_what_is_bought_adds_up_by_each_school_and_in_the_file(seed: int) -> None:
    build = build_of(seed)
    lists = {school: parts_list(build, build.variants[-1].id, school, SHELF) for school in SCHOOLS}
    for school, found in lists.items():
        assert found.school == school
        prices = [line.price or 0.0 for line in found.lines]
        assert found.total == pytest.approx(sum(prices), abs=0.01 * len(prices))
        assert found.total == found.totals[school]
        assert found.totals == lists["usual"].totals
        assert all(school in line.schools for line in found.lines)
        assert len({line.id for line in found.lines}) == len(found.lines)
        rows = list(csv.reader(io.StringIO(as_csv(found, "€"))))
        for line in found.lines:
            assert any(line.title in row and printed(line.amount) in row for row in rows), line.id
    bad, usual, everything = (lists[school] for school in SCHOOLS)
    assert bad.total <= usual.total <= everything.total
    bought = [{line.id for line in found.lines if line.kind == "buy"} for found in (bad, usual, everything)]
    assert bought[0] <= bought[1] <= bought[2]


def in_order(band: TimeBand | None) -> None:
    if band is not None:
        assert 0.0 < band.low_s <= band.likely_s <= band.high_s <= RUN


def filled(seed: int, **more: float) -> tuple[Filling, Build]:
    build = build_of(seed)
    return filling(FillQuestion(build=build, variant=build.variants[0].id, **more)), build


@pytest.mark.long
@pytest.mark.parametrize("seed", [*SEEDS[:4], 18, 121, 203, 235, 289])
def test_a_first_run_keeps_to_the_order_of_what_happens(seed: int) -> None:
    found, build = filled(seed)
    variant = resolve(build, build.variants[0].id).variant
    for band in (found.upper_warm, found.opens, found.lower_warm, found.fan_on, found.fan_off):
        in_order(band)
    if found.fan_off is not None:
        assert found.fan_on is not None
        assert found.fan_off.likely_s > found.fan_on.likely_s
    tops = found.tops_up
    assert 0.0 <= tops.least_l <= tops.likely_l <= tops.most_l <= known(variant.coolant, "volume_l")
    assert math.isfinite(found.hottest_c)
    assert found.hottest_c >= found.ambient_c - 0.5
    # Under the cap it comes to no more than the cap holds; what never gets as warm as it was filled sucks the cap open.
    assert -5.0 <= found.reaches_kpa <= (known(variant.cap, "pressure_kpa") or 0.0) + 1.0
    said = " ".join(printed(line) for line in found.says)
    assert ("builds no pressure" in said) == (found.reaches_kpa < 0.5)
    assert ("it reaches about" in said) == (found.reaches_kpa >= 0.5)
    if "feel the upper hose" in said:
        assert found.safe_after_s is not None
        assert found.safe_after_s < 60.0
        assert "builds no pressure" in said
    assert not re.search(r"[-−]\d+ kPa|\b0 minutes|\b1 minutes", said)
    limit = known(variant.limits, "top_hose_c")
    too_hot = found.boils_open or found.hottest_c > limit
    # It boils, or passes its limit, or is kept cool: one of them, said once.
    assert ("would boil" in said) == found.boils_open
    assert ("Standing at this speed it gets" in said) == (too_hot and not found.boils_open)
    capped = found.hottest_capped_c > limit
    assert ("Under the cap it gets" in said) == (capped and (found.boils_open or not too_hot))
    assert ("do not run it" in said) == (found.reaches_kpa - 0.5 > known(variant.cap, "weakest_part_kpa"))
    assert not (too_hot and re.search("need not come on|keeps it cool", said))
    assert ("that is no fault" in said) == (found.opens is None and not too_hot)
    assert too_hot or "does not keep up" not in said
    assert ("boils before the thermostat" in said) == (found.opens is None and found.boils_open)
    if found.fan_on is None and variant.air.fan.kind == "electric" and not too_hot:
        assert f"no hotter than {found.hottest_c:.0f} °C" in said.replace("\u202f", " ").replace("\xa0", " ")
    assert found.safe_after_s is None or found.safe_after_s >= 0.0
    if found.opens is not None and found.lower_warm is not None:
        before = found.lower_warm.likely_s < found.opens.likely_s - 30.0
        assert ("lower hose is warm before that" in said) == before
    assert all(printed(line) for line in found.says)
    assert {school.school for school in found.schools} == {"bleed", "bottle", "funnel", "vent", "nose"}


@pytest.mark.long
@pytest.mark.parametrize("seed", SEEDS[:3])
def test_a_colder_day_makes_nothing_of_a_first_run_come_sooner(seed: int) -> None:
    cold, warm = (filled(seed, ambient_c=celsius)[0] for celsius in (0.0, 30.0))
    for event in ("upper_warm", "opens"):
        late, soon = getattr(cold, event), getattr(warm, event)
        if late is not None:
            assert soon is not None, event
            assert soon.likely_s <= late.likely_s, event


@pytest.mark.parametrize("seed", SEEDS)
@pytest.mark.parametrize("leak", [0.0, 15.0, 600.0])
def test_a_hold_says_no_more_than_its_band_and_finds_a_large_leak(seed: int, leak: float) -> None:
    build = build_of(seed)
    variant = build.variants[0].id
    shown = gauge(GaugeQuestion(build=build, variant=variant, leak_ml_h=leak, minutes=60.0, seed=seed))
    readings = [GaugeReading(at_s=one.at_s, pressure_kpa=one.pressure_kpa) for one in shown]
    found = hold(
        HoldQuestion(
            build=build, variant=variant, readings=readings, start_c=shown[0].celsius, end_c=shown[-1].celsius
        )
    )
    assert found.low_ml_h <= found.leak_ml_h <= found.high_ml_h
    assert found.smallest_ml_h > 0.0
    verdicts = {"tight": "pass", "seeps": "doubt", "doubt": "doubt", "leaks": "fail", "fast": "fail"}
    assert found.verdict == verdicts[found.said]
    if found.said == "leaks":
        assert found.low_ml_h > 0.0
        assert f"{found.leak_ml_h:.1f} mL/h" in printed(found.lead)
    if found.said == "tight":
        assert found.high_ml_h < found.matters_ml_h
    if leak == 0.0:
        assert found.verdict != "fail"
    if leak == 600.0:
        assert found.verdict != "pass"


@pytest.mark.parametrize("seed", range(40, 130))
def test_what_is_mixed_comes_to_what_is_said_and_never_to_a_wish_alone(seed: int) -> None:
    old, new = made(seed), made(seed + 1000)
    if old is None or new is None:
        pytest.skip("nothing was drawn")
    other = new.variants[0].model_copy(update={"id": "w", "name": "Other"})
    if seed % 2:  # the same sort in both, so that what stays behind counts
        kind = other.coolant.kind
        first = old.variants[0]
        coolant = first.coolant.model_copy(update={"kind": kind})
        old = old.model_copy(update={"variants": [first.model_copy(update={"coolant": coolant})]})
    build = old.model_copy(update={"variants": [old.variants[0], other]})
    steps = {step.id: step for step in plan_of(situation(build, "w", "usual")).steps}
    if "mix" not in steps:
        return
    said = printed(steps["mix"].how[0])
    assert not re.search(r"\b0\.0 L", said)
    if other.coolant.kind == "water":
        assert re.fullmatch(r"\d+\.\d L of distilled or deionised water alone\.", said)
        return
    poured = {
        what: float(litres) for litres, what in re.findall(r"(\d+\.\d) L of (concentrate|distilled)", said)
    }
    volume = volume_of(other)
    before = old.variants[0].coolant
    kept = (
        known(before, "glycol_vol_share")
        if before.kind == other.coolant.kind and "flush_hose" not in steps
        else 0.0
    )
    left = volume - sum(poured.values())
    # Volumes are taken to add, which mixes do to two hundredths.
    comes = (left * kept + poured.get("concentrate", 0.0)) / volume
    shares = [int(number) / 100 for number in re.findall(r"(\d+) %", said)]
    assert shares[0] == pytest.approx(comes, abs=0.035 + 0.1 / volume)
    wanted = known(other.coolant, "glycol_vol_share")
    if "is wanted" in said:
        assert shares[1] == pytest.approx(wanted, abs=0.0051)
        assert abs(shares[0] - shares[1]) >= 0.01
        assert ("too strong" in said) == (shares[0] > shares[1])
    else:
        assert shares[0] == pytest.approx(wanted, abs=0.0151)


@pytest.mark.parametrize("build", [*map(build_of, SEEDS[:6]), *demo_builds()], ids=lambda build: build.name)
def test_a_plan_waits_as_long_as_the_first_runs_take_and_says_what_they_come_to(build: Build) -> None:
    variant = build.variants[-1].id
    steps = {step.id: step for step in planned(build, variant, "all").steps}
    if "second_cycle" not in steps:
        pytest.skip("nothing is filled")
    found = filling(FillQuestion(build=build, variant=variant))

    def lasts(*names: str) -> float:
        return 60.0 * sum(steps[name].minutes for name in names if name in steps)

    assert lasts("cool_funnel") >= (6 * 3600.0 if found.safe_after_s is None else found.safe_after_s)
    if found.opens is not None:
        assert lasts("idle") >= found.opens.likely_s
    if found.fan_on is not None:
        assert lasts("idle", "fan_watch") >= found.fan_on.likely_s
        assert lasts("second_cycle") >= found.fan_on.likely_s
    told = printed(steps["second_cycle"].how[0])
    said = next(text for text in map(printed, found.says) if text.startswith("Under the cap it "))
    if "no pressure" in said:
        assert "it builds no pressure" in told
    else:
        assert said.removeprefix("Under the cap it ") in told
