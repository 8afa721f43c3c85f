"""From the document into the core: every number arrives once, in SI, and nothing else moves with it.

Units are SciPy's (CODATA's and the SI brochure's) by what a field's name ends in; what is made of several numbers is worked
out here from its definition in the field's own words.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from scipy import constants as si

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.build.build import Build
from ebbrin.build.case import Case
from ebbrin.build.resolve import Resolved, resolve
from ebbrin.core.records import leaves, value_at
from ebbrin.ground.paths import parts_of
from oracles.builds import edited, part, plain_build, to_core
from oracles.fields import NUMBERS, nudged, relevant_to

UNITS = {
    "_l_per_min": si.liter / si.minute,
    "_kg_per_h": 1.0 / si.hour,
    "_kj_per_k": si.kilo,
    "_km_h": si.kmh,
    "_kpa": si.kilo,
    "_rpm": 1.0 / si.minute,
    "_deg": si.degree,
    "_kw": si.kilo,
    "_mm": si.milli,
    "_l": si.liter,
}
"""What a field's name ends in, longest first, over its SI unit; a name that ends in none is in SI as it stands."""
SPACE = ("/vehicle/space_width_mm", "/vehicle/space_height_mm", "/vehicle/space_depth_mm")
"""What only a search for a core asks."""
TAKES_ALONG: dict[str, tuple[str, ...]] = {
    # What is not known is taken from what is: pump and metal from the engine, fan curve from its diameter, and so on.
    "/engine/displacement_l": ("engine.heat_capacity", "coolant_volume"),
    "/engine/rated_power_kw": ("circuit.pump.run_out",),
    "/radiator/fin_height_mm": ("core.louvre_length",),
    "/air/condenser_heat_kw": ("ahead.compressor_power", "ahead.condenser_follows"),
    "/air/compressor_kw": ("ahead.compressor_follows",),
    "/air/fan/slow_speed_share": ("air.fan.low_second",),
    "/air/fan/diameter_mm": ("air.fan.free_flow", "air.fan.pressure"),
    "/thermostat/opens_c": ("start",),
    "/thermostat/span_k": ("start",),
    "/fan_switch/on_c": ("fan_switch.full_on",),
    "/fan_switch/off_c": ("fan_switch.full_off",),
}
"""What else moves in the core, because it was left unknown and is taken from this."""


def in_si(path: str, value: float) -> float:
    """A field's value in SI by what its name ends in."""
    if path.endswith("_c"):
        return float(si.convert_temperature(value, "Celsius", "Kelvin"))
    return value * next((factor for end, factor in UNITS.items() if path.endswith(end)), 1.0)


def resistance(litres_per_minute: float) -> Callable[[float], float]:
    """Pressure over flow squared [Pa s²/m⁶] of a drop [kPa] that is stated at a flow."""
    return lambda drop: drop * si.kilo / (litres_per_minute * si.liter / si.minute) ** 2


MADE: dict[str, tuple[str, Callable[[float], float]]] = {
    "/engine/gearbox_efficiency": ("engine.gearbox_loss", lambda x: 1.0 - x),
    "/coolant/residual_water_share": ("coolant.mass_fraction", lambda x: 1.0 - x),
    "/circuit/jacket_drop_kpa": ("circuit.jacket_resistance", resistance(100.0)),
    "/thermostat/drop_kpa": ("circuit.thermostat_resistance", resistance(100.0)),
    "/circuit/bypass_drop_kpa": ("circuit.bypass.conductance", lambda x: resistance(100.0)(x) ** -0.5),
    "/circuit/heater_drop_kpa": ("circuit.heater.conductance", lambda x: resistance(10.0)(x) ** -0.5),
    "/air/fan/voltage_v": ("air.fan.voltage_ratio", lambda x: x / 13.5),
    "/air/fan/test_voltage_v": ("air.fan.voltage_ratio", lambda x: 12.5 / x),
}
"""What arrives as something else: where, and how."""
TOGETHER = {
    # Densities of the pure liquids at 20 °C that a mix is weighed by: within 2 % of the literature's, from memory.
    "/coolant/glycol_vol_share": ("coolant.mass_fraction", 1.0),
    # Heat that a stated flow carries off by a stated rise: both count alike.
    "/engine/measured_flow_l_per_min": ("engine.measured_heat", 1.0),
    "/engine/measured_rise_k": ("engine.measured_heat", 1.0),
    # A core that was tested: more heat, from less air, less water or a smaller difference, is a better one.
    "/radiator/test_heat_kw": ("core.UA_factor", 1.0),
    "/radiator/test_air_m_per_s": ("core.UA_factor", -1.0),
    "/radiator/test_coolant_l_per_min": ("core.UA_factor", -1.0),
    "/radiator/test_difference_k": ("core.UA_factor", -1.0),
    "/radiator/test_air_c": ("core.UA_factor", None),
}
"""What goes into a number with others: where, and which way it goes."""
GEARED = ("/vehicle/rolling_radius_mm", "/overall_ratio")
BY_ITSELF = [(path, info) for path, info in NUMBERS if path not in (*SPACE, *MADE, *TOGETHER, *GEARED)]


