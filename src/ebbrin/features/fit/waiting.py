"""How long one waits for a car while it warms up and cools down, by its own runs in the model."""

from __future__ import annotations

from collections.abc import Mapping
from math import ceil
from typing import NamedTuple

from ebbrin.bridge.to_core import system_from
from ebbrin.bridge.units import RPM, kelvin, kilopascals
from ebbrin.build.build import Build
from ebbrin.build.resolve import MissingValues, resolve
from ebbrin.core.base import DomainError
from ebbrin.core.fit.warm_up import STANDS, FirstRun, SecondCycle, first_run, second_cycle
from ebbrin.features.fit.filling import IDLE_RPM, SHOWS, long_time
from ebbrin.ground.words import Measure, Text, pressure

AFTER = 300.0
"""Choice: one stands by so much longer than what is waited for takes [s]."""


class Waiting(NamedTuple):
    """The runs of one variant at idle, in the air of its site."""

    first: FirstRun
    second: SecondCycle

    def minutes(self, usual: Mapping[str, float]) -> dict[str, float]:
        """What the steps take that wait for the engine [min], by their names: no less than is usual for each."""
        first, second = self.first, self.second
        opens = 0.0 if first.opens is None else first.opens + AFTER
        idles = max(60.0 * usual["idle"], opens)
        fan = 0.0 if first.fan_on is None else first.fan_on + AFTER
        warm = fan or (0.0 if first.lower_warm is None else first.lower_warm + AFTER)
        waits = {
            "idle": idles,
            "fan_watch": fan - idles,  # the engine runs on
            "second_cycle": warm,
            "cool_funnel": STANDS if second.safe_after is None else second.safe_after,
        }
        return {name: max(usual[name], ceil(seconds / 60.0)) for name, seconds in waits.items()}

    def words(self) -> dict[str, Measure | str | Text]:
        """What the steps say of it."""
        second = self.second
        reaches: Text = ["By the model it builds no pressure"]
        if second.pressure >= SHOWS:
            reaches = ["It reaches about ", pressure(kilopascals(second.pressure))]
        cools = "Over six hours by the model, so over night"
        if second.safe_after is not None:
            cools = f"Some {long_time(max(second.safe_after, 60.0))} by the model"
        return {"second": reaches, "safe": cools}


def waiting(build: Build, variant_id: str) -> Waiting | None:
    """The runs of a variant; None where too little is known to drive it.

    Raises
    ------
    UnknownVariant
    """
    try:
        system = system_from(resolve(build, variant_id))
        where = float(kelvin(build.site.ambient_c)), build.site.altitude_m, IDLE_RPM * RPM
        return Waiting(first_run(system, *where), second_cycle(system, *where))
    except (MissingValues, DomainError):
        return None
