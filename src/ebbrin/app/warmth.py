"""The compiled part of a drive, made before somebody waits for it: some six seconds, once for each version."""

from __future__ import annotations

import subprocess
import sys
import time
from pathlib import Path

from ebbrin.app import keeper
from ebbrin.app.reporting import say
from ebbrin.ground.version import version


def compiled(state: Path) -> None:
    """Have the server's own user compile a drive into the server's own cache, unless this version has done so."""
    cache = keeper.cache_of(state, "server")
    done = cache / f"compiled-{version()}"
    if done.exists():
        return
    user = keeper.ordinary_user()
    keeper.given(cache, user)
    began = time.monotonic()
    made = subprocess.run(
        [*(keeper.as_user(user) if user else []), sys.executable, "-m", "ebbrin.app.warmth"],
        stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, check=False, cwd="/",
        env=keeper.plain_environment() | {"NUMBA_CACHE_DIR": str(cache), "PYTHONDONTWRITEBYTECODE": "1"},
    )  # fmt: skip
    if made.returncode:
        say("drives       not compiled ahead; the first one will take some seconds longer")
        return
    done.touch()
    say(f"drives       compiled ({time.monotonic() - began:.1f} s)")


def a_drive() -> None:
    """The shortest way through all that is compiled."""
    from ebbrin.build.drive import Drive, Leg
    from ebbrin.demo import demo_builds
    from ebbrin.features.drive.answers import DriveQuestion
    from ebbrin.features.drive.service import drive

    build = demo_builds()[0]
    leg = Leg(case_id=build.cases[0].id, duration_s=5)
    drive(DriveQuestion(build=build, variant=build.variants[0].id, drive=Drive(id="short", legs=[leg])))


if __name__ == "__main__":
    a_drive()
