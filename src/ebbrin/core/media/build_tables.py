"""Make coolant_tables.npz from CoolProp and chemicals. Run by hand: python -m ebbrin.core.media.build_tables.

Not imported at run time; a test compares the shipped tables with the live libraries. The import
contract forbids them in the core, so they are loaded by name here.
"""

from __future__ import annotations

import importlib
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float64]

TEMPERATURE = np.arange(233.15, 473.15 + 0.01, 2.0)
FRACTION = np.round(np.arange(0.0, 1.0001, 0.025), 4)
FIT_FRACTION_END, FIT_TEMPERATURE_END, MIX_END = 0.60, 373.15, 0.75
PRESSURE, WATER_PRESSURE = 1.0e6, 2.0e6
ETHYLENE_GLYCOL_CAS = "107-21-1"
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
    """(T, 4) density, heat capacity, conductivity, ln viscosity of liquid water at 2 MPa."""
    valid = TEMPERATURE >= 273.16
    table = np.zeros((len(TEMPERATURE), 4))
    for i in np.flatnonzero(valid):
        table[i] = _properties(lib, TEMPERATURE[i], "Water", WATER_PRESSURE)
    return _extend(table, TEMPERATURE, valid)


def glycol_table(lib: Any, fluid: str) -> tuple[FloatArray, FloatArray]:
    """(T, x, 4) properties and (x,) freezing points of a glycol (MEG or MPG) and water, fit and beyond."""
    table = np.zeros((len(TEMPERATURE), len(FRACTION), 4))
    freeze = np.zeros(len(FRACTION))
    fitted = FRACTION <= FIT_FRACTION_END + 1e-9
    for j in np.flatnonzero(fitted):
        x = min(float(FRACTION[j]), 0.59999)
        name = f"INCOMP::{fluid}[{x}]"
        freeze[j] = lib.PropsSI("T_FREEZE", "T", 300.0, "P", 1.0e5, name)
        # The fit starts at the freezing line and ends at 100 °C.
        valid = (freeze[j] + 0.5 < TEMPERATURE) & (TEMPERATURE <= FIT_TEMPERATURE_END)
        for i in np.flatnonzero(valid):
            table[i, j] = _properties(lib, TEMPERATURE[i], name, PRESSURE)
        table[:, j] = _extend(table[:, j], TEMPERATURE, valid)
    last, before = np.flatnonzero(fitted)[-1], np.flatnonzero(fitted)[-3]
    span = FRACTION[last] - FRACTION[before]
    for j in np.flatnonzero(~fitted):
        step = (FRACTION[j] - FRACTION[last]) / span
        table[:, j] = table[:, last] + step * (table[:, last] - table[:, before])
        freeze[j] = freeze[last] + step * (freeze[last] - freeze[before])
    return table, freeze


def undiluted_glycol() -> FloatArray:
    """(T, 4) properties of ethylene glycol without water.

    Density, conductivity and viscosity: vdi-heat-atlas, as in the chemicals library. Heat capacity:
    2370 J/kg K at 20 °C and 5 more per kelvin (from memory). Viscosity below 0 °C as ln μ linear in 1/T.
    """
    volume, viscosity, conductivity = (
        importlib.import_module(f"chemicals.{name}")
        for name in ("volume", "viscosity", "thermal_conductivity")
    )
    r = volume.rho_data_VDI_PPDS_2.loc[ETHYLENE_GLYCOL_CAS]
    m = viscosity.mu_data_VDI_PPDS_7.loc[ETHYLENE_GLYCOL_CAS]
    c = conductivity.k_data_VDI_PPDS_9.loc[ETHYLENE_GLYCOL_CAS]
    table = np.zeros((len(TEMPERATURE), 4))
    valid = TEMPERATURE >= 273.15
    for i, T in enumerate(TEMPERATURE):
        table[i, 0] = r.MW * 1e-3 / volume.volume_VDI_PPDS(T, r.Tc, r.rhoc, r.A, r.B, r.C, r.D, r.MW)
        table[i, 1] = 2370.0 + 5.0 * (T - 293.15)
        table[i, 2] = sum(c[letter] * T**power for power, letter in enumerate("ABCDE"))
        if valid[i]:
            table[i, 3] = np.log(viscosity.PPDS9(T, *(m[letter] for letter in "ABCDE")))
    return np.column_stack([table[:, :3], _extend(table, TEMPERATURE, valid)[:, 3]])


def main() -> None:
    """Write coolant_tables.npz beside this file."""
    lib = importlib.import_module("CoolProp.CoolProp")
    ethylene, ethylene_freezes = glycol_table(lib, "MEG")
    propylene, propylene_freezes = glycol_table(lib, "MPG")
    # Between the strongest mix and the undiluted glycol nothing is published here: a straight line.
    strongest = int(np.argmin(np.abs(FRACTION - MIX_END)))
    share = ((FRACTION[strongest:] - MIX_END) / (1.0 - MIX_END))[None, :, None]
    ethylene[:, strongest:] = (
        ethylene[:, strongest, None] * (1.0 - share) + undiluted_glycol()[:, None] * share
    )
    np.savez_compressed(
        TABLE,
        temperature=TEMPERATURE,
        fraction=FRACTION,
        water=water_table(lib),
        ethylene_glycol=ethylene,
        ethylene_glycol_freezing=ethylene_freezes,
        propylene_glycol=propylene,
        propylene_glycol_freezing=propylene_freezes,
    )


if __name__ == "__main__":
    main()
