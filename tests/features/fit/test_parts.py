"""Parts and materials: what is bought, what moves over, how much, and what it costs by each school."""

import csv
import io
from typing import Any

import numpy as np
import pytest

from ebbrin.bridge.to_core import system_from
from ebbrin.build.resolve import resolve
from ebbrin.core.airpath.fan import drawn_power
from ebbrin.features.fit.parts import PartsList, parts_list
from ebbrin.features.fit.parts_csv import Noted, as_csv
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


def test_what_stays_is_the_same_in_both_variants_only_where_there_are_two() -> None:
    assert (
        why(parts_list(mule(), "core-fans", "usual", SHELF), "keep_pump")
        == "It is the same in both variants."
    )
    build = mule()
    assert why(parts_list(build, build.in_the_car.id, "usual", SHELF), "keep_pump") == "It stays."


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


@pytest.mark.parametrize(
    ("change", "price"),
    [
        ({}, 75),
        ({"electric_power_w": 85}, 75),  # somebody measured it
        ({"fans": "two"}, 220),  # the shelf's pair of that size
        ({"diameter_mm": 305}, 85),
    ],
)
def test_a_shelf_part_that_was_changed_has_its_price_no_longer(change: dict[str, Any], price: float) -> None:
    part = next(p for p in SHELF if p.part == "fan" and p.price == 75)
    taken = {**part.values, "from_shelf": {"id": part.id, "version": 1}, **change}
    build = with_variant(
        mule(), "other", air={**mule().variants[0].air.model_dump(mode="json"), "fan": taken}
    )
    found = next(line for line in parts_list(build, "other", "bad", SHELF).lines if line.id == "fan")
    assert found.price == price
    assert (found.source == f"the shelf: {part.name}") == (price == part.price)


def test_a_core_cut_down_since_it_was_taken_is_none_of_the_shelf() -> None:
    part = next(p for p in SHELF if p.part == "radiator" and p.price)
    taken = {**part.values, "from_shelf": {"id": part.id, "version": 1}}
    build = with_variant(mule(), "cut", radiator={**taken, "width_mm": 0.5 * part.values["width_mm"]})
    found = next(line for line in parts_list(build, "cut", "bad", SHELF).lines if line.id == "radiator")
    assert found.source.startswith("made to measure")
    assert found.price not in (None, part.price)


def test_a_stronger_fan_asks_for_its_wiring() -> None:
    found = lines(parts_list(mule(), "core-fans", "usual", SHELF))
    # Figures of a fan are of one: 330 W at 13.5 V are 24.4 A, so a 40 A fuse carries it at three quarters (30 A would not),
    # and 10 mm² in a loom (three quarters of 61 A) carries what that fuse lets through.
    assert found["wiring"].startswith("for each: fuse 40 A, wire 10 mm² (AWG 6), relay 31 A")
    watts = float(drawn_power(system_from(resolve(mule(), "core-fans")).air.fan, np.ones(2), 1.2)[0])
    assert watts == pytest.approx(2 * 330.0)  # as the alternator has to make them


@pytest.mark.parametrize(
    ("fan", "says"),
    [
        ({"fans": "one"}, "fuse 20 A"),  # a single one of 190 W as before: nothing more, see below
        ({"fans": "two", "electric_power_w": 200}, "for each: fuse 20 A"),
        ({"fans": "one", "electric_power_w": 200}, "fuse 20 A"),
        # What was tested at 13.5 V and gets 15 draws by a quarter more: 18.5 A.
        ({"fans": "one", "electric_power_w": 202.5, "voltage_v": 15.0}, "fuse 25 A"),
        ({"fans": "one", "electric_power_w": 202.5, "voltage_v": 10.0}, "fuse 20 A"),
        ({"fans": "one", "electric_power_w": 405.0, "test_voltage_v": 27.0}, "fuse 20 A"),
        ({"fans": "one", "electric_power_w": 5000.0}, "more than one circuit"),
        ({"electric_power_w": 5000.0, "test_voltage_v": 4.0, "voltage_v": 60.0}, "more than one circuit"),
    ],
)
def test_fuses_are_for_what_one_fan_draws(fan: dict[str, Any], says: str) -> None:
    air = mule().variants[0].air.model_dump(mode="json")
    build = with_variant(
        mule(), "other", air={**air, "fan": {**air["fan"], "staging": "single", "diameter_mm": 290, **fan}}
    )
    found = lines(parts_list(build, "other", "bad", SHELF))
    if fan == {"fans": "one"}:
        assert "wiring" not in found
    else:
        assert found["wiring"].startswith(says)


