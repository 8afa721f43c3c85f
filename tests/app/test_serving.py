"""The server as it runs: who is slow is not waited for, and health answers whatever the database does."""

from __future__ import annotations

import os
import signal
import socket
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
import uvicorn
from fastapi.testclient import TestClient

from ebbrin.app import guard, serving
from ebbrin.app.cluster import Cluster
from ebbrin.app.schema import migrate
from ebbrin.app.web import create_app

pytestmark = pytest.mark.database
NOWHERE = "postgresql+psycopg://nobody:x@127.0.0.1:1/none"


@contextmanager
def served() -> Iterator[int]:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = int(probe.getsockname()[1])
    server = uvicorn.Server(serving.config(create_app(NOWHERE), port))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.01)
    yield port
    server.should_exit = True
    thread.join()


def told(port: int, *pieces: bytes) -> bytes:
    """What comes back until the server closes the connection."""
    with socket.create_connection(("127.0.0.1", port), timeout=60) as connection:
        for piece in pieces:
            connection.sendall(piece)
        back = b""
        while more := connection.recv(65536):
            back += more
        return back


def test_a_head_that_does_not_end_is_not_waited_for(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(serving, "HEAD_WAIT", 0.3)
    with served() as port:
        assert told(port) == b""
        assert told(port, b"GET /api/v1/health HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: ") == b""
        # The next request of a connection is looked at alike.
        whole = b"GET /api/v1/nothing HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n"
        back = told(port, whole, b"GET /api/v1/health HTTP/1.1\r\n")
        assert back.count(b"HTTP/1.1 404") == 1


def test_a_body_that_does_not_end_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(guard, "BODY_WAIT", 0.3)
    with served() as port:
        head = b"POST /api/v1/evaluate HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\n"
        back = told(port, head + b"Content-Length: 900\r\n\r\n{")
        assert back.startswith(b"HTTP/1.1 408")
        assert b"urn:ebbrin:too-slow" in back


def test_health_answers_with_a_frozen_database() -> None:
    with tempfile.TemporaryDirectory(prefix="ebbrin-frozen-") as name:
        os.chmod(name, 0o755)
        cluster = Cluster(Path(name) / "pg", durable=False)
        cluster.start()
        processes: list[int] = []
        try:
            url = cluster.ensure_database("ebbrin")
            migrate(url)
            with TestClient(create_app(url), base_url="http://127.0.0.1:8600") as client:
                assert client.get("/api/v1/health").status_code == 200
                server = cluster.process()
                assert server is not None
                inner = Path(f"/proc/{server}/task/{server}/children").read_text().split()
                processes = [server, *map(int, inner)]
                for process in processes:
                    os.kill(process, signal.SIGSTOP)
                for _ in range(3):  # asked again and again it waits for one and the same look
                    answer = client.get("/api/v1/health")
                    assert answer.status_code == 503
                    assert answer.json()["database"] is False
                for process in reversed(processes):
                    os.kill(process, signal.SIGCONT)
                processes = []
                while client.get("/api/v1/health").status_code != 200:
                    time.sleep(0.1)
        finally:
            for process in reversed(processes):
                os.kill(process, signal.SIGCONT)
            cluster.stop()