def as_asked(path: str, info: Any) -> tuple[Build, Build, float]:
    """A build in which a field matters, the same with it a little further on, and where it then stands."""
    build = relevant_to(path)
    is_case = path.count("/") == 1
    resolved = resolve(build, build.variants[0].id)
    value: Any = resolved.cases[0] if is_case else resolved.variant
    for name in parts_of(path):
        value = getattr(value, name)
    after = nudged(info, float(value))
    where = ("cases__0" if is_case else "variants__0") + path.replace("/", "__")
    return build, edited(build, **{where: after}), after


def moved(before: Build, after: Build) -> dict[str, Any]:
    """What differs in the core, by its name there."""
    found = {}
    for one, other in zip(to_core(before), to_core(after), strict=True):
        names = named(one)
        for name, (old, _), (new, _) in zip(names, leaves(one), leaves(other), strict=True):
            if not np.array_equal(old, new):
                found[name] = new
    return found


def named(record: Any, ahead: str = "") -> list[str]:
    """The dotted names of a record's leaves, in the order of ``leaves``."""
    if not hasattr(record, "__dataclass_fields__"):
        return [ahead]
    return [
        leaf
        for name in record.__dataclass_fields__
        for leaf in named(getattr(record, name), f"{ahead}.{name}" if ahead else name)
    ]


@pytest.mark.parametrize(("path", "info"), BY_ITSELF, ids=[path for path, _ in BY_ITSELF])
def test_a_number_arrives_in_si_and_moves_nothing_that_is_known(path: str, info: Any) -> None:
    before, after, value = as_asked(path, info)
    found = moved(before, after)
    arrived = [
        name for name, new in found.items() if np.allclose(new, in_si(path, value), rtol=1e-12, atol=0.0)
    ]
    assert arrived, found
    assert set(found) == {*arrived, *TAKES_ALONG.get(path, ())}


@pytest.mark.parametrize("path", MADE)
def test_what_arrives_as_something_else_does_so_by_its_definition(path: str) -> None:
    before, after, value = as_asked(path, dict(NUMBERS)[path])
    where, how = MADE[path]
    assert list(moved(before, after)) == [where]
    assert float(value_at(to_core(after)[0], where)) == pytest.approx(how(value), rel=1e-12)


@pytest.mark.parametrize("path", TOGETHER)
def test_what_goes_in_with_others_moves_that_alone_the_right_way(path: str) -> None:
    before, after, _ = as_asked(path, dict(NUMBERS)[path])
    where, way = TOGETHER[path]
    assert list(moved(before, after)) == [where]
    gained = float(value_at(to_core(after)[0], where)) - float(value_at(to_core(before)[0], where))
    assert gained != 0.0
    if way is not None:
        assert np.sign(gained) == way


@pytest.mark.parametrize("path", SPACE)
def test_room_for_a_core_is_none_of_the_systems_business(path: str) -> None:
    before, after, _ = as_asked(path, dict(NUMBERS)[path])
    assert moved(before, after) == {}


