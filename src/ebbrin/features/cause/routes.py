"""The routes of finding a cause, and of the cases that are kept."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Depends, Query, Request

from ebbrin.features.cause.answers import CardsQuestion, Diagnosis, DiagnosisQuestion
from ebbrin.features.cause.cards import Card
from ebbrin.features.cause.cases import CaseBody, Cases, Findings, NewCase
from ebbrin.features.cause.service import CauseService
from ebbrin.features.cause.trainer import Debrief, Found, Look, Named, Practice, PracticeCar, Trainer
from ebbrin.ground.lanes import lanes
from ebbrin.ground.problems import possible

router = APIRouter(prefix="/api/v1")


def _cases(request: Request) -> Cases:
    cases: Cases = request.app.state.cases
    return cases


def _causes(request: Request) -> CauseService:
    service: CauseService = request.app.state.causes
    return service


def _trainer(request: Request) -> Trainer:
    trainer: Trainer = request.app.state.trainer
    return trainer


Practised = Annotated[Trainer, Depends(_trainer)]
KeptCases = Annotated[Cases, Depends(_cases)]
Service = Annotated[CauseService, Depends(_causes)]


@router.post("/diagnosis", responses=possible(404, 413, 422, 503))
async def diagnose(
    question: DiagnosisQuestion,
    request: Request,
    service: Service,
    wait: Annotated[bool, Query(description="Wait until the build was driven with each fault.")] = False,
) -> Diagnosis:
    """What it may be and what to look at next, from what was seen. Stores nothing. A build is driven in the model with
    each fault behind the scenes; until that is done the tables speak, and the answer says so."""
    lane = lanes(request).faults if wait else lanes(request).answers
    return await lane.run(request, service.diagnose, question, wait)


@router.post("/diagnosis/cards", responses=possible(404, 413, 422, 503))
async def test_cards(question: CardsQuestion, request: Request, service: Service) -> list[Card]:
    """How every look, feel, measure and test is made, with the numbers of the build."""
    return await lanes(request).answers.run(request, service.cards, question)


@router.post("/practice/car", responses=possible(413, 422, 503))
async def practice_car(practice: Practice, request: Request, trainer: Practised) -> PracticeCar:
    """A demo car with hidden faults, as its driver brings it. The same seed is the same car."""
    return await lanes(request).drives.run(request, trainer.car, practice)


@router.post("/practice/look", responses=possible(413, 422, 503))
async def practice_look(look: Look, request: Request, trainer: Practised) -> Found:
    """What is seen of it by one observation, with the instrument's own error."""
    return await lanes(request).drives.run(request, trainer.look, look)


@router.post("/practice/debrief", responses=possible(413, 422, 503))
async def practice_debrief(named: Named, request: Request, trainer: Practised) -> Debrief:
    """The truth, what each look told, and what the engine's own order would have cost."""
    return await lanes(request).drives.run(request, trainer.debrief, named)


@router.get("/builds/{build_id}/cases", responses=possible(422, 503))
def list_cases(build_id: UUID, cases: KeptCases) -> list[CaseBody]:
    """The cases of a build, the newest first."""
    return cases.listed(build_id)


@router.post("/builds/{build_id}/cases", status_code=201, responses=possible(404, 409, 413, 422, 503))
def begin_case(build_id: UUID, case: NewCase, cases: KeptCases) -> CaseBody:
    """Begin a case of a build; the same id again is the same case."""
    return cases.begin(case, build_id)


@router.get("/cases", responses=possible(503))
def list_cases_of_any_car(cases: KeptCases) -> list[CaseBody]:
    """The cases that belong to no build, the newest first."""
    return cases.listed(None)


@router.post("/cases", status_code=201, responses=possible(409, 413, 422, 503))
def begin_case_of_any_car(case: NewCase, cases: KeptCases) -> CaseBody:
    """Begin a case of any car."""
    return cases.begin(case, None)


@router.get("/cases/{case_id}", responses=possible(404, 422, 503))
def open_case(case_id: UUID, cases: KeptCases) -> CaseBody:
    """One case as it stands."""
    return cases.find(case_id)


@router.post("/cases/{case_id}/findings", responses=possible(404, 409, 413, 422, 503))
def add_findings(case_id: UUID, found: Findings, cases: KeptCases) -> CaseBody:
    """Add what was found; a finding that is there already is left as it is."""
    return cases.add(case_id, found.findings)
