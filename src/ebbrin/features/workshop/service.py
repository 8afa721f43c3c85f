"""Builds as a user has them: list with their worst case, open, save on top of what was opened."""

from __future__ import annotations

import time
from dataclasses import dataclass, replace
from datetime import datetime
from threading import Lock
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter, ValidationError

from ebbrin.bridge.refusal import refusal
from ebbrin.build.build import Build
from ebbrin.build.problems import InvalidDocument
from ebbrin.build.resolve import MissingValues
from ebbrin.core.base import DomainError
from ebbrin.demo import demo_builds
from ebbrin.features.judge import Evaluation, Verdict, surely
from ebbrin.features.workshop.store import Builds, Heading, Revision, RevisionTaken, Settings
from ebbrin.ground.errors import EbbrinError, FieldProblem
from ebbrin.ground.store import Database
from ebbrin.ground.version import version
from ebbrin.ground.words import Text, in_sentence

PATIENCE = 0.5
"""How long a list takes to judge builds before it answers with those that it has [s]."""
PAGE_OF_REVISIONS = 50
SHOWN_PROBLEMS = 3
MOST_NAME, COPIED = 120, ", copy"


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
    """A line of the list: a build and its worst case. No verdict while it is still being described, cannot be read, or
    has not been ``judged``."""

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
    readable: bool = True
    archived: bool = False


class Conflict(EbbrinError):
    """An edit was based on a revision that is no longer the newest. Both versions are here."""

    status, kind, title = 412, "conflict", "Somebody saved in between"

    def __init__(self, based_on: int, current: Stored, yours: Build) -> None:
        self.based_on, self.current, self.yours = based_on, current, yours
        super().__init__(
            f"You edited revision {based_on}; revision {current.revision} was saved meanwhile. "
            "Nothing is overwritten: choose one of both versions, or save yours on top."
        )

    @property
    def more(self) -> dict[str, Any]:
        """Both versions."""
        current = STORED.dump_python(self.current, mode="json")
        return {"based_on": self.based_on, "current": current, "yours": self.yours.model_dump(mode="json")}


class Unreadable(EbbrinError):
    """A stored document that is none any more, such as one whose values a newer Ebbrin no longer allows. It is kept."""

    status, kind, title = 422, "unreadable", "This build cannot be read"

    def __init__(self, revision: Revision, problems: list[FieldProblem]) -> None:
        self.revision, self.document, self.problems = revision.number, revision.document, problems
        more = f" and {len(problems) - SHOWN_PROBLEMS} more" if len(problems) > SHOWN_PROBLEMS else ""
        self.said = "; ".join(f"{p.path}: {p.message}".rstrip(".") for p in problems[:SHOWN_PROBLEMS]) + more
        super().__init__(
            f"What is stored cannot be read: {self.said}. It is kept as it is; mend the values that are named."
        )

    @property
    def fields(self) -> list[FieldProblem]:
        """What is wrong with it."""
        return self.problems

    @property
    def more(self) -> dict[str, Any]:
        """The document as it is stored."""
        return {"document": self.document, "revision": self.revision}


