"""Heat that an engine sends into its coolant, by each of four schools, with the band of each."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray, IntArray
from ebbrin.core.compiled import Numbers, both
from ebbrin.core.media.coolants import Coolant, properties

PETROL_NA, PETROL_BOOSTED, DIESEL, SIDE_VALVE, PRECHAMBER_DIESEL = 0, 1, 2, 3, 4
ENERGY_BALANCE, THIRDS, SHARE_OF_POWER, MEASURED = 0, 1, 2, 3
PETROL, DIESEL_FUEL, E85 = 0, 1, 2

# By engine kind. Indicated efficiency: choice. Coolant share of fuel energy at rated power, median and 5 to 95 %
# range of one engine of a known kind: choices inside heywood-1988, table 12.1 (from memory), whose whole band, the
# published spread over all engines, is shown beside them.
INDICATED_EFFICIENCY = np.array([0.37, 0.35, 0.45, 0.30, 0.40])
COOLANT_SHARE = np.array([0.20, 0.19, 0.20, 0.25, 0.27])
COOLANT_SHARE_LOW = np.array([0.165, 0.155, 0.165, 0.20, 0.22])
COOLANT_SHARE_HIGH = np.array([0.235, 0.225, 0.235, 0.30, 0.32])
PUBLISHED_LOW = np.array([0.17, 0.17, 0.16, 0.17, 0.16])
PUBLISHED_HIGH = np.array([0.26, 0.26, 0.35, 0.26, 0.35])
SHARE_OF_BRAKE_POWER = np.array([0.65, 0.55, 0.55, 0.90, 0.55])  # common practice; it knows one diesel only
BOOSTED = np.array([False, True, True, False, False])
DIESELS = np.array([False, False, True, False, True])

HEATING_VALUE = np.array([43.5e6, 42.8e6, 29.2e6])  # J/kg, by fuel; heywood-1988, app. D (from memory)

PART_LOAD_EXPONENT = 0.85  # choice: gas-side heat transfer follows charge flow to 0.75-0.9
MOST_OF_FUEL = 0.45  # choice
TURBO_HOUSING_SHARE = 0.01  # choice: of brake power, for a water-cooled turbo housing
ALTERNATOR_EFFICIENCY = 0.55  # common practice
RULE_BAND = 0.25  # choice: how far the thirds rule and the share of power are off, either way
MEASURED_BAND = 0.10  # choice: flow meter and thermometers together, either way
MEASURED_AT = 363.15  # K; density and heat capacity move little about it
TORQUE_RISE = 1.15  # choice: best torque over the torque at rated power
RATED_DENSITY = 1.157  # kg/m³, of the air at which engines are rated (25 °C, 99 kPa): common practice
PART_LOAD_LOSS = (
    0.6e5  # choice: mean pressure that throttling, or poor burning at idle, costs without load, Pa
)
BEST_EFFICIENCY = 0.55  # choice: no piston engine turns more of its fuel into work


@dataclass(frozen=True)
class Engine:
    """An engine as far as its heat is concerned, (...) arrays.

    kind, school, fuel : int arrays (PETROL_NA ..., ENERGY_BALANCE ..., PETROL ...).
    displacement [m³], rated_power [W], rated_speed [rev/s], stroke [m], tune_factor [-] 1 to 1.25,
    heat_factor [-] on the heat from combustion by whichever school, 1 unless its band is sampled,
    part_load_loss [Pa] mean pressure lost without load, PART_LOAD_LOSS unless it is sampled,
    cooled_turbo [0 or 1], oil_cooler [-] share of brake power that an oil-to-coolant cooler adds, egr_cooler
    [-] share of fuel energy that an EGR cooler adds, gearbox_loss [-] share of brake power that a gearbox
    cooler in the radiator tank takes over (each 0 without one), electrical_load [W] without the fan,
    heat_capacity [J/K] of the metal that warms with the coolant.
    measured_heat [W] into the coolant and measured_fuel [kg/s], each 0 if not measured, at
    measured_power [W] and measured_speed [rev/s].
    """

    kind: IntArray
    school: IntArray
    fuel: IntArray
    displacement: FloatArray
    rated_power: FloatArray
    rated_speed: FloatArray
    stroke: FloatArray
    tune_factor: FloatArray
    heat_factor: FloatArray
    part_load_loss: FloatArray
    cooled_turbo: FloatArray
    oil_cooler: FloatArray
    egr_cooler: FloatArray
    gearbox_loss: FloatArray
    electrical_load: FloatArray
    heat_capacity: FloatArray
    measured_heat: FloatArray
    measured_fuel: FloatArray
    measured_power: FloatArray
    measured_speed: FloatArray

    @cached_property
    def fuel_law(self) -> FuelLaw:
        """How its fuel follows power and speed."""
        return _fuel_law(self)

    @cached_property
    def heat_law(self) -> HeatLaw:
        """How its heat follows its fuel, by its school."""
        return _heat_law(self)


@dataclass(frozen=True)
class Heat:
    """Heat per second [W]: into the coolant in the engine, and the gearbox's share, which enters at the
    radiator's cold tank; brake and fuel power [W] behind it."""

    engine: FloatArray
    gearbox: FloatArray
    brake_power: FloatArray
    fuel_power: FloatArray

    @property
    def total(self) -> FloatArray:
        """What radiator and heater must shed [W]."""
        return self.engine + self.gearbox


