"""Make coolant_tables.npz from CoolProp. Run by hand: python -m ebbrin.core.media.build_tables.

Not imported at run time; a test compares the shipped tables with the live library. The import
contract forbids CoolProp in the core, so the library is loaded by name here.
"""

from __future__ import annotations

import importlib
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float64]

TEMPERATURE = np.arange(233.15, 413.15 + 0.01, 2.0)
EG_FRACTION = np.round(np.arange(0.0, 0.7501, 0.025), 4)
EG_FIT_FRACTION_END, EG_FIT_TEMPERATURE_END = 0.60, 373.15
WATER_PRESSURE = 1.0e6
TABLE = Path(__file__).with_name("coolant_tables.npz")


def _properties(lib: Any, T: float, fluid: str, pressure: float) -> list[float]:
    rho, cp, k, mu = (lib.PropsSI(name, "T", T, "P", pressure, fluid) for name in ("D", "C", "L", "V"))
    return [rho, cp, k, float(np.log(mu))]


def _extend(known: FloatArray, at: FloatArray, valid: npt.NDArray[np.bool_]) -> FloatArray:
    """Continue a column past both ends of its valid stretch: linear in T, ln(viscosity) linear in 1/T."""
    out = known.copy()
    idx = np.flatnonzero(valid)
    for end, step in ((idx[0], 1), (idx[-1], -1)):
        inner = end + 5 * step
        beyond = np.arange(len(at)) < end if step == 1 else np.arange(len(at)) > end
        for col, axis in ((0, at), (1, at), (2, at), (3, 1.0 / at)):
            slope = (known[end, col] - known[inner, col]) / (axis[end] - axis[inner])
            out[beyond, col] = known[end, col] + slope * (axis[beyond] - axis[end])
    return out


def water_table(lib: Any) -> FloatArray:
    """(T, 4) density, heat capacity, conductivity, ln viscosity of liquid water at 1 MPa."""
    valid = TEMPERATURE >= 273.16
    table = np.zeros((len(TEMPERATURE), 4))
    for i in np.flatnonzero(valid):
        table[i] = _properties(lib, TEMPERATURE[i], "Water", WATER_PRESSURE)
    return _extend(table, TEMPERATURE, valid)


def glycol_table(lib: Any) -> tuple[FloatArray, FloatArray]:
    """(T, x, 4) properties and (x,) freezing points of ethylene glycol and water."""
    table = np.zeros((len(TEMPERATURE), len(EG_FRACTION), 4))
    freeze = np.zeros(len(EG_FRACTION))
    fitted = EG_FRACTION <= EG_FIT_FRACTION_END + 1e-9
    for j in np.flatnonzero(fitted):
        x = min(float(EG_FRACTION[j]), 0.59999)
        name = f"INCOMP::MEG[{x}]"
        freeze[j] = lib.PropsSI("T_FREEZE", "T", 300.0, "P", 1.0e5, name)
        # The fit starts at the freezing line and ends at 100 °C.
        valid = (freeze[j] + 0.5 < TEMPERATURE) & (TEMPERATURE <= EG_FIT_TEMPERATURE_END)
        for i in np.flatnonzero(valid):
            table[i, j] = _properties(lib, TEMPERATURE[i], name, 1.0e6)
        table[:, j] = _extend(table[:, j], TEMPERATURE, valid)
    last, before = np.flatnonzero(fitted)[-1], np.flatnonzero(fitted)[-3]
    span = EG_FRACTION[last] - EG_FRACTION[before]
    for j in np.flatnonzero(~fitted):
        step = (EG_FRACTION[j] - EG_FRACTION[last]) / span
        table[:, j] = table[:, last] + step * (table[:, last] - table[:, before])
        freeze[j] = freeze[last] + step * (freeze[last] - freeze[before])
    return table, freeze


def main() -> None:
    """Write coolant_tables.npz beside this file."""
    lib = importlib.import_module("CoolProp.CoolProp")
    glycol, freeze = glycol_table(lib)
    np.savez_compressed(
        TABLE,
        temperature=TEMPERATURE,
        fraction=EG_FRACTION,
        water=water_table(lib),
        ethylene_glycol=glycol,
        ethylene_glycol_freezing=freeze,
    )


if __name__ == "__main__":
    main()
