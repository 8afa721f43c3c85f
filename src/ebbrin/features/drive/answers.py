"""The course of a drive as people read it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ebbrin.build.build import Build
from ebbrin.build.drive import Drive, FaultName
from ebbrin.build.part import Identifier, Part
from ebbrin.ground.words import Answer, Text


class DriveQuestion(Part):
    """A build, one of its variants, and a drive."""

    build: Build
    variant: Identifier = Field(description="Id of the variant that drives.")
    drive: Drive


EventName = Literal[
    "thermostat_opens", "thermostat_wide_open", "thermostat_shuts", "fan_on", "fan_off", "limit_passed",
    "back_below_limit", "cap_lifts", "steam_in_engine", "boils", "runs_low", "over_rating", "runs_dry",
]  # fmt: skip


class DriveEvent(Answer):
    """Something that happens."""

    time_s: float
    kind: EventName
    engine_out_c: float
    text: Text


class CoursePoints(Answer):
    """The course at some of its steps, all extremes kept; lists of equal length."""

    time_s: list[float]
    metal_c: list[float]
    engine_out_c: list[float]
    top_hose_c: list[float]
    bottom_hose_c: list[float]
    thermostat_lift: list[float]
    fan_stage: list[int]
    coolant_flow_l_per_min: list[float] = Field(
        description="Through the core, as hot as it leaves the engine."
    )
    pumped_l_per_min: list[float] = Field(description="Through core, bypass and heater together.")
    pressure_kpa: list[float]
    boiling_margin_k: list[float]
    shed_kw: list[float] = Field(description="By the core; what the heater takes is not in it.")
    heater_air_c: list[float] | None = Field(description="Null where the heater is never on.")
    coolant_l: list[float] = Field(description="Left in the system, as it was filled cold.")


class LegSummary(Answer):
    """How one leg ends."""

    name: str
    case_id: str | None = Field(description="Of the build's case that it is; null where it has its own.")
    from_s: float
    hottest_c: float
    end_c: float


class FaultOutcome(Answer):
    """What one fault alone would come to."""

    fault: FaultName
    hottest_c: float
    time_to_limit_s: float | None
    boils: bool
    runs_dry: bool
    lost_l: float = Field(description="Coolant on the ground.")
    worse: bool = Field(
        description="Whether the drive without it stays half a kelvin or more cooler, or does not boil, run dry or lose so much."
    )


class DriveCourse(Answer):
    """The whole course."""

    name: str
    limit_c: float
    hottest_c: float = Field(description="Of the coolant leaving the engine.")
    hottest_at_s: float
    time_to_limit_s: float | None
    runs_dry_s: float | None = Field(
        description="When a running engine stood dry, which ends the drive; null if it never did."
    )
    coolant_in_bottle_l: float
    coolant_on_ground_l: float
    legs: list[LegSummary] = Field(description="Those that were begun.")
    events: list[DriveEvent]
    points: CoursePoints
    cautions: list[Text] = Field(description="What this drive asks to be careful of.")
    guessed: list[Text] = Field(
        description="What its legs leave open of the engine's work, and what is taken for it."
    )