@dataclass(frozen=True)
class Schools:
    """What each school says of one demand: (4, ...) heat into the coolant in the engine [W] and the band
    of each, in the order of the school numbers; the energy balance with the least and the greatest share that is
    published for petrol engines or for diesels [W]; and the additions that all share, each on its own line
    [W]. A school that was not measured repeats the energy balance."""

    heat: FloatArray
    low: FloatArray
    high: FloatArray
    published_low: FloatArray
    published_high: FloatArray
    turbo: FloatArray
    oil: FloatArray
    egr: FloatArray


class FuelLaw(NamedTuple):
    """The constants of an engine's fuel, arrays (...), numbers in compiled code: friction mean effective pressure as a
    polynomial of the crank speed [Pa, Pa s, Pa s²], volume swept each turn [m³], indicated efficiency [-], a measured
    engine's fuel over the law's [-]; mean pressure lost without load [Pa]; power wide open at rated speed [W], which
    goes straight with the crank speed, and no more than the rated power [W]; 1 where it is thinned by thin air [-]."""

    friction: FloatArray
    rubbing: FloatArray
    churning: FloatArray
    swept: FloatArray
    efficiency: FloatArray
    measured: FloatArray
    lost: FloatArray
    rising_power: FloatArray
    rated_power: FloatArray
    breathes: FloatArray


class HeatLaw(NamedTuple):
    """The constants of an engine's heat, arrays (...), numbers in compiled code: heat and fuel at rated power [W], factor
    on what comes from combustion [-]; heat of turbo housing and oil cooler for brake power, of an EGR cooler for fuel
    power, of a gearbox cooler for power on the road [-]; electrical load without the fan [W]."""

    rated_heat: FloatArray
    rated_fuel: FloatArray
    factor: FloatArray
    by_brake: FloatArray
    by_fuel: FloatArray
    gearbox: FloatArray
    electrical_load: FloatArray