def test_gearing_turns_the_engine_by_road_speed_ratio_and_wheel() -> None:
    # One turn of the wheel takes the car 2 pi r on: 70 km/h on a wheel of 310 mm at 8 to 1.
    build = relevant_to("/overall_ratio")
    radius = resolve(build, "v").variant.vehicle.rolling_radius_mm
    assert radius is not None
    wheel = 70.0 * si.kmh / (2.0 * si.pi * radius * si.milli)  # rev/s
    assert to_core(build)[1].crank_speed[0] == pytest.approx(8.0 * wheel, rel=1e-9)
    for path in GEARED:
        assert list(moved(*as_asked(path, dict(NUMBERS)[path])[:2])) == ["crank_speed"]


def test_half_of_glycol_by_volume_is_weighed_by_its_density() -> None:
    # Ethylene glycol 1.113 kg/L, water 0.998 kg/L at 20 °C (handbook values, from memory).
    build = part(plain_build(), coolant__kind="ethylene_glycol", coolant__glycol_vol_share=0.5)
    found = float(to_core(build)[0].coolant.mass_fraction)
    assert found == pytest.approx(1.113 / (1.113 + 0.998), abs=0.004)


def test_cases_come_in_the_order_they_are_written_each_with_its_own() -> None:
    build = plain_build()
    more = [
        build.cases[0].model_copy(
            update={"id": f"c{n}", "name": f"c{n}", "ambient_c": 20.0 + n, "speed_km_h": 10.0 * n}
        )
        for n in range(5)
    ]
    cases = to_core(build.model_copy(update={"cases": more}))[1]
    assert cases.lead == (5,)
    assert cases.ambient == pytest.approx([293.15 + n for n in range(5)])
    assert cases.speed == pytest.approx([10.0 * n * si.kmh for n in range(5)])
    assert np.isinf(cases.duration).all()


@pytest.mark.parametrize(
    ("variant", "case", "name", "there"),
    [
        ({}, {"air_conditioning": True}, "air_conditioning", False),
        ({"air__condenser": True}, {"air_conditioning": True}, "air_conditioning", True),
        ({"circuit__heater": False}, {"heater": True}, "heater", False),
        ({"circuit__heater": True}, {"heater": True}, "heater", True),
        ({}, {"tows": True}, "towing", False),
        ({}, {"tows": True, "load": "road"}, "towing", True),
    ],
)
def test_what_a_case_asks_for_and_the_car_has_not_is_not_on(
    variant: dict[str, Any], case: dict[str, Any], name: str, there: bool
) -> None:
    build = part(plain_build(**case), **variant)
    assert bool(getattr(to_core(build)[1], name)[0]) is there


@pytest.mark.parametrize(
    ("variant", "where"),
    [
        ({"engine__oil_cooler": False, "engine__oil_cooler_share": 0.1}, "engine.oil_cooler"),
        ({"engine__egr_cooler": True, "engine__egr_cooler_share": 0.1}, "engine.egr_cooler"),
        ({"engine__gearbox_cooler": False, "engine__gearbox_efficiency": 0.8}, "engine.gearbox_loss"),
        ({"air__condenser": False, "air__condenser_heat_kw": 9}, "ahead.condenser_heat"),
        ({"air__charge_cooler": False, "air__charge_cooler_share": 0.2}, "ahead.charge_cooler"),
        ({"circuit__pump_drive": "belt", "circuit__electric_pump_w": 300}, "circuit.pump.electric_power"),
        ({"circuit__bypass": "none", "circuit__bypass_drop_kpa": 10}, "circuit.bypass.conductance"),
        ({"circuit__heater": False, "circuit__heater_drop_kpa": 10}, "circuit.heater.conductance"),
    ],
)
def test_what_is_written_of_a_part_that_is_not_there_counts_for_nothing(
    variant: dict[str, Any], where: str
) -> None:
    # A recirculation cooler is a diesel's: the plain build runs on petrol.
    assert float(value_at(to_core(part(plain_build(), **variant))[0], where)) == 0.0


def test_a_resolved_variant_makes_the_same_system_every_time() -> None:
    resolved: Resolved = resolve(plain_build(), "v")
    case: Case = resolved.cases[0]
    assert case.ambient_c == 30
    for make in (system_from, cases_from):
        one, other = make(resolved), make(resolved)
        assert all(np.array_equal(a, b) for (a, _), (b, _) in zip(leaves(one), leaves(other), strict=True))
