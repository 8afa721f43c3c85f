"""Heat that an engine sends into its coolant, by energy balance and by the thirds school."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray, IntArray

PETROL_NA, PETROL_BOOSTED, DIESEL = 0, 1, 2
ENERGY_BALANCE, THIRDS = 0, 1

# By engine kind. Indicated efficiency: choice. Coolant share of fuel energy at rated power and its
# band: heywood-1988, table 12.1 (from memory).
INDICATED_EFFICIENCY = np.array([0.37, 0.35, 0.45])
COOLANT_SHARE = np.array([0.20, 0.19, 0.18])
COOLANT_SHARE_LOW = np.array([0.17, 0.17, 0.16])
COOLANT_SHARE_HIGH = np.array([0.26, 0.26, 0.35])

PART_LOAD_EXPONENT = 0.85  # choice: gas-side heat transfer follows charge flow to 0.75-0.9
MOST_OF_FUEL = 0.45  # choice
TURBO_HOUSING_SHARE = 0.01  # choice: of brake power, for a water-cooled turbo housing
ALTERNATOR_EFFICIENCY = 0.55  # common practice


@dataclass(frozen=True)
class Engine:
    """An engine as far as its heat is concerned.

    kind, school : (...) int arrays (PETROL_NA ..., ENERGY_BALANCE or THIRDS)
    displacement [m³], rated_power [W], rated_speed [rev/s], stroke [m], tune_factor [-] 1 to 1.25,
    cooled_turbo [0 or 1], gearbox_loss [-] share of brake power that a gearbox cooler in the radiator
    tank takes over (0 without one), electrical_load [W] without the fan, heat_capacity [J/K] of the
    metal that warms with the coolant.
    """

    kind: IntArray
    school: IntArray
    displacement: FloatArray
    rated_power: FloatArray
    rated_speed: FloatArray
    stroke: FloatArray
    tune_factor: FloatArray
    cooled_turbo: FloatArray
    gearbox_loss: FloatArray
    electrical_load: FloatArray
    heat_capacity: FloatArray


@dataclass(frozen=True)
class Heat:
    """Heat per second [W]: into the coolant in the engine, its band, both schools, and the gearbox's
    share, which enters at the radiator's cold tank."""

    engine: FloatArray
    gearbox: FloatArray
    low: FloatArray
    high: FloatArray
    energy_balance: FloatArray
    thirds: FloatArray
    brake_power: FloatArray

    @property
    def total(self) -> FloatArray:
        """What the radiator must shed [W]."""
        return self.engine + self.gearbox


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
    n = np.asarray(speed) * 60.0 / 1000.0
    petrol = 1.0e5 * (0.97 + 0.15 * n + 0.05 * n**2)
    piston_speed = 2.0 * np.asarray(stroke) * np.asarray(speed)
    diesel = 1.0e3 * (75.0 + 48.0 * n + 0.4 * piston_speed**2)
    return np.where(np.asarray(kind) == DIESEL, diesel, petrol)


def fuel_power(engine: Engine, brake_power: ArrayLike, speed: ArrayLike) -> FloatArray:
    """Fuel energy per second [W] at ``brake_power`` [W] and crank ``speed`` [rev/s]; broadcasts."""
    friction = friction_pressure(engine.kind, speed, engine.stroke) * engine.displacement * speed / 2.0
    return np.asarray((brake_power + friction) / INDICATED_EFFICIENCY[engine.kind])


def _balance(engine: Engine, fuel: FloatArray, share: FloatArray) -> FloatArray:
    """Coolant heat [W] for a share of fuel energy at rated power, with the part-load law."""
    rated = fuel_power(engine, engine.rated_power, engine.rated_speed)
    return np.minimum(share[engine.kind] * rated * (fuel / rated) ** PART_LOAD_EXPONENT, MOST_OF_FUEL * fuel)


def heat_rejection(
    engine: Engine, road_power: ArrayLike, speed: ArrayLike, shaft_load: ArrayLike, electrical_load: ArrayLike
) -> Heat:
    """Heat to the coolant for a demand; broadcasts.

    Parameters
    ----------
    road_power : (...) float array, brake power for the motion alone [W], 0 or more.
    speed : (...) float array, crank speed [rev/s].
    shaft_load : (...) float array, compressor and mechanical fan [W].
    electrical_load : (...) float array, fan and pump, on top of the engine's own [W].

    References
    ----------
    heywood-1988, ch. 12 and 13. The additions and the part-load law are choices.
    """
    alternator = (engine.electrical_load + electrical_load) / ALTERNATOR_EFFICIENCY
    brake = np.asarray(road_power + np.asarray(shaft_load) + alternator)
    fuel = fuel_power(engine, brake, speed)
    extra = TURBO_HOUSING_SHARE * engine.cooled_turbo * brake
    middle, low, high = (
        engine.tune_factor * _balance(engine, fuel, share) + extra
        for share in (COOLANT_SHARE, COOLANT_SHARE_LOW, COOLANT_SHARE_HIGH)
    )
    thirds = engine.tune_factor * brake + extra
    chosen = np.where(engine.school == THIRDS, thirds, middle)
    gearbox = engine.gearbox_loss * np.asarray(road_power)
    return Heat(chosen, gearbox, low, high, middle, thirds, brake)