def _friction_law(kind: ArrayLike, stroke: ArrayLike) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Friction mean effective pressure as a polynomial of the crank speed [rev/s], as ``friction_pressure``."""
    diesel, n = DIESELS[np.asarray(kind)], 60.0 / 1000.0
    return (
        np.where(diesel, 75e3, 0.97e5),
        np.where(diesel, 48e3 * n, 0.15e5 * n),
        np.where(diesel, 0.4e3 * (2.0 * np.asarray(stroke)) ** 2, 0.05e5 * n**2),
    )


def friction_pressure(kind: ArrayLike, speed: ArrayLike, stroke: ArrayLike) -> FloatArray:
    """Friction mean effective pressure [Pa], motored, water pump included; broadcasts.

    Parameters
    ----------
    kind : (...) int array.
    speed : (...) float array, crank speed [rev/s].
    stroke : (...) float array, [m]; matters for diesels only.

    References
    ----------
    barnes-moss-1975 (petrol), millington-hartles-1968 (diesel, from memory), both in heywood-1988 ch. 13.
    """
    still, rubbing, churning = _friction_law(kind, stroke)
    N = np.asarray(speed)
    return np.asarray(still + rubbing * N + churning * N * N)


@both
def power_wide_open(law: Numbers, speed: Numbers, density: Numbers) -> Numbers:
    """As ``full_power``, by a ``FuelLaw``, in compiled code too."""
    share = np.minimum(law.rising_power * speed, law.rated_power)
    return share * (1.0 + law.breathes * (density / RATED_DENSITY - 1.0))


def full_power(engine: Engine, speed: ArrayLike, density: ArrayLike) -> FloatArray:
    """Brake power [W] that the engine gives wide open at crank ``speed`` [rev/s] in air of ``density`` [kg/m³].

    A guess at the torque curve: up to TORQUE_RISE times the torque at rated power below rated speed, no
    more than the rated power. Unboosted engines follow the air's density (choice, common practice).
    """
    return np.asarray(power_wide_open(engine.fuel_law, np.asarray(speed), np.asarray(density)))


@both
def _lost_at(law: Numbers, brake_power: Numbers, speed: Numbers, density: Numbers) -> Numbers:
    """Mean pressure lost by throttling, or by poor burning in a diesel [Pa]: less with load, none wide open."""
    load = brake_power / power_wide_open(law, speed, density)
    return law.lost * (1.0 - np.minimum(np.maximum(load, 0.0), 1.0))


@both
def _fuel_at(law: Numbers, brake_power: Numbers, speed: Numbers, lost: Numbers) -> Numbers:
    """Fuel power [W] at a brake power [W] and crank speed [rev/s] with a mean pressure ``lost`` by throttling [Pa]."""
    pressure = law.friction + (law.rubbing + law.churning * speed) * speed + lost
    return (brake_power + pressure * law.swept * speed) / law.efficiency * law.measured


def _fuel_law(engine: Engine) -> FuelLaw:
    still, rubbing, churning = _friction_law(engine.kind, engine.stroke)
    law = FuelLaw(
        still,
        rubbing,
        churning,
        engine.displacement / 2.0,
        INDICATED_EFFICIENCY[engine.kind],
        np.asarray(1.0),
        engine.part_load_loss,
        engine.rated_power * TORQUE_RISE / engine.rated_speed,
        engine.rated_power,
        np.where(BOOSTED[engine.kind], 0.0, 1.0),
    )
    if not np.any(engine.measured_fuel > 0.0):
        return law
    measured = engine.measured_fuel * HEATING_VALUE[engine.fuel]
    power, speed = engine.measured_power, engine.measured_speed
    expected = _fuel_at(law, power, speed, _lost_at(law, power, speed, RATED_DENSITY))
    return law._replace(measured=np.where(measured > 0.0, measured / expected, 1.0))


def fuel_power(
    engine: Engine, brake_power: ArrayLike, speed: ArrayLike, density: ArrayLike | None
) -> FloatArray:
    """Fuel energy per second [W] at ``brake_power`` [W] and crank ``speed`` [rev/s]; broadcasts.

    A measured fuel flow sets the indicated efficiency in place of the default of the engine's kind.

    Parameters
    ----------
    density : (...) float array, of the air that the engine breathes [kg/m³]; None for rated power, which is
        reached wide open.
    """
    law, brake, N = engine.fuel_law, np.asarray(brake_power), np.asarray(speed)
    lost = 0.0 if density is None else _lost_at(law, brake, N, np.asarray(density))
    return np.asarray(_fuel_at(law, brake, N, lost))


def fuel_mass_flow(engine: Engine, fuel: ArrayLike) -> FloatArray:
    """Fuel flow [kg/s] for a fuel energy per second [W]; broadcasts."""
    return np.asarray(fuel / HEATING_VALUE[engine.fuel])


def _at_part_load(engine: Engine, rated_heat: ArrayLike, fuel: FloatArray) -> FloatArray:
    """Coolant heat [W] at a fuel power [W], from what it is at rated power [W] by any school."""
    rated = fuel_power(engine, engine.rated_power, engine.rated_speed, None)
    return np.minimum(np.asarray(rated_heat) * (fuel / rated) ** PART_LOAD_EXPONENT, MOST_OF_FUEL * fuel)


def _balance(engine: Engine, fuel: FloatArray, share: FloatArray) -> FloatArray:
    """Coolant heat [W] for a share of fuel energy at rated power, with the part-load law."""
    rated = fuel_power(engine, engine.rated_power, engine.rated_speed, None)
    return _at_part_load(engine, share[engine.kind] * rated, fuel)


def _measured_ratio(engine: Engine) -> FloatArray:
    """Measured heat over the energy balance at the measured point [-], 1 if nothing was measured. The
    measured heat holds whatever the tune and the additions do, so both are taken off it."""
    power, speed = engine.measured_power, engine.measured_speed
    fuel = fuel_power(engine, power, speed, RATED_DENSITY)
    extra = _additions(engine, power, fuel)
    wanted = (engine.measured_heat - sum(extra)) / (
        engine.tune_factor * _balance(engine, fuel, COOLANT_SHARE)
    )
    return np.where(engine.measured_heat > 0.0, np.maximum(wanted, 0.05), 1.0)


def _additions(engine: Engine, brake: ArrayLike, fuel: ArrayLike) -> tuple[FloatArray, ...]:
    """Heat of turbo housing, oil cooler and EGR cooler [W]."""
    return (
        np.asarray(TURBO_HOUSING_SHARE * engine.cooled_turbo * brake),
        np.asarray(engine.oil_cooler * brake),
        np.asarray(engine.egr_cooler * fuel),
    )


def carried_heat(coolant: Coolant, volume_flow: ArrayLike, rise: ArrayLike) -> FloatArray:
    """Heat [W] that a measured ``volume_flow`` [m³/s] carries off at a measured ``rise`` [K], taken at
    MEASURED_AT, near which engines run; broadcasts."""
    fluid = properties(coolant, MEASURED_AT)
    return np.asarray(volume_flow * fluid.density * fluid.heat_capacity * rise)


def demanded_power(
    engine: Engine, road_power: ArrayLike, shaft_load: ArrayLike, electrical_load: ArrayLike
) -> FloatArray:
    """Brake power [W] for motion and shafts with the alternator's share; broadcasts."""
    return np.asarray(
        _demanded(engine, np.asarray(road_power), np.asarray(shaft_load), np.asarray(electrical_load))
    )


