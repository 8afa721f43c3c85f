"""How long a search over parts takes: .venv/bin/python benchmarks/sizing.py"""

from __future__ import annotations

import resource
import sys
import time
from dataclasses import replace
from itertools import product
from pathlib import Path

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from ebbrin.bridge.to_core import cases_from, system_from  # noqa: E402
from ebbrin.build.resolve import resolve  # noqa: E402
from ebbrin.core.records import changed  # noqa: E402
from ebbrin.core.sizing.requirement import with_fan_air  # noqa: E402
from ebbrin.core.sizing.search import Options, every, search  # noqa: E402
from ebbrin.core.sizing.target import for_margin  # noqa: E402
from ebbrin.core.system.parts import Cases, System  # noqa: E402
from ebbrin.demo import demo_builds  # noqa: E402
from ebbrin.features.shelf.generic import shipped  # noqa: E402
from ebbrin.features.size.answers import SizingQuestion  # noqa: E402
from ebbrin.features.size.service import size  # noqa: E402


def ground() -> tuple[System, Cases]:
    """Mule, its four cases and the same 5 K hotter."""
    build = demo_builds()[1]
    resolved = resolve(build, build.variants[0].id)
    cases = cases_from(resolved)
    both = cases.taken(np.arange(8) % 4)
    return system_from(resolved), replace(both, ambient=both.ambient + np.repeat([0.0, 5.0], 4))


def options(system: System) -> Options:
    """50 000 combinations: 25 × 20 cores, 25 air paths, 4 pulleys."""
    cores = []
    for width, height, depth in product(
        np.linspace(0.5, 0.9, 10), np.linspace(0.35, 0.6, 10), np.linspace(0.02, 0.07, 5)
    ):
        core = system
        for name, value in (("width", width), ("height", height), ("depth", depth)):
            core = changed(core, f"core.{name}", np.asarray(value))
        cores.append(core.core)
    airs = [with_fan_air(system, np.asarray(factor)).air for factor in np.linspace(0.8, 2.5, 25)]
    pumps = [replace(system.circuit.pump, belt_ratio=np.asarray(ratio)) for ratio in (0.9, 1.1, 1.3, 1.5)]
    return Options(cores, airs, pumps, [system.coolant])


def main() -> None:
    """Measure and print."""
    system, cases = ground()
    choices = options(system)
    index = every(choices)
    print(f"{len(index)} combinations × {len(cases.ambient)} cases")
    print("| what | time | hold | peak memory |")
    print("|---|---|---|---|")
    for name, margin in (
        ("the hardest case first, 6 K wanted", 6.0),
        ("every combination in every case", -1e6),
    ):
        began = time.perf_counter()
        found = search(system, choices, index, cases, for_margin(margin))
        took = time.perf_counter() - began
        assert found is not None
        peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1e3
        print(
            f"| {name} | {took:.1f} s | {int((found.complete & (found.margin >= margin)).sum())} | {peak:.0f} MB |"
        )
    for build in demo_builds():
        began = time.perf_counter()
        whole = size(SizingQuestion(build=build, variant=build.variants[0].id), shipped())
        assert whole is not None
        took = time.perf_counter() - began
        print(
            f"| {build.name}, the whole answer over {whole.combinations} combinations | {took:.1f} s | {len(whole.front)} on the front | |"
        )


if __name__ == "__main__":
    main()
