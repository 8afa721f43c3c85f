"""How opening and saving fare while many ask for verdicts at once, through a running server of its own.

Run from the project's root: .venv/bin/python benchmarks/load.py [--at-once N]
"""

from __future__ import annotations

import argparse
import json
import os
import sys
import threading
import time
import urllib.error
import urllib.request
from collections import Counter
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1]))

from benchmarks.place import Place
from ebbrin.demo import demo_builds

ROUNDS = 60


def asked(address: str, path: str, body: bytes | None = None, **headers: str) -> tuple[int, float]:
    """Status and time [s] of one request."""
    request = urllib.request.Request(
        f"{address}{path}", body, {"Content-Type": "application/json", **headers}
    )
    if headers.get("method"):
        request.method = headers["method"]
    began = time.perf_counter()
    try:
        with urllib.request.urlopen(request, timeout=120) as answer:
            answer.read()
            return answer.status, time.perf_counter() - began
    except urllib.error.HTTPError as error:
        return error.code, time.perf_counter() - began


def row(name: str, times: list[float]) -> str:
    """A line of the table."""
    least, middle, late, longest = np.quantile(times, [0.0, 0.5, 0.95, 1.0])
    return f"| {name} | {len(times)} | {1e3 * least:.0f} | {1e3 * middle:.0f} | {1e3 * late:.0f} | {1e3 * longest:.0f} |"


def main() -> None:
    """Open and save in peace, then under the load."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--at-once", type=int, default=200)
    at_once = parser.parse_args().at_once
    build = demo_builds()[0].model_dump_json().encode()
    print("| what | requests | least ms | middle ms | p95 ms | longest ms |\n|---|---|---|---|---|---|")
    with Place() as place:
        made = urllib.request.Request(
            f"{place.address}/api/v1/builds", build, {"Content-Type": "application/json"}
        )
        with urllib.request.urlopen(made) as answer:
            url = answer.headers["Location"]
        revision = 1
        statuses: Counter[int] = Counter()
        over, lock = threading.Event(), threading.Lock()

        def evaluates() -> None:
            while not over.is_set():
                fresh = json.dumps(json.loads(build) | {"notes": f"{time.perf_counter_ns()}"}).encode()
                status, took = asked(place.address, "/api/v1/evaluate", fresh)
                with lock:
                    statuses[status] += 1
                    if status == 200:
                        answered.append(took)
                if status == 503:
                    time.sleep(1.0)  # sooner than the answer says, but not at once

        def rounds(name: str) -> None:
            nonlocal revision
            opens, saves, lives = [], [], []
            for _ in range(ROUNDS):
                opens.append(asked(place.address, url)[1])
                document = json.loads(build) | {"notes": f"{name} {revision}"}
                put = urllib.request.Request(
                    f"{place.address}{url}", json.dumps(document).encode(),
                    {"Content-Type": "application/json", "If-Match": f'"{revision}"'}, method="PUT",
                )  # fmt: skip
                began = time.perf_counter()
                with urllib.request.urlopen(put, timeout=120) as answer:
                    answer.read()
                saves.append(time.perf_counter() - began)
                revision += 1
                lives.append(asked(place.address, "/api/v1/health")[1])
            for what, times in (("open a build", opens), ("save it", saves), ("health", lives)):
                print(row(f"{what}, {name}", times), flush=True)

        answered: list[float] = []
        rounds("in peace")
        threads = [threading.Thread(target=evaluates, daemon=True) for _ in range(at_once)]
        for thread in threads:
            thread.start()
        time.sleep(3.0)
        rounds(f"{at_once} verdicts asked for at once")
        over.set()
        print(row("a verdict that was answered", answered))
        print(f"verdicts by status: {dict(statuses)}; load average {os.getloadavg()[0]:.1f}")


if __name__ == "__main__":
    main()
