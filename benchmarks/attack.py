"""Throw much at the interface: every field at both ends, valid builds with a value replaced, and requests made from the
interface's own description, with what earlier answers gave. Nothing may be answered 5xx, or take longer than SLOW.

Run from the project's root: .venv/bin/python benchmarks/attack.py [--mutations N] [--requests N]
It needs the packages for checking (./check installs them) and starts a throw-away database of its own.
"""

from __future__ import annotations

import argparse
import json
import os
import shutil
import sys
import tempfile
import time
from pathlib import Path

from fastapi.testclient import TestClient

sys.path.insert(0, str(Path(__file__).parents[1]))

from ebbrin.app.cluster import Cluster
from ebbrin.app.schema import migrate
from ebbrin.app.web import create_app
from oracles.attack import OWN_ADDRESS, Watch, at_both_ends, described, mutated, throw


def main() -> None:
    """All of it, as a table."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--mutations", type=int, default=4000)
    parser.add_argument("--requests", type=int, default=20_000)
    asked = parser.parse_args()
    folder = Path(tempfile.mkdtemp(prefix="ebbrin-attack-", dir="/var/tmp"))
    folder.chmod(0o755)
    cluster = Cluster(folder / "postgres", durable=False)
    wrong: list[str] = []
    print("| what | requests | statuses | wrong | over 2 s, longest | took |\n|---|---|---|---|---|---|")
    try:
        cluster.start()
        url = cluster.ensure_database("ebbrin")
        migrate(url)
        app = create_app(url)
        with TestClient(app, base_url=OWN_ADDRESS, raise_server_exceptions=False) as client:
            for name, documents in (
                ("every field at both ends, with levers", ((w, json.dumps(d)) for w, d in at_both_ends())),
                ("valid builds with odd values", mutated(asked.mutations)),
            ):
                watch, began = Watch(), time.perf_counter()
                for what, content in documents:
                    throw(client, watch, what, "/api/v1/evaluate", content)
                    if name.startswith("valid") and hash(what) % 4 == 0:
                        throw(client, watch, what, "/api/v1/builds", content)
                print(watch.told(name, time.perf_counter() - began), flush=True)
                wrong += watch.wrong
            watch, began, seed = Watch(), time.perf_counter(), 0
            while sum(watch.by_status.values()) < asked.requests:
                described(app, watch, 40, 25, seed)
                seed += 1
            print(
                watch.told("made from the interface's description, with state", time.perf_counter() - began)
            )
            wrong += watch.wrong
    finally:
        cluster.stop()
        shutil.rmtree(folder)
    print("\n".join(sorted(set(wrong))))
    print(f"load average {os.getloadavg()[0]:.1f}")


if __name__ == "__main__":
    main()
