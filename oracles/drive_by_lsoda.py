"""The equations of a drive handed to a general-purpose solver: SciPy's LSODA between SciPy's own interpolation.

Engine, hoses, core, wax and fan switch with their events; no boiling, no hysteresis. The fill is taken anew between
windows of WINDOW seconds.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.integrate import solve_ivp
from scipy.interpolate import RegularGridInterpolator

from ebbrin.core.drive import plant as plants
from ebbrin.core.drive.plant import Plant
from oracles.drive_maps import LIFTS, SEGMENTS, TEMPERATURES, Maps

WINDOW, HOTTEST = 20.0, 400.0  # s, K
METAL, ENGINE, WAX, HOSE, CORE, TANK = 0, 1, 2, 3, slice(4, 4 + SEGMENTS), 4 + SEGMENTS


@dataclass(frozen=True)
class Solved:
    """Time [s]; metal, engine outlet and bottom hose [K]; stage of the fan; when it was switched [s]."""

    time: np.ndarray
    metal: np.ndarray
    engine_out: np.ndarray
    bottom_hose: np.ndarray
    stage: np.ndarray
    switched: list[float]


def solved(
    maps: Maps, plant: Plant, duration: list[float], cap: float, start: float, tolerance: float = 1e-6
) -> Solved:
    """A drive whose leg i is the point i of ``maps``, for ``duration[i]`` [s] each, read every second; it ends where
    the engine's outlet passes HOTTEST."""
    grid = (TEMPERATURES, LIFTS)
    density = RegularGridInterpolator((TEMPERATURES,), maps.density)
    began = int((plant.stage_on <= start).sum())
    y, stage, mass, clock = np.full(5 + SEGMENTS, start), began, plant.filled_density * plant.volume, 0.0
    in_core = 1.0 - plant.in_engine - 2.0 * plant.in_hose
    rows: list[tuple[float, ...]] = []
    switched: list[float] = []
    for leg, lasts in enumerate(duration):
        tables = {k: _tables(maps, leg, k) for k in range(maps.capacity.shape[2])}
        look = {k: RegularGridInterpolator(grid, table) for k, table in tables.items()}
        ends = clock + lasts
        while clock < ends - 1e-9 and y[ENGINE] < HOTTEST:
            until = min(clock + WINDOW, ends)

            def slope(
                _t: float, y: np.ndarray, k: int = stage, m: float = mass, s: int = leg, t: object = look
            ) -> np.ndarray:
                return _slope(y, t[k], maps, plant, m, s)  # type: ignore[index]

            passes = _passes(plant, stage)
            found = solve_ivp(
                slope, (clock, until), y, "LSODA", events=passes, rtol=tolerance, atol=1e-6,
                t_eval=[*np.arange(np.ceil(clock), until), until],
            )  # fmt: skip
            assert found.status >= 0, found.message
            columns = np.reshape(found.y, (len(y), -1)).T  # a list where none of the times was met
            rows += [
                (t, *c[[METAL, ENGINE, TANK]], stage)
                for t, c in zip(found.t, columns, strict=True)
                if t < until
            ]
            if found.status == 1:
                assert found.t_events is not None
                assert found.y_events is not None
                which = next(i for i, times in enumerate(found.t_events) if len(times))
                clock, y = float(found.t_events[which][0]), found.y_events[which][0]
                stage += 1 if passes[which].direction > 0 else -1
                switched.append(clock)
            else:
                clock, y = until, columns[-1]
            mean = (
                plant.in_engine * y[ENGINE] + plant.in_hose * (y[HOSE] + y[TANK]) + in_core * y[CORE].mean()
            )
            room = float(density([mean])[0]) * plant.volume
            mass = min(mass, room * (1.0 + cap / plants.HOSE_STIFFNESS))
    table = np.array(rows).T
    time, metal, engine, tank, stages = table
    return Solved(time, metal, engine, tank, stages.astype(int), switched)


def _passes(plant: Plant, stage: int) -> list:  # type: ignore[type-arg]
    """Events at which the fan's switches change the stage."""
    levels = [(plant.stage_on[stage], 1.0)] if stage < len(plant.stage_on) and plant.fan_fitted else []
    levels += [(plant.stage_off[stage - 1], -1.0)] if stage > 0 else []
    events = []
    for level, direction in levels:

        def event(_t: float, y: np.ndarray, level: float = level) -> float:
            return float(y[ENGINE] - level)

        event.terminal, event.direction = True, direction  # type: ignore[attr-defined]
        events.append(event)
    return events


def _tables(maps: Maps, leg: int, stage: int) -> np.ndarray:
    """(T, L, 7): radiator's capacity, conductance of a segment, warmth of the air, heat of engine and gearbox, all flow,
    heater."""
    by_stage = (maps.capacity, maps.segment, maps.rise, maps.engine_heat, maps.gearbox_heat)
    by_lift = (maps.flow, maps.heater)
    return np.stack([*(m[:, :, stage, leg] for m in by_stage), *(m[:, :, leg] for m in by_lift)], axis=-1)


def _slope(
    y: np.ndarray, look: RegularGridInterpolator, maps: Maps, plant: Plant, mass: float, leg: int
) -> np.ndarray:
    """Rates of change [K/s]."""
    top, hose, along, tank, outside = y[ENGINE], y[HOSE], y[CORE], y[TANK], float(maps.ambient[leg])
    lift = min(max((y[WAX] - plant.opens) / plant.span, 0.0), 1.0)
    capacity, rate, rise, heat, gearbox, flow, heater = look(
        (min(max(top, TEMPERATURES[0]), TEMPERATURES[-1]), lift)
    )
    coolant = mass * plant.coolant_heat
    hose_c = plant.in_hose * coolant
    segment = ((1.0 - plant.in_engine - 2.0 * plant.in_hose) * coolant + plant.core_metal) / SEGMENTS
    grip = plant.metal_conductance * max(plants.STILL_SHARE, (flow / plant.full_flow) ** 0.7)
    passed, back = grip * (y[METAL] - top), plants.TANK_EXCHANGE * (tank - along[-1])
    out = np.empty_like(y)
    out[METAL] = (heat - passed) / plant.metal
    out[ENGINE] = (passed + capacity * (tank - top) - heater * (top - outside)) / (plant.in_engine * coolant)
    out[WAX] = (top - y[WAX]) / plants.WAX_LAG
    out[HOSE] = capacity * (top - hose) / hose_c
    entering = np.concatenate([[hose], along[:-1]])
    out[CORE] = (capacity * (entering - along) - rate * (along - outside - rise)) / segment
    out[CORE][-1] += back / segment
    out[TANK] = (capacity * (along[-1] - tank) + gearbox - back) / hose_c
    return out
