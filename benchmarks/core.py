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
from ebbrin.core.records import changed, part_of
from ebbrin.core.studies import uncertainty
from ebbrin.core.studies.assess import assess
from ebbrin.core.studies.batch import outcomes
from ebbrin.core.studies.chance import estimate
from ebbrin.core.system.parts import Cases, System
from ebbrin.demo import demo_builds

sys.path.insert(0, str(Path(__file__).parents[1]))

from oracles.floor import floor

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


CHART = ROOT / "docs" / "candidates.svg"


def chart(points: list[tuple[int, float]]) -> None:
    """Time against candidates, both by their logarithms, with the line that goes straight through the last."""
    (n_low, n_high), (t_low, t_high) = (3e2, 3e5), (3e-2, 3e2)

    def at(n: float, t: float) -> tuple[float, float]:
        x = 60 + 400 * np.log(n / n_low) / np.log(n_high / n_low)
        return float(x), float(260 - 230 * np.log(t / t_low) / np.log(t_high / t_low))

    last, took = points[-1]
    line = " ".join(f"{x:.1f},{y:.1f}" for x, y in (at(n, took * n / last) for n in (n_low, n_high)))
    dots = "".join(
        f'<circle cx="{x:.1f}" cy="{y:.1f}" r="4"/><text x="{x + 8:.1f}" y="{y + 14:.1f}">{t:.2g} s</text>'
        for (n, t) in points
        for x, y in [at(n, t)]
    )
    axes = "".join(
        f'<text x="{at(n, t_low)[0]:.1f}" y="278" text-anchor="middle">{n:,}</text>'.replace(",", " ")
        for n, _ in points
    ) + "".join(
        f'<text x="52" y="{at(n_low, t)[1] + 4:.1f}" text-anchor="end">{t:g} s</text>'
        for t in (0.1, 1, 10, 100)
    )
    CHART.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 500 300" font-family="sans-serif" font-size="12" fill="#1f2933">'
        f'<title>Time against candidates, eight cases each</title><path d="M60 30V260H470" fill="none" stroke="#7b8794"/>'
        f'<polyline points="{line}" fill="none" stroke="#7b8794" stroke-dasharray="4 4"/>{dots}{axes}'
        '<text x="265" y="296" text-anchor="middle">candidates × 8 cases</text></svg>\n',
        encoding="utf-8",
    )


def large() -> list[str]:
    """Very many candidates."""
    rows, points = [], []
    for n, rounds in ((1_000, 3), (10_000, 1), (20_000, 2), (100_000, 1)):
        system, cases = candidates(n, 8)
        took = measured(partial(outcomes, system, cases), rounds) if n < 50_000 else _once(system, cases)
        some, _ = candidates(min(n, 4000), 8)
        least = measured(floor(some, (min(n, 4000), 8)), 3) * max(n / 4000, 1.0)
        point = plain_seconds(system, cases, 24)
        rows.append(_row(f"{n:,} candidates × 8 cases".replace(",", " "), took, point * n * 8, least, peak()))
        points.append((n, took))
    chart(points)
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
    core = started([python, "-c", "import ebbrin.core.studies.assess"]) - bare
    ebbrin = str(Path(python).with_name("ebbrin"))
    lines = [
        f"{os.cpu_count()} cores ({platform.machine()}), Python {platform.python_version()}, NumPy {np.__version__}, "
        f"{date.today().isoformat()}, load average {os.getloadavg()[0]:.1f}. Least of several rounds.",
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
    main()
