"""A drive as people write it, a list of legs and of what breaks; and its course as people read it."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.document.build import Build, Case, Name
from ebbrin.document.fields import choice, given, optional, switch
from ebbrin.document.part import Identifier, Number, Part
from ebbrin.document.result import Answer, Text

MOST_SECONDS = 4 * 3600
FAULTS: dict[str, str] = {
    "thermostat_shut": "Thermostat stuck shut",
    "thermostat_open": "Thermostat stuck open",
    "thermostat_late": "Thermostat opens late",
    "thermostat_leaks": "Thermostat does not shut",
    "fan_dead": "Fan dead: motor, relay, fuse or switch",
    "fan_always_on": "Fan always on",
    "one_fan_dead": "One of two fans dead",
    "clutch_slips": "Fan clutch slips",
    "clutch_locked": "Fan clutch locked",
    "pump_worn": "Pump worn",
    "impeller_loose": "Impeller loose on its shaft",
    "belt_slips": "Belt slips",
    "hose_collapsed": "Lower hose collapses",
    "core_silted": "Core silted",
    "debris": "Debris on the core",
    "timing_retarded": "Timing retarded",
    "cap_weak": "Cap weak",
    "cap_stuck": "Cap stuck shut",
    "return_valve_dead": "Return valve of the cap dead",
    "coolant_leak": "Coolant leaks",
    "head_gasket": "Head gasket lets gas into the coolant",
}
"""Every fault and what it is called."""
FaultName = Literal[
    "thermostat_shut", "thermostat_open", "thermostat_late", "thermostat_leaks", "fan_dead", "fan_always_on",
    "one_fan_dead", "clutch_slips", "clutch_locked", "pump_worn", "impeller_loose", "belt_slips", "hose_collapsed",
    "core_silted", "debris", "timing_retarded", "cap_weak", "cap_stuck", "return_valve_dead", "coolant_leak",
    "head_gasket",
]  # fmt: skip


class Leg(Part):
    """One leg: one of the build's duty cases, or a case of its own, for a time."""

    case_id: Identifier | None = Field(
        default=None, title="As in", description="Id of one of the build's duty cases."
    )
    case: Case | None = Field(default=None, title="Its own", description="A case that stands here alone.")
    duration_s: float = given("Lasts", "duration", 5, 7200, 300, "How long this leg lasts.")
    engine_runs: bool = switch(True, "Engine running", "Off: the metal goes on heating coolant that stands.")

    @model_validator(mode="after")
    def says_what_it_is(self) -> Leg:
        """Either the id of a case or a case."""
        if (self.case_id is None) == (self.case is None):
            raise PydanticCustomError(
                "case_id", "A leg names a duty case or holds one of its own, not both", {}
            )
        return self


class LegFault(Part):
    """A fault, how bad it is, and when it is there."""

    fault: FaultName = choice("fan_dead", "Fault", dict(FAULTS), "What is wrong.")
    severity_share: float = given(
        "How bad", "share", 0, 1, 1, "From nothing to all of it, where that means something."
    )
    from_s: float = given("From", "duration", 0, MOST_SECONDS, 0, "When it begins.")
    until_s: Number = optional("Until", "duration", 0, MOST_SECONDS, "the end", "When it is mended.")


class Script(Part):
    """A drive."""

    format: Literal["ebbrin-drive"] = Field(default="ebbrin-drive", description="Always ebbrin-drive.")
    version: Literal[1] = Field(default=1, description="Version of this format.")
    name: Name = Field(default="A drive", title="Name", description="What the drive is called.")
    start_c: Number = optional(
        "Temperature at the start", "temperature", -30, 120, "as cold as the air", "Of engine and coolant."
    )
    legs: Annotated[list[Leg], Field(min_length=1, max_length=60)]
    faults: list[LegFault] = Field(default=[], max_length=12, title="Faults", description="What breaks.")

    @model_validator(mode="after")
    def is_not_endless(self) -> Script:
        """Four hours at most."""
        if sum(leg.duration_s for leg in self.legs) > MOST_SECONDS:
            raise PydanticCustomError("legs", "All legs together may last four hours", {})
        return self


class DriveQuestion(Part):
    """A build, one of its variants, and a drive."""

    build: Build
    variant: Identifier = Field(description="Id of the variant that drives.")
    script: Script


EventName = Literal[
    "thermostat_opens", "thermostat_wide_open", "thermostat_shuts", "fan_on", "fan_off", "limit_passed",
    "back_below_limit", "cap_lifts", "steam_in_engine", "boils", "runs_low",
]  # fmt: skip


class DriveEvent(Answer):
    """Something that happens."""

    time_s: float
    kind: EventName
    top_hose_c: float
    text: Text


class CoursePoints(Answer):
    """The course at some of its steps, all extremes kept; lists of equal length."""

    time_s: list[float]
    metal_c: list[float]
    top_hose_c: list[float]
    bottom_hose_c: list[float]
    thermostat_lift: list[float]
    fan_stage: list[int]
    coolant_flow_l_per_min: list[float]
    pressure_kpa: list[float]
    boiling_margin_k: list[float]
    shed_kw: list[float]


class LegSummary(Answer):
    """How one leg ends."""

    name: str
    from_s: float
    hottest_c: float
    end_c: float


class DriveCourse(Answer):
    """The whole course."""

    name: str
    limit_c: float
    hottest_c: float
    time_to_limit_s: float | None
    coolant_in_bottle_l: float
    coolant_on_ground_l: float
    legs: list[LegSummary]
    events: list[DriveEvent]
    points: CoursePoints
    caution: Text | None = Field(description="Where the drive asks for one.")


def named(legs: list[Leg], build: Build) -> list[Case]:
    """The case of each leg.

    Raises
    ------
    KeyError
        If a leg names a case that the build does not have.
    """
    by_id: dict[str, Any] = {case.id: case for case in build.cases}
    return [leg.case if leg.case is not None else by_id[leg.case_id or ""] for leg in legs]
