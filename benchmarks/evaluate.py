"""How long one evaluation takes: the core alone, and through the running server.

Start Ebbrin first, then: .venv/bin/python benchmarks/evaluate.py
Prints a table; docs/benchmarks.md keeps the last one that was looked at.
"""

from __future__ import annotations

import http.client
import json
import os
import time
from collections.abc import Callable

from ebbrin.build.build import Build
from ebbrin.demo import demo_builds
from ebbrin.features.judge.service import evaluate

ROUNDS = 150


def eight_cases() -> Build:
    """The demo's coupé with each of its cases twice."""
    document = demo_builds()[0].model_dump(mode="json")
    document["cases"] += [case | {"id": f"{case['id']}-again"} for case in document["cases"]]
    return Build.model_validate(document)


def measured(call: Callable[[], object]) -> tuple[float, float, float]:
    """Least, middle and 95th percentile of ROUNDS calls [ms]."""
    call()
    times = []
    for _ in range(ROUNDS):
        began = time.perf_counter()
        call()
        times.append((time.perf_counter() - began) * 1e3)
    times.sort()
    return times[0], times[ROUNDS // 2], times[int(ROUNDS * 0.95)]


def main() -> None:
    """Measure and print."""
    build = eight_cases()
    document = build.model_dump(mode="json")
    connection = http.client.HTTPConnection("127.0.0.1", int(os.environ.get("EBBRIN_PORT", "8600")))

    def request() -> None:
        # Another question each time: what was asked before is answered from what is kept.
        body = json.dumps(document | {"notes": f"{time.perf_counter_ns()}"}).encode()
        connection.request(
            "POST", "/api/v1/evaluate?levers=false", body, {"Content-Type": "application/json"}
        )
        answer = connection.getresponse()
        answer.read()
        if answer.status != 200:
            raise RuntimeError(f"the server answered {answer.status}")

    print("| what | least ms | middle ms | p95 ms |")
    print("|---|---|---|---|")
    for name, call in (
        ("service, 8 cases, as the page asks", lambda: evaluate(build, levers=False)),
        ("service, 8 cases, with levers", lambda: evaluate(build)),
        ("POST /evaluate, 8 cases, as the page asks", request),
    ):
        print("| {} | {:.0f} | {:.0f} | {:.0f} |".format(name, *measured(call)))


if __name__ == "__main__":
    main()
