"""The four answers: radiator, airflow, thermostat, cap, as far as the fitted parts give them."""

from __future__ import annotations

from ebbrin.bridge.units import kilopascals
from ebbrin.build.parts import Radiator
from ebbrin.core.circuit.cap import INLET_MARGIN
from ebbrin.features.judge.answers import (
    Answers,
    CapCandidate,
    CaseResult,
    FourthAnswer,
    ThermostatCandidate,
    Verdict,
)
from ebbrin.ground.words import Measure, Text, airflow, bare, counted, difference, pressure, temperature

LEAST_INLET = kilopascals(INLET_MARGIN)  # kPa
SEVERITY: dict[Verdict, int] = {"holds": 0, "tight": 1, "fails": 2}


def inlet_words(pumped: bool) -> str:
    """Where the coolant comes in after the radiator: what draws it is a pump, or the engine that lets it rise."""
    return "the pump inlet" if pumped else "the engine's inlet"


def worst(verdicts: list[Verdict]) -> Verdict:
    """The gravest of some verdicts."""
    return max(verdicts, key=SEVERITY.__getitem__)


def _length(value: float | None) -> Measure:
    return Measure(quantity="length", value=value or 0.0)


def radiator_answer(radiator: Radiator, cases: list[CaseResult]) -> FourthAnswer:
    """The fitted core and how many cases it holds."""
    held = sum(case.verdict == "holds" for case in cases)
    said = (
        "holds every case"
        if held == len(cases)
        else f"holds {held} of {counted(len(cases), 'case', 'cases')}"
    )
    headline: Text = [
        bare(_length(radiator.width_mm)),
        " × ",
        bare(_length(radiator.height_mm)),
        " × ",
        _length(radiator.depth_mm),
    ]
    return FourthAnswer(verdict=worst([case.verdict for case in cases]), headline=headline, sentence=[said])


def airflow_answer(cases: list[CaseResult]) -> FourthAnswer:
    """Air delivered against air needed for the chance asked, in the case where it is scarcest; a case that holds has
    enough."""
    hopeless = [case for case in cases if case.air_needed_m3_per_s is None and case.verdict != "holds"]
    known = [case for case in cases if case.air_needed_m3_per_s is not None]
    scarce = hopeless[0] if hopeless else min(known or cases, key=_plenty)
    gets = scarce.air_available_m3_per_s
    if scarce.air_needed_m3_per_s is None and hopeless:
        said: Text = [f"no airflow would do in {scarce.name}"]
        return FourthAnswer(verdict=scarce.verdict, headline=[airflow(gets)], sentence=said, fitted=gets)
    needed = gets if scarce.air_needed_m3_per_s is None else scarce.air_needed_m3_per_s
    headline: Text = [bare(airflow(gets)), " of ", airflow(needed)]
    enough = scarce.verdict == "holds" or gets >= needed
    words = f"enough; scarcest in {scarce.name}" if enough else f"short in {scarce.name}"
    verdict: Verdict = "holds" if enough else scarce.verdict
    return FourthAnswer(verdict=verdict, headline=headline, sentence=[words], fitted=gets, recommended=needed)


def _plenty(case: CaseResult) -> float:
    return case.air_available_m3_per_s / max(case.air_needed_m3_per_s or 1e-9, 1e-9)


def by_verdicts(said: Answers, radiator: Radiator, cases: list[CaseResult]) -> Answers:
    """The answers of a build whose cases have other verdicts than those by which they were ``said``."""
    core, air = radiator_answer(radiator, cases), airflow_answer(cases)
    return said.model_copy(update={"radiator": core, "airflow": air})


def _reason(candidate: ThermostatCandidate) -> str:
    if not candidate.open_early_enough:
        return "fully open too close to the limit"
    if not candidate.fan_can_stop:
        return "the fan would never stop"
    return "cool for the heater and engine management"


def _nearly(kelvins: float) -> Text:
    """A difference that is never written as nothing."""
    return [difference(kelvins)] if kelvins > 0.5 else ["a little"]


