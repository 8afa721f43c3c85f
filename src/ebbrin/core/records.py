"""Records of arrays, and the one way to walk them.

Every parameter record of the core is a frozen dataclass whose leaves are arrays. Their leading axes are shared: none for
one system, (candidates, 1) for many, stages or samples ahead of them. A leaf may have trailing axes of its own besides,
such as the points of a fan's curve or the zones of the air: its type says so: ``OwnAxis``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, fields, is_dataclass, replace
from functools import cache
from operator import attrgetter
from typing import Annotated, Any, TypeVar, get_type_hints

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray, IntArray

Record = TypeVar("Record")
Leaf = Callable[[Any, int], Any]
"""What is done to a leaf: the array and the number of trailing axes of its own."""


@dataclass(frozen=True)
class Own:
    """Mark of a field whose array has ``axes`` trailing axes of its own."""

    axes: int


OwnAxis = Annotated[FloatArray, Own(1)]
"""An array with one trailing axis of its own."""


@dataclass(frozen=True)
class _Walk:
    """How a kind of record is walked: all its leaves at one call, in the order of the fields, and the trailing axes that
    each has of its own; what its fields are records of, None for leaves."""

    paths: tuple[str, ...]
    own: tuple[int, ...]
    inner: tuple[type | None, ...]
    leaves: Callable[[Any], tuple[Any, ...]]


@cache
def _walk(kind: Any) -> _Walk | None:
    """The walk of a kind of record, by its fields' types; none of what is no record."""
    if not is_dataclass(kind):
        return None
    hints = get_type_hints(kind, include_extras=True)
    paths: list[str] = []
    own: list[int] = []
    inner: list[type | None] = []
    for field in fields(kind):
        hint = hints[field.name]
        of = _walk(hint) if isinstance(hint, type) else None
        inner.append(hint if of else None)
        paths += [f"{field.name}.{path}" for path in of.paths] if of else [field.name]
        marks = getattr(hint, "__metadata__", ())
        own += of.own if of else [next((m.axes for m in marks if isinstance(m, Own)), 0)]
    get = attrgetter(*paths)
    return _Walk(
        tuple(paths), tuple(own), tuple(inner), get if len(paths) > 1 else lambda record: (get(record),)
    )


def _walk_of(record: Any) -> _Walk | None:
    return _walk(type(record))  # type: ignore[arg-type]


def _rebuilt(kind: type, values: Iterator[Any]) -> Any:
    """A record of a kind out of its leaves."""
    walk = _walk(kind)
    assert walk is not None
    return kind(*[next(values) if of is None else _rebuilt(of, values) for of in walk.inner])


def mapped(record: Record, change: Leaf) -> Record:
    """A copy of a record, or of what is itself an array, with every leaf changed."""
    walk = _walk_of(record)
    if walk is None:
        return change(np.asarray(record), 0)
    values = [change(np.asarray(leaf), own) for leaf, own in zip(walk.leaves(record), walk.own, strict=True)]
    return _rebuilt(type(record), iter(values))


def leaves(record: Any) -> list[tuple[Any, int]]:
    """Every leaf of a record with the number of its own axes, in the order of the fields."""
    walk = _walk_of(record)
    if walk is None:
        return [(np.asarray(record), 0)]
    return list(zip(walk.leaves(record), walk.own, strict=True))


def either(condition: BoolArray, yes: Record, no: Record) -> Record:
    """A record whose leaves are those of ``yes`` where the ``condition`` over the shared axes holds, else those of
    ``no``."""
    walk = _walk_of(no)
    assert walk is not None
    pairs = zip(walk.leaves(yes), walk.leaves(no), walk.own, strict=True)
    values = [
        np.where(np.reshape(condition, (*np.shape(condition), *(1,) * own)), a, b) for a, b, own in pairs
    ]
    return _rebuilt(type(no), iter(values))


def lead(array: Any, own: int) -> tuple[int, ...]:
    """Shape of the axes that a leaf shares with the others."""
    shape: tuple[int, ...] = array.shape if isinstance(array, np.ndarray) else np.shape(array)
    return shape[: len(shape) - own]


