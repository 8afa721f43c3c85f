"""How long a drive takes: .venv/bin/python benchmarks/drive.py"""

from __future__ import annotations

import sys
import time
from pathlib import Path

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from ebbrin.core.drive.faults import FAULTS  # noqa: E402
from ebbrin.core.drive.legs import Legs, Trouble, drive_legs, drive_many  # noqa: E402
from ebbrin.demo import demo_builds  # noqa: E402
from ebbrin.document.resolve import resolve  # noqa: E402
from ebbrin.document.to_core import cases_from, system_from  # noqa: E402


def main() -> None:
    """Measure and print."""
    build = demo_builds()[1]
    resolved = resolve(build, build.variants[0].id)
    system, cases = system_from(resolved), cases_from(resolved)
    which = np.arange(20) % len(cases.ambient)
    legs = Legs(cases.taken(which), np.full(20, 180.0), np.ones(20, bool))
    began = time.perf_counter()
    drive_legs(system, legs, 298.15)
    first = time.perf_counter() - began
    alone = min(_timed(system, legs, ()) for _ in range(5))
    names = [name for name in FAULTS if name != "one_fan_dead"]
    began = time.perf_counter()
    cases_of_fault = [[Trouble(names[k % len(names)], 0.2 + 0.012 * k, 60.0 * (k % 50))] for k in range(64)]
    drive_many(system, legs, 298.15, cases_of_fault)
    many = time.perf_counter() - began
    print("| what | time |")
    print("|---|---|")
    print(f"| the first drive of a process, compiled code read from the disk or made | {first:.2f} s |")
    print(f"| 60 minutes in steps of 0.25 s, 20 legs | {alone * 1e3:.0f} ms |")
    print(f"| 64 such drives, each with a fault of its own | {many:.1f} s |")


def _timed(system: object, legs: Legs, troubles: tuple[Trouble, ...]) -> float:
    began = time.perf_counter()
    drive_legs(system, legs, 298.15, troubles)  # type: ignore[arg-type]
    return time.perf_counter() - began


if __name__ == "__main__":
    main()
