"""What a pressure hold and a cap tester say."""

from __future__ import annotations

from typing import Annotated, Literal, Self

import numpy as np
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.bridge.to_core import coolant_from
from ebbrin.bridge.units import HOUR, KILO, LITRE, celsius, kelvin, kilopascals
from ebbrin.build.build import Build, Variant
from ebbrin.build.fields import known
from ebbrin.build.part import Identifier, Part
from ebbrin.build.resolve import UnknownVariant
from ebbrin.core.fit.hold import MATTERS, Held, Rig, held, simulated
from ebbrin.core.media import air as atmosphere
from ebbrin.features.fit.situation import volume_of
from ebbrin.ground.words import Answer, Measure, Text, pressure

MILLILITRES_PER_HOUR = 1e-6 / HOUR
CAP_BELOW, CAP_HOLDS = 7.0, 0.85
"""Common practice: a cap lets go within so many kPa below its mark, and keeps this share of it for a minute."""
READS = 2.0
"""Choice: so many kPa above its mark are a tester's error. 15 psi are 103.4 kPa, and the mark of such a cap says 103."""
SHORT = 300.0  # choice: below so many seconds there is nothing to tell
UNMEASURED = 20.0  # choice: where nobody measured, °C; that it stays so is what counts
ADAPTER = "An adapter that leaks looks the same as a leak of the car: spray soapy water on it first."


class GaugeReading(Part):
    """One reading."""

    at_s: Annotated[float, Field(ge=0, le=86400, title="Time since the first reading")]
    pressure_kpa: Annotated[float, Field(ge=0, le=500, title="Pressure")]


class HoldQuestion(Part):
    """A pressure hold on one variant."""

    build: Build
    variant: Identifier
    readings: Annotated[list[GaugeReading], Field(min_length=3, max_length=2000, title="Readings")]
    start_c: Annotated[float | None, Field(ge=-30, le=110, title="Coolant at the start")] = None
    end_c: Annotated[float | None, Field(ge=-30, le=110, title="Coolant at the end")] = None
    resolution_kpa: Annotated[float, Field(ge=0.01, le=50, title="Step of the gauge")] = 2.0
    thermometer_k: Annotated[float, Field(ge=0.05, le=10, title="Error of the thermometer")] = 0.5

    @model_validator(mode="after")
    def in_order(self) -> Self:
        """Each reading is later than the one before."""
        for number, (one, two) in enumerate(zip(self.readings, self.readings[1:], strict=False), 2):
            if two.at_s <= one.at_s:
                raise PydanticCustomError(
                    "readings", "Reading {number} is not later than the one before", {"number": number}
                )
        return self


class HoldResult(Answer):
    """What a hold says."""

    said: Literal["leaks", "seeps", "tight", "doubt", "fast"]
    verdict: Literal["pass", "fail", "doubt"]
    leak_ml_h: float = Field(
        description="At the pressure of the beginning; below nothing where it rather rose."
    )
    low_ml_h: float = Field(description="Lower end of the 90 % band.")
    high_ml_h: float
    smallest_ml_h: float = Field(description="The smallest leak that this test could have seen.")
    matters_ml_h: float = Field(description="What counts as a leak that matters (a choice).")
    fall_kpa: float
    by_cooling_kpa: float = Field(
        description="What cooling alone makes; below nothing for a rise by warming."
    )
    lead: Text
    notes: list[Text]
    evidence: dict[str, str] = Field(description="What it is to the finding of a cause.")


def _rig(build: Build, variant_id: str, resolution_kpa: float, thermometer_k: float) -> tuple[Rig, Variant]:
    """What is under pressure when a variant is held."""
    variant = next((v for v in build.variants if v.id == variant_id), None)
    if variant is None:
        raise UnknownVariant(variant_id)
    filled = variant.coolant.model_copy(
        update={
            "glycol_vol_share": known(variant.coolant, "glycol_vol_share"),
            "residual_water_share": known(variant.coolant, "residual_water_share"),
        }
    )
    rig = Rig(
        coolant_from(filled),
        LITRE * volume_of(variant),
        float(atmosphere.standard_pressure(build.site.altitude_m)),
        KILO * resolution_kpa,
        thermometer_k,
    )
    return rig, variant


class GaugeQuestion(Part):
    """The simulated gauge on one variant: a stand-in for a real one, to try a hold with."""

    build: Build
    variant: Identifier
    leak_ml_h: Annotated[float, Field(ge=0, le=2000, title="Leak")] = 0.0
    cools_k: Annotated[float, Field(ge=-10, le=20, title="Cools by")] = 0.0
    minutes: Annotated[float, Field(ge=5, le=240, title="Held for")] = 40.0
    seed: Annotated[int, Field(ge=0, le=10**9)] = 1


