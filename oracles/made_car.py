"""Cars of which the truth is known, answering what they are asked: by the drive model where it has something to say, else
by what a cause most surely shows."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.bridge.to_core import system_from
from ebbrin.build.build import Build
from ebbrin.build.resolve import resolve
from ebbrin.core.cause.reading import Readings
from ebbrin.core.cause.tables import CAUSES, LINKS, NOT_LOOKED, OBSERVATIONS
from ebbrin.core.cause.witness import UNSEEN, seen_with
from ebbrin.core.drive.faults import all_possible
from ebbrin.features.cause import facts
from ebbrin.features.cause.answers import Diagnosis, DiagnosisQuestion
from ebbrin.features.cause.service import CauseService

SURE = ("++", "+++")


@dataclass(frozen=True)
class MadeCar:
    """A build with one cause in it, at its worst."""

    cause: str
    shown: Readings

    def complaint(self) -> str | None:
        """What its driver comes with; None where there is nothing to complain of."""
        shares = self.shown.get("complaint")
        return None if shares is None else OBSERVATIONS["complaint"].telling[int(np.argmax(shares))]

    def answers(self, observation: str) -> str:
        """What is seen of it."""
        seen = OBSERVATIONS[observation]
        for value in UNSEEN.get(observation, ()):
            if any((k.cause, k.observation, k.value) == (self.cause, observation, value) for k in LINKS):
                return value  # no drive can show it
        if observation in self.shown:
            return seen.telling[int(np.argmax(self.shown[observation]))]
        for link in LINKS:
            known = link.strength in SURE or seen.story
            if (link.cause, link.observation) == (self.cause, observation) and known:
                return link.value
        return NOT_LOOKED if seen.story else seen.telling[0]


def made_cars(build: Build, causes: list[str] | None = None) -> list[MadeCar]:
    """A car for every cause that the model can drive in this build."""
    resolved = resolve(build, build.variants[0].id)
    system = system_from(resolved)
    possible = set(all_possible(system))
    out = facts.impossible(facts.denied(build.variants[0]))
    wanted = [
        c
        for c in CAUSES.values()
        if c.drive_fault in possible and c.name not in out and (causes is None or c.name in causes)
    ]
    faults = sorted({cause.drive_fault for cause in wanted})
    ambient, altitude = build.site.ambient_c + 273.15, build.site.altitude_m
    shown = seen_with(system, faults, ambient, altitude)
    return [MadeCar(cause.name, shown[cause.drive_fault]) for cause in wanted]


@dataclass(frozen=True)
class FoundOut:
    """What became of a car that was asked about: whether a cause of its fault was among the first three from the seat; how
    many tests were made until its own stood first, the most that were allowed where it never did; whether it did."""

    from_seat: bool
    tests: int
    right: bool


def found_out(service: CauseService, build: Build, car: MadeCar, most: int) -> FoundOut | None:
    """Ask from the seat, then make the tests that are chosen; None for a car that does not complain."""
    complaint = car.complaint()
    if complaint is None:
        return None
    evidence: dict[str, str | None] = {"complaint": complaint}

    def ask() -> Diagnosis:
        return service.diagnose(
            DiagnosisQuestion(build=build, variant=build.variants[0].id, evidence=evidence), wait=True
        )

    found = ask()
    while found.questions:
        name = found.questions[0].observation
        evidence[name] = car.answers(name)
        found = ask()
    fault = CAUSES[car.cause].drive_fault
    three = any(CAUSES[c.cause].drive_fault == fault for c in found.causes[:3])
    made = 0
    while found.causes[0].cause != car.cause and made < most and found.next:
        name = found.next[0].observation
        evidence[name] = car.answers(name)
        found, made = ask(), made + 1
    return FoundOut(three, made, found.causes[0].cause == car.cause)
