"""How far off a guessed value may be, and which numbers of the core hang on it.

The spreads are choices: what one finds on measuring such parts. A test proves that every guess of the
document is either here or among those that no temperature depends on.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf

from ebbrin.build.radiator import CONDITIONS, Radiator, likely_scale, scale_room
from ebbrin.build.resolve import Resolved
from ebbrin.core.studies.chance import Unknown, scatter
from ebbrin.core.system.parts import System

MM = 1e-3


@dataclass(frozen=True)
class Spread:
    """Fields of the core's system (dotted paths) with their 5 % point, median and 95 % point, and what they can be at
    all; factors on what they are if ``relative``, else SI values."""

    paths: tuple[str, ...]
    low: float
    median: float
    high: float
    relative: bool = True
    least: float = -inf
    most: float = inf


def _factor(low: float, high: float, *paths: str) -> tuple[Spread, ...]:
    return (Spread(paths, low, 1.0, high),)


def _value(
    low: float, median: float, high: float, path: str, least: float = 0.0, most: float = inf
) -> tuple[Spread, ...]:
    return (Spread((path,), low, median, high, False, least, most),)


CONDITION_RANGES: dict[str, dict[str, tuple[float, float]]] = {
    "new": {"blocked_tubes_share": (0.0, 0.02), "blocked_face_share": (0.0, 0.03), "scale_mm": (0.0, 0.0)},
    "used": {"blocked_tubes_share": (0.0, 0.12), "blocked_face_share": (0.0, 0.12), "scale_mm": (0.0, 0.1)},
    "unknown": {
        "blocked_tubes_share": (0.0, 0.35),
        "blocked_face_share": (0.0, 0.2),
        "scale_mm": (0.0, 0.25),
    },
}
"""5 and 95 % points about the medians of radiator.CONDITIONS (choices)."""
MOST_BLOCKED = 0.9


def _of_condition(radiator: Radiator, field: str) -> tuple[Spread, ...]:
    """The spread of what a core's condition says of one of its fields."""
    low, high = CONDITION_RANGES[radiator.condition][field]
    median = likely_scale(radiator) if field == "scale_mm" else CONDITIONS[radiator.condition][field]
    if field == "scale_mm":
        room = scale_room(radiator) * MM
        return _value(low * MM, median * MM, max(min(high * MM, room), median * MM), "core.scale", most=room)
    return _value(low, median, high, f"core.{field.removesuffix('_share')}", most=MOST_BLOCKED)


