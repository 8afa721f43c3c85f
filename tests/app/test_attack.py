"""Odd documents and requests are answered, never with a failure of ours. benchmarks/attack.py throws many more."""

from __future__ import annotations

import warnings

import pytest
from fastapi.testclient import TestClient

from oracles.attack import Watch, described, mutated, throw

pytestmark = pytest.mark.database


def test_valid_builds_with_odd_values_are_judged_or_refused(client: TestClient) -> None:
    watch = Watch()
    for what, content in mutated(150, seed=8):
        throw(client, watch, what, "/api/v1/evaluate", content)
        throw(client, watch, what, "/api/v1/builds", content)
    assert watch.wrong == []
    assert set(watch.by_status) <= {200, 201, 400, 422}
    assert watch.by_status[422] > 100


def test_requests_made_from_the_description_are_answered(client: TestClient) -> None:
    watch = Watch()
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # the library's own
        described(client.app, watch, examples=3, steps=8, seed=1)
    assert watch.wrong == []
    assert sum(watch.by_status.values()) >= 10
