"""Filling what is not known: a part alone as the whole variant has it, and every value with its origin."""

from __future__ import annotations

import pytest
from pydantic import BaseModel

from ebbrin.bridge import to_core
from ebbrin.build.build import Build, Variant
from ebbrin.build.resolve import MissingValues, UnknownVariant, resolve, resolve_part
from ebbrin.core.records import leaves
from ebbrin.demo import demo_builds
from oracles.builds import edited, linnet, plain_build
from oracles.made import made

PARTS = [name for name in Variant.model_fields if isinstance(getattr(linnet().variants[0], name), BaseModel)]
BUILDS = [*demo_builds(), *(build for seed in range(12) if (build := made(seed)) is not None)]


def test_a_variant_has_parts() -> None:
    assert {"radiator", "air", "circuit", "coolant", "thermostat", "engine"} <= set(PARTS)


@pytest.mark.parametrize("build", BUILDS, ids=lambda build: build.name)
def test_a_part_alone_is_filled_as_in_its_variant(build: Build) -> None:
    for variant in build.variants:
        whole = resolve(build, variant.id).variant
        for name in PARTS:
            assert resolve_part(build, variant, name) == getattr(whole, name), name


@pytest.mark.parametrize("build", BUILDS, ids=lambda build: build.name)
def test_a_part_alone_becomes_what_the_whole_system_has(build: Build) -> None:
    variant = build.variants[0]
    system = to_core.system_from(resolve(build, variant.id))
    filled = {name: resolve_part(build, variant, name) for name in PARTS}
    pairs = (
        (to_core.core_from(filled["radiator"]), system.core),
        (to_core.air_from(filled["air"]), system.air),
        (to_core.circuit_from(filled["circuit"], filled["thermostat"]), system.circuit),
        (to_core.coolant_from(filled["coolant"]), system.coolant),
    )
    for alone, within in pairs:
        for (mine, _), (theirs, _) in zip(leaves(alone), leaves(within), strict=True):
            assert (mine == theirs).all()


def test_what_a_part_lacks_is_named_and_what_another_lacks_is_not() -> None:
    lacking = edited(linnet(), variants__0__radiator__width_mm=None)
    variant = lacking.variants[0]
    with pytest.raises(MissingValues, match="core width"):
        resolve_part(lacking, variant, "radiator")
    assert resolve_part(lacking, variant, "air") == resolve(linnet(), variant.id).variant.air


def test_nothing_is_left_unknown_that_matters_and_what_was_said_stays() -> None:
    build = linnet()
    said = build.variants[0].model_dump()
    filled = resolve(build, build.variants[0].id)
    for name in PARTS:
        for field, value in said[name].items():
            if value is not None and not isinstance(value, dict):
                assert getattr(getattr(filled.variant, name), field) == value
    assumed = {one.path for one in filled.assumed}
    assert assumed
    assert all(path.startswith(("/variants/0/", "/cases/")) for path in assumed)


def test_what_is_taken_for_a_case_is_written_down_where_it_matters() -> None:
    def taken(**values: object) -> set[str]:
        build = edited(plain_build(), **{f"cases__0__{name}": value for name, value in values.items()})
        return {a.path for a in resolve(build, "v").assumed if a.path.startswith("/cases")}

    assert taken(load="road") == set()
    assert taken(load="power", brake_power_kw=None) == {"/cases/0/brake_power_kw"}
    assert taken(load="power", brake_power_kw=30) == set()
    assert taken(load="road", engine_speed_by="gearing", speed_km_h=80) == {"/cases/0/overall_ratio"}
    assert taken(load="road", kind="timed") == {"/cases/0/duration_s", "/cases/0/start_c"}
    assert taken(load="road", kind="timed", duration_s=30, start_c=95) == set()


def test_a_variant_that_is_not_there_is_named() -> None:
    with pytest.raises(UnknownVariant, match="none-such"):
        resolve(linnet(), "none-such")
