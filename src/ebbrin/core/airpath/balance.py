"""Where ram, fan and resistance meet: the flow of air through each zone of the core."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ebbrin.core.airpath.fan import Fan, pressure_rise
from ebbrin.core.airpath.front_end import (
    HOTTEST_AIR,
    NO_SHROUD,
    AirDemand,
    AirPath,
    ram_pressure,
    zone_areas,
    zone_split,
    zone_temperatures,
)
from ebbrin.core.base import GRAVITY, FloatArray
from ebbrin.core.media import air
from ebbrin.core.radiator import air_side
from ebbrin.core.radiator.air_side import Surface
from ebbrin.core.radiator.geometry import Core
from ebbrin.core.roots import root_among, root_near

LEAST_VELOCITY, VELOCITY_TOLERANCE, NEAR, SLOW = 1e-6, 1e-7, 0.01, 0.04
PRESSURE_RESIDUAL = 2e-7  # in square roots of pascals


@dataclass(frozen=True)
class Airflow:
    """Air through the core; the last axis of (..., zones) arrays runs over fans, then the open face.

    velocity [m/s] over the open face of a zone at ambient density; area [m²]; mass_flow [kg/s]
    (..., zones); ambient_density [kg/m³]; fresh [K] (..., zones) air ahead of the core but for what its
    own heat brings round the front; comes_round (..., 1) factor r/(1 - r) of that; mean [K] (..., zones) in
    the core.
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


def core_pressure_drop(surface: Surface, flow: Airflow, pressure: FloatArray) -> FloatArray:
    """(..., zones) pressure that the core takes in each zone [Pa]; ``surface`` with a zone axis."""
    G = flow.velocity * flow.ambient_density[..., None]
    density = air.density(flow.mean, pressure[..., None])
    return air_side.pressure_drop(surface, G, flow.mean, density)


def fan_rise(
    path: AirPath, ratio: FloatArray, mass_flow: FloatArray, blade_density: FloatArray
) -> FloatArray:
    """Pressure rise of the fans in their zones (..., fan zones) [Pa].

    A standing fan passes all of the zone's air and, behind a shroud with open flaps, resists none of it.
    """
    fan: Fan = path.fan.zoned
    turning = ratio > 1e-3
    back = np.where(turning, path.blade_recirculation[..., None], 0.0)
    each = mass_flow / blade_density / np.maximum(path.fan.in_zone, 1.0) / (1.0 - back)
    rise = pressure_rise(fan, each, ratio, blade_density)
    if not path.flaps.any():
        return rise
    opens = (path.flaps & (path.shroud != NO_SHROUD))[..., None]
    return np.where(opens, np.maximum(rise, 0.0), rise)


Pressures = Callable[[FloatArray], tuple[FloatArray, FloatArray, FloatArray | None]]
"""From zone velocities (..., zones) [m/s] to what front, core and exit take (..., zones), what ram and
buoyancy give (..., zones) and what the fans add in their zones (..., fan zones) [Pa], None without a fan."""


def _broad_areas(path: AirPath, core: Core, demand: AirDemand) -> FloatArray:
    areas = zone_areas(path, core)
    shape = np.broadcast_shapes(areas.shape[:-1], demand.heat.shape, demand.fan_ratio.shape[:-1])
    return np.broadcast_to(areas, (*shape, areas.shape[-1]))


def _pressures(
    path: AirPath, core: Core, surface: Surface, demand: AirDemand, areas: FloatArray
) -> Pressures:
    rho = np.broadcast_to(demand.density, areas.shape[:-1])[..., None]
    split = zone_split(path, demand, areas / core.open_face[..., None])
    fans = demand.fan_ratio.shape[-1] if bool(np.any(path.fan.fitted)) else 0
    pressure = demand.pressure[..., None]
    ram = ram_pressure(path, demand)[..., None]
    exit_loss, lift = 0.5 * path.exit_loss[..., None], GRAVITY * core.height[..., None]
    leaves, puller = bool(np.any(exit_loss > 0.0)), path.fan.puller[..., None]
    pull_only = bool(np.all(puller))

    def pressures(velocity: FloatArray) -> tuple[FloatArray, FloatArray, FloatArray | None]:
        G = velocity * rho
        mass_flow = G * areas
        inlet, outlet = zone_temperatures(split, mass_flow)
        mean = 0.5 * (inlet + outlet)
        hot = air.density(outlet, pressure)
        loss = (
            air_side.pressure_drop(surface, G, mean, air.density(mean, pressure)) + path.heads * G * velocity
        )
        if leaves:
            loss = loss + exit_loss * G * G / hot
        driving = ram + (rho - hot) * lift
        if not fans:
            return loss, driving, None
        blades = hot[..., :fans]
        if not pull_only:
            blades = np.where(puller, blades, air.density(inlet[..., :fans], pressure))
        return loss, driving, fan_rise(path, demand.fan_ratio, mass_flow[..., :fans], blades)

    return pressures


