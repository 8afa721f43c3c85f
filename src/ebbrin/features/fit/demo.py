"""The demo workshop's jobs, all of it invented: Mule stands half-way through its plan, Linnet is proven."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID, uuid5

from ebbrin.build.build import Build
from ebbrin.features.fit.jobs import JobEntry, Jobs, NewJob
from ebbrin.features.fit.plan import plan_of
from ebbrin.features.fit.proving import GaugeReading, HoldQuestion, hold
from ebbrin.features.fit.situation import situation

SPACE = UUID("6b1f0f52-2b8c-4c57-9f0a-2f6f0a7a1c11")
HALF = "sensor_over"
"""Mule's first step that is not done."""


def load_demo_jobs(jobs: Jobs, builds: dict[UUID, Build]) -> int:
    """Begin the jobs of the demo builds among these; how many were begun."""
    count = 0
    for build_id, build in builds.items():
        entries = {"Mule": _half_way, "Linnet": _proven}.get(build.name, lambda _: [])(build)
        if entries:
            job_id = uuid5(SPACE, f"{build_id} job")
            jobs.begin(NewJob(id=job_id), build_id)
            jobs.add(
                job_id,
                [
                    one.model_copy(update={"id": uuid5(SPACE, f"{job_id} {n}")})
                    for n, one in enumerate(entries)
                ],
            )
            count += 1
    return count


class _Day:
    """A day's work: each entry some minutes after the one before."""

    def __init__(self, days_ago: float) -> None:
        self.now = datetime.now(UTC) - timedelta(days=days_ago)
        self.entries: list[JobEntry] = []

    def add(self, kind: str, minutes: float, **more: Any) -> None:
        self.now += timedelta(minutes=minutes)
        self.entries.append(
            JobEntry.model_validate({"id": uuid5(SPACE, "none"), "at": self.now, "kind": kind, **more})
        )


def _planned(build: Build, variant: str) -> dict[str, Any]:
    standing = build.variants[0].id
    plan = plan_of(situation(build.model_copy(update={"standing": standing}), variant, "usual"))
    return {
        "revision": 1,
        "standing": standing,
        "variant": variant,
        "school": "usual",
        "steps": [step.id for step in plan.steps],
    }


def _half_way(build: Build) -> list[JobEntry]:
    day, planned = _Day(1.2), _planned(build, "core-fans")
    day.add("planned", 0, plan=planned, by="Ada")
    for line in ("radiator", "fan", "thermostat", "concentrate", "water", "clamps"):
        day.add("part", 1, line=line, state="here", by="Ada")
    day.add("part", 1, line="radiator", state="here", price=498.0, by="Ada")
    for step in planned["steps"]:
        if step == HALF:
            break
        if step == "block_drain":
            day.add("skipped", 12, step=step, note="The plug will not move, and it must not break.", by="Bo")
            continue
        if step == "drain_cock":
            day.add("note", 6, step=step, note="Brown, with flakes.", by="Ada")
        day.add("ticked", 9, step=step, by="Ada" if len(day.entries) % 3 else "Bo")
    return day.entries


def _proven(build: Build) -> list[JobEntry]:
    variant = build.in_the_car.id
    day, planned = _Day(41), _planned(build, variant)
    day.add("planned", 0, plan=planned, by="Ada")
    for step in planned["steps"]:
        day.add("ticked", 11, step=step, by="Ada")
    first = _held(build, variant, 0.55)
    day.add(
        "proof",
        20,
        proof="hold",
        verdict=first[0],
        figures=first[1],
        note="The clamp at the pump was wet; a quarter turn.",
        by="Ada",
    )
    second = _held(build, variant, 0.02)
    day.add("proof", 60, proof="hold", verdict=second[0], figures=second[1], by="Ada")
    day.add("proof", 5, proof="cap", verdict="pass", figures={"lifts_kpa": 107.0}, by="Ada")
    for proof, minutes in (
        ("first_cycle", 60),
        ("second_cycle", 90),
        ("road", 60),
        ("cold_morning", 14 * 60),
        ("clamps", 9 * 24 * 60),
    ):
        day.add("proof", minutes, proof=proof, verdict="pass", by="Ada")
    return day.entries


def _held(build: Build, variant: str, falls_kpa_per_minute: float) -> tuple[str, dict[str, float]]:
    """What a made hold over half an hour comes to."""
    found = hold(
        HoldQuestion(
            build=build,
            variant=variant,
            readings=[
                GaugeReading(at_s=60.0 * minute, pressure_kpa=round(104.0 - falls_kpa_per_minute * minute, 0))
                for minute in range(0, 41, 5)
            ],
            start_c=18.0,
            end_c=18.0,
            resolution_kpa=1.0,
        )
    )
    figures = {name: getattr(found, name) for name in ("leak_ml_h", "low_ml_h", "high_ml_h", "smallest_ml_h")}
    return found.verdict, figures
