"""The built page as it is sent: packed once, and what a build is shown by asked for together with the first script."""

import gzip
import json
import re
from pathlib import Path

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from ebbrin.app import page

SCRIPT = b"export const answer = 42;\n" * 200
FONT = b"wOF2" + bytes(range(256)) * 20


@pytest.fixture
def client(tmp_path: Path) -> TestClient:
    (tmp_path / "assets").mkdir()
    for name in ("index-1.js", "kit-1.js", "Builds-1.js", "table-1.js", "deep-1.js"):
        (tmp_path / "assets" / name).write_bytes(SCRIPT)
    (tmp_path / "assets" / "letters.woff2").write_bytes(FONT)
    (tmp_path / "index.html").write_text('<html><head><meta content="__EBBRIN_NONCE__"></head></html>')
    made = {
        "index.html": {"file": "assets/index-1.js", "isEntry": True, "imports": ["_kit.js"]},
        "_kit.js": {"file": "assets/kit-1.js"},
        "_table.js": {"file": "assets/table-1.js", "imports": ["_kit.js", "_deep.js"]},
        "_deep.js": {"file": "assets/deep-1.js", "imports": ["_table.js"]},
        "src/app/Builds.tsx": {"file": "assets/Builds-1.js", "imports": ["index.html", "_table.js"]},
    }
    (tmp_path / "manifest.json").write_text(json.dumps(made))
    app = FastAPI()
    page.install(app, tmp_path)
    return TestClient(app)


def test_a_script_is_packed_for_whoever_takes_it_so(client: TestClient) -> None:
    packed = client.get("/assets/Builds-1.js", headers={"Accept-Encoding": "gzip, br"})
    assert packed.content == SCRIPT
    assert packed.headers["content-encoding"] == "gzip"
    assert int(packed.headers["content-length"]) == len(gzip.compress(SCRIPT))
    plain = client.get("/assets/Builds-1.js", headers={"Accept-Encoding": "identity"})
    assert plain.content == SCRIPT
    assert "content-encoding" not in plain.headers
    # Whoever keeps one for others must tell the two apart.
    assert packed.headers["vary"] == plain.headers["vary"] == "Accept-Encoding"


def test_a_font_is_packed_already(client: TestClient) -> None:
    sent = client.get("/assets/letters.woff2", headers={"Accept-Encoding": "gzip"})
    assert sent.content == FONT
    assert "content-encoding" not in sent.headers


def test_what_shows_a_build_is_asked_for_with_the_first_script_at_a_build_alone(client: TestClient) -> None:
    def ahead(address: str) -> set[str]:
        return set(
            re.findall(r'<link rel="modulepreload" crossorigin href="([^"]*)">', client.get(address).text)
        )

    assert ahead("/") == ahead("/shelf") == set()
    # Each once, what the first script brings left out.
    assert ahead("/builds/7/as-found") == {
        "/assets/Builds-1.js",
        "/assets/table-1.js",
        "/assets/deep-1.js",
    }
    assert "__EBBRIN_NONCE__" not in client.get("/builds/7/as-found").text
