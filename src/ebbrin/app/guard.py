"""What stands before the routes: who may ask, how much, and what a browser may load."""

from __future__ import annotations

import logging
from asyncio import wait_for
from time import monotonic
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ebbrin.ground.problems import SAFE_METHODS, crashed, problem_response, too_busy

BODY_LIMIT, PHOTO_LIMIT = 1_000_000, 15_000_000
LOCAL_NAMES = frozenset({"127.0.0.1", "localhost", "::1"})

POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self' {nonce}; img-src 'self' data:; "
    "font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
)


def policy(nonce: str | None = None) -> str:
    """The content security policy; the page's own styles carry ``nonce``."""
    return POLICY.format(nonce=f"'nonce-{nonce}'" if nonce else "").replace("  ", " ").replace(" ;", ";")


def _name(netloc: str) -> str | None:
    try:
        return urlsplit(f"//{netloc}").hostname
    except ValueError:
        return None


class TooLarge(Exception):
    """The body has passed the limit."""


class TooSlow(Exception):
    """The body has not come in time."""


BODY_WAIT = 15.0  # how long a body may take to come in, s
TOO_SLOW = (408, "too-slow", "Too slow", f"The body did not come in within {BODY_WAIT:.0f} s; send it again.")
log = logging.getLogger(__name__)


class Guard:
    """Checks Host and Origin, bounds the body, and sets the security headers."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, or refuse it."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        refusal = self._refusal(scope, headers)
        if refusal is not None:
            await problem_response(*refusal)(scope, receive, _with_headers(send))
            return
        # Before the body is read: looking through many that cannot be answered would keep the others waiting.
        if "app" in scope and scope["app"].state.lanes.full(scope["method"], scope["path"]):
            await too_busy()(scope, receive, _with_headers(send))
            return
        body = _Body(receive, _with_headers(send), _limit(scope))
        try:
            await self._app(scope, body.receive, body.send)
        except (TooLarge, TooSlow):
            pass
        except Exception:
            log.exception("%s %s", scope["method"], scope["path"])
            if body.answered:
                raise
            await crashed()(scope, receive, _with_headers(send))
        if body.refused and not body.answered:
            why = _too_large(_limit(scope)) if body.too_large else TOO_SLOW
            await problem_response(*why)(scope, receive, _with_headers(send))

    @staticmethod
    def _refusal(scope: Scope, headers: Headers) -> tuple[int, str, str, str] | None:
        host = headers.get("host", "")
        if _name(host) not in LOCAL_NAMES:
            return 421, "wrong-host", "Wrong host", "Ebbrin answers only at its own address on this machine."
        origin = headers.get("origin")
        if origin is not None and scope["method"] not in SAFE_METHODS and urlsplit(origin).netloc != host:
            return 403, "wrong-origin", "Wrong origin", "Only Ebbrin's own page may change anything here."
        length = headers.get("content-length", "0")
        if length.isdigit() and int(length) > _limit(scope):
            return _too_large(_limit(scope))
        return None


def _limit(scope: Scope) -> int:
    """How many bytes a body may hold: a photo more than anything else."""
    return PHOTO_LIMIT if scope["method"] == "PUT" and "/photos/" in scope["path"] else BODY_LIMIT


def _too_large(limit: int) -> tuple[int, str, str, str]:
    return 413, "too-large", "Too large", f"A body may hold {limit // 1000} kB at most."


class _Body:
    """Counts a body as it comes in; once it is too large, what the routes answer is not sent."""

    def __init__(self, receive: Receive, send: Send, limit: int) -> None:
        self._receive, self._send, self._seen, self._limit = receive, send, 0, limit
        self._whole, self._until = False, monotonic() + BODY_WAIT
        self.answered = self.too_slow = False

    @property
    def too_large(self) -> bool:
        return self._seen > self._limit

    @property
    def refused(self) -> bool:
        """Whether no route's answer is sent."""
        return self.too_large or self.too_slow

    async def receive(self) -> Message:
        if self._whole:
            return await self._receive()
        try:
            message = await wait_for(self._receive(), max(self._until - monotonic(), 0.001))
        except TimeoutError:
            self.too_slow = True
            raise TooSlow from None
        self._seen += len(message.get("body", b""))
        self._whole = not message.get("more_body", False)
        if self.too_large:
            raise TooLarge
        return message

    async def send(self, message: Message) -> None:
        if not self.refused:
            self.answered = True
            await self._send(message)


def _with_headers(send: Send) -> Send:
    async def wrapped(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            headers.setdefault("Content-Security-Policy", policy())
            headers.setdefault("X-Content-Type-Options", "nosniff")
            headers.setdefault("Referrer-Policy", "no-referrer")
            headers.setdefault("Cross-Origin-Opener-Policy", "same-origin")
            headers.setdefault("Cross-Origin-Resource-Policy", "same-origin")
            headers.setdefault("Cache-Control", "no-store")
        await send(message)

    return wrapped
