"""Answers that hang on their question alone are kept for a while: going back, a second tab, a reload cost nothing.

A route may be a ``KeptRoute`` if nothing but its address and body tell its answer: no store, clock or chance.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Coroutine
from hashlib import sha256
from typing import Any

from fastapi import Request, Response
from fastapi.routing import APIRoute

ROOM = 32_000_000
"""How many bytes of answers one application keeps."""


class Kept:
    """The answers given last, at most ``room`` bytes of them; used by the event loop alone."""

    def __init__(self, room: int = ROOM) -> None:
        self._room, self._held = room, 0
        self._answers: OrderedDict[bytes, bytes] = OrderedDict()

    def find(self, key: bytes) -> bytes | None:
        """The answer to a question asked before, if it is still there."""
        if key in self._answers:
            self._answers.move_to_end(key)
        return self._answers.get(key)

    def keep(self, key: bytes, answer: bytes) -> None:
        """Keep an answer; those asked for longest ago give way. One larger than all the room is not kept."""
        if len(answer) > self._room:
            return
        self._held += len(answer) - len(self._answers.pop(key, b""))
        self._answers[key] = answer
        while self._held > self._room:
            self._held -= len(self._answers.popitem(last=False)[1])


class KeptRoute(APIRoute):
    """A route that answers a question asked before with what it answered then."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """As ``APIRoute`` has it."""
        work = super().get_route_handler()

        async def answer(request: Request) -> Response:
            kept: Kept = request.app.state.kept
            key = await _key(request)
            found = kept.find(key)
            if found is not None:
                return Response(found, media_type="application/json")
            response = await work(request)
            # What is refused is said anew: a lane may have room by then.
            if response.status_code == 200:
                kept.keep(key, bytes(response.body))
            return response

        return answer


async def _key(request: Request) -> bytes:
    """What tells one question from another."""
    asked = (request.method, request.url.path, request.url.query, request.headers.get("content-type", ""))
    return sha256("\n".join(asked).encode() + b"\n" + await request.body()).digest()
