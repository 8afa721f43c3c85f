"""Filling and bleeding: which way lets the air out of this car, and what its first run should look like by the model."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ebbrin.bridge.to_core import system_from
from ebbrin.bridge.units import LITRE, MM, RPM, celsius, kelvin, kilopascals
from ebbrin.bridge.unknowns import all_unknowns
from ebbrin.build.build import Build, Variant
from ebbrin.build.fields import known
from ebbrin.build.part import Identifier, Part
from ebbrin.build.resolve import resolve
from ebbrin.core.fit import warm_up
from ebbrin.core.fit.places import SCHOOLS, Heights, Works, lift_needed, works
from ebbrin.features.fit.mixing import LITTLE
from ebbrin.features.fit.situation import heights_of
from ebbrin.ground.words import Answer, Measure, Text, counted, length, pressure, temperature

IDLE_RPM, FAST_IDLE_RPM = 840.0, 1500.0
"""Choices: what an engine turns at idle and at fast idle."""
SHOWS = 500.0
"""Gauge pressure below which none is spoken of (choice) [Pa]."""
JUST = 30.0
"""Two things so many seconds apart happen at once, to a hand on a hose (choice)."""


class FillQuestion(Part):
    """One variant on one day."""

    build: Build
    variant: Identifier
    ambient_c: Annotated[float | None, Field(ge=-30, le=50, title="Air of the day")] = None
    altitude_m: Annotated[float | None, Field(ge=-430, le=5000, title="Height above the sea")] = None
    idle_rpm: Annotated[float, Field(ge=400, le=3000, title="Engine speed")] = IDLE_RPM


class TimeBand(Answer):
    """Seconds from the start: what is likely, and between which it lies for the cars that this one could be."""

    likely_s: float
    low_s: float
    high_s: float


class FillSchool(Answer):
    """One way of filling."""

    school: Literal["bleed", "bottle", "funnel", "vent", "nose"]
    title: str
    works: bool | None = Field(description="Null where that hangs on a height that nobody knows.")
    text: Text


class TopUp(Answer):
    """Coolant that goes in once the thermostat has opened."""

    likely_l: float
    least_l: float
    most_l: float


class Filling(Answer):
    """What to expect of the first run, and of the second one under the cap. A time is null where it does not come about
    within 90 minutes at that speed on that day."""

    ambient_c: float
    idle_rpm: float
    upper_warm: TimeBand | None
    opens: TimeBand | None
    lower_warm: TimeBand | None
    fan_on: TimeBand | None
    fan_off: TimeBand | None
    tops_up: TopUp
    hottest_c: float
    boils_open: bool
    reaches_kpa: float = Field(description="Gauge pressure that the second run under the cap reaches.")
    hottest_capped_c: float = Field(description="Hottest of the second run while the engine runs.")
    safe_after_s: float | None = Field(
        description="From engine off until the cap may be touched; null for over six hours."
    )
    says: list[Text]
    schools: list[FillSchool]


TITLES = {
    "bleed": "Bleed screws, from the lowest to the highest",
    "bottle": "Pressurised bottle, its cap open until the pump draws",
    "funnel": "Spill-free funnel on the filler",
    "vent": "Vent run of the electric pump",
    "nose": "Funnel, and the end with the filler raised",
}


def filling(question: FillQuestion) -> Filling:
    """What to expect of the first run.

    Raises
    ------
    MissingValues, UnknownVariant, DomainError
    """
    build = question.build
    resolved = resolve(build, question.variant)
    system = system_from(resolved)
    unknowns = [named.unknown for named in all_unknowns(system, resolved)]
    ambient_c = build.site.ambient_c if question.ambient_c is None else question.ambient_c
    altitude = build.site.altitude_m if question.altitude_m is None else question.altitude_m
    ambient, rotation = float(kelvin(ambient_c)), question.idle_rpm * RPM
    found = warm_up.expected(system, unknowns, ambient, altitude, rotation)
    second = warm_up.second_cycle(system, ambient, altitude, rotation)
    tops = found.tops_up
    return Filling(
        ambient_c=ambient_c,
        idle_rpm=question.idle_rpm,
        upper_warm=_band(found.upper_warm),
        opens=_band(found.opens),
        lower_warm=_band(found.lower_warm),
        fan_on=_band(found.fan_on),
        fan_off=_band(found.fan_off),
        tops_up=TopUp(likely_l=tops.likely / LITRE, least_l=tops.low / LITRE, most_l=tops.high / LITRE),
        hottest_c=celsius(found.hottest.likely),
        boils_open=found.boils_open,
        reaches_kpa=kilopascals(second.pressure),
        hottest_capped_c=celsius(second.running),
        safe_after_s=second.safe_after,
        says=_says(resolved.variant, found, second),
        schools=schools(build, resolved.variant),
    )


def _band(band: warm_up.Band | None) -> TimeBand | None:
    return None if band is None else TimeBand(likely_s=band.likely, low_s=band.low, high_s=band.high)


def long_time(seconds: float) -> str:
    """A time as people say it: minutes, or hours and halves from two hours on.

    >>> long_time(80.0), long_time(2400.0), long_time(12900.0)
    ('1 minute', '40 minutes', '3½ hours')
    """
    if seconds < 7200.0:
        return counted(round(seconds / 60.0), "minute", "minutes")
    halves = round(seconds / 1800.0)
    return f"{halves // 2}{'½' if halves % 2 else ''} hours"


def minutes_of(seconds: float) -> Measure:
    """A time, in minutes."""
    return Measure(quantity="minutes", value=seconds / 60.0)


def _says(variant: Variant, found: warm_up.Expected, second: warm_up.SecondCycle) -> list[Text]:
    says: list[Text] = []
    hottest, limit = celsius(found.hottest.likely), known(variant.limits, "top_hose_c")
    if found.opens is None and found.boils_open:
        says.append(["With the filler open it boils before the thermostat opens."])
    elif found.opens is None and hottest > limit:
        says.append(["It passes its limit before the thermostat opens."])
    elif found.opens is None:
        says.append(
            [
                "At this speed and in this weather it does not open within an hour and a half: that is no fault. Wait for a warmer day, or turn it a little faster."
            ]
        )
    else:
        says += [_opens(found.opens), _goes_in(found.tops_up)]
    if found.lower_warm is not None and found.opens is not None:
        says.append(_lower_hose(found.lower_warm.likely - found.opens.likely))
    if variant.air.fan.kind == "electric":
        says += _fan(found, hottest, limit)
    if found.boils_open:
        says.append(["It would boil with the filler open: stop before that, and let it cool."])
    elif hottest > limit:
        says.append(_too_hot("Standing at this speed", hottest, limit))
    says.append(
        ["Under the cap it reaches about ", pressure(kilopascals(second.pressure)), "."]
        if second.pressure >= SHOWS
        else ["Under the cap it builds no pressure within an hour and a half."]
    )
    weakest = known(variant.cap, "weakest_part_kpa")
    if kilopascals(second.pressure - SHOWS) > weakest:
        says.append(["The weakest part stands ", pressure(weakest), ": do not run it under this cap."])
    if celsius(second.running) > limit and (found.boils_open or hottest <= limit):
        says.append(_too_hot("Under the cap", celsius(second.running), limit))
    if second.hottest <= warm_up.SAFE_TEMPERATURE and second.pressure < SHOWS:
        says.append(
            [
                "It stays below ",
                temperature(celsius(warm_up.SAFE_TEMPERATURE)),
                " and without pressure by the model; feel the upper hose all the same before the cap is touched.",
            ]
        )
        return says
    says.append(
        ["After that it takes over six hours until the cap may be touched: let it stand over night."]
        if second.safe_after is None
        else [
            f"After that it takes some {long_time(max(second.safe_after, 60.0))} until the cap may be touched: below ",
            temperature(celsius(warm_up.SAFE_TEMPERATURE)),
            " and without pressure.",
        ]
    )
    return says


def _too_hot(how: str, hottest: float, limit: float) -> Text:
    return [
        f"{how} it gets as hot as ",
        temperature(hottest),
        ", above its limit of ",
        temperature(limit),
        ": stop before that, and let it cool.",
    ]


def _fan(found: warm_up.Expected, hottest: float, limit: float) -> list[Text]:
    """When a switched fan comes on and goes off, of a car that gets so hot and has such a limit [°C]."""
    if found.fan_on is not None:
        on: Text = ["The fan comes on after ", *_some(found.fan_on.likely), "."]
        if found.fan_off is not None:
            return [on]
        does = "does not keep up" if found.boils_open or hottest > limit else "just so keeps it cool"
        return [on, [f"Once on it does not go off again at this speed: standing, it {does}."]]
    if found.boils_open:
        return [["With the filler open it boils before the fan comes on."]]
    if hottest > limit:
        return [["The fan does not come on below the limit: its switch closes too late."]]
    return [
        [
            "The fan need not come on: standing at this speed it gets no hotter than ",
            temperature(hottest),
            " within an hour and a half.",
        ]
    ]


def _some(seconds: float) -> Text:
    """A time that is not told closer than by the minute."""
    return ["less than a minute"] if seconds < 60.0 else ["some ", minutes_of(seconds)]


def _opens(band: warm_up.Band) -> Text:
    text: Text = ["The thermostat opens after ", *_some(band.likely)]
    if band.high >= warm_up.RUN:
        return [*text, ", no sooner than ", *_some(band.low), "; it may take more than an hour and a half."]
    if band.high < 60.0:
        return [*text, "."]
    low = ["less than a minute"] if band.low < 60.0 else [minutes_of(band.low)]
    return [*text, ", between ", *low, " and ", minutes_of(band.high), "."]


def _goes_in(volume: warm_up.Band) -> Text:
    likely, most = volume.likely / LITRE, volume.high / LITRE
    text: Text = ["Then next to nothing goes in"]
    if likely >= LITTLE:
        text = ["Then about ", Measure(quantity="volume", value=likely), " goes in"]
    if most < LITTLE:
        return [*text, "."]
    return [*text, "; up to ", Measure(quantity="volume", value=most), " is no cause for worry."]


def _lower_hose(after: float) -> Text:
    """The lower hose, warm so many seconds after the thermostat opens."""
    if after < -JUST:
        return ["The lower hose is warm before that, and tells nothing of the thermostat."]
    if after < 60.0:
        return ["The lower hose gets warm right after that."]
    return ["The lower hose gets warm about ", minutes_of(after), " after that."]


def schools(build: Build, variant: Variant) -> list[FillSchool]:
    """Every way of filling with whether it works here and why."""
    heights = heights_of(build, variant)
    return [_school(name, works(name, heights), heights) for name in SCHOOLS]


def _school(name: str, found: Works, heights: Heights) -> FillSchool:
    where = "the heater" if (heights.heater or 0.0) >= (heights.outlet or 0.0) else "the engine's outlet"
    texts: dict[str, Text] = {
        "absent": ["This car has no such thing."],
        "pumped": ["The pump carries the air to the filler, whatever stands higher."],
        "unknown": [
            "That hangs on heights that are not known: measure filler, heater and engine outlet above the lower hose."
        ],
    }
    text = texts.get(found.why)
    if text is None and found.spare is not None:
        far = length(abs(found.spare) / MM)
        text = (
            ["Works: its opening stands ", far, f" above {where}, the highest place that holds air."]
            if found.works
            else ["Will not work: its opening stays ", far, f" below {where}, where the air collects."]
        )
    return FillSchool(school=name, title=TITLES[name], works=found.works, text=text or [])


def lift_of(build: Build, variant: Variant) -> float | None:
    """By how much the end with the filler has to rise [m]; None where nobody knows."""
    return lift_needed(heights_of(build, variant))