def thermostat_answer(
    fitted: float, fitted_works: bool, candidates: list[ThermostatCandidate], chosen: int
) -> FourthAnswer:
    """The fitted thermostat, and which ones work."""
    works = [c for c in candidates if c.open_early_enough and c.warm_enough and c.fan_can_stop]
    recommended = candidates[chosen].opens_c if chosen >= 0 else None
    headline: Text = [temperature(fitted)]
    if not works:
        words: Text = ["none fits between warm enough and the limit"]
    elif fitted_works and len(works) > 1:
        words = [*_listed([c.opens_c for c in works]), " all work" if len(works) > 2 else " both work"]
    elif fitted_works:
        words = ["the one that works"]
    else:
        near = min(candidates, key=lambda c: abs(c.opens_c - fitted))
        words = [_reason(near), "; take ", temperature(recommended or fitted)]
    verdict: Verdict = "holds" if fitted_works else "tight"
    return FourthAnswer(
        verdict=verdict, headline=headline, sentence=words, fitted=fitted, recommended=recommended
    )


def _listed(values: list[float]) -> Text:
    text: Text = []
    for i, value in enumerate(values):
        joint = "" if i == 0 else (" or " if i == len(values) - 1 else ", ")
        last = i == len(values) - 1
        text += [joint, temperature(value) if last else bare(temperature(value))]
    return text


def cap_answer(
    fitted: float,
    margin: float,
    weakest: float,
    cases: list[CaseResult],
    candidates: list[CapCandidate],
    chosen: int,
    needed: float,
    pumped: float,
    most_c: float,
    has_pump: bool,
    lowers_to_c: float | None,
) -> FourthAnswer:
    """The fitted cap, what it leaves, and the lowest that would do: for a build whose top hose stays below the ``most_c`` [°C]
    that it may have. What boils beyond that is no cap's to mend, and is not said to be. A lower one may do and bring the limit
    down, to ``lowers_to_c`` [°C], by which the cases are judged."""
    left = min((c.boiling_margin_k for c in cases if c.boiling_margin_k is not None), default=None)
    inlet = min(case.pump_inlet_margin_kpa for case in cases)
    recommended = candidates[chosen].pressure_kpa if chosen >= 0 else None
    verdict: Verdict = "holds"
    if left is None or left < 0.0 or inlet < 0.0 or fitted + pumped > weakest:
        verdict = "fails"
    elif left < margin or inlet < LEAST_INLET:
        verdict = "tight"
    if fitted > weakest:
        words: Text = ["more than the weakest part stands: ", pressure(weakest)]
    elif fitted + pumped > weakest:
        words = [
            "with the pump's ",
            pressure(pumped),
            " more than the weakest part stands: ",
            pressure(weakest),
        ]
    elif left is not None and left < 0.0:
        words = ["boiling lies ", *_nearly(-left), " below the hottest case"]
    elif left is None:
        words = ["no case settles; see the radiator"]
    elif inlet < LEAST_INLET:
        words = [f"the coolant boils at {inlet_words(has_pump)}"]
        if inlet >= 0.5:
            words = [f"{inlet_words(has_pump)} is ", pressure(inlet), " from boiling"]
    else:
        words = [*_nearly(left), " left to boiling"]
        if any(case.boiling_margin_k is None for case in cases):
            words += [" where it settles"]
    # A fan that goes to and fro is judged by its hottest, which is not where it stands.
    hot = [None if c.boiling_margin_k is None else c.boils_c - c.boiling_margin_k for c in cases]
    beyond = any(one is None or one > most_c for one in hot)
    more = needed > fitted + 1.0 if recommended is None else recommended > fitted + 1.0
    other: Text = []
    if recommended is None:
        other = ["it would take ", pressure(needed)] if more else []
    elif abs(recommended - fitted) > 1.0:
        other = [pressure(recommended), " wanted" if more else " would do"]
        if lowers_to_c is not None and not more:
            other += [", and lower the limit to ", temperature(lowers_to_c)]
    elif verdict != "holds" and beyond:
        other = ["this one does"]
    if other:
        words = [*words, "; up to the limit " if beyond else "; ", *other]
    if more:
        verdict = worst([verdict, "tight"])
    return FourthAnswer(
        verdict=verdict, headline=[pressure(fitted)], sentence=words, fitted=fitted, recommended=recommended
    )
