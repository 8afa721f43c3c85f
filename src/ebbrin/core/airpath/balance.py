"""Where ram, fan and resistance meet: the flow of air through each zone of the core."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.airpath.fan import Fan, pressure_rise
from ebbrin.core.base import GRAVITY, BoolArray, FloatArray
from ebbrin.core.media import air
from ebbrin.core.media.coolants import TABLE_END
from ebbrin.core.radiator import air_side
from ebbrin.core.radiator.geometry import Core
from ebbrin.core.roots import root_among

FRONT_RECIRCULATION_END = 20.0 / 3.6  # choice: speed at which no warm air comes round the front, m/s
LEAST_VELOCITY, VELOCITY_TOLERANCE, NEAR = 1e-6, 1e-6, 0.03


@dataclass(frozen=True)
class AirPath:
    """Front end and shroud, (...) arrays.

    ram [-] net pressure coefficient; front_loss [-] grille and duct; condenser_loss [-] velocity heads
    of the condenser, 0 without one; recirculation_at_rest [-] share of the air that comes round the
    front; shrouded, bool; blade_recirculation [-] share that comes back around the blades.
    """

    ram: FloatArray
    front_loss: FloatArray
    condenser_loss: FloatArray
    recirculation_at_rest: FloatArray
    shrouded: BoolArray
    blade_recirculation: FloatArray
    fan: Fan


@dataclass(frozen=True)
class AirDemand:
    """What the air meets: ambient [K], pressure [Pa], road speed and headwind [m/s], the heat that it is
    to carry [W], heat from a condenser ahead [W], and the fan's speed ratio [-]."""

    ambient: FloatArray
    pressure: FloatArray
    speed: FloatArray
    headwind: FloatArray
    heat: FloatArray
    condenser_heat: FloatArray
    fan_ratio: FloatArray


@dataclass(frozen=True)
class Airflow:
    """Air through the core; the last axis of (..., 2) arrays is (under the fan, open).

    velocity [m/s] over the open face of a zone at ambient density; area [m²]; mass_flow [kg/s]
    (..., 2); ambient_density [kg/m³]; fresh [K] (..., 2) air ahead of the core but for what its own heat
    brings round the front; comes_round (..., 1) factor r/(1 - r) of that; mean [K] (..., 2) in the core.
    """

    velocity: FloatArray
    area: FloatArray
    mass_flow: FloatArray
    ambient_density: FloatArray
    fresh: FloatArray
    comes_round: FloatArray
    mean: FloatArray

    @property
    def volume_flow(self) -> FloatArray:
        """Through the whole core at ambient density [m³/s]."""
        return np.asarray((self.velocity * self.area).sum(-1))

    @property
    def total_mass_flow(self) -> FloatArray:
        """Through the whole core [kg/s]."""
        return np.asarray(self.mass_flow.sum(-1))


def front_recirculation(at_rest: FloatArray, speed: FloatArray) -> FloatArray:
    """Share of the air that has been through the core before [-]: linear to none at 20 km/h (choice)."""
    return np.asarray(at_rest * np.maximum(1.0 - speed / FRONT_RECIRCULATION_END, 0.0))


def zone_areas(path: AirPath, core: Core) -> FloatArray:
    """(..., 2) open face under the fan and beside it [m²]. A full shroud covers all of the face; a fan
    without one serves its disc, at most the whole face; without a fan all of it is open."""
    face, disc, shrouded = np.broadcast_arrays(core.open_face, path.fan.disc, path.shrouded)
    under = np.where(shrouded, face, np.minimum(disc * (1.0 - core.blocked_face), face))
    under = np.where(path.fan.fitted, under, 0.0)
    return np.stack([under, face - under], -1)


@dataclass(frozen=True)
class ZoneSplit:
    """Heat that warms each zone's air, (..., 2): ahead of the core (condenser) and in it [W], the factor
    r/(1 - r) of air that comes round the front [-], and ambient [K]."""

    ahead: FloatArray
    within: FloatArray
    comes_round: FloatArray
    ambient: FloatArray


def zone_split(path: AirPath, demand: AirDemand, share: FloatArray) -> ZoneSplit:
    """Heat by face share (..., 2) [-]."""
    r = front_recirculation(path.recirculation_at_rest, demand.speed)[..., None]
    ahead = demand.condenser_heat[..., None] * share
    return ZoneSplit(ahead, demand.heat[..., None] * share, r / (1.0 - r), demand.ambient[..., None])


