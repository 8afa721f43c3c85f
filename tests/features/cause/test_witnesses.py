"""Cars that are driven behind the scenes."""

import threading
import time
from typing import Any

import numpy as np
import pytest

from ebbrin.build.build import Build
from ebbrin.core.compiled import over_cores
from ebbrin.features.cause import witnesses
from oracles.builds import linnet


def test_what_gives_way_begins_no_helper_that_answers_share(monkeypatch: pytest.MonkeyPatch) -> None:
    # A thread begins as soft as the one that began it, and stays so: every answer's second half would come late.
    build = linnet()
    ran: set[str] = set()

    def kernel(_a: Any, _b: Any, _elements: Any, _first: int, _last: int) -> None:
        time.sleep(0.01)
        ran.add(threading.current_thread().name)

    def drive_all(_build: Build, _variant: str) -> None:
        over_cores(1e4, kernel, None, None, np.zeros(16))

    monkeypatch.setattr(witnesses, "drive_all", drive_all)
    kept = witnesses.Witnesses()
    try:
        assert kept.wait(build, build.variants[0].id) is None
    finally:
        kept.close()
    assert len(ran) == 1
    assert next(iter(ran)).startswith("witness")
