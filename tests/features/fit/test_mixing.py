"""What to pour, by hand; impossible wishes; waterless; refractometer."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from ebbrin.core.base import DomainError
from ebbrin.features.fit.mixing import MixQuestion, mix
from ebbrin.features.fit.refractometer import RefractometerQuestion, refractometer
from ebbrin.features.fit.waterless import WaterLeft, WaterQuestion, water_left
from ebbrin.ground.words import printed


def asked(**more: object) -> MixQuestion:
    return MixQuestion.model_validate({"volume_l": 9.5, "now_share": 0.33, "want_share": 0.5, **more})


def test_six_litres_drained_of_nine_and_a_half() -> None:
    # 3.5 L at 33 % keep 1.155 L of glycol; 4.75 are wanted: 3.6 L of concentrate in the six that go in.
    found = mix(asked(drained_l=6.0))
    assert found.possible
    assert found.concentrate_l == pytest.approx(3.6, abs=0.05)
    assert found.water_l == pytest.approx(2.4, abs=0.05)
    assert "3.6 L of concentrate and 2.4 L of distilled" in printed(found.lead)


def test_the_least_that_does_it_is_found() -> None:
    # x litres of 9.5 exchanged for pure: 0.33 (9.5 - x) + x = 4.75, x = 2.41.
    found = mix(asked())
    assert found.drained_l == pytest.approx(2.41, abs=0.04)
    again = mix(asked(drained_l=found.drained_l))
    assert again.water_l == pytest.approx(0.0, abs=0.02)


def test_an_impossible_wish_is_answered_with_what_is_possible() -> None:
    found = mix(asked(drained_l=1.0, want_share=0.5))
    assert not found.possible
    assert found.concentrate_l is None
    said = printed(found.lead)
    assert "even pure concentrate gives 40 %, not 50 %" in said
    assert "Drain 2.4 L at least" in said
    weaker = mix(asked(drained_l=1.0, now_share=0.6, want_share=0.4))
    assert "even pure water leaves 5" in printed(weaker.lead)
    ready = mix(asked(product_share=0.4))
    assert ready.least_drained_l is None, "a weaker product never gets there"


@pytest.mark.parametrize("drained", [0.5, 2.0, 6.0, 9.5])
@pytest.mark.parametrize("want", [0.1, 0.33, 0.5, 0.7])
def test_possible_is_what_its_numbers_say(drained: float, want: float) -> None:
    found = mix(asked(drained_l=drained, want_share=want))
    assert found.possible == (found.weakest - 0.011 <= want <= found.strongest + 0.011)
    assert (found.concentrate_l is None) == (not found.possible)
    if found.possible and found.concentrate_l is not None and found.water_l is not None:
        kept = (9.5 - drained) * 0.33
        comes_to = (kept + found.concentrate_l) / 9.5
        assert comes_to == pytest.approx(want, abs=0.02)


def test_rounds_go_towards_the_product_and_stop_at_the_wish() -> None:
    found = mix(asked(now_share=0.0, want_share=0.45, drained_l=4.75, product_share=0.5))
    # Half exchanged for half and half: 25, 37.5, 43.75, 46.9 %.
    assert [round(one.strength, 2) for one in found.rounds] == [0.25, 0.38, 0.44, 0.47]
    assert all(a.strength < b.strength for a, b in zip(found.rounds, found.rounds[1:], strict=False))


SHARE = st.one_of(st.sampled_from([0.0, 0.33, 0.5, 0.7]), st.floats(0.0, 0.7))


@given(
    st.floats(1.0, 60.0),
    SHARE,
    SHARE,
    st.sampled_from([0.0, 0.33, 0.5, 1.0]),
    st.one_of(st.none(), st.sampled_from([0.001, 0.01, 0.999, 1.0]), st.floats(0.001, 1.0)),
)
def test_what_is_to_be_poured_makes_what_is_said(
    litres: float, now: float, want: float, product: float, drained: float | None
) -> None:
    question = MixQuestion(
        volume_l=litres, now_share=now, want_share=want, product_share=product, drained_share=drained
    )
    found = mix(question)
    said = printed(found.lead)
    assert "pour in :" not in said
    assert "Drain 0.0 L" not in said
    assert ", 0.0 L" not in said
    assert " and 0.0 L" not in said
    # A ready mix is used where it is what there is, and nothing is where it is not.
    if "pour in" in said:
        assert found.comes_to is not None
        assert ("ready mix" in said) <= (0.0 < product < 1.0)
        assert f"it comes to {100.0 * found.comes_to:.0f} %" in said.replace("\u202f", " ").replace(
            "\u00a0", " "
        )
        assert abs(found.comes_to - want) <= 0.01 + 1e-6
        poured = sum(float(figure) for figure in re.findall(r"([0-9.]+) L of", said))
        # Mixed they take up less room, a fiftieth at most.
        assert poured == pytest.approx(found.drained_l, rel=0.03, abs=0.16)
    notes = " ".join(printed(note) for note in found.notes)
    assert ("behind in block and heater" in notes) == (found.drained_l > 0.9 * litres)
    # Each round comes nearer to what is wanted, but for the last, which may go past it.
    for one, two in zip(found.rounds[:-1], found.rounds[1:-1], strict=False):
        assert abs(two.strength - want) < abs(one.strength - want)


def test_a_ready_mix_is_poured_as_what_it_is() -> None:
    half = mix(asked(volume_l=10, now_share=0.0, want_share=0.5, drained_share=1.0, product_share=0.5))
    assert printed(half.lead) == "Drain 10.0 L, pour in 10.0 L of the ready mix: it comes to 50 %."
    # By hand: nine of ten litres of half and half, and one of water, are 45 of 100.
    weaker = mix(asked(volume_l=10, now_share=0.0, want_share=0.45, drained_share=1.0, product_share=0.5))
    assert "pour in 9.0 L of the ready mix and 1.0 L of distilled" in printed(weaker.lead)
    stronger = mix(asked(volume_l=10, now_share=0.0, want_share=0.6, drained_share=1.0, product_share=0.5))
    assert "of the ready mix and 2.0 L of concentrate" in printed(stronger.lead)


@given(st.sampled_from(["ethylene_glycol", "propylene_glycol"]), st.floats(0.0, 0.55), st.floats(-45.0, 10.0))
def test_frost_is_told_where_there_is_any_with_what_stands_it(kind: str, want: float, coldest: float) -> None:
    found = mix(asked(kind=kind, want_share=want, coldest_c=coldest))
    assert found.freezes_wanted_c is not None
    assert bool(found.frost) == (found.freezes_wanted_c > coldest)
    assert not mix(asked(kind=kind, want_share=want)).frost
    figures = [part.value for part in found.frost if not isinstance(part, str)]
    if not figures:
        return
    assert figures[:2] == [found.freezes_wanted_c, coldest]
    if len(figures) == 3:
        enough = mix(asked(kind=kind, want_share=figures[2], coldest_c=coldest))
        assert figures[2] > want
        assert not enough.frost
    else:
        assert printed(found.frost).endswith("no mix of this kind stands that.")
        assert mix(asked(kind=kind, want_share=0.57, coldest_c=coldest)).frost
    text = printed(found.frost)
    alike = re.search(r"freezes at (\S+) °C, just above the coldest air, (\S+) °C", text)
    assert ("just" in text) == (alike is not None and alike[1] == alike[2])


def test_nonsense_is_refused_in_words() -> None:
    with pytest.raises(ValidationError, match="no more can be drained"):
        asked(drained_l=12.0)
    with pytest.raises(ValidationError, match="not both"):
        asked(drained_l=2.0, drained_share=0.5)


def test_water_left_in_a_waterless_fill_by_hand() -> None:
    # A quarter of water stays; one flush leaves a sixteenth, two a sixty-fourth: by mass 5.6 and 1.4 %.
    one = water_left(WaterQuestion(volume_l=10.0, left_l=2.5, flushes=1))
    assert one.water_share == pytest.approx(0.0564, abs=2e-3)
    assert not one.good
    assert one.flushes_needed == 2
    two = water_left(WaterQuestion(volume_l=10.0, left_l=2.5, flushes=2))
    assert two.good
    assert two.flush_fluid_l == pytest.approx(15.0)


@given(st.floats(0.5, 100.0), st.floats(0.0, 0.99), st.integers(0, 10), st.floats(0.0, 1.0))
def test_flushes_that_are_said_to_do_it_do_it(
    litres: float, stays: float, flushes: int, water: float
) -> None:
    def left(number: int) -> WaterLeft:
        return water_left(
            WaterQuestion(volume_l=litres, left_l=stays * litres, flushes=number, left_is_water_share=water)
        )

    found = left(flushes)
    said = printed(found.lead)
    assert found.good == (found.water_share < 0.03) == ("Measure it all the same" in said)
    if found.flushes_needed is None:
        assert not left(10).good
        assert "10 flushes do not bring it below" in said
    else:
        assert left(found.flushes_needed).good
        assert found.flushes_needed == 0 or not left(found.flushes_needed - 1).good
    told = re.search(r"comes to (\d+)", said)
    assert told is not None
    assert ("just" in said) == (told[1] == "3")


def test_a_refractometer_both_ways_with_its_error() -> None:
    found = refractometer(RefractometerQuestion(freezing_c=-20.0))
    assert found.low < found.strength < found.high
    assert 0.005 < found.high - found.low < 0.04
    back = refractometer(RefractometerQuestion(strength=found.strength))
    assert back.freezes_c == pytest.approx(-20.0, abs=0.2)
    assert back.strength == found.strength
    with pytest.raises(ValidationError, match="one of both"):
        RefractometerQuestion(freezing_c=-20.0, strength=0.4)
    with pytest.raises(DomainError):
        refractometer(RefractometerQuestion(freezing_c=-59.0))