@both
def _demanded(law: Numbers, road_power: Numbers, shaft_load: Numbers, electrical_load: Numbers) -> Numbers:
    """As ``demanded_power``, by a record that knows its ``electrical_load``, in compiled code too."""
    return road_power + shaft_load + (law.electrical_load + electrical_load) / ALTERNATOR_EFFICIENCY


def schools(
    engine: Engine, brake_power: ArrayLike, speed: ArrayLike, density: ArrayLike | None = None
) -> Schools:
    """All four schools with their bands for one brake power [W] and crank ``speed`` [rev/s] in air of ``density``
    [kg/m³], None wide open; broadcasts.

    References
    ----------
    heywood-1988, ch. 12 and 13. The thirds rule and the share of power are common practice, said of rated
    power; their bands, the additions and the part-load law are choices.
    """
    brake = np.asarray(brake_power)
    fuel = fuel_power(engine, brake, speed, density)
    turbo, oil, egr = _additions(engine, brake, fuel)
    shared = turbo + oil + egr
    tune = engine.tune_factor * engine.heat_factor
    middle, least, most, published_low, published_high = (
        tune * _balance(engine, fuel, share)
        for share in (
            COOLANT_SHARE,
            COOLANT_SHARE_LOW,
            COOLANT_SHARE_HIGH,
            np.minimum(PUBLISHED_LOW, COOLANT_SHARE_LOW),
            np.maximum(PUBLISHED_HIGH, COOLANT_SHARE_HIGH),
        )
    )
    thirds = tune * _at_part_load(engine, engine.rated_power, fuel)
    share = tune * _at_part_load(engine, SHARE_OF_BRAKE_POWER[engine.kind] * engine.rated_power, fuel)
    measured = middle * _measured_ratio(engine)
    low, high = 1.0 - RULE_BAND, 1.0 + RULE_BAND
    known = engine.measured_heat > 0.0
    rows = (
        (middle, thirds, share, measured),
        (least, low * thirds, low * share, np.where(known, (1.0 - MEASURED_BAND) * measured, least)),
        (most, high * thirds, high * share, np.where(known, (1.0 + MEASURED_BAND) * measured, most)),
    )
    heat, lowest, highest = (np.stack(np.broadcast_arrays(*row)) + shared for row in rows)
    return Schools(heat, lowest, highest, published_low + shared, published_high + shared, turbo, oil, egr)


