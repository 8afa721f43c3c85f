"""From the document's units to the core's: the one place where a build becomes arrays."""

from __future__ import annotations

from collections.abc import Callable
from math import inf, radians
from typing import Any

import numpy as np

from ebbrin.core.airpath.balance import AirPath
from ebbrin.core.airpath.fan import Fan, curve_table
from ebbrin.core.base import ZERO_CELSIUS
from ebbrin.core.circuit.cap import Cap
from ebbrin.core.circuit.flow import Circuit, Pump
from ebbrin.core.circuit.thermostat import FanSwitch, Thermostat
from ebbrin.core.engine import heat
from ebbrin.core.engine.road_load import Vehicle
from ebbrin.core.media import coolants
from ebbrin.core.radiator.geometry import ALUMINIUM_CONDUCTIVITY, COPPER_BRASS_CONDUCTIVITY, Core
from ebbrin.core.system.parts import Cases, Condenser, Limits, System
from ebbrin.document import parts
from ebbrin.document.build import Case
from ebbrin.document.resolve import Resolved

MM, LITRE, KILO = 1e-3, 1e-3, 1e3
PER_MINUTE = 1.0 / 60.0
KM_H = 1.0 / 3.6
RESISTANCE = KILO / (100.0 * LITRE * PER_MINUTE) ** 2
"""A drop of 1 kPa at 100 L/min as pressure over volume flow squared, Pa s²/m⁶."""

KINDS = {"petrol": heat.PETROL_NA, "petrol_boosted": heat.PETROL_BOOSTED, "diesel": heat.DIESEL}
SCHOOLS = {"energy_balance": heat.ENERGY_BALANCE, "thirds": heat.THIRDS}
CONDUCTIVITY = {"aluminium": ALUMINIUM_CONDUCTIVITY, "copper_brass": COPPER_BRASS_CONDUCTIVITY}


def kelvin(celsius: Any) -> Any:
    """Temperature in K from °C. Not for differences."""
    return np.asarray(celsius, np.float64) + ZERO_CELSIUS


def _f(value: Any, scale: float = 1.0) -> Any:
    return np.asarray(value, np.float64) * scale


def _engine(engine: parts.Engine) -> heat.Engine:
    loss = 1.0 - (engine.gearbox_efficiency or 0.0) if engine.gearbox_cooler else 0.0
    cooled = engine.cooled_turbo and engine.kind != "petrol"
    return heat.Engine(
        kind=np.asarray(KINDS[engine.kind]),
        school=np.asarray(SCHOOLS[engine.heat_school]),
        displacement=_f(engine.displacement_l, LITRE),
        rated_power=_f(engine.rated_power_kw, KILO),
        rated_speed=_f(engine.rated_rpm, PER_MINUTE),
        stroke=_f(engine.stroke_mm, MM),
        tune_factor=_f(engine.tune_factor),
        cooled_turbo=_f(cooled),
        gearbox_loss=_f(loss),
        electrical_load=_f(engine.electrical_load_w),
        heat_capacity=_f(engine.metal_heat_kj_per_k, KILO),
    )


def coolant_from(coolant: parts.Coolant) -> coolants.Coolant:
    """The core's coolant from kind and volume share."""
    if coolant.kind == "water":
        return coolants.Coolant(np.asarray(coolants.WATER), np.asarray(0.0))
    fraction = coolants.mass_fraction_from_volume(coolant.glycol_vol_share or 0.0)
    return coolants.Coolant(np.asarray(coolants.ETHYLENE_GLYCOL), fraction)


def _core(radiator: parts.Radiator) -> Core:
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
    return Core(
        **lengths,
        rows=_f(radiator.rows),
        crossflow=np.asarray(radiator.flow == "crossflow"),
        louvre_angle=_f(radians(radiator.louvre_angle_deg or 0.0)),
        conductivity=_f(CONDUCTIVITY[radiator.material]),
        blocked_tubes=_f(radiator.blocked_tubes_share),
        blocked_face=_f(radiator.blocked_face_share),
    )


def _fan(fan: parts.Fan) -> Fan:
    points = fan.curve or []
    free, table = curve_table([p.flow_m3_per_s for p in points], [p.pressure_pa for p in points])
    return Fan(
        fitted=np.asarray(fan.kind != "none"),
        mechanical=np.asarray(fan.kind == "mechanical"),
        puller=np.asarray(fan.mount == "puller"),
        diameter=_f(fan.diameter_mm, MM),
        free_flow=_f(free),
        pressure=table,
        reference_density=_f(fan.curve_density_kg_per_m3),
        electric_power=_f(fan.electric_power_w),
        shaft_power=_f(fan.shaft_power_kw, KILO),
        reference_speed=_f(fan.curve_rpm, PER_MINUTE),
        pulley_ratio=_f(fan.pulley_ratio),
        engaged=_f(fan.engaged_share),
        disengaged=_f(fan.disengaged_share),
    )


