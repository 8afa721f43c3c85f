"""What is compiled before anybody waits is all that is compiled."""

from __future__ import annotations

import subprocess
import sys

import pytest

pytestmark = pytest.mark.long

DEEDS = """
import gc

from numba.core.registry import CPUDispatcher

from ebbrin.app import warmth
from ebbrin.demo import demo_builds
from ebbrin.features.curves import coolants, service
from ebbrin.features.drive.answers import DriveQuestion
from ebbrin.features.drive.service import each_fault
from ebbrin.features.judge import evaluate, sampling
from ebbrin.features.shelf.generic import shipped
from ebbrin.features.size.answers import SizingQuestion
from ebbrin.features.size.service import size


def asked():
    made = [one for one in gc.get_objects() if isinstance(one, CPUDispatcher)]
    return {(one.py_func.__module__, one.py_func.__qualname__, kinds) for one in made for kinds in one.signatures}


warmth.needs_and_a_drive()
warmth.an_answer_and_a_cause()
before = asked()
assert before
build = demo_builds()[1]
variant, case = build.variants[0].id, build.cases[0].id
evaluate(build, variant)
sampling.surely(build, variant)
for by in ("chance", "margin"):
    question = {"build": build, "variant": variant, "wishes": {"by": by, "cores": "shelf"}}
    assert size(SizingQuestion.model_validate(question), shipped()) is not None
for curves in (service.heat_curves, service.condition_costs, service.air_lines, service.flow_lines, coolants.compare):
    curves(build, variant, case)
short = build.drives[0].model_copy(update={"legs": [build.drives[0].legs[0].model_copy(update={"duration_s": 5.0})]})
each_fault(DriveQuestion(build=build, variant=variant, drive=short))
# Functions of numbers (..._at) are compiled with the loops that call them.
new = sorted((module, name) for module, name, _ in asked() - before if not name.endswith("_at"))
assert not new, new
"""


def test_nothing_is_compiled_under_a_users_press() -> None:
    found = subprocess.run([sys.executable, "-c", DEEDS], capture_output=True, text=True, check=False)
    assert found.returncode == 0, found.stderr
