"""The verdict: one variant of a build judged over all its cases, how sure that is, and what to measure first."""

from ebbrin.features.judge.answers import (
    Answers,
    CaseResult,
    Evaluation,
    MeasureFirst,
    Uncertainty,
    Verdict,
)
from ebbrin.features.judge.findings import warnings
from ebbrin.features.judge.likelihood import verdict_at
from ebbrin.features.judge.sampling import surely, uncertainty
from ebbrin.features.judge.service import evaluate

__all__ = [
    "Answers",
    "CaseResult",
    "Evaluation",
    "MeasureFirst",
    "Uncertainty",
    "Verdict",
    "evaluate",
    "surely",
    "uncertainty",
    "verdict_at",
    "warnings",
]
