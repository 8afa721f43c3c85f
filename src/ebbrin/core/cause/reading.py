"""What a driver would see of a standard round, read off its course."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray
from ebbrin.core.cause.standard_round import ROUND, Part
from ebbrin.core.cause.tables import OBSERVATIONS
from ebbrin.core.drive.run import Course

# Choices: what a hand, an eye or a gauge takes notice of.
NEAR_LIMIT = 1.0  # K below the limit, and it counts as hot
COLD_HOSE = 318.0  # a hose below 45 °C is cold to the hand, K
HOT_HOSE = 333.0  # above 60 °C it is hot, K
TELLS = 3.0  # a gauge that falls so far has been seen to fall, K
APART = 28.0  # one hose hot, one cold, K
HEATER_COLD = 24.0  # heater air less outside air below which it blows cold, K
NEVER_WARM = 10.0  # below where the thermostat opens by so much, it is not warm, K
SWING = 22.0  # K up and down at a constant load
SWINGS_TWICE = 2
A_LITTLE, MUCH = 0.03, 0.4  # lost in one round, L
WIDE_OPEN = 0.99  # lift of a thermostat that counts as wide open
SINCE_START = 30.0  # s; how long a start may take to show a fan that runs at once


@dataclass(frozen=True)
class Car:
    """What of a car its course is read by: limit of the top hose and where the thermostat opens [K], where its fan
    switches on [K], whether that is electric and whether there is a heater; ambient [K], density of the fill [kg/m³]."""

    limit: float
    opens: float
    fan_on: float
    electric_fan: bool
    heater: bool
    ambient: float
    density: float


PLACES: dict[str, Part] = {
    "first_minutes": "warm_up",
    "standing": "queue",
    "crawling": "crawl",
    "climbing": "climb",
    "at_speed": "fast",
}
"""Which part of the round is meant by when it gets hot."""
Readings = dict[str, FloatArray]
"""(V,) shares of the telling values of each observation that the round shows; one that it leaves open is missing."""


def readings(course: Course, car: Car) -> Readings:
    """What of a round would be told, felt and measured. The gauge is taken to be right."""
    seen = _Seen(course, car)
    found = {
        "when_hot": seen.when_hot(),
        "rev_helps": seen.helps("blip", "rev_helps"),
        "speed_helps": seen.helps("drive_off", "speed_helps"),
        "hoses_by_hand": seen.hoses(),
        "hose_difference": seen.difference(),
        "heater": seen.heater(),
        "fan_when_hot": seen.fan_when_hot(),
        "fan_from_cold": seen.fan_from_cold(),
        "loss_per_month": seen.loss(),
        "complaint": seen.complaint(),
    }
    return {name: shares for name, shares in found.items() if shares is not None}


def fall_in_queue(course: Course) -> float | None:
    """How much cooler the lower hose is than the upper at the end of the queue [K]; None where that was not reached,
    where the thermostat is not wide open there (what trickles through the core is as cold as the air), and where it boils."""
    parts = [piece.part for piece in ROUND]
    end = float(np.cumsum([piece.seconds for piece in ROUND])[parts.index("queue")])
    at = int(np.searchsorted(course.time, end - 1e-6))
    if at >= len(course.time) or course.lift[at] < WIDE_OPEN or course.boiling_margin[at] < 0.0:
        return None
    return float(course.top_hose[at] - course.bottom_hose[at])


def _share(observation: str, *values: str) -> FloatArray:
    telling = OBSERVATIONS[observation].telling
    made = np.zeros(len(telling))
    for value in values:
        made[telling.index(value)] += 1.0 / len(values)
    return made


class _Seen:
    """A course by the parts of its round. A part that was not reached, because the engine stood dry, is empty."""

    def __init__(self, course: Course, car: Car) -> None:
        self.course, self.car = course, car
        ends = np.cumsum([piece.seconds for piece in ROUND])
        leg = np.minimum(np.searchsorted(ends, course.time - 1e-6, side="right"), len(ROUND) - 1)
        self._parts = [piece.part for piece in ROUND]
        self._leg = leg
        self._hot = course.engine_out > car.limit - NEAR_LIMIT

    def at(self, part: Part) -> BoolArray:
        numbers = [i for i, name in enumerate(self._parts) if name == part]
        return np.isin(self._leg, numbers)

    def first(self, part: Part) -> BoolArray:
        return np.asarray(self._leg == self._parts.index(part))

    def is_hot(self, part: Part) -> bool:
        return bool(self._hot[self.at(part)].any())

    def when_hot(self) -> FloatArray:
        """Where it got hot: what went further beyond its limit is told rather."""
        over = {value: self._over(part) for value, part in PLACES.items()}
        hot = [value for value, beyond in over.items() if beyond > 0.0]
        if not hot:
            return _share("when_hot", "not_hot")
        if self.course.runs_dry or (self.is_hot("road") and "standing" in hot):
            return _share("when_hot", "always")
        if hot == ["first_minutes"]:
            return _share("when_hot", "first_minutes")
        telling = OBSERVATIONS["when_hot"].telling
        made = np.zeros(len(telling))
        for value in hot:
            made[telling.index(value)] = (
                over[value] ** 2 if value != "first_minutes" or len(hot) == 1 else 0.0
            )
        return np.asarray(made / made.sum())

    def _over(self, part: Part) -> float:
        """How far the engine's outlet went beyond what counts as hot in a part, [K], 0 or less where it did not."""
        top = self.course.engine_out[self.at(part)]
        return float(top.max() - (self.car.limit - NEAR_LIMIT)) if top.size else 0.0

    def helps(self, part: Part, observation: str) -> FloatArray | None:
        """Whether a part brings down what stood hot before it."""
        here = np.flatnonzero(self.at(part))
        if not here.size:
            return None
        before = here[0] - 1
        top = self.course.engine_out
        # A driver tries it once the gauge is up.
        if top[before] < self.car.limit - 6.0:
            return None
        return _share(observation, "yes" if top[here].min() < top[before] - TELLS else "no")

    def _end_of_queue(self) -> int | None:
        here = np.flatnonzero(self.first("queue"))
        return int(here[-1]) if here.size else None

    def hoses(self) -> FloatArray | None:
        end = self._end_of_queue()
        if end is None:
            return None
        top, bottom = float(self.course.top_hose[end]), float(self.course.bottom_hose[end])
        engine = float(self.course.engine_out[end])
        if engine < self.car.opens - NEVER_WARM:
            return _share("hoses_by_hand", "both_warm_never_hot")
        if engine < self.car.opens + 2.0:
            return None  # the thermostat has no reason to open yet
        hot = max(top, engine) > HOT_HOSE
        if hot and bottom < COLD_HOSE + 10.0 and engine - bottom > APART:
            return _share("hoses_by_hand", "upper_hot_lower_cold")
        return _share("hoses_by_hand", "both_hot")

    def difference(self) -> FloatArray | None:
        end = self._end_of_queue()
        if end is None or self.course.engine_out[end] < self.car.opens + 2.0:
            return None
        apart = float(self.course.top_hose[end] - self.course.bottom_hose[end])
        return _share(
            "hose_difference", "under_3_K" if apart < 3.0 else "over_15_K" if apart > 13.5 else "3_to_12_K"
        )

    def heater(self) -> FloatArray | None:
        here = np.flatnonzero(self.at("road"))
        if not self.car.heater or not here.size:
            return None
        warm = self.course.heater_air[here] - self.car.ambient > HEATER_COLD
        if self.course.engine_out[here[-1]] < self.car.opens - 2.0 * NEVER_WARM:
            return None  # nothing to heat with yet
        if warm[len(warm) // 2 :].all():
            return _share("heater", "hot")
        return _share("heater", "hot_then_cold" if warm.any() else "cold")

    def fan_when_hot(self) -> FloatArray | None:
        if not self.car.electric_fan:
            return None
        queue, away = self.at("queue"), self.at("drive_off")
        turning = self.course.stage > 0
        if not queue.any():
            return None
        if not turning[queue].any():
            asked = self.course.engine_out[queue].max() > self.car.fan_on + 2.0
            return _share("fan_when_hot", "never_starts") if asked else None
        cool = away & (self.course.engine_out < self.car.fan_on - 8.0)
        always = turning[queue].all() and (not cool.any() or turning[cool].all())
        cold = turning[self.course.time <= SINCE_START].all()
        return _share("fan_when_hot", "never_stops" if always and cold else "starts_and_stops")

    def fan_from_cold(self) -> FloatArray | None:
        if not self.car.electric_fan:
            return None
        early = self.course.stage[self.course.time <= SINCE_START] > 0
        return _share("fan_from_cold", "runs_at_once" if early.all() else "stays_off")

    def _lost(self) -> float:
        """Litres that left and will not come back."""
        return float(self.course.ground / self.car.density * 1e3)

    def loss(self) -> FloatArray | None:
        """What is lost month by month; a round that boils over says nothing of that."""
        if self._hot.any():
            return None
        lost = self._lost()
        value = "none" if lost < A_LITTLE else "about_250_mL" if lost < MUCH else "much_more"
        return _share("loss_per_month", value)

    def _swings(self) -> bool:
        """Whether it goes up and down at a constant load."""
        queue = self.course.engine_out[self.first("queue")]
        if not queue.size:
            return False
        turns, way, last = 0, 0, queue[0]
        for top in queue[::40]:
            step = top - last
            if abs(step) > SWING:
                turns += int(way != np.sign(step))
                way, last = int(np.sign(step)), top
            elif way and (step > 0.0) == (way > 0):
                last = top
        return turns >= SWINGS_TWICE

    def complaint(self) -> FloatArray | None:
        """What such a round would bring somebody in with; None where it would not."""
        warm = self.course.engine_out[self.at("warm_up") | self.at("road")]
        driven = [
            part for part in ("warm_up", "road", "queue", "crawl", "climb", "fast") if self.is_hot(part)
        ]
        hot_at_rest = bool(
            self.at("stop").any() and (self.course.boiling_margin[self.at("stop")] < 0.5).any()
        )
        if self._swings():
            return _share("complaint", "swings")
        if driven:
            return _share("complaint", "runs_hot")
        if self._lost() > A_LITTLE:
            return _share("complaint", "loses_coolant")
        if hot_at_rest:
            return _share("complaint", "boils_after_stop")
        if warm.size and warm.max() < self.car.opens - NEVER_WARM:
            return _share("complaint", "never_warms")
        fan = self.fan_when_hot()
        if fan is not None and fan[OBSERVATIONS["fan_when_hot"].telling.index("never_stops")] == 1.0:
            return _share("complaint", "fan_never_stops")
        heater = self.heater()
        if heater is not None and heater[0] == 0.0:
            return _share("complaint", "heater_cold")
        return None
