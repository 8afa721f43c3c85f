"""The built page: its files, and index.html for every address that the page itself answers."""

from __future__ import annotations

import json
from collections.abc import Sequence
from functools import cache
from gzip import compress
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
BUILDS = "src/app/Builds.tsx"
"""What every address below /builds/ is shown by; the rest of the page asks for it only once it runs itself."""
PACKED_ALREADY = ("font/woff2", "image/png")

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
    builds = index.replace("</head>", f"{_asked_ahead(root)}</head>")
    # Read once, and sent from memory: of a page's opening, most requests ask for these.
    assets = {file.name: file.read_bytes() for file in (root / "assets").iterdir() if file.is_file()}

    @cache
    def packed(name: str) -> bytes:
        return compress(assets[name], mtime=0)

    @app.get("/assets/{name}", include_in_schema=False)
    async def asset(name: str, request: Request) -> Response:
        # By name among those that there are: no path is made of what was asked.
        if name not in assets:
            raise HTTPException(404, "There is no such file.")
        media_type = guess_type(name)[0] or "application/octet-stream"
        headers = {"Cache-Control": FOREVER, "Vary": "Accept-Encoding"}
        if media_type in PACKED_ALREADY or "gzip" not in request.headers.get("accept-encoding", ""):
            return Response(assets[name], media_type=media_type, headers=headers)
        return Response(packed(name), media_type=media_type, headers=headers | {"Content-Encoding": "gzip"})

    @app.get("/icon.svg", include_in_schema=False)
    def icon() -> Response:
        return FileResponse(root / "icon.svg")

    @app.get("/shell.js", include_in_schema=False)
    def shell() -> Response:
        # Looked at anew each time: it says which files a browser keeps.
        return FileResponse(root / "shell.js", headers={"Cache-Control": "no-cache"})

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        nonce = token_urlsafe(16)
        headers = {"Content-Security-Policy": policy(nonce)}
        shown = builds if path.startswith("builds/") else index
        return HTMLResponse(shown.replace(NONCE_MARK, nonce), headers=headers)


def _asked_ahead(root: Path) -> str:
    """Links that have a browser ask for what shows a build together with the page's first script."""
    made = json.loads((root / "manifest.json").read_text(encoding="utf-8"))
    first, wanted = next(name for name, file in made.items() if file.get("isEntry")), [BUILDS]
    there = {first, *made[first].get("imports", ())}
    for name in wanted:
        wanted += [other for other in made[name].get("imports", ()) if other not in {*there, *wanted}]
    return "".join(f'<link rel="modulepreload" crossorigin href="/{made[name]["file"]}">' for name in wanted)
