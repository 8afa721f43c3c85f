"""The test cards: one for every test, drawn, and with the numbers of the build where they belong."""

import re
from pathlib import Path

import pytest

from ebbrin.core.cause.tables import OBSERVATIONS
from ebbrin.features.cause.answers import CardsQuestion, DiagnosisQuestion
from ebbrin.features.cause.cards import Card, cards
from ebbrin.features.cause.service import CauseService
from ebbrin.features.fit.proving import CapQuestion, cap
from ebbrin.ground.quantities import QUANTITIES
from ebbrin.ground.words import Measure, Text, printed
from tests.features.cause.driven import SERVICE, unmarked

LINNET, MULE, BRIGADE = unmarked()
PICTURES = Path(__file__).parents[3] / "web" / "src" / "views" / "cause" / "Picture.tsx"


def card(found: list[Card], name: str) -> Card:
    return next(one for one in found if one.observation == name)


def texts(one: Card) -> list[Text]:
    return [*one.steps, one.good, *(bad.text for bad in one.bad), *([one.caution] if one.caution else [])]


def test_every_look_feel_measure_and_test_has_a_card_and_its_picture() -> None:
    found = cards(CardsQuestion(), None)
    wanted = {name for name, seen in OBSERVATIONS.items() if seen.kind not in ("story", "model")}
    assert {one.observation for one in found} == wanted
    drawn = PICTURES.read_text(encoding="utf-8")
    for one in found:
        assert re.search(rf"^  {one.picture}: \(", drawn, re.M), one.picture
        assert one.steps
        unhealthy = set(OBSERVATIONS[one.observation].telling[1:])
        assert {bad.value for bad in one.bad} == unhealthy


def test_no_card_shows_a_brace_or_a_unit_that_cannot_be_turned() -> None:
    for question in (CardsQuestion(), CardsQuestion(build=LINNET), CardsQuestion(build=BRIGADE)):
        for one in cards(question, None):
            for text in texts(one):
                assert not re.search(r"[{}|]", printed(text)), one.observation
                bare = "".join(part for part in text if isinstance(part, str))
                assert not re.search(r"\d\s?(K|°C|°F|kPa|rpm|mm|L)\b", bare.replace("90 kPa", "")), bare
            for reading in one.read:
                assert reading.quantity in (*QUANTITIES, "Ω")


def test_a_card_says_the_numbers_of_the_build() -> None:
    found = cards(CardsQuestion(build=LINNET), None)
    variant = LINNET.variants[0]
    assert printed(card(found, "pressure_hold").good).startswith(
        f"Stands at {variant.cap.pressure_kpa:.0f} kPa"
    )
    assert f"{variant.thermostat.opens_c:.0f} °C" in printed(card(found, "thermostat_pot").good)
    assert f"{variant.fan_switch.on_c or 102:.0f} °C" in printed(card(found, "switch_pot").good)
    assert card(found, "pressure_hold").timer_minutes == 30
    # What a build has not is said in words, as for any car.
    assert "its mark" in printed(card(cards(CardsQuestion(build=BRIGADE), None), "pressure_hold").good)
    assert "its mark" in printed(card(cards(CardsQuestion(), None), "fan_when_hot").good)


def test_where_no_variant_is_named_it_goes_by_the_one_in_the_car() -> None:
    build = MULE.model_copy(deep=True)
    for variant in build.variants:
        variant.radiator.width_mm = None  # so that nothing is driven
    build.variants[0].thermostat.opens_c, build.variants[1].thermostat.opens_c = 76.0, 92.0
    build.variants[1].circuit.heater = False
    for standing, opens in (("core", 92.0), (None, 76.0), ("none of them", 76.0)):
        marked = build.model_copy(update={"standing": standing})
        good = card(CauseService().cards(CardsQuestion(build=marked)), "thermostat_pot").good
        assert next(part.value for part in good if isinstance(part, Measure)) == opens
        found = CauseService().diagnose(DiagnosisQuestion(build=marked, evidence={"heater": "cold"}), False)
        assert ("it has no heater" in found.model_dump_json()) == (standing == "core")


def test_no_card_pumps_a_car_up_beyond_its_weakest_part() -> None:
    build = LINNET.model_copy(deep=True)
    build.variants[0].cap.pressure_kpa = 138.0
    build.variants[0].cap.weakest_part_kpa = 90.0
    hold = card(cards(CardsQuestion(build=build), None), "pressure_hold")
    told = [part.value for text in (*hold.steps, hold.good) for part in text if isinstance(part, Measure)]
    assert told == [90.0, 90.0, 90.0]


def test_the_card_of_a_cap_and_what_judges_it_on_a_tester_ask_the_same() -> None:
    one = card(cards(CardsQuestion(build=LINNET), None), "cap_test")
    mark, below = [part.value for part in one.good if isinstance(part, Measure)]
    kept = re.search(r"keeps (\d+) % of that for a minute", printed(one.good))
    assert kept
    for lifts, share, verdict in (
        (mark - below + 0.1, int(kept[1]) + 1, "pass"),
        (mark - below - 0.1, int(kept[1]) + 1, "fail"),
        (mark, int(kept[1]) - 1, "fail"),
    ):
        asked = CapQuestion(
            mark_kpa=mark, lifts_kpa=lifts, after_minute_kpa=0.01 * share * lifts, return_valve="opens"
        )
        assert cap(asked).verdict == verdict


@pytest.mark.long
def test_the_fall_between_the_hoses_is_that_of_the_drives() -> None:
    before = card(CauseService().cards(CardsQuestion(build=LINNET)), "hose_difference")
    assert "some kelvin" in printed(before.good)
    SERVICE.witnesses.wait(LINNET, LINNET.variants[0].id)
    after = card(SERVICE.cards(CardsQuestion(build=LINNET)), "hose_difference")
    assert any(isinstance(part, Measure) and part.quantity == "temperature_difference" for part in after.good)