def _air(air: parts.Air) -> AirPath:
    return AirPath(
        ram=_f(air.ram_coefficient),
        front_loss=_f(air.front_loss_coefficient),
        condenser_loss=_f(air.condenser_loss_coefficient if air.condenser else 0.0),
        recirculation_at_rest=_f(air.front_recirculation_share),
        shrouded=np.asarray(air.shroud == "full" and air.fan.kind != "none"),
        blade_recirculation=_f(air.blade_recirculation_share),
        fan=_fan(air.fan),
    )


def _circuit(circuit: parts.Circuit, thermostat: parts.Thermostat) -> Circuit:
    pump = Pump(
        belt=np.asarray(circuit.pump_drive == "belt"),
        shut_off=_f(circuit.shut_off_kpa, KILO),
        run_out=_f(circuit.run_out_l_per_min, LITRE * PER_MINUTE),
        reference_speed=_f(circuit.pump_test_rpm, PER_MINUTE),
        belt_ratio=_f(circuit.belt_ratio),
        electric_speed=_f(circuit.electric_rpm, PER_MINUTE),
        npsh_required=_f(circuit.npsh_required_m),
        electric_power=_f(circuit.electric_pump_w),
    )
    return Circuit(
        pump=pump,
        thermostat=Thermostat(kelvin(thermostat.opens_c), _f(thermostat.span_k)),
        jacket_resistance=_f(circuit.jacket_drop_kpa, RESISTANCE),
        thermostat_resistance=_f(thermostat.drop_kpa, RESISTANCE),
        hose_bore=_f(circuit.hose_bore_mm, MM),
        hose_length=_f(circuit.hose_length_mm, MM),
        hose_bends=_f(circuit.hose_bends),
    )


def system_from(resolved: Resolved) -> System:
    """The core's system, fields of shape (), from a variant with nothing unknown."""
    v = resolved.variant
    return System(
        vehicle=Vehicle(
            _f(v.vehicle.mass_kg),
            _f(v.vehicle.drag_area_m2),
            _f(v.vehicle.rolling_resistance),
            _f(v.vehicle.driveline_efficiency),
        ),
        engine=_engine(v.engine),
        coolant=coolant_from(v.coolant),
        coolant_volume=_f(v.coolant.volume_l, LITRE),
        core=_core(v.radiator),
        air=_air(v.air),
        condenser=Condenser(
            _f(v.air.condenser_heat_kw if v.air.condenser else 0.0, KILO),
            _f(v.air.compressor_kw if v.air.condenser else 0.0, KILO),
        ),
        circuit=_circuit(v.circuit, v.thermostat),
        fan_switch=FanSwitch(kelvin(v.fan_switch.on_c), kelvin(v.fan_switch.off_c)),
        cap=Cap(
            _f(v.cap.pressure_kpa, KILO),
            np.asarray(v.cap.position == "suction"),
            _f(v.cap.weakest_part_kpa, KILO),
        ),
        limits=Limits(kelvin(v.limits.top_hose_c), _f(v.limits.boiling_margin_k)),
    )


def cases_from(resolved: Resolved) -> Cases:
    """The core's cases, fields of shape (cases,)."""
    fitted = resolved.variant.air.condenser

    def column(pick: Callable[[Case], Any], scale: float = 1.0) -> Any:
        return _f([pick(case) for case in resolved.cases], scale)

    return Cases(
        ambient=kelvin([case.ambient_c for case in resolved.cases]),
        altitude=column(lambda c: c.altitude_m),
        speed=column(lambda c: c.speed_km_h, KM_H),
        headwind=column(lambda c: c.headwind_km_h, KM_H),
        gradient=column(lambda c: c.gradient_share),
        acceleration=column(lambda c: c.acceleration_m_per_s2),
        crank_speed=column(lambda c: c.engine_rpm, PER_MINUTE),
        given_power=column(lambda c: c.brake_power_kw, KILO),
        power_is_given=np.asarray([case.load == "power" for case in resolved.cases]),
        air_conditioning=np.asarray([case.air_conditioning and fitted for case in resolved.cases]),
        duration=column(lambda c: c.duration_s if c.kind == "timed" else inf),
        start=kelvin([case.start_c for case in resolved.cases]),
    )
