"""Test cards: how a test is made, and what good looks like on this very car."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources
from typing import Any

from pydantic import Field

from ebbrin.build.build import Build, Variant
from ebbrin.build.fields import known
from ebbrin.build.resolve import UnknownVariant
from ebbrin.core.cause.tables import OBSERVATIONS
from ebbrin.features.cause import facts
from ebbrin.features.cause.answers import CardsQuestion
from ebbrin.features.cause.witnesses import Known
from ebbrin.ground.marked import marked
from ebbrin.ground.words import Answer, Measure, Text, difference, pressure, temperature


class Reading(Answer):
    """Something that is read off an instrument."""

    name: str
    quantity: str


class Bad(Answer):
    """What an unhealthy value means."""

    value: str
    text: Text


class Card(Answer):
    """How one test is made."""

    observation: str
    question: str
    picture: str
    minutes: float
    needs: str
    danger: int
    steps: list[Text]
    good: Text
    bad: list[Bad]
    caution: Text | None
    timer_minutes: float | None = Field(description="Where time counts.")
    read: list[Reading]


@cache
def _written() -> dict[str, dict[str, Any]]:
    return tomllib.loads(resources.files("ebbrin.features.cause").joinpath("cards.toml").read_text("utf-8"))


def cards(question: CardsQuestion, driven: Known | None) -> list[Card]:
    """The card of every look, feel, measure and test, with numbers of the build if there is one.

    Parameters
    ----------
    driven : what the drives of the build came to, where they are there.

    Raises
    ------
    UnknownVariant
    """
    numbers = {} if question.build is None else numbers_of(question.build, question.variant, driven)
    return [_card(name, written, numbers) for name, written in _written().items()]


def _card(name: str, written: dict[str, Any], numbers: dict[str, Measure]) -> Card:
    seen = OBSERVATIONS[name]
    caution = written.get("caution")
    return Card(
        observation=name,
        question=seen.question,
        picture=written["picture"],
        minutes=seen.minutes,
        needs=seen.tools,
        danger=seen.danger,
        steps=[marked(step, numbers) for step in written["steps"]],
        good=marked(written["good"], numbers),
        bad=[Bad(value=value, text=marked(text, numbers)) for value, text in written["bad"].items() if text],
        caution=None if caution is None else marked(caution, numbers),
        timer_minutes=written.get("timer"),
        read=[Reading(name=title, quantity=quantity) for title, quantity in written.get("read", [])],
    )


def numbers_of(build: Build, variant_id: str | None, driven: Known | None) -> dict[str, Measure]:
    """What the cards say of a build in numbers; what it has not is left out."""
    chosen = variant_id or build.in_the_car.id
    variant = next((v for v in build.variants if v.id == chosen), None)
    if variant is None:
        raise UnknownVariant(chosen)
    lacking = facts.denied(variant)
    opens = known(variant.thermostat, "opens_c")
    weakest = known(variant.cap, "weakest_part_kpa")
    found = {
        "limit": temperature(known(variant.limits, "top_hose_c")),
        "opens": temperature(opens),
        "open_by": temperature(opens + known(variant.thermostat, "span_k")),
        "weakest": pressure(weakest),
        **_of_fan(variant, lacking),
    }
    if "pressure" not in lacking:
        mark = known(variant.cap, "pressure_kpa")
        found["cap"] = pressure(mark)
        found["pumped"] = pressure(min(mark, weakest))
    if variant.coolant.kind in ("ethylene_glycol", "propylene_glycol"):
        found["mix"] = Measure(quantity="share", value=known(variant.coolant, "glycol_vol_share"))
    fall = None if driven is None else driven.witness.said[""].fall
    if fall is not None:
        found["fall"] = difference(fall)
    return found


def _of_fan(variant: Variant, lacking: frozenset[str]) -> dict[str, Measure]:
    if "electric_fan" in lacking:
        return {}
    fan = variant.air.fan
    volts = known(fan, "test_voltage_v") if fan.voltage_v is None else fan.voltage_v
    return {
        "on": temperature(known(variant.fan_switch, "on_c")),
        "off": temperature(known(variant.fan_switch, "off_c")),
        "volts": Measure(quantity="voltage", value=volts),
        "draws": Measure(quantity="electric_power", value=known(fan, "electric_power_w")),
    }
