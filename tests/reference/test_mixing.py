"""Mixing arithmetic against sums that anybody can do by hand."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.core.base import DomainError
from ebbrin.core.media import mixing
from ebbrin.core.media.coolants import ETHYLENE_GLYCOL, PROPYLENE_GLYCOL, properties
from oracles.fluids import coolprop
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


def test_what_to_pour_for_a_drained_part_brings_what_is_wanted() -> None:
    for kind in (ETHYLENE_GLYCOL, PROPYLENE_GLYCOL):
        for have, wanted in ((0.0, 0.5), (0.33, 0.5), (0.6, 0.4)):
            share = mixing.refill_for(kind, 9.5 * LITRE, have, 6.0 * LITRE, wanted)
            assert 0.0 <= float(share) <= 1.0
            comes_to = mixing.strength_after_refill(kind, 9.5 * LITRE, have, 6.0 * LITRE, share)
            assert float(comes_to) == pytest.approx(wanted, abs=1e-6)
    # One litre of 9.5 exchanged cannot bring a third to a half: the answer lies beyond pure concentrate.
    assert float(mixing.refill_for(ETHYLENE_GLYCOL, 9.5 * LITRE, 0.33, 1.0 * LITRE, 0.5)) > 1.0


@pytest.mark.long
@pytest.mark.parametrize("kind", [ETHYLENE_GLYCOL, PROPYLENE_GLYCOL])
def test_5000_random_series_of_each_kind_against_exact_fractions(kind: int) -> None:
    """Glycol and water by mass, in exact fractions, each round: what is drained takes both with it alike."""
    rng, count, rounds = np.random.default_rng(3 + kind), 5_000, 4
    volume = rng.uniform(4.0, 20.0, count)
    drained = rng.uniform(0.1, 0.9, count) * volume
    have, product = rng.uniform(0.0, 0.7, count), rng.choice([0.0, 0.33, 0.5, 1.0], count)
    found, share = np.empty((count, rounds)), have
    for i in range(rounds):
        share = mixing.strength_after_refill(kind, volume * LITRE, share, drained * LITRE, product)
        found[:, i] = share
    exact = [
        [float(x) for x in _series_in_fractions(Fraction(v), Fraction(h), Fraction(d), Fraction(p), rounds)]
        for v, h, d, p in zip(volume, have, drained / volume, product, strict=True)
    ]
    # Volumes of glycol and water do not quite add: below a point and a half apart, and never past the ends.
    np.testing.assert_allclose(found, exact, atol=0.015, rtol=0.0)
    low, high = np.minimum(have, product)[:, None], np.maximum(have, product)[:, None]
    assert ((found >= low - 1e-9) & (found <= high + 1e-9)).all()
    for i in range(0, count, 25):
        one = mixing.series(kind, volume[i] * LITRE, have[i], drained[i] * LITRE, product[i], rounds)
        np.testing.assert_allclose(one, found[i], rtol=1e-12)


def _series_in_fractions(
    volume: Fraction, have: Fraction, drained: Fraction, product: Fraction, rounds: int
) -> list[Fraction]:
    glycol, water, found = have * volume, (1 - have) * volume, []
    for _ in range(rounds):
        glycol = glycol * (1 - drained) + product * drained * volume
        water = water * (1 - drained) + (1 - product) * drained * volume
        found.append(glycol / (glycol + water))
    return found


def test_the_share_of_new_after_rounds_is_one_less_the_remainder_to_their_number() -> None:
    for remainder, rounds in (
        (Fraction(1, 4), 1),
        (Fraction(1, 4), 3),
        (Fraction(2, 5), 2),
        (Fraction(1, 10), 4),
    ):
        assert float(mixing.new_share(float(remainder), rounds)) == pytest.approx(
            float(1 - remainder**rounds), rel=1e-12
        )
    # With a quarter left behind each time, three rounds bring the old below 3 %: 1/64.
    assert mixing.rounds_until(0.25, 0.03) == 3
    assert mixing.rounds_until(0.10, 0.03) == 2


@pytest.mark.parametrize(
    ("kind", "fluid"), [(ETHYLENE_GLYCOL, "INCOMP::MEG"), (PROPYLENE_GLYCOL, "INCOMP::MPG")]
)
def test_a_refractometer_s_freezing_points_are_those_of_coolprop(kind: int, fluid: str) -> None:
    """Melinder (2010), Properties of Secondary Working Fluids, through the CoolProp library."""

    from ebbrin.core.media.coolants import mass_fraction_from_volume

    for mass in (0.16, 0.2, 0.3, 0.4, 0.5, 0.55):
        freezes = coolprop("T_freeze", "T", 300.0, "P", 2e5, f"{fluid}[{mass}]")
        share = float(mixing.strength_at_freezing(kind, freezes))
        assert float(mass_fraction_from_volume(share, kind)) == pytest.approx(mass, abs=2e-3)


def test_a_half_mix_reads_as_the_trade_says() -> None:
    """ASTM D3306 gives -36.4 °C or lower for 50 % by volume (from memory); handbooks -37 to -40 °C."""
    assert float(mixing.strength_at_freezing(ETHYLENE_GLYCOL, 273.15 - 37.0)) == pytest.approx(0.48, abs=0.02)
    with pytest.raises(DomainError):
        mixing.strength_at_freezing(ETHYLENE_GLYCOL, 273.15 - 70.0)
