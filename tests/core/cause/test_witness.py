"""A car as a witness: what its drives show of each fault."""

from functools import cache

import numpy as np
import pytest

from ebbrin.bridge.to_core import system_from
from ebbrin.bridge.unknowns import all_unknowns
from ebbrin.build.resolve import resolve
from ebbrin.core.cause import witness as module
from ebbrin.core.cause.network import by_the_table
from ebbrin.core.cause.reading import Readings, fall_in_queue
from ebbrin.core.cause.standard_round import ROUND, standard_round
from ebbrin.core.cause.tables import OBSERVATIONS
from ebbrin.core.cause.witness import UNSEEN, Witness, day_of, seen_with, with_witness, witness_of
from ebbrin.core.drive.faults import all_possible
from ebbrin.core.drive.legs import drive_legs
from ebbrin.demo import NAMES, demo_builds

pytestmark = pytest.mark.long


@cache
def witness(name: str) -> Witness:
    build = demo_builds()[NAMES.index(name)]
    resolved = resolve(build, build.variants[0].id)
    system = system_from(resolved)
    unknowns = [named.unknown for named in all_unknowns(system, resolved)]
    return witness_of(system, unknowns, build.site.ambient_c + 273.15, build.site.altitude_m)


def share(readings: Readings, observation: str, value: str) -> float:
    return float(readings[observation][OBSERVATIONS[observation].telling.index(value)])


def test_a_sound_car_that_is_large_enough_is_not_hot() -> None:
    said = witness("linnet").said[""].shares
    assert share(said, "when_hot", "not_hot") > 0.5
    assert share(said, "hoses_by_hand", "both_hot") == 1.0
    assert share(said, "fan_when_hot", "starts_and_stops") == 1.0
    assert share(said, "loss_per_month", "none") == 1.0


def test_a_fan_that_does_not_turn_is_hot_standing_and_comes_back_on_the_road() -> None:
    # Common practice: hot in a queue and cool on the road is air.
    said = witness("linnet").said["fan_dead"]
    assert share(said.shares, "when_hot", "standing") > share(said.shares, "when_hot", "at_speed")
    assert share(said.shares, "speed_helps", "yes") == 1.0
    assert share(said.shares, "fan_when_hot", "never_starts") == 1.0
    assert said.passed_in == "queue"
    assert said.back_after is not None
    assert said.back_after < 180.0


def test_a_shut_thermostat_is_one_hot_hose_and_one_cold_always() -> None:
    # Common practice: one hot and one cold hose means no flow.
    for name in NAMES:
        said = witness(name).said["thermostat_shut"].shares
        assert share(said, "hoses_by_hand", "upper_hot_lower_cold") == 1.0
        assert share(said, "when_hot", "always") > 0.5


def test_an_open_thermostat_never_warms_and_a_fan_that_never_stops_runs_from_cold() -> None:
    said = witness("linnet").said
    assert share(said["thermostat_open"].shares, "complaint", "never_warms") > 0.5
    assert share(said["fan_always_on"].shares, "fan_from_cold", "runs_at_once") == 1.0
    assert share(said["fan_always_on"].shares, "complaint", "fan_never_stops") > 0.5


def test_air_in_the_heater_leaves_it_cold() -> None:
    said = witness("mule").said
    assert share(said["heater_air_lock"].shares, "heater", "cold") >= 0.25
    assert share(said[""].shares, "heater", "hot") == 1.0


@pytest.mark.parametrize("name", NAMES)
def test_what_is_read_of_a_round_hangs_on_no_step(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    build = demo_builds()[NAMES.index(name)]
    system = system_from(resolve(build, build.variants[0].id))
    faults = ("", *all_possible(system)[::3])
    seen = []
    for step in (module.STEP, module.STEP / 4.0):
        monkeypatch.setattr(module, "STEP", step)
        seen.append(seen_with(system, faults, build.site.ambient_c + 273.15, build.site.altitude_m))
    for fault in faults:
        coarse, fine = seen[0][fault], seen[1][fault]
        assert coarse.keys() == fine.keys()
        for observation, shares in coarse.items():
            assert shares == pytest.approx(fine[observation], abs=0.05), (fault, observation)


@pytest.mark.parametrize("name", NAMES)
def test_every_fault_that_a_car_can_have_is_driven_and_said_as_shares(name: str) -> None:
    build = demo_builds()[NAMES.index(name)]
    possible = all_possible(system_from(resolve(build, build.variants[0].id)))
    found = witness(name)
    assert set(found.said) == {"", *possible}
    assert found.drives == sum(said.drives for said in found.said.values())
    for said in found.said.values():
        for observation, shares in said.shares.items():
            assert shares.sum() == pytest.approx(1.0)
            assert len(shares) == len(OBSERVATIONS[observation].telling)
            assert 1 <= said.shown_by[observation] <= said.drives


@pytest.mark.parametrize("name", NAMES)
def test_the_network_of_a_car_keeps_the_table_where_the_model_is_silent(name: str) -> None:
    table = by_the_table()
    network, spoken = with_witness(table, witness(name))
    for number, observation in enumerate(table.observations):
        assert network.base[number].sum() == pytest.approx(1.0)
        for c, cause in enumerate(table.causes):
            shown = network.shows[number][c]
            assert np.all((shown >= 0.0) & (shown <= 0.98))
            if (cause, observation) not in spoken:
                assert np.array_equal(shown, table.shows[number][c])
            for value in UNSEEN.get(observation, ()):
                at = OBSERVATIONS[observation].telling.index(value)
                assert shown[at] == table.shows[number][c, at]
    assert ("fan_motor_dead", "fuse") not in spoken
    assert ("core_silted", "when_hot") in spoken


def test_the_fall_between_the_hoses_is_told_of_a_thermostat_that_is_wide_open_and_of_coolant_that_does_not_boil() -> (
    None
):
    build = demo_builds()[0]
    system = system_from(resolve(build, build.variants[0].id))
    day = day_of(system, build.site.ambient_c + 273.15, build.site.altitude_m)
    course = drive_legs(system, standard_round(system, day, build.site.altitude_m), day, [])
    end = float(np.cumsum([piece.seconds for piece in ROUND])[[p.part for p in ROUND].index("queue")])
    at = int(np.searchsorted(course.time, end - 1e-6))
    course.lift[at], course.boiling_margin[at] = 1.0, 3.0
    apart = course.top_hose[at] - course.bottom_hose[at]
    assert fall_in_queue(course) == pytest.approx(apart)
    course.lift[at] = 0.5
    assert fall_in_queue(course) is None
    course.lift[at], course.boiling_margin[at] = 1.0, -1.0
    assert fall_in_queue(course) is None
