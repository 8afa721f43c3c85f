"""Texts of tables whose braces hold numbers: of their own, or of the build."""

from __future__ import annotations

import re
from collections.abc import Mapping

from ebbrin.ground.words import Measure, Text

UNITS = {
    "K": ("temperature_difference", 1.0),
    "rpm": ("rotation", 1.0),
    "°C": ("temperature", 1.0),
    "bar": ("pressure", 100.0),
    "kPa": ("pressure", 1.0),
    "L": ("volume", 1.0),
}
"""Units that a number in braces may have: its quantity, and what makes it one of the document's."""
IN_BRACES = re.compile(r"\{([^{}]*)\}")
NUMBER = re.compile(rf"(\d+(?:\.\d+)?) ({'|'.join(UNITS)})\b")


def marked(template: str, numbers: Mapping[str, Measure | str | Text] | None = None) -> Text:
    """A text whose braces hold a number with its unit, or the name of a number of the build and the words that stand
    where there is none, with numbers of their own.

    >>> from ebbrin.ground.words import printed, temperature
    >>> printed(marked("Opens at {opens|its mark}, {2 K} late at most.", {"opens": temperature(88.0)}))
    'Opens at 88 °C, 2 K late at most.'
    >>> printed(marked("Opens at {opens|its mark}."))
    'Opens at its mark.'
    >>> printed(marked("Hotter than {danger|105 °C}?"))
    'Hotter than 105 °C?'
    """
    found: Text = []
    for number, part in enumerate(IN_BRACES.split(template)):
        if number % 2 == 0:
            found += [part] if part else []
        elif NUMBER.fullmatch(part):
            found += _measured(part)
        else:
            name, _, words = part.partition("|")
            put = (numbers or {}).get(name, _measured(words))
            found += put if isinstance(put, list) else [put]
    return found


def _measured(words: str) -> Text:
    """Words whose figures with a unit are numbers."""
    found: Text = []
    end = 0
    for match in NUMBER.finditer(words):
        quantity, factor = UNITS[match[2]]
        found += [words[end : match.start()]] if match.start() > end else []
        found.append(Measure(quantity=quantity, value=float(match[1]) * factor))
        end = match.end()
    return found + ([words[end:]] if end < len(words) else [])
