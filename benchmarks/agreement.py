"""How near the compiled core is to the plain solver, which shares no formula with it, over random builds.

Run from the project's root: .venv/bin/python benchmarks/agreement.py [--count N]
"""

from __future__ import annotations

import argparse
import sys
import warnings
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1]))

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.build.resolve import resolve
from ebbrin.core.airpath.fan import FULL, OFF
from ebbrin.core.base import DomainError
from ebbrin.core.media.coolants import WATERLESS
from ebbrin.core.system.settle import settle
from oracles import plain_solver
from oracles.made import made

STRONGEST = 0.6
"""Mass fraction up to which the plain solver's library has mixes."""


def compared(seed: int) -> list[tuple[int, float, float]]:
    """Seed, by how much the balances of a build's cases lie apart [K] and how far above the air they lie [K]."""
    build = made(seed)
    if build is None:
        return []
    resolved = resolve(build, "v")
    try:
        system, cases = system_from(resolved).checked(), cases_from(resolved).checked()
    except DomainError:
        return []
    left_out = (
        bool(system.air.fan.staged)
        or bool(system.circuit.thermostat.at_inlet)
        or int(system.coolant.kind) == WATERLESS
        or int(system.engine.school) == 3
        or float(system.engine.measured_fuel) > 0.0
        or float(system.coolant.mass_fraction) > STRONGEST
    )
    if left_out:
        return []
    found = []
    # A belt drives its fan always.
    stages = ((True, FULL),) if bool(system.air.fan.mechanical) else ((True, FULL), (False, OFF))
    for on, stage in stages:
        ours = settle(system, cases, stage)
        for i in range(len(cases.ambient)):
            try:
                with warnings.catch_warnings():
                    warnings.simplefilter("ignore")
                    theirs = plain_solver.settle(system, cases, i, fan_on=on)
            except (ValueError, OverflowError, ZeroDivisionError):
                continue  # what its own searches cannot bracket
            if theirs is None or not ours.exists[i]:
                if (theirs is None) == bool(ours.exists[i]):
                    found.append((seed, float("inf"), 1.0))
                continue
            found.append((seed, float(ours.top_hose[i] - theirs), float(theirs - cases.ambient[i])))
    return found


def main() -> None:
    """Compare until so many builds have been, and say how far apart they were."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=500)
    parser.add_argument("--workers", type=int, default=2)
    asked = parser.parse_args()
    found: list[tuple[int, float, float]] = []
    builds: set[int] = set()
    with ProcessPoolExecutor(asked.workers) as pool:
        for rows in pool.map(compared, range(20 * asked.count), chunksize=4):
            found += rows
            builds |= {row[0] for row in rows}
            if len(builds) >= asked.count:
                pool.shutdown(wait=False, cancel_futures=True)
                break
    apart = np.array([row[1] for row in found])
    rise = np.array([row[2] for row in found])
    one = np.isinf(apart)
    apart, rise, seeds = apart[~one], rise[~one], np.array([row[0] for row in found])[~one]
    print(f"{len(builds)} builds, {len(apart)} balances; only one of both settles: {int(one.sum())}")
    for share in (50, 90, 99, 100):
        kelvin, of_rise = np.percentile(np.abs(apart), share), np.percentile(np.abs(apart) / rise, share)
        print(f"{share} of 100 within {kelvin:.4f} K, {1e2 * of_rise:.3f} % of the rise over the air")
    for k in np.argsort(-np.abs(apart))[:8]:
        print(f"  {seeds[k]}: {apart[k]:+.3f} K of {rise[k]:.1f}")


if __name__ == "__main__":
    main()
