"""Where something stands in a document: JSON pointers (RFC 6901), such as /variants/0/radiator/width_mm.

The core's own records use dotted names of their fields (core/records.py), for which no document has a place.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any


def pointer(parts: Sequence[Any]) -> str:
    """The pointer to a place that is given by its keys and indices.

    >>> pointer(("variants", 0, "notes / more"))
    '/variants/0/notes ~1 more'
    """
    return "".join("/" + str(part).replace("~", "~0").replace("/", "~1") for part in parts)


def parts_of(path: str) -> list[str]:
    """Keys and indices of a pointer; none for the whole document.

    >>> parts_of("/variants/0/notes ~1 more")
    ['variants', '0', 'notes / more']
    >>> parts_of("")
    []
    """
    return [part.replace("~1", "/").replace("~0", "~") for part in path.split("/")[1:]]


def value_at(node: Any, path: str) -> Any:
    """What stands at a pointer: in models by the names of their fields, in plain documents by key and index.

    >>> value_at({"cases": [{"ambient_c": 30}]}, "/cases/0/ambient_c")
    30

    Raises
    ------
    LookupError, AttributeError
        If nothing stands there.
    """
    for part in parts_of(path):
        if isinstance(node, list | tuple):
            node = node[int(part)]
        elif isinstance(node, dict):
            node = node[part]
        else:
            node = getattr(node, part)
    return node


def put_at(document: dict[str, Any], path: str, value: Any) -> None:
    """Set what stands at a pointer of a plain document, in place."""
    way, _, last = path.rpartition("/")
    value_at(document, way)[parts_of("/" + last)[0]] = value
