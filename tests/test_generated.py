"""What is derived from Python for the page is as it would be made now."""

from __future__ import annotations

import subprocess
from pathlib import Path

ROOT = Path(__file__).parents[1]


def test_what_is_generated_is_up_to_date() -> None:
    done = subprocess.run(["scripts/generate", "--check"], cwd=ROOT, capture_output=True, text=True)
    assert done.returncode == 0, f"Run: scripts/generate\n{done.stdout[-4000:]}\n{done.stderr[-4000:]}"
