"""Water that stays where a waterless coolant goes in."""

from __future__ import annotations

from typing import Annotated, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build.part import Part
from ebbrin.core.media import mixing
from ebbrin.features.fit.mixing import Share
from ebbrin.ground.words import Answer, Text, share

MOST_WATER = 0.03
"""Common practice: water left in a waterless fill, by mass."""
MOST_FLUSHES = 10


class WaterQuestion(Part):
    """Water that is left where a waterless coolant is filled in."""

    volume_l: Annotated[float, Field(gt=0.1, le=200, title="Fill")]
    left_l: Annotated[
        float, Field(ge=0.0, le=200, title="Left behind", description="What draining leaves in it.")
    ]
    flushes: Annotated[
        int,
        Field(ge=0, le=MOST_FLUSHES, title="Flushes", description="Runs with flush fluid, drained again."),
    ] = 1
    left_is_water_share: Annotated[
        Share, Field(title="Water in what is left", description="By volume; less once it was blown out.")
    ] = 1.0

    @model_validator(mode="after")
    def not_more_than_all(self) -> Self:
        """No more can be left than the fill."""
        if self.left_l >= self.volume_l:
            raise PydanticCustomError(
                "left_l", "More is left than the fill of {volume} L", {"volume": self.volume_l}
            )
        return self


class WaterLeft(Answer):
    """Water in a waterless fill."""

    lead: Text
    water_share: float = Field(description="By mass.")
    good: bool
    flushes_needed: int | None = Field(description="Null where as many as are asked about do not do it.")
    flush_fluid_l: float | None = Field(description="For so many flushes.")


def water_left(question: WaterQuestion) -> WaterLeft:
    """Water that stays in a waterless fill after some flushes, and how many it takes to get below MOST_WATER."""

    left = question.left_l / question.volume_l

    def by_mass(flushes: int) -> float:
        return float(mixing.water_by_mass(question.left_is_water_share * left ** (flushes + 1)))

    found = by_mass(question.flushes)
    needed = next((n for n in range(MOST_FLUSHES + 1) if by_mass(n) < MOST_WATER), None)
    good = found < MOST_WATER
    just = "just " if round(100.0 * found) == round(100.0 * MOST_WATER) else ""
    lead: Text = ["It comes to ", share(found), " of water by mass: "]
    if good:
        lead += [f"{just}below the usual limit of ", share(MOST_WATER), ". Measure it all the same."]
    elif needed is None:
        lead += [
            f"too much, and {MOST_FLUSHES} flushes do not bring it below ",
            share(MOST_WATER),
            ": drain it further.",
        ]
    else:
        flushes = "1 flush" if needed == 1 else f"{needed} flushes"
        lead += [
            f"{just}too much; {flushes} or drier before filling brings it below ",
            share(MOST_WATER),
            ".",
        ]
    return WaterLeft(
        lead=lead,
        water_share=found,
        good=good,
        flushes_needed=needed,
        flush_fluid_l=None if needed is None else needed * (question.volume_l - question.left_l),
    )