class BuildService:
    """What the page and the command line do with stored builds."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._judging = Lock()

    def create(self, build: Build, save_id: UUID | None = None) -> Stored:
        """Store a new build; what the same save has stored already, if it has."""
        with self._database.session() as session:
            return _stored(Builds(session).add(build.model_dump(mode="json"), save_id))

    def open(self, build_id: UUID) -> Stored:
        """The newest revision.

        Raises
        ------
        Unreadable
        """
        with self._database.session() as session:
            return _stored(Builds(session).latest(build_id))

    def open_revision(self, build_id: UUID, number: int) -> Stored:
        """One revision. Raises as ``open``."""
        with self._database.session() as session:
            return _stored(Builds(session).revision(build_id, number))

    def document(self, build_id: UUID) -> dict[str, Any]:
        """The newest document as it is stored, whether it can be read or not."""
        with self._database.session() as session:
            return Builds(session).latest(build_id).document

    def save(self, build_id: UUID, based_on: int, build: Build, save_id: UUID | None = None) -> Stored:
        """Add a revision on top of ``based_on``; what the same save has stored already, if it has.

        Raises
        ------
        Conflict
            If somebody saved in between; nothing is overwritten.
        """
        document = build.model_dump(mode="json")
        try:
            with self._database.session() as session:
                return _stored(Builds(session).append(build_id, based_on, document, save_id))
        except RevisionTaken as taken:
            raise Conflict(based_on, self.open(build_id), build) from taken

    def revisions(
        self, build_id: UUID, before: int | None = None, most: int = PAGE_OF_REVISIONS
    ) -> list[Heading]:
        """Revisions without their documents, the newest first."""
        with self._database.session() as session:
            return list(Builds(session).headings(build_id, before, most))

    def name_revision(self, build_id: UUID, number: int, name: str) -> Heading:
        """Give one revision a name; an empty one takes it away."""
        with self._database.session() as session:
            return Builds(session).name(build_id, number, name.strip() or None)

    def summaries(self, patience: float = PATIENCE) -> list[Summary]:
        """Every build with its worst case, as far as they can be judged in about ``patience`` [s]; at least one more
        each time, unless another list is judging just now."""
        with self._database.session() as session:
            latest = Builds(session).all_latest()
        may = self._judging.acquire(blocking=False)
        try:
            end, lines = time.monotonic() + patience, []
            for heading in latest:
                line = _kept(heading)
                if line is None and may:
                    line = self._judged_now(heading)
                    if time.monotonic() > end:
                        self._judging.release()
                        may = False
                # What is kept of a judgement does not know whether the build was put away since.
                lines.append(replace(line or _unjudged(heading), archived=heading.archived))
            return lines
        finally:
            if may:
                self._judging.release()

    def archive(self, build_id: UUID, archived: bool) -> None:
        """Put a build away, or bring it back; nothing of it is lost.

        Raises
        ------
        UnknownBuild
        """
        with self._database.session() as session:
            Builds(session).archive(build_id, archived)

    def copy(self, build_id: UUID, save_id: UUID | None = None) -> Stored:
        """A new build with the newest document of another; what the same save has made already, if it has.

        Raises
        ------
        UnknownBuild, Unreadable
        """
        build = self.open(build_id).build
        name = f"{build.name[: MOST_NAME - len(COPIED)]}{COPIED}"
        return self.create(build.model_copy(update={"name": name}), save_id)

    def settings(self) -> dict[str, str]:
        """What the workshop has set for all its builds."""
        with self._database.session() as session:
            return Settings(session).all()

    def set(self, name: str, value: str) -> dict[str, str]:
        """Set something for all builds."""
        with self._database.session() as session:
            Settings(session).put(name, value)
            return Settings(session).all()

    def load_demo_when_new(self) -> dict[UUID, Build]:
        """Store the demo workshop if there is no build at all; what was stored, by its ids."""
        with self._database.session() as session:
            builds = Builds(session)
            if builds.any():
                return {}
            return {builds.add(build.model_dump(mode="json")).build_id: build for build in demo_builds()}

    def reset_to_demo(self) -> dict[UUID, Build]:
        """Remove every build and store the demo workshop again."""
        with self._database.session() as session:
            Builds(session).remove_all()
        return self.load_demo_when_new()

    def _judged_now(self, heading: Heading) -> Summary:
        """Judge a build and keep what was found."""
        with self._database.session() as session:
            revision = Builds(session).revision(heading.build_id, heading.number)
        try:
            line = _judge(_stored(revision))
        except Unreadable as error:
            line = _unjudged(heading, [f"Cannot be read: {error.said}."], judged=True, readable=False)
        kept = SUMMARY.dump_python(line, mode="json")
        with self._database.session() as session:
            Builds(session).keep_judgement(heading, version(), kept)
        return line


SUMMARY, STORED = TypeAdapter(Summary), TypeAdapter(Stored)


def _kept(heading: Heading) -> Summary | None:
    """What this version of Ebbrin has kept of a build's judgement."""
    if heading.line is None or heading.judged_by != version():
        return None
    try:
        return SUMMARY.validate_python(heading.line)
    except ValidationError:
        return None


def _unjudged(
    heading: Heading, sentence: Text | None = None, judged: bool = False, readable: bool = True
) -> Summary:
    return Summary(
        heading.build_id,
        heading.number,
        heading.created_at,
        heading.called,
        heading.workshop,
        judged,
        None,
        None,
        None,
        sentence or [],
        readable,
    )


def _stored(revision: Revision) -> Stored:
    """A revision as a build.

    Raises
    ------
    Unreadable
    """
    try:
        build = Build.model_validate(revision.document)
    except ValidationError as error:
        raise Unreadable(revision, InvalidDocument(error).fields) from error
    return Stored(revision.build_id, revision.number, revision.created_at, revision.name, build)


def _judge(stored: Stored) -> Summary:
    """The worst case over the first variant, or what is still missing."""
    try:
        result: Evaluation | None = surely(stored.build)
        said: Text = []
    except MissingValues as error:
        result, said = (
            None,
            [f"Still to be described: {', '.join(in_sentence(m.title) for m in error.missing)}."],
        )
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
) -> Summary:
    build = stored.build
    return Summary(
        stored.id,
        stored.revision,
        stored.saved_at,
        build.name,
        build.workshop,
        True,
        verdict,
        chance,
        worst_case,
        sentence,
    )
