"""All that is compiled, made before somebody waits for it: some two minutes, once for each version."""

from __future__ import annotations

import multiprocessing
import shutil
import subprocess
import sys
import time
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from ebbrin.app import keeper
from ebbrin.app.reporting import say
from ebbrin.core.compiled import CACHE, WHOLE


def compiled(state: Path) -> None:
    """Have all compiled, and hand it to the user that the server runs as."""
    began = time.monotonic()
    if CACHE is not None and not (CACHE / WHOLE).exists():
        say("computation  is compiled for this machine: one to two minutes, once")
        # In a process of its own, so that this one stays small.
        subprocess.run(
            [sys.executable, "-m", "ebbrin.app.warmth"],
            stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            check=False,
        )
    if CACHE is None or not (CACHE / WHOLE).exists():
        say("computation  not compiled ahead; first answers will take up to two minutes longer")
        return
    user, cache = keeper.ordinary_user(), keeper.cache_of(state)
    there = cache / "compiled" / CACHE.name
    if not (there / WHOLE).exists():
        shutil.rmtree(cache, ignore_errors=True)
        shutil.copytree(CACHE, there)
        for folder in (cache, cache / "compiled", *(path for path in there.rglob("*")), there):
            if user is not None:
                keeper.give(folder, user)
        cache.chmod(0o700)
    say(f"computation  compiled ({time.monotonic() - began:.1f} s)")


def an_answer() -> None:
    """What a verdict asks."""
    from ebbrin.bridge.to_core import cases_from, system_from
    from ebbrin.build.resolve import resolve
    from ebbrin.core.studies.assess import assess
    from ebbrin.demo import demo_builds

    resolved = resolve(demo_builds()[0], demo_builds()[0].variants[0].id)
    assess(system_from(resolved), cases_from(resolved))


def _its_needs() -> None:
    """The other half of what a verdict asks, from its end."""
    import numpy as np

    from ebbrin.bridge.to_core import cases_from, system_from
    from ebbrin.build.resolve import resolve
    from ebbrin.core.airpath.fan import FULL
    from ebbrin.core.media import air
    from ebbrin.core.studies.curves import heat_by_air
    from ebbrin.core.system import limits, timed
    from ebbrin.core.system.needs import needs
    from ebbrin.core.system.settle import settle
    from ebbrin.core.system.steady import judged_by
    from ebbrin.demo import demo_builds

    resolved = resolve(demo_builds()[0], demo_builds()[0].variants[0].id)
    system, cases = system_from(resolved), cases_from(resolved)
    limit = np.full(cases.ambient.shape, 381.15)
    on = settle(system, cases, FULL)
    needs(system, cases, on, limit, air.standard_pressure(cases.altitude), 0.0, 0.0)
    heat_by_air(system, cases, on, limit, 1.0)
    timed.ambient_for(system, cases, limit)
    limits.ambient_for(system, cases, limit)
    # What a sizing for a margin asks.
    judged_by(system, cases, limit)


def _a_drive() -> None:
    """The shortest drive."""
    from ebbrin.build.drive import Drive, Leg
    from ebbrin.demo import demo_builds
    from ebbrin.features.drive.answers import DriveQuestion
    from ebbrin.features.drive.service import drive

    build = demo_builds()[0]
    leg = Leg(case_id=build.cases[0].id, duration_s=5)
    drive(DriveQuestion(build=build, variant=build.variants[0].id, drive=Drive(id="short", legs=[leg])))


def _a_cause() -> None:
    """What a first answer asks where it runs hot."""
    from ebbrin.features.cause.answers import DiagnosisQuestion
    from ebbrin.features.cause.service import CauseService

    CauseService().diagnose(DiagnosisQuestion())


def needs_and_a_drive() -> None:
    """One half of all. What the other half asks as well is compiled twice side by side, and kept once."""
    _its_needs()
    _a_drive()


def an_answer_and_a_cause() -> None:
    """The other half."""
    an_answer()
    _a_cause()


def main() -> None:
    """Compile all, in two processes side by side, unless that has been done."""
    if CACHE is None or (CACHE / WHOLE).exists():
        return
    with ProcessPoolExecutor(2, mp_context=multiprocessing.get_context("spawn")) as pool:
        for half in [pool.submit(needs_and_a_drive), pool.submit(an_answer_and_a_cause)]:
            half.result()
    # What each has left to the other.
    an_answer_and_a_cause()
    needs_and_a_drive()
    (CACHE / WHOLE).touch()


if __name__ == "__main__":
    main()