def zone_pressures(
    path: AirPath, core: Core, surface: Surface, demand: AirDemand, velocity: FloatArray
) -> tuple[FloatArray, FloatArray]:
    """What stands against the fans, less what ram and buoyancy give (..., zones), and what the fans add
    (..., fan zones) [Pa] at zone velocities (..., zones) [m/s]: both lines of the usual fan chart. Where they
    cross, or the former is nothing in a zone without a fan, lies the working point that ``solve`` finds."""
    loss, driving, rise = _pressures(path, core, surface, demand, _broad_areas(path, core, demand))(velocity)
    return loss - driving, np.zeros((*loss.shape[:-1], 0)) if rise is None else rise


def solve(
    path: AirPath, core: Core, surface: Surface, demand: AirDemand, near: FloatArray | None = None
) -> Airflow:
    """Air through each zone; all of ``demand`` broadcasts with the parts.

    ``surface`` is that of the core with a zone axis; ``near`` (..., zones) a velocity [m/s] close to which
    the answer is looked for first. Each zone balances on its own between the same front and rear
    pressure, with no backflow: ram + buoyancy + fan = front + core + exit. The search runs on the difference of the
    square roots of both sides, which is all but straight in velocity.

    References
    ----------
    The balance and its coefficients are choices; its parts name their own sources.
    """
    areas = _broad_areas(path, core, demand)
    rho = demand.density[..., None]
    pressures = _pressures(path, core, surface, demand, areas)
    ram, lift = ram_pressure(path, demand)[..., None], GRAVITY * core.height[..., None]
    there = areas > 0.0
    empty = not there.all()  # zones of no area, where some candidates have all of the face under a shroud

    def excess(velocity: FloatArray) -> FloatArray:
        loss, driving, rise = pressures(velocity)
        if rise is not None:
            fans = rise.shape[-1]
            driving = np.broadcast_to(driving, loss.shape).copy()
            driving[..., :fans] += np.maximum(rise, 0.0)
            loss[..., :fans] -= np.minimum(rise, 0.0)
        off = np.sqrt(np.maximum(driving, 0.0)) - np.sqrt(loss)
        return np.asarray(off * there if empty else off)

    most = ram + rho * lift + _strongest_fan(path, demand)[..., None]
    fastest = np.sqrt(most / (rho * path.heads)) + 0.01
    low, high = np.full(areas.shape, LEAST_VELOCITY), np.broadcast_to(fastest, areas.shape)
    velocity: FloatArray | None = None
    if near is not None:
        start = np.broadcast_to(np.log(near), areas.shape)
        log = root_near(lambda y: excess(np.exp(y)), start, NEAR, PRESSURE_RESIDUAL)
        velocity = None if log is None else np.exp(log)
    if velocity is None:
        # What only rises by its own warmth is slow, what ram or fan push is fast.
        knots = np.stack([low, SLOW * high, high])
        velocity = root_among(excess, knots, VELOCITY_TOLERANCE, PRESSURE_RESIDUAL).x
    return flow_at(path, core, demand, velocity)


def _strongest_fan(path: AirPath, demand: AirDemand) -> FloatArray:
    """A pressure that no fan can pass [Pa], for the bracket."""
    cold = air.density(np.minimum(demand.ambient, 200.0), demand.pressure)
    most = demand.fan_ratio.max(-1) ** 2
    top = path.fan.pressure.max(-1) * most * cold / path.fan.reference_density
    return np.asarray(np.where(path.fan.fitted, top, 0.0))


def flow_at(path: AirPath, core: Core, demand: AirDemand, velocity: FloatArray) -> Airflow:
    """The airflow record for given zone velocities (..., zones) [m/s]."""
    areas = np.broadcast_to(zone_areas(path, core), velocity.shape)
    density = np.broadcast_to(demand.density, velocity.shape[:-1])
    mass_flow = velocity * density[..., None] * areas
    split = zone_split(path, demand, areas / core.open_face[..., None])
    inlet, outlet = zone_temperatures(split, mass_flow)
    ahead = split.ahead / (np.maximum(mass_flow, 1e-9) * air.HEAT_CAPACITY)
    fresh = np.minimum(split.ambient + ahead * (1.0 + split.comes_round), HOTTEST_AIR)
    round_again = np.broadcast_to(split.comes_round, (*velocity.shape[:-1], 1))
    return Airflow(velocity, areas, mass_flow, density, fresh, round_again, 0.5 * (inlet + outlet))