SPREADS: dict[str, tuple[Spread, ...]] = {
    "/vehicle/mass_kg": _factor(0.85, 1.25, "vehicle.mass"),
    "/vehicle/drag_area_m2": _factor(0.8, 1.3, "vehicle.drag_area"),
    "/vehicle/trailer_mass_kg": _factor(0.6, 1.6, "vehicle.trailer_mass"),
    "/vehicle/trailer_drag_area_m2": _factor(0.5, 2.0, "vehicle.trailer_drag_area"),
    "/engine/rated_rpm": _factor(0.88, 1.12, "engine.rated_speed"),
    "/engine/stroke_mm": _factor(0.88, 1.15, "engine.stroke"),
    "/engine/tune_factor": _value(1.0, 1.03, 1.12, "engine.tune_factor", least=1.0, most=1.25),
    "/engine/oil_cooler_share": _factor(0.5, 1.7, "engine.oil_cooler"),
    "/engine/egr_cooler_share": _factor(0.4, 2.0, "engine.egr_cooler"),
    "/engine/gearbox_efficiency": _factor(0.5, 1.8, "engine.gearbox_loss"),
    "/engine/metal_heat_kj_per_k": _factor(0.7, 1.4, "engine.heat_capacity"),
    "/coolant/residual_water_share": _value(0.96, 0.99, 0.995, "coolant.mass_fraction", least=0.9, most=1.0),
    "/coolant/volume_l": _factor(0.8, 1.25, "coolant_volume"),
    "/radiator/fin_pitch_mm": _factor(0.88, 1.2, "core.fin_pitch"),
    "/air/ram_coefficient": _factor(0.55, 1.5, "air.ram"),
    "/air/front_loss_coefficient": _factor(0.6, 1.7, "air.front_loss"),
    "/air/exit_loss_coefficient": _value(0.0, 1.5, 4.0, "air.exit_loss"),
    "/air/front_recirculation_share": _value(0.0, 0.1, 0.28, "air.recirculation_at_rest", most=0.6),
    "/air/condenser_heat_kw": _factor(0.6, 1.5, "ahead.condenser_heat"),
    "/air/compressor_kw": _factor(0.6, 1.6, "ahead.compressor_power"),
    "/air/condenser_loss_coefficient": _factor(0.6, 1.6, "air.condenser_loss"),
    "/air/charge_cooler_share": _factor(0.6, 1.5, "ahead.charge_cooler"),
    "/air/charge_cooler_loss_coefficient": _factor(0.6, 1.6, "air.charge_loss"),
    "/air/fan/diameter_mm": _factor(0.92, 1.08, "air.fan.diameter"),
    "/air/fan/curve": (
        *_factor(0.7, 1.3, "air.fan.pressure"),
        *_factor(0.75, 1.2, "air.fan.free_flow"),
    ),
    "/air/fan/electric_power_w": _factor(0.5, 1.7, "air.fan.electric_power"),
    "/air/fan/slow_speed_share": _factor(0.8, 1.25, "air.fan.low_first", "air.fan.low_second"),
    "/air/fan/curve_rpm": _factor(0.8, 1.25, "air.fan.reference_speed"),
    "/air/fan/pulley_ratio": _factor(0.85, 1.15, "air.fan.pulley_ratio"),
    "/air/fan/shaft_power_kw": _factor(0.5, 2.0, "air.fan.shaft_power"),
    "/circuit/shut_off_kpa": _factor(0.6, 1.4, "circuit.pump.shut_off"),
    "/circuit/run_out_l_per_min": _factor(0.6, 1.4, "circuit.pump.run_out"),
    "/circuit/pump_test_rpm": _factor(0.8, 1.25, "circuit.pump.reference_speed"),
    "/circuit/belt_ratio": _factor(0.85, 1.2, "circuit.pump.belt_ratio"),
    "/circuit/electric_rpm": _factor(0.85, 1.15, "circuit.pump.electric_speed"),
    "/circuit/electric_pump_w": _factor(0.5, 1.7, "circuit.pump.electric_power"),
    "/circuit/siphon_height_mm": _factor(0.6, 1.6, "circuit.pump.siphon"),
    "/circuit/jacket_drop_kpa": _factor(0.5, 2.2, "circuit.jacket_resistance"),
    "/circuit/bypass_drop_kpa": _factor(0.6, 1.6, "circuit.bypass.conductance"),
    "/circuit/bypass_cracks_kpa": _factor(0.6, 1.4, "circuit.bypass.cracking"),
    "/circuit/heater_drop_kpa": _factor(0.6, 1.5, "circuit.heater.conductance"),
    "/circuit/heater_effectiveness": _factor(0.7, 1.3, "circuit.heater.effectiveness"),
    "/thermostat/drop_kpa": _factor(0.5, 2.0, "circuit.thermostat_resistance"),
}
NOT_SAMPLED: dict[str, str] = {
    "/circuit/npsh_required_m": "bears on the pump's inlet, on no temperature",
    "/cap/weakest_part_kpa": "bears on which cap is allowed, on no temperature",
    "/vehicle/rolling_radius_mm": "sets the engine speed of cases; a stated case is the reader's own",
}
"""Guesses that are not sampled, and why."""


@dataclass(frozen=True)
class Named:
    """An unknown with its path in the build (None where it is none of its fields), what it is called, and whether one
    could measure it."""

    unknown: Unknown
    path: str | None
    title: str
    measurable: bool = True


SCATTER_TITLES = {
    "heat": "Heat of the engine, by its school's band",
    "part_load": "Heat at idle and light load",
    "air_film": "Air-side heat transfer, scatter of the correlation",
    "air_friction": "Air-side pressure drop, scatter of the correlation",
    "coolant_film": "Coolant-side heat transfer, scatter of the correlation",
    "cap": "What the cap really holds",
    "core": "The core, as tested",
}


MEASURABLE_SCATTER = {"heat", "part_load", "cap"}


def named_scatter(unknowns: list[Unknown]) -> list[Named]:
    """The core's own unknowns with their titles."""
    return [
        Named(unknown, None, SCATTER_TITLES[unknown.name], unknown.name in MEASURABLE_SCATTER)
        for unknown in unknowns
    ]


def guessed(resolved: Resolved) -> list[Named]:
    """An unknown for every guess that was taken for a value of the variant."""
    found = []
    for value in resolved.assumed:
        inner = "/" + value.path.split("/", 3)[-1]
        if value.guess and value.path.startswith("/variants/"):
            spreads = _spreads(inner, resolved)
            found += [Named(_unknown(inner, spread), value.path, value.title) for spread in spreads]
    return found


def _spreads(inner: str, resolved: Resolved) -> tuple[Spread, ...]:
    field = inner.removeprefix("/radiator/")
    if field in CONDITIONS["unknown"]:
        return _of_condition(resolved.variant.radiator, field)
    return SPREADS.get(inner, ())


def _unknown(inner: str, spread: Spread) -> Unknown:
    return Unknown(
        inner,
        spread.paths,
        spread.low,
        spread.median,
        spread.high,
        spread.relative,
        spread.least,
        spread.most,
    )


def all_unknowns(system: System, resolved: Resolved) -> list[Named]:
    """All that is not known of a system: what scatters in any, and what was guessed of this one."""
    tested = resolved.variant.radiator.test_point
    return [*named_scatter(scatter(system, tested)), *guessed(resolved)]
