"""Uvicorn as Ebbrin runs it: who is slow to say what he wants is not waited for."""

from __future__ import annotations

import asyncio

import uvicorn
from starlette.types import ASGIApp
from uvicorn.protocols.http.h11_impl import H11Protocol

HEAD_WAIT = 10.0  # how long a request may take to say what it wants, s
CONNECTIONS = 300  # at once; the next ones are told to come again
LAST_WORDS = 3  # how long requests may go on once the server is told to stop, s


class PromptProtocol(H11Protocol):
    """Closes a connection whose request's head is not complete within HEAD_WAIT."""

    _clock: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """The first request is awaited from now on."""
        super().connection_made(transport)
        self._await_head()

    def data_received(self, data: bytes) -> None:
        """A head that is complete stops the clock; the first bytes of the next one set it."""
        if self._clock is None and not self._under_way():
            self._await_head()
        super().data_received(data)
        if self._under_way():
            self._stop_clock()

    def connection_lost(self, exc: Exception | None) -> None:
        """Nothing is awaited any more."""
        self._stop_clock()
        super().connection_lost(exc)

    def _under_way(self) -> bool:
        return self.cycle is not None and not self.cycle.response_complete

    def _await_head(self) -> None:
        self._clock = self.loop.call_later(HEAD_WAIT, self._too_slow)

    def _too_slow(self) -> None:
        self._clock = None
        if not self._under_way():
            self.transport.close()

    def _stop_clock(self) -> None:
        if self._clock is not None:
            self._clock.cancel()
            self._clock = None


def config(app: ASGIApp, port: int) -> uvicorn.Config:
    """How the server is set up."""
    return uvicorn.Config(
        app,
        host="127.0.0.1",
        port=port,
        log_config=None,
        log_level="warning",
        access_log=False,
        http=PromptProtocol,
        limit_concurrency=CONNECTIONS,
        timeout_graceful_shutdown=LAST_WORDS,
        server_header=False,
    )


def serve(app: ASGIApp, port: int) -> None:
    """Serve until told to stop."""
    uvicorn.Server(config(app, port)).run()
