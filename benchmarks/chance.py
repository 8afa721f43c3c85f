"""How good a chance is: the first estimate against many samples, and how often what is said comes true.

Run from the project's root: .venv/bin/python benchmarks/chance.py [--samples N] [--random N] [--cars N]

Calibration: made cars are random builds in air that is hotter or cooler than drawn, so that chances of all sizes
occur; the truth of each is drawn from the distributions of its unknowns, many times. "Laid around the likely answer"
is what the chance claims (docs/method.md, section 11); "plain" takes the draws as they fall.
"""

from __future__ import annotations

import argparse
import os
import sys
import time
from dataclasses import replace
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1]))

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.bridge.unknowns import all_unknowns
from ebbrin.build.build import Build
from ebbrin.build.resolve import resolve
from ebbrin.core.base import DomainError
from ebbrin.core.studies.chance import applied, by_odds, centred, estimate, spare
from ebbrin.core.studies.draws import places
from ebbrin.core.studies.uncertainty import chances
from ebbrin.core.system.parts import Cases, System
from ebbrin.demo import demo_builds
from oracles.made import made

TRUTHS = 200
SHIFTS = (-12.0, -8.0, -5.0, -2.0, 2.0)  # K, about the ambient at which a case would be at its limit
BINS = ((0.05, 0.15), (0.25, 0.35), (0.45, 0.55), (0.65, 0.75), (0.85, 0.95))


def parts(build: Build, variant: str) -> tuple[System, Cases, list]:  # type: ignore[type-arg]
    """The core's system, cases and unknowns of a variant."""
    resolved = resolve(build, variant)
    system = system_from(resolved).checked()
    return system, cases_from(resolved).checked(), [n.unknown for n in all_unknowns(system, resolved)]


def near_limit(system: System, cases: Cases, unknowns: list, shift: float) -> Cases:  # type: ignore[type-arg]
    """The cases in air about ``shift`` [K] hotter than they would be at their limit in."""
    likely = estimate(system, cases, unknowns)
    there = cases.ambient + np.clip(likely.middle / likely.per_kelvin, -40.0, 40.0) + shift
    return replace(cases, ambient=np.clip(there, 233.15, 333.15))


def against_samples(samples: int, random: int) -> None:
    """Print the estimate beside many samples, case by case; random builds in air near their limit, where the chance
    is neither nothing nor all."""
    builds = [(b.name, b, v.id, False) for b in demo_builds() for v in b.variants]
    seed, wanted = 0, len(builds) + random
    while len(builds) < wanted:
        build = made(seed)
        seed += 1
        if build is not None:
            builds.append((f"random {seed - 1}", build, build.variants[0].id, True))
    gaps: list[float] = []
    print(f"| build | estimate | {samples} samples | furthest apart |\n|---|---|---|---|")
    for name, build, variant, moves in builds:
        try:
            system, cases, unknowns = parts(build, variant)
            if moves:
                cases = near_limit(system, cases, unknowns, SHIFTS[len(gaps) % len(SHIFTS)])
            first = estimate(system, cases, unknowns).below
            found = chances(system, cases, unknowns, samples)
        except DomainError:
            continue
        assert found is not None
        gap = float(np.abs(first - found.below_limit).max())
        gaps.append(gap)
        said = (", ".join(f"{100 * c:.0f}" for c in row) for row in (first, found.below_limit))
        print(f"| {name} {variant} | {' | '.join(said)} | {100 * gap:.1f} |", flush=True)
    print(
        f"{len(gaps)} builds, {sum(g > 0.05 for g in gaps)} further apart than 5 points, at most {100 * max(gaps):.1f}"
    )


def calibration(cars: int) -> None:
    """Print how often made cars hold, by the chance that is said of them."""
    said: list[float] = []
    plain: list[float] = []
    around: list[float] = []
    seed = 10_000
    while len(said) < cars:
        build = made(seed, cases=1)
        seed += 1
        if build is None:
            continue
        try:
            system, cases, unknowns = parts(build, build.variants[0].id)
            for shift in SHIFTS:
                moved = near_limit(system, cases, unknowns, shift)
                found = estimate(system, moved, unknowns)
                at = places(len(unknowns), TRUTHS, seed)
                left = spare(applied(system, unknowns, at[:, None]), moved)
                said.append(float(found.below[0]))
                plain.append(float((left[:, 0] > 0.0).mean()))
                brought = left[:, 0] - found.middle[0]
                laid = by_odds(brought) if np.isfinite(moved.duration[0]) else centred(brought)
                around.append(float((found.middle[0] + laid > 0.0).mean()))
        except DomainError:
            continue
    of, fell, laid = np.array(said), np.array(plain), np.array(around)
    print("| said to hold | cars | held, laid around the likely answer | held, plain |\n|---|---|---|---|")
    for low, high in BINS:
        some = (of >= low) & (of <= high)
        if some.any():
            row = f"{100 * laid[some].mean():.0f} % | {100 * fell[some].mean():.0f} %"
            print(f"| {100 * low:.0f} to {100 * high:.0f} % | {int(some.sum())} × {TRUTHS} | {row} |")


def main() -> None:
    """Both tables."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--samples", type=int, default=20_000)
    parser.add_argument("--random", type=int, default=50)
    parser.add_argument("--cars", type=int, default=800)
    asked = parser.parse_args()
    began = time.perf_counter()
    if asked.cars:
        calibration(asked.cars)
    against_samples(asked.samples, asked.random)
    print(f"{time.perf_counter() - began:.0f} s, load average {os.getloadavg()[0]:.1f}")


if __name__ == "__main__":
    main()
