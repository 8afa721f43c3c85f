"""How long a drive takes, and how it compares with a general solver: .venv/bin/python benchmarks/drive.py"""

from __future__ import annotations

import sys
import time
from dataclasses import replace
from pathlib import Path
from uuid import UUID

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from ebbrin.build.drive import Drive  # noqa: E402
from ebbrin.core.drive.controls import free  # noqa: E402
from ebbrin.core.drive.faults import FAULTS  # noqa: E402
from ebbrin.core.drive.legs import Legs, Trouble, drive_legs, drive_many  # noqa: E402
from ebbrin.core.drive.plant import plant_of  # noqa: E402
from ebbrin.core.drive.run import Course, drive, without_hysteresis  # noqa: E402
from ebbrin.core.system.parts import Cases, System  # noqa: E402
from ebbrin.demo import demo_builds  # noqa: E402
from ebbrin.features.drive import service  # noqa: E402
from ebbrin.features.drive.answers import DriveQuestion  # noqa: E402
from ebbrin.features.drive.recording import Recording, legs_from, ref_of  # noqa: E402
from oracles.builds import to_core  # noqa: E402
from oracles.drive_by_lsoda import solved  # noqa: E402
from oracles.drive_maps import maps  # noqa: E402

HOUR = 3600


def main() -> None:
    """Measure and print."""
    build = demo_builds()[1]
    system, cases = to_core(build)
    which = np.arange(20) % len(cases.ambient)
    legs = Legs(cases.taken(which), np.full(20, 180.0), np.ones(20, bool))
    began = time.perf_counter()
    drive_legs(system, legs, 298.15)
    first = time.perf_counter() - began
    names = [name for name in FAULTS if name != "one_fan_dead"]
    broken = [[Trouble(names[k % len(names)], 0.2 + 0.012 * k, 60.0 * (k % 50))] for k in range(64)]
    recorded, long = rows(HOUR), rows(4 * HOUR)
    follow = legs_from(recorded, build.site, condenser=False, warms=False)
    follow_long = legs_from(long, build.site, condenser=False, warms=False)
    print("| what | time |")
    print("|---|---|")
    print(f"| the first drive of a process, compiled code read from the disk or made | {first:.2f} s |")
    print(
        f"| 60 minutes in steps of 0.25 s, 20 legs | {best(lambda: drive_legs(system, legs, 298.15)):.3f} s |"
    )
    print(f"| 60 minutes recorded each second | {best(lambda: drive_legs(system, follow, 298.15)):.2f} s |")
    print(
        f"| four hours recorded each second | {best(lambda: drive_legs(system, follow_long, 298.15)):.2f} s |"
    )
    many = best(lambda: drive_many(system, legs, 298.15, broken, lambda _, course: course), 1)
    print(f"| 64 drives over the 20 legs, each with a fault of its own | {many:.1f} s |")
    many = best(lambda: drive_many(system, follow, 298.15, broken, lambda _, course: course), 1)
    print(f"| 64 drives over the recorded hour, each with a fault of its own | {many:.1f} s |")
    against_a_general_solver(system, cases)
    asked = Drive(id="long", recording=ref_of(long, UUID(int=0)))
    question = DriveQuestion(build=build, variant=build.variants[0].id, drive=asked)
    found = service.driven(question, long)
    answer, table = service.course_of(question, found).model_dump_json(), service.as_csv(found)
    print(
        f"| four hours as the page gets them, {len(found.course.time)} steps thinned | {len(answer) / 1e3:.0f} kB |"
    )
    print(f"| the same as CSV, every step | {len(table) / 1e6:.1f} MB |")


def rows(seconds: int) -> Recording:
    """A recorded drive through town and hills, invented."""
    t = np.arange(seconds + 1, dtype=float)
    speed = np.clip(50.0 + 45.0 * np.sin(t / 47.0) + 20.0 * np.sin(t / 11.0), 0.0, None)
    return Recording(
        name="Hills",
        time_s=t.tolist(),
        speed_km_h=speed.tolist(),
        engine_rpm=(900.0 + 20.0 * speed).tolist(),
        ambient_c=(25.0 + 5.0 * np.sin(t / 2000.0)).tolist(),
        altitude_m=(500.0 + 150.0 * np.sin(t / 300.0)).tolist(),
    )


def against_a_general_solver(system: System, cases: Cases) -> None:
    """50 minutes of three legs by both, without hysteresis, air conditioning and boiling."""
    lasts = [1200.0, 900.0, 900.0]
    chosen = cases.taken(np.array([2, 1, 2]))
    chosen = replace(chosen, air_conditioning=np.zeros(3, bool))
    on = np.ones(3, bool)
    plant, cap = without_hysteresis(plant_of(system)), float(system.cap.pressure)
    point = np.repeat(np.arange(3), [int(4 * t) for t in lasts])
    whole = np.zeros_like(point)

    def march() -> Course:
        return drive([system], chosen, on, plant, free(1, cap), point, whole, 293.15)

    ours, quick = march(), best(march)
    made = maps(system, chosen, on)
    began = time.perf_counter()
    theirs = solved(made, plant, lasts, cap, 293.15)
    slow = time.perf_counter() - began
    index = 4 * theirs.time[1:].astype(int) - 1
    apart = np.abs(ours.engine_out[index] - theirs.engine_out[1:])
    switched = ours.time[np.flatnonzero(np.diff(ours.stage)) + 1]
    late = np.abs(switched[: len(theirs.switched)] - theirs.switched)
    print(f"| 50 minutes marched | {quick * 1e3:.1f} ms |")
    print(f"| the same equations, components tabled, through SciPy's LSODA | {slow:.1f} s |")
    print(
        f"| furthest apart, engine out; {len(late)} switchings of the fan | {apart.max():.2f} K; {late.max(initial=0):.1f} s |"
    )


def best(what: object, times: int = 5) -> float:
    """The quickest of some calls [s]."""
    took = []
    for _ in range(times):
        began = time.perf_counter()
        what()  # type: ignore[operator]
        took.append(time.perf_counter() - began)
    return min(took)


if __name__ == "__main__":
    main()
