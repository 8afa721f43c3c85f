"""Text with typed quantities, and how it reads where there is no page."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field

from ebbrin.ground.quantities import QUANTITIES


class Answer(BaseModel):
    """Answers are written by Ebbrin alone; a value of null means that there is none."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, frozen=True)


class Measure(Answer):
    """A number within a text; the reader's own units are put to it where it is shown."""

    quantity: str = Field(description="What it measures, as in the build's schema.")
    value: float = Field(description="In the document's unit of that quantity.")
    bare: bool = Field(default=False, description="Written without its unit, because the next one has it.")


Text = list[str | Measure]


def temperature(value: float) -> Measure:
    """A temperature, °C."""
    return Measure(quantity="temperature", value=value)


def difference(value: float) -> Measure:
    """A difference of temperatures, K."""
    return Measure(quantity="temperature_difference", value=value)


def airflow(value: float) -> Measure:
    """Flow of air, m³/s."""
    return Measure(quantity="airflow", value=value)


def power(value: float) -> Measure:
    """Heat or work per second, kW."""
    return Measure(quantity="power", value=value)


def pressure(value: float) -> Measure:
    """Gauge pressure, kPa."""
    return Measure(quantity="pressure", value=value)


def volume(value: float) -> Measure:
    """A volume, L."""
    return Measure(quantity="volume", value=value)


def length(value: float) -> Measure:
    """A length, mm."""
    return Measure(quantity="length", value=value)


def bare(measure: Measure) -> Measure:
    """The same number without its unit."""
    return measure.model_copy(update={"bare": True})


def share(value: float) -> Measure:
    """A share, 0 to 1."""
    return Measure(quantity="share", value=value)


def times(value: float) -> Measure:
    """How many times as much."""
    return Measure(quantity="factor", value=value)


def duration(value: float) -> Measure:
    """Time, s."""
    return Measure(quantity="duration", value=value)


def counted(count: int, one: str, more: str) -> str:
    """A number and its word.

    >>> counted(1, "case", "cases"), counted(3, "case", "cases")
    ('1 case', '3 cases')
    """
    return f"{count} {one if count == 1 else more}"


def capital(text: str) -> str:
    """A text as it stands at the beginning of a sentence; units within it keep their letters.

    >>> capital("a 12 V lead")
    'A 12 V lead'
    """
    return text[:1].upper() + text[1:]


def in_sentence(title: str) -> str:
    """A title amid a sentence: its first letter small, but for one that stands for a word, as on the page
    (model/words/inSentence.ts).

    >>> in_sentence("The engine's outlet"), in_sentence("E85 (ethanol)")
    ("the engine's outlet", 'E85 (ethanol)')
    """
    return title[:1].lower() + title[1:] if title[1:2].islower() else title


def printed(text: Text) -> str:
    """The text in the document's units.

    >>> printed(["Holds ", difference(6.0), " below the limit."])
    'Holds 6 K below the limit.'
    """
    return "".join(part if isinstance(part, str) else _print(part) for part in text)


SLIGHT = {"pressure": 1.0, "velocity": 0.1}
"""What drives coolant without a pump, and how it creeps then, is not nothing: told closer below these, as on the page."""


def _print(measure: Measure) -> str:
    if measure.quantity == "chance":
        return in_days(measure.value)
    shown = QUANTITIES[measure.quantity]
    value = measure.value * 100.0 if measure.quantity == "share" else measure.value
    decimals = 3 if measure.quantity == "airflow" and value < 0.2 else shown.decimals
    if 0.0 < abs(value) < SLIGHT.get(measure.quantity, 0.0):
        decimals = 2 if abs(value) >= 0.1 else 3
    rounded = round(value, decimals) + 0.0  # nothing has no sign
    return f"{rounded:.{decimals}f}{'' if measure.bare else shown.unit}"


def chance(value: float) -> Measure:
    """A chance, 0 to 1, said in days out of ten."""
    return Measure(quantity="chance", value=value)


DAYS = (
    "",
    "one day",
    "two days",
    "three days",
    "four days",
    "",
    "six days",
    "seven days",
    "eight days",
    "nine days",
)


def in_days(value: float) -> str:
    """A chance in words that never say more than it is: a tenth is reached or it is not named.

    >>> in_days(0.93)
    'nine days in ten'
    >>> in_days(0.47)
    'just under even odds'
    """
    if value >= 0.99:
        return "ninety-nine days in a hundred"
    if value < 0.01:
        return "not one day in a hundred"
    if value < 0.1:
        return "less than one day in ten"
    if 0.45 <= value < 0.5:
        return "just under even odds"
    tenths = int(value * 10.0 + 1e-9)
    return "even odds" if tenths == 5 else f"{DAYS[tenths]} in ten"


def in_percent(value: float) -> str:
    """A chance in per cent that never says more than it is, as ``in_days``: 0.897 is no 90 %, and nothing is certain.

    >>> in_percent(0.897)
    '89 %'
    >>> in_percent(0.9996)
    '99 %'
    """
    if value < 0.01:
        return "under 1 %"
    return f"{min(int(value * 100.0 + 1e-9), 99)} %"
