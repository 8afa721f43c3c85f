"""The page's own tests, as one of these: they run beside the others."""

from __future__ import annotations

import subprocess
from pathlib import Path

import pytest

PAGE = Path(__file__).parents[1] / "web"


@pytest.mark.long
def test_the_page_passes_its_own_tests() -> None:
    # On one helper: the processors are busy with the other tests, and a second one brings everything in once more.
    command = ["npm", "test", "--", "--maxWorkers=1"]
    done = subprocess.run(command, cwd=PAGE, stdin=subprocess.DEVNULL, capture_output=True, text=True)
    assert done.returncode == 0, f"Run: npm --prefix web test\n{done.stdout[-8000:]}\n{done.stderr[-8000:]}"
