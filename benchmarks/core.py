"""How fast the core is, beside a plain point-by-point solver of the same equations and beside the floor.

One command: .venv/bin/python benchmarks/core.py
It writes its tables into docs/benchmarks.md between the marks; --print only shows them.
"""

from __future__ import annotations

import gc
import os
import platform
import resource
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import fields
from datetime import date
from functools import partial
from pathlib import Path

import numpy as np

from ebbrin.bridge.to_core import cases_from, system_from
from ebbrin.bridge.unknowns import all_unknowns
from ebbrin.build.resolve import resolve
from ebbrin.core.base import FloatArray
from ebbrin.core.ducts import pressure_drop
from ebbrin.core.media import air
from ebbrin.core.media.coolants import properties
from ebbrin.core.radiator import air_side, coolant_side
from ebbrin.core.radiator.exchange import crossflow_effectiveness
from ebbrin.core.records import changed, part_of
from ebbrin.core.studies import uncertainty
from ebbrin.core.studies.assess import assess
from ebbrin.core.studies.batch import outcomes
from ebbrin.core.studies.chance import estimate
from ebbrin.core.system.parts import Cases, System
from ebbrin.demo import demo_builds

ROOT = Path(__file__).parents[1]
PAGE = ROOT / "docs" / "benchmarks.md"
BEGIN, END = "<!-- core: written by benchmarks/core.py -->", "<!-- end of core -->"
DEMO = ROOT / "src" / "ebbrin" / "demo" / "linnet.json"


def demo(cases: int) -> tuple[System, Cases]:
    """The demo's coupé with its four cases repeated at other ambients."""
    resolved = resolve(demo_builds()[0], demo_builds()[0].variants[0].id)
    system, own = system_from(resolved), cases_from(resolved)
    which = np.resize(np.arange(len(own.ambient)), cases)
    values = {f.name: getattr(own, f.name)[which] for f in fields(Cases)}
    return system, Cases(**values | {"ambient": values["ambient"] + np.linspace(-6.0, 6.0, cases)})


def candidates(n: int, cases: int) -> tuple[System, Cases]:
    """``n`` made-up variations of the demo: core, fins, ducting, fan, pump, thermostat."""
    system, own = demo(cases)
    rng = np.random.default_rng(11)
    for path, low, high in (
        ("core.width", 0.35, 0.8),
        ("core.height", 0.3, 0.5),
        ("core.depth", 0.02, 0.06),
        ("core.fin_pitch", 1.3e-3, 2.6e-3),
        ("air.ram", 0.2, 0.9),
        ("air.fan.diameter", 0.2, 0.3),
        ("circuit.pump.run_out", 1.5e-3, 6e-3),
        ("circuit.thermostat.opens", 344.0, 364.0),
    ):
        system = changed(system, path, rng.uniform(low, high, (n, 1)))
    return system, own


def measured(call: Callable[[], object], rounds: int) -> float:
    """Least seconds of some rounds, after one that warms up."""
    call()
    gc.collect()
    least = float("inf")
    for _ in range(rounds):
        began = time.perf_counter()
        call()
        least = min(least, time.perf_counter() - began)
    return least


def floor(system: System, shape: tuple[int, int]) -> Callable[[], object]:
    """One plain evaluation of properties, air side, coolant side and effectiveness over (candidates, cases)."""
    T = np.full(shape, 370.0) + np.linspace(0.0, 5.0, shape[1])
    surface, tubes = air_side.surface(system.core), system.tubes
    G, Q = np.full(shape, 6.0), np.full(shape, 1.5e-3)

    def once() -> FloatArray:
        fluid = properties(system.coolant, T)
        Re = air_side.reynolds(surface, G, 330.0)
        film = air_side.heat_transfer_coefficient(surface, G, Re)
        eta = air_side.surface_efficiency(air_side.fin_efficiency(surface, film), system.core.fin_share)
        air_side.pressure_drop(surface, G, 330.0, 1.07)
        inside = coolant_side.inner_resistance(tubes, coolant_side.tube_reynolds(tubes, Q, fluid), fluid)
        pressure_drop(coolant_side.tube_duct(tubes, fluid), Q)
        UA = 1.0 / (1.0 / (eta * film * system.core.air_area) + inside)
        C, C_air = Q * fluid.density * fluid.heat_capacity, G * system.core.open_face * air.HEAT_CAPACITY
        least = np.minimum(C, C_air)
        return crossflow_effectiveness(UA / least, least / np.maximum(C, C_air)) * least

    return once


