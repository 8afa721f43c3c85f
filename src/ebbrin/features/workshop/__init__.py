"""The workshop: builds as they are stored, their revisions, and the list of them with its verdicts."""

from ebbrin.features.workshop.service import BuildService
from ebbrin.features.workshop.store import BuildRow, UnknownBuild

__all__ = ["BuildRow", "BuildService", "UnknownBuild"]
