"""The parts of a variant as people write them; units are in the names."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from ebbrin.document.fields import assumed, choice, needed, points, switch

FAN = {"/air/fan/kind": ["electric", "mechanical"]}
ELECTRIC_FAN, MECHANICAL_FAN = {"/air/fan/kind": ["electric"]}, {"/air/fan/kind": ["mechanical"]}
CONDENSER = {"/air/condenser": [True]}
CONDENSER_RUNS = {"/air/condenser": [True], "/cases/*/air_conditioning": [True]}
ANY_TIMED, ANY_ON_THE_ROAD = {"/cases/*/kind": ["timed"]}, {"/cases/*/load": ["road"]}
BELT_PUMP, ELECTRIC_PUMP = {"/circuit/pump_drive": ["belt"]}, {"/circuit/pump_drive": ["electric"]}
Number = float | None


class Part(BaseModel):
    """Unknown names are refused, so that a misspelt field is never silently ignored."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


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


class Radiator(Part):
    """The finned block, without tanks."""

    width_mm: Number = needed("Core width", "length", 100, 2000, "Across the car, fins only.")
    height_mm: Number = needed("Core height", "length", 100, 2000, "Fins only, without tanks.")
    depth_mm: Number = needed("Core depth", "length", 12, 150, "Along the air.")
    rows: Annotated[int | None, Field()] = assumed(
        "Rows of tubes", "count", 1, 4, 1, "Tube rows one behind the other."
    )
    flow: Literal["crossflow", "downflow"] = choice(
        "crossflow",
        "Tubes run",
        {"crossflow": "Side to side (crossflow)", "downflow": "Top to bottom (downflow)"},
        "Direction of the tubes: it sets their number and length.",
    )
    material: Literal["aluminium", "copper_brass"] = choice(
        "aluminium",
        "Material",
        {"aluminium": "Aluminium", "copper_brass": "Copper and brass"},
        "Sets how well the fins conduct.",
    )
    fin_pitch_mm: Number = assumed(
        "Fin pitch",
        "fin_pitch",
        0.8,
        4.0,
        1.8143,
        "Distance from fin to fin; 14 fins per inch is 1.81 mm.",
        guess=True,
    )
    fin_height_mm: Number = assumed(
        "Gap between tubes", "small_length", 4, 20, 8, "Height of the fins between two tubes."
    )
    fin_thickness_mm: Number = assumed(
        "Fin thickness", "small_length", 0.03, 0.3, 0.08, "Sheet thickness of the fin."
    )
    louvre_pitch_mm: Number = assumed(
        "Louvre pitch", "small_length", 0.5, 3.0, 1.2, "Distance from louvre to louvre along the air."
    )
    louvre_length_mm: Number = assumed(
        "Louvre length",
        "small_length",
        2,
        19,
        "85 % of the gap between tubes",
        "Length of the cut, across the fin.",
    )
    louvre_angle_deg: Number = assumed("Louvre angle", "angle", 8, 35, 27, "Angle of the louvres to the air.")
    tube_height_mm: Number = assumed(
        "Tube thickness", "small_length", 1.2, 8, 2.0, "Outside size of a flat tube across the gap."
    )
    tube_wall_mm: Number = assumed("Tube wall", "small_length", 0.1, 0.55, 0.3, "Wall thickness of the tube.")
    blocked_tubes_share: Number = assumed(
        "Tubes blocked",
        "share",
        0.0,
        0.9,
        0.0,
        "Share of tubes silted or soldered shut; the air through them stays cold.",
        guess=True,
    )
    blocked_face_share: Number = assumed(
        "Face blocked",
        "share",
        0.0,
        0.9,
        0.0,
        "Share of the face closed by debris, bent fins or anything in front.",
        guess=True,
    )

    @model_validator(mode="after")
    def fits_together(self) -> Radiator:
        """Refuse dimensions that exclude each other."""
        gap = self.fin_height_mm if self.fin_height_mm is not None else 8.0
        if self.louvre_length_mm is not None and self.louvre_length_mm >= gap:
            raise PydanticCustomError(
                "louvre_length_mm",
                "Louvre length must be below the gap between tubes ({gap} mm)",
                {"gap": gap},
            )
        rows, depth = self.rows or 1, self.depth_mm
        if depth is not None and (depth - 2.0 * (rows - 1)) / rows < 8.0:
            raise PydanticCustomError(
                "rows",
                "Each row needs at least 8 mm of depth: {rows} rows do not fit into {depth} mm",
                {"rows": rows, "depth": depth},
            )
        return self


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
