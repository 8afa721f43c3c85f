"""What the workbench has against what is to be fitted, said before it is bought."""

from __future__ import annotations

from ebbrin.build.build import Build
from ebbrin.build.resolve import MissingValues
from ebbrin.core.base import DomainError
from ebbrin.features.judge import evaluate, warnings
from ebbrin.ground.words import Text


def against(build: Build, chosen_id: str) -> list[Text]:
    """Cases in which a variant fails, then what is warned of in it; nothing where too little is known to judge it.

    Raises
    ------
    UnknownVariant
    """
    try:
        answer = evaluate(build, chosen_id, levers=False)
    except (MissingValues, DomainError):
        return []
    name = next(variant.name for variant in build.variants if variant.id == chosen_id)
    where = "; ".join(case.name for case in answer.cases if case.verdict == "fails")
    fails: list[Text] = [[f"By the workbench “{name}” fails in {where}."]] if where else []
    return [*fails, *warnings(answer)]
