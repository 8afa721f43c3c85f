"""Practice cars: the same for everybody, true to their faults, and fairly scored."""

import pytest

from ebbrin.core.cause.tables import CAUSES, LINKS, NOT_LOOKED, OBSERVATIONS
from ebbrin.features.cause.evidence import UnknownEvidence
from ebbrin.features.cause.trainer import FAULTS, Look, Named, Practice, Trainer, made
from tests.features.cause.driven import SERVICE

TRAINER = Trainer(SERVICE)


@pytest.mark.parametrize("difficulty", FAULTS)
def test_the_same_number_is_the_same_car(difficulty: str) -> None:
    one, two = made(7, FAULTS[difficulty]), made(7, FAULTS[difficulty])  # type: ignore[index]
    assert (one.truth, one.values, one.build) == (two.truth, two.values, two.build)
    assert len(one.truth) == FAULTS[difficulty]  # type: ignore[index]
    other = made(8, FAULTS[difficulty])  # type: ignore[index]
    assert other.values != one.values


def test_a_car_says_a_value_of_everything_that_can_be_asked() -> None:
    car = made(11, 1)
    for name, seen in OBSERVATIONS.items():
        assert car.values[name] in (*seen.telling, NOT_LOOKED)
    shown = TRAINER.car(Practice(seed=11))
    assert shown.complaint == car.values["complaint"]
    assert shown.faults == 1
    assert not any(cause in shown.model_dump_json(exclude={"build"}) for cause in car.truth)


def test_a_look_costs_what_the_table_says_and_stays_what_it_is() -> None:
    one = TRAINER.look(Look(seed=11, observation="fuse"))
    assert (one.minutes, one.danger) == (OBSERVATIONS["fuse"].minutes, OBSERVATIONS["fuse"].danger)
    assert TRAINER.look(Look(seed=11, observation="fuse")) == one
    with pytest.raises(UnknownEvidence):
        TRAINER.look(Look(seed=11, observation="fuze"))


def test_what_is_named_and_there_is_not_is_refused_where_it_stands_with_the_nearest() -> None:
    truth = list(made(5, 1).truth)
    for asked, causes, place, near in (
        (["fuse", "fuze"], truth, "/asked/1", "fuse"),
        ([], [*truth, "thermostat_shutt"], "/causes/1", "thermostat_shut"),
    ):
        with pytest.raises(UnknownEvidence) as refused:
            TRAINER.debrief(Named(seed=5, asked=asked, causes=causes))
        assert [problem.path for problem in refused.value.fields] == [place]
        assert next(iter(refused.value.more["nearest"].values()))[0] == near
    with pytest.raises(UnknownEvidence) as refused:
        TRAINER.look(Look(seed=5, observation="fuze"))
    assert [problem.path for problem in refused.value.fields] == ["/observation"]


def test_a_wrong_cause_that_is_named_twice_is_wrong_once() -> None:
    truth = made(5, 1).truth
    wrong = next(name for name in CAUSES if name not in truth)
    assert len(TRAINER.debrief(Named(seed=5, asked=[], causes=[wrong, wrong])).wrong) == 1


@pytest.mark.long
def test_defining_tests_show_the_true_cause_most_often_and_err_at_times() -> None:
    shown = tried = 0
    for seed in range(1, 50):
        car = made(seed, 1)
        for link in LINKS:
            if (
                link.cause == car.truth[0]
                and link.strength == "+++"
                and not OBSERVATIONS[link.observation].story
            ):
                tried += 1
                shown += car.values[link.observation] == link.value
    assert tried > 30
    assert 0.9 < shown / tried <= 1.0


@pytest.mark.long
def test_the_debrief_tells_the_truth_and_scores_against_the_own_order() -> None:
    truth = list(made(5, 1).truth)
    good = TRAINER.debrief(Named(seed=5, asked=[], causes=truth))
    assert good.right
    assert good.score == 100
    assert good.truth == truth
    best = [step.observation for step in good.best_order]
    same = TRAINER.debrief(Named(seed=5, asked=best, causes=truth))
    assert same.score == 100
    assert same.spent == pytest.approx(same.best)
    assert [step.after for step in same.steps] == [step.after for step in same.best_order]
    more = [
        name
        for name, seen in OBSERVATIONS.items()
        if seen.kind not in ("model", "story") and name not in best
    ]
    slow = TRAINER.debrief(Named(seed=5, asked=[*best, *more[:8]], causes=truth))
    assert 0 < slow.score < 100
    for before, after in zip(slow.steps, slow.steps[1:], strict=False):
        assert before.after == after.before
    wrong = next(cause for cause in CAUSES if cause not in truth)
    bad = TRAINER.debrief(Named(seed=5, asked=best, causes=[wrong]))
    assert (bad.right, bad.score) == (False, 0)
    assert len(bad.missed) == 1
    assert len(bad.wrong) == 1
