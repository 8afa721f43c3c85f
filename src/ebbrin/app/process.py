"""How a process of Ebbrin's begins and ends without work that nobody asked for: together a third of a start."""

from __future__ import annotations

import gc
import os
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from typing import NoReturn


@contextmanager
def beginning() -> Iterator[None]:
    """Within this, memory is not looked through for circles. What has come in by its end stays, and is left alone."""
    gc.disable()
    try:
        yield
    finally:
        gc.freeze()
        gc.enable()


def leave(code: int) -> NoReturn:
    """End this process with a status, once what it said is out. What it has brought in is taken down by the system."""
    sys.stdout.flush()
    sys.stderr.flush()
    os._exit(code)
