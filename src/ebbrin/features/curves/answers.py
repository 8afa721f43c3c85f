"""Curves of one case as people read them: what stands beside the fields of each station."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ebbrin.features.judge import Verdict
from ebbrin.ground.words import Answer


class CoolantPoint(Answer):
    """Heat at a coolant flow through the radiator."""

    flow_l_per_min: float
    heat_kw: float


class AirPoint(Answer):
    """Heat at a flow of air through the whole core."""

    flow_m3_per_s: float
    heat_kw: float


class HeatCurves(Answer):
    """Heat that a case would shed at its limit temperature with more or less of one flow, the fan on."""

    case_id: str
    at_c: float = Field(description="The top hose at which it is reckoned: the limit.")
    heat_kw: float = Field(description="What is to be shed.")
    coolant_now_l_per_min: float
    air_now_m3_per_s: float
    coolant: list[CoolantPoint]
    air: list[AirPoint]


ConditionName = Literal["blocked_tubes_share", "blocked_face_share", "scale_mm"]


class ConditionPoint(Answer):
    """Heat that the core sheds in a condition."""

    value: float = Field(description="In the document's unit of the field.")
    heat_kw: float


class Condition(Answer):
    """What one fault of the core costs at the limit temperature."""

    field: ConditionName
    value: float = Field(description="As the build has it.")
    cost_kw: float = Field(description="Heat lost against a core without this fault.")
    points: list[ConditionPoint] = Field(description="From none upwards.")


class Conditions(Answer):
    """What the core's condition costs one case."""

    case_id: str
    at_c: float = Field(description="The top hose at which it is reckoned: the limit.")
    heat_kw: float = Field(description="What is to be shed.")
    conditions: list[Condition]


class PressurePoint(Answer):
    """A pressure at a flow of air through one zone."""

    flow_m3_per_s: float
    pressure_pa: float


class Zone(Answer):
    """One part of the face and the fan that serves it, if one does."""

    name: Literal["fan", "first_fan", "second_fan", "open_face"]
    face_share: float
    flow_m3_per_s: float = Field(description="Where fan and resistance meet.")
    pressure_pa: float = Field(description="What the fan adds there; nothing for an open face.")
    fan: list[PressurePoint] = Field(description="What the fan adds; empty for an open face.")
    resistance: list[PressurePoint] = Field(
        description="What grille, core and exit take, less ram and the lift of warm air."
    )


class AirLines(Answer):
    """Fan and resistance of each zone of the core, the fan at full."""

    case_id: str
    zones: list[Zone]


class FlowPoint(Answer):
    """A pressure at a coolant flow through pump and engine."""

    flow_l_per_min: float
    pressure_kpa: float


class WorkingPoint(Answer):
    """Where the pump meets its resistances at an engine speed."""

    rpm: float = Field(description="Of the engine; of an electric pump its own.")
    flow_l_per_min: float
    pressure_kpa: float


class FlowLines(Answer):
    """What drives the coolant, and resistances, of one case, coolant as hot as it gets there."""

    case_id: str
    pumped: bool = Field(description="False where there is no pump: what drives is that hot coolant rises.")
    pump: list[FlowPoint] = Field(description="Pressure that drives it.")
    wide_open: list[FlowPoint] = Field(description="Resistance with the thermostat wide open.")
    shut: list[FlowPoint] = Field(description="Resistance with the thermostat shut.")
    now: WorkingPoint
    cavitates: WorkingPoint | None = Field(
        description="Where the pump inlet begins to boil; null where no speed up to 18 000 rpm does."
    )


class CoolantOutcome(Answer):
    """A coolant in this build, in one case."""

    kind: Literal["water", "ethylene_glycol", "propylene_glycol", "waterless"]
    share: float | None = Field(description="Glycol by volume, or residual water by mass; null for water.")
    fitted: bool
    freezes_c: float
    build_verdict: Verdict = Field(description="Over all cases.")
    verdict: Verdict
    top_hose_c: float | None = Field(
        description="At the end of a timed case, at its hottest where it hunts; null where it never settles."
    )
    margin_k: float | None
    boils_c: float
    boils_without_cap_c: float
    boiling_margin_k: float | None
    coolant_flow_l_per_min: float
    pump_inlet_margin_kpa: float


class StrengthPoint(Answer):
    """Freezing and boiling of one strength."""

    share: float
    freezes_c: float
    boils_c: float = Field(description="Under the cap, at the case's altitude.")
    boils_without_cap_c: float


class Coolants(Answer):
    """Coolants compared on this build, and freezing and boiling against strength of the fitted kind."""

    case_id: str
    outcomes: list[CoolantOutcome]
    strength_of: Literal["ethylene_glycol", "propylene_glycol", "waterless"]
    strengths: list[StrengthPoint]
