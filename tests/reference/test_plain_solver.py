"""The whole system against a plain solver of the same equations: CoolProp, ht and brentq, point by point."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from benchmarks import plain_solver

from ebbrin.core.system import limits
from ebbrin.core.system.steady import steady_state
from ebbrin.document.build import Build
from tests.builds import edited, linnet, part, plain_build, to_core

AGREEMENT = 5e-3  # of the rise over ambient


def variations() -> dict[str, Build]:
    plain: Any = plain_build
    return {
        "linnet": linnet(),
        "plain": plain(),
        "plates": part(
            plain(brake_power_kw=20, heater=True),
            radiator__core_type="plain",
            radiator__rows=3,
            radiator__depth_mm=66,
            engine__kind="side_valve",
        ),
        "two passes": part(plain(), radiator__passes=2),
        "three in depth, two fans, ring": part(
            plain(),
            radiator__passes=3,
            radiator__pass_layout="in_depth",
            air__shroud="ring",
            air__fan__fans="two",
            air__fan__diameter_mm=280,
        ),
        "all that stands in the way": part(
            plain(heater=True, air_conditioning=True),
            circuit__bypass="spring",
            air__condenser=True,
            air__charge_cooler=True,
            coolant__kind="propylene_glycol",
            air__exit_loss_coefficient=3,
            radiator__scale_mm=0.2,
            radiator__blocked_tubes_share=0.2,
            radiator__blocked_face_share=0.1,
        ),
        "driven fan, water, diesel": part(
            plain(speed_km_h=0, brake_power_kw=8),
            coolant__kind="water",
            air__fan__kind="mechanical",
            engine__kind="diesel",
        ),
        "pusher at altitude": edited(
            part(plain(speed_km_h=10, brake_power_kw=30), air__fan__mount="pusher", air__shroud="none"),
            site__altitude_m=2200,
        ),
        "trailer uphill": part(
            plain(load="road", speed_km_h=70, gradient_share=0.05, tows=True, engine_rpm=3500),
            engine__rated_power_kw=150,
            engine__gearbox_cooler=True,
            engine__cooled_turbo=True,
            engine__kind="petrol_boosted",
            radiator__flow="downflow",
        ),
        "no fan": part(plain(), air__fan__kind="none", air__shroud="none"),
        "flaps, standing fan": part(plain(speed_km_h=130), air__flaps=True),
        "electric pump": part(plain(), circuit__pump_drive="electric", engine__heat_school="share_of_power"),
    }


@pytest.mark.parametrize("name", list(variations()))
def test_steady_state_agrees_with_a_plain_solver(name: str) -> None:
    system, cases = to_core(variations()[name])
    limit = limits.limit_temperature(system, limits.boiling_temperature(system, cases, system.cap.pressure))
    state = steady_state(system, cases, limit)
    for i in range(len(cases.ambient)):
        theirs = plain_solver.steady_top_hose(system, cases, i)
        assert (theirs is not None) == bool(state.exists[i])
        if theirs is not None:
            rise = theirs - cases.ambient[i]
            assert abs(state.top_hose[i] - theirs) <= AGREEMENT * rise


def test_no_steady_state_is_seen_by_both() -> None:
    build = part(plain_build(speed_km_h=0, brake_power_kw=30), air__fan__kind="none", air__shroud="none")
    system, cases = to_core(build)
    assert plain_solver.settle(system, cases, 0, fan_on=True) is None
    assert not steady_state(system, cases, np.array([381.15])).exists[0]
