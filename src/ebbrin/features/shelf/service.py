"""The shelf as a user has it: parts that ship with Ebbrin and the workshop's own, in one list."""

from __future__ import annotations

from dataclasses import dataclass, field

from ebbrin.features.shelf import file as form
from ebbrin.features.shelf.file import Form
from ebbrin.features.shelf.generic import shipped
from ebbrin.features.shelf.parts import ShelfPart
from ebbrin.features.shelf.store import OwnPart, Shelf
from ebbrin.ground.errors import FieldProblem
from ebbrin.ground.paths import parts_of
from ebbrin.ground.store import Database


@dataclass(frozen=True)
class Refused:
    """A row that was left out, and why: the column is empty where the whole row is meant."""

    where: str
    column: str
    message: str


@dataclass
class Taken:
    """What an import did: ids of new parts and of parts with a new version, how many were there already, and
    the rows that did not fit."""

    added: list[str] = field(default_factory=list)
    changed: list[str] = field(default_factory=list)
    unchanged: int = 0
    refused: list[Refused] = field(default_factory=list)


class ShelfService:
    """What page and command line do with the shelf."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def parts(self) -> tuple[list[ShelfPart], list[ShelfPart]]:
        """Parts that ship, and the workshop's own that have not been taken off."""
        with self._database.session() as session:
            own = [_part(row) for row in Shelf(session).newest() if not row.removed]
        return list(shipped()), own

    def take_in(self, text: str, wanted: Form) -> Taken:
        """Add every row of a file that fits. A part whose values changed gets a new version; builds keep the
        values that were copied into them."""
        taken = Taken()
        given = {part.id: part for part in shipped()}
        entries = form.read(text, wanted)  # before the lock: nobody waits while a file is looked through
        with self._database.session() as session:
            shelf = Shelf(session)
            shelf.lock()
            newest = {row.id: row for row in shelf.newest()}
            for entry in entries:
                if entry.part is None:
                    taken.refused += [_refused(entry.where, p) for p in entry.problems]
                elif entry.part.id in given:
                    _compare_with_shipped(taken, entry.where, entry.part, given[entry.part.id])
                else:
                    newest[entry.part.id] = _store(shelf, taken, entry.part, newest.get(entry.part.id))
        return taken

    def as_file(self, wanted: Form, own_only: bool) -> str:
        """The shelf, or the workshop's own parts, as a file that ``take_in`` reads."""
        given, own = self.parts()
        return form.write(own if own_only else [*given, *own], wanted)

    def set_removed(self, part_id: str, removed: bool) -> bool:
        """Take one of the workshop's own parts off the shelf or put it back; False if there is none."""
        with self._database.session() as session:
            return Shelf(session).set_removed(part_id, removed)


def _part(row: OwnPart) -> ShelfPart:
    return ShelfPart.model_validate({**row.document, "id": row.id, "version": row.version})


def _refused(where: str, problem: FieldProblem) -> Refused:
    return Refused(where, (parts_of(problem.path.removeprefix("/values")) or [""])[0], problem.message)


def _compare_with_shipped(taken: Taken, where: str, part: ShelfPart, given: ShelfPart) -> None:
    if part == given:
        taken.unchanged += 1
        return
    message = f"{part.id} is a part that ships with Ebbrin and stays as it is; give yours an id of its own."
    taken.refused.append(Refused(where, "id", message))


def _store(shelf: Shelf, taken: Taken, part: ShelfPart, known: OwnPart | None) -> OwnPart:
    version = part.version if known is None else max(part.version, known.version + 1)
    document = part.model_dump(mode="json", exclude={"id", "version"})
    if known is not None and known.document == document:
        if known.removed:
            shelf.set_removed(part.id, False)
            taken.added.append(part.id)
        else:
            taken.unchanged += 1
        return OwnPart(part.id, known.version, False, document)
    shelf.add(part.id, version, document)
    (taken.added if known is None or known.removed else taken.changed).append(part.id)
    return OwnPart(part.id, version, False, document)
