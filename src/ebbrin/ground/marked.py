"""Texts of tables whose braces hold numbers: of their own, or of the build."""

from __future__ import annotations

import re
from collections.abc import Mapping

from ebbrin.ground.words import Measure, Text

UNITS = {
    "K": ("temperature_difference", 1.0),
    "rpm": ("rotation", 1.0),
    "bar": ("pressure", 100.0),
    "L": ("volume", 1.0),
}
"""Units that a number in braces may have: its quantity, and what makes it one of the document's."""
IN_BRACES = re.compile(r"\{([^{}]*)\}")
NUMBER = re.compile(r"(\d+(?:\.\d+)?) (\w+)")


def marked(template: str, numbers: Mapping[str, Measure | str | Text] | None = None) -> Text:
    """A text whose braces hold a number with its unit, or the name of a number of the build and the words that stand
    where there is none.

    >>> from ebbrin.ground.words import printed, temperature
    >>> printed(marked("Opens at {opens|its mark}, {2 K} late at most.", {"opens": temperature(88.0)}))
    'Opens at 88 °C, 2 K late at most.'
    >>> printed(marked("Opens at {opens|its mark}."))
    'Opens at its mark.'
    """
    found: Text = []
    for number, part in enumerate(IN_BRACES.split(template)):
        if number % 2 == 0:
            found += [part] if part else []
        elif match := NUMBER.fullmatch(part):
            quantity, factor = UNITS[match[2]]
            found.append(Measure(quantity=quantity, value=float(match[1]) * factor))
        else:
            name, _, words = part.partition("|")
            put = (numbers or {}).get(name, words)
            found += put if isinstance(put, list) else [put]
    return found
