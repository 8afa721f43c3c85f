"""The parts of a variant as people write them; units are in the names."""

from __future__ import annotations

from typing import Literal

from pydantic import model_validator
from pydantic_core import PydanticCustomError

from ebbrin.document.air import Air, CurvePoint, Fan
from ebbrin.document.fields import assumed, choice, needed, switch
from ebbrin.document.part import ANY_ON_THE_ROAD, ANY_TIMED, BELT_PUMP, ELECTRIC_PUMP, FAN, Number, Part
from ebbrin.document.radiator import Radiator

__all__ = [
    "Air",
    "Cap",
    "Circuit",
    "Coolant",
    "CurvePoint",
    "Engine",
    "Fan",
    "FanSwitch",
    "Limits",
    "Number",
    "Part",
    "Radiator",
    "Thermostat",
    "Vehicle",
]


class Vehicle(Part):
    """What the engine has to move."""

    mass_kg: Number = assumed(
        "Mass with load",
        "mass",
        100,
        40000,
        1500,
        "Vehicle, people, load and trailer together.",
        when=ANY_ON_THE_ROAD,
        guess=True,
    )
    drag_area_m2: Number = assumed(
        "Drag area",
        "area",
        0.1,
        20,
        0.75,
        "Drag coefficient times frontal area.",
        when=ANY_ON_THE_ROAD,
        guess=True,
    )
    rolling_resistance: Number = assumed(
        "Rolling resistance",
        "ratio",
        0.004,
        0.1,
        0.013,
        "Rolling force over weight: 0.010 to 0.015 on tarmac, 0.03 on gravel.",
        when=ANY_ON_THE_ROAD,
    )
    driveline_efficiency: Number = assumed(
        "Driveline efficiency",
        "share",
        0.5,
        1.0,
        0.88,
        "Share of brake power that reaches the road.",
        when=ANY_ON_THE_ROAD,
    )


class Engine(Part):
    """The engine as far as its heat is concerned."""

    kind: Literal["petrol", "petrol_boosted", "diesel"] = choice(
        "petrol",
        "Kind",
        {"petrol": "Petrol", "petrol_boosted": "Petrol, boosted", "diesel": "Diesel"},
        "Sets friction, efficiency and the share of fuel heat that reaches the coolant.",
    )
    displacement_l: Number = needed(
        "Displacement", "displacement", 0.05, 30, "Swept volume of all cylinders."
    )
    rated_power_kw: Number = needed(
        "Rated power", "power", 1, 2000, "Highest brake power as the engine is built and tuned now."
    )
    rated_rpm: Number = assumed(
        "Speed at rated power",
        "rotation",
        500,
        15000,
        "6000 petrol, 4000 diesel",
        "Engine speed at which the rated power is reached.",
        guess=True,
    )
    stroke_mm: Number = assumed(
        "Stroke",
        "length",
        20,
        300,
        90,
        "Piston stroke; sets piston speed and with it a diesel's friction.",
        when={"/engine/kind": ["diesel"]},
        guess=True,
    )
    tune_factor: Number = assumed(
        "Tune",
        "ratio",
        1.0,
        1.25,
        1.0,
        "1 for a good tune; up to 1.25 for retarded timing or a lean or over-rich mixture, which send more heat into the coolant.",
        guess=True,
    )
    heat_school: Literal["energy_balance", "thirds"] = choice(
        "energy_balance",
        "Heat by",
        {"energy_balance": "Energy balance", "thirds": "Thirds rule"},
        "Energy balance: a share of the fuel's energy, with friction. Thirds rule: as much heat to the coolant as brake power.",
    )
    cooled_turbo: bool = switch(
        False,
        "Turbo housing cooled by coolant",
        "Adds about 1 % of brake power.",
        when={"/engine/kind": ["petrol_boosted", "diesel"]},
    )
    gearbox_cooler: bool = switch(
        False,
        "Gearbox cooler in the radiator tank",
        "An automatic gearbox gives its losses to the radiator's cold tank.",
    )
    gearbox_efficiency: Number = assumed(
        "Gearbox efficiency",
        "share",
        0.6,
        0.99,
        0.88,
        "What is lost between crank and gearbox output goes into the radiator tank.",
        when={"/engine/gearbox_cooler": [True]},
        guess=True,
    )
    electrical_load_w: Number = assumed(
        "Electrical load",
        "electric_power",
        0,
        5000,
        350,
        "Lamps, ignition, fuel pump: all that runs in the worst case, without the fan.",
    )
    metal_heat_kj_per_k: Number = assumed(
        "Heat stored in the metal",
        "heat_capacity",
        2,
        500,
        "22 kJ/K per litre of displacement",
        "Metal that warms with the coolant. Matters only in timed cases.",
        when=ANY_TIMED,
        guess=True,
    )


class Coolant(Part):
    """What is in the system."""

    kind: Literal["water", "ethylene_glycol"] = choice(
        "ethylene_glycol",
        "Coolant",
        {
            "water": "Water, with or without a wetting additive",
            "ethylene_glycol": "Water and ethylene glycol",
        },
        "A wetting additive changes corrosion and wetting, not the figures used here: it counts as water.",
    )
    glycol_vol_share: Number = assumed(
        "Glycol by volume",
        "share",
        0.0,
        0.70,
        0.5,
        "Share of concentrate in the mix, by volume.",
        when={"/coolant/kind": ["ethylene_glycol"]},
    )
    volume_l: Number = assumed(
        "Coolant volume",
        "volume",
        1,
        200,
        "4 L and 2 L per litre of displacement",
        "All coolant in the system. Matters only in timed cases.",
        when=ANY_TIMED,
        guess=True,
    )