def zone_temperatures(split: ZoneSplit, mass_flow: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Inlet and outlet air [K] of each zone, (..., 2), for its mass flow [kg/s].

    Air never leaves hotter than the end of the property tables: beyond it there is no steady state.
    """
    capacity = np.maximum(mass_flow, 1e-9) * air.HEAT_CAPACITY
    rise, ahead = split.within / capacity, split.ahead / capacity
    inlet = np.minimum(split.ambient + ahead + split.comes_round * (rise + ahead), TABLE_END)
    return inlet, np.minimum(inlet + rise, TABLE_END)


def core_pressure_drop(core: Core, flow: Airflow, pressure: FloatArray) -> FloatArray:
    """(..., 2) pressure that the core takes in each zone [Pa]."""
    G = flow.velocity * flow.ambient_density[..., None]
    density = air.density(flow.mean, pressure[..., None])
    resistance = air_side.core_resistance(core.with_trailing_axis())
    return air_side.pressure_drop(resistance, G, flow.mean, density)


def _fan_rise(
    path: AirPath, demand: AirDemand, mass_flow: FloatArray, inlet: FloatArray, outlet: FloatArray
) -> FloatArray:
    """Pressure rise of the fan in its zone [Pa]; a puller moves air of outlet density."""
    fan = path.fan
    density = air.density(np.where(fan.puller, outlet, inlet), demand.pressure)
    back = np.where(demand.fan_ratio > 1e-3, path.blade_recirculation, 0.0)
    return pressure_rise(fan, mass_flow / density / (1.0 - back), demand.fan_ratio, density)


def solve(path: AirPath, core: Core, demand: AirDemand, near: FloatArray | None = None) -> Airflow:
    """Air through each zone; all of ``demand`` broadcasts with the parts.

    ``near`` (..., 2) is a velocity [m/s] close to which the answer is looked for first.

    Each zone balances on its own between the same front and rear pressure, with no backflow:
    ram + buoyancy + fan = front + condenser + core.

    References
    ----------
    The balance and its coefficients are choices; its parts name their own sources.
    """
    areas = zone_areas(path, core)
    density = air.density(demand.ambient, demand.pressure)
    shape = np.broadcast_shapes(areas.shape[:-1], demand.heat.shape, density.shape, demand.fan_ratio.shape)
    areas = np.broadcast_to(areas, (*shape, 2))
    share = areas / core.open_face[..., None]
    rho = np.broadcast_to(density, shape)[..., None]
    resistance = air_side.core_resistance(core.with_trailing_axis())
    split = zone_split(path, demand, share)
    fitted = bool(np.any(path.fan.fitted))
    pressure = demand.pressure[..., None]
    wind = demand.speed + demand.headwind
    ram = (path.ram * 0.5 * density * wind * np.abs(wind))[..., None]
    ram = np.maximum(ram, 0.0)  # a tail wind does not push air back through the core
    losses = 0.5 * (path.front_loss + path.condenser_loss)[..., None]
    lift = GRAVITY * core.height[..., None]

    def excess(velocity: FloatArray) -> FloatArray:
        G = velocity * rho
        mass_flow = G * areas
        inlet, outlet = zone_temperatures(split, mass_flow)
        mean = 0.5 * (inlet + outlet)
        hot = air.density(outlet, pressure)
        drop = air_side.pressure_drop(resistance, G, mean, air.density(mean, pressure))
        out = ram + (rho - hot) * lift - losses * G * velocity - drop
        if fitted:
            out[..., 0] += _fan_rise(path, demand, mass_flow[..., 0], inlet[..., 0], outlet[..., 0])
        return np.asarray(out)

    most = ram + rho * lift + _strongest_fan(path, demand)[..., None]
    fastest = np.sqrt(most / (rho * losses)) + 0.01
    low, high = np.full((*shape, 2), LEAST_VELOCITY), np.broadcast_to(fastest, (*shape, 2))
    knots = [low, high]
    if near is not None:
        below, above = np.maximum(near * (1.0 - NEAR), low), np.minimum(near * (1.0 + NEAR) + low, high)
        knots = [low, below, above, high]
    velocity = root_among(excess, np.stack(np.broadcast_arrays(*knots)), VELOCITY_TOLERANCE).x
    return flow_at(path, core, demand, velocity)


def _strongest_fan(path: AirPath, demand: AirDemand) -> FloatArray:
    """A pressure that the fan cannot pass [Pa], for the bracket."""
    cold = air.density(np.minimum(demand.ambient, 200.0), demand.pressure)
    top = path.fan.pressure.max(-1) * demand.fan_ratio**2 * cold / path.fan.reference_density
    return np.asarray(np.where(path.fan.fitted, top, 0.0))


def flow_at(path: AirPath, core: Core, demand: AirDemand, velocity: FloatArray) -> Airflow:
    """The airflow record for given zone velocities (..., 2) [m/s]."""
    areas = np.broadcast_to(zone_areas(path, core), velocity.shape)
    density = np.broadcast_to(air.density(demand.ambient, demand.pressure), velocity.shape[:-1])
    mass_flow = velocity * density[..., None] * areas
    share = areas / core.open_face[..., None]
    split = zone_split(path, demand, share)
    inlet, outlet = zone_temperatures(split, mass_flow)
    ahead = split.ahead / (np.maximum(mass_flow, 1e-9) * air.HEAT_CAPACITY)
    fresh = np.minimum(split.ambient + ahead * (1.0 + split.comes_round), TABLE_END)
    round_again = np.broadcast_to(split.comes_round, (*velocity.shape[:-1], 1))
    return Airflow(velocity, areas, mass_flow, density, fresh, round_again, 0.5 * (inlet + outlet))
