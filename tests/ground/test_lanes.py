"""Long work: so much at once, so much waiting, so long; it stops when nobody waits, and nothing waits behind it."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Callable
from typing import Any

import pytest
from fastapi import Request
from fastapi.testclient import TestClient

from ebbrin.core.base import go_on
from ebbrin.ground.errors import Busy
from ebbrin.ground.lanes import HungUp, Lane, Lanes, TooLong


class Caller:
    """A request whose caller is there until told otherwise."""

    url = type("Url", (), {"path": "/somewhere"})

    def __init__(self) -> None:
        self.gone = False

    async def is_disconnected(self) -> bool:
        return self.gone


def here() -> Request:
    return Caller()  # type: ignore[return-value]


def until_unwanted(began: threading.Event) -> Callable[[], None]:
    """Work that only ends because nobody wants it any more."""

    def work() -> None:
        began.set()
        pause = threading.Event()
        while True:
            go_on()
            pause.wait(0.01)

    return work


async def seen(event: threading.Event) -> None:
    while not event.is_set():
        await asyncio.sleep(0.01)


def test_what_is_asked_is_answered_and_errors_come_through() -> None:
    def fails() -> None:
        raise KeyError("no such thing")

    async def run() -> None:
        lane = Lane(1, 1, 60.0)
        assert await lane.run(here(), lambda a, b: a + b, 2, 3) == 5
        with pytest.raises(KeyError, match="no such thing"):
            await lane.run(here(), fails)
        assert await lane.run(here(), lambda: "again") == "again"

    asyncio.run(run())


def test_beyond_the_queue_one_is_told_to_come_again() -> None:
    async def run() -> None:
        lane, release, began = Lane(1, 2, 60.0), threading.Event(), threading.Event()

        def work(number: int) -> int:
            began.set()
            release.wait()
            return number

        first = asyncio.create_task(lane.run(here(), work, 1))
        await seen(began)
        waiting = [asyncio.create_task(lane.run(here(), work, n)) for n in (2, 3)]
        await asyncio.sleep(0.01)
        with pytest.raises(Busy) as told:
            await lane.run(here(), work, 4)
        assert (told.value.again or 0) >= 1
        release.set()
        assert [await first, *[await w for w in waiting]] == [1, 2, 3]
        assert await lane.run(here(), work, 5) == 5

    asyncio.run(run())


def test_a_full_lane_is_known_by_its_address_before_a_body_is_read() -> None:
    async def run() -> None:
        all_lanes, release, began = Lanes(), threading.Event(), threading.Event()
        all_lanes.answers = Lane(1, 0, 60.0)

        def work() -> None:
            began.set()
            release.wait()

        assert not all_lanes.full("POST", "/api/v1/evaluate")
        task = asyncio.create_task(all_lanes.answers.run(here(), work))
        await seen(began)
        for path in ("/api/v1/evaluate", "/api/v1/curves/heat", "/api/v1/levers/shroud"):
            assert all_lanes.full("POST", path)
            assert not all_lanes.full("GET", path)
        for path in ("/api/v1/builds", "/api/v1/drive", "/api/v1/uncertainty"):
            assert not all_lanes.full("POST", path)
        release.set()
        await task

    asyncio.run(run())


def test_a_full_house_says_when_to_come_again(client: TestClient) -> None:
    client.app.state.lanes.answers = Lane(0, 0, 60.0)  # type: ignore[attr-defined]
    answer = client.post("/api/v1/evaluate", content=b"not even looked at")
    assert answer.status_code == 503
    assert int(answer.headers["retry-after"]) >= 1
    assert answer.headers["x-content-type-options"] == "nosniff"
    assert answer.json()["type"] == "urn:ebbrin:busy"
    assert client.get("/api/v1/builds").status_code == 200


def test_work_stops_when_its_caller_hangs_up() -> None:
    async def run() -> None:
        lane, caller, began = Lane(1, 1, 60.0), Caller(), threading.Event()
        task = asyncio.create_task(lane.run(caller, until_unwanted(began)))  # type: ignore[arg-type]
        await seen(began)
        caller.gone = True
        with pytest.raises(HungUp):
            await task
        assert await lane.run(here(), lambda: "free") == "free"

    asyncio.run(run())


def test_who_hangs_up_in_the_queue_leaves_it() -> None:
    async def run() -> None:
        lane, release, began, caller = Lane(1, 1, 60.0), threading.Event(), threading.Event(), Caller()

        def work() -> None:
            began.set()
            release.wait()

        first = asyncio.create_task(lane.run(here(), work))
        await seen(began)
        second = asyncio.create_task(lane.run(caller, work))  # type: ignore[arg-type]
        await asyncio.sleep(0.01)
        caller.gone = True
        with pytest.raises(HungUp):
            await second
        third = asyncio.create_task(lane.run(here(), lambda: "third"))
        release.set()
        await first
        assert await third == "third"

    asyncio.run(run())


def test_work_that_takes_too_long_is_stopped() -> None:
    async def run() -> None:
        lane, began = Lane(1, 1, 0.2), threading.Event()
        with pytest.raises(TooLong):
            await lane.run(here(), until_unwanted(began))
        assert await Lane(1, 1, 60.0).run(here(), lambda: 1) == 1

    asyncio.run(run())


def test_the_core_stops_in_the_middle_of_an_answer() -> None:
    from ebbrin.features.judge.service import evaluate
    from oracles.builds import linnet

    async def run() -> None:
        looks: list[Any] = []

        class Leaving(Caller):
            async def is_disconnected(self) -> bool:
                looks.append(True)
                return True

        lane, stopped = Lane(1, 1, 60.0), 0
        while not stopped:  # an answer that comes before the first look is no proof
            try:
                await lane.run(Leaving(), evaluate, linnet())  # type: ignore[arg-type]
            except HungUp:
                stopped += 1
        assert looks

    asyncio.run(run())
