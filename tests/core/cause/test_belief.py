"""Chances of causes: by hand, by a general library for Bayesian networks, and as laws."""

import math
import warnings
from itertools import product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.core.cause.belief import Belief, Inquiry
from ebbrin.core.cause.network import by_the_table
from ebbrin.core.cause.tables import CAUSES, DEFINES, LINKS, OBSERVATIONS
from oracles.plain_cause import PlainCauses

with warnings.catch_warnings():
    # Its compiled part warns while it loads, and ends the process where that is made an error.
    warnings.simplefilter("ignore")
    import pyagrum as gum

TABLE = by_the_table()
WHOLE = Inquiry(TABLE)
NUMBER = {name: number for number, name in enumerate(OBSERVATIONS)}
EVERYTHING = [(name, value) for name, seen in OBSERVATIONS.items() for value in seen.telling]
evidences = st.lists(st.sampled_from(EVERYTHING), max_size=8).map(dict)


def numbered(evidence: dict[str, str]) -> dict[int, int]:
    return {NUMBER[name]: OBSERVATIONS[name].telling.index(value) for name, value in evidence.items()}


def after(evidence: dict[str, str]) -> Belief:
    return WHOLE.after(numbered(evidence))


@given(
    evidence=evidences, causes=st.lists(st.sampled_from(list(CAUSES)), min_size=1, max_size=6, unique=True)
)
def test_a_small_network_agrees_with_sets_gone_through_by_hand(
    evidence: dict[str, str], causes: list[str]
) -> None:
    cut = Inquiry(TABLE.cut_down([list(CAUSES).index(cause) for cause in causes]))
    by_hand = PlainCauses(causes)
    found = cut.after(numbered(evidence))
    assert found.present == pytest.approx(list(by_hand.present(evidence).values()), abs=1e-12)
    assert found.nothing == pytest.approx(by_hand.chances(evidence)[()], abs=1e-12)


def as_bayesian_network(plain: PlainCauses, observations: list[str]) -> "gum.BayesNet":
    """The same network for pyAgrum: a variable for each cause and each observation, tables filled by hand."""
    net = gum.BayesNet()
    for cause in plain.causes:
        net.add(gum.LabelizedVariable(cause, cause, ["absent", "present"]))
        net.cpt(cause)[:] = [1.0 - plain.weight[cause], plain.weight[cause]]
    for name in observations:
        net.add(gum.LabelizedVariable(f"o_{name}", name, list(plain.base[name])))
        parents = [cause for cause in plain.causes if (cause, name) in plain.links]
        for cause in parents:
            net.addArc(cause, f"o_{name}")
        for states in product((0, 1), repeat=len(parents)):
            present = tuple(cause for cause, state in zip(parents, states, strict=True) if state)
            at = dict(zip(parents, states, strict=True))
            net.cpt(f"o_{name}")[at] = list(plain.shares(present, name).values())
    return net


@pytest.mark.parametrize("seed", range(40))
def test_single_and_double_causes_agree_with_a_general_library(seed: int) -> None:
    # pyAgrum, lazy propagation: with two or three causes in all, every set of them is one of ours.
    rng = np.random.default_rng(seed)
    causes = [str(c) for c in rng.choice(list(CAUSES), size=int(rng.integers(1, 4)), replace=False)]
    names = [str(o) for o in rng.choice(list(OBSERVATIONS), size=6, replace=False)]
    evidence = {name: str(rng.choice(OBSERVATIONS[name].telling)) for name in names}
    engine = gum.LazyPropagation(as_bayesian_network(PlainCauses(causes), names))
    engine.setEvidence({f"o_{name}": value for name, value in evidence.items()})
    engine.makeInference()
    wanted = [engine.posterior(cause)[{cause: "present"}] for cause in causes]
    cut = Inquiry(TABLE.cut_down([list(CAUSES).index(cause) for cause in causes]))
    assert cut.after(numbered(evidence)).present == pytest.approx(wanted, abs=1e-6)


