"""What a refractometer says: freezing point and strength, both ways."""

from __future__ import annotations

from typing import Annotated, Self

import numpy as np
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.bridge.to_core import COOLANTS
from ebbrin.bridge.units import celsius, kelvin
from ebbrin.build.part import Part
from ebbrin.core.base import DomainError
from ebbrin.core.media import mixing
from ebbrin.core.media.coolants import Coolant, freezing_temperature, mass_fraction_from_volume
from ebbrin.features.fit.mixing import GlycolKind, freezes
from ebbrin.ground.words import Answer, Text, share, temperature


class RefractometerQuestion(Part):
    """One reading: a freezing point, or a strength."""

    kind: GlycolKind = "ethylene_glycol"
    freezing_c: Annotated[float | None, Field(ge=-60, le=0.5, title="Freezes at")] = None
    strength: Annotated[float | None, Field(ge=0.0, le=0.70, title="Strength")] = None
    error_k: Annotated[float, Field(ge=0.0, le=5.0, title="Error of the instrument")] = 1.0

    @model_validator(mode="after")
    def one_of_both(self) -> Self:
        """A freezing point or a strength."""
        if (self.freezing_c is None) == (self.strength is None):
            raise PydanticCustomError("freezing_c", "Give a freezing point or a strength, one of both", {})
        return self


class Refractometer(Answer):
    """What a reading says, both ways; the strength with the band that the instrument's error makes of it."""

    lead: Text
    freezes_c: float
    strength: float
    low: float
    high: float


def refractometer(question: RefractometerQuestion) -> Refractometer:
    """Freezing point and strength of a mix, with its band.

    Raises
    ------
    DomainError
        If no mix freezes there.
    """
    kind = COOLANTS[question.kind]
    most = float(mixing.strongest_fitted(kind))
    if question.strength is not None:
        if question.strength > most:
            raise DomainError("strength", question.strength, 0.0, most, "m³/m³")
        middle, found = question.strength, freezes(kind, question.strength)
        at = 0.0 if found is None else found
    else:
        at = min(float(question.freezing_c or 0.0), 0.0)
        middle = float(mixing.strength_at_freezing(kind, kelvin(at)))
    coldest = celsius(freezing_temperature(Coolant(np.asarray(kind), mass_fraction_from_volume(most, kind))))

    def strength(reading: float) -> float:
        return float(mixing.strength_at_freezing(kind, kelvin(min(max(reading, coldest), 0.0))))

    low, high = strength(at + question.error_k), strength(at - question.error_k)
    return Refractometer(
        lead=[
            "Freezes at ",
            temperature(at),
            ": ",
            share(middle),
            " by volume, between ",
            share(low),
            " and ",
            share(high),
            " for the instrument's error.",
        ],
        freezes_c=at,
        strength=middle,
        low=min(low, middle),
        high=max(high, middle),
    )
