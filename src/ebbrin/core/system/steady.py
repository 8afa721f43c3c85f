"""Steady state of every case: the top hose at which heat in equals heat out, with fan and thermostat."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import ArrayLike, BoolArray, FloatArray
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.engine.heat import Heat
from ebbrin.core.media.coolants import TABLE_END
from ebbrin.core.roots import root_among
from ebbrin.core.system.balance import AirSide, Shed, air_for, coolant_at, demand, shed
from ebbrin.core.system.parts import Cases, System, choose, pick

TEMPERATURE_TOLERANCE = 1e-7
OFF, ON = 0, 1


@dataclass(frozen=True)
class Settled:
    """A balance with the fan held on or off, (...) arrays: top hose [K] (the end of the tables where
    there is no steady state), whether there is one, heat demand, and the air."""

    top_hose: FloatArray
    exists: BoolArray
    heat: Heat
    air: AirSide


def settle(system: System, cases: Cases, fan_on: ArrayLike) -> Settled:
    """Top hose at which the radiator sheds what the engine sends, fan held on or off; broadcasts.

    At the solution the air carries the demand, so the airflow is solved once with that heat and the top
    hose is bracketed between ambient, where nothing is shed, and the end of the property tables.
    """
    heat = demand(system, cases, fan_on)
    total = heat.total
    air_now = air_for(system, cases, fan_on, total)

    coolant: CoolantFlow | None = None

    def excess(top_hose: FloatArray) -> FloatArray:
        nonlocal coolant
        close = coolant if coolant is not None and coolant.lift.shape == top_hose.shape else None
        coolant = coolant_at(system, cases, top_hose, near=close)
        return shed(system, top_hose, coolant, air_now, total, cases.ambient).heat - total

    shape = air_now.film.shape[:-1]
    low, high = np.broadcast_to(cases.ambient, shape), np.full(shape, TABLE_END)
    # Where the thermostat starts and ends to open the curve has knees; none is left inside the bracket.
    thermostat = system.circuit.thermostat
    knees = (np.minimum(np.maximum(knee, low), high) for knee in (thermostat.opens, thermostat.fully_open))
    root = root_among(excess, np.stack([low, *knees, high]), TEMPERATURE_TOLERANCE)
    return Settled(np.where(root.bracketed, root.x, TABLE_END), root.bracketed, heat, air_now)


def shed_at(
    system: System, cases: Cases, fan_on: ArrayLike, top_hose: FloatArray, heat: FloatArray, near: AirSide
) -> tuple[Shed, AirSide]:
    """What is shed at a given top hose [K] when that need not be what the engine sends; broadcasts.

    Airflow depends a little on the heat that it carries, by density alone. ``near`` is the airflow for
    ``heat`` [W]; where another heat is shed, one correction leaves less than 0.1 % of it.
    """
    coolant = coolant_at(system, cases, top_hose)
    result = shed(system, top_hose, coolant, near, heat, cases.ambient)
    if np.allclose(result.heat, heat, rtol=1e-7):
        return result, near
    carried = np.maximum(result.heat, 1.0)
    air_now = air_for(system, cases, fan_on, carried, near)
    return shed(system, top_hose, coolant, air_now, carried, cases.ambient), air_now


@dataclass(frozen=True)
class SteadyState:
    """What each case settles to, (...) arrays. Temperatures [K].

    Where ``exists`` is False the state is that at the limit temperature and ``shortfall`` [W] says what
    is missing there. duty [-] is the share of time that the fan is on; a cycling fan holds the middle of
    the switch's band. margin_temperature [K] is what margins are taken from: a fan that runs overshoots
    to its on-point. heat_in and heat_shed [W] and air_flow [m³/s, ambient density] are averages over the
    duty. engine_heat [W] is what the coolant takes up in the engine.
    """

    top_hose: FloatArray
    bottom_hose: FloatArray
    exists: BoolArray
    duty: FloatArray
    cycles: BoolArray
    margin_temperature: FloatArray
    heat_in: FloatArray
    heat_shed: FloatArray
    engine_heat: FloatArray
    shortfall: FloatArray
    air_flow: FloatArray
    shed: Shed
    off: Settled
    on: Settled


def fan_states(system: System, cases: Cases) -> BoolArray:
    """[off, on] along a leading axis ahead of candidates and cases."""
    dims = np.broadcast_shapes(np.shape(system.core.width), np.shape(cases.ambient))
    return np.array([False, True]).reshape(2, *(1 for _ in dims))


def steady_state(system: System, cases: Cases, limit: FloatArray) -> SteadyState:
    """Steady state with thermostat and fan switch at work; broadcasts.

    The fan rests if the balance without it stays below the middle of the switch's band; runs always if
    even the balance with it lies above; else it cycles about the middle. Air conditioning forces it on
    (choice). ``limit`` [K] is where a case without steady state is looked at.
    """
    fan_on = fan_states(system, cases)
    both = settle(system, cases, fan_on)
    off, on = pick(both, OFF), pick(both, ON)
    fitted = np.asarray(system.air.fan.fitted)
    middle = system.fan_switch.middle
    forced = fitted & np.asarray(cases.air_conditioning)
    rests = ~fitted | (~forced & off.exists & (off.top_hose <= middle))
    always = ~rests & (forced | (on.top_hose >= middle) | ~on.exists)
    cycles = ~rests & ~always
    exists = np.where(rests, off.exists, np.where(always, on.exists, True)).astype(bool)
    settled = np.where(rests, off.top_hose, np.where(always, on.top_hose, middle))
    top_hose = np.where(exists, settled, limit)
    total = both.heat.total
    # A fan state that plays no part is left where it settled.
    plays = np.stack([cycles | ~always, cycles | always])
    where = np.where(plays | ~both.exists, top_hose, both.top_hose)
    there, air_now = shed_at(system, cases, fan_on, where, total, both.air)
    short, spare = total[OFF] - there.heat[OFF], there.heat[ON] - total[ON]
    duty = np.where(cycles, short / np.where(cycles, short + spare, 1.0), np.where(rests, 0.0, 1.0))

    def average(value: FloatArray) -> FloatArray:
        return np.asarray(duty * value[ON] + (1.0 - duty) * value[OFF])

    heat_in, heat_shed = average(total), average(there.heat)
    coolant = choose(duty > 0.0, pick(there, ON), pick(there, OFF))
    runs = exists & (duty > 0.0)
    return SteadyState(
        top_hose=top_hose,
        bottom_hose=top_hose
        - np.where(exists, average(both.heat.engine), heat_shed) / coolant.coolant_capacity,
        exists=exists,
        duty=duty,
        cycles=cycles,
        margin_temperature=np.where(runs, np.maximum(top_hose, system.fan_switch.on), top_hose),
        heat_in=heat_in,
        heat_shed=heat_shed,
        engine_heat=average(both.heat.engine),
        shortfall=np.where(exists, 0.0, heat_in - heat_shed),
        air_flow=average(air_now.flow.volume_flow),
        shed=coolant,
        off=off,
        on=on,
    )
