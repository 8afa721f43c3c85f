"""From the document's units to the core's: the one place where a build becomes arrays."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from math import inf, nan, radians
from typing import Any

import numpy as np

from ebbrin.bridge.units import KG_PER_HOUR, KILO, KM_H, LITRE, LITRE_PER_MINUTE, MM, RPM, kelvin
from ebbrin.build import parts
from ebbrin.build.case import Case
from ebbrin.build.resolve import Resolved
from ebbrin.core.airpath import front_end
from ebbrin.core.airpath.fan import Fan, curve_table
from ebbrin.core.airpath.front_end import AirPath
from ebbrin.core.circuit import cap as caps
from ebbrin.core.circuit.cap import Cap
from ebbrin.core.circuit.parts import (
    BYPASS_BLOCKED,
    BYPASS_OPEN,
    BYPASS_SPRING,
    Bypass,
    Circuit,
    Heater,
)
from ebbrin.core.circuit.pump import Pump
from ebbrin.core.circuit.thermostat import FanSwitch, Thermostat
from ebbrin.core.engine import fuel as fuels
from ebbrin.core.engine import heat
from ebbrin.core.engine.road_load import Vehicle, crank_speed
from ebbrin.core.media import air as atmosphere
from ebbrin.core.media import coolants
from ebbrin.core.radiator.bench_point import BenchPoint, conductance_factor
from ebbrin.core.radiator.geometry import ALUMINIUM_CONDUCTIVITY, COPPER_BRASS_CONDUCTIVITY, Core
from ebbrin.core.system.parts import Cases, Exchangers, Limits, System

RESISTANCE = KILO / (100.0 * LITRE_PER_MINUTE) ** 2
"""A drop of 1 kPa at 100 L/min as pressure over volume flow squared, Pa s²/m⁶."""

BRANCH_RESISTANCE = KILO / (10.0 * LITRE_PER_MINUTE) ** 2
"""A drop of 1 kPa at 10 L/min as pressure over volume flow squared, Pa s²/m⁶."""

KINDS = {
    "petrol": fuels.PETROL_NA,
    "petrol_boosted": fuels.PETROL_BOOSTED,
    "diesel": fuels.DIESEL,
    "side_valve": fuels.SIDE_VALVE,
    "prechamber_diesel": fuels.PRECHAMBER_DIESEL,
}
SCHOOLS = {
    "energy_balance": heat.ENERGY_BALANCE,
    "thirds": heat.THIRDS,
    "share_of_power": heat.SHARE_OF_POWER,
    "measured": heat.MEASURED,
}
FUELS = {"petrol": fuels.PETROL, "e85": fuels.E85}
COOLANTS = {
    "water": coolants.WATER,
    "ethylene_glycol": coolants.ETHYLENE_GLYCOL,
    "propylene_glycol": coolants.PROPYLENE_GLYCOL,
    "waterless": coolants.WATERLESS,
}
SHROUDS = {"none": front_end.NO_SHROUD, "ring": front_end.RING, "full": front_end.FULL_SHROUD}
BYPASSES = {
    "none": BYPASS_OPEN,
    "open": BYPASS_OPEN,
    "spring": BYPASS_SPRING,
    "blocked": BYPASS_BLOCKED,
}
CONDUCTIVITY = {"aluminium": ALUMINIUM_CONDUCTIVITY, "copper_brass": COPPER_BRASS_CONDUCTIVITY}


DIESELS = ("diesel", "prechamber_diesel")
TEST_COOLANTS = {
    "water": parts.Coolant(kind="water"),
    "half_glycol": parts.Coolant(kind="ethylene_glycol", glycol_vol_share=0.5),
}


def _f(value: Any, scale: float = 1.0) -> Any:
    return np.asarray(value, np.float64) * scale


def _engine(engine: parts.Engine, coolant: coolants.Coolant) -> heat.Engine:
    loss = 1.0 - (engine.gearbox_efficiency or 0.0) if engine.gearbox_cooler else 0.0
    diesel = engine.kind in DIESELS
    cooled = engine.cooled_turbo and engine.kind in ("petrol_boosted", *DIESELS)
    measured = engine.measured_by if engine.heat_school == "measured" else None
    flow_then = _f(engine.measured_flow_l_per_min or 0.0, LITRE_PER_MINUTE)
    carried = heat.carried_heat(coolant, flow_then, _f(engine.measured_rise_k or 0.0))
    return heat.Engine(
        kind=np.asarray(KINDS[engine.kind]),
        school=np.asarray(SCHOOLS[engine.heat_school]),
        fuel=np.asarray(fuels.DIESEL_FUEL if diesel else FUELS[engine.fuel]),
        displacement=_f(engine.displacement_l, LITRE),
        rated_power=_f(engine.rated_power_kw, KILO),
        rated_speed=_f(engine.rated_rpm, RPM),
        stroke=_f(engine.stroke_mm, MM),
        tune_factor=_f(engine.tune_factor),
        heat_factor=_f(1.0),
        part_load_loss=_f(fuels.PART_LOAD_LOSS),
        cooled_turbo=_f(cooled),
        oil_cooler=_f(engine.oil_cooler_share if engine.oil_cooler else 0.0),
        egr_cooler=_f(engine.egr_cooler_share if engine.egr_cooler and diesel else 0.0),
        gearbox_loss=_f(loss),
        electrical_load=_f(engine.electrical_load_w),
        heat_capacity=_f(engine.metal_heat_kj_per_k, KILO),
        measured_heat=carried if measured == "coolant" else _f(0.0),
        measured_fuel=_f(engine.measured_fuel_kg_per_h if measured == "fuel" else 0.0, KG_PER_HOUR),
        measured_power=_f(engine.measured_power_kw or 1.0, KILO),
        measured_speed=_f(engine.measured_rpm or 1000.0, RPM),
    )


def coolant_from(coolant: parts.Coolant) -> coolants.Coolant:
    """The core's coolant from kind and strength."""
    kind = COOLANTS[coolant.kind]
    if kind == coolants.WATER:
        fraction = np.asarray(0.0)
    elif kind == coolants.WATERLESS:
        fraction = _f(1.0 - (coolant.residual_water_share or 0.0))
    else:
        fraction = coolants.mass_fraction_from_volume(coolant.glycol_vol_share or 0.0, kind)
    return coolants.Coolant(np.asarray(kind), fraction)


