"""What it may be and what to look at next, from what was seen of a build or of any car."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import dataclass

from ebbrin.build.build import Build
from ebbrin.build.resolve import MissingValues, UnknownVariant
from ebbrin.core.base import DomainError
from ebbrin.features.cause import facts
from ebbrin.features.cause.answering import Answering
from ebbrin.features.cause.answers import (
    CardsQuestion,
    Diagnosis,
    DiagnosisQuestion,
)
from ebbrin.features.cause.car import Car
from ebbrin.features.cause.cards import Card, cards
from ebbrin.features.cause.evidence import read
from ebbrin.features.cause.witnesses import Inquiries, Witnesses, car_of, table
from ebbrin.features.judge import Verdict, surely

MOST_VERDICTS = 64
SPARE = 20.0
"""A build that holds with so much to spare [K] is not too small."""
CRAWLING, FAST, HILLY = 20.0, 60.0, 0.02
"""Which cases stand for when it gets hot: speeds [km/h], gradient [-]."""


class CauseService:
    """Finds causes; keeps what the drives of each car came to."""

    def __init__(self) -> None:
        self.witnesses = Witnesses()
        self._inquiries = Inquiries()
        self._verdicts: dict[str, list[Judged]] = {}

    def close(self) -> None:
        """Drive nothing any more."""
        self.witnesses.close()

    def diagnose(self, question: DiagnosisQuestion, wait: bool = False) -> Diagnosis:
        """What it may be and what to look at next.

        Parameters
        ----------
        wait : whether to wait for the drives of the build; else they are begun, and the tables speak until then.

        Raises
        ------
        UnknownEvidence
            If an observation or a value is not known.
        UnknownVariant
        """
        seen, skipped = read(question.evidence)
        car = self._car(question, seen, wait)
        if car.verdict is not None and "judged_by_build" not in seen and "judged_by_build" not in skipped:
            seen = {**seen, "judged_by_build": car.verdict}
        return Answering(question, seen, skipped, car, self._inquiries.of(car.network)).diagnosis()

    def cards(self, question: CardsQuestion) -> list[Card]:
        """The test cards, with the numbers of the build. What its drives have not shown yet is said in words.

        Raises
        ------
        UnknownVariant
        """
        build, known = question.build, None
        if build is not None:
            chosen = question.variant or build.in_the_car.id
            known = self.witnesses.seen_of(build, chosen)
        return cards(question, known)

    def _judged(self, build: Build, variant_id: str) -> list[Judged]:
        key = (
            car_of(build, variant_id)
            + hashlib.sha256("".join(case.model_dump_json() for case in build.cases).encode()).hexdigest()
        )
        if key not in self._verdicts:
            if len(self._verdicts) >= MOST_VERDICTS:
                self._verdicts.clear()
            self._verdicts[key] = judge_all(build, variant_id)
        return self._verdicts[key]

    def _car(self, question: DiagnosisQuestion, seen: dict[str, str], wait: bool) -> Car:
        build = question.build
        if build is None:
            return Car(table(), None, False, frozenset(), {}, None)
        chosen = question.variant or build.in_the_car.id
        variant = next((v for v in build.variants if v.id == chosen), None)
        if variant is None:
            raise UnknownVariant(chosen)
        lacking, factors = facts.denied(variant), facts.factors(variant)
        try:
            verdict = verdict_on(self._judged(build, chosen), seen.get("when_hot"))
            known, driving = (
                (self.witnesses.wait(build, chosen), False) if wait else self.witnesses.known(build, chosen)
            )
        except (MissingValues, DomainError):
            # Not described far enough, or of parts that make no car: what is known of it still prunes.
            return Car(table(), None, False, lacking, factors, None)
        network = known.network if known is not None else table()
        return Car(network, known, driving, lacking, factors, verdict)


@dataclass(frozen=True)
class Judged:
    """A case of a build and what the workbench says of it: speed [km/h], gradient of a case from the road [-], verdict,
    and how much hotter the air could be [K]."""

    speed: float
    gradient: float
    verdict: Verdict
    spare: float | None


def judge_all(build: Build, variant_id: str) -> list[Judged]:
    """What the workbench says of each case.

    Raises
    ------
    MissingValues, UnknownVariant, DomainError
    """
    of = {case.id: case for case in build.cases}
    return [
        Judged(
            of[found.id].speed_km_h,
            of[found.id].gradient_share if of[found.id].load == "road" else 0.0,
            found.verdict,
            found.ambient_margin_k,
        )
        for found in surely(build, variant_id).cases
    ]


STANDS_FOR: dict[str, Callable[[Judged], bool]] = {
    "standing": lambda case: case.speed < 1.0,
    "crawling": lambda case: 1.0 <= case.speed < CRAWLING,
    "climbing": lambda case: case.gradient > HILLY,
    "at_speed": lambda case: case.speed > FAST,
}
"""Which cases stand for when it gets hot; all of them where nothing else is said."""


def verdict_on(judged: list[Judged], when_hot: str | None) -> str | None:
    """What the workbench says of the cases in which it gets hot, as far as it bears on a build too small: "fails" where
    one of them does, "holds" where all have SPARE."""
    wanted = STANDS_FOR.get(when_hot or "")
    cases = [case for case in judged if wanted is None or wanted(case)]
    if any(case.verdict == "fails" for case in cases):
        return "fails"
    plenty = bool(cases) and all(case.spare is not None and case.spare >= SPARE for case in cases)
    return "holds" if plenty else None
