"""The requirement as a short specification for a radiator shop."""

from __future__ import annotations

from ebbrin.build.parts import Radiator
from ebbrin.features.size.answers import CaseNeed, FaceOption, TestPoint
from ebbrin.ground.words import Measure, Text, airflow, bare, difference, power, pressure, temperature

KINDS = {"louvred": "louvred fins on flat tubes", "plain": "plain plate fins on round tubes"}
FLOWS = {"crossflow": "tubes from side to side", "downflow": "tubes from top to bottom"}
COOLANTS = {"water": "water", "half_glycol": "50/50 water and ethylene glycol"}
WORTH_SAYING = 0.1  # K


def air_way(shrouded: bool, factor: float) -> Text:
    """How the air is moved."""
    shroud = "a full shroud" if shrouded else "the air as it is"
    if factor == 1.0:
        return [shroud]
    more = Measure(quantity="share", value=factor - 1.0)
    return [f"{shroud} and fans with " if shrouded else "fans with ", more, " more air"]


def length(value: float, without_unit: bool = False) -> Measure:
    """A length, mm."""
    return Measure(quantity="length", value=value, bare=without_unit)


def sentences(
    radiator: Radiator,
    option: FaceOption,
    needs: list[CaseNeed],
    test: TestPoint,
    plugged: float,
    rating: float,
    open_: bool,
) -> dict[str, list[Text]]:
    """What to ask for, to measure and to refuse; of a system that is ``open_`` nothing is held at a cap's mark."""
    face = Measure(quantity="area", value=option.face_m2 or 0.0)
    hungriest = max(needs, key=lambda need: need.coolant_l_per_min)
    windiest = max(needs, key=lambda need: need.air_m3_per_s)
    fins: Text = (
        [", fins every ", Measure(quantity="fin_pitch", value=radiator.fin_pitch_mm)]
        if radiator.fin_pitch_mm
        else []
    )
    under: Text = [
        Measure(quantity="velocity", value=test.test_air_m_per_s),
        " of air at its face, ",
        Measure(quantity="coolant_flow", value=test.test_coolant_l_per_min),
        f" of {COOLANTS[test.test_coolant]}, ",
        difference(test.test_difference_k),
        " between coolant and air going in, air at ",
        temperature(test.test_air_c),
    ]
    ask: list[Text] = [
        [
            "A core of at least ", face, " of face, such as ", bare(length(option.width_mm or 0.0)), " × ",
            length(option.height_mm or 0.0), ", ", length(radiator.depth_mm or 0.0), " deep: ",
            f"{KINDS[radiator.core_type]}, {FLOWS[radiator.flow]}", *fins, ".",
        ],
        ["It sheds ", power(test.test_heat_kw), " with ", *under, "."],
        [
            "It takes no more than ", Measure(quantity="air_pressure", value=windiest.air_pa), " at ",
            airflow(windiest.air_m3_per_s), " of air, and ", pressure(hungriest.coolant_kpa), " at ",
            Measure(quantity="coolant_flow", value=hungriest.coolant_l_per_min), " of coolant.",
        ],
    ]  # fmt: skip
    over = 100.0
    pitch = radiator.fin_pitch_mm
    count: Text = (
        ["; the fins over ", length(over), ": ", Measure(quantity="count", value=round(over / pitch))]
        if pitch
        else []
    )
    tight = "Pressure: held at the cap’s mark for half an hour; pumped by hand, cold, never above "
    if open_:
        tight = "Tightness: filled and left to stand for half an hour it stays dry; never pumped above "
    measure: list[Text] = [
        ["Width, height and depth of the fins alone, tanks left out", *count, "."],
        [tight, pressure(rating), ", what the weakest part stands."],
        ["Flow: filled from a hose it empties as fast as a new one of its size."],
    ]  # fmt: skip
    refuse: list[Text] = [
        ["Less face than asked for: depth does not make up for it at walking pace."],
        ["A test without airflow, coolant flow and temperatures: heat alone says nothing."],
    ]
    if plugged > WORTH_SAYING:
        refuse.insert(1, ["Plugged tubes: a tenth of them costs ", difference(plugged), "."])
    return {"ask": ask, "measure": measure, "refuse": refuse}