def core_from(radiator: parts.Radiator) -> Core:
    """The core's core, from a radiator with nothing unknown."""
    lengths = {
        name: _f(getattr(radiator, f"{name}_mm"), MM)
        for name in [
            "width",
            "height",
            "depth",
            "fin_pitch",
            "fin_height",
            "fin_thickness",
            "louvre_pitch",
            "louvre_length",
            "tube_height",
            "tube_wall",
        ]
    }
    core = Core(
        **lengths,
        rows=_f(radiator.rows),
        crossflow=np.asarray(radiator.flow == "crossflow"),
        passes=_f(radiator.passes),
        in_depth=np.asarray(radiator.pass_layout == "in_depth"),
        plain=np.asarray(radiator.core_type == "plain"),
        scale=_f(radiator.scale_mm, MM),
        **{name: _f(1.0) for name in ("UA_factor", "air_film", "air_friction", "coolant_film")},
        louvre_angle=_f(radians(radiator.louvre_angle_deg or 0.0)),
        conductivity=_f(CONDUCTIVITY[radiator.material]),
        blocked_tubes=_f(radiator.blocked_tubes_share),
        blocked_face=_f(radiator.blocked_face_share),
    )
    if not radiator.test_point:
        return core
    # The test was made on a clean core; what has become of it since counts on top.
    clean = replace(core, blocked_tubes=_f(0.0), blocked_face=_f(0.0), scale=_f(0.0)).checked()
    return replace(core, UA_factor=conductance_factor(clean, bench_point(radiator)))


def bench_point(radiator: parts.Radiator) -> BenchPoint:
    """The conditions of a core's test, in SI."""
    return BenchPoint(
        heat=_f(radiator.test_heat_kw, KILO),
        face_velocity=_f(radiator.test_air_m_per_s),
        coolant_flow=_f(radiator.test_coolant_l_per_min, LITRE_PER_MINUTE),
        inlet_difference=_f(radiator.test_difference_k),
        air_inlet=kelvin(radiator.test_air_c),
        pressure=_f(atmosphere.SEA_LEVEL_PRESSURE),
        coolant=coolant_from(TEST_COOLANTS[radiator.test_coolant]),
    )


