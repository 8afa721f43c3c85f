"""Odd documents and requests to throw at the interface: every field at both ends, valid builds with values replaced,
and requests made from the interface's own description that go on from what earlier answers gave."""

from __future__ import annotations

import json
import random
import time
from collections import Counter
from collections.abc import Iterator
from typing import Any

import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, Phase, settings
from schemathesis.checks import not_a_server_error

from ebbrin.build.resolve import bounds
from ebbrin.ground.paths import parts_of
from oracles.builds import linnet, plain_build
from oracles.fields import NUMBERS

SLOW = 2.0  # s
OWN_ADDRESS = "http://127.0.0.1:8600"
ODD: tuple[Any, ...] = (
    None, True, False, 0, -1, 1e308, -1e308, 1e-308, 10**400, "", "x", "\x00", "\ud800", "=1", "🜁" * 50, [], {}, [[]],
    {"a": 1}, "1e5", "NaN", [None] * 100,
)  # fmt: skip


class Watch:
    """Answers by their status, the slow ones and those that should not be."""

    def __init__(self) -> None:
        self.by_status: Counter[int] = Counter()
        self.wrong: list[str] = []
        self.slow: list[tuple[float, str]] = []

    def saw(self, status: int, took: float, what: str) -> None:
        """Count an answer."""
        self.by_status[status] += 1
        if status >= 500 and status != 503:
            self.wrong.append(f"{status}: {what[:200]}")
        if took > SLOW:
            self.slow.append((took, what[:120]))

    def told(self, name: str, seconds: float) -> str:
        """A line for the table."""
        count, statuses = (
            sum(self.by_status.values()),
            ", ".join(f"{s}: {n}" for s, n in sorted(self.by_status.items())),
        )
        longest = f"{max(self.slow)[0]:.1f} s" if self.slow else "none"
        return f"| {name} | {count} | {statuses} | {len(self.wrong)} | {len(self.slow)}, {longest} | {seconds:.0f} s |"


def at_both_ends() -> Iterator[tuple[str, dict[str, Any]]]:
    """Two builds with each of their numbers at either end of its range."""
    for base in (plain_build(), linnet()):
        for path, info in NUMBERS:
            for value in bounds(info):
                document = base.model_dump(mode="json")
                *parts, last = parts_of(path)
                node: Any = document["variants"][0] if parts else document["cases"][0]
                for part in parts:
                    node = node[part]
                node[last] = value
                yield f"{path} at {value:g}", document


def spots(node: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Every place in a document."""
    inner = node.items() if isinstance(node, dict) else enumerate(node) if isinstance(node, list) else ()
    for key, value in inner:
        yield (*path, key)
        yield from spots(value, (*path, key))


def mutated(count: int, seed: int = 4) -> Iterator[tuple[str, str]]:
    """Valid builds with one to three values replaced by odd ones, as JSON."""
    chance = random.Random(seed)
    base = linnet().model_dump(mode="json")
    places = list(spots(base))
    for _ in range(count):
        document = json.loads(json.dumps(base))
        said = []
        for _ in range(chance.randint(1, 3)):
            *way, last = chance.choice(places)
            node = document
            try:
                for step in way:
                    node = node[step]
                node[last] = chance.choice(ODD)
            except (KeyError, IndexError, TypeError):
                continue
            said.append("/".join(map(str, [*way, last])))
        yield ", ".join(said), json.dumps(document)


def throw(client: TestClient, watch: Watch, what: str, path: str, content: str) -> None:
    """One request, watched."""
    began = time.perf_counter()
    answer = client.post(path, content=content, headers={"Content-Type": "application/json"})
    watch.saw(answer.status_code, time.perf_counter() - began, f"{path} {what}")


def described(app: Any, watch: Watch, examples: int, steps: int, seed: int) -> None:
    """Requests made from the interface's description, each going on from what earlier ones have made."""
    schema = schemathesis.openapi.from_dict(app.openapi())
    schema.app = app
    base = schema.as_state_machine()

    class Machine(base):  # type: ignore[misc, valid-type]
        def get_call_kwargs(self, case: Any) -> dict[str, Any]:  # noqa: ARG002
            return {"base_url": OWN_ADDRESS, "headers": {"Host": "127.0.0.1:8600"}}

        def validate_response(self, response: Any, case: Any, **_: Any) -> None:
            what = f"{case.method} {case.formatted_path}"
            watch.saw(response.status_code, response.elapsed, what)
            case.validate_response(response, checks=[not_a_server_error])

    Machine.TestCase.settings = settings(
        max_examples=examples, stateful_step_count=steps, deadline=None, derandomize=True, database=None,
        phases=[Phase.generate], suppress_health_check=list(HealthCheck),
    )  # fmt: skip
    random.seed(seed)
    Machine.run(settings=Machine.TestCase.settings)
