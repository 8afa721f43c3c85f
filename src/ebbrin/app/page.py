"""The built page: its files, and index.html for every address that the page itself answers."""

from __future__ import annotations

from collections.abc import Sequence
from mimetypes import guess_type
from pathlib import Path
from secrets import token_urlsafe

from fastapi import APIRouter, FastAPI, Request
from fastapi.responses import FileResponse, HTMLResponse, Response
from starlette.exceptions import HTTPException
from starlette.routing import Match

from ebbrin.app.guard import policy
from ebbrin.ground.problems import method_not_allowed

NONCE_MARK = "__EBBRIN_NONCE__"
FOREVER = "public, max-age=31536000, immutable"


ALL_METHODS = ["GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"]


def install_unknown(app: FastAPI, routers: Sequence[APIRouter]) -> None:
    """Answer every address of the interface that no route answers: 405 where another method would do, else 404."""

    @app.api_route("/api/{path:path}", methods=ALL_METHODS, include_in_schema=False)
    def unknown(path: str, request: Request) -> Response:  # noqa: ARG001
        allowed = methods_at(routers, request)
        if allowed:
            return method_not_allowed(allowed)
        raise HTTPException(404, "There is no such address.")


def methods_at(routers: Sequence[APIRouter], request: Request) -> list[str]:
    """Methods that an address of the interface answers, whatever this request's is."""
    return [
        method
        for router in routers
        for route in router.routes
        if route.matches(request.scope)[0] is Match.PARTIAL
        for method in getattr(route, "methods", None) or ()
    ]


def install(app: FastAPI, folder: Path) -> None:
    """Serve the built page from ``folder``."""
    root = folder.resolve()
    index = (root / "index.html").read_text(encoding="utf-8")
    # Read once, and sent from memory: of a page's opening, most requests ask for these.
    assets = {file.name: file.read_bytes() for file in (root / "assets").iterdir() if file.is_file()}

    @app.get("/assets/{name}", include_in_schema=False)
    async def asset(name: str) -> Response:
        # By name among those that there are: no path is made of what was asked.
        if name not in assets:
            raise HTTPException(404, "There is no such file.")
        media_type = guess_type(name)[0] or "application/octet-stream"
        return Response(assets[name], media_type=media_type, headers={"Cache-Control": FOREVER})

    @app.get("/icon.svg", include_in_schema=False)
    def icon() -> Response:
        return FileResponse(root / "icon.svg")

    @app.get("/shell.js", include_in_schema=False)
    def shell() -> Response:
        # Looked at anew each time: it says which files a browser keeps.
        return FileResponse(root / "shell.js", headers={"Cache-Control": "no-cache"})

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:  # noqa: ARG001
        nonce = token_urlsafe(16)
        headers = {"Content-Security-Policy": policy(nonce)}
        return HTMLResponse(index.replace(NONCE_MARK, nonce), headers=headers)
