"""Sizings as runs: asked for by the page, done by workers, kept until somebody looks."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any
from uuid import UUID

from ebbrin.bridge.refusal import NotPhysical
from ebbrin.build.resolve import MissingValues, resolve
from ebbrin.core.base import DomainError
from ebbrin.features.shelf import ShelfService
from ebbrin.features.size.answers import Sizing, SizingQuestion
from ebbrin.features.size.service import size
from ebbrin.features.size.store import Run, Runs, UnknownRun
from ebbrin.ground.errors import NotFound, StoreUnavailable
from ebbrin.ground.store import Database

TELL_EVERY = 0.3  # s
AT_ONCE, TAKEN_UP, LOOK_AGAIN = 2.0, 0.4, 0.04
"""How long the one who asks waits for an answer, and for a worker to begin with it, and how often is looked [s]."""
KEPT = 20
"""Sizings of a build that are kept."""
PATIENCE = 120.0
"""How long a worker waits for the database to come back before it gives an answer up [s]."""
MOST_ATTEMPTS = 3
GAVE_UP = f"The worker ended {MOST_ATTEMPTS} times while it computed this. Ask again with fewer open wishes."

MISTAKE = "Ebbrin made a mistake; it is in the worker's log. Nothing in the build was changed."


class RunService:
    """What page and workers do with sizings."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def start(self, build_id: UUID, question: SizingQuestion) -> Run:
        """Queue a sizing of a build as the page has it; earlier ones of the build that are not done are stopped. Where
        no other waits, and it takes no longer than AT_ONCE, it comes back done.

        Raises
        ------
        MissingValues
            If a value without an honest default is unknown.
        UnknownVariant
        UnknownBuild
        """
        resolve(question.build, question.variant)
        with self._database.session() as session:
            runs = Runs(session)
            runs.alone(build_id)
            runs.cancel(build_id)
            runs.prune(build_id, KEPT - 1)
            run = runs.add(build_id, question.model_dump(mode="json"))
            only = runs.only_one()
        return self._soon(run) if only else run

    def _soon(self, run: Run) -> Run:
        """The run once it has ended, or as it stands when that takes too long to wait for, or no worker takes it up."""
        began = time.monotonic()
        while run.finished_at is None:
            waited = time.monotonic() - began
            if waited > AT_ONCE or (run.state == "waiting" and waited > TAKEN_UP):
                break
            time.sleep(LOOK_AGAIN)
            try:
                run = self.find(run.id)
            except UnknownRun:
                break  # let go of in that moment
        return run

    def find(self, run_id: UUID) -> Run:
        """One sizing as it stands.

        Raises
        ------
        UnknownRun
        """
        with self._database.session() as session:
            return Runs(session).get(run_id)

    def newest(self, build_id: UUID) -> Run | None:
        """The newest sizing of a build."""
        with self._database.session() as session:
            return Runs(session).newest(build_id)

    def cancel(self, run_id: UUID) -> Run:
        """Stop a sizing; one that has ended stays as it is.

        Raises
        ------
        UnknownRun
        """
        with self._database.session() as session:
            runs = Runs(session)
            runs.cancel(runs.get(run_id).build_id, run_id)
        return self.find(run_id)

    def remove(self, run_id: UUID) -> None:
        """Let go of a sizing and what it found.

        Raises
        ------
        UnknownRun
        """
        with self._database.session() as session:
            Runs(session).remove(run_id)

    def work(self, run_id: UUID) -> None:
        """Do a sizing, as a worker. Whatever happens ends in the run: its result, why there is none, or that it was
        cancelled. A run that another attempt has taken over is left alone."""
        attempt = self._patiently(lambda runs: runs.begin(run_id))
        if attempt is None:
            return
        if attempt > MOST_ATTEMPTS:
            self._patiently(lambda runs: runs.fail(run_id, attempt, GAVE_UP))
            return
        try:
            question = SizingQuestion.model_validate(self._patiently(lambda runs: runs.get(run_id)).question)
        except UnknownRun:
            return  # removed in that moment
        told = 0.0

        def proceed(share: float) -> bool:
            nonlocal told
            now = time.monotonic()
            if now - told < TELL_EVERY:
                return True
            told = now
            try:
                with self._database.session() as session:
                    return Runs(session).tell(run_id, attempt, share)
            except StoreUnavailable:
                return True  # it may be back by the time there is an answer

        try:
            shipped, own = ShelfService(self._database).parts()
            found: Sizing | None = size(question, [*shipped, *own], proceed)
        except (MissingValues, NotFound, DomainError) as error:
            why = NotPhysical(error) if isinstance(error, DomainError) else error
            said = " ".join([why.detail, *(field.message for field in why.fields)])
            self._patiently(lambda runs: runs.fail(run_id, attempt, said))
            return
        except Exception:
            # A mistake of ours: said where somebody waits for the answer, and in the worker's log.
            self._patiently(lambda runs: runs.fail(run_id, attempt, MISTAKE))
            raise
        if found is not None:
            body = found.model_dump(mode="json")
            self._patiently(lambda runs: runs.finish(run_id, attempt, body))

    def _patiently(self, write: Callable[[Runs], Any]) -> Any:
        """Read or write once the database answers."""
        until = time.monotonic() + PATIENCE
        while True:
            try:
                with self._database.session() as session:
                    return write(Runs(session))
            except StoreUnavailable:
                if time.monotonic() > until:
                    raise
                time.sleep(0.5)
