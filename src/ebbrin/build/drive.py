"""A drive as people write it: a list of legs or a recording, and what breaks."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal
from uuid import UUID

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build.case import Case
from ebbrin.build.fields import choice, given, optional, switch
from ebbrin.build.part import Identifier, Name, Number, Part
from ebbrin.core.drive.faults import FAULTS, GROUPS

MOST_SECONDS, MOST_ROWS = 4 * 3600, 20_000
if TYPE_CHECKING:
    FaultName = str
else:
    FaultName = Literal[tuple(FAULTS)]
"""Name of a fault of the core's table."""
CAN_BE_WORSE = {"fault": sorted(name for name, fault in FAULTS.items() if fault.graded)}
ON_THE_WAY = {"fault": [name for name, fault in FAULTS.items() if not fault.throughout]}


class Leg(Part):
    """One leg: one of the build's duty cases, or a case of its own, for a time."""

    case_id: Identifier | None = Field(
        default=None, title="As in", description="Id of one of the build's duty cases."
    )
    case: Case | None = Field(default=None, title="Its own", description="A case that stands here alone.")
    duration_s: float = given("Lasts", "leg_duration", 5, 7200, 300, "How long this leg lasts.")
    engine_runs: bool = switch(
        True, "Engine running", "Off: the car stands, and the metal goes on heating coolant that stands."
    )

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

    fault: FaultName = choice(
        "fan_dead",
        "Fault",
        {name: fault.title for name, fault in FAULTS.items()},
        "What is wrong.",
        groups=[(group, [n for n, fault in FAULTS.items() if fault.group == group]) for group in GROUPS],
    )
    severity_share: float = given(
        "How bad", "share", 0, 1, 1, "From nothing to all of it.", when=CAN_BE_WORSE
    )
    from_s: float = given("From", "duration", 0, MOST_SECONDS, 0, "When it begins.", when=ON_THE_WAY)
    until_s: Number = optional("Until", "duration", 0, MOST_SECONDS, "the end", "When it is mended.")


class RecordingRef(Part):
    """A recording that is kept on this machine: its id, and what it is."""

    id: UUID
    name: Name
    rows: int = Field(ge=2, le=MOST_ROWS)
    lasts_s: float = Field(gt=0, le=MOST_SECONDS)


class Drive(Part):
    """A drive: legs one after another, or a recording."""

    id: Identifier
    name: Name = Field(default="A drive", title="Name", description="What the drive is called.")
    start_c: Number = optional(
        "Temperature at the start", "temperature", -40, 120, "as cold as the air", "Of engine and coolant."
    )
    legs: list[Leg] = Field(default=[], max_length=60, title="Legs", description="One after another.")
    recording: RecordingRef | None = Field(
        default=None, title="Recording", description="Takes the place of the legs."
    )
    faults: list[LegFault] = Field(default=[], max_length=40, title="Faults", description="What breaks.")

    @model_validator(mode="after")
    def is_a_drive(self) -> Drive:
        """Legs or a recording."""
        if not self.legs and self.recording is None:
            raise PydanticCustomError("legs", "A drive needs a leg or a recording", {})
        return self
