"""Look through random builds over the whole ranges for crashes, slow answers, and answers that contradict themselves;
every fourth with its levers.

Run from the project's root: .venv/bin/python benchmarks/search.py [--first N] [--count N]
"""

from __future__ import annotations

import argparse
import os
import sys
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from ebbrin.bridge.refusal import refusal
from ebbrin.core.base import DomainError
from ebbrin.features.judge.service import evaluate
from oracles.contradictions import contradictions
from oracles.made import made

SLOW = 2.0  # s


def looked_at(seed: int) -> tuple[int, str, list[str], float]:
    """What became of one build, what is wrong with its answer, and how long the answer took [s]."""
    build = made(seed)
    if build is None:
        return seed, "excludes itself", [], 0.0
    began = time.perf_counter()
    try:
        answer = evaluate(build, levers=seed % 4 == 0)
        took = time.perf_counter() - began
    except DomainError as error:
        words = refusal(error)
        return seed, "refused", [words] if " K" in words else [], time.perf_counter() - began
    except Exception as error:
        return seed, "crashed", [repr(error)], time.perf_counter() - began
    try:
        return seed, "answered", contradictions(build, answer), took
    except Exception as error:
        return seed, "answered", [f"could not be looked through: {error!r}"], took


def main() -> None:
    """Look through them on all processors and say what was found."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--first", type=int, default=0)
    parser.add_argument("--count", type=int, default=1000)
    asked = parser.parse_args()
    seeds = range(asked.first, asked.first + asked.count)
    became: Counter[str] = Counter()
    wrong, slow, longest, began = 0, 0, 0.0, time.perf_counter()
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        for seed, end, found, took in pool.map(looked_at, seeds, chunksize=10):
            became[end] += 1
            wrong += bool(found)
            slow += took > SLOW
            longest = max(longest, took)
            for words in found:
                print(f"  {seed}: {words}", flush=True)
    took = time.perf_counter() - began
    ends = ", ".join(f"{count} {end}" for end, count in became.most_common())
    print(
        f"{asked.count} builds in {took:.0f} s: {ends}; {wrong} with something wrong, {slow} over {SLOW:.0f} s,"
    )
    print(
        f"the longest {longest:.1f} s; load average {os.getloadavg()[0]:.1f} on {os.cpu_count()} processors"
    )


if __name__ == "__main__":
    main()
