"""What can be wrong, what can be seen, and what the one does to the other: three tables beside this file.

Common practice, no published source; each link says why. Weights are how common a cause is among a thousand cars with
any complaint about their cooling.
"""

from __future__ import annotations

import csv
from dataclasses import dataclass
from pathlib import Path
from typing import Literal, cast

Kind = Literal["story", "look", "feel", "measure", "test", "model"]
State = Literal["any", "cold", "running"]
Strength = Literal["+", "++", "+++"]
DEFINES: Strength = "+++"


@dataclass(frozen=True)
class Cause:
    """One thing that can be wrong.

    place, where it lies; title, and noun as it stands in a sentence; weight, of a thousand cars; drive_fault, the fault
    of a drive that shows it, or ""; needs, facts of a car without which it cannot be; explains, the complaints that it
    can be the reason of; mend and proof; suggests, causes that such a find makes worth a look, and why.
    """

    name: str
    place: str
    title: str
    noun: str
    weight: float
    drive_fault: str
    needs: frozenset[str]
    explains: frozenset[str]
    mend: str
    proof: str
    suggests: tuple[str, ...]
    suggests_why: str


@dataclass(frozen=True)
class Observation:
    """One thing that can be asked, looked at, felt, measured or tested.

    ``values`` begin with the healthy one, but for a story and for what the model says; ``words`` say each after
    ``says``. ``base`` is the share of sound cars that show each of the ``telling`` values. ``denies`` maps a value that
    only says that the car has no such part to the fact that it denies. minutes, money for tools, danger: 0 none, 1 care,
    2 hot or moving parts, 3 a system under pressure must be cold first.
    """

    name: str
    kind: Kind
    question: str
    says: str
    values: tuple[str, ...]
    words: tuple[str, ...]
    base: tuple[float, ...]
    minutes: float
    money: float
    danger: int
    state: State
    tools: str
    needs: frozenset[str]
    denies: dict[str, str]

    @property
    def story(self) -> bool:
        """Whether it is told, or known from the model, so that no value is the healthy one."""
        return self.kind in ("story", "model")

    @property
    def symptom(self) -> bool:
        """Whether it is something that the car does, as its temperatures come out, rather than the state of a part."""
        return self.story or self.name in THERMAL

    @property
    def telling(self) -> tuple[str, ...]:
        """The values that speak for or against a cause: all but those that only say what the car has not."""
        return tuple(value for value in self.values if value not in self.denies and value != UNKNOWN)

    def said(self, value: str) -> str:
        """The observation with that value in words; a number in braces has its unit behind it.

        >>> OBSERVATIONS["level_filler"].said("full")
        'Coolant at the filler full'
        """
        return f"{self.says} {self.words[self.values.index(value)]}"


@dataclass(frozen=True)
class Link:
    """A cause shows a value of an observation: how surely, and why."""

    cause: str
    observation: str
    value: str
    strength: Strength
    why: str


THERMAL = ("hoses_by_hand", "heater", "hose_difference")
"""What is felt or measured of the temperatures of a car that runs; stories apart."""
UNKNOWN, NOT_LOOKED = "unknown", "not_looked"
"""Values that say nothing: of what the model says, and of anything that was asked."""


def _rows(name: str) -> list[dict[str, str]]:
    with Path(__file__).with_name(name).open(encoding="utf-8", newline="") as file:
        return list(csv.DictReader(file))


def _cause(row: dict[str, str]) -> Cause:
    return Cause(
        row["cause"],
        row["place"],
        row["title"],
        row["noun"],
        float(row["weight"]),
        row["drive_fault"],
        frozenset(row["needs"].split()),
        frozenset(row["explains"].split()),
        row["mend"],
        row["proof"],
        tuple(row["suggests"].split()),
        row["suggests_why"],
    )


def _observation(row: dict[str, str]) -> Observation:
    values = tuple(row["values"].split("|"))
    denies = dict(part.split("=") for part in row["denies"].split())
    telling = [value for value in values if value not in denies and value != UNKNOWN]
    return Observation(
        row["observation"],
        cast(Kind, row["kind"]),
        row["question"],
        row["says"],
        values,
        tuple(row["words"].split("|")),
        _base(row["base"], len(telling)),
        float(row["minutes"]),
        float(row["money"]),
        int(row["danger"]),
        cast(State, row["state"]),
        row["tools"],
        frozenset(row["needs"].split()),
        denies,
    )


def _base(written: str, values: int) -> tuple[float, ...]:
    """Shares of all values: even where nothing is written; else those of all, or those of all but the healthy one, or
    one figure for these together."""
    shares = [float(part) for part in written.split("|") if part]
    if not shares:
        return (1.0 / values,) * values
    if len(shares) == values:
        return tuple(shares)
    unsound = shares if len(shares) == values - 1 else [shares[0] / (values - 1)] * (values - 1)
    return (1.0 - sum(unsound), *unsound)


CAUSES: dict[str, Cause] = {row["cause"]: _cause(row) for row in _rows("causes.csv")}
OBSERVATIONS: dict[str, Observation] = {
    row["observation"]: _observation(row) for row in _rows("observations.csv")
}
LINKS: tuple[Link, ...] = tuple(
    Link(row["cause"], row["observation"], row["value"], cast(Strength, row["strength"]), row["why"])
    for row in _rows("links.csv")
)
