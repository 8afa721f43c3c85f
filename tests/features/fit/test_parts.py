"""Parts and materials: what is bought, what moves over, how much, and what it costs by each school."""

import csv
import io
from typing import Any

import pytest

from ebbrin.features.fit.parts import PartsList, as_csv, parts_list
from ebbrin.features.shelf import shipped
from ebbrin.ground.words import Measure, printed
from tests.features.fit.conftest import mule, with_variant

SHELF = list(shipped())


def lines(found: PartsList) -> dict[str, str]:
    return {line.id: printed(line.amount) for line in found.lines}


def litres(found: PartsList, line_id: str) -> float:
    amount = next(line.amount for line in found.lines if line.id == line_id)
    return next(part.value for part in amount if isinstance(part, Measure))


def test_the_difference_between_the_variants_is_bought_and_the_rest_kept_or_moved() -> None:
    found = parts_list(mule(), "core-fans", "usual", SHELF)
    kinds = {line.id: line.kind for line in found.lines}
    assert kinds["radiator"] == kinds["fan"] == "buy"
    assert kinds["sensor"] == kinds["feet"] == kinds["brackets"] == "move"
    assert kinds["shroud_over"] == kinds["tray"] == "adapt"
    assert kinds["keep_pump"] == "keep"
    assert "720 mm × 470 mm × 50 mm" in lines(found)["radiator"]


def test_schools_go_from_what_is_bad_to_all_that_is_old() -> None:
    build = mule(clamps="good", hoses="good", hoses_years=None, thermostat="good", cap="good")
    bad, usual, all_of_it = (
        set(lines(parts_list(build, "core", school, SHELF))) for school in ("bad", "usual", "all")
    )  # fmt: skip
    assert not {"thermostat", "cap", "clamps"} & bad
    assert {"thermostat", "gasket", "cap", "clamps"} <= usual
    assert {"belt", "fan_switch"} <= all_of_it - usual
    assert "radiator_hoses" not in all_of_it, "good hoses stay"
    old = parts_list(mule(hoses=None, hoses_years=9), "core", "all", SHELF)
    assert "radiator_hoses" in lines(old)
    young = parts_list(mule(hoses=None, hoses_years=2), "core", "all", SHELF)
    assert "radiator_hoses" not in lines(young)
    worn = parts_list(mule(thermostat="bad"), "core", "bad", SHELF)
    assert "thermostat" in lines(worn)


def why(found: PartsList, name: str) -> str:
    return next(printed(line.why) for line in found.lines if line.id == name)


def test_coolant_by_hand() -> None:
    # 14 L half and half, a quarter stays behind, as strong: 10.5 L go in, 5.25 of each and a little for what mixing
    # takes; a tenth more is bought. Nothing is flushed, for the coolant is young.
    found = parts_list(mule(coolant_years=1, block_drains=0), "core", "usual", SHELF)
    assert litres(found, "concentrate") == pytest.approx(1.1 * 5.25, rel=0.015)
    assert litres(found, "water") == pytest.approx(1.1 * 5.25, rel=0.015)
    # Measured, it counts instead: 40 % left are 8.4 L that go in.
    measured = parts_list(mule(coolant_years=1, stays_share=0.4), "core", "usual", SHELF)
    assert litres(measured, "concentrate") == pytest.approx(1.1 * 4.2, rel=0.015)
    # Flushed out, what stays behind is water: all of the glycol has to come from the can.
    flushed = parts_list(mule(coolant_years=8, block_drains=0), "core", "usual", SHELF)
    assert litres(flushed, "concentrate") == pytest.approx(1.1 * 7.0, rel=0.015)
    assert litres(flushed, "water") == pytest.approx(1.1 * 3.5, rel=0.03)
    # What is said of it is what it is.
    assert "with a tenth to spare; 3.5 L of the old fill stay behind." in why(found, "concentrate")
    assert "3.5 L of water stay behind after the flush." in why(flushed, "concentrate")


def test_waterless_takes_its_flush_fluid_for_the_whole_fill() -> None:
    build = with_variant(mule(block_drains=0), "waterless", coolant={"kind": "waterless"})
    found = parts_list(build, "waterless", "usual", SHELF)
    assert litres(found, "flush_fluid") == pytest.approx(1.1 * 14.0)
    assert litres(found, "waterless") == pytest.approx(1.1 * 10.5)
    assert "3.5 L of flush fluid stay behind." in why(found, "waterless")
    assert "concentrate" not in lines(found)


def test_flush_fluid_stays_behind_of_the_new_fill_that_it_filled() -> None:
    build = with_variant(mule(block_drains=0), "waterless", coolant={"kind": "waterless", "volume_l": 20.0})
    found = parts_list(build, "waterless", "usual", SHELF)
    assert litres(found, "waterless") == pytest.approx(1.1 * 15.0)
    assert "5.0 L of flush fluid stay behind." in why(found, "waterless")


def test_sums_add_up_and_a_shelf_part_has_its_own_price() -> None:
    part = next(p for p in SHELF if p.part == "radiator" and p.price)
    build = with_variant(
        mule(),
        "shelf",
        radiator={**part.values, "condition": "new", "from_shelf": {"id": part.id, "version": 1}},
    )
    found = parts_list(build, "shelf", "usual", SHELF)
    assert found.total == pytest.approx(sum(line.price or 0.0 for line in found.lines))
    assert found.totals["usual"] == found.total
    assert found.totals["bad"] <= found.totals["usual"] <= found.totals["all"]
    radiator = next(line for line in found.lines if line.id == "radiator")
    assert radiator.price == part.price
    assert radiator.source == f"the shelf: {part.name}"


def test_a_stronger_fan_asks_for_its_wiring() -> None:
    found = parts_list(mule(), "core-fans", "usual", SHELF)
    # 330 W at 13.5 V is 24.4 A, 12.2 a fan: 20 A fuses carry it at three quarters, and 6 mm² in a loom carries 20 A.
    assert "fuse 20 A" in lines(found)["wiring"]
    assert "for each" in lines(found)["wiring"]


def test_as_csv_every_line_and_the_sum() -> None:
    found = parts_list(mule(), "core-fans", "usual", SHELF)
    rows = list(csv.reader(io.StringIO(as_csv(found, "EUR"))))
    assert rows[0][4] == "price [EUR]"
    assert len(rows) == len(found.lines) + 2
    assert float(rows[-1][4]) == pytest.approx(found.total)


def test_what_has_no_price_is_named_and_in_no_sum() -> None:
    def listed(**parts: dict[str, Any]) -> PartsList:
        return parts_list(with_variant(mule(), "other", **parts), "other", "bad", shipped())

    pump = next(
        line
        for line in listed(circuit={"belt_ratio": 1.5, "run_out_l_per_min": None}).lines
        if line.id == "pump"
    )
    assert pump.price  # by the flow that is assumed for it
    whole, unknown = listed(radiator={"width_mm": 700.0}), listed(radiator={"width_mm": None})
    radiator = next(line for line in whole.lines if line.id == "radiator")
    assert whole.unpriced == []
    assert unknown.unpriced == ["Radiator"]
    assert unknown.total == pytest.approx(whole.total - (radiator.price or 0.0))