@given(evidence=evidences)
def test_chances_are_chances_and_no_order_matters(evidence: dict[str, str]) -> None:
    found = after(evidence)
    assert np.all((found.present >= 0.0) & (found.present <= 1.0))
    assert found.weights.sum() == pytest.approx(1.0)
    turned = WHOLE.after(dict(reversed(numbered(evidence).items())))
    assert np.array_equal(turned.present, found.present)


DEFINING = [(link.cause, link.observation) for link in LINKS if link.strength == DEFINES]


@pytest.mark.parametrize(("cause", "observation"), DEFINING)
def test_a_healthy_defining_test_never_raises_its_cause(cause: str, observation: str) -> None:
    seen = OBSERVATIONS[observation]
    if seen.story:
        pytest.skip("a story has no healthy value")
    number = list(CAUSES).index(cause)
    rng = np.random.default_rng(number)
    for _ in range(20):
        others = dict(EVERYTHING[i] for i in rng.integers(0, len(EVERYTHING), 6))
        others.pop(observation, None)
        before = after(others).present[number]
        healthy = after({**others, observation: seen.telling[0]}).present[number]
        assert healthy <= before + 1e-12
        assert healthy <= max(0.25 * before, 0.02)  # and all but clears it


@given(evidence=evidences)
def test_taking_an_answer_back_leaves_what_the_others_say(evidence: dict[str, str]) -> None:
    found = after(evidence)
    for name in evidence:
        rest = {other: value for other, value in evidence.items() if other != name}
        assert found.without(NUMBER[name]).present == pytest.approx(after(rest).present, abs=1e-9)


@given(evidence=evidences)
def test_what_speaks_for_a_cause_has_raised_it(evidence: dict[str, str]) -> None:
    found = after(evidence)
    for observation, bits in found.for_and_against().items():
        before = found.without(observation).present
        assert np.all(found.present[bits > 1e-6] > before[bits > 1e-6])
        assert np.all(found.present[bits < -1e-6] < before[bits < -1e-6])


def entropy(chances: list[float]) -> float:
    return -sum(p * math.log2(p) for p in chances if p > 0.0)


@pytest.mark.parametrize("observation", ["fuse", "thermostat_pot", "puddle", "fans_with_ac"])
def test_bits_are_what_is_learnt_of_the_reason_on_average(observation: str) -> None:
    # By hand: doubt about the reason now, less what is left of it after each value, each as often as it comes.
    evidence = {"complaint": "runs_hot", "when_hot": "standing", "debris": "some"}
    can = np.array(["runs_hot" in cause.explains for cause in CAUSES.values()])
    found = after(evidence).explained(can)

    def doubt_after(extra: dict[str, str]) -> float:
        # The share of a set that each of its causes has stays that of the evidence: it hangs on symptoms alone.
        by = after({**evidence, **extra}).explained(can).by
        return entropy([*by, 1.0 - float(by.sum())])

    number = NUMBER[observation]
    chances = found.together_with(number).sum(0)
    assert chances.sum() == pytest.approx(1.0)
    left = sum(
        float(chance) * doubt_after({observation: value})
        for chance, value in zip(chances, OBSERVATIONS[observation].telling, strict=True)
    )
    assert found.bits(number) == pytest.approx(doubt_after({}) - left, abs=1e-9)
    assert found.bits(number) > 0.0


@given(evidence=evidences)
def test_what_explains_is_there(evidence: dict[str, str]) -> None:
    complaint = evidence.get("complaint")
    can = np.array([complaint is None or complaint in cause.explains for cause in CAUSES.values()])
    found = after(evidence)
    by = found.explained(can).by
    assert np.all(by <= found.present + 1e-12)
    assert np.all(by[~can] == 0.0)
    assert by.sum() <= 1.0 + 1e-9


def test_values_that_do_not_go_together_are_told() -> None:
    found = after({"fan_when_hot": "never_starts", "fans_with_ac": "all_run"}).at_odds()
    assert [(i, j) for i, j, _ in found] == [(NUMBER["fans_with_ac"], NUMBER["fan_when_hot"])]
    assert not after({"fan_when_hot": "never_starts", "fans_with_ac": "none_run"}).at_odds()