def plain_seconds(system: System, cases: Cases, points: int) -> float:
    """Seconds that the plain solver takes for one steady point, mean of some."""
    from oracles import plain_solver

    n = len(cases.ambient)
    plain_solver.steady_top_hose(_one(system, 0), cases, 0)
    began = time.perf_counter()
    for k in range(points):
        plain_solver.steady_top_hose(_one(system, k // n), cases, k % n)
    return (time.perf_counter() - began) / points


def _one(system: System, k: int) -> System:
    few = part_of(system, np.array([k]))
    for path in ("core", "air", "circuit"):
        few = changed(few, path, _scalars(getattr(few, path)))
    return few


def _scalars(record: object) -> object:
    values = {}
    for field in fields(record):  # type: ignore[arg-type]
        value = getattr(record, field.name)
        nested = hasattr(value, "__dataclass_fields__")
        values[field.name] = _scalars(value) if nested else (value[0, 0] if np.ndim(value) >= 2 else value)
    return type(record)(**values)


def peak() -> float:
    """Most memory so far [MB]."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1e3


def small() -> list[str]:
    """One build, a dozen cases."""
    system, cases = demo(12)
    named = all_unknowns(system, resolve(demo_builds()[0], "as-found"))
    unknowns = [entry.unknown for entry in named]
    a = assess(system, cases)
    systems = len(a.levers.names) + 1
    point = plain_seconds(changed(system, "core.width", system.core.width.reshape(1, 1)), cases, 24)
    rows = []
    for name, call, points in (
        (f"one build, 12 cases, limits, {systems - 1} levers", lambda: assess(system, cases), 12 * systems),
        ("400 samples × 12 cases", lambda: uncertainty.chances(system, cases, unknowns), 4800),
        (f"chances from {len(unknowns)} unknowns × 12 cases", lambda: estimate(system, cases, unknowns), 12 * (2 * len(unknowns) + 1)),
    ):  # fmt: skip
        took = measured(call, 12)
        least = measured(floor(system, (points // 12, 12)), 60)
        rows.append(_row(name, took, point * points, least))
    return rows


def large() -> list[str]:
    """Very many candidates."""
    rows = []
    for n, rounds in ((1_000, 3), (10_000, 1), (20_000, 2), (100_000, 1)):
        system, cases = candidates(n, 8)
        took = measured(partial(outcomes, system, cases), rounds) if n < 50_000 else _once(system, cases)
        some, _ = candidates(min(n, 4000), 8)
        least = measured(floor(some, (min(n, 4000), 8)), 3) * max(n / 4000, 1.0)
        point = plain_seconds(system, cases, 24)
        rows.append(_row(f"{n:,} candidates × 8 cases".replace(",", " "), took, point * n * 8, least, peak()))
    return rows


def _once(system: System, cases: Cases) -> float:
    began = time.perf_counter()
    outcomes(system, cases)
    return time.perf_counter() - began


def _row(name: str, took: float, plain: float, least: float, memory: float | None = None) -> str:
    time_ = f"{took * 1e3:.0f} ms" if took < 1.0 else f"{took:.1f} s"
    shown = "" if memory is None else f"{memory:.0f} MB"
    return f"| {name} | {time_} | {plain / took:.0f} | {took / least:.0f} | {shown} |"


def started(command: list[str]) -> float:
    """Least seconds of five starts of a command, each in a new process."""
    least = float("inf")
    for _ in range(6):
        began = time.perf_counter()
        subprocess.run(command, check=True, capture_output=True, cwd=ROOT)
        least = min(least, time.perf_counter() - began)
    return least


def tables() -> str:
    """All of it as Markdown."""
    python = sys.executable
    bare = started([python, "-c", "pass"])
    core = started([python, "-c", "import ebbrin.core.system.assess"]) - bare
    ebbrin = str(Path(python).with_name("ebbrin"))
    lines = [
        f"{os.cpu_count()} cores ({platform.machine()}), Python {platform.python_version()}, NumPy {np.__version__}, "
        f"{date.today().isoformat()}. Least of several rounds.",
        "",
        "| what | time | plain solver takes, times | floors | peak memory |",
        "|---|---|---|---|---|",
        *small(),
        *large(),
        "",
        "| start | time |",
        "|---|---|",
        f"| importing the core | {core * 1e3:.0f} ms |",
        f"| `ebbrin evaluate` in all | {started([ebbrin, 'evaluate', str(DEMO)]) * 1e3:.0f} ms |",
        f"| `ebbrin evaluate --chance` in all | {started([ebbrin, 'evaluate', str(DEMO), '--chance']) * 1e3:.0f} ms |",
    ]
    return "\n".join(lines)


def main() -> None:
    """Measure, print, and store."""
    text = tables()
    print(text)
    if "--print" not in sys.argv:
        page = PAGE.read_text(encoding="utf-8")
        before, rest = page.split(BEGIN)
        PAGE.write_text(f"{before}{BEGIN}\n{text}\n{END}{rest.split(END)[1]}", encoding="utf-8")


if __name__ == "__main__":
    sys.path.insert(0, str(ROOT))
    main()
