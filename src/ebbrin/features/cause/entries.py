"""The tables of causes as an answer is put together from them: by number, and what was seen in words."""

from __future__ import annotations

import numpy as np

from ebbrin.core.cause.tables import CAUSES, DEFINES, LINKS, OBSERVATIONS
from ebbrin.features.cause.answers import Answered, Group, ValueWords
from ebbrin.ground.marked import marked

SEEN = list(OBSERVATIONS.values())
NUMBER = {name: number for number, name in enumerate(OBSERVATIONS)}
CAUSE = {name: number for number, name in enumerate(CAUSES)}
MINUTES = np.array([o.minutes for o in SEEN])
MONEY = np.array([o.money for o in SEEN])
DANGER = np.array([o.danger for o in SEEN])
WHY = {(link.cause, link.observation, link.value): link.why for link in LINKS}
DEFINING = {(link.cause, link.observation) for link in LINKS if link.strength == DEFINES}

SPOKEN_OF = {
    "complaint": "what is wrong",
    "when_hot": "when it gets hot",
    "rev_helps": "a blip of the throttle",
    "speed_helps": "driving off",
    "hoses_by_hand": "the hoses",
    "heater": "the heater",
    "hose_difference": "the fall between the hoses",
    "fan_when_hot": "the fan",
    "fan_from_cold": "the fan from cold",
    "loss_per_month": "loss",
}
"""What a drive can show, as it is said; a test proves that none is missing."""


def answered(name: str, value: str | None) -> Answered:
    """What was seen, in words; not looked at where ``value`` is None."""
    seen = OBSERVATIONS[name]
    return Answered(
        observation=name,
        question=seen.question,
        says=seen.says,
        value=value,
        said=[f"{seen.question}: not looked"] if value is None else marked(seen.said(value)),
        values=[
            ValueWords(value=v, words=marked(said), chance=None)
            for v, said in zip(seen.values, seen.words, strict=True)
        ],
    )


def groups(tests: list[int]) -> list[Group]:
    """The tests that are made in one go, the group of the next one first."""
    states = list(dict.fromkeys(SEEN[o].state for o in tests))
    return [
        Group(state=state, observations=[SEEN[o].name for o in tests if SEEN[o].state == state])
        for state in states
    ]
