"""Practice: a demo car with hidden faults, found out by the same engine and the same cards.

All of a car follows from its seed and difficulty, so two people can have the same one, and nothing is kept. What the
model can drive is read off its drive; all else is drawn from the tables, false alarms included: that is each
instrument's own error.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from threading import Lock
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from ebbrin.bridge.to_core import system_from
from ebbrin.build.build import Build
from ebbrin.build.part import Part
from ebbrin.build.resolve import resolve
from ebbrin.core.cause.choice import costs
from ebbrin.core.cause.network import Network
from ebbrin.core.cause.reading import Readings
from ebbrin.core.cause.sets import members, shown
from ebbrin.core.cause.tables import CAUSES, LINKS, NOT_LOOKED, OBSERVATIONS
from ebbrin.core.cause.witness import seen_together
from ebbrin.core.drive.faults import all_possible
from ebbrin.demo import demo_builds
from ebbrin.features.cause import facts
from ebbrin.features.cause.answers import DiagnosisQuestion
from ebbrin.features.cause.evidence import check
from ebbrin.features.cause.service import CauseService
from ebbrin.features.cause.witnesses import table
from ebbrin.ground.marked import marked
from ebbrin.ground.words import Answer, Text

Difficulty = Literal["one", "two", "three"]
FAULTS: dict[Difficulty, int] = {"one": 1, "two": 2, "three": 3}
MOST_SEED = 999_999
TRIED = 40
"""How many cars are drawn for a seed until one has something to complain of."""
SURE = 0.5
"""The engine names what it holds for likelier than not, once these are the likeliest."""
MOST_TESTS = 25
KEPT = 16
RATE = 30.0


class Practice(Part):
    """Which car."""

    seed: int = Field(ge=1, le=MOST_SEED, description="Two people with the same seed have the same car.")
    difficulty: Difficulty = Field(default="one", description="How many faults it has.")


class Look(Practice):
    """Something that is done to it."""

    observation: str = Field(max_length=40)


class Named(Practice):
    """What somebody takes it to be, and what was looked at for that, in order."""

    asked: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=60)]
    causes: Annotated[list[Annotated[str, Field(max_length=40)]], Field(min_length=1, max_length=3)]


class PracticeCar(Answer):
    """The car as its driver brings it."""

    build: Build
    name: str
    faults: int
    complaint: str
    said: Text


class Found(Answer):
    """What was seen, and what it cost."""

    observation: str
    value: str
    said: Text
    minutes: float
    money: float
    danger: int


class Step(Answer):
    """What one look told: the true causes' chance to be there, all of them together, before and after it."""

    observation: str
    said: Text
    cost: float = Field(description="Minutes, money and danger counted in.")
    before: float
    after: float


class Debrief(Answer):
    """How it went."""

    right: bool
    truth: list[str]
    titles: list[Text]
    missed: list[Text]
    wrong: list[Text]
    spent: float = Field(description="Minutes, money and danger counted in.")
    best: float = Field(description="The same of the engine's own order on this car.")
    score: int = Field(description="Of 100; 0 where the causes are not the true ones.")
    steps: list[Step]
    best_order: list[Step]


@dataclass(frozen=True)
class HiddenCar:
    """A car whose truth is known here alone."""

    build: Build
    truth: tuple[str, ...]
    values: dict[str, str]


CAN_BE_FOUND = {
    link.cause for link in LINKS if link.strength != "+" and not OBSERVATIONS[link.observation].story
}
"""Causes that some look or test tells of: others would be guessed, not found."""
COST = costs(
    np.array([o.minutes for o in OBSERVATIONS.values()]),
    np.array([o.money for o in OBSERVATIONS.values()]),
    np.array([o.danger for o in OBSERVATIONS.values()]),
    RATE,
)
NUMBER = {name: number for number, name in enumerate(OBSERVATIONS)}


