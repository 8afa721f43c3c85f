"""What is said of causes and tests. What a sentence claims is computed where it is called from."""

from __future__ import annotations

from math import ceil
from typing import Literal

from ebbrin.core.cause.standard_round import Part
from ebbrin.core.cause.tables import Observation
from ebbrin.ground.marked import marked
from ebbrin.ground.words import Text, temperature

CERTAIN_FROM = 0.95
TENTHS = ("", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")

STOPS: dict[tuple[str, str], str] = {
    (
        "oil_look",
        "milky",
    ): "Oil and coolant are mixed: do not run it any further. Oil that carries coolant ruins its bearings within minutes.",
    (
        "coolant_look",
        "oily",
    ): "Oil and coolant are mixed: do not run it any further until it is known which way it goes.",
    ("complaint", "milky_fluid"): "Oil or gearbox fluid is mixed with coolant: do not run it any further.",
    (
        "gearbox_fluid",
        "milky",
    ): "The gearbox fluid carries coolant: do not run or tow it in gear any further. It ruins the gearbox within a short way.",
    (
        "block_test",
        "turns_yellow_or_green",
    ): "There is gas of the cylinders in the coolant: do not run it any further. It can lose its coolant within minutes and crack the head.",
}
"""What asks to stop before all else."""

DANGERS = ("no danger", "with care", "hot or moving parts", "cold engine only")
PLACES: dict[Part, str] = {
    "cold": "from cold",
    "warm_up": "of warming up",
    "road": "of easy road",
    "queue": "of queue",
    "blip": "of revving at rest",
    "drive_off": "after driving off",
    "crawl": "of crawling",
    "climb": "of climbing",
    "fast": "of fast road",
    "stop": "after stopping",
}


def stop(seen: dict[str, str]) -> str | None:
    """Why the car must not be run any further, if it must not."""
    return next((text for (name, value), text in STOPS.items() if seen.get(name) == value), None)


def of_ten(chance: float) -> str:
    """A chance as so many of ten such cars: never more than it is, and never certain.

    >>> of_ten(0.44), of_ten(0.06), of_ten(0.004), of_ten(0.97)
    ('four of ten', 'less than one of ten', 'hardly', 'as good as certain')
    """
    if chance >= CERTAIN_FROM:
        return "as good as certain"
    if chance < 0.01:
        return "hardly"
    if chance < 0.1:
        return "less than one of ten"
    return f"{TENTHS[int(chance * 10.0 + 1e-9)]} of ten"


def moved(now: float, then: float) -> tuple[str, str] | None:
    """Two chances in words that differ, of a hundred where of ten says the same; none if that does not tell either.

    >>> moved(0.06, 0.31), moved(0.02, 0.08), moved(0.022, 0.024), moved(0.96, 0.99)
    (('less than one of ten', 'three of ten'), ('2 of a hundred', '8 of a hundred'), None, None)
    """
    if min(now, then) >= CERTAIN_FROM:
        return None
    for told in (of_ten, of_hundred):
        if told(now) != told(then):
            return told(now), told(then)
    return None


def of_hundred(chance: float) -> str:
    """A chance as so many of a hundred such cars: never more than it is."""
    return f"{int(chance * 100.0 + 1e-9)} of a hundred"


def pivots(said: str, noun: str, now: str, then: str) -> Text:
    """The one answer that would change most, and what it would change."""
    return marked(
        f"What would change this most: “{said}”. It would take the chance of {noun} from {now} to {then}."
    )


def effort(seen: Observation) -> str:
    """What a test takes.

    >>> from ebbrin.core.cause.tables import OBSERVATIONS
    >>> effort(OBSERVATIONS["fuse"])
    '3 minutes, multimeter, no danger'
    """
    takes = "no time" if seen.minutes == 0 else minutes(60.0 * seen.minutes)
    return ", ".join([takes, seen.tools or "no tools", DANGERS[seen.danger]])


def parts(first: str, second: str, seen: Observation) -> str:
    """Why a test that tells two causes apart."""
    return f"Parts {first} from {second}: {effort(seen)}."


def settles(noun: str, seen: Observation) -> str:
    """Why a test that tells one cause from all else."""
    return f"Shows whether it is {noun}: {effort(seen)}."


def minutes(seconds: float) -> str:
    """A time as people say it, rounded up.

    >>> minutes(26.0), minutes(640.0)
    ('a minute', '11 minutes')
    """
    whole = max(1, ceil(seconds / 60.0))
    return "a minute" if whole == 1 else f"{whole} minutes"


def by_drives(
    passed_in: Part | None, after: float, back: float | None, limit_c: float, hottest_c: float
) -> Text:
    """What the drives of this build with one fault came to, at its worst: its own cases may ask more than the round."""
    if passed_in is None:
        return [
            "Driven with it at its worst over a round of town, hill and fast road, this build stays below its limit of ",
            temperature(limit_c),
            ".",
        ]
    text: Text = [
        "Driven with it at its worst over a round of town, hill and fast road, this build passes ",
        temperature(limit_c),
        f" after {minutes(after)} {PLACES[passed_in]}",
    ]
    if back is not None:
        return [*text, f" and comes back within {minutes(back)} of driving off."]
    return [*text, " and reaches ", temperature(hottest_c), "."]


Source = Literal["build", "said", "seen"]
"""Where it is known from that a car has not what an observation needs: its description, what was said of it, or what
else was seen."""
KNOWN_FROM: dict[Source, tuple[str, str]] = {
    "build": ("by its description", ", or describe the build as it is"),
    "said": ("as was said", ""),
    "seen": ("by what else was seen", ""),
}


def cannot(said: str, fact: str, source: Source) -> Text:
    """That something was seen which cannot be seen of a car of which a fact does not hold."""
    known, remedy = KNOWN_FROM[source]
    return marked(
        f"“{said}” cannot be seen of this car: {fact}, {known}. One of the two is wrong: look once more{remedy}."
    )


def clash(first: str, second: str, both: str | None) -> Text:
    """That two things that were seen seldom go together, and the one cause that would show both, if there is one."""
    text = (
        f"“{first}” and “{second}” seldom go together. Both are weighed; look once more at the one that is "
        "easier to look at."
    )
    return marked(text if both is None else f"{text} {both[0].upper()}{both[1:]} would show both.")
