"""Stored builds: append-only revisions, and a conflict that loses nothing, also when two save at once."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from uuid import uuid4

import pytest
from sqlalchemy import create_engine, text

from ebbrin.build.build import Build
from ebbrin.features.workshop.service import BuildService, Conflict
from ebbrin.features.workshop.store import UnknownBuild
from ebbrin.ground.store import Database
from oracles.builds import linnet

pytestmark = pytest.mark.database


@pytest.fixture
def service(database_url: str):  # type: ignore[no-untyped-def]
    database = Database(database_url)
    yield BuildService(database)
    database.close()


def noted(text_: str) -> Build:
    return linnet().model_copy(update={"notes": text_})


def test_demo_is_loaded_once(service: BuildService) -> None:
    assert len(service.load_demo_when_new()) == 3
    assert service.load_demo_when_new() == {}
    assert [s.name for s in service.summaries()] == ["Linnet", "Mule", "Brigade"]


def test_reset_brings_the_demo_back(service: BuildService) -> None:
    service.create(noted("mine"))
    assert len(service.reset_to_demo()) == 3
    assert [s.name for s in service.summaries()] == ["Linnet", "Mule", "Brigade"]


def test_two_savers_at_once_cannot_both_win(service: BuildService) -> None:
    made = service.create(linnet())

    def save(i: int) -> str:
        try:
            service.save(made.id, 1, noted(f"writer {i}"))
        except Conflict as conflict:
            return f"conflict with {conflict.current.revision}"
        return "saved"

    with ThreadPoolExecutor(8) as pool:
        outcomes = list(pool.map(save, range(8)))
    assert outcomes.count("saved") == 1
    assert len(service.revisions(made.id)) == 2


def test_database_itself_refuses_a_second_revision_of_a_number(
    service: BuildService, database_url: str
) -> None:
    made = service.create(linnet())
    engine = create_engine(database_url)
    with engine.begin() as connection, pytest.raises(Exception, match="revisions_pkey"):
        connection.execute(
            text("INSERT INTO revisions (build_id, number, document) VALUES (:b, 1, '{}')"), {"b": made.id}
        )
    engine.dispose()


def test_worst_case_is_judged_anew_after_a_save(service: BuildService) -> None:
    made = service.create(linnet())
    assert service.summaries()[0].verdict == "tight"
    document = linnet().model_dump(mode="json")
    document["variants"] = document["variants"][2:]
    service.save(made.id, 1, Build.model_validate(document))
    assert service.summaries()[0].verdict == "holds"


def test_a_long_list_answers_at_once_and_is_judged_bit_by_bit(service: BuildService) -> None:
    service.load_demo_when_new()
    judged = [sum(line.judged for line in service.summaries(patience=0.0)) for _ in range(4)]
    assert judged == [1, 2, 3, 3]
    lines = service.summaries(patience=0.0)
    assert [line.name for line in lines] == ["Linnet", "Mule", "Brigade"]
    assert all(line.verdict is not None and line.sentence for line in lines)


def test_what_is_not_judged_yet_has_no_verdict(service: BuildService) -> None:
    service.load_demo_when_new()
    line = service.summaries(patience=0.0)[-1]
    assert (line.judged, line.verdict, line.worst_case, line.sentence) == (False, None, None, [])


def test_what_was_judged_once_is_kept_over_a_restart(
    service: BuildService, database_url: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    service.load_demo_when_new()
    for _ in range(3):
        service.summaries(patience=0.0)
    judged = service.summaries()
    again = Database(database_url)

    def never(*_: object, **__: object) -> None:
        raise AssertionError("judged anew")

    with monkeypatch.context() as patched:
        patched.setattr("ebbrin.features.workshop.service.surely", never)
        assert BuildService(again).summaries() == judged
        # Another version of Ebbrin, or another revision, is judged anew.
        patched.setattr("ebbrin.features.workshop.service.version", lambda: "another")
        with pytest.raises(AssertionError, match="judged anew"):
            BuildService(again).summaries()
    service.save(judged[0].id, 1, noted("changed"))
    with monkeypatch.context() as patched:
        patched.setattr("ebbrin.features.workshop.service.surely", never)
        with pytest.raises(AssertionError, match="judged anew"):
            BuildService(again).summaries()
    again.close()


def test_one_list_at_a_time_judges(service: BuildService) -> None:
    service.load_demo_when_new()
    with service._judging:
        assert [line.judged for line in service.summaries()] == [False] * 3
    assert sum(line.judged for line in service.summaries(patience=0.0)) == 1


def test_history_comes_in_pages(service: BuildService) -> None:
    made = service.create(linnet())
    for number in range(1, 6):
        service.save(made.id, number, noted(str(number)))
    assert [heading.number for heading in service.revisions(made.id, most=4)] == [6, 5, 4, 3]
    assert [heading.number for heading in service.revisions(made.id, before=3, most=4)] == [2, 1]
    assert service.open_revision(made.id, 2).build.notes == "1"
    with pytest.raises(UnknownBuild):
        service.open_revision(made.id, 7)


def test_the_same_save_at_once_is_stored_once(service: BuildService) -> None:
    made, key = service.create(linnet()), uuid4()
    with ThreadPoolExecutor(6) as pool:
        saved = list(pool.map(lambda _: service.save(made.id, 1, noted("once"), key), range(6)))
    assert {stored.revision for stored in saved} == {2}
    assert len(service.revisions(made.id)) == 2
    with ThreadPoolExecutor(6) as pool:
        first = list(pool.map(lambda _: service.create(noted("new"), key_of_new), range(6)))
    assert len({stored.id for stored in first}) == 1


key_of_new = uuid4()
