"""Whatever is sent, the answer is an answer or a problem in words: never a crash, never a NaN."""

from __future__ import annotations

import json
import math
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from ebbrin.build.resolve import bounds, extra
from ebbrin.core.drive.faults import FAULTS
from ebbrin.ground.paths import parts_of
from oracles.builds import plain_build
from oracles.fields import NUMBERS

pytestmark = pytest.mark.database

anything = st.recursive(
    st.none() | st.booleans() | st.floats(allow_nan=False) | st.integers() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)
paths = st.lists(
    st.sampled_from(["cases", "variants", "0", "engine", "air", "fan", "curve", "id", "kind", "site"]),
    max_size=5,
)
relaxed = settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])


def document() -> dict[str, Any]:
    return plain_build().model_dump(mode="json")


@relaxed
@given(path=paths, value=anything)
def test_any_value_anywhere_is_answered(client: TestClient, path: list[str], value: Any) -> None:
    build: Any = document()
    node: Any = build
    for part in path[:-1]:
        step = int(part) if part.isdigit() and isinstance(node, list) else part
        try:
            node = node[step]
        except (KeyError, IndexError, TypeError):
            break
    if isinstance(node, dict) and path:
        node[path[-1]] = value
    response = client.post("/api/v1/evaluate", json=build)
    assert response.status_code in (200, 422)
    if response.status_code == 422:
        assert response.json()["detail"]


@relaxed
@given(data=st.data())
def test_any_numbers_within_their_ranges_give_numbers(client: TestClient, data: st.DataObject) -> None:
    build = document()
    for _ in range(data.draw(st.integers(1, 5))):
        path, info = data.draw(st.sampled_from(NUMBERS))
        low, high = bounds(info)
        value = data.draw(st.floats(low, high))
        if extra(info)["quantity"] == "count":
            value = float(round(value))
        *parts, last = parts_of(path)
        node: Any = build["cases"][0] if not parts else build["variants"][0]
        for part in parts:
            node = node[part]
        node[last] = value
    response = client.post("/api/v1/evaluate", json=build)
    assert response.status_code in (200, 422), response.text
    assert_finite(json.loads(response.text))


LEG_FIELDS = [(path, info) for path, info in NUMBERS if path.count("/") == 1]


@settings(relaxed, max_examples=25)
@given(data=st.data())
def test_any_drive_within_its_ranges_gives_numbers(client: TestClient, data: st.DataObject) -> None:
    build = document()
    legs = []
    for _ in range(data.draw(st.integers(1, 3))):
        case = dict(build["cases"][0])
        for path, info in data.draw(st.lists(st.sampled_from(LEG_FIELDS), max_size=3)):
            value = data.draw(st.floats(*bounds(info)))
            case[path.rsplit("/", 1)[-1]] = (
                float(round(value)) if extra(info)["quantity"] == "count" else value
            )
        legs.append(
            {
                "case": case | {"id": "own", "kind": "steady", "duration_s": None},
                "duration_s": data.draw(st.floats(5, 600)),
                "engine_runs": data.draw(st.booleans()),
            }
        )
    faults = data.draw(
        st.lists(st.sampled_from(sorted(FAULTS)), max_size=3, unique=True).map(
            lambda names: [{"fault": name, "from_s": 30.0} for name in names]
        )
    )
    start = data.draw(st.none() | st.floats(-40, 120))
    drive = {"id": "d", "legs": legs, "faults": faults, "start_c": start}
    variant = build["variants"][0]["id"]
    response = client.post("/api/v1/drive", json={"build": build, "variant": variant, "drive": drive})
    assert response.status_code in (200, 422), response.text
    body = json.loads(response.text)
    assert_finite(body)
    if response.status_code == 422:
        assert body["detail"]
    else:
        times = [event["time_s"] for event in body["events"]]
        assert times == sorted(times)
        assert body["hottest_c"] == pytest.approx(max(body["points"]["engine_out_c"]), abs=0.006)


def assert_finite(node: Any) -> None:
    if isinstance(node, dict):
        for value in node.values():
            assert_finite(value)
    elif isinstance(node, list):
        for value in node:
            assert_finite(value)
    elif isinstance(node, float):
        assert math.isfinite(node)
