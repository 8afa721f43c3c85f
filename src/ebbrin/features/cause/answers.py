"""A question about a cause, and its answer, as people and programs read them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ebbrin.build.build import Build
from ebbrin.build.part import Identifier, Part
from ebbrin.core.cause.choice import Order
from ebbrin.ground.words import Answer, Text

Speaker = Literal["table", "model", "build"]
Kind = Literal["story", "look", "feel", "measure", "test", "model"]
EngineState = Literal["any", "cold", "running"]


class DiagnosisQuestion(Part):
    """What was seen, of a build or of any car."""

    build: Build | None = Field(default=None, description="Null for any car: then the tables speak alone.")
    variant: Identifier | None = Field(default=None, description="Id; that in the car if left out.")
    evidence: Annotated[dict[str, str | None], Field(max_length=100)] = Field(
        default={},
        description="Observation to value, both by their ids; null or not_looked where nobody looked.",
    )
    order: Order = Field(default="telling", description="Which test comes next.")
    hourly_rate: float = Field(
        default=30.0, gt=0.0, le=1e5, description="What an hour is worth, in the money of the tools."
    )


class CardsQuestion(Part):
    """Of which build the test cards are wanted, or of any car."""

    build: Build | None = Field(default=None, description="Null for any car.")
    variant: Identifier | None = Field(default=None, description="Id; that in the car if left out.")


class Speaks(Answer):
    """One observation that speaks for or against a cause."""

    observation: str
    value: str
    said: Text = Field(description="The observation in words.")
    why: str = Field(description="Why it bears on this cause, or empty.")
    bits: float = Field(description="How far it moves the odds: each bit doubles or halves them.")
    times: float = Field(description="The same as a factor of 1 or more.")
    by: Speaker


class Sets(Answer):
    """Causes that are there together."""

    causes: list[str]
    titles: list[Text]
    chance: float


class CauseChance(Answer):
    """One cause."""

    cause: str
    title: Text
    place: str
    chance: float = Field(description="That it is there, 0 to 1.")
    words: str = Field(description="The same in words.")
    explains: float = Field(description="That it is what explains the complaint.")
    for_: list[Speaks] = Field(alias="for", description="What speaks for it, the strongest first.")
    against: list[Speaks]
    model: Text | None = Field(description="What the drives of this build say of it.")
    mend: str
    proof: Text = Field(description="What proves that it is mended.")
    suggests: list[Text] = Field(description="Titles of what such a find makes worth a look.")
    suggests_why: str


class RuledOut(Answer):
    """A cause that need not be thought of, and why."""

    cause: str
    title: Text
    by: Text


class ValueWords(Answer):
    """One of the values of an observation."""

    value: str
    words: Text
    chance: float | None = Field(description="That this is what one will see; null where it is not known.")


class Test(Answer):
    """One thing to ask, look at, feel, measure or test."""

    observation: str
    question: str
    says: str
    kind: Kind
    bits: float = Field(description="What it is expected to tell about what explains the complaint.")
    minutes: float
    money: float
    danger: int = Field(description="0 none, 1 care, 2 hot or moving parts, 3 must be cold first.")
    state: EngineState
    tools: str
    why: str
    values: list[ValueWords]


class Answered(Answer):
    """Something that was seen, or that nobody looked at."""

    observation: str
    question: str
    says: str
    value: str | None = Field(description="Null where nobody looked.")
    said: Text
    values: list[ValueWords]


class Group(Answer):
    """Tests that are made in one go, because the engine must be in the same state."""

    state: EngineState
    observations: list[str]


class Pivot(Answer):
    """The answer that would change the picture most."""

    observation: str
    value: str
    said: Text
    cause: str
    title: Text
    chance: float = Field(description="Of that cause to be there, were it seen.")
    now: float = Field(description="Of the likeliest cause to be there.")
    text: Text = Field(description="All of it in one or two sentences.")


class Clash(Answer):
    """Two observations that seldom go together."""

    observations: list[str]
    text: Text


class SpokenBy(Answer):
    """Which of the table and the car's own model speaks."""

    state: Literal["table", "driving", "model"] = Field(
        description="The table alone; the model is being driven; the model where it has something to say."
    )
    drives: int
    model: list[str] = Field(description="Observations of which the model speaks.")
    text: str


class Diagnosis(Answer):
    """What it may be, and what to look at next."""

    seen: list[Answered] = Field(
        description="What was seen, as the tables list it; then what nobody looked at."
    )
    causes: list[CauseChance] = Field(description="All that can be, the likeliest first.")
    nothing: float = Field(description="Chance that none of them is there.")
    sets: list[Sets] = Field(description="The likeliest sets of causes.")
    questions: list[Test] = Field(description="What a driver can answer from the seat, four at most in all.")
    next: list[Test] = Field(description="Tests worth making, the next one first.")
    groups: list[Group]
    others: list[Test] = Field(description="What else could be said or looked at, most telling first.")
    stop: str | None = Field(description="Why not to run it any further.")
    enough: Text | None = Field(description="That further tests would hardly change what to mend.")
    pivot: Pivot | None
    clashes: list[Clash]
    ruled_out: list[RuledOut]
    lead: Text = Field(description="Why the first one leads.")
    spoken_by: SpokenBy
