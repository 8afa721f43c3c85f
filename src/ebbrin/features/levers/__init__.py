"""Levers: what each single change would buy, and a variant in which one is pulled."""

from ebbrin.features.levers.answers import Lever, LeverGain
from ebbrin.features.levers.from_core import levers
from ebbrin.features.levers.service import LEVERS, pull, pulled

__all__ = ["LEVERS", "Lever", "LeverGain", "levers", "pull", "pulled"]
