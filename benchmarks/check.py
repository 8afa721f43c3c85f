"""What ./check takes, and how fast the machine was meanwhile.

.venv/bin/python benchmarks/check.py [words for pytest]
With everything installed and built (a check that was run before). Nothing is changed in the checkout meanwhile.
"""

from __future__ import annotations

import os
import resource
import statistics
import subprocess
import sys
import threading
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
TURNS = 1_000_000
EVERY = 5.0  # s between two looks at the machine


def loop() -> float:
    """Seconds of the processor that a plain loop of Python takes now: what waits for a processor does not count."""
    began = time.thread_time()
    left = TURNS
    while left:
        left -= 1
    return time.thread_time() - began


def main() -> int:
    """Run the check, look at the machine all the while, and print what both came to."""
    loops = [loop()]
    over = threading.Event()

    def look() -> None:
        while not over.wait(EVERY):
            loops.append(loop())

    watcher = threading.Thread(target=look)
    watcher.start()
    began = time.perf_counter()
    done = subprocess.run([ROOT / "check", *sys.argv[1:]], check=False).returncode
    wall = time.perf_counter() - began
    over.set()
    watcher.join()
    used = resource.getrusage(resource.RUSAGE_CHILDREN)
    low, middle, high = min(loops), statistics.fmean(loops), max(loops)
    print("| what | |\n|---|---|")
    print(f"| by the clock | {wall / 60:.1f} min |")
    print(f"| processors' time | {(used.ru_utime + used.ru_stime) / 60:.1f} min, of {os.cpu_count()} |")
    print(f"| a million turns meanwhile | {middle:.3f} s ({low:.3f} to {high:.3f}) |")
    print(f"| by the clock, in such loops | {wall / middle:.0f} |")
    print(f"| load average | {os.getloadavg()[0]:.1f} |")
    return done


if __name__ == "__main__":
    sys.exit(main())
