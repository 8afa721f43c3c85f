"""Logs with time stamps, closed to others and rotated."""

from __future__ import annotations

import logging
import os
from logging.handlers import RotatingFileHandler
from pathlib import Path

MOST, KEPT = 1_000_000, 5
LINE = "%(asctime)s %(levelname)s %(name)s: %(message)s"


def say(text: str) -> None:
    """One line of what is done."""
    print(f"  {text}", flush=True)


class _Private(RotatingFileHandler):
    def _open(self):  # type: ignore[no-untyped-def]
        stream = super()._open()
        os.chmod(self.baseFilename, 0o600)
        return stream


def log_to(file: Path | None, name: str = "") -> logging.Logger:
    """Let a logger, the root by default, write warnings and worse to a file, or to standard error without one."""
    logger = logging.getLogger(name)
    handler: logging.Handler = (
        logging.StreamHandler() if file is None else _Private(file, maxBytes=MOST, backupCount=KEPT)
    )
    handler.setFormatter(logging.Formatter(LINE))
    logger.addHandler(handler)
    logger.setLevel(logging.WARNING)
    return logger
