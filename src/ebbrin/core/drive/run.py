"""A drive of one system: operating points in, its course out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.airpath import fan as fans
from ebbrin.core.base import BoolArray, FloatArray, IntArray, require
from ebbrin.core.circuit.thermostat import HOUSING_LOSS, POCKET_SHARE
from ebbrin.core.drive import march as marching
from ebbrin.core.drive import plant as plants
from ebbrin.core.drive.controls import Controls
from ebbrin.core.drive.plant import Plant
from ebbrin.core.media.coolants import TABLE_LOW
from ebbrin.core.system.balance import HEATER_AIR
from ebbrin.core.system.packed import joined
from ebbrin.core.system.parts import Cases, System

STEP = 0.25  # s
HOTTEST_START = 413.15  # choice, K
LATENT = 2.2e6  # heat of vaporisation of water near 110 °C, IAPWS within 3 %, J/kg


@dataclass(frozen=True)
class Course:
    """What a drive comes to, arrays (steps,): time at the end of each step [s]; temperatures [K] of metal, coolant
    leaving the engine, top hose and bottom hose; lift [-]; stage of the fan, 0 for off; flow through the core and in
    all [kg/s]; gauge pressure, and that at which the cap lifts then [Pa]; coolant in the system [kg]; heat shed by
    the core and by the heater, heat from the engine [W]; temperature of the heater's air [K]; the hottest
    coolant below boiling [K]. full, coolant that fills the cold system [kg]; energy_gap [-] is what the balance of heat leaves over what went in or was stored, at least
    the heat of a kelvin of it all; bottle and ground, coolant that left and has not come back [kg]; runs_dry,
    whether the drive ended before its legs because the engine stood dry."""

    time: FloatArray
    metal: FloatArray
    engine_out: FloatArray
    top_hose: FloatArray
    bottom_hose: FloatArray
    lift: FloatArray
    stage: IntArray
    flow: FloatArray
    pumped: FloatArray
    pressure: FloatArray
    cap: FloatArray
    mass: FloatArray
    shed: FloatArray
    heater: FloatArray
    heater_air: FloatArray
    boiling_margin: FloatArray
    heat: FloatArray
    full: float
    energy_gap: float
    bottle: float
    ground: float
    runs_dry: bool


def drive(
    states: Sequence[System],
    points: Cases,
    running: BoolArray,
    plant: Plant,
    controls: Controls,
    point: IntArray,
    state: IntArray,
    start: float,
    step: float = STEP,
) -> Course:
    """March through a drive, to its end or until a running engine stands dry.

    Parameters
    ----------
    states : systems (fields of shape ()) that the parts are in from time to time, as they break and are whole.
    points : one case for each operating point; one with the engine off keeps its idle speed, and moves and heats
        nothing.
    running : (points,) whether the engine runs.
    controls : what holds thermostat, fan and cap in each state.
    point, state : (steps,) operating point and state of each step, by their indices.
    start : temperature of everything when it begins [K].
    step : [s].

    Raises
    ------
    DomainError
        If a part or a point lies outside what is possible, the start outside the coolant's tables, or the step is too
        long for what is explicit in it.
    """
    states, points = [system.checked() for system in states], points.checked()
    require("temperature at the start", start, TABLE_LOW, HOTTEST_START, "K")
    require("time step", step, 1e-3, 1.0, "s")
    asked = len(point)
    out = np.empty((asked, marching.CHANNELS))
    totals = np.zeros(marching.TOTALS)
    made = marching.march(
        np.array(point, np.int64),  # copies: of one kind whatever they were
        np.array(state, np.int64),
        float(step),
        marching.Met(
            joined([system.packed for system in states]),
            points.rows,
            np.array(running, bool),
            np.array(fans.stages(states[0].air.fan)),
        ),
        marching.Held(**{name: np.array(getattr(controls, name)) for name in marching.Held._fields}),
        _stores(plant),
        _moving(plant),
        _vapour(plant),
        float(start),
        out,
        totals,
    )
    out, point, state = out[:made], point[:made], state[:made]
    c = marching
    left = (
        totals[c.ENERGY_IN]
        - totals[c.ENERGY_OUT]
        - totals[c.ENERGY_BLOCK]
        - totals[c.ENERGY_VAPOUR]
        - totals[c.ENERGY_GROUND]
        - totals[c.STORED]
    )
    a_kelvin = plant.metal + plant.core_metal + plant.coolant_heat * plant.filled_density * plant.volume
    return Course(
        time=step * np.arange(1, made + 1, dtype=np.float64),
        metal=out[:, c.METAL],
        engine_out=out[:, c.ENGINE],
        top_hose=out[:, c.TOP],
        bottom_hose=out[:, c.BOTTOM],
        lift=out[:, c.LIFT],
        stage=out[:, c.STAGE].astype(np.int64),
        flow=out[:, c.FLOW],
        pumped=out[:, c.PUMPED],
        cap=controls.cap[state],
        pressure=out[:, c.PRESSURE],
        mass=out[:, c.MASS],
        shed=out[:, c.SHED],
        heater=out[:, c.HEATER],
        heater_air=np.asarray(points.ambient)[point] + out[:, c.HEATER] / HEATER_AIR,
        boiling_margin=out[:, c.BOIL_MARGIN],
        heat=out[:, c.HEAT],
        full=plant.filled_density * plant.volume,
        energy_gap=float(left / max(abs(totals[c.ENERGY_IN]), abs(totals[c.STORED]), a_kelvin)),
        bottle=float(totals[c.BOTTLE]),
        ground=float(totals[c.GROUND]),
        runs_dry=made < asked,
    )


def _stores(plant: Plant) -> marching.Stores:
    return marching.Stores(
        metal=plant.metal,
        coolant_heat=plant.coolant_heat,
        core_metal=plant.core_metal,
        in_engine=plant.in_engine,
        in_hose=plant.in_hose,
        metal_conductance=plant.metal_conductance,
        full_flow=plant.full_flow,
        still_share=plants.STILL_SHARE,
        block_loss=plants.BLOCK_LOSS,
        hose_loss=plant.hose_loss,
        bottle_loss=plants.BOTTLE_LOSS,
        tank_exchange=plants.TANK_EXCHANGE,
        volume=plant.volume,
        filled_density=plant.filled_density,
        stiffness=plants.HOSE_STIFFNESS,
        overflow=plants.OVERFLOW,
        bottle=plant.bottle,
    )


def _moving(plant: Plant) -> marching.Moving:
    return marching.Moving(
        opens=plant.opens,
        span=plant.span,
        hysteresis=plant.hysteresis,
        at_inlet=plant.at_inlet,
        wax_lag=plants.WAX_LAG,
        breakaway=plants.BREAKAWAY,
        pocket_capacity=plants.POCKET_CAPACITY,
        pocket_share=POCKET_SHARE,
        housing_loss=HOUSING_LOSS,
        fan_fitted=plant.fan_fitted,
        stage_on=plant.stage_on,
        stage_off=plant.stage_off,
    )


def _vapour(plant: Plant) -> marching.Vapour:
    first, second = (float(x) for x in plants.VAPOUR_TEMPERATURES[:2])
    return marching.Vapour(plant.vapour_pressure, first, second - first, LATENT)


def without_hysteresis(plant: Plant) -> Plant:
    """The same plant with a thermostat that stays on its centre line, as the steady state has it."""
    return replace(plant, hysteresis=0.0)
