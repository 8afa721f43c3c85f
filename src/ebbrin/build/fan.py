"""A fan, or two alike, by the tested curve."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build.fields import assumed, choice, points
from ebbrin.build.part import ELECTRIC_FAN, FAN, MECHANICAL_FAN, Number, Part, ShelfRef, from_shelf


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
    """The fan by its tested curve; figures are those of one fan."""

    kind: Literal["none", "electric", "mechanical"] = choice(
        "electric",
        "Fan",
        {"none": "None", "electric": "Electric", "mechanical": "Driven by the engine"},
        "What moves air when the car stands.",
    )
    fans: Literal["one", "two"] = choice(
        "one", "Fans", {"one": "One", "two": "Two alike, side by side"}, "How many.", when=ELECTRIC_FAN
    )
    staging: Literal["single", "one_of_two", "slow"] = choice(
        "single",
        "Switched",
        {"single": "All at once", "one_of_two": "One fan first, then both", "slow": "Slow first, then fast"},
        "A staged fan has a second pair of switching points.",
        when=ELECTRIC_FAN,
    )
    slow_speed_share: Number = assumed(
        "Speed of the slow stage",
        "share",
        0.2,
        1.0,
        0.6,
        "Over full speed.",
        when={**ELECTRIC_FAN, "/air/fan/staging": ["slow"]},
        guess=True,
    )
    voltage_v: Number = assumed(
        "Voltage at the fan",
        "voltage",
        4,
        60,
        "voltage of the test",
        "With the engine running, at the fan's own plug: thin wires and idle speed cost a volt or two.",
        when=ELECTRIC_FAN,
    )
    test_voltage_v: Number = assumed(
        "Voltage of the test",
        "voltage",
        4,
        60,
        13.5,
        "Voltage at which the curve was measured. Fan speed follows voltage.",
        when=ELECTRIC_FAN,
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
        "Electric power of one fan while it runs; the alternator has to make it.",
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
    from_shelf: ShelfRef | None = from_shelf("fan")

    @property
    def count(self) -> int:
        """How many there are: one that the engine drives is alone, whatever else is written."""
        return 2 if (self.kind, self.fans) == ("electric", "two") else 1

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
        if self.staging == "one_of_two" and self.fans == "one" and self.kind == "electric":
            raise PydanticCustomError("staging", "Running one fan first takes two fans", {})
        return self
