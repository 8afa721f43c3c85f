"""A duty case as people write it."""

from __future__ import annotations

from typing import Literal

from pydantic import model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build.fields import assumed, choice, given, optional, switch
from ebbrin.build.part import Identifier, Name, Number, Part

ON_THE_ROAD, TIMED = {"load": ["road"]}, {"kind": ["timed"]}
STATED_SPEED, BY_GEARING = {"engine_speed_by": ["stated"]}, {"engine_speed_by": ["gearing"]}


class Case(Part):
    """One thing that the cooling system must survive."""

    id: Identifier
    name: Name
    kind: Literal["steady", "timed"] = choice(
        "steady",
        "Lasts",
        {"steady": "For good", "timed": "A set time"},
        "A timed case may be shorter than the time to get hot.",
    )
    duration_s: Number = assumed("Duration", "duration", 5, 7200, 60, "How long it lasts.", when=TIMED)
    start_c: Number = assumed(
        "Top hose at the start",
        "temperature",
        -40,
        130,
        "where the thermostat is fully open",
        "How warm the engine is when it begins.",
        when=TIMED,
    )
    speed_km_h: float = given("Speed", "speed", 0, 400, 0, "Road speed.")
    engine_speed_by: Literal["stated", "gearing"] = choice(
        "stated",
        "Engine speed from",
        {"stated": "What is stated", "gearing": "Gearing"},
        "Gearing needs a road speed and the rolling radius of the wheel.",
    )
    engine_rpm: float = given(
        "Engine speed", "rotation", 300, 15000, 900, "Crankshaft speed.", when=STATED_SPEED
    )
    overall_ratio: Number = assumed(
        "Overall ratio",
        "ratio",
        0.5,
        150,
        3.6,
        "Engine turns for each turn of the wheel: gear times final drive.",
        when=BY_GEARING,
        guess=True,
    )
    load: Literal["road", "power"] = choice(
        "road",
        "Load from",
        {"road": "The road", "power": "A stated brake power"},
        "From mass, drag and gradient, or stated outright.",
    )
    gradient_share: float = given("Gradient", "share", -0.4, 0.6, 0, "Rise over run.", when=ON_THE_ROAD)
    acceleration_m_per_s2: float = given(
        "Acceleration", "acceleration", -10, 15, 0, "Along the road.", when=ON_THE_ROAD
    )
    headwind_km_h: float = given(
        "Headwind", "speed", -100, 100, 0, "Against the car; a tail wind is negative."
    )
    brake_power_kw: Number = assumed(
        "Brake power",
        "power",
        0,
        2000,
        0,
        "Power at the crankshaft, without fan, alternator and compressor.",
        when={"load": ["power"]},
        guess=True,
    )
    shaft_work_kw: float = given(
        "Shaft work", "power", 0, 1000, 0, "Pump, winch or other machine that the engine drives besides."
    )
    tows: bool = switch(False, "Trailer on", "Adds the trailer's mass and drag.", when=ON_THE_ROAD)
    heater: bool = switch(
        False,
        "Cabin heater on",
        "Takes heat out of the coolant.",
        when={"/variants/*/circuit/heater": [True]},
    )
    air_conditioning: bool = switch(
        False,
        "Air conditioning on",
        "Runs compressor and condenser, and forces the fan on.",
        when={"/variants/*/air/condenser": [True]},
    )
    ambient_c: Number = optional(
        "Ambient", "temperature", -40, 60, "as the site", "Air temperature of this case alone."
    )
    altitude_m: Number = optional(
        "Altitude", "altitude", -430, 5000, "as the site", "Altitude of this case alone."
    )

    @model_validator(mode="after")
    def gearing_needs_speed(self) -> Case:
        """Without road speed gearing gives no engine speed."""
        if self.engine_speed_by == "gearing" and self.speed_km_h < 1.0:
            raise PydanticCustomError(
                "engine_speed_by",
                "Engine speed from gearing needs a road speed of at least 1 km/h; state it instead",
                {},
            )
        return self
