"""A drive as people write it: a list of legs or a recording, and what breaks."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build.case import Case
from ebbrin.build.fields import choice, given, optional, switch
from ebbrin.build.part import Identifier, Name, Number, Part
from ebbrin.core.drive.faults import FAULTS as CORE_FAULTS
from ebbrin.core.drive.faults import GRADED

MOST_SECONDS, MOST_ROWS = 4 * 3600, 20_000
FAULTS: dict[str, str] = {
    "thermostat_shut": "Thermostat stuck shut",
    "thermostat_open": "Thermostat stuck open",
    "thermostat_late": "Thermostat opens late",
    "thermostat_leaks": "Thermostat does not shut",
    "fan_dead": "Fan does not turn",
    "fan_switch_stuck": "Fan switch stuck as it stands",
    "fan_relay_open": "Relay or fuse of the fan open",
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
    "coolant_low": "Coolant low",
    "heater_air_lock": "Air lock in the heater",
    "mix_weak": "Mix too weak: topped up with water",
    "mix_strong": "Mix too strong: topped up with glycol",
    "head_gasket": "Head gasket lets gas into the coolant",
}
"""Every fault and what it is called."""
FaultName = Literal[
    "thermostat_shut", "thermostat_open", "thermostat_late", "thermostat_leaks", "fan_dead", "fan_switch_stuck",
    "fan_relay_open", "fan_always_on", "one_fan_dead", "clutch_slips", "clutch_locked", "pump_worn",
    "impeller_loose", "belt_slips", "hose_collapsed", "core_silted", "debris", "timing_retarded", "cap_weak",
    "cap_stuck", "return_valve_dead", "coolant_leak", "coolant_low", "heater_air_lock", "mix_weak", "mix_strong",
    "head_gasket",
]  # fmt: skip


ON_THE_WAY = {"fault": [name for name, fault in CORE_FAULTS.items() if not fault.throughout]}


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

    fault: FaultName = choice("fan_dead", "Fault", dict(FAULTS), "What is wrong.")
    severity_share: float = given(
        "How bad", "share", 0, 1, 1, "From nothing to all of it.", when={"fault": sorted(GRADED)}
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
