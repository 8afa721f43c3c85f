"""What is asked of a sizing, and what comes back: the requirement, and the few combinations of parts."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, model_validator

from ebbrin.build.build import Build, Variant
from ebbrin.build.fields import choice, given, optional
from ebbrin.build.part import Identifier, Number, Part
from ebbrin.features.judge import Answers, Verdict
from ebbrin.ground.words import Answer, Text

Slot = Literal["radiator", "fan", "shroud", "pump", "coolant", "thermostat", "fan_switch", "cap"]
Goal = Literal["margin", "cost", "electric", "face"]
GOALS: tuple[Goal, ...] = ("margin", "cost", "electric", "face")
Give = Literal[
    "margin", "chance", "budget", "electric", "room", "keep", "cores", "coolant", "freezing", "parts"
]


class Wishes(Part):
    """What the parts must keep to."""

    by: Literal["chance", "margin"] = choice(
        "chance",
        "Asked for",
        {"chance": "A chance of holding", "margin": "A margin"},
        "A chance counts all that is guessed or scatters; a margin takes the likely values as they are.",
    )
    chance_share: float = given(
        "Chance that it holds",
        "share",
        0.5,
        0.99,
        0.9,
        "That all cases stay below their limits.",
        when={"by": ["chance"]},
    )
    margin_k: float = given(
        "Margin below the limit",
        "temperature_difference",
        0,
        40,
        6,
        "Every case keeps at least this much at the likely values.",
        when={"by": ["margin"]},
    )
    budget: Number = optional("Budget", "money", 0, 1e7, "no limit", "In the shelf’s money, for what is new.")
    electric_w: Number = optional(
        "Electric power",
        "electric_power",
        0,
        20000,
        "no limit",
        "What fans and electric pump may draw together.",
    )
    width_mm: Number = optional(
        "Widest core", "length", 100, 2000, "the car’s room, else the fitted core", "Fins only."
    )
    height_mm: Number = optional(
        "Highest core", "length", 100, 2000, "the car’s room, else the fitted core", "Fins only."
    )
    depth_mm: Number = optional(
        "Deepest core", "length", 12, 150, "the car’s room, else 30 mm more than fitted", "Without the fan."
    )
    cores: Literal["any", "shelf", "made"] = choice(
        "any",
        "Cores",
        {"any": "Shelf or made to measure", "shelf": "From the shelf", "made": "Made to measure"},
        "Made to measure: of the fitted kind, in real steps of rows, fins and depth.",
    )
    coolant: Literal["fitted", "water", "glycol", "waterless", "any"] = choice(
        "fitted",
        "Coolant",
        {
            "fitted": "What is in it",
            "water": "Water with an additive",
            "glycol": "A glycol mix",
            "waterless": "Waterless",
            "any": "Whichever",
        },
        "Those that freeze in the coldest case are left out.",
    )
    keep: list[Slot] = Field(
        default=[], max_length=8, title="Keep", description="Parts that stay as they are."
    )

    @model_validator(mode="before")
    @classmethod
    def newest(cls, wishes: Any) -> Any:
        """Wishes of before the chance was what is asked for: they named a margin, and a chance if one was wanted."""
        if not isinstance(wishes, dict) or "by" in wishes or "margin_k" not in wishes:
            return wishes
        asked = wishes.get("chance_share")
        kept = {name: value for name, value in wishes.items() if name != "chance_share"}
        if isinstance(asked, int | float) and 0.5 <= asked <= 0.99:
            return {**kept, "by": "chance", "chance_share": asked}
        return {**kept, "by": "margin"}


class SizingQuestion(Part):
    """A build, one of its variants, and what the parts must keep to."""

    build: Build
    variant: Identifier = Field(description="Id of the variant to start from.")
    wishes: Wishes = Wishes()


class FaceOption(Answer):
    """The face that does with one way of moving the air."""

    air: Text = Field(description="How the air is moved.")
    width_mm: float | None = Field(description="Null where no face does.")
    height_mm: float | None
    face_m2: float | None
    in_room: bool
    best_kept_k: float | None = Field(
        description="The most that any face keeps beyond what is asked; null where it never settles."
    )


class CaseNeed(Answer):
    """What one case asks of the required radiator, as it would run."""

    case_id: str
    name: str
    heat_kw: float
    allowed_c: float = Field(
        description="Highest top hose: the limit, less the margin where one was asked for."
    )
    hotter_k: float = Field(
        description="How much hotter the air is taken for the chance asked; 0 for a margin."
    )
    top_hose_c: float | None = Field(description="What it settles at, or the end of a timed case.")
    ambient_c: float
    heat_per_degree_kw_per_k: float = Field(description="Heat over top hose allowed less ambient.")
    conductance_kw_per_k: float = Field(description="UA of the required core there.")
    air_m3_per_s: float
    air_pa: float = Field(description="Pressure that the core takes at that airflow.")
    coolant_l_per_min: float
    coolant_kpa: float = Field(description="Pressure that the radiator takes at that flow.")


class TestPoint(Answer):
    """One test by which a shop shows that a core is what was asked for; fields of the radiator in a build."""

    test_heat_kw: float
    test_air_m_per_s: float
    test_coolant_l_per_min: float
    test_difference_k: float
    test_air_c: float
    test_coolant: Literal["water", "half_glycol"]


class Requirement(Answer):
    """What the cases ask for, whoever makes the parts."""

    faces: list[FaceOption]
    chosen: int | None = Field(description="Index into faces of what the rest is for; null where none does.")
    case_id: str | None = Field(description="The case that asks for it.")
    variant: Variant | None = Field(description="The variant with that radiator, to be looked at.")
    cases: list[CaseNeed]
    thermostats_c: list[float] = Field(description="That would work.")
    fan_on_c: float | None
    fan_off_c: float | None
    cap_lowest_kpa: float | None = Field(description="The lowest that holds; null where none does.")
    cap_highest_kpa: float | None = Field(description="The highest that the weakest part allows.")
    test: TestPoint | None
    ask: list[Text] = Field(description="For the radiator shop: what to ask for.")
    measure: list[Text] = Field(description="What to measure before paying.")
    refuse: list[Text]
    cautions: list[Text] = Field(
        default=[], description="What the workbench warns of in the variant, but for its room."
    )


class FrontPoint(Answer):
    """One combination that no other beats in everything."""

    kept_k: float = Field(description="Least of all cases: hotter air than the chance asks for, or margin.")
    chance_share: float = Field(description="That all cases stay below their limits.")
    cost: float
    electric_w: float
    face_m2: float
    solution: int | None = Field(description="Index into the solutions where it is one of the few.")


class SizedPart(Answer):
    """One part of a solution."""

    slot: Slot
    text: Text
    new: bool
    price: float | None = Field(description="Null for what stays.")
    unpriced: bool = Field(default=False, description="Nobody wrote its price down: that of what is like it.")


class Solution(Answer):
    """One of the few, judged as the workbench judges it."""

    titles: list[Text] = Field(description="What it is best at.")
    parts: list[SizedPart]
    variant: Variant
    verdict: Verdict
    margin_k: float = Field(description="Least of all cases.")
    chance_share: float = Field(description="That all cases stay below their limits.")
    cost: float
    electric_w: float
    face_m2: float
    mass_kg: float | None = Field(description="Of the core; null where no priced part tells.")
    limit: Text = Field(description="What limits it.")
    neighbours: list[Text] = Field(description="Why the combinations next to it lost.")
    answers: Answers
    unsure: list[Text] = Field(description="What its chance hangs on most.")
    cautions: list[Text] = Field(default=[], description="What the workbench warns of in it.")


class Obstacle(Answer):
    """One wish that would have to give when nothing fits, and how far."""

    wish: Give
    text: Text


class Move(Answer):
    """The same at another place: how much hotter and how high."""

    hotter_k: float
    higher_m: float
    face_m2: float | None = Field(description="Face that the requirement takes there; null where none does.")
    chances: list[float] = Field(description="That all cases stay below their limits, of each solution.")
    verdicts: list[Verdict]


class Sizing(Answer):
    """The whole answer."""

    variant_id: str
    requirement: Requirement
    front: list[FrontPoint]
    solutions: list[Solution]
    obstacles: list[Obstacle]
    moves: list[Move]
    taken: list[Text] = Field(description="What was taken for what the wishes leave open.")
    combinations: int = Field(description="How many were looked at.")
    caution: Text
