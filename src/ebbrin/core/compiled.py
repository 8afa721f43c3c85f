"""How functions of plain numbers are compiled, and how one text serves numbers and arrays.

A look at a system (one candidate, one case) is a function of plain numbers, compiled by Numba. Two decorators:

``compiled``: for numbers only, with branches and loops. Where arrays are wanted as well, ``over_arrays`` gives them.
``both``: one text for numbers in compiled code and for arrays outside; ``choose`` is its branch.

What is compiled is kept on the disk, for each state of the core's files, in the first of these folders that can be
written: EBBRIN_COMPILED, the user's cache, the temporary folder. The project itself may be read-only or somebody else's.
"""

from __future__ import annotations

import hashlib
import os
import shutil
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager, suppress
from contextvars import ContextVar
from functools import cache
from pathlib import Path
from typing import Any, TypeVar

import numpy as np

if not {"cffi", "scipy.linalg"} & set(sys.modules):
    # Numba brings in SciPy's linear algebra and a parser of C where they are installed, which nothing here asks for: a
    # quarter of a second, and a fiftieth.
    sys.modules["cffi"] = sys.modules["scipy.linalg"] = None  # type: ignore[assignment]
    import numba.np.arraymath

    del sys.modules["cffi"], sys.modules["scipy.linalg"]

import numba
from numba.extending import overload, register_jitable

from ebbrin.core.base import go_on

F = TypeVar("F", bound=Callable[..., Any])
UNUSED = 7 * 86_400.0  # s
WHOLE = "whole"
"""Name of the file that says that all has been compiled."""
Numbers = Any
"""A record of numbers in compiled code, of arrays outside."""


def _folders() -> Iterator[Path]:
    if asked := os.environ.get("EBBRIN_COMPILED"):
        yield Path(asked)
    yield Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache") / "ebbrin"
    yield Path(tempfile.gettempdir()) / f"ebbrin-{os.getuid()}"


def _state() -> str:
    """Name of this state of the core: Numba looks at the changed file alone, not at those that call it. Users of one
    machine may run it with Pythons that differ in their last number; what is compiled is the same."""
    files = sorted(Path(__file__).parent.rglob("*.py"))
    seen = [f"{file}:{(at := file.stat()).st_mtime_ns}:{at.st_size}" for file in files]
    named = "\n".join([sys.implementation.cache_tag, numba.__version__, *seen])
    return hashlib.sha256(named.encode()).hexdigest()[:16]


def _remove_old(kept: Path) -> None:
    """Forget states of the core that nobody has used for UNUSED seconds."""
    for other in kept.parent.iterdir():
        with suppress(OSError):  # another process may have been quicker
            if other != kept and time.time() - other.stat().st_mtime > UNUSED:
                shutil.rmtree(other, ignore_errors=True)


def cache_folder() -> Path | None:
    """Where compiled code is kept, made if it is not there; None where no folder can be written. A new one is said to
    standard error, for whoever asks first waits."""
    for folder in _folders():
        here = folder / "compiled" / _state()
        try:
            new = not here.exists()
            here.mkdir(parents=True, exist_ok=True, mode=0o700)
            if not os.access(here, os.W_OK | os.X_OK) or here.stat().st_uid != os.getuid():
                continue
            _remove_old(here)
        except OSError:
            continue
        os.utime(here)
        if new:
            print(
                "Ebbrin compiles its computation for this machine, part by part as it is first asked: up to two minutes, once.",
                file=sys.stderr,
            )
        return here
    return None


CACHE = cache_folder()
numba.config.CACHE_DIR = str(CACHE or "")  # type: ignore[attr-defined]


def _compiler(**options: Any) -> Callable[[F], F]:
    return numba.njit(
        cache=CACHE is not None,
        nogil=True,
        error_model="numpy",
        fastmath={"contract", "arcp", "nsz", "reassoc"},
        **options,
    )


def compiled(function: F) -> F:
    """A function of plain numbers, compiled when it is first called with its kinds of arguments. It makes no array, and
    returns none: nothing in it counts who holds one, which took a seventh of the time."""
    if "Array" in str(function.__annotations__.get("return", "")):
        raise TypeError(
            f"{function.__name__} returns an array, which nobody would hold: use compiled_with_room"
        )
    return _compiler(_nrt=False)(function)


def compiled_with_room(function: F) -> F:
    """As ``compiled``, for what makes arrays to work on: loops over elements, and what needs a table of its own."""
    return _compiler(_nrt=True)(function)


def both(function: F) -> F:
    """A function whose text holds for arrays, and for numbers where compiled code calls it."""
    made: F = register_jitable(function)
    return made


