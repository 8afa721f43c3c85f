"""The build document: one file that holds a whole build. docs/build-format.md explains it."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build import parts, upgrade
from ebbrin.build.car import Car
from ebbrin.build.case import Case
from ebbrin.build.drive import Drive
from ebbrin.build.fields import given
from ebbrin.build.part import Identifier, Name, Words
from ebbrin.build.parts import Part


class Site(Part):
    """Where the build has to live; cases inherit it."""

    ambient_c: float = given("Ambient", "temperature", -40, 60, 30, "Air temperature in the shade.")
    altitude_m: float = given("Altitude", "altitude", -430, 5000, 0, "Height above the sea.")


class Variant(Part):
    """A complete set of parts."""

    id: Identifier
    name: Name
    vehicle: parts.Vehicle = Field(default_factory=parts.Vehicle)
    engine: parts.Engine = Field(default_factory=parts.Engine)
    coolant: parts.Coolant = Field(default_factory=parts.Coolant)
    radiator: parts.Radiator = Field(default_factory=parts.Radiator)
    air: parts.Air = Field(default_factory=parts.Air)
    circuit: parts.Circuit = Field(default_factory=parts.Circuit)
    thermostat: parts.Thermostat = Field(default_factory=parts.Thermostat)
    fan_switch: parts.FanSwitch = Field(default_factory=parts.FanSwitch)
    cap: parts.Cap = Field(default_factory=parts.Cap)
    limits: parts.Limits = Field(default_factory=parts.Limits)


class Build(Part):
    """A build: site, duty cases that all variants share, and variants."""

    format: Literal["ebbrin-build"] = Field(default="ebbrin-build", description="Always ebbrin-build.")
    version: Literal[5] = Field(default=5, description="Version of this format; older ones are brought up.")
    name: Name = Field(title="Name", description="What the build is called.")
    workshop: Words = Field(default="", max_length=120, title="Workshop", description="Who builds it.")
    notes: Words = Field(default="", max_length=20000, title="Notes", description="Anything worth keeping.")
    site: Site = Field(default_factory=Site)
    cases: Annotated[list[Case], Field(min_length=1, max_length=24)]
    variants: Annotated[list[Variant], Field(min_length=1, max_length=12)]
    drives: list[Drive] = Field(
        default=[], max_length=12, title="Drives", description="Drives over time; any variant can drive them."
    )

    car: Car = Field(
        default_factory=Car,
        title="Car",
        description="What it is like where one works on it; all may be unknown.",
    )
    standing: Identifier | None = Field(
        default=None,
        title="Stands in the car",
        description="The variant whose parts are in the car today. An id of none of them counts as not marked.",
    )

    @property
    def in_the_car(self) -> Variant:
        """The variant that stands in the car; where none is marked, the first: what the build began with."""
        return next((one for one in self.variants if one.id == self.standing), self.variants[0])

    @model_validator(mode="before")
    @classmethod
    def newest_version(cls, document: Any) -> Any:
        """A document of an older version as one of the newest."""
        return upgrade.brought_up(document)

    @model_validator(mode="after")
    def identifiers_differ(self) -> Build:
        """No two cases, no two variants and no two drives share an id."""
        for what, entries in (("cases", self.cases), ("variants", self.variants), ("drives", self.drives)):
            ids = [entry.id for entry in entries]
            if len(set(ids)) < len(ids):
                raise PydanticCustomError("id", "Two {what} have the same id", {"what": what})
        return self