def _heat_law(engine: Engine) -> HeatLaw:
    rated_fuel = fuel_power(engine, engine.rated_power, engine.rated_speed, None)
    school, factor = engine.school, engine.tune_factor * engine.heat_factor
    rule = np.where(school == THIRDS, 1.0, SHARE_OF_BRAKE_POWER[engine.kind]) * engine.rated_power
    by_rule = (school == THIRDS) | (school == SHARE_OF_POWER)
    if np.any(school == MEASURED):
        factor = factor * np.where(school == MEASURED, _measured_ratio(engine), 1.0)
    return HeatLaw(
        np.where(by_rule, rule, COOLANT_SHARE[engine.kind] * rated_fuel),
        rated_fuel,
        factor,
        TURBO_HOUSING_SHARE * engine.cooled_turbo + engine.oil_cooler,
        engine.egr_cooler,
        engine.gearbox_loss,
        engine.electrical_load,
    )


@both
def sent(
    fuel_law: Numbers,
    law: Numbers,
    road_power: Numbers,
    speed: Numbers,
    density: Numbers,
    shaft_load: Numbers,
    electrical_load: Numbers,
) -> tuple[Numbers, Numbers, Numbers, Numbers]:
    """The fields of ``Heat`` [W] for a demand, by an engine's laws; as ``heat_rejection``, in compiled code too."""
    brake = _demanded(law, road_power, shaft_load, electrical_load)
    fuel = _fuel_at(fuel_law, brake, speed, _lost_at(fuel_law, brake, speed, density))
    burnt = np.minimum(law.rated_heat * (fuel / law.rated_fuel) ** PART_LOAD_EXPONENT, MOST_OF_FUEL * fuel)
    engine = law.factor * burnt + law.by_brake * brake + law.by_fuel * fuel
    return engine, law.gearbox * road_power, brake, fuel


def heat_rejection(
    engine: Engine,
    road_power: ArrayLike,
    speed: ArrayLike,
    density: ArrayLike,
    shaft_load: ArrayLike,
    electrical_load: ArrayLike,
) -> Heat:
    """Heat to the coolant for a demand, by each engine's chosen school; broadcasts.

    Parameters
    ----------
    road_power : (...) float array, brake power for the motion alone [W], 0 or more; the gearbox carries it.
    speed : (...) float array, crank speed [rev/s].
    density : (...) float array, of the air around [kg/m³].
    shaft_load : (...) float array, compressor, mechanical fan, power take-off [W].
    electrical_load : (...) float array, fan and pump, on top of the engine's own [W].

    References
    ----------
    heywood-1988, ch. 12 and 13. The additions and the part-load law are choices.
    """
    found = sent(
        engine.fuel_law,
        engine.heat_law,
        np.asarray(road_power),
        np.asarray(speed),
        np.asarray(density),
        np.asarray(shaft_load),
        np.asarray(electrical_load),
    )
    return Heat(*(np.asarray(value) for value in found))
