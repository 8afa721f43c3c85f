"""Builds as a user has them: list with their worst case, open, save on top of what was opened."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass
from datetime import datetime
from threading import Lock
from uuid import UUID

from ebbrin.core.base import DomainError
from ebbrin.demo import demo_builds
from ebbrin.document.build import Build
from ebbrin.document.resolve import MissingValues
from ebbrin.document.result import Evaluation, Text, Verdict
from ebbrin.service.evaluate import evaluate
from ebbrin.store.builds import Builds, Revision
from ebbrin.store.database import Database
from ebbrin.store.errors import RevisionTaken

REMEMBERED = 256


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
    """A line of the list: a build and its worst case; no verdict while it is still being described."""

    id: UUID
    revision: int
    saved_at: datetime
    name: str
    workshop: str
    verdict: Verdict | None
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
        self._judged: OrderedDict[tuple[UUID, int], Summary] = OrderedDict()
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

    def summaries(self) -> list[Summary]:
        """Every build with its worst case."""
        with self._database.session() as session:
            latest = Builds(session).all_latest()
        return [self._summary(revision) for revision in latest]

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

    def _summary(self, revision: Revision) -> Summary:
        key = (revision.build_id, revision.number)
        with self._lock:
            known = self._judged.get(key)
        if known is None:
            known = _judge(_stored(revision))
            with self._lock:
                self._judged[key] = known
                while len(self._judged) > REMEMBERED:
                    self._judged.popitem(last=False)
        return known


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
        result, said = None, [f"Cannot be computed: {error}."]
    worst = result.cases[0] if result else None
    return Summary(
        stored.id,
        stored.revision,
        stored.saved_at,
        stored.build.name,
        stored.build.workshop,
        result.verdict if result else None,
        worst.name if worst else None,
        worst.sentence if worst else said,
    )
