"""Mixing arithmetic against sums that anybody can do by hand."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.core.base import DomainError
from ebbrin.core.media import mixing
from ebbrin.core.media.coolants import ETHYLENE_GLYCOL, PROPYLENE_GLYCOL, properties
from oracles.parts import mix

kinds = st.sampled_from([ETHYLENE_GLYCOL, PROPYLENE_GLYCOL])
LITRE = 1e-3


def test_ten_litres_of_half_and_half() -> None:
    # Common practice, no source: five of each, a little over because a mix takes less room than its parts.
    parts = mixing.parts_for(ETHYLENE_GLYCOL, 10 * LITRE, 0.5)
    assert parts.concentrate == pytest.approx(parts.water)
    assert 5.0 * LITRE < parts.concentrate < 5.06 * LITRE


def test_parts_weigh_what_the_mix_weighs() -> None:
    parts = mixing.parts_for(PROPYLENE_GLYCOL, 8 * LITRE, 0.4)
    mass = parts.concentrate * 1036.1 + parts.water * 998.2
    assert mass == pytest.approx(8 * LITRE * float(properties(mix(0.4, PROPYLENE_GLYCOL), 293.15).density))


def test_third_drained_and_filled_with_water() -> None:
    # By hand, volumes taken as additive: two thirds of 60 % leave 40 %.
    left = mixing.strength_after_refill(ETHYLENE_GLYCOL, 9 * LITRE, 0.6, 3 * LITRE, 0.0)
    assert left == pytest.approx(0.40, abs=0.005)


def test_concentrate_in_place_of_two_of_ten_litres() -> None:
    left = mixing.strength_after_refill(ETHYLENE_GLYCOL, 10 * LITRE, 0.25, 2 * LITRE, 1.0)
    assert left == pytest.approx(0.8 * 0.25 + 0.2, abs=0.006)


@given(kind=kinds, have=st.floats(0.0, 0.5), more=st.floats(0.01, 0.2), volume=st.floats(2, 40))
def test_what_is_to_be_drained_gives_the_strength_that_was_asked_for(
    kind: int, have: float, more: float, volume: float
) -> None:
    wanted = have + more
    drained = mixing.drain_for(kind, volume * LITRE, have, wanted)
    assert 0.0 < drained < volume * LITRE
    left = mixing.strength_after_refill(kind, volume * LITRE, have, drained, 1.0)
    assert left == pytest.approx(wanted, abs=1e-9)


def test_weaker_by_water() -> None:
    drained = mixing.drain_for(ETHYLENE_GLYCOL, 10 * LITRE, 0.6, 0.5, refill_share=0.0)
    assert drained == pytest.approx(10 * LITRE / 6, rel=0.02)


def test_impossible_mixing_is_refused() -> None:
    with pytest.raises(DomainError, match="drained volume is 0.012 m³"):
        mixing.strength_after_refill(ETHYLENE_GLYCOL, 10 * LITRE, 0.5, 12 * LITRE, 1.0)
    with pytest.raises(DomainError, match="wanted glycol share by volume is 0.3"):
        mixing.drain_for(ETHYLENE_GLYCOL, 10 * LITRE, 0.4, 0.3)
    with pytest.raises(DomainError, match="glycol share by volume is nan"):
        mixing.parts_for(ETHYLENE_GLYCOL, 10 * LITRE, np.nan)
