"""Heat that an engine sends into its coolant, by each of four schools, with the band of each."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray, IntArray
from ebbrin.core.compiled import Numbers, both
from ebbrin.core.engine.fuel import RATED_DENSITY, FuelLaw, fuel_at, fuel_law, fuel_power, lost_at
from ebbrin.core.media.coolants import Coolant, properties

ENERGY_BALANCE, THIRDS, SHARE_OF_POWER, MEASURED = 0, 1, 2, 3

# By engine kind. Coolant share of fuel energy at rated power, median and 5 to 95 %
# range of one engine of a known kind: choices inside heywood-1988, table 12.1 (from memory), whose whole band, the
# published spread over all engines, is shown beside them.
COOLANT_SHARE = np.array([0.20, 0.19, 0.20, 0.25, 0.27])
COOLANT_SHARE_LOW = np.array([0.165, 0.155, 0.165, 0.20, 0.22])
COOLANT_SHARE_HIGH = np.array([0.235, 0.225, 0.235, 0.30, 0.32])
PUBLISHED_LOW = np.array([0.17, 0.17, 0.16, 0.17, 0.16])
PUBLISHED_HIGH = np.array([0.26, 0.26, 0.35, 0.26, 0.35])
SHARE_OF_BRAKE_POWER = np.array([0.65, 0.55, 0.55, 0.90, 0.55])  # common practice; it knows one diesel only
PART_LOAD_EXPONENT = 0.85  # choice: gas-side heat transfer follows charge flow to 0.75-0.9
MOST_OF_FUEL = 0.45  # choice
TURBO_HOUSING_SHARE = 0.01  # choice: of brake power, for a water-cooled turbo housing
ALTERNATOR_EFFICIENCY = 0.55  # common practice
RULE_BAND = 0.25  # choice: how far the thirds rule and the share of power are off, either way
MEASURED_BAND = 0.10  # choice: flow meter and thermometers together, either way
MEASURED_AT = 363.15  # K; density and heat capacity move little about it


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
        return fuel_law(self)

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
    fuel = fuel_at(fuel_law, brake, speed, lost_at(fuel_law, brake, speed, density))
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
