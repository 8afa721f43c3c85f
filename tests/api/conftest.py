"""A client on the real application with a database of its own."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from ebbrin.api.app import create_app


@pytest.fixture
def client(database_url: str) -> Iterator[TestClient]:
    app = create_app(database_url)
    with TestClient(app, base_url="http://127.0.0.1:8600", raise_server_exceptions=False) as client:
        yield client
    app.state.database.close()
