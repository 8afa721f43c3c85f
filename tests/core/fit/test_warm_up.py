"""What a first run is expected to look like is what a drive of the same legs does."""

import numpy as np
import pytest

from ebbrin.bridge.to_core import system_from
from ebbrin.bridge.unknowns import all_unknowns
from ebbrin.build.resolve import resolve
from ebbrin.core.drive.events import EventKind, events
from ebbrin.core.fit.warm_up import TRAPPED, expected, filling_run, second_cycle
from ebbrin.core.media.coolants import properties
from ebbrin.demo import demo_builds

IDLE, FAST = 14.0, 25.0


@pytest.mark.parametrize("number", [0, 1, 2])
def test_times_are_those_of_the_drive_s_events(number: int) -> None:
    build = demo_builds()[number]
    resolved = resolve(build, build.variants[-1].id)
    system = system_from(resolved)
    unknowns = [named.unknown for named in all_unknowns(system, resolved)]
    found = expected(system, unknowns, 293.15, 0.0, IDLE)
    happened = events(filling_run(system, 293.15, 0.0, IDLE), float(system.limits.top_hose))
    first = {kind: next((e.time for e in happened if e.kind is kind), None) for kind in EventKind}
    assert found.opens is not None
    assert found.opens.likely == first[EventKind.THERMOSTAT_OPENS]
    electric = not bool(system.air.fan.mechanical)
    assert (None if found.fan_on is None else found.fan_on.likely) == (
        first[EventKind.FAN_ON] if electric else None
    )
    for band in (found.upper_warm, found.opens, found.lower_warm, found.fan_on):
        if band is not None:
            assert band.low <= band.likely <= band.high
    assert found.upper_warm is not None
    assert found.lower_warm is not None
    assert found.upper_warm.likely < found.opens.likely < found.lower_warm.likely


def test_a_faster_idle_and_a_warmer_day_open_it_sooner() -> None:
    system = system_from(resolve(demo_builds()[1], "core"))

    def opens(ambient: float, rotation: float) -> float:
        band = expected(system, [], ambient, 0.0, rotation).opens
        assert band is not None
        return band.likely

    assert opens(293.15, FAST) < opens(293.15, IDLE)
    assert opens(305.15, IDLE) < opens(283.15, IDLE)


def test_what_goes_in_is_the_trapped_air_less_what_the_coolant_grew() -> None:
    system = system_from(resolve(demo_builds()[1], "core"))
    found = expected(system, [], 293.15, 0.0, IDLE).tops_up
    volume = float(system.coolant_volume)
    # By hand: all of it at 20 °C would take the air's own volume; warm coolant has filled some of that.
    cold = properties(system.coolant, np.asarray(293.15)).density
    warm = properties(system.coolant, np.asarray(358.0)).density
    most_grown = volume * float(cold / warm - 1.0)
    assert TRAPPED[1] * volume - most_grown <= found.high <= TRAPPED[1] * volume
    assert 0.0 <= found.low <= found.likely <= found.high


def test_under_the_cap_it_reaches_its_pressure_and_takes_hours_to_cool() -> None:
    system = system_from(resolve(demo_builds()[1], "core"))
    found = second_cycle(system, 293.15, 0.0, IDLE)
    assert 0.8 * float(system.cap.holds) <= found.pressure <= 1.01 * float(system.cap.holds)
    assert found.safe_after is not None
    # Common practice: never below a quarter of an hour, and rather hours.
    assert found.safe_after > 900.0
    hotter = second_cycle(system, 308.15, 0.0, IDLE)
    assert hotter.safe_after is None or hotter.safe_after > found.safe_after
