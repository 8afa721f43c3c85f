"""Fan, shroud and front end as people describe them."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.document.fields import assumed, choice, points, switch
from ebbrin.document.part import CONDENSER, CONDENSER_RUNS, ELECTRIC_FAN, FAN, MECHANICAL_FAN, Number, Part


class CurvePoint(Part):
    """One point of a fan's tested curve."""

    flow_m3_per_s: float = Field(
        title="Flow", description="Through the fan.", ge=0, le=20, json_schema_extra={"quantity": "airflow"}
    )
    pressure_pa: float = Field(
        title="Pressure",
        description="Static pressure rise at that flow.",
        ge=0,
        le=5000,
        json_schema_extra={"quantity": "air_pressure"},
    )


class Fan(Part):
    """The fan by its tested curve."""

    kind: Literal["none", "electric", "mechanical"] = choice(
        "electric",
        "Fan",
        {"none": "None", "electric": "Electric", "mechanical": "Driven by the engine"},
        "What moves air when the car stands.",
    )
    mount: Literal["puller", "pusher"] = choice(
        "puller",
        "Fan sits",
        {"puller": "Behind the core (puller)", "pusher": "In front of the core (pusher)"},
        "A puller works in warm, thin air.",
        when=FAN,
    )
    diameter_mm: Number = assumed(
        "Blade diameter", "length", 100, 1500, 380, "Swept diameter.", when=FAN, guess=True
    )
    curve: Annotated[list[CurvePoint] | None, Field(min_length=2, max_length=12)] = points(
        "Tested curve",
        "generic axial fan of the diameter",
        "Flow from 0 to free air, pressure falling to 0. Without it a generic axial fan of that diameter is taken.",
        when=FAN,
    )
    curve_density_kg_per_m3: Number = assumed(
        "Air density of the test",
        "density",
        0.8,
        1.4,
        1.2,
        "Density at which the curve was measured.",
        when=FAN,
    )
    electric_power_w: Number = assumed(
        "Power drawn",
        "electric_power",
        0,
        5000,
        250,
        "Electric power while it runs; the alternator has to make it.",
        when=ELECTRIC_FAN,
        guess=True,
    )
    curve_rpm: Number = assumed(
        "Fan speed of the test",
        "rotation",
        200,
        10000,
        2000,
        "Fan speed at which the curve was measured.",
        when=MECHANICAL_FAN,
        guess=True,
    )
    pulley_ratio: Number = assumed(
        "Pulley ratio",
        "ratio",
        0.3,
        4,
        1.1,
        "Fan speed over engine speed with the clutch locked.",
        when=MECHANICAL_FAN,
        guess=True,
    )
    engaged_share: Number = assumed(
        "Clutch engaged",
        "share",
        0.3,
        1.0,
        0.9,
        "Share of pulley speed that the engaged clutch passes on; 100 % without a clutch.",
        when=MECHANICAL_FAN,
    )
    disengaged_share: Number = assumed(
        "Clutch free",
        "share",
        0.0,
        1.0,
        0.25,
        "Share of pulley speed with the clutch free; 100 % without a clutch.",
        when=MECHANICAL_FAN,
    )
    shaft_power_kw: Number = assumed(
        "Shaft power of the test",
        "power",
        0,
        50,
        1.0,
        "Power the fan takes from the belt at the speed of the test.",
        when=MECHANICAL_FAN,
        guess=True,
    )

    @model_validator(mode="after")
    def curve_falls(self) -> Fan:
        """The curve must start at no flow, rise in flow and fall in pressure to nothing."""
        curve = self.curve or []
        for i, (first, second) in enumerate(pairwise(curve)):
            if second.flow_m3_per_s <= first.flow_m3_per_s or second.pressure_pa > first.pressure_pa:
                raise PydanticCustomError(
                    "curve",
                    "Point {n} of the fan curve must have more flow and no more pressure than the one before",
                    {"n": i + 2},
                )
        if curve and (curve[0].flow_m3_per_s != 0 or curve[-1].pressure_pa != 0):
            raise PydanticCustomError(
                "curve", "The fan curve must begin at no flow and end at no pressure (free air)", {}
            )
        return self


class Air(Part):
    """From the grille to behind the core."""

    ram_coefficient: Number = assumed(
        "Ram pressure caught",
        "ratio",
        0.05,
        1.0,
        0.55,
        "Share of the dynamic pressure of driving that pushes air through the core, less what the bonnet holds back: 0.2 poor, 0.9 well ducted.",
        guess=True,
    )
    front_loss_coefficient: Number = assumed(
        "Grille and duct loss",
        "ratio",
        0.5,
        20,
        3.5,
        "In velocity heads at the core face: 2 open, 6 closed grille.",
        guess=True,
    )
    front_recirculation_share: Number = assumed(
        "Warm air coming round at rest",
        "share",
        0.0,
        0.4,
        0.10,
        "Share of the air that has been through the core before, standing still; seals and ducts cut it. None above 20 km/h.",
        guess=True,
    )
    shroud: Literal["none", "full"] = choice(
        "none",
        "Shroud",
        {"none": "None: fan against the core", "full": "Full: covers the whole core"},
        "With a full shroud the fan pulls through all of the core; without one only through its disc.",
        when=FAN,
    )
    blade_recirculation_share: Number = assumed(
        "Air slipping back round the blades",
        "share",
        0.0,
        0.4,
        "15 % without a shroud, 5 % with one",
        "Share of the fan's flow that never passes the core.",
        when=FAN,
    )
    condenser: bool = switch(
        False,
        "Air-conditioning condenser in front",
        "It resists the air always, and warms it while the air conditioning runs.",
    )
    condenser_heat_kw: Number = assumed(
        "Condenser heat",
        "power",
        0,
        30,
        6,
        "Heat it gives to the air with the air conditioning on.",
        when=CONDENSER_RUNS,
        guess=True,
    )
    compressor_kw: Number = assumed(
        "Compressor power",
        "power",
        0,
        15,
        2,
        "What it takes from the engine.",
        when=CONDENSER_RUNS,
        guess=True,
    )
    condenser_loss_coefficient: Number = assumed(
        "Condenser loss",
        "ratio",
        0,
        60,
        12,
        "In velocity heads at the core face.",
        when=CONDENSER,
        guess=True,
    )
    fan: Fan = Field(default_factory=Fan, title="Fan", description="The fan by its tested curve.")
