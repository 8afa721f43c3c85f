"""Where ram, fan and resistance meet: the flow of air through each zone of the core, each warmed by its own heat."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.airpath.fan import TURNS, pressure_rise
from ebbrin.core.airpath.front_end import (
    HOTTEST_AIR,
    AirDemand,
    AirPath,
    Zones,
    front_recirculation,
    ram_pressure,
    zones,
)
from ebbrin.core.base import GRAVITY, FloatArray, IntArray
from ebbrin.core.media import air
from ebbrin.core.radiator import air_side
from ebbrin.core.radiator.air_side import Surface
from ebbrin.core.radiator.geometry import Core
from ebbrin.core.records import OwnAxis, elements

LEAST_VELOCITY, FASTEST = 1e-6, 200.0  # m/s
LEAST_DRIVE = 1e-9  # Pa; what stands in for nothing, so that its logarithm exists
PRESSURE_RESIDUAL, TEMPERATURE_RESIDUAL, MOST_PASSES = 1e-6, 1e-4, 60
FIRST_GUESS = 2.0  # m/s
SHORT = 1e-5  # of the logarithm of a velocity; what a shorter step brings is noise
COOLS = 0.6  # how the air's rise falls with the logarithm of the flow, over the rise, about
PATIENCE = 12  # passes after which steps are halved, in case they only swing, and less is asked
LATE_RESIDUAL = 1e-5
CORE_GROWTH = 1.5  # how the core's own loss grows with the logarithm of the flow, about

Rate = Callable[[FloatArray, FloatArray, FloatArray], FloatArray]
"""From mass velocities over the open face [kg/m² s], areas [m²] and mean temperatures of the air [K], (..., zones), to
the heat that passes for each kelvin between the coolant and the air that enters the core [W/K]."""


@dataclass(frozen=True)
class Airflow:
    """Air through the core; the last axis of (..., zones) arrays runs from the fans outwards.

    velocity [m/s] over the open face of a zone at ambient density; area [m²]; mass_flow [kg/s]; fresh [K] air ahead
    of the core but for what its own heat brings round the front; mean [K] in the core; leaving [K]; per_kelvin
    [W/K] heat for each kelvin between coolant and fresh air, what comes round included; fan_ratio (..., fans) speed
    over reference speed [-]; ambient_density [kg/m³] (...); steep (..., zones) how fast what stands against the air
    outgrows what drives it, by logarithms, 0 where that is not known [-].
    """

    velocity: OwnAxis
    area: OwnAxis
    mass_flow: OwnAxis
    fresh: OwnAxis
    mean: OwnAxis
    leaving: OwnAxis
    per_kelvin: OwnAxis
    fan_ratio: OwnAxis
    ambient_density: FloatArray
    steep: OwnAxis

    @property
    def volume_flow(self) -> FloatArray:
        """Through the whole core at ambient density [m³/s]."""
        return np.asarray((self.velocity * self.area).sum(-1))

    @property
    def total_mass_flow(self) -> FloatArray:
        """Through the whole core [kg/s]."""
        return np.asarray(self.mass_flow.sum(-1))

    def elements(self, which: IntArray) -> Airflow:
        """Some elements by their indices in the flattened shape, as one axis."""
        return elements(self, self.velocity.shape[:-1], which)


def core_pressure_drop(surface: Surface, flow: Airflow, pressure: FloatArray) -> FloatArray:
    """(..., zones) pressure that the core takes in each zone [Pa]; ``surface`` with a zone axis."""
    G = flow.velocity * flow.ambient_density[..., None]
    density = air.density(flow.mean, pressure[..., None])
    return air_side.pressure_drop(surface, G, flow.mean, density)


@dataclass(frozen=True)
class _Look:
    """One look at all zones: the flow and heat that go with their velocities; what drives each and what stands
    against it (..., zones) [Pa], whose logarithms must meet; and how the latter grows with the logarithms of all
    velocities, (..., zones) for the zone's own alone, with falls (..., fans) [Pa] and the fans' shares of flow."""

    flow: Airflow
    drives: FloatArray
    against: FloatArray
    own: FloatArray
    falls: FloatArray
    weight: FloatArray
    still: FloatArray
    rise: FloatArray


class _Front:
    """One demand before one air path, ready to be looked at for any velocities."""

    def __init__(
        self, path: AirPath, core: Core, surface: Surface, demand: AirDemand, hot: FloatArray
    ) -> None:
        self.path, self.surface, self.demand = path, surface, demand
        self.zones: Zones = zones(path, core)
        area = self.zones.area
        base = np.broadcast_shapes(
            area.shape[:-1], hot.shape, demand.ambient.shape, demand.fans.free.shape[:-1], path.ram.shape
        )
        self.shape = (*base, area.shape[-1])
        self.area = np.broadcast_to(area, self.shape)
        self.density = np.broadcast_to(demand.density, base)
        self.hot = hot[..., None]
        r = front_recirculation(path.recirculation_at_rest, demand.speed)[..., None]
        self.comes_round = r / (1.0 - r)
        self.ram, self.lift = ram_pressure(path, demand)[..., None], GRAVITY * core.height[..., None]
        self.heads = 0.5 * (
            (path.front_loss + path.exit_loss)[..., None]
            + np.where(self.zones.condenser, path.condenser_loss[..., None], 0.0)
            + np.where(self.zones.charge, path.charge_loss[..., None], 0.0)
        )
        self.warmed = bool(np.any(demand.condenser != 0.0) or np.any(demand.charge != 0.0))
        self.fitted = bool(np.any(path.fan.fitted))
        self.serves = self.zones.serves.astype(float)
        self.pull_only = bool(np.all(path.fan.puller | ~path.fan.fitted))

    def ahead(self, mass_flow: FloatArray) -> FloatArray | float:
        """Rise of the air through what stands ahead of the core [K]: the same for all the air that passes it."""
        if not self.warmed:
            return 0.0
        rise: FloatArray | float = 0.0
        for covers, heat in (
            (self.zones.condenser, self.demand.condenser),
            (self.zones.charge, self.demand.charge),
        ):
            passing = np.maximum((mass_flow * covers).sum(-1), 1e-9) * air.HEAT_CAPACITY
            rise = rise + covers * (heat / passing)[..., None]
        return rise

    def look(self, velocity: FloatArray, mean: FloatArray, rate: Rate) -> _Look:
        """Flows, heat and pressures at zone velocities [m/s], properties at ``mean`` temperatures [K]."""
        path, demand = self.path, self.demand
        rho, pressure = self.density[..., None], demand.pressure[..., None]
        G = velocity * rho
        mass_flow = G * self.area
        capacity = np.maximum(mass_flow, 1e-12) * air.HEAT_CAPACITY
        ambient = demand.ambient[..., None]
        ahead = self.ahead(mass_flow) * (1.0 + self.comes_round)
        fresh = np.broadcast_to(np.minimum(ambient + ahead, HOTTEST_AIR), self.shape)
        passes = rate(G, self.area, mean)
        passes = passes / (1.0 + passes * self.comes_round / capacity)
        rise = passes * (self.hot - fresh) / capacity
        inlet = fresh + self.comes_round * rise
        leaving = inlet + rise
        middle = 0.5 * (inlet + leaving)
        hot_density = air.density(leaving, pressure)
        core = air_side.pressure_drop(self.surface, G, middle, air.density(middle, pressure))
        fixed = self.heads * G * velocity
        drives = self.ram + (rho - hot_density) * self.lift
        against, own = core + fixed, CORE_GROWTH * core + 2.0 * fixed
        none_known = np.broadcast_to(0.0, self.shape)
        none = np.zeros((*self.shape[:-1], self.serves.shape[-1]))
        ratio = np.broadcast_to(demand.fans.free, none.shape)
        falls, weight, still, gives = none, np.zeros((*self.shape, none.shape[-1])), none, none
        if self.fitted:
            through = mass_flow[..., None] * self.serves
            total = np.maximum(through.sum(-2), 1e-12)
            weight = through / total[..., None, :]
            # A fan that a candidate has not pulls through nothing; its air is that of outside.
            behind = (weight * leaving[..., None]).sum(-2) + np.where(through.sum(-2) > 0.0, 0.0, ambient)
            ratio = np.broadcast_to(demand.fans.at(behind), none.shape)
            met = behind
            if not self.pull_only:
                met = np.where(path.fan.puller[..., None], behind, (weight * inlet[..., None]).sum(-2))
                met = np.where(through.sum(-2) > 0.0, met, ambient)
            blades = air.density(met, pressure)
            back = np.where(ratio > TURNS, path.blade_recirculation[..., None], 0.0)
            each = total / blades / np.maximum(path.fan.in_zone, 1.0) / (1.0 - back)
            gives, still, falls = pressure_rise(path.fan.zoned, each, ratio, blades)
            spared = path.free_of_stopped[..., None] & (gives < 0.0)
            gives, falls = np.where(spared, 0.0, gives), np.where(spared, 0.0, falls)
            if demand.fans.clutched:
                # More air is cooler air, which lets the clutch go: a fan that falls all the faster.
                cooler = COOLS * (behind - (weight * inlet[..., None]).sum(-2))
                grows = (2.0 * gives + falls) / np.maximum(ratio, TURNS)
                falls = falls + np.maximum(grows * demand.fans.per_kelvin(behind) * cooler, 0.0)
            drives = drives + (self.serves * still[..., None, :]).sum(-1)
            against = against + (self.serves * (still - gives)[..., None, :]).sum(-1)
        flow = Airflow(
            velocity, self.area, mass_flow, fresh, middle, leaving, passes, ratio, self.density, none_known
        )
        return _Look(flow, drives, against, own, falls, weight, still, gives)


def _step(front: _Front, at: _Look, off: FloatArray) -> FloatArray:
    """Newton's step on the logarithms of all velocities that takes away ``off``; how density and heat follow the
    flow is left out, which costs a pass or two."""
    pulled = front.serves * at.falls[..., None, :]
    if not front.zones.shared:
        own = at.own + (pulled * at.weight).sum(-1)
        return np.asarray(off * at.against / np.maximum(own, 1e-300))
    matrix = pulled @ np.swapaxes(at.weight, -1, -2) + at.own[..., None] * np.eye(at.own.shape[-1])
    matrix = matrix / np.maximum(at.against, 1e-300)[..., None]
    return np.asarray(np.linalg.solve(matrix, off[..., None])[..., 0])


def solve(
    path: AirPath,
    core: Core,
    surface: Surface,
    demand: AirDemand,
    hot: FloatArray,
    rate: Rate,
    near: Airflow | None = None,
) -> Airflow:
    """Air through each zone and the heat that it takes there; all of it broadcasts.

    Parameters
    ----------
    surface : that of the core with a zone axis.
    hot : (...) float array, coolant that enters the core [K].
    rate : how much heat passes in a zone at its own flow.
    near : an airflow to start from.

    Each zone balances on its own between the same front and rear pressure, with no backflow: ram + buoyancy + fan =
    front + exchangers ahead + core + exit; a fan over several zones has one plenum and their sum of flow. Newton's
    method on the logarithms of what drives and of what stands against it, which are all but straight in that of
    velocity; heat and temperatures follow in each pass.

    References
    ----------
    The balance and its coefficients are choices; its parts name their own sources.
    """
    front = _Front(path, core, surface, demand, hot)
    lowest, highest = np.log(LEAST_VELOCITY), np.log(FASTEST)
    if near is not None and near.velocity.shape[-1] == front.shape[-1]:
        y, mean = np.log(np.broadcast_to(near.velocity, front.shape)), np.broadcast_to(near.mean, front.shape)
        slope = np.broadcast_to(near.steep, front.shape)
    else:
        y = np.full(front.shape, np.log(FIRST_GUESS))
        mean = np.broadcast_to(0.5 * (demand.ambient + hot)[..., None], front.shape)
        slope = np.zeros(front.shape)
    there = front.area > 0.0
    last: tuple[FloatArray, FloatArray] | None = None
    for passes in range(MOST_PASSES):
        at = front.look(np.exp(y), mean, rate)
        off = np.log(np.maximum(at.against, LEAST_DRIVE)) - np.log(np.maximum(at.drives, LEAST_DRIVE))
        held = ((y <= lowest) & (off > 0.0)) | ~there
        drift = np.abs(at.flow.mean - mean)
        near_enough = PRESSURE_RESIDUAL if passes < PATIENCE else LATE_RESIDUAL
        settled = held | ((np.abs(off) <= near_enough) & (drift <= TEMPERATURE_RESIDUAL))
        if settled.all():
            break
        step = _step(front, at, off)
        if not front.zones.shared:
            # Where the last step was of any length, what it brought says how steep it is; else what an earlier search
            # has learnt; else what the parts say.
            assumed = np.where(step == 0.0, 1.0, off / np.where(step == 0.0, 1.0, step))
            if last is not None:
                moved, brought = y - last[0], off - last[1]
                long = np.abs(moved) > SHORT
                slope = np.where(long, brought / np.where(long, moved, 1.0), slope)
            known = np.where(slope > 0.0, slope, assumed)
            slope = np.minimum(np.maximum(known, 0.5 * assumed), 3.0 * assumed)
            step = off / slope
        last = y, off
        step = np.minimum(np.maximum(step, -4.0), 4.0)
        if passes >= PATIENCE:
            step = 0.5 * step if passes < 2 * PATIENCE else 0.2 * step
        y = np.minimum(np.maximum(y - step, lowest), highest)
        mean = at.flow.mean
    return replace(at.flow, steep=slope)


def _alongside(hot: FloatArray, velocity: FloatArray) -> FloatArray:
    """``hot`` (...) in the shape that zone velocities (..., zones) have as well."""
    return np.broadcast_to(hot, np.broadcast_shapes(hot.shape, velocity.shape[:-1]))


def at_velocity(
    path: AirPath,
    core: Core,
    surface: Surface,
    demand: AirDemand,
    hot: FloatArray,
    rate: Rate,
    velocity: FloatArray,
    mean: FloatArray,
) -> Airflow:
    """The airflow record for given zone velocities (..., zones) [m/s], whatever drives them; ``mean`` near to the
    mean temperatures that come out [K]."""
    front = _Front(path, core, surface, demand, _alongside(hot, velocity))
    velocity = np.broadcast_to(velocity, front.shape)
    flow = front.look(velocity, np.broadcast_to(mean, front.shape), rate).flow
    return front.look(velocity, flow.mean, rate).flow


def zone_pressures(
    path: AirPath,
    core: Core,
    surface: Surface,
    demand: AirDemand,
    hot: FloatArray,
    rate: Rate,
    velocity: FloatArray,
    mean: FloatArray,
) -> tuple[FloatArray, FloatArray]:
    """What stands against the fans, less what ram and buoyancy give (..., zones), and what the fans add (..., fans)
    [Pa] at zone velocities (..., zones) [m/s]: both lines of the usual fan chart. Where they cross, or the former is
    nothing in a zone without a fan, lies the working point that ``solve`` finds."""
    front = _Front(path, core, surface, demand, _alongside(hot, velocity))
    at = front.look(np.broadcast_to(velocity, front.shape), np.broadcast_to(mean, front.shape), rate)
    fans = (front.serves * at.rise[..., None, :]).sum(-1)
    return at.against - at.drives + fans, at.rise
