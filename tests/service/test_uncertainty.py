"""How sure a verdict is: chances, what hangs on what, and levers in words."""

from __future__ import annotations

import pytest

from ebbrin.core.system.levers import LEVERS
from ebbrin.service.evaluate import evaluate
from ebbrin.service.uncertainty import uncertainty
from ebbrin.verdict.levers import WORDS
from ebbrin.verdict.text import printed
from tests.builds import linnet, part, plain_build


def test_chances_of_the_demo() -> None:
    sure = uncertainty(linnet(), samples=100)
    assert sure is not None
    chance = {case.case_id: case for case in sure.cases}
    assert chance["road"].holds == 1.0
    assert chance["queue"].holds < chance["queue"].below_limit < 0.8
    assert sure.holds <= min(case.holds for case in sure.cases)
    top = sure.unknowns[0]
    assert top.title.startswith("Heat of the engine")
    assert top.margin_at_low_k > top.margin_at_high_k
    assert {entry.path for entry in sure.unknowns if entry.path} == {
        a.path for a in evaluate(linnet()).assumed if a.guess
    }


def test_a_measured_value_narrows_the_answer() -> None:
    vague = part(plain_build(brake_power_kw=45, speed_km_h=60), radiator__fin_pitch_mm=None)
    known = part(
        vague,
        air__ram_coefficient=0.55,
        air__front_loss_coefficient=3.5,
        radiator__blocked_tubes_share=0,
        radiator__blocked_face_share=0,
        radiator__scale_mm=0,
        air__exit_loss_coefficient=0,
        engine__tune_factor=1.0,
    )
    spans = []
    for build in (vague, known):
        sure = uncertainty(build, samples=100)
        assert sure is not None
        case = sure.cases[0]
        assert case.low_c is not None
        spans.append((case.high_c or 140.0) - case.low_c)
    assert spans[1] < spans[0]


def test_sampling_can_be_stopped() -> None:
    assert uncertainty(linnet(), proceed=lambda _share: False) is None


def test_every_lever_has_words() -> None:
    assert set(WORDS) == set(LEVERS)


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
