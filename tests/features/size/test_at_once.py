"""Who asks for a sizing waits for it as long as that is short, and no longer."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

import pytest

from ebbrin.features.size import runs
from ebbrin.features.size.runs import RunService
from ebbrin.features.size.store import Run, UnknownRun

NOW = datetime(2026, 1, 1, tzinfo=UTC)
WAITING = Run(UUID(int=1), UUID(int=2), "waiting", 0.0, 0, None, {}, None, NOW, None)
RUNNING = replace(WAITING, state="running", attempt=1)
DONE = replace(RUNNING, state="done", result={}, finished_at=NOW)


class Clock:
    """Time that passes only where somebody sleeps."""

    def __init__(self) -> None:
        self.now = 0.0

    def monotonic(self) -> float:
        return self.now

    def sleep(self, seconds: float) -> None:
        self.now += seconds


def waited_for(monkeypatch: pytest.MonkeyPatch, stands: Any) -> tuple[Run, float]:
    """What comes back, and after how long, where the run stands as ``stands`` says at each time."""
    clock = Clock()
    monkeypatch.setattr(runs, "time", clock)
    service = RunService(None)  # type: ignore[arg-type]
    monkeypatch.setattr(service, "find", lambda _id: stands(clock.now))
    return service._soon(WAITING), clock.now


def test_a_short_sizing_comes_back_done(monkeypatch: pytest.MonkeyPatch) -> None:
    run, took = waited_for(monkeypatch, lambda t: WAITING if t < 0.2 else RUNNING if t < 1.5 else DONE)
    assert run.state == "done"
    assert took == pytest.approx(1.5, abs=2 * runs.LOOK_AGAIN)


def test_a_long_one_is_left_to_its_worker(monkeypatch: pytest.MonkeyPatch) -> None:
    run, took = waited_for(monkeypatch, lambda t: WAITING if t < 0.2 else RUNNING)
    assert run.state == "running"
    assert took == pytest.approx(runs.AT_ONCE, abs=2 * runs.LOOK_AGAIN)


def test_nobody_waits_long_where_no_worker_takes_it_up(monkeypatch: pytest.MonkeyPatch) -> None:
    run, took = waited_for(monkeypatch, lambda _: WAITING)
    assert run.state == "waiting"
    assert took == pytest.approx(runs.TAKEN_UP, abs=2 * runs.LOOK_AGAIN)


def test_one_that_is_let_go_of_meanwhile_is_no_mistake(monkeypatch: pytest.MonkeyPatch) -> None:
    def gone(_: float) -> Run:
        raise UnknownRun(WAITING.id)

    run, _ = waited_for(monkeypatch, gone)
    assert run == WAITING
