"""What an engine can give, and the fuel that it burns for it."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from ebbrin.core.base import ArrayLike, FloatArray
from ebbrin.core.compiled import Numbers, both

if TYPE_CHECKING:
    from ebbrin.core.engine.heat import Engine

PETROL_NA, PETROL_BOOSTED, DIESEL, SIDE_VALVE, PRECHAMBER_DIESEL = 0, 1, 2, 3, 4
PETROL, DIESEL_FUEL, E85 = 0, 1, 2

# By engine kind.
INDICATED_EFFICIENCY = np.array([0.37, 0.35, 0.45, 0.30, 0.40])  # choice
BOOSTED = np.array([False, True, True, False, False])
DIESELS = np.array([False, False, True, False, True])

HEATING_VALUE = np.array([43.5e6, 42.8e6, 29.2e6])  # J/kg, by fuel; heywood-1988, app. D (from memory)

TORQUE_RISE = 1.15  # choice: best torque over the torque at rated power
RATED_DENSITY = 1.157  # kg/m³, of the air at which engines are rated (25 °C, 99 kPa): common practice
PART_LOAD_LOSS = (
    0.6e5  # choice: mean pressure that throttling, or poor burning at idle, costs without load, Pa
)
BEST_EFFICIENCY = 0.55  # choice: no piston engine turns more of its fuel into work


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
def lost_at(law: Numbers, brake_power: Numbers, speed: Numbers, density: Numbers) -> Numbers:
    """Mean pressure lost by throttling, or by poor burning in a diesel [Pa]: less with load, none wide open."""
    load = brake_power / power_wide_open(law, speed, density)
    return law.lost * (1.0 - np.minimum(np.maximum(load, 0.0), 1.0))


@both
def fuel_at(law: Numbers, brake_power: Numbers, speed: Numbers, lost: Numbers) -> Numbers:
    """Fuel power [W] at a brake power [W] and crank speed [rev/s] with a mean pressure ``lost`` by throttling [Pa]."""
    pressure = law.friction + (law.rubbing + law.churning * speed) * speed + lost
    return (brake_power + pressure * law.swept * speed) / law.efficiency * law.measured


def fuel_law(engine: Engine) -> FuelLaw:
    """The constants of an engine's fuel."""
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
    expected = fuel_at(law, power, speed, lost_at(law, power, speed, RATED_DENSITY))
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
    lost = 0.0 if density is None else lost_at(law, brake, N, np.asarray(density))
    return np.asarray(fuel_at(law, brake, N, lost))


def fuel_mass_flow(engine: Engine, fuel: ArrayLike) -> FloatArray:
    """Fuel flow [kg/s] for a fuel energy per second [W]; broadcasts."""
    return np.asarray(fuel / HEATING_VALUE[engine.fuel])
