"""The tables hang together."""

from ebbrin.core.cause.network import strength
from ebbrin.core.cause.tables import CAUSES, LINKS, OBSERVATIONS
from ebbrin.core.drive.faults import FAULTS
from ebbrin.features.cause import facts


def test_every_link_joins_a_cause_and_a_telling_value_and_says_why() -> None:
    for link in LINKS:
        assert link.cause in CAUSES
        assert link.value in OBSERVATIONS[link.observation].telling
        assert len(link.why) > 5
    pairs = [(link.cause, link.observation, link.value) for link in LINKS]
    assert len(set(pairs)) == len(pairs)


def test_causes_name_faults_facts_and_causes_that_there_are() -> None:
    complaints = set(OBSERVATIONS["complaint"].values)
    for cause in CAUSES.values():
        assert cause.drive_fault == "" or cause.drive_fault in FAULTS
        assert cause.needs <= set(facts.WORDS)
        assert cause.explains
        assert cause.explains <= complaints
        assert set(cause.suggests) <= set(CAUSES) - {cause.name}
        assert bool(cause.suggests) == bool(cause.suggests_why)
        assert cause.mend
        assert cause.proof
        assert cause.noun
    for name, fault in FAULTS.items():
        shown = [cause.name for cause in CAUSES.values() if cause.drive_fault == name]
        assert shown, fault.title


def test_every_complaint_has_a_cause() -> None:
    for complaint in OBSERVATIONS["complaint"].values:
        assert any(complaint in cause.explains for cause in CAUSES.values())


def test_observations_say_each_value_and_their_shares_are_shares() -> None:
    for seen in OBSERVATIONS.values():
        assert len(seen.words) == len(seen.values)
        assert len(seen.base) == len(seen.telling)
        assert abs(sum(seen.base) - 1.0) < 1e-9
        assert min(seen.base) > 0.0
        assert seen.needs <= set(facts.WORDS)
        assert set(seen.denies) <= set(seen.values)
        assert set(seen.denies.values()) <= set(facts.WORDS)


def test_the_tables_hold_fifty_two_causes_and_forty_eight_observations() -> None:
    # What the product says of itself elsewhere.
    assert len(CAUSES) == 52
    assert len(OBSERVATIONS) == 48


def test_a_weak_link_is_at_least_what_is_usual_threefold_and_never_more_than_a_strong_one() -> None:
    assert strength("+", 0.1) == 0.45
    assert strength("+", 0.2) == 0.6000000000000001
    assert strength("+", 0.88) == 0.85
    assert strength("+++", 0.88) == 0.98
