"""The work plan of a job: which steps, in which order, with which numbers of this build."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ebbrin.bridge.units import LITRE, MM
from ebbrin.build.build import Build
from ebbrin.build.fields import known
from ebbrin.core.fit.order import Task, bridged, for_two, in_order
from ebbrin.core.fit.places import must_go
from ebbrin.features.fit.against import against, besides
from ebbrin.features.fit.filling import lift_of
from ebbrin.features.fit.mixing import for_the_fill
from ebbrin.features.fit.situation import (
    PULLEY_OF,
    SLOTS,
    School,
    Situation,
    Slot,
    fitted,
    ratio_of,
    situation,
    volume_of,
)
from ebbrin.features.fit.table import STAGES, ProofKind, Stage, StepRow, TimerName, table, wanted
from ebbrin.features.fit.waiting import Waiting, waiting
from ebbrin.features.fit.wiring import circuits
from ebbrin.ground.marked import marked
from ebbrin.ground.words import (
    Answer,
    Measure,
    Text,
    in_sentence,
    length,
    pressure,
    printed,
    share,
    temperature,
    volume,
)


class StepReading(Answer):
    """Something to be read and written down."""

    name: str
    quantity: str


class Moment(Answer):
    """Something that happens while one waits, to be noted with one press."""

    event: str
    says: str


class BadSign(Answer):
    """What leaves the expected, and what is known of the cause then."""

    text: Text
    evidence: dict[str, str] = Field(
        description="Observation and value, as the finding of a cause takes them."
    )


class IfSkipped(Answer):
    """What is said at this step if an earlier one was left out."""

    step: str
    text: str


class ByTwo(Answer):
    """When a step is done by two people [min from the beginning], and whose it is: 1, 2, or 0 for both."""

    begins: float
    ends: float
    hand: int


class PlanStep(Answer):
    """One step of the plan."""

    id: str
    number: int
    stage: Stage
    title: Text
    how: list[Text]
    cautions: list[Text]
    tools: list[str]
    minutes: float
    hands: int
    after: list[str] = Field(description="Steps that must be done before.")
    by_two: ByTwo
    beside: list[str] = Field(description="Steps that the other one does meanwhile, two people at work.")
    timer: TimerName | None
    proof: ProofKind | None
    reads: list[StepReading]
    events: list[Moment]
    bad: list[BadSign]
    if_skipped: list[IfSkipped]


class PlanStage(Answer):
    """A part of the job."""

    stage: Stage
    title: str
    steps: int


class Plan(Answer):
    """The work plan."""

    school: Literal["bad", "usual", "all"]
    does: Text = Field(description="What the job is, in a sentence.")
    against: list[Text] = Field(
        default=[],
        description="What the workbench has against what is to be fitted, and what no step here changes.",
    )
    steps: list[PlanStep]
    stages: list[PlanStage]
    tools: list[str] = Field(description="All that the steps need, in the order of first use.")
    minutes: float = Field(description="For one person, waiting included.")
    minutes_by_two: float
    unknown: list[str] = Field(description="Facts of the car that would change this plan and are not known.")
    titles: dict[str, str] = Field(
        description="What every step is called, also those that are not in this plan."
    )


def waits(rows: dict[str, StepRow], kept: list[str]) -> dict[str, tuple[str, ...]]:
    """What each kept step waits for among the kept ones."""
    after = bridged({name: row.after for name, row in rows.items()}, kept)
    there = set(kept)
    return {
        name: (*before, *(one for one in rows[name].only_after if one in there and one not in before))
        for name, before in after.items()
    }


def planned(build: Build, chosen_id: str, school: School) -> Plan:
    """The plan of a job to a chosen variant, with the times and the pressure of its own runs in the model, and with what
    the workbench has against it.

    Raises
    ------
    UnknownVariant
    """
    so = situation(build, chosen_id, school)
    plan = plan_of(so, waiting(build, chosen_id) if "fills" in so.holds else None)
    return plan.model_copy(update={"against": [*against(build, chosen_id), *besides(so)]})


def plan_of(so: Situation, runs: Waiting | None = None) -> Plan:
    """The plan of a job, with the usual times where no runs of the car are at hand."""
    rows = {row.id: row for row in table().step}
    takes = {name: row.minutes for name, row in rows.items()}
    if runs is not None:
        takes |= runs.minutes(takes)
    holds = so.holds | ({"unknown"} if so.unknown else set())
    kept = [name for name, row in rows.items() if wanted(row, frozenset(holds))]
    after = waits(rows, kept)
    ordered = in_order([Task(name, takes[name], after[name], rows[name].hands) for name in kept])
    slots = for_two(ordered)
    numbers = numbers_of(so) | ({} if runs is None else runs.words())
    cautions = {row.id: marked(row.says, numbers) for row in table().caution}
    there = {task.name for task in ordered}
    later: dict[str, list[IfSkipped]] = {}
    for row in (rows[task.name] for task in ordered):
        for one in row.skipped:
            if one.at in there:
                later.setdefault(one.at, []).append(IfSkipped(step=row.id, text=one.says))

    def beside(name: str) -> list[str]:
        mine = slots[name]
        return [
            other
            for other, slot in slots.items()
            if other != name and slot.begins < mine.ends and mine.begins < slot.ends
        ]

    def step(number: int, task: Task) -> PlanStep:
        row, slot = rows[task.name], slots[task.name]
        return PlanStep(
            id=row.id,
            number=number,
            stage=row.stage,
            title=marked(row.title, numbers),
            how=[marked(line, numbers) for line in row.how],
            cautions=[cautions[name] for name in row.cautions],
            tools=row.tools,
            minutes=task.minutes,
            hands=row.hands,
            after=list(task.after),
            by_two=ByTwo(begins=slot.begins, ends=slot.ends, hand=slot.hand),
            beside=beside(row.id),
            timer=row.timer,
            proof=row.proof,
            reads=[StepReading(name=name, quantity=quantity) for name, quantity in row.reads],
            events=[Moment(event=event, says=says) for event, says in row.events],
            bad=[BadSign(text=marked(sign.says, numbers), evidence=sign.evidence) for sign in row.bad],
            if_skipped=later.get(row.id, []),
        )

    steps = [step(number, task) for number, task in enumerate(ordered, 1)]
    return Plan(
        school=so.school,
        does=_does(so),
        steps=steps,
        stages=[
            PlanStage(stage=stage, title=title, steps=sum(one.stage == stage for one in steps))
            for stage, title in STAGES.items()
            if any(one.stage == stage for one in steps)
        ],
        tools=_tools([rows[task.name] for task in ordered]),
        minutes=sum(task.minutes for task in ordered),
        minutes_by_two=max((slot.ends for slot in slots.values()), default=0.0),
        unknown=list(so.unknown),
        titles={name: printed(marked(row.title)) for name, row in rows.items()},
    )


def _tools(rows: list[StepRow]) -> list[str]:
    found: list[str] = []
    for row in rows:
        found += [tool for tool in row.tools if tool not in found]
    return found


TAKEN_OUT: tuple[Slot, ...] = ("fan", "shroud", "pump")
SLOT_WORDS: dict[Slot, str] = {
    "radiator": "radiator",
    "fan": "fan",
    "shroud": "shroud",
    "pump": "pump",
    "thermostat": "thermostat",
    "fan_switch": "fan switch",
    "cap": "cap",
    "coolant": "coolant",
}


MORE = {
    "core_cleaned": "core cleaned",
    "core_flushed": "core flushed",
    "front_sealed": "gaps around the core closed",
}


def _does(so: Situation) -> Text:
    new = [SLOT_WORDS[slot] for slot in SLOTS if slot in so.new and fitted(slot, so.chosen)]
    also = [name for name in ("hoses", "clamps", "belt") if name in so.also]
    more = [f"{slot} taken out" for slot in TAKEN_OUT if slot in so.new and not fitted(slot, so.chosen)]
    more += [f"another pulley for the {of}" for field, of in PULLEY_OF.items() if field in so.also]
    more += [words for name, words in MORE.items() if name in so.also]
    names = [*new, *also]
    if not names and more and so.standing.id == so.chosen.id:
        return [f"At “{so.standing.name}”: {', '.join(more)}."]
    if not names and not more:
        return ["Nothing is to be changed: mark which variant stands in the car, or choose another one."]
    listed = (
        f"new {', '.join(names[:-1])} and {names[-1]}"
        if len(names) > 1
        else "".join(f"new {one}" for one in names)
    )
    taken = "" if so.marked else ", which is taken to stand in the car,"
    whence = (
        f"From “{so.standing.name}”{taken} to “{so.chosen.name}”: "
        if so.standing.id != so.chosen.id
        else f"At “{so.chosen.name}”: "
    )
    return [f"{whence}{', '.join([*filter(None, [listed]), *more])}."]


def numbers_of(so: Situation) -> dict[str, Measure | str | Text]:
    """What the steps say of this build; what it has not is left out."""
    car, chosen = so.build.car, so.chosen
    opens = known(chosen.thermostat, "opens_c")
    limit = known(chosen.limits, "top_hose_c")
    there = volume_of(so.standing)
    poured = for_the_fill(so)
    lowest = min(known(chosen.cap, "weakest_part_kpa"), known(so.standing.cap, "weakest_part_kpa"))
    found: dict[str, Measure | str | Text] = {
        "volume": volume(there),
        "opens": temperature(opens),
        "open_by": temperature(opens + known(chosen.thermostat, "span_k")),
        "danger": temperature(limit),
        "lowest": pressure(lowest),
        **_counted(car.fan_plugs, "fan_plugs", "plug"),
        **_counted(car.block_drains, "block_drains", "plug"),
        **_counted(car.bleed_screws, "bleed_screws", "screw"),
        "mixed": poured.said(),
        "joints": _joints(so),
    }
    if poured.pours_l > 0.0:
        found["pours"] = volume(poured.pours_l)
    if "pressure" in so.holds:
        mark = known(chosen.cap, "pressure_kpa")
        found["cap"] = pressure(min(mark, lowest))
        found["mark"] = pressure(mark)
    if poured.reaches is not None:
        found["mix"] = share(poured.reaches)
    if chosen.air.fan.kind == "electric":
        found["on"] = temperature(known(chosen.fan_switch, "on_c"))
        found["off"] = temperature(known(chosen.fan_switch, "off_c"))
    pulleys = [field for field in PULLEY_OF if field in so.also]
    if pulleys:
        found["pulleys"] = _pulleys(so, pulleys)
    wired = circuits(so.standing, so.chosen, so.new)
    if wired:
        found["wired"] = "; ".join(f"the {one.of} {one.takes}" for one in wired)
    if so.unknown:
        found["unknown"] = "; ".join(in_sentence(name) for name in so.unknown)
    if "partial" in so.holds and car.filler_height_mm and car.outlet_height_mm is not None:
        runs = must_go(MM * car.outlet_height_mm, MM * car.filler_height_mm, LITRE * there)
        found["partly"] = volume(runs / LITRE)
        found["pours"] = volume(runs / LITRE)
    lift = lift_of(so.build, chosen)
    if lift is not None and lift > 0.0:
        found["lift"] = length(lift / MM)
    return found


def _pulleys(so: Situation, fields: Sequence[str]) -> Text:
    said: Text = []
    for number, field in enumerate(fields):
        ratio = Measure(quantity="ratio", value=ratio_of(so.chosen, field))
        said += [f"{' and the' if number else 'The'} {PULLEY_OF[field]}'s, of ratio ", ratio]
    return said


def _joints(so: Situation) -> str:
    """Where coolant could come out, of what the car has."""
    names = ["Hoses", "housing"]
    if so.build.car.drain != "none":
        names.append("drain")
    if fitted("pump", so.chosen):
        names.append("pump")
    if "gearbox" in so.holds:
        names.append("cooler lines")
    return f"{', '.join(names[:-1])} and {names[-1]}"


def _counted(count: int | None, name: str, noun: str) -> dict[str, Measure | str | Text]:
    if not count:
        return {}
    many = {1: f"The one {noun}", 2: f"Both {noun}s"}
    return {name: many.get(count, f"All {count} {noun}s")}
