"""What was seen, read by its ids."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from difflib import get_close_matches
from typing import Any

from ebbrin.core.cause.tables import NOT_LOOKED, OBSERVATIONS, UNKNOWN
from ebbrin.ground.errors import EbbrinError, FieldProblem
from ebbrin.ground.paths import pointer

NEAREST = 3


class UnknownEvidence(EbbrinError):
    """Observations or values that there are not."""

    status, kind, title = 422, "unknown-evidence", "Not all of this can be read"

    def __init__(self, fields: list[FieldProblem], nearest: dict[str, list[str]]) -> None:
        self._fields, self._nearest = fields, nearest
        super().__init__("Some of what was seen or named has an id that Ebbrin does not know.")

    @property
    def fields(self) -> list[FieldProblem]:
        """Each of them, with the nearest that are known."""
        return self._fields

    @property
    def more(self) -> dict[str, Any]:
        """The nearest known ids, by what was written."""
        return {"nearest": self._nearest}


def read(evidence: Mapping[str, str | None]) -> tuple[dict[str, str], frozenset[str]]:
    """What was seen, and what nobody looked at.

    Raises
    ------
    UnknownEvidence
        Naming each unknown id or value and the nearest known ones.
    """
    seen, skipped = {}, set()
    problems: list[FieldProblem] = []
    near: dict[str, list[str]] = {}
    for name, value in evidence.items():
        place = pointer(("evidence", name))
        if name not in OBSERVATIONS:
            near[name] = nearest(name, list(OBSERVATIONS))
            problems.append(FieldProblem(place, f"There is no observation {name}; {_perhaps(near[name])}"))
        elif value is None or value == NOT_LOOKED:
            skipped.add(name)
        elif value not in OBSERVATIONS[name].values:
            known = [*OBSERVATIONS[name].values, NOT_LOOKED]
            near[value] = nearest(value, known) or known
            problems.append(FieldProblem(place, f"{name} has no value {value}; it may be {one_of(known)}."))
        elif value == UNKNOWN:
            skipped.add(name)
        else:
            seen[name] = value
    if problems:
        raise UnknownEvidence(problems, near)
    return seen, frozenset(skipped)


def check(what: str, names: Mapping[tuple[str | int, ...], str], known: Collection[str]) -> None:
    """Refuse what names no ``what`` that there is.

    Parameters
    ----------
    names : by the places in the question where they stand.

    Raises
    ------
    UnknownEvidence
        Naming each unknown id and the nearest known ones.
    """
    near = {name: nearest(name, list(known)) for name in names.values() if name not in known}
    problems = [
        FieldProblem(pointer(place), f"There is no {what} {name}; {_perhaps(near[name])}")
        for place, name in names.items()
        if name in near
    ]
    if problems:
        raise UnknownEvidence(problems, near)


def nearest(wrong: str, known: list[str]) -> list[str]:
    """The known ids that look most like a wrong one, three at most.

    >>> nearest("level_filer", ["level_filler", "level_bottle", "puddle"])
    ['level_filler', 'level_bottle']
    """
    return get_close_matches(wrong.lower(), known, NEAREST, 0.4) or sorted(known)[:NEAREST]


def one_of(names: list[str]) -> str:
    """Names to choose from, in a row."""
    return " or ".join([", ".join(names[:-1]), names[-1]])


def _perhaps(names: list[str]) -> str:
    return f"perhaps {', '.join(names)}?"
