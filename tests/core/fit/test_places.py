"""Where air collects, by hand."""

import pytest

from ebbrin.core.fit.places import SCHOOLS, Heights, lift_needed, must_go, works
from ebbrin.core.fit.wiring import FUSES, WIRES, fuse_for, gauge_for, wire_for


def heights(**more: float | int | bool | None) -> Heights:
    known = {
        "filler": 0.5,
        "heater": 0.7,
        "outlet": 0.6,
        "bleed": None,
        "bleed_screws": 0,
        "bottle": False,
        "vent_run": False,
    }
    return Heights(**{**known, **more})  # type: ignore[arg-type]


def test_a_heater_above_the_filler_wants_the_nose_up_or_more() -> None:
    assert works("funnel", heights()).works is True  # 0.5 + 0.25 over 0.7
    assert works("funnel", heights(heater=0.8)).works is False
    assert works("nose", heights(heater=0.8)).works is True
    assert works("nose", heights(heater=1.2)).works is False
    assert works("funnel", heights(heater=0.8)).spare == pytest.approx(-0.05)


def test_bleed_screws_work_where_they_are_the_highest_place() -> None:
    assert works("bleed", heights(bleed=0.72, bleed_screws=2)).works is True
    assert works("bleed", heights(bleed=0.65, bleed_screws=2)).works is False
    assert works("bleed", heights(bleed_screws=0)).why == "absent"
    assert works("bleed", heights(bleed_screws=None)).works is None


def test_what_is_not_known_is_not_claimed() -> None:
    for school in SCHOOLS:
        found = works(school, heights(filler=None, heater=None, bleed_screws=None))
        assert found.works is None or found.why == "absent"
    assert lift_needed(heights(outlet=None)) is None


def test_the_pump_carries_air_whatever_stands_higher() -> None:
    assert works("vent", heights(vent_run=True, heater=2.0)).works is True


@pytest.mark.parametrize(("opened", "goes"), [(0.6, 0.0), (0.3, 0.575), (0.0, 1.0), (0.9, 0.0)])
def test_what_has_to_run_out_before_a_place_is_opened(opened: float, goes: float) -> None:
    # Half of the height above the place: half of the fill, and 15 % of that in reserve; never more than there is.
    assert must_go(opened, 0.6, 1.0) == pytest.approx(goes)


def test_fuse_and_wire_protect_each_other() -> None:
    for amps in (3.0, 8.0, 12.2, 22.0, 35.0):
        fuse, wire = fuse_for(amps), wire_for(amps)
        assert fuse in FUSES
        assert amps <= 0.75 * fuse
        assert wire is None or fuse <= 0.75 * WIRES[wire]
    assert fuse_for(200.0) is None


# Sections of the trade's tables of ASTM B258 gauges, rounded [mm²] (from memory).
SECTIONS = {16: 1.31, 14: 2.08, 12: 3.31, 10: 5.26, 8: 8.37, 6: 13.3, 4: 21.2, 2: 33.6}


@pytest.mark.parametrize("area", [0.5, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0, 25.0])
def test_a_gauge_is_the_thinnest_that_is_thick_enough(area: float) -> None:
    found = gauge_for(area)
    assert SECTIONS[found] >= area
    assert all(section < area for gauge, section in SECTIONS.items() if gauge > found)
