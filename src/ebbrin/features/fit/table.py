"""The table of steps, read once."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ebbrin.features.fit.situation import Situation

Stage = Literal["ready", "drain", "out", "bench", "in", "fill", "prove", "after"]
STAGES: dict[Stage, str] = {
    "ready": "Get ready",
    "drain": "Drain and flush",
    "out": "Take out",
    "bench": "On the bench",
    "in": "Put in",
    "fill": "Fill and bleed",
    "prove": "Prove it",
    "after": "After the first drives",
}
ProofKind = Literal[
    "hold", "cap", "first_cycle", "second_cycle", "strength", "road", "cold_morning", "clamps"
]
TimerName = Literal["opens", "fan_on", "safe", "second", "hold", "vent_run"]


class Row(BaseModel):
    """What the table says."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class Later(Row):
    """What it means at a later step that this one was left out."""

    at: str
    says: str


class Sign(Row):
    """What is a bad sign, and what it is to the finding of a cause."""

    says: str
    evidence: dict[str, str]


class StepRow(Row):
    """One step."""

    id: str
    title: str
    how: list[str]
    minutes: float
    stage: Stage
    after: list[str] = []
    only_after: list[str] = []
    needs: list[str] = []
    cautions: list[str] = []
    tools: list[str] = []
    hands: Annotated[int, Field(ge=1, le=2)] = 1
    timer: TimerName | None = None
    proof: ProofKind | None = None
    skipped: list[Later] = []
    bad: list[Sign] = []
    reads: list[tuple[str, str]] = []
    events: list[tuple[str, str]] = []


class CautionRow(Row):
    """One caution."""

    id: str
    says: str


class Table(Row):
    """All steps and cautions."""

    step: list[StepRow]
    caution: list[CautionRow]


@cache
def table() -> Table:
    """What steps.toml holds."""
    text = resources.files("ebbrin.features.fit").joinpath("steps.toml").read_text("utf-8")
    return Table.model_validate(tomllib.loads(text))


def wanted(row: StepRow, so: Situation | frozenset[str]) -> bool:
    """Whether a step is part of a job: each of its needs holds, ``a|b`` one of them, ``!a`` does not.

    >>> drain = next(row for row in table().step if row.id == "drain_cock")
    >>> wanted(drain, frozenset({"drains", "drain_cock"})), wanted(drain, frozenset({"drains"}))
    (True, False)
    """
    holds = so if isinstance(so, frozenset) else so.holds

    def true(name: str) -> bool:
        return name[1:] not in holds if name.startswith("!") else name in holds

    return all(any(true(name) for name in need.split("|")) for need in row.needs)