def _fan(fan: parts.Fan) -> Fan:
    points, electric = fan.curve or [], fan.kind == "electric"
    low = (fan.slow_speed_share, fan.slow_speed_share) if fan.staging == "slow" else (1.0, 0.0)
    volts, tested_at = fan.voltage_v or 1.0, fan.test_voltage_v or 1.0
    free, table = curve_table([p.flow_m3_per_s for p in points], [p.pressure_pa for p in points])
    return Fan(
        fitted=np.asarray(fan.kind != "none"),
        mechanical=np.asarray(fan.kind == "mechanical"),
        puller=np.asarray(fan.mount == "puller"),
        staged=np.asarray(electric and fan.staging != "single"),
        count=_f(fan.count),
        diameter=_f(fan.diameter_mm, MM),
        free_flow=_f(free),
        pressure=table,
        reference_density=_f(fan.curve_density_kg_per_m3),
        voltage_ratio=_f(volts / tested_at),
        low_first=_f(low[0]),
        low_second=_f(low[1]),
        electric_power=_f(fan.electric_power_w),
        shaft_power=_f(fan.shaft_power_kw, KILO),
        reference_speed=_f(fan.curve_rpm, RPM),
        pulley_ratio=_f(fan.pulley_ratio),
        engaged=_f(fan.engaged_share),
        disengaged=_f(fan.disengaged_share),
    )


def air_from(air: parts.Air) -> AirPath:
    """The core's air path, from one with nothing unknown."""
    shroud = SHROUDS[air.shroud] if air.fan.kind != "none" else front_end.NO_SHROUD
    return AirPath(
        ram=_f(air.ram_coefficient),
        front_loss=_f(air.front_loss_coefficient),
        exit_loss=_f(air.exit_loss_coefficient),
        condenser_loss=_f(air.condenser_loss_coefficient if air.condenser else 0.0),
        charge_loss=_f(air.charge_cooler_loss_coefficient if air.charge_cooler else 0.0),
        shroud_cover=_f(air.shroud_cover_share),
        condenser_cover=_f(air.condenser_cover_share),
        charge_cover=_f(air.charge_cooler_cover_share),
        recirculation_at_rest=_f(air.front_recirculation_share),
        shroud=np.asarray(shroud),
        flaps=np.asarray(air.flaps),
        blade_recirculation=_f(air.blade_recirculation_share),
        fan=_fan(air.fan),
    )


def circuit_from(circuit: parts.Circuit, thermostat: parts.Thermostat) -> Circuit:
    """The core's circuit, from one with nothing unknown."""
    pump = Pump(
        belt=np.asarray(circuit.pump_drive == "belt"),
        siphon=_f(circuit.siphon_height_mm if circuit.pump_drive == "none" else 0.0, MM),
        shut_off=_f(circuit.shut_off_kpa, KILO),
        run_out=_f(circuit.run_out_l_per_min, LITRE_PER_MINUTE),
        reference_speed=_f(circuit.pump_test_rpm, RPM),
        belt_ratio=_f(circuit.belt_ratio),
        electric_speed=_f(circuit.electric_rpm, RPM),
        npsh_required=_f(circuit.npsh_required_m if circuit.pump_drive != "none" else 0.0),
        electric_power=_f(circuit.electric_pump_w if circuit.pump_drive == "electric" else 0.0),
    )
    return Circuit(
        pump=pump,
        thermostat=Thermostat(
            kelvin(thermostat.opens_c),
            _f(thermostat.span_k),
            _f(thermostat.leak_share),
            np.asarray(thermostat.position == "inlet"),
        ),
        bypass=Bypass(
            np.asarray(BYPASSES[circuit.bypass]),
            _conductance(circuit.bypass_drop_kpa, RESISTANCE, circuit.bypass != "none"),
            _f(circuit.bypass_cracks_kpa, KILO),
        ),
        heater=Heater(
            _conductance(circuit.heater_drop_kpa, BRANCH_RESISTANCE, circuit.heater),
            _f(circuit.heater_effectiveness),
        ),
        jacket_resistance=_f(circuit.jacket_drop_kpa, RESISTANCE),
        thermostat_resistance=_f(thermostat.drop_kpa, RESISTANCE),
        hose_bore=_f(circuit.hose_bore_mm, MM),
        hose_length=_f(circuit.hose_length_mm, MM),
        hose_bends=_f(circuit.hose_bends),
    )


