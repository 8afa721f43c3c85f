"""Shroud and front end as people describe them."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ebbrin.build.fan import Fan
from ebbrin.build.fields import assumed, choice, switch
from ebbrin.build.part import CONDENSER, CONDENSER_RUNS, FAN, Number, Part


class Air(Part):
    """From the grille to behind the core."""

    ram_coefficient: Number = assumed(
        "Ram pressure caught",
        "ratio",
        0.05,
        1.0,
        0.55,
        "Share of the dynamic pressure of driving that pushes air through the inlet: 0.2 poor, 0.9 well ducted.",
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
    exit_loss_coefficient: Number = assumed(
        "Exit loss under the bonnet",
        "ratio",
        0,
        20,
        1.5,
        "In velocity heads at the core face: what a closed bonnet costs the air that leaves; 0 in the open, 4 where it can hardly leave.",
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
    shroud: Literal["none", "ring", "full"] = choice(
        "none",
        "Shroud",
        {
            "none": "None: fan against the core",
            "ring": "Ring: round the blades only",
            "full": "Full: covers the whole core",
        },
        "With a full shroud the fan pulls through all of the core; with a ring or without one only through its disc.",
        when=FAN,
    )
    shroud_cover_share: Number = assumed(
        "Face under the shroud",
        "share",
        0.2,
        1.0,
        1.0,
        "Share of the core that the shroud covers: boxes often cover 85 to 95 %. The fan pulls through that alone.",
        when={**FAN, "/air/shroud": ["full"]},
    )
    flaps: bool = switch(
        False,
        "Flaps in the shroud",
        "They open for ram air while the fan stands.",
        when={**FAN, "/air/shroud": ["ring", "full"]},
    )
    blade_recirculation_share: Number = assumed(
        "Air slipping back round the blades",
        "share",
        0.0,
        0.4,
        "15 % without a shroud, 5 % with a ring or a full one",
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
        "5 kW, over 2000 kg 8 kW, at 35 °C and 1500 rpm; it follows outside air and engine speed",
        "Heat it gives to the air with the air conditioning on. A stated figure counts in every case as it is.",
        when=CONDENSER_RUNS,
        guess=True,
    )
    compressor_kw: Number = assumed(
        "Compressor power",
        "power",
        0,
        15,
        "a third of the condenser's heat, and follows it",
        "What it takes from the engine. A stated figure counts in every case as it is.",
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
    condenser_cover_share: Number = assumed(
        "Face behind the condenser",
        "share",
        0.2,
        1.0,
        1.0,
        "Share of the core that the condenser stands in front of.",
        when=CONDENSER,
    )
    charge_cooler: bool = switch(
        False, "Intercooler in front", "A charge-air cooler ahead of the core resists the air and warms it."
    )
    charge_cooler_share: Number = assumed(
        "Intercooler's heat",
        "share",
        0.0,
        0.4,
        0.10,
        "Heat over brake power.",
        when={"/air/charge_cooler": [True]},
        guess=True,
    )
    charge_cooler_loss_coefficient: Number = assumed(
        "Intercooler loss",
        "ratio",
        0,
        60,
        8,
        "In velocity heads at the core face.",
        when={"/air/charge_cooler": [True]},
        guess=True,
    )
    charge_cooler_cover_share: Number = assumed(
        "Face behind the intercooler",
        "share",
        0.2,
        1.0,
        1.0,
        "Share of the core that the intercooler stands in front of.",
        when={"/air/charge_cooler": [True]},
    )
    fan: Fan = Field(default_factory=Fan, title="Fan", description="The fan by its tested curve.")