def choose(condition: Any, yes: Any, no: Any) -> Any:
    """``yes`` where the condition holds, else ``no``: of arrays element by element, in compiled code a branch."""
    return np.where(condition, yes, no)


@overload(choose)
def _chosen(condition: Any, yes: Any, no: Any) -> Any:  # noqa: ARG001
    def branch(condition: Any, yes: Any, no: Any) -> Any:
        return yes if condition else no

    return branch


def over_arrays(kernel: Callable[..., Any], outputs: int = 1) -> Callable[..., Any]:
    """A compiled function of plain numbers as one of arrays that broadcast, for reports and checks: element by
    element, about a microsecond each. Where it gives several numbers there are as many arrays."""

    def over(*arguments: Any) -> Any:
        arrays = np.broadcast_arrays(*(np.asarray(a, np.float64) for a in arguments))
        found = [kernel(*at) for at in zip(*(a.ravel().tolist() for a in arrays), strict=True)]
        shape = arrays[0].shape
        if outputs == 1:
            return np.array(found, np.float64).reshape(shape)
        columns = np.array(found, np.float64).reshape(-1, outputs)
        return tuple(columns[:, k].reshape(shape) for k in range(outputs))

    return over


_CORES = os.cpu_count() or 1
_pool: ThreadPoolExecutor | None = None
_alone: ContextVar[bool] = ContextVar("alone", default=False)
WORTH_SPREADING, WORTH_A_BLOCK = 400.0, 100.0  # µs
BLOCKS = 8  # for each core, so that none waits long for another


@contextmanager
def on_one_core() -> Iterator[None]:
    """Within this, work is not spread: for threads that share the cores among themselves."""
    token = _alone.set(True)
    try:
        yield
    finally:
        _alone.reset(token)


def over_cores(cost: float, kernel: Callable[..., None], *arguments: Any) -> None:
    """A compiled loop over elements, spread over the processor's cores where that is worth it: the third argument has one
    entry for each element, whose ``cost`` is about so many microseconds. The loop's last arguments are its first element
    and the one behind its last. Each core takes the next block when it is done with one: elements differ, and what stands
    side by side in memory is best written by one core.

    Raises
    ------
    Abandoned
        Where nobody waits for the answer any more.
    """
    global _pool
    go_on()
    count = len(arguments[2])
    if _CORES == 1 or _alone.get() or count * cost < WORTH_SPREADING:
        kernel(*arguments, 0, count)
        return
    size = max(-(-count // (BLOCKS * _CORES)), int(WORTH_A_BLOCK / cost), 1)
    firsts = iter(range(0, count, size))

    def some() -> None:
        for first in firsts:
            kernel(*arguments, first, min(first + size, count))

    _pool = _pool or ThreadPoolExecutor(_CORES - 1, "core")
    others = [_pool.submit(some) for _ in range(1, _CORES)]
    some()
    for other in others:
        if not other.cancel():  # one that waits behind somebody else's work has nothing left to do
            other.result()


def flat(value: Any, shape: tuple[int, ...]) -> Any:
    """A value over all elements of a ``shape``, as one axis of floats."""
    out = np.empty(shape)
    out[...] = value
    return out.reshape(-1)


def places(lead: tuple[int, ...], shape: tuple[int, ...]) -> Any:
    """For each element of a ``shape``, as one axis, which of the candidates it is whose shape is ``lead``."""
    count = int(np.prod(lead))
    out = np.empty(shape, np.int64)
    out[...] = np.arange(count).reshape(lead)
    return out.reshape(-1)


def rows(shape: tuple[int, ...], record: Any) -> Any:
    """An array of structures, one for each element of ``shape``: the fields of a named tuple of arrays that broadcast to
    it, or of named tuples of them, as compiled code reads them."""
    out = np.empty(shape, _structure(_kinds(record)))
    _fill(out, record)
    return out.reshape(-1)


def _kinds(record: Any) -> tuple[Any, ...]:
    """The kind of a named tuple, and for each of its fields the kinds of the named tuple that it is, or None."""
    return type(record), *(_kinds(value) if hasattr(value, "_fields") else None for value in record)


@cache
def _structure(kinds: tuple[Any, ...]) -> Any:
    kind, *inner = kinds
    fields = zip(kind._fields, inner, strict=True)
    return np.dtype([(name, _structure(of) if of else np.float64) for name, of in fields], align=True)


def _fill(out: Any, record: Any) -> None:
    for name, value in zip(record._fields, record, strict=True):
        if hasattr(value, "_fields"):
            _fill(out[name], value)
        else:
            out[name] = value
