"""Which test comes next."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.core.base import DomainError
from ebbrin.core.cause.choice import DANGEROUS, ORDERS, costs, ordered

tests = st.lists(
    st.tuples(st.floats(0.0, 2.0), st.floats(1.0, 200.0), st.integers(0, 3)), min_size=1, max_size=12
)


def test_money_counts_by_what_an_hour_is_worth() -> None:
    ten, none = np.array([10.0]), np.array([0])
    cheap, dear = (costs(ten, np.array([30.0]), none, rate)[0] for rate in (60.0, 30.0))
    assert dear - cheap == pytest.approx(30.0)
    with pytest.raises(DomainError, match="hourly rate"):
        costs(ten, ten, none, 0.0)


def test_danger_costs() -> None:
    made = costs(np.full(4, 5.0), np.zeros(4), np.arange(4), 30.0)
    assert np.all(np.diff(made) > 0.0)


@given(listed=tests, order=st.sampled_from(ORDERS))
def test_no_dangerous_test_stands_before_a_safer_one_that_tells_as_much(
    listed: list[tuple[float, float, int]], order: str
) -> None:
    bits, cost, danger = (np.array(column) for column in zip(*listed, strict=True))
    found = ordered(bits, cost, danger, order)  # type: ignore[arg-type]
    assert len(set(found)) == len(found)
    for n, chosen in enumerate(found):
        if danger[chosen] >= DANGEROUS:
            assert not any(danger[t] < danger[chosen] and bits[t] >= bits[chosen] for t in found[n + 1 :])


def test_orders_begin_where_they_say() -> None:
    bits, cost, danger = np.array([0.5, 0.1, 0.3]), np.array([10.0, 1.0, 3.0]), np.zeros(3, int)
    assert ordered(bits, cost, danger, "telling") == [1, 2, 0]
    assert ordered(bits, cost, danger, "cheapest") == [1, 2, 0]
    assert ordered(bits, np.array([10.0, 20.0, 3.0]), danger, "telling") == [2, 0, 1]
    assert ordered(bits, cost, danger, "gauge", np.array([True, False, False]))[0] == 0
    assert ordered(np.array([0.5, 0.0, 0.3]), cost, danger) == [2, 0]