def _conductance(drop: parts.Number, resistance: float, fitted: bool) -> Any:
    """Flow over the root of pressure [m³/s Pa^-½] of a branch; 0 without one."""
    return _f((drop * resistance) ** -0.5 if fitted and drop else 0.0)


def system_from(resolved: Resolved) -> System:
    """The core's system, fields of shape (), from a variant with nothing unknown."""
    v = resolved.variant
    coolant = coolant_from(v.coolant)
    return System(
        vehicle=Vehicle(
            _f(v.vehicle.mass_kg),
            _f(v.vehicle.drag_area_m2),
            _f(v.vehicle.rolling_resistance),
            _f(v.vehicle.driveline_efficiency),
            _f(v.vehicle.trailer_mass_kg),
            _f(v.vehicle.trailer_drag_area_m2),
        ),
        engine=_engine(v.engine, coolant),
        coolant=coolant,
        coolant_volume=_f(v.coolant.volume_l, LITRE),
        core=core_from(v.radiator),
        air=air_from(v.air),
        ahead=Exchangers(
            _f(v.air.condenser_heat_kw if v.air.condenser else 0.0, KILO),
            _f(v.air.compressor_kw if v.air.condenser else 0.0, KILO),
            np.asarray(resolved.assumes("/air/condenser_heat_kw")),
            np.asarray(resolved.assumes("/air/compressor_kw")),
            _f(v.air.charge_cooler_share if v.air.charge_cooler else 0.0),
        ),
        circuit=circuit_from(v.circuit, v.thermostat),
        fan_switch=FanSwitch(
            kelvin(v.fan_switch.on_c),
            kelvin(v.fan_switch.off_c),
            kelvin(v.fan_switch.full_on_c),
            kelvin(v.fan_switch.full_off_c),
        ),
        cap=Cap(
            _f(v.cap.pressure_kpa, KILO),
            _f(caps.LIKELY_SAG),
            np.asarray(v.cap.position == "suction"),
            _f(v.cap.weakest_part_kpa, KILO),
            _f(v.cap.bottle_l, LITRE),
        ),
        limits=Limits(kelvin(v.limits.top_hose_c), _f(v.limits.boiling_margin_k)),
    )


def _crank_speed(case: Case, radius: float) -> float:
    """Engine speed [rev/s] of a case, stated or by gearing; rolling ``radius`` in mm."""
    if case.engine_speed_by == "stated":
        return case.engine_rpm * RPM
    return float(crank_speed(case.speed_km_h * KM_H, case.overall_ratio or 0.0, radius * MM))


def cases_from(resolved: Resolved) -> Cases:
    """The core's cases, fields of shape (cases,)."""
    fitted, warms = resolved.variant.air.condenser, resolved.variant.circuit.heater
    radius = resolved.variant.vehicle.rolling_radius_mm or 0.0

    def column(pick: Callable[[Case], Any], scale: float = 1.0) -> Any:
        return _f([pick(case) for case in resolved.cases], scale)

    return Cases(
        ambient=kelvin([case.ambient_c for case in resolved.cases]),
        altitude=column(lambda c: c.altitude_m),
        speed=column(lambda c: c.speed_km_h, KM_H),
        headwind=column(lambda c: c.headwind_km_h, KM_H),
        gradient=column(lambda c: c.gradient_share),
        acceleration=column(lambda c: c.acceleration_m_per_s2),
        crank_speed=_f([_crank_speed(case, radius) for case in resolved.cases]),
        given_power=column(lambda c: c.brake_power_kw, KILO),
        power_is_given=np.asarray([case.load == "power" for case in resolved.cases]),
        shaft_power=column(lambda c: c.shaft_work_kw, KILO),
        towing=column(lambda c: c.tows and c.load == "road"),
        heater=np.asarray([case.heater and warms for case in resolved.cases]),
        air_conditioning=np.asarray([case.air_conditioning and fitted for case in resolved.cases]),
        duration=column(lambda c: c.duration_s if c.kind == "timed" else inf),
        # With another thermostat a case of which nothing is stated begins elsewhere.
        start=kelvin([nan if resolved.assumes_start(i) else c.start_c for i, c in enumerate(resolved.cases)]),
    )
