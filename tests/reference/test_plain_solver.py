"""The whole system against a plain solver of the same equations: CoolProp, ht and brentq, point by point."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from ebbrin.build.build import Build
from ebbrin.core.system import limits
from ebbrin.core.system.steady import steady_state
from oracles import plain_solver
from oracles.builds import edited, linnet, part, plain_build, to_core

pytestmark = pytest.mark.long

AGREEMENT = 0.02  # K


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
        "fan with a clutch, hot": part(
            plain(speed_km_h=20, brake_power_kw=25, engine_rpm=3600, ambient_c=38),
            air__fan__kind="mechanical",
            air__fan__diameter_mm=430,
        ),
        "fan without a clutch": part(
            plain(speed_km_h=5),
            air__fan__kind="mechanical",
            air__fan__engaged_share=1.0,
            air__fan__disengaged_share=1.0,
        ),
        "box over part of the face, condenser over less": part(
            plain(speed_km_h=0, brake_power_kw=3, engine_rpm=900, air_conditioning=True),
            air__shroud_cover_share=0.9,
            air__condenser=True,
            air__condenser_cover_share=0.7,
        ),
        "queue without a shroud": part(
            plain(speed_km_h=0, brake_power_kw=3, engine_rpm=900, ambient_c=35),
            air__shroud="none",
            air__fan__diameter_mm=300,
            fan_switch__on_c=90,
            fan_switch__off_c=85,
        ),
        "queue with air conditioning and intercooler": part(
            plain(speed_km_h=0, brake_power_kw=4, engine_rpm=1000, ambient_c=35, air_conditioning=True),
            engine__kind="petrol_boosted",
            air__shroud="none",
            air__condenser=True,
            air__charge_cooler=True,
            air__charge_cooler_cover_share=0.5,
        ),
        "no pump": part(
            plain(speed_km_h=25, brake_power_kw=4, engine_rpm=1200),
            engine__displacement_l=3.0,
            engine__rated_power_kw=15,
            engine__rated_rpm=1800,
            engine__kind="side_valve",
            circuit__pump_drive="none",
            circuit__jacket_drop_kpa=0.5,
            circuit__hose_bore_mm=55,
            circuit__bypass="none",
            circuit__heater=False,
            thermostat__opens_c=60,
            thermostat__drop_kpa=0.5,
            air__fan__kind="mechanical",
            air__shroud="none",
        ),
        "no pump, and 66 K through the engine": part(
            plain(speed_km_h=87, brake_power_kw=9, engine_rpm=1800, ambient_c=-6),
            engine__displacement_l=3.0,
            engine__rated_power_kw=15,
            engine__rated_rpm=1800,
            engine__kind="side_valve",
            circuit__pump_drive="none",
            circuit__jacket_drop_kpa=6,
            circuit__hose_bore_mm=32,
            circuit__bypass="none",
            circuit__heater=False,
            thermostat__opens_c=60,
            coolant__kind="propylene_glycol",
            coolant__glycol_vol_share=0.3,
            air__fan__kind="mechanical",
            air__shroud="none",
        ),
        "prechamber diesel by thirds": part(
            plain(), engine__kind="prechamber_diesel", engine__heat_school="thirds"
        ),
        "no fan": part(plain(), air__fan__kind="none", air__shroud="none"),
        "flaps, standing fan": part(plain(speed_km_h=130), air__flaps=True),
        "electric pump": part(plain(), circuit__pump_drive="electric", engine__heat_school="share_of_power"),
    }


@pytest.mark.parametrize("name", list(variations()))
def test_steady_state_agrees_with_a_plain_solver(name: str) -> None:
    system, cases = to_core(variations()[name])
    limit = limits.limit_temperature(system, limits.boiling_temperature(system, cases, system.cap.holds))
    state = steady_state(system, cases, limit)
    for i in range(len(cases.ambient)):
        theirs = plain_solver.steady_top_hose(system, cases, i)
        assert (theirs is not None) == bool(state.exists[i])
        if theirs is not None:
            cold, hot = theirs
            assert cold - AGREEMENT <= state.top_hose[i] <= hot + AGREEMENT
            assert state.cycles[i] == (cold < hot)


def test_no_steady_state_is_seen_by_both() -> None:
    build = part(plain_build(speed_km_h=0, brake_power_kw=30), air__fan__kind="none", air__shroud="none")
    system, cases = to_core(build)
    assert plain_solver.settle(system, cases, 0, fan_on=True) is None
    assert not steady_state(system, cases, np.array([381.15])).exists[0]
