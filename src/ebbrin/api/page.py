"""The built page: its files, and index.html for every address that the page itself answers."""

from __future__ import annotations

from pathlib import Path
from secrets import token_urlsafe

from fastapi import FastAPI
from fastapi.responses import FileResponse, HTMLResponse, Response
from starlette.exceptions import HTTPException

from ebbrin.api.guard import policy

NONCE_MARK = "__EBBRIN_NONCE__"
FOREVER = "public, max-age=31536000, immutable"


def install(app: FastAPI, folder: Path) -> None:
    """Serve the built page from ``folder``."""
    root = folder.resolve()
    index = (root / "index.html").read_text(encoding="utf-8")

    @app.get("/assets/{name}", include_in_schema=False)
    def asset(name: str) -> Response:
        file = (root / "assets" / name).resolve()
        if file.parent != root / "assets" or not file.is_file():
            raise HTTPException(404, "There is no such file.")
        return FileResponse(file, headers={"Cache-Control": FOREVER})

    @app.get("/icon.svg", include_in_schema=False)
    def icon() -> Response:
        return FileResponse(root / "icon.svg")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        if path.startswith("api/"):
            raise HTTPException(404, "There is no such address.")
        nonce = token_urlsafe(16)
        headers = {"Content-Security-Policy": policy(nonce)}
        return HTMLResponse(index.replace(NONCE_MARK, nonce), headers=headers)