class SimulatedReading(Answer):
    """One reading of the simulated gauge, and of its thermometer at both ends."""

    at_s: float
    pressure_kpa: float
    celsius: float | None


EVERY = 300.0  # s
SHOWS = 1.0  # kPa, the simulated gauge's step


def gauge(question: GaugeQuestion) -> list[SimulatedReading]:
    """What the simulated gauge shows every five minutes, three times at least, pumped to the cap's mark and no further than the weakest part.

    Raises
    ------
    UnknownVariant, DomainError
    """
    rig, variant = _rig(question.build, question.variant, SHOWS, 0.3)
    mark = known(variant.cap, "pressure_kpa") or 50.0
    start = KILO * min(mark, known(variant.cap, "weakest_part_kpa"))
    lasts = 60.0 * question.minutes
    time = np.append(np.arange(0.0, lasts, min(EVERY, 0.5 * lasts)), lasts)
    ambient = float(kelvin(question.build.site.ambient_c))
    temperature = ambient + question.cools_k * (1.0 - time / time[-1])
    shown = simulated(rig, question.leak_ml_h * MILLILITRES_PER_HOUR, start, time, temperature, question.seed)
    ends = (0, len(time) - 1)
    return [
        SimulatedReading(
            at_s=float(t),
            pressure_kpa=kilopascals(p),
            celsius=round(celsius(k), 1) if n in ends else None,
        )
        for n, (t, p, k) in enumerate(zip(time, shown, temperature, strict=True))
    ]


def hold(question: HoldQuestion) -> HoldResult:
    """What the readings of a pressure hold say, temperature and give of the system taken off.

    Raises
    ------
    UnknownVariant, DomainError
    """
    build = question.build
    rig, variant = _rig(build, question.variant, question.resolution_kpa, question.thermometer_k)
    found = held(
        rig,
        np.array([r.at_s for r in question.readings]),
        KILO * np.array([r.pressure_kpa for r in question.readings]),
        None if question.start_c is None else float(kelvin(question.start_c)),
        None if question.end_c is None else float(kelvin(question.end_c)),
        float(kelvin(UNMEASURED)),
    )
    weakest = known(variant.cap, "weakest_part_kpa")
    most = max(r.pressure_kpa for r in question.readings)
    lasted = question.readings[-1].at_s - question.readings[0].at_s
    notes: list[Text] = [[ADAPTER]]
    if question.start_c is None or question.end_c is None:
        notes.append(
            [
                "Nobody measured the coolant's temperature at both ends: it counts as unchanged within a kelvin, which hides small leaks."
            ]
        )
    if most > weakest:
        notes.insert(
            0,
            [
                "It was pumped above what the weakest part stands, ",
                pressure(weakest),
                ": let it down, and look at every seam.",
            ],
        )
    return HoldResult(
        said=found.said,
        verdict={"tight": "pass", "seeps": "doubt", "doubt": "doubt"}.get(found.said, "fail"),
        leak_ml_h=_ml_h(found.leak),
        low_ml_h=_ml_h(found.low),
        high_ml_h=_ml_h(found.high),
        smallest_ml_h=_ml_h(found.smallest),
        matters_ml_h=_ml_h(MATTERS),
        fall_kpa=kilopascals(found.fall),
        by_cooling_kpa=kilopascals(found.by_cooling),
        lead=_too_short(lasted) if found.said == "doubt" and lasted < SHORT else _lead(found),
        notes=notes,
        evidence=EVIDENCE.get(found.said, {}),
    )


EVIDENCE = {
    "leaks": {"pressure_hold": "falls_slowly"},
    "fast": {"pressure_hold": "falls_fast"},
    "tight": {"pressure_hold": "holds"},
}


def _ml_h(leak: float) -> float:
    return leak / MILLILITRES_PER_HOUR


def _leak(leak: float) -> Measure:
    return Measure(quantity="leak", value=_ml_h(leak))


def _too_short(lasted: float) -> Text:
    return [
        "It was held for ",
        Measure(quantity="duration", value=lasted),
        ": too short to tell a leak from none. Half an hour is usual; read the gauge every few minutes.",
    ]


