"""Builds as a user has them: list with their worst case, open, save on top of what was opened."""

from __future__ import annotations

import time
from dataclasses import dataclass
from datetime import datetime
from threading import Lock
from uuid import UUID

from ebbrin.core.base import DomainError
from ebbrin.demo import demo_builds
from ebbrin.document.build import Build
from ebbrin.document.from_core import refusal
from ebbrin.document.resolve import MissingValues
from ebbrin.document.result import Evaluation, Text, Verdict
from ebbrin.service.evaluate import evaluate
from ebbrin.store.builds import Builds, Revision
from ebbrin.store.database import Database
from ebbrin.store.errors import RevisionTaken

PATIENCE = 1.0
"""How long a list takes to judge builds before it answers with those that it has [s]."""


@dataclass(frozen=True)
class Stored:
    """A build as it is stored."""

    id: UUID
    revision: int
    saved_at: datetime
    revision_name: str | None
    build: Build


@dataclass(frozen=True)
class Summary:
    """A line of the list: a build and its worst case. No verdict while it is still being described, or has not been
    ``judged``."""

    id: UUID
    revision: int
    saved_at: datetime
    name: str
    workshop: str
    judged: bool
    verdict: Verdict | None
    chance: float | None
    worst_case: str | None
    sentence: Text


class Conflict(Exception):  # noqa: N818
    """An edit was based on a revision that is no longer the newest. Both versions are here."""

    def __init__(self, based_on: int, current: Stored, yours: Build) -> None:
        self.based_on, self.current, self.yours = based_on, current, yours
        super().__init__(f"revision {based_on} has been followed by revision {current.revision}")


class BuildService:
    """What the page and the command line do with stored builds."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._judged: dict[UUID, Summary] = {}
        self._lock = Lock()

    def create(self, build: Build) -> Stored:
        """Store a new build."""
        with self._database.session() as session:
            return _stored(Builds(session).add(build.model_dump(mode="json")))

    def open(self, build_id: UUID) -> Stored:
        """The newest revision."""
        with self._database.session() as session:
            return _stored(Builds(session).latest(build_id))

    def save(self, build_id: UUID, based_on: int, build: Build) -> Stored:
        """Add a revision on top of ``based_on``.

        Raises
        ------
        Conflict
            If somebody saved in between; nothing is overwritten.
        """
        document = build.model_dump(mode="json")
        try:
            with self._database.session() as session:
                return _stored(Builds(session).append(build_id, based_on, document))
        except RevisionTaken as taken:
            raise Conflict(based_on, self.open(build_id), build) from taken

    def revisions(self, build_id: UUID) -> list[Stored]:
        """All revisions, the newest first."""
        with self._database.session() as session:
            return [_stored(revision) for revision in Builds(session).revisions(build_id)]

    def name_revision(self, build_id: UUID, number: int, name: str) -> Stored:
        """Give one revision a name; an empty one takes it away."""
        with self._database.session() as session:
            return _stored(Builds(session).name(build_id, number, name.strip() or None))

    def summaries(self, patience: float = PATIENCE) -> list[Summary]:
        """Every build with its worst case, as far as they can be judged in about ``patience`` [s]; at least one more
        each time."""
        with self._database.session() as session:
            latest = Builds(session).all_latest()
        end, late, lines = time.monotonic() + patience, False, []
        for revision in latest:
            line = self._known(revision)
            if line is None and not late:
                line = self._judged_now(revision)
                late = time.monotonic() > end
            lines.append(line or _line(_stored(revision), [], judged=False))
        return lines

    def load_demo_when_new(self) -> int:
        """Store the demo workshop if there is no build at all; how many were stored."""
        with self._database.session() as session:
            builds = Builds(session)
            if builds.all_latest():
                return 0
            demo = demo_builds()
            for build in demo:
                builds.add(build.model_dump(mode="json"))
            return len(demo)

    def reset_to_demo(self) -> int:
        """Remove every build and store the demo workshop again."""
        with self._database.session() as session:
            Builds(session).remove_all()
        return self.load_demo_when_new()

    def _known(self, revision: Revision) -> Summary | None:
        with self._lock:
            line = self._judged.get(revision.build_id)
        return line if line is not None and line.revision == revision.number else None

    def _judged_now(self, revision: Revision) -> Summary:
        line = _judge(_stored(revision))
        with self._lock:
            self._judged[revision.build_id] = line
        return line


def _stored(revision: Revision) -> Stored:
    build = Build.model_validate(revision.document)
    return Stored(revision.build_id, revision.number, revision.created_at, revision.name, build)


def _judge(stored: Stored) -> Summary:
    """The worst case over the first variant, or what is still missing."""
    try:
        result: Evaluation | None = evaluate(stored.build, levers=False)
        said: Text = []
    except MissingValues as error:
        result, said = None, [f"Still to be described: {', '.join(m.title.lower() for m in error.missing)}."]
    except DomainError as error:
        result, said = None, [f"Cannot be computed: {refusal(error)}."]
    if result is None:
        return _line(stored, said)
    worst = result.cases[0]
    return _line(stored, worst.sentence, result.verdict, worst.chance, worst.name)


def _line(
    stored: Stored,
    sentence: Text,
    verdict: Verdict | None = None,
    chance: float | None = None,
    worst_case: str | None = None,
    judged: bool = True,
) -> Summary:
    build = stored.build
    return Summary(
        stored.id,
        stored.revision,
        stored.saved_at,
        build.name,
        build.workshop,
        judged,
        verdict,
        chance,
        worst_case,
        sentence,
    )
