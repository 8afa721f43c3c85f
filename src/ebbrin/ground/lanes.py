"""Lanes for work that takes long: so many at once, so many waiting, so long; the others are told to come again.

Work runs in threads of its own, so that opening and saving never wait behind it. It stops when its caller hangs up or
its time is over: the core looks whether it is still wanted (core/base.py, ``go_on``).
"""

from __future__ import annotations

import asyncio
import logging
import threading
from collections.abc import Callable
from typing import Any, TypeVar

import anyio
import anyio.to_thread
from fastapi import Request

from ebbrin.core.base import Abandoned, still_wanted
from ebbrin.ground.errors import Busy, EbbrinError

T = TypeVar("T")
LOOK_AGAIN = 0.05  # how often it is looked whether a caller has gone, s
GRACE = (
    2.0  # how long work may take to notice that it is not wanted any more before its answer is given up, s
)
log = logging.getLogger(__name__)


class TooLong(EbbrinError):
    """The work took longer than ``seconds``."""

    status, kind, title, again = 503, "too-long", "It took too long", 5

    def __init__(self, seconds: float) -> None:
        super().__init__(
            f"This took longer than {seconds:.0f} s and was stopped. "
            "Try again when there is less to do, or ask for less."
        )


class HungUp(EbbrinError):
    """Nobody waits for the answer."""

    status, kind, title = 499, "hung-up", "Nobody waits"

    def __init__(self) -> None:
        super().__init__("Nobody waits for the answer.")


class Lane:
    """Work of one kind.

    Parameters
    ----------
    at_once, waiting : how much of it runs at a time, and how much may wait for that.
    seconds : how long one piece may take, its waiting counted.
    """

    def __init__(self, at_once: int, waiting: int, seconds: float) -> None:
        self._most, self._most_waiting, self._seconds = at_once, waiting, seconds
        self._running = 0
        self._queue: list[asyncio.Future[None]] = []
        self._limiter: anyio.CapacityLimiter | None = None

    @property
    def full(self) -> bool:
        """Whether the next one would be told to come again."""
        return self._running >= self._most and len(self._queue) >= self._most_waiting

    async def run(self, request: Request, work: Callable[..., T], *given: Any) -> T:
        """What ``work`` comes to.

        Raises
        ------
        Busy, TooLong, HungUp
        """
        loop = asyncio.get_running_loop()
        until = loop.time() + self._seconds
        await self._enter(request, until)
        wanted = threading.Event()
        wanted.set()
        still_wanted.set(wanted.is_set)
        if self._limiter is None:
            self._limiter = anyio.CapacityLimiter(self._most)
        task = asyncio.create_task(anyio.to_thread.run_sync(work, *given, limiter=self._limiter))
        task.add_done_callback(self._leave)
        why: Exception | None = None
        given_up = float("inf")
        while not (await asyncio.wait({task}, timeout=LOOK_AGAIN))[0]:
            now = loop.time()
            if why is None and await request.is_disconnected():
                why = HungUp()
            elif why is None and now > until:
                why = TooLong(self._seconds)
            if why is not None:
                wanted.clear()
                given_up = min(given_up, now + GRACE)
                if now > given_up:
                    log.warning("work goes on that nobody waits for: %s", request.url.path)
                    raise why
        try:
            return task.result()
        except Abandoned:
            raise (why or HungUp()) from None

    async def _enter(self, request: Request, until: float) -> None:
        if self._running < self._most and not self._queue:
            self._running += 1
            return
        if len(self._queue) >= self._most_waiting:
            raise Busy(2)
        turn: asyncio.Future[None] = asyncio.get_running_loop().create_future()
        self._queue.append(turn)
        try:
            while not (await asyncio.wait({turn}, timeout=LOOK_AGAIN))[0]:
                if await request.is_disconnected():
                    raise HungUp
                if asyncio.get_running_loop().time() > until:
                    raise Busy(5)
        except BaseException:
            if turn in self._queue:
                self._queue.remove(turn)
            else:
                self._next()  # our turn has come and is not taken
            raise

    def _leave(self, task: asyncio.Task[Any]) -> None:
        if not task.cancelled():
            task.exception()  # an answer that was given up is not asked for again
        self._next()

    def _next(self) -> None:
        """Hand our place on, or leave it."""
        if self._queue:
            self._queue.pop(0).set_result(None)
        else:
            self._running -= 1


ANSWERS = {"at_once": 1, "waiting": 24, "seconds": 20.0}
"""What one types for: verdicts, curves, levers."""
CHANCES = {"at_once": 1, "waiting": 8, "seconds": 30.0}
DRIVES = {"at_once": 1, "waiting": 8, "seconds": 30.0}
FAULTS = {"at_once": 1, "waiting": 2, "seconds": 60.0}
FILES = {"at_once": 1, "waiting": 4, "seconds": 30.0}


class Lanes:
    """The lanes of one application."""

    def __init__(self) -> None:
        self.answers = Lane(**ANSWERS)  # type: ignore[arg-type]
        self.chances = Lane(**CHANCES)  # type: ignore[arg-type]
        self.drives = Lane(**DRIVES)  # type: ignore[arg-type]
        self.faults = Lane(**FAULTS)  # type: ignore[arg-type]
        self.files = Lane(**FILES)  # type: ignore[arg-type]

    def full(self, method: str, path: str) -> bool:
        """Whether a request is one for a lane that is full; known before its body is read."""
        if method != "POST":
            return False
        for start, lane in (
            ("/api/v1/evaluate", self.answers),
            ("/api/v1/curves/", self.answers),
            ("/api/v1/levers/", self.answers),
            ("/api/v1/diagnosis", self.answers),
            ("/api/v1/uncertainty", self.chances),
            ("/api/v1/practice/", self.drives),
            ("/api/v1/drive/faults", self.faults),
            ("/api/v1/drive", self.drives),
            ("/api/v1/shelf/import", self.files),
            ("/api/v1/recordings", self.files),
        ):
            if path.startswith(start):
                return lane.full
        return False


def lanes(request: Request) -> Lanes:
    """The lanes of the application that answers."""
    found: Lanes = request.app.state.lanes
    return found