def _lead(found: Held) -> Text:
    band: Text = (
        ["between ", _leak(found.low), " and ", _leak(found.high)]
        if found.low > 0.0
        else ["up to ", _leak(found.high)]
    )
    seen: Text = [" It could have seen no less than ", _leak(found.smallest), "."]
    cooled: Text = _by_temperature(found) if abs(found.by_cooling) >= 1000.0 else []
    if found.said == "fast":
        return [
            "It falls fast: a large leak, or the adapter. Seat it once more and pump again before you look for more."
        ]
    if found.said == "leaks":
        return [*cooled, "It leaks: ", _leak(found.leak), ", ", *band, ".", *seen]
    if found.said == "seeps":
        return [
            *cooled,
            "It seeps: ",
            _leak(found.leak),
            ", ",
            *band,
            ", less than what matters. Watch the level.",
            *seen,
        ]
    if found.said == "tight":
        return [*cooled, "Tight: no leak that matters.", *seen]
    if found.high < 0.0:
        return [
            *cooled,
            "This test cannot tell: more pressure is left than what was measured explains. It warmed, which hides a leak, or was pumped again. Hold it once more, cold through, and measure the temperature at both ends.",
        ]
    return [
        *cooled,
        "This test cannot tell: the leak may be anything ",
        *band,
        ". Hold it longer, cold through, and measure the temperature at both ends.",
        *seen,
    ]


def _by_temperature(found: Held) -> Text:
    """What the gauge did, and what the coolant's temperature alone makes of it."""
    moved: Text = ["It kept its pressure"]
    if abs(found.fall) >= 500.0:
        moved = ["It fell by " if found.fall > 0.0 else "It rose by ", pressure(kilopascals(abs(found.fall)))]
    alone = "cooling alone makes it fall by " if found.by_cooling > 0.0 else "warming alone makes it rise by "
    return [*moved, "; ", alone, pressure(kilopascals(abs(found.by_cooling))), ". "]


class CapQuestion(Part):
    """A cap on a tester."""

    mark_kpa: Annotated[float, Field(gt=0, le=250, title="Mark of the cap")]
    lifts_kpa: Annotated[float, Field(ge=0, le=400, title="Lets go at")]
    after_minute_kpa: Annotated[float | None, Field(ge=0, le=400, title="Left after a minute")] = None
    return_valve: Literal["opens", "stuck"] | None = None

    @model_validator(mode="after")
    def keeps_no_more(self) -> Self:
        """What is left after a minute is not more than what it let go at."""
        if self.after_minute_kpa is not None and self.after_minute_kpa > self.lifts_kpa + READS:
            raise PydanticCustomError("after_minute_kpa", "It cannot keep more than it lets go at", {})
        return self


class CapResult(Answer):
    """What the tester says."""

    verdict: Literal["pass", "fail", "doubt"]
    lead: Text
    evidence: dict[str, str]


def cap(question: CapQuestion) -> CapResult:
    """Whether a cap lets go at its mark, holds, and lets coolant back."""
    mark, lifts = question.mark_kpa, question.lifts_kpa
    wrong: list[Text] = []
    evidence = {"cap_test": "holds_mark"}
    if lifts < mark - min(CAP_BELOW, 0.5 * mark):
        wrong.append(["It lets go at ", pressure(lifts), ", too low for a mark of ", pressure(mark)])
        evidence = {"cap_test": "opens_low"}
    if lifts > mark + READS:
        wrong.append(["It holds up to ", pressure(lifts), ", above its mark of ", pressure(mark)])
        evidence = {"cap_test": "does_not_open"}
    if question.after_minute_kpa is not None and question.after_minute_kpa < CAP_HOLDS * lifts:
        wrong.append(["It keeps only ", pressure(question.after_minute_kpa), " after a minute"])
        evidence = {"cap_test": "opens_low"}
    if question.return_valve == "stuck":
        wrong.append(["Its return valve sticks"])
        evidence = {"cap_test": "return_valve_dead"}
    if wrong:
        lead: Text = []
        for number, text in enumerate(wrong):
            lead += [*([". "] if number else []), *text]
        return CapResult(verdict="fail", lead=[*lead, ". A new one."], evidence=evidence)
    open_: list[str] = []
    if question.after_minute_kpa is None:
        open_.append("whether it holds for a minute")
    if question.return_valve is None:
        open_.append("whether its return valve opens")
    if open_:
        return CapResult(
            verdict="doubt",
            lead=["It lets go at its mark. Not looked at: ", " and ".join(open_), "."],
            evidence={},
        )
    return CapResult(
        verdict="pass", lead=["It lets go at its mark, holds, and lets coolant back."], evidence=evidence
    )