def test_an_electric_pump_in_the_place_of_a_driven_one_asks_for_its_wiring() -> None:
    build = with_variant(
        mule(), "electric", circuit={"pump_drive": "electric", "electric_pump_w": 150.0, "electric_rpm": 5000}
    )
    found = parts_list(build, "electric", "bad", SHELF)
    assert lines(found)["pump_wiring"].startswith("fuse 15 A")  # 11.1 A
    pump = next(line for line in found.lines if line.id == "pump")
    assert "Electric pump" in pump.source
    again = with_variant(
        build,
        "again",
        circuit={**build.variants[-1].circuit.model_dump(mode="json"), "run_out_l_per_min": 99},
    )
    again.standing = "electric"
    assert "pump_wiring" not in lines(parts_list(again, "again", "bad", SHELF))


@pytest.mark.parametrize(
    ("fan", "price"),
    [
        # The shelf's figures: a single slim one of 280 mm for 75, a pair of 280 for 220, of 330 for 300; driven ones.
        ({"kind": "electric", "fans": "two", "diameter_mm": 280}, 220),
        ({"kind": "electric", "fans": "two", "diameter_mm": 330}, 300),
        ({"kind": "electric", "fans": "one", "diameter_mm": 280}, 75),
        ({"kind": "mechanical", "fans": "two", "diameter_mm": 460}, 120),
        ({"kind": "electric", "fans": "two", "diameter_mm": 406}, 2 * 130),
    ],
)
def test_a_pair_of_fans_costs_what_a_pair_costs(fan: dict[str, Any], price: float) -> None:
    air = mule().variants[0].air.model_dump(mode="json")
    build = with_variant(
        mule(), "other", air={**air, "fan": {**air["fan"], "staging": "single", "curve": None, **fan}}
    )
    found = next(line for line in parts_list(build, "other", "bad", SHELF).lines if line.id == "fan")
    assert found.price == price
    assert printed(found.amount).startswith("two" if price in (220, 300, 260) else "one")


def test_as_csv_every_line_and_the_sum() -> None:
    found = parts_list(mule(), "core-fans", "usual", SHELF)
    rows = list(csv.reader(io.StringIO(as_csv(found, "EUR"))))
    assert rows[0][4] == "price [EUR]"
    assert len(rows) == len(found.lines) + 2
    assert float(rows[-1][4]) == pytest.approx(found.total)
    assert rows[-1][7] == "0.00"


def test_as_csv_with_what_was_noted_in_the_shop() -> None:
    found = parts_list(mule(), "core-fans", "usual", SHELF)
    noted = {
        "radiator": Noted(state="here", paid=498.0),
        "thermostat": Noted(state="fitted", paid=0.0),
        "gone": Noted(state="here", paid=7.0),  # of a line that is no longer there
    }
    rows = list(csv.reader(io.StringIO(as_csv(found, "EUR", noted))))
    assert rows[0][6:] == ["state", "paid [EUR]"]
    by_id = {line.id: row for line, row in zip(found.lines, rows[1:], strict=False)}
    assert by_id["radiator"][6:] == ["here", "498.00"]
    assert by_id["thermostat"][6:] == ["fitted", "0.00"]
    assert by_id["cap"][6:] == ["to get", ""]
    kept = next(line.id for line in found.lines if line.kind in ("keep", "move", "adapt"))
    assert by_id[kept][6:] == ["", ""]
    assert rows[-1][7] == "498.00"


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
