"""An Ebbrin of its own for a benchmark: a state folder and a port that nobody else has, gone afterwards."""

from __future__ import annotations

import os
import shutil
import socket
import subprocess
import sys
import tempfile
from pathlib import Path


class Place:
    """Started when entered, stopped and removed when left."""

    def __enter__(self) -> Place:
        self.folder = Path(tempfile.mkdtemp(prefix="ebbrin-bench-", dir="/var/tmp"))
        self.folder.chmod(0o755)
        self.state = self.folder / "state"
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = int(probe.getsockname()[1])
        self.tell("up")
        return self

    @property
    def address(self) -> str:
        """Where it answers."""
        return f"http://127.0.0.1:{self.port}"

    def tell(self, word: str) -> str:
        """One of ./start's words, and what was said."""
        done = subprocess.run(
            [sys.executable, "-m", "ebbrin.app.serve", word], capture_output=True, text=True, check=False,
            env=os.environ | {"EBBRIN_STATE": str(self.state), "EBBRIN_PORT": str(self.port)},
        )  # fmt: skip
        if done.returncode:
            raise RuntimeError(done.stdout + done.stderr)
        return done.stdout

    def __exit__(self, *_: object) -> None:
        self.tell("down")
        shutil.rmtree(self.folder)