class Circuit(Part):
    """Pump, jacket and hoses."""

    pump_drive: Literal["belt", "electric"] = choice(
        "belt", "Pump drive", {"belt": "Belt", "electric": "Electric"}, "A belt pump follows engine speed."
    )
    shut_off_kpa: Number = assumed(
        "Pump shut-off pressure",
        "pressure",
        5,
        600,
        150,
        "Pressure against a closed outlet at the speed of the test.",
        guess=True,
    )
    run_out_l_per_min: Number = assumed(
        "Pump run-out flow",
        "coolant_flow",
        10,
        3000,
        "1.6 L/min per kW rated, at least 150",
        "Flow against no resistance at the speed of the test.",
        guess=True,
    )
    pump_test_rpm: Number = assumed(
        "Pump speed of the test",
        "rotation",
        200,
        12000,
        6000,
        "Pump speed to which both figures belong.",
        guess=True,
    )
    belt_ratio: Number = assumed(
        "Pump pulley ratio", "ratio", 0.3, 4, 1.1, "Pump speed over engine speed.", when=BELT_PUMP, guess=True
    )
    electric_rpm: Number = assumed(
        "Pump speed",
        "rotation",
        200,
        12000,
        5000,
        "Speed at which the electric pump runs.",
        when=ELECTRIC_PUMP,
        guess=True,
    )
    electric_pump_w: Number = assumed(
        "Pump power drawn",
        "electric_power",
        0,
        3000,
        150,
        "Electric power of the pump.",
        when=ELECTRIC_PUMP,
        guess=True,
    )
    npsh_required_m: Number = assumed(
        "Suction head the pump needs",
        "head",
        0,
        15,
        3,
        "Net positive suction head required at the speed of the test.",
        guess=True,
    )
    jacket_drop_kpa: Number = assumed(
        "Engine jacket drop at 100 L/min",
        "pressure",
        0.5,
        100,
        6,
        "Pressure lost through block and head at 100 L/min.",
        guess=True,
    )
    hose_bore_mm: Number = assumed(
        "Hose bore", "length", 12, 100, 35, "Inside diameter of top and bottom hose."
    )
    hose_length_mm: Number = assumed(
        "Hose length", "length", 100, 20000, 1200, "Top and bottom hose together."
    )
    hose_bends: Number = assumed("Bends", "count", 0, 30, 4, "Right-angle bends in both hoses together.")


class Thermostat(Part):
    """The thermostat at the engine outlet."""

    opens_c: Number = assumed("Starts to open", "temperature", 40, 110, 88, "Temperature stamped on it.")
    span_k: Number = assumed(
        "Wide open after", "temperature_difference", 4, 20, 12, "Further rise until fully open: 8 to 15 K."
    )
    drop_kpa: Number = assumed(
        "Drop wide open at 100 L/min",
        "pressure",
        0.2,
        60,
        4,
        "Pressure lost through the open valve at 100 L/min.",
        guess=True,
    )


class FanSwitch(Part):
    """The switch of an electric fan, or the temperature at which a clutch engages."""

    on_c: Number = assumed(
        "Fan on at",
        "temperature",
        50,
        125,
        100,
        "Top-hose temperature at which the fan starts or the clutch engages.",
        when=FAN,
    )
    off_c: Number = assumed(
        "Fan off at", "temperature", 45, 120, 94, "Temperature at which it stops again.", when=FAN
    )

    @model_validator(mode="after")
    def on_above_off(self) -> FanSwitch:
        """The switch must go on above where it goes off."""
        on, off = (100.0 if self.on_c is None else self.on_c), (94.0 if self.off_c is None else self.off_c)
        if on < off + 0.5:
            raise PydanticCustomError(
                "on_c", "The fan must go on at least 0.5 K above where it goes off ({off} °C)", {"off": off}
            )
        return self


class Cap(Part):
    """The pressure cap and what the system stands."""

    pressure_kpa: Number = assumed(
        "Cap pressure", "pressure", 0, 250, 90, "Gauge pressure marked on the cap; 0 for an open system."
    )
    position: Literal["hot_tank", "suction"] = choice(
        "hot_tank",
        "Cap sits on",
        {"hot_tank": "The tank where the top hose enters", "suction": "The suction side of the pump"},
        "Decides what is left of its pressure at the pump inlet.",
    )
    weakest_part_kpa: Number = assumed(
        "Weakest part stands",
        "pressure",
        0,
        400,
        138,
        "Rating of the weakest part: radiator, heater core, hose at temperature.",
        guess=True,
    )


class Limits(Part):
    """How hot is too hot."""

    top_hose_c: Number = assumed(
        "Highest top hose",
        "temperature",
        70,
        130,
        108,
        "Hotter than this counts as too hot, whatever the cap holds.",
    )
    boiling_margin_k: Number = assumed(
        "Margin below boiling",
        "temperature_difference",
        0,
        40,
        12,
        "Kept between top hose and boiling; hot spots in the head boil first.",
    )
