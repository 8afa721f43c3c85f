"""The answer as people read it: numbers with units in their names, and text with typed quantities."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

Verdict = Literal["holds", "tight", "fails"]
Control = Literal["below_opening", "thermostat", "capacity", "no_steady_state"]
Cause = Literal["air", "core", "coolant"]
VERDICTS: tuple[Verdict, ...] = ("holds", "tight", "fails")
CONTROLS: tuple[Control, ...] = ("below_opening", "thermostat", "capacity", "no_steady_state")
CAUSES: tuple[Cause, ...] = ("air", "core", "coolant")


class Answer(BaseModel):
    """Answers are written by Ebbrin alone; a value of null means that there is none."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, frozen=True)


class Measure(Answer):
    """A number within a text; the reader's own units are put to it where it is shown."""

    quantity: str = Field(description="What it measures, as in the build's schema.")
    value: float = Field(description="In the document's unit of that quantity.")
    bare: bool = Field(default=False, description="Written without its unit, because the next one has it.")


Text = list[str | Measure]


class Gains(Answer):
    """Share of extra heat that 20 % more of one thing would shed at the limit."""

    air: float
    core: float
    coolant: float


class Heat(Answer):
    """Heat that a case sends into the coolant, with the fan on."""

    chosen_kw: float = Field(description="By the school that the build names.")
    low_kw: float = Field(description="Lower end of the energy balance's band.")
    high_kw: float = Field(description="Upper end of the energy balance's band.")
    energy_balance_kw: float
    thirds_kw: float
    gearbox_kw: float = Field(description="Enters at the radiator's cold tank.")
    brake_power_kw: float


class TimedRun(Answer):
    """Estimate of a case that ends."""

    duration_s: float
    start_c: float
    end_c: float
    time_to_limit_s: float | None = Field(description="Null where the limit is never reached.")


class CaseResult(Answer):
    """One case solved. Temperatures are null where there is no steady state."""

    id: str
    name: str
    verdict: Verdict
    control: Control
    cause: Cause = Field(description="What, enlarged, would shed most more heat.")
    sentence: Text = Field(default=[], description="The verdict in words, cause included.")
    detail: Text = Field(default=[], description="A second sentence where one is needed.")
    ambient_c: float
    altitude_m: float
    speed_km_h: float
    engine_rpm: float
    heat: Heat
    heat_kw: float = Field(description="Heat into radiator and its tank, averaged over the fan's duty.")
    shed_kw: float
    shortfall_kw: float | None = Field(
        description="Missing at the limit temperature; null with a steady state."
    )
    top_hose_c: float | None
    bottom_hose_c: float | None
    limit_c: float
    margin_k: float | None = Field(
        description="Limit less what counts: steady top hose, or a timed run's end."
    )
    boils_c: float
    boils_without_cap_c: float
    boiling_margin_k: float | None
    boiling_margin_without_cap_k: float | None
    limiting_ambient_c: float | None = Field(description="Null where not even -60 °C would do.")
    ambient_margin_k: float | None
    air_to_boil_c: float | None
    coolant_flow_l_per_min: float
    engine_rise_k: float | None
    full_flow_rise_k: float = Field(description="Rise through the engine with the thermostat wide open.")
    thermostat_lift: float
    pump_rise_kpa: float
    pump_inlet_margin_kpa: float
    pump_inlet_margin_without_cap_kpa: float
    tube_velocity_m_per_s: float
    tube_reynolds: float
    fan_duty: float
    fan_cycles: bool
    air_flow_m3_per_s: float = Field(description="Through the core, averaged over the fan's duty.")
    air_available_m3_per_s: float = Field(description="Through the core with the fan on.")
    air_available_pa: float = Field(description="Pressure that the core takes at that flow.")
    air_needed_m3_per_s: float | None = Field(
        description="To stay 6 K under the limit; null if no air would do."
    )
    air_needed_pa: float | None
    air_under_fan_share: float = Field(description="Share of the face that the fan serves.")
    conductance_kw_per_k: float
    gains: Gains
    timed: TimedRun | None
    outside_fit: bool = Field(description="A correlation was used outside what it was fitted to.")


class Ladder(Answer):
    """Marks of the temperature scale that belong to the parts; those of a case stand in the case."""

    freezes_c: float
    thermostat_opens_c: float
    thermostat_full_c: float
    fan_on_c: float | None
    fan_off_c: float | None


class FourthAnswer(Answer):
    """One of the four answers: radiator, airflow, thermostat, cap."""

    verdict: Verdict
    headline: Text
    sentence: Text
    fitted: float | None = None
    recommended: float | None = None


class Answers(Answer):
    """What a builder came for."""

    radiator: FourthAnswer
    airflow: FourthAnswer
    thermostat: FourthAnswer
    cap: FourthAnswer


class CapCandidate(Answer):
    """A cap and how it fares over all cases."""

    pressure_kpa: float
    boiling_margin_k: float
    pump_inlet_margin_kpa: float
    clears_margin: bool
    pump_inlet_holds: bool
    within_rating: bool


class ThermostatCandidate(Answer):
    """A thermostat and how it fares."""

    opens_c: float
    open_early_enough: bool
    warm_enough: bool
    fan_can_stop: bool


class Finding(Answer):
    """Something worth knowing beside the verdict."""

    kind: Literal["warning", "note"]
    station: str
    case_id: str | None
    text: Text


class AssumedValue(Answer):
    """A value that was not known and what was taken for it."""

    path: str
    title: str
    quantity: str
    value: Any
    guess: bool


class Evaluation(Answer):
    """One variant judged over all cases, the worst first."""

    variant_id: str
    verdict: Verdict
    worst_case_id: str
    cases: list[CaseResult]
    ladder: Ladder
    answers: Answers
    caps: list[CapCandidate]
    thermostats: list[ThermostatCandidate]
    findings: list[Finding]
    assumed: list[AssumedValue]
