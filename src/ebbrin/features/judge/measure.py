"""What to measure first, and whether any of it could change the verdict."""

from __future__ import annotations

from ebbrin.features.judge.answers import CaseResult, MeasureFirst, UnknownWorth
from ebbrin.features.judge.likelihood import verdict_at
from ebbrin.ground.words import share

MOST_LINES = 6
WORTH_NAMING = 0.005
"""Share of the doubt below which an unknown is not named."""


def measure_first(worst: CaseResult, unknowns: list[UnknownWorth]) -> MeasureFirst:
    """The few that settle most of the doubt in the ``worst`` case."""
    changing = [u for u in unknowns if _changes(worst, u)]
    kept = [u for u in unknowns if u.settles >= WORTH_NAMING][:MOST_LINES]
    if not changing:
        return MeasureFirst(
            case_id=worst.id,
            unknowns=kept,
            sentence=["Nothing that you could measure would change this verdict."],
            changes=False,
        )
    best = max(changing, key=lambda u: u.settles)
    return MeasureFirst(
        case_id=worst.id,
        unknowns=kept,
        sentence=[f"{best.title} would settle ", share(best.settles), f" of the doubt in {worst.name}."],
        changes=True,
    )


def _changes(case: CaseResult, unknown: UnknownWorth) -> bool:
    return {verdict_at(unknown.chance_at_low), verdict_at(unknown.chance_at_high)} != {case.verdict}
