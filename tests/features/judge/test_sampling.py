"""How sure a verdict is: chances, what hangs on what, and levers in words."""

from __future__ import annotations

import pytest

from ebbrin.build.build import Build
from ebbrin.core.base import Abandoned, still_wanted
from ebbrin.demo import demo_builds
from ebbrin.features.judge.likelihood import verdict_at
from ebbrin.features.judge.sampling import uncertainty
from ebbrin.features.judge.service import evaluate
from ebbrin.ground.words import printed
from oracles.builds import linnet, part, plain_build

pytestmark = pytest.mark.long


@pytest.mark.parametrize("build", demo_builds(), ids=lambda build: build.name)
def test_samples_bear_out_the_estimate(build: Build) -> None:
    for variant in build.variants:
        sure, first = uncertainty(build, variant.id), evaluate(build, variant.id, levers=False)
        assert sure is not None
        chance = {case.case_id: case for case in sure.cases}
        for case in first.cases:
            # 400 samples themselves scatter by 2.5 points.
            assert chance[case.id].chance == pytest.approx(case.chance, abs=0.06)
        assert sure.chance <= min(case.chance for case in sure.cases)
        assert sure.verdict == verdict_at(sure.chance)
        assert first.verdict == verdict_at(first.chance)


def test_the_answers_go_by_the_verdicts_that_sampling_found() -> None:
    """At a border the first estimate may say otherwise: the answers must not tell of its cases beside the sampled ones."""
    brigade = next(build for build in demo_builds() if build.name == "Brigade")
    site = brigade.site.model_copy(update={"ambient_c": 22.0})
    build = brigade.model_copy(update={"site": site})
    first, sure = evaluate(build, levers=False), uncertainty(build)
    before, after = (sum(case.verdict == "holds" for case in found.cases) for found in (first, sure))
    assert before != after, "not at a border any more"
    assert printed(first.answers.radiator.sentence) == f"holds {before} of 3 cases"
    assert printed(sure.answers.radiator.sentence) == f"holds {after} of 3 cases"
    assert (sure.answers.thermostat, sure.answers.cap) == (first.answers.thermostat, first.answers.cap)


def test_a_measured_value_settles_doubt() -> None:
    """A case with some air to spare: known to be as good as it is likely to be, it is surer."""
    vague = part(plain_build(brake_power_kw=45, speed_km_h=80), radiator__fin_pitch_mm=None)
    before = evaluate(vague)
    measured = part(vague, air__ram_coefficient=0.55, air__front_loss_coefficient=3.5)
    after = evaluate(measured)
    assert before.measure_first.unknowns
    paths = {line.path for line in before.measure_first.unknowns}
    assert "/variants/0/air/ram_coefficient" in paths
    assert "/variants/0/air/ram_coefficient" not in {line.path for line in after.measure_first.unknowns}
    shares = [line.settles for line in before.measure_first.unknowns]
    assert shares == sorted(shares, reverse=True)
    assert len(shares) <= 6
    assert sum(shares) <= 1.0


def test_sampling_can_be_stopped() -> None:
    token = still_wanted.set(lambda: False)
    with pytest.raises(Abandoned):
        uncertainty(linnet())
    still_wanted.reset(token)


def test_levers_come_best_first_for_the_worst_case() -> None:
    result = evaluate(linnet())
    gains = [
        next(g.ambient_gain_k for g in lever.cases if g.case_id == result.worst_case_id)
        for lever in result.levers
    ]
    told = [gain for gain in gains if gain is not None]
    assert told == sorted(told, reverse=True)
    assert printed(result.levers[0].text) == "A full shroud"


def test_schools_stand_side_by_side() -> None:
    case = evaluate(plain_build()).cases[0]
    assert [s.school for s in case.heat.schools] == ["energy_balance", "thirds", "share_of_power"]
    assert case.heat.low_kw < case.heat.chosen_kw < case.heat.high_kw
    measured = part(
        plain_build(),
        engine__heat_school="measured",
        engine__measured_power_kw=40,
        engine__measured_rpm=2500,
        engine__measured_flow_l_per_min=70,
        engine__measured_rise_k=6,
    )
    told = evaluate(measured).cases[0].heat
    assert told.schools[-1].school == "measured"
    assert told.chosen_kw == pytest.approx(told.schools[-1].heat_kw)


def test_reasons_of_every_candidate_are_told() -> None:
    result = evaluate(linnet())
    for candidates in (result.caps, result.thermostats, result.switches):
        reasons = [candidate.reason for candidate in candidates]
        assert reasons.count("chosen") <= 1
    assert result.cap_needed_by in ("boiling", "pump_inlet")
    assert result.tank.bottle_l == pytest.approx(1.5 * result.tank.growth_l)