class Trainer:
    """Makes cars and says how somebody did."""

    def __init__(self, causes: CauseService) -> None:
        self._causes = causes
        self._cars: OrderedDict[tuple[int, str], HiddenCar] = OrderedDict()
        self._bests: OrderedDict[tuple[int, str], list[Step]] = OrderedDict()
        self._lock = Lock()

    def car(self, practice: Practice) -> PracticeCar:
        """The car as its driver brings it."""
        hidden = self._hidden(practice)
        complaint = hidden.values["complaint"]
        return PracticeCar(
            build=hidden.build,
            name=hidden.build.name,
            faults=len(hidden.truth),
            complaint=complaint,
            said=marked(OBSERVATIONS["complaint"].said(complaint)),
        )

    def look(self, look: Look) -> Found:
        """What is seen of it.

        Raises
        ------
        UnknownEvidence
            If there is no such observation.
        """
        check("observation", {("observation",): look.observation}, OBSERVATIONS)
        seen, value = OBSERVATIONS[look.observation], self._hidden(look).values[look.observation]
        said = [f"{seen.question}: cannot be told"] if value == NOT_LOOKED else marked(seen.said(value))
        return Found(
            observation=look.observation,
            value=value,
            said=said,
            minutes=seen.minutes,
            money=seen.money,
            danger=seen.danger,
        )

    def debrief(self, named: Named) -> Debrief:
        """The truth, what each look told, and how the engine itself would have gone about it.

        Raises
        ------
        UnknownEvidence
            If something that was looked at, or a cause that it is taken to be, is not known.
        """
        check("observation", {("asked", n): name for n, name in enumerate(named.asked)}, OBSERVATIONS)
        check("cause", {("causes", n): name for n, name in enumerate(named.causes)}, CAUSES)
        hidden = self._hidden(named)
        asked = [name for name in dict.fromkeys(named.asked) if name != "complaint"]
        steps = self._replayed(hidden, asked)
        best = self._best(named, hidden)
        spent, least = sum(s.cost for s in steps), sum(s.cost for s in best)
        right = set(named.causes) == set(hidden.truth)
        return Debrief(
            right=right,
            truth=list(hidden.truth),
            titles=[marked(CAUSES[c].title) for c in hidden.truth],
            missed=[marked(CAUSES[c].title) for c in hidden.truth if c not in named.causes],
            wrong=[marked(CAUSES[c].title) for c in dict.fromkeys(named.causes) if c not in hidden.truth],
            spent=spent,
            best=least,
            score=_score(spent, least) if right else 0,
            steps=steps,
            best_order=best,
        )

    def _hidden(self, practice: Practice) -> HiddenCar:
        key = (practice.seed, practice.difficulty)
        with self._lock:
            if key not in self._cars:
                self._cars[key] = made(practice.seed, FAULTS[practice.difficulty])
                while len(self._cars) > KEPT:
                    self._cars.popitem(last=False)
            return self._cars[key]

    def _best(self, practice: Practice, hidden: HiddenCar) -> list[Step]:
        """The engine's own order on this car, worked out once while the car is kept."""
        key = (practice.seed, practice.difficulty)
        with self._lock:
            best = self._bests.get(key)
        if best is None:
            best = self._replayed(hidden, *self._best_order(hidden))
            with self._lock:
                self._bests[key] = best
                while len(self._bests) > KEPT:
                    self._bests.popitem(last=False)
        return best

    def _chances(self, hidden: HiddenCar, asked: list[str]) -> dict[str, float]:
        evidence: dict[str, str | None] = {name: hidden.values[name] for name in ["complaint", *asked]}
        question = DiagnosisQuestion(build=hidden.build, evidence=evidence)
        # All steps by the same witness, or what a look told would be mixed with who speaks.
        return {c.cause: c.chance for c in self._causes.diagnose(question, wait=True).causes}

    def _replayed(self, hidden: HiddenCar, asked: list[str], known: Sequence[float] = ()) -> list[Step]:
        """Each look with how likely the truth was held before and after it; ``known`` for the first of them."""
        more = range(len(known), len(asked) + 1)
        likely = [*known, *(_truth(hidden, self._chances(hidden, asked[:n])) for n in more)]
        steps = []
        for name, before, after in zip(asked, likely, likely[1:], strict=False):
            seen, value = OBSERVATIONS[name], hidden.values[name]
            said = [f"{seen.question}: cannot be told"] if value == NOT_LOOKED else marked(seen.said(value))
            cost = float(COST[NUMBER[name]]) if not seen.story else seen.minutes
            steps.append(Step(observation=name, said=said, cost=cost, before=before, after=after))
        return steps

    def _best_order(self, hidden: HiddenCar) -> tuple[list[str], list[float]]:
        """What the engine would look at, in order, until it would name what is there, or nothing tells any more; and how
        likely the truth is held before the first of it, before the next, and so on."""
        asked: list[str] = []
        likely: list[float] = []
        for _ in range(MOST_TESTS):
            evidence: dict[str, str | None] = {name: hidden.values[name] for name in ["complaint", *asked]}
            question = DiagnosisQuestion(build=hidden.build, evidence=evidence)
            found = self._causes.diagnose(question, wait=True)
            likely.append(_truth(hidden, {c.cause: c.chance for c in found.causes}))
            likeliest = found.causes[: len(hidden.truth)]
            if {c.cause for c in likeliest} == set(hidden.truth) and likeliest[-1].chance >= SURE:
                break
            queue = [*found.questions, *found.next]
            if not queue:
                break
            asked.append(queue[0].observation)
        return asked, likely


