"""Vehicle and engine as people describe them."""

from __future__ import annotations

from typing import Literal

from pydantic import model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build.fields import assumed, choice, needed, optional, switch
from ebbrin.build.part import (
    ANY_ON_THE_ROAD,
    ANY_TIMED,
    GEARED,
    MEASURED,
    MEASURED_BY_COOLANT,
    MEASURED_BY_FUEL,
    TOWED,
    Number,
    Part,
)
from ebbrin.core.engine import fuel as fuels

BEST_EFFICIENCY = fuels.BEST_EFFICIENCY
HEATING_VALUE_KJ = {
    name: float(fuels.HEATING_VALUE[code]) / 1e3
    for name, code in (("petrol", fuels.PETROL), ("diesel", fuels.DIESEL_FUEL), ("e85", fuels.E85))
}
"""Energy of a kilogram of each fuel."""


class Vehicle(Part):
    """What the engine has to move."""

    mass_kg: Number = assumed(
        "Mass with load",
        "mass",
        100,
        40000,
        1500,
        "Vehicle, people and load, without a trailer.",
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
    trailer_mass_kg: Number = assumed(
        "Trailer mass", "mass", 0, 60000, 1000, "Loaded; counts in cases that tow it.", when=TOWED, guess=True
    )
    trailer_drag_area_m2: Number = assumed(
        "Trailer's drag area",
        "area",
        0,
        20,
        0.6,
        "What it adds to the drag area in the wake of the vehicle.",
        when=TOWED,
        guess=True,
    )
    rolling_radius_mm: Number = assumed(
        "Rolling radius",
        "length",
        100,
        1200,
        310,
        "Of the driven wheel, loaded; gives engine speed from road speed.",
        when=GEARED,
        guess=True,
    )
    space_width_mm: Number = optional(
        "Room for the core, width",
        "length",
        100,
        3000,
        "not measured",
        "Across the car, where the finned core can go, its tanks beside it.",
    )
    space_height_mm: Number = optional(
        "Room for the core, height", "length", 100, 3000, "not measured", "The finned core alone."
    )
    space_depth_mm: Number = optional(
        "Room for the core, depth",
        "length",
        12,
        500,
        "not measured",
        "Along the air, with the fan and its shroud behind it already taken off.",
    )


class Engine(Part):
    """The engine as far as its heat is concerned."""

    kind: Literal["petrol", "petrol_boosted", "diesel", "prechamber_diesel", "side_valve"] = choice(
        "petrol",
        "Kind",
        {
            "petrol": "Petrol",
            "petrol_boosted": "Petrol, boosted",
            "diesel": "Diesel, direct injection",
            "prechamber_diesel": "Diesel with prechambers",
            "side_valve": "Petrol, side valves",
        },
        "Sets friction, efficiency and the share of fuel heat that reaches the coolant.",
    )
    fuel: Literal["petrol", "e85"] = choice(
        "petrol",
        "Fuel",
        {"petrol": "Petrol", "e85": "E85 (ethanol)"},
        "Sets what a fuel flow is worth; diesels burn diesel.",
        when={"/engine/kind": ["petrol", "petrol_boosted", "side_valve"]},
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
        when={"/engine/kind": ["diesel", "prechamber_diesel"]},
        guess=True,
    )
    tune_factor: Number = assumed(
        "Tune",
        "ratio",
        1.0,
        1.25,
        1.03,
        "1 for a good tune; up to 1.25 for retarded timing or a lean or over-rich mixture, which send more heat into the coolant.",
        guess=True,
    )
    heat_school: Literal["energy_balance", "thirds", "share_of_power", "measured"] = choice(
        "energy_balance",
        "Heat by",
        {
            "energy_balance": "Energy balance",
            "thirds": "Thirds rule",
            "share_of_power": "Share of brake power",
            "measured": "A measurement",
        },
        "Energy balance: a share of the fuel's energy, with friction. Thirds: as much heat to the coolant as brake power. Share: a part of brake power by kind of engine. All are shown side by side.",
    )
    measured_by: Literal["coolant", "fuel"] = choice(
        "coolant",
        "Measured",
        {"coolant": "Coolant flow and its fall", "fuel": "Fuel flow"},
        "At one steady load; other loads follow by the energy balance.",
        when=MEASURED,
    )
    measured_power_kw: Number = needed(
        "Brake power then", "power", 0.1, 2000, "Brake power while it was measured.", when=MEASURED
    )
    measured_rpm: Number = needed(
        "Engine speed then", "rotation", 300, 15000, "Engine speed while it was measured.", when=MEASURED
    )
    measured_flow_l_per_min: Number = needed(
        "Coolant flow then",
        "coolant_flow",
        0.5,
        3000,
        "Through the engine, thermostat open.",
        when=MEASURED_BY_COOLANT,
    )
    measured_rise_k: Number = needed(
        "Rise through the engine then",
        "temperature_difference",
        0.2,
        60,
        "Engine outlet less pump inlet.",
        when=MEASURED_BY_COOLANT,
    )
    measured_fuel_kg_per_h: Number = needed(
        "Fuel flow then", "fuel_flow", 0.1, 1000, "Mass of fuel burnt per hour.", when=MEASURED_BY_FUEL
    )
    cooled_turbo: bool = switch(
        False,
        "Turbo housing cooled by coolant",
        "Adds about 1 % of brake power.",
        when={"/engine/kind": ["petrol_boosted", "diesel", "prechamber_diesel"]},
    )
    oil_cooler: bool = switch(
        False,
        "Oil cooled by coolant",
        "An oil-to-coolant exchanger sends part of the friction heat into the coolant.",
    )
    oil_cooler_share: Number = assumed(
        "Oil cooler's heat",
        "share",
        0.0,
        0.4,
        0.06,
        "Heat over brake power.",
        when={"/engine/oil_cooler": [True]},
        guess=True,
    )
    egr_cooler: bool = switch(
        False,
        "Exhaust gas recirculation cooled by coolant",
        "Adds heat from the exhaust.",
        when={"/engine/kind": ["diesel", "prechamber_diesel"]},
    )
    egr_cooler_share: Number = assumed(
        "EGR cooler's heat",
        "share",
        0.0,
        0.2,
        0.03,
        "Heat over fuel energy.",
        when={"/engine/kind": ["diesel", "prechamber_diesel"], "/engine/egr_cooler": [True]},
        guess=True,
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

    @model_validator(mode="after")
    def fuel_pays_for_the_work(self) -> Engine:
        """A measured fuel flow must hold more energy than the work that was done with it."""
        if self.heat_school != "measured" or self.measured_by != "fuel":
            return self
        if self.measured_power_kw is None or self.measured_fuel_kg_per_h is None:
            return self
        fuel = "diesel" if self.kind in ("diesel", "prechamber_diesel") else self.fuel
        least = self.measured_power_kw * 3600.0 / (BEST_EFFICIENCY * HEATING_VALUE_KJ[fuel])
        if self.measured_fuel_kg_per_h < least:
            raise PydanticCustomError(
                "measured_fuel_kg_per_h",
                "Fuel flow then must be at least {least} kg/h: {power} kW of work take that much even in the best engine",
                {"least": f"{least:.3g}", "power": f"{self.measured_power_kw:g}"},
            )
        return self
