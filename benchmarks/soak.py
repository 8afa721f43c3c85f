"""Write builds while each of Ebbrin's processes is killed again and again, and look whether an acknowledged write is
lost, or a retried one stored twice.

Run from the project's root: .venv/bin/python benchmarks/soak.py [--writes N] [--between N]
"""

from __future__ import annotations

import argparse
import json
import os
import random
import signal
import sys
import threading
import time
import urllib.error
import urllib.request
import uuid
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from benchmarks.place import Place
from ebbrin.app import places
from ebbrin.demo import demo_builds
from oracles.processes import child

PATIENCE = 120.0  # how long a write is tried again, s


class Writer:
    """Saves one revision after another, each until it is acknowledged, under an id of its own."""

    def __init__(self, place: Place) -> None:
        self.place, self.document = place, demo_builds()[1].model_dump(mode="json")
        self.acknowledged: list[str] = []
        self.retried, self.longest = 0, 0.0
        self.revision, self.url = 0, "/api/v1/builds"

    def write(self, number: int) -> None:
        """One write; the very same again until an answer comes."""
        key, mark = str(uuid.uuid4()), f"write {number}"
        body = json.dumps(self.document | {"notes": mark}).encode()
        headers = {"Content-Type": "application/json", "Idempotency-Key": key}
        method = "POST" if self.revision == 0 else "PUT"
        if self.revision:
            headers["If-Match"] = f'"{self.revision}"'
        began = time.monotonic()
        while True:
            request = urllib.request.Request(self.place.address + self.url, body, headers, method=method)
            try:
                with urllib.request.urlopen(request, timeout=10) as answer:
                    found = json.loads(answer.read())
                break
            except urllib.error.HTTPError as error:
                if error.code < 500:
                    raise
            except (OSError, ValueError):
                pass
            self.retried += 1
            if time.monotonic() - began > PATIENCE:
                raise TimeoutError(f"{mark} was not stored within {PATIENCE:.0f} s")
            time.sleep(0.2)
        self.longest = max(self.longest, time.monotonic() - began)
        self.revision, self.url = found["revision"], f"/api/v1/builds/{found['id']}"
        self.acknowledged.append(mark)

    def stored(self) -> list[str]:
        """The marks of all revisions, the oldest first."""
        with urllib.request.urlopen(f"{self.place.address}{self.url}", timeout=60) as answer:
            newest = json.loads(answer.read())["revision"]
        marks = []
        for number in range(1, newest + 1):
            with urllib.request.urlopen(
                f"{self.place.address}{self.url}/revisions/{number}", timeout=60
            ) as answer:
                marks.append(json.loads(answer.read())["build"]["notes"])
        return marks


def victims(state: Path) -> dict[str, Callable[[], int | None]]:
    """Each process and how to find it."""

    def keeper() -> int | None:
        found = places.holder(state)
        return None if found is None else found.keeper

    def of(word: str) -> Callable[[], int | None]:
        return lambda: None if (parent := keeper()) is None else child(parent, word)

    return {
        "server": of("run"), "database": lambda: places.cluster_of(state).process(), "worker": of("work"),
        "keeper": keeper,
    }  # fmt: skip


def main() -> None:
    """So many writes for each process, killed every few of them."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--writes", type=int, default=1000)
    parser.add_argument("--between", type=int, default=40)
    asked = parser.parse_args()
    chance = random.Random(3)
    print(
        "| killed | times | writes | sent again | lost | stored twice | longest write | took |\n|---|---|---|---|---|---|---|---|"
    )
    with Place() as place:
        for name, find in victims(place.state).items():
            writer, kills, began = Writer(place), 0, time.monotonic()
            begun: list[threading.Timer] = []
            for number in range(asked.writes):
                if number % asked.between == asked.between // 2:
                    pid = find()
                    if pid is not None:
                        kills += 1
                        timers = [threading.Timer(chance.random() * 0.05, os.kill, (pid, signal.SIGKILL))]
                        if name == "keeper":  # nobody brings it back but the next start
                            timers.append(threading.Timer(0.5, place.tell, ("up",)))
                        for timer in timers:
                            timer.start()
                        begun += timers
                writer.write(number)
            for timer in begun:
                timer.join()
            marks = writer.stored()
            lost = sum(mark not in marks for mark in writer.acknowledged)
            twice = len(marks) - len(set(marks))
            print(
                f"| {name} | {kills} | {len(writer.acknowledged)} | {writer.retried} | {lost} | {twice} | "
                f"{writer.longest:.1f} s | {time.monotonic() - began:.0f} s |", flush=True,
            )  # fmt: skip
            time.sleep(3.0)
    print(f"load average {os.getloadavg()[0]:.1f}")


if __name__ == "__main__":
    main()