def _truth(hidden: HiddenCar, chances: dict[str, float]) -> float:
    """How likely the true causes are held to be, the least likely of them."""
    return min(chances.get(cause, 0.0) for cause in hidden.truth)


def _score(spent: float, best: float) -> int:
    """Of 100: all for what the engine's own order costs or less.

    >>> _score(80.0, 40.0), _score(30.0, 40.0)
    (50, 100)
    """
    return round(100.0 * min(1.0, best / max(spent, 1e-9))) if spent > 0.0 else 100


def made(seed: int, faults: int) -> HiddenCar:
    """The car of a seed: one of the demo builds with so many causes that the model can drive."""
    rng = np.random.default_rng([seed, faults])
    builds = demo_builds()
    for attempt in range(TRIED):
        build = builds[int(rng.integers(len(builds)))]
        resolved = resolve(build, build.variants[0].id)
        system = system_from(resolved)
        possible, out = set(all_possible(system)), facts.impossible(facts.denied(build.variants[0]))
        able = [
            c
            for c in CAUSES.values()
            if c.drive_fault in possible and c.name not in out and c.name in CAN_BE_FOUND
        ]
        weight = np.array([c.weight for c in able])
        chosen = rng.choice(len(able), size=faults, replace=False, p=weight / weight.sum())
        truth = tuple(able[int(n)].name for n in sorted(chosen))
        severities = {CAUSES[c].drive_fault: float(rng.uniform(0.5, 1.0)) for c in truth}
        readings = seen_together(system, severities, build.site.ambient_c + 273.15, build.site.altitude_m)
        if "complaint" in readings or attempt == TRIED - 1:
            return HiddenCar(build, truth, _values(truth, readings, table(), rng))
    raise AssertionError("the last car is taken whatever it says")


def _values(
    truth: tuple[str, ...], readings: Readings, network: Network, rng: np.random.Generator
) -> dict[str, str]:
    """What each observation shows of a car, drawn once."""
    there = sorted(network.causes.index(cause) for cause in truth)
    sets = members(len(network.causes))
    row = np.array([*there, *[len(network.causes)] * (sets.shape[1] - len(there))])
    number = int(np.flatnonzero((sets == row).all(1))[0])
    found = {}
    for o, (name, seen) in enumerate(OBSERVATIONS.items()):
        of = shown(network, o)
        shares = of.shares[of.row[number]]
        if name in readings:
            # As the drive shows it, but for the share in which an instrument or a driver errs.
            err = 0.0 if seen.story else 1.0 - float(network.base[o][0])
            shares = (1.0 - err) * readings[name] + err * network.base[o]
        if seen.kind == "model":
            found[name] = NOT_LOOKED
        else:
            found[name] = seen.telling[int(rng.choice(len(shares), p=shares / shares.sum()))]
    return found
