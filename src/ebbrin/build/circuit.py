"""Pump, passages, thermostat and fan switch as people describe them."""

from __future__ import annotations

from typing import Literal

from pydantic import model_validator
from pydantic_core import PydanticCustomError

from ebbrin.build.fields import assumed, choice, known, switch
from ebbrin.build.part import (
    BELT_PUMP,
    ELECTRIC_FAN,
    ELECTRIC_PUMP,
    NO_PUMP,
    PUMP,
    STAGED_FAN,
    Number,
    Part,
    ShelfRef,
    from_shelf,
)

SECOND_STAGE = 5.0  # choice: how far above the first a second stage switches, K


class Circuit(Part):
    """Pump, jacket and hoses."""

    pump_drive: Literal["belt", "electric", "none"] = choice(
        "belt",
        "Pump drive",
        {"belt": "Belt", "electric": "Electric", "none": "None: hot coolant rises"},
        "A belt pump follows engine speed. Cars from before the pump let the warm coolant rise by itself.",
    )
    siphon_height_mm: Number = assumed(
        "Middle of core above middle of jacket",
        "length",
        100,
        1500,
        400,
        "Height between the middles of core and jacket, 200 to 800 mm: what lets the coolant rise.",
        when=NO_PUMP,
        guess=True,
    )
    shut_off_kpa: Number = assumed(
        "Pump shut-off pressure",
        "pressure",
        5,
        600,
        150,
        "Pressure against a closed outlet at the speed of the test.",
        when=PUMP,
        guess=True,
    )
    run_out_l_per_min: Number = assumed(
        "Pump run-out flow",
        "coolant_flow",
        10,
        3000,
        "1.6 L/min per kW rated, at least 150 L/min",
        "Flow against no resistance at the speed of the test.",
        when=PUMP,
        guess=True,
    )
    pump_test_rpm: Number = assumed(
        "Pump speed of the test",
        "rotation",
        200,
        12000,
        6000,
        "Pump speed to which both figures belong.",
        when=PUMP,
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
        when=PUMP,
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
    bypass: Literal["none", "open", "spring", "blocked"] = choice(
        "blocked",
        "Bypass",
        {
            "none": "None",
            "open": "Always open",
            "spring": "Spring valve",
            "blocked": "Shut by the thermostat's foot",
        },
        "The passage from engine outlet to pump inlet while the thermostat is shut.",
    )
    bypass_drop_kpa: Number = assumed(
        "Bypass drop at 100 L/min",
        "pressure",
        2,
        2000,
        60,
        "Pressure lost through the open bypass at 100 L/min.",
        when={"/circuit/bypass": ["open", "spring", "blocked"]},
        guess=True,
    )
    bypass_cracks_kpa: Number = assumed(
        "Bypass spring cracks at",
        "pressure",
        1,
        60,
        9,
        "Pressure that starts to open it; wide open at twice that.",
        when={"/circuit/bypass": ["spring"]},
        guess=True,
    )
    heater: bool = switch(True, "Cabin heater in the circuit", "A branch from engine outlet to pump inlet.")
    heater_drop_kpa: Number = assumed(
        "Heater drop at 10 L/min",
        "pressure",
        0.5,
        200,
        15,
        "Pressure lost through heater, its hoses and valve at 10 L/min.",
        when={"/circuit/heater": [True]},
        guess=True,
    )
    heater_effectiveness: Number = assumed(
        "Heater effectiveness",
        "share",
        0.1,
        0.95,
        0.6,
        "With its blower on high: heat given off over the most that the coolant could give.",
        when={"/circuit/heater": [True], "/cases/*/heater": [True]},
        guess=True,
    )
    hose_bore_mm: Number = assumed(
        "Hose bore", "length", 12, 100, 35, "Inside diameter of top and bottom hose."
    )
    hose_length_mm: Number = assumed(
        "Hose length", "length", 100, 20000, 1200, "Top and bottom hose together."
    )
    hose_bends: Number = assumed("Bends", "count", 0, 30, 4, "Right-angle bends in both hoses together.")
    from_shelf: ShelfRef | None = from_shelf("pump")


class Thermostat(Part):
    """The thermostat."""

    position: Literal["outlet", "inlet"] = choice(
        "outlet",
        "Sits at",
        {"outlet": "The engine's outlet", "inlet": "The pump's inlet"},
        "At the inlet its bulb feels the bypass and a little of what comes back from the radiator.",
    )
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
    leak_share: Number = assumed(
        "Leaks when seated",
        "share",
        0.0005,
        0.3,
        0.003,
        "Share of its full opening that a shut valve lets through: 0.3 % sound, 1 to 5 % worn.",
    )
    from_shelf: ShelfRef | None = from_shelf("thermostat")


class FanSwitch(Part):
    """The switch of an electric fan. A driven fan has none: a clutch feels the air behind the core."""

    on_c: Number = assumed(
        "Fan on at",
        "temperature",
        50,
        125,
        102,
        "Top-hose temperature at which the fan starts.",
        when=ELECTRIC_FAN,
    )
    off_c: Number = assumed(
        "Fan off at",
        "temperature",
        45,
        120,
        96,
        "Temperature at which it stops again.",
        when=ELECTRIC_FAN,
    )

    full_on_c: Number = assumed(
        "Full fan on at",
        "temperature",
        50,
        130,
        "5 K above the first stage",
        "Top-hose temperature at which the second stage starts.",
        when=STAGED_FAN,
    )
    full_off_c: Number = assumed(
        "Full fan off at",
        "temperature",
        45,
        125,
        "5 K above the first stage",
        "Temperature at which it falls back to the first stage.",
        when=STAGED_FAN,
    )

    @model_validator(mode="after")
    def on_above_off(self) -> FanSwitch:
        """Each stage must go on above where it goes off, and the second above the first."""
        on, off = known(self, "on_c"), known(self, "off_c")
        if on < off + 0.5:
            raise PydanticCustomError(
                "on_c", "The fan must go on at least 0.5 K above where it goes off ({off} °C)", {"off": off}
            )
        full_on = on + SECOND_STAGE if self.full_on_c is None else self.full_on_c
        full_off = off + SECOND_STAGE if self.full_off_c is None else self.full_off_c
        if full_on < full_off + 0.5:
            raise PydanticCustomError(
                "full_on_c",
                "The second stage must go on at least 0.5 K above where it goes off ({off} °C)",
                {"off": full_off},
            )
        if full_on < on or full_off < off:
            name, first = ("full_on_c", on) if full_on < on else ("full_off_c", off)
            raise PydanticCustomError(
                name, "The second stage must not switch below the first ({first} °C)", {"first": first}
            )
        return self