def stack(records: Sequence[Record]) -> Record:
    """Equal records of single systems stacked into one whose arrays lead with (candidates, 1), ready for cases. What all
    of them share stays as it is and is computed once."""
    first = records[0]
    others = [record for record in records if record is not first]
    if not others:
        return first
    if _walk_of(first) is not None:
        values = (stack([getattr(r, f.name) for r in records]) for f in fields(first))  # type: ignore[arg-type]
        return type(first)(*values)
    array = np.asarray(first)
    if all(np.array_equal(np.asarray(other), array) for other in others):
        return first
    stacked = np.stack([np.asarray(record) for record in records])
    return stacked.reshape(stacked.shape[0], 1, *stacked.shape[1:])  # type: ignore[return-value]


def _has_candidates(array: Any, own: int) -> bool:
    """Whether a leaf has the two leading axes of (candidates, 1)."""
    return len(lead(array, own)) >= 2


def part_of(record: Record, chosen: slice | IntArray) -> Record:
    """Some candidates of a (candidates, 1) record; what all share stays."""
    return mapped(record, lambda a, own: a[chosen] if _has_candidates(a, own) and a.shape[0] > 1 else a)


def candidates_at(record: Record, which: IntArray) -> Record:
    """Candidates of a (candidates, 1) record by their indices, as one axis; what all share stays."""
    return mapped(record, lambda a, own: a[which, 0] if _has_candidates(a, own) else a)


def candidate(record: Record, index: int) -> Record:
    """One candidate of a solved record whose arrays lead with candidates, or with one for all."""
    return mapped(record, lambda a, _: a[min(index, a.shape[0] - 1)])


def pick(record: Record, index: int) -> Record:
    """Entry ``index`` of the leading axis of every array in a record."""
    return mapped(record, lambda a, _: a[index])


def lead_of(record: Any) -> tuple[int, ...]:
    """Shape that all leaves of a record share, whichever of them vary."""
    shapes = {lead(array, own) for array, own in leaves(record)} - {()}
    return np.broadcast_shapes(*shapes) if len(shapes) > 1 else next(iter(shapes), ())


def of_cases(record: Record, which: IntArray) -> Record:
    """Some of the cases, the last shared axis of every leaf, by their indices."""
    return mapped(record, lambda a, own: np.take(a, which, -1 - own))


def with_axis(record: Record) -> Record:
    """The same record with a length-one axis behind the shared ones of every leaf, for zones."""
    return mapped(record, lambda a, own: np.expand_dims(a, np.ndim(a) - own))


def changed(record: Record, path: str, value: Any) -> Record:
    """A copy of a record with the field at a dotted ``path`` set, such as ``air.fan.diameter``."""
    return changed_all(record, {path: value})


def changed_all(record: Record, values: Mapping[str, Any]) -> Record:
    """A copy of a record with the fields at several dotted paths set, each part of it rebuilt once."""
    own: dict[str, Any] = {}
    within: dict[str, dict[str, Any]] = {}
    for path, value in values.items():
        name, _, rest = path.partition(".")
        if rest:
            within.setdefault(name, {})[rest] = value
        else:
            own[name] = value
    inner = {name: changed_all(getattr(record, name), part) for name, part in within.items()}
    return replace(record, **own, **inner)  # type: ignore[type-var]


def value_at(record: Any, path: str) -> FloatArray:
    """The field of a record at a dotted ``path``."""
    for name in path.split("."):
        record = getattr(record, name)
    return np.asarray(record)


def scaled_at(record: Any, path: str, array: Any, factor: FloatArray) -> FloatArray:
    """An ``array`` for the field of a record at a dotted ``path`` times a ``factor`` over the shared axes."""
    *parts, name = path.split(".")
    for part in parts:
        record = getattr(record, part)
    walk = _walk_of(record)
    own = walk.own[walk.paths.index(name)] if walk else 0
    return np.asarray(np.asarray(array) * np.reshape(factor, (*np.shape(factor), *(1,) * own)))
