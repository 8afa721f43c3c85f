"""What is left at the pump's inlet before the coolant boils there, and the engine speed that uses it up."""

from __future__ import annotations

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.circuit import cap as caps
from ebbrin.core.circuit import flow as circuit
from ebbrin.core.circuit import pump as pumps
from ebbrin.core.circuit.flow import CoolantFlow
from ebbrin.core.compiled import Numbers, compiled, flat, over_cores
from ebbrin.core.media import air, boiling
from ebbrin.core.media.coolants import properties
from ebbrin.core.roots import MAX_STEPS, first_share, next_share
from ebbrin.core.system.packed import CaseNumbers, Parts, case_of, parts_of
from ebbrin.core.system.parts import Cases, System, frame
from ebbrin.core.system.steady import SteadyState

SLOWEST, FASTEST = 1.0, 300.0  # rev/s; where even the fastest leaves a margin, none ends it
SPEED_TOLERANCE, LEFT_TOLERANCE = 1e-2, 10.0  # rev²/s², Pa


def margin(system: System, cases: Cases, coolant: CoolantFlow, temperature: FloatArray) -> FloatArray:
    """Margin at the pump inlet, at its ``temperature`` [K], with no pressure under the cap [Pa]; broadcasts.

    Where heat that enters behind the core leaves the inlet hotter than the tables go, the margin is that at their end:
    it is far below nothing by then, and less still in truth.
    """
    temperature = system.coolant.within(temperature)
    return caps.pump_inlet_margin(
        system.circuit.pump,
        system.cap,
        coolant,
        cases.crank_speed,
        temperature,
        0.0,
        air.standard_pressure(cases.altitude),
        properties(system.coolant, temperature).density,
        system.coolant,
    )


@compiled
def _ends_at(
    parts: Parts,
    case: CaseNumbers,
    column: Numbers,
    top_hose: float,
    heat: float,
    flow: float,
    left: tuple[float, float, float],
) -> float:
    """As ``cavitation_speed`` for a belt, numbers: what is ``left`` [Pa] with neither flow nor speed, what speed takes of it
    [Pa s²/rev²] and whether the radiator does [-]."""
    still, required, through = left
    # What is lost goes all but straight with speed squared.
    a, b = SLOWEST * SLOWEST, FASTEST * FASTEST
    fa, fb, x, z, fz, share = 0.0, 0.0, a, a, 0.0, 0.5
    for n in range(MAX_STEPS + 2):
        x = a if n == 0 else (b if n == 1 else a + share * (b - a))
        crank = np.sqrt(x)
        near = flow * crank / case.crank_speed
        flows = circuit.solve_at(parts.loop, parts.tubes, column, top_hose, crank, heat, case.ambient, near)
        fx = still - required * x - through * (flows.radiator_drop + 0.5 * flows.hose_drop)
        if n == 0:
            fa = fx
            continue
        if n == 1:
            fb = fx
            if (fa > 0.0) == (fb > 0.0):
                # The margin falls with speed: the end that lies nearer to none says which side it is on.
                return 0.0 if abs(fa) <= abs(fb) else np.inf
            share = first_share(fa, fb)
            continue
        if (fx > 0.0) == (fa > 0.0):
            z, fz = a, fa
        else:
            z, fz, b, fb = b, fb, a, fa
        a, fa = x, fx
        if abs(b - a) <= 2.0 * SPEED_TOLERANCE or abs(fa) <= LEFT_TOLERANCE:
            break
        share = next_share(a, fa, b, fb, z, fz, SPEED_TOLERANCE)
    return np.sqrt(a if abs(fa) < abs(fb) else b)


@compiled
def _ends(packed, cases, which, case, values, out, first, last):  # type: ignore[no-untyped-def]
    """``values`` (6, elements): top hose, heat, coolant flow, and what is ``left``."""
    for e in range(first, last):
        c = which[e]
        parts, column = parts_of(packed, c), packed.columns[packed.column_of[c]]
        top_hose, heat, flow, still, required, through = values[:, e]
        at = case_of(cases, case[e])
        out[e] = _ends_at(parts, at, column, top_hose, heat, flow, (still, required, through))


def cavitation_speed(system: System, cases: Cases, state: SteadyState, temperature: FloatArray) -> FloatArray:
    """Crank speed [rev/s] at which the margin under the cap ends, inlet and top hose as hot as they are; inf
    for an electric pump or where it lasts to FASTEST, 0 where it is gone already at a standstill; (cases,)."""
    if not system.circuit.pump.belt:
        return np.full(temperature.shape, np.inf)
    inlet = system.coolant.within(temperature)
    still = air.standard_pressure(cases.altitude) + system.cap.holds
    still = still - boiling.vapour_pressure(inlet, system.coolant)
    required = pumps.required_pressure(system.circuit.pump, 1.0, properties(system.coolant, inlet).density)
    through = np.where(system.cap.on_suction_side, 0.0, 1.0)
    flow = state.shed.coolant.volume_flow
    values = (state.top_hose, state.heat_in, flow, still, required, through)
    shape, which, case = frame(system, cases, *values)
    out = np.empty(which.size)
    over_cores(
        4, _ends, system.packed, cases.rows, which, case, np.stack([flat(v, shape) for v in values]), out
    )
    return out.reshape(shape)
