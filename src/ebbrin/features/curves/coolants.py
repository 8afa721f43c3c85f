"""Coolants side by side on one build, and what strength does to freezing and boiling."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np

from ebbrin.bridge.to_core import COOLANTS
from ebbrin.build.build import Build
from ebbrin.core.media import air, boiling, coolants
from ebbrin.core.media.coolants import Coolant, freezing_temperature
from ebbrin.features.curves import answers as result
from ebbrin.features.curves import from_core
from ebbrin.features.curves.service import OneCase, one_case
from ebbrin.features.judge import CaseResult, surely

COMPARED: tuple[dict[str, Any], ...] = (
    {"kind": "water"},
    {"kind": "ethylene_glycol", "glycol_vol_share": 0.5},
    {"kind": "propylene_glycol", "glycol_vol_share": 0.5},
    {"kind": "waterless", "residual_water_share": 0.01},
)
"""Beside what is fitted."""

MIX_STRENGTHS, WATERLESS_RESIDUES = np.linspace(0.0, 0.7, 29), np.linspace(0.0, 0.10, 21)


def compare(build: Build, variant_id: str, case_id: str) -> result.Coolants:
    """Each usual coolant in one variant, judged over all cases, with the figures of one of them.

    Raises
    ------
    MissingValues
        If a value without an honest default is unknown.
    UnknownVariant, UnknownCase
    DomainError
        If the parts do not make a physical system.
    """
    one = one_case(build, variant_id, case_id)
    fitted = _filled(one.resolved.variant.coolant.model_dump())
    others = [entry for entry in map(_filled, COMPARED) if entry != fitted]
    kind = fitted["kind"]
    shown: Literal["ethylene_glycol", "propylene_glycol", "waterless"] = (
        "ethylene_glycol" if kind == "water" else kind
    )
    return result.Coolants(
        case_id=case_id,
        outcomes=[
            _outcome(build, variant_id, case_id, entry, entry is fitted) for entry in (fitted, *others)
        ],
        strength_of=shown,
        strengths=_strengths(one, shown),
    )


def _filled(coolant: dict[str, Any]) -> dict[str, Any]:
    """Only what counts for the kind, so that equal coolants are equal."""
    kind = coolant["kind"]
    name = {"water": None, "waterless": "residual_water_share"}.get(kind, "glycol_vol_share")
    return {"kind": kind} | ({name: float(coolant[name])} if name else {})


def _outcome(
    build: Build, variant_id: str, case_id: str, coolant: dict[str, Any], fitted: bool
) -> result.CoolantOutcome:
    variants = [
        v.model_copy(update={"coolant": v.coolant.model_copy(update=coolant)}) if v.id == variant_id else v
        for v in build.variants
    ]
    answer = surely(build.model_copy(update={"variants": variants}), variant_id)
    case = next(c for c in answer.cases if c.id == case_id)
    share = next((v for k, v in coolant.items() if k != "kind"), None)
    return result.CoolantOutcome(
        kind=coolant["kind"],
        share=share,
        fitted=fitted,
        freezes_c=answer.ladder.freezes_c,
        build_verdict=answer.verdict,
        verdict=case.verdict,
        top_hose_c=_hottest(case),
        margin_k=case.margin_k,
        boils_c=case.boils_c,
        boils_without_cap_c=case.boils_without_cap_c,
        boiling_margin_k=case.boiling_margin_k,
        coolant_flow_l_per_min=case.coolant_flow_l_per_min,
        pump_inlet_margin_kpa=case.pump_inlet_margin_kpa,
    )


def _hottest(case: CaseResult) -> float | None:
    """Top hose that a case is told by [°C]: at the end of a timed one, at its hottest where it hunts."""
    if case.timed is not None:
        return case.timed.end_c
    return case.top_hose_c if case.hunt is None else case.hunt.hottest_c


def _strengths(one: OneCase, kind: str) -> list[result.StrengthPoint]:
    code = COOLANTS[kind]
    if kind == "waterless":
        shares = WATERLESS_RESIDUES
        fractions = 1.0 - shares
    else:
        shares = MIX_STRENGTHS
        fractions = coolants.mass_fraction_from_volume(shares, code)
    mixes = Coolant(np.full(shares.shape, code), fractions)
    outside = air.standard_pressure(one.cases.altitude)[0]
    return from_core.strengths(
        list(shares),
        freezing_temperature(mixes),
        boiling.boiling_temperature(outside + one.system.cap.holds, mixes),
        boiling.boiling_temperature(outside, mixes),
    )
