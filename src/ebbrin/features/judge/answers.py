"""The verdict as people read it: numbers with units in their names, and text with typed quantities."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from ebbrin.build.drive import FaultName
from ebbrin.features.levers import Lever
from ebbrin.ground.words import Answer, Text

Verdict = Literal["holds", "tight", "fails"]
Control = Literal["below_opening", "thermostat", "capacity", "no_steady_state", "hunts"]
Cause = Literal["air", "core", "coolant", "inlet_air", "no_single", "thermostat", "fan_switch"]
School = Literal["energy_balance", "thirds", "share_of_power", "measured"]
FanStage = Literal["off", "low", "full"]
CapReason = Literal["chosen", "above_rating", "boils", "pump_inlet", "more_than_needed"]
ThermostatReason = Literal["chosen", "opens_too_late", "too_cool", "fan_never_stops", "further_from_fitted"]
SwitchReason = Literal["chosen", "too_near_limit", "never_stops", "further_from_fitted", "no_fan"]
FindingCode = Literal[
    "freezes",
    "cool_engine",
    "over_rating",
    "outside_fit",
    "too_large",
    "asks_too_much",
    "warms_too_much",
    "wears_tubes",
    "inlet_boils",
    "inlet_without_cap",
    "fan_never_stops",
    "between_regimes",
]
VERDICTS: tuple[Verdict, ...] = ("holds", "tight", "fails")
CONTROLS: tuple[Control, ...] = ("below_opening", "thermostat", "capacity", "no_steady_state", "hunts")
CAUSES: tuple[Cause, ...] = ("air", "core", "coolant", "inlet_air", "no_single", "thermostat", "fan_switch")
SCHOOLS: tuple[School, ...] = ("energy_balance", "thirds", "share_of_power", "measured")
STAGES: tuple[FanStage, ...] = ("off", "low", "full")


class Wanted(Answer):
    """How many times more of one thing alone would give the case the chance asked for, or bring one that fails to its
    limit; below 1 where there is some to spare, null where not even six times as much does."""

    air: float | None
    core: float | None
    coolant: float | None
    to_limit: bool = Field(description="Whether they bring a case that fails to its limit, and no further.")


class Hunt(Answer):
    """No steady state though the heat could be shed: what the case would settle at with the thermostat held as it
    stands on either side of the jump."""

    coldest_c: float
    hottest_c: float


class SchoolHeat(Answer):
    """Heat into the coolant as one school has it, with its band, additions included."""

    school: School
    heat_kw: float
    low_kw: float
    high_kw: float


class Heat(Answer):
    """Heat that a case sends into the coolant, with the fan on."""

    chosen_kw: float = Field(description="By the school that the build names.")
    published_low_kw: float = Field(
        description="The energy balance with the least share that is published for petrol engines, or for diesels."
    )
    published_high_kw: float = Field(description="With the greatest.")
    low_kw: float = Field(description="Lower end of that school's band.")
    high_kw: float = Field(description="Upper end of that school's band.")
    schools: list[SchoolHeat] = Field(description="Side by side; a measurement only where there is one.")
    turbo_kw: float = Field(description="Turbo housing; contained in every school's figure, as the next two.")
    oil_kw: float
    egr_kw: float
    gearbox_kw: float = Field(description="Enters at the radiator's cold tank.")
    brake_power_kw: float
    asked_power_kw: float = Field(description="Of the brake power, what the case asks for motion and shafts.")
    full_power_kw: float = Field(description="What the engine can give at that speed, heat and altitude.")
    fuel_kg_per_h: float


class TimedRun(Answer):
    """Estimate of a case that ends."""

    duration_s: float
    start_c: float
    end_c: float
    time_to_limit_s: float | None = Field(description="Null where the limit is never reached.")
    beyond: bool = Field(
        default=False, description="The end is that of the coolant's tables: it would be hotter still."
    )


class OtherThermostat(Answer):
    """What a thermostat that is the cause would have to be otherwise."""

    unsettled: bool = Field(
        description="It may not let the case settle below a limit that could be kept. Else it is not wide open there."
    )
    at_outlet: bool = Field(
        description="Its bulb at the engine's outlet: at the pump's inlet it stays too cold."
    )
    sooner: bool = Field(description="Wide open sooner than the fitted one, by the limit.")
    fan_too: bool = Field(description="The fan would have to run fully by the limit too.")


class CaseResult(Answer):
    """One case solved. Temperatures are null where there is no steady state."""

    id: str
    name: str
    verdict: Verdict = Field(description="By the chance: holds from 0.9, tight from 0.5, else fails.")
    chance: float = Field(description="Chance of staying below the limit, 0 to 1, to first order.")
    control: Control
    cause: Cause = Field(
        description="The single change that would bring it to its limit with the least of it."
    )
    other_thermostat: OtherThermostat | None = Field(
        description="Where the cause is the thermostat: what it would have to be."
    )
    sentence: Text = Field(default=[], description="The verdict in words, cause included.")
    detail: Text = Field(default=[], description="A second sentence where one is needed.")
    ambient_c: float
    altitude_m: float
    speed_km_h: float
    engine_rpm: float
    heat: Heat
    heat_kw: float = Field(description="Heat into radiator and its tank, averaged over the fan's duty.")
    heat_low_kw: float = Field(description="Lower end of its band, by the engine's school.")
    heat_high_kw: float
    shed_kw: float
    shortfall_kw: float | None = Field(
        description="Missing at the limit temperature; null with a steady state."
    )
    top_hose_c: float | None = Field(description="With a cycling fan the mean over time.")
    bottom_hose_c: float | None
    hunt: Hunt | None
    judged_c: float | None = Field(
        description="What margins are taken from: a cycling fan's on-point, a timed run's end, else the top hose."
    )
    limit_c: float
    margin_k: float | None = Field(description="Limit less what counts.")
    boils_c: float
    boils_without_cap_c: float
    boiling_margin_k: float | None
    boiling_margin_without_cap_k: float | None
    limiting_ambient_c: float | None = Field(description="Null where not even -60 °C would do.")
    ambient_margin_k: float | None
    holding_ambient_c: float | None = Field(
        description="Air temperature up to which it has the chance asked for, to first order. Null where not even -60 °C would do."
    )
    air_to_boil_c: float | None
    coolant_flow_l_per_min: float = Field(description="Through the radiator.")
    bypass_flow_l_per_min: float
    heater_flow_l_per_min: float
    heater_kw: float = Field(description="Heat that the cabin heater takes.")
    engine_rise_k: float | None
    full_flow_rise_k: float = Field(description="Rise through the engine with the thermostat wide open.")
    thermostat_lift: float
    pump_rise_kpa: float
    pump_inlet_margin_kpa: float
    pump_inlet_margin_without_cap_kpa: float
    cavitation_rpm: float | None = Field(
        description="Engine speed at which the pump inlet's margin ends; null where none ends it."
    )
    tube_velocity_m_per_s: float
    hose_velocity_m_per_s: float
    tube_reynolds: float
    fan_duty: float
    fan_cycles: bool
    fan_runs_on: bool = Field(description="The fan rests, but once started it would not stop.")
    fan_never_stops: bool = Field(
        description="The thermostat holds the coolant above the off-point of a fan that has started."
    )
    fan_stage: FanStage = Field(description="Of a fan that runs or cycles, the higher one.")
    air_flow_m3_per_s: float = Field(description="Through the core, averaged over the fan's duty.")
    air_available_m3_per_s: float = Field(description="Through the core with the fan on.")
    air_available_pa: float = Field(description="Pressure that the core takes at that flow.")
    air_needed_m3_per_s: float | None = Field(
        description="For the chance asked for; null if no airflow would do."
    )
    air_needed_pa: float | None
    air_under_fan_share: float = Field(description="Share of the face that the fan serves.")
    conductance_kw_per_k: float
    wanted: Wanted
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
    reason: CapReason
    text: Text = Field(default=[], description="The reason in words.")


class ThermostatCandidate(Answer):
    """A thermostat and how it fares."""

    opens_c: float
    open_early_enough: bool
    warm_enough: bool
    fan_can_stop: bool
    reason: ThermostatReason
    text: Text = Field(default=[], description="The reason in words.")


class SwitchCandidate(Answer):
    """A pair of fan switch points and how it fares with the fitted thermostat."""

    on_c: float
    off_c: float
    below_limit: bool
    can_stop: bool
    reason: SwitchReason
    text: Text = Field(default=[], description="The reason in words.")


class Tank(Answer):
    """Room that the hot coolant needs, filled at 20 °C."""

    growth_l: float = Field(description="By how much the fill grows in the hottest case.")
    bottle_l: float = Field(description="Free room of a recovery bottle, reserve included.")
    air_space_l: float | None = Field(
        description="Cold air space of a pressurised tank that stays under its cap; null where none does."
    )


class CaseChance(Answer):
    """How sure one case is."""

    case_id: str
    chance: float = Field(description="Share of samples that stay below the limit.")
    verdict: Verdict
    sentence: Text = Field(description="The verdict in words, by this chance.")
    detail: Text


class UnknownWorth(Answer):
    """What hangs on one unknown in the worst case."""

    name: str
    path: str | None = Field(description="The field of the build that would settle it; null for scatter.")
    title: str
    settles: float = Field(description="Share of the verdict's doubt that measuring it would settle, 0 to 1.")
    swing_k: float = Field(
        description="How far the ambient at the limit lies apart between its 5 and its 95 % point."
    )
    chance_at_low: float = Field(description="The case's chance if it were known to be at its 5 % point.")
    chance_at_high: float


class MeasureFirst(Answer):
    """What would settle most of the doubt in the worst case."""

    case_id: str
    unknowns: list[UnknownWorth] = Field(description="At most six, those that settle most first.")
    sentence: Text = Field(description="What to make of it.")
    changes: bool = Field(description="Whether measuring any one of them could change the verdict.")


class Uncertainty(Answer):
    """How sure the verdict on a variant is, by sampling all that is guessed or scatters."""

    variant_id: str
    samples: int
    chance: float = Field(description="Share of samples in which every case stays below its limit.")
    verdict: Verdict = Field(description="The build's, by this chance.")
    cases: list[CaseChance]
    answers: Answers = Field(description="The four answers, by the verdicts of these cases.")


class Finding(Answer):
    """Something worth knowing beside the verdict."""

    code: FindingCode = Field(description="What it is, for a program; the words may change.")
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
    chance: float = Field(description="Chance that every case stays below its limit, to first order.")
    chance_asked: float = Field(description="From this chance on a case holds, and airflow is enough.")
    measure_first: MeasureFirst
    cases: list[CaseResult]
    ladder: Ladder
    answers: Answers
    caps: list[CapCandidate]
    cap_needed_kpa: float = Field(description="Cap that it would take, whatever the parts stand.")
    cap_needed_by: Literal["boiling", "pump_inlet"]
    thermostats: list[ThermostatCandidate]
    switches: list[SwitchCandidate]
    tank: Tank
    levers: list[Lever] = Field(description="By what each is worth in the worst case, best first.")
    findings: list[Finding]
    can_break: list[FaultName] = Field(description="Faults of the parts that are there, for a drive.")
    assumed: list[AssumedValue]
