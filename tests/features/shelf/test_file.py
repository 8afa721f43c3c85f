"""The shelf's open form: every part that ships fits it, and whatever is wrong is said where it stands."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ebbrin.features.judge.service import evaluate
from ebbrin.features.shelf.file import MOST_PARTS, Form, columns, read, write
from ebbrin.features.shelf.generic import shipped
from ebbrin.features.shelf.parts import SLOTS, ShelfPart, price_of, read_part
from ebbrin.ground.paths import value_at
from oracles.builds import edited, linnet

HEADER = "part,id,name,price,pressure_kpa,diameter_mm,kind,curve\n"


def refusals(text: str, form: str = "csv") -> list[tuple[str, str, str]]:
    return [(entry.where, p.path, p.message) for entry in read(text, form) for p in entry.problems]  # type: ignore[arg-type]


@pytest.mark.parametrize("form", ["csv", "json"])
def test_parts_that_ship_survive_writing_and_reading(form: str) -> None:
    assert [entry.part for entry in read(write(shipped(), form), form)] == list(shipped())  # type: ignore[arg-type]


def test_a_spreadsheet_that_writes_decimals_with_a_comma_is_read() -> None:
    parts = list(shipped())
    rows = list(csv.DictReader(io.StringIO(write(parts, "csv"))))
    out = io.StringIO()
    writer = csv.DictWriter(out, list(rows[0]), delimiter=";")
    writer.writeheader()
    for row in rows:
        texts = ("id", "name", "note")
        writer.writerow(
            {name: cell if name in texts else cell.replace(".", ",") for name, cell in row.items()}
        )
    assert [entry.part for entry in read(out.getvalue(), "csv")] == parts
    # What is written by hand keeps its commas.
    named = read("part;id;name;pressure_kpa\ncap;a;A, 1,5 bar;90,5\n", "csv")[0].part
    assert named is not None
    assert (named.name, named.values["pressure_kpa"]) == ("A, 1,5 bar", 90.5)


def test_ids_of_shipped_parts_differ() -> None:
    ids = [part.id for part in shipped()]
    assert len(set(ids)) == len(ids)


def test_every_field_of_a_slot_is_one_of_the_document() -> None:
    for slot in SLOTS.values():
        assert set(slot.fields) <= set(slot.model.model_fields)
        assert set(slot.needed) <= set(slot.fields)
    assert set(columns()) >= {name for slot in SLOTS.values() for name in slot.fields}


@pytest.mark.parametrize("part", shipped(), ids=[part.id for part in shipped()])
def test_every_shipped_part_works_in_a_build(part: ShelfPart) -> None:
    path = SLOTS[part.part].path.replace("/", "__")
    changes = {f"variants__0{path}__{name}": value for name, value in part.values.items()}
    changes[f"variants__0{path}__from_shelf"] = {"id": part.id, "version": part.version}
    build = edited(linnet(), **changes)
    assert evaluate(build, levers=False).cases
    fitted = value_at(build.model_dump(mode="json"), f"/variants/0{SLOTS[part.part].path}")
    assert all(fitted[name] == value for name, value in part.values.items())


def test_every_field_of_the_form_is_documented() -> None:
    page = (Path(__file__).parents[3] / "docs" / "shelf-format.md").read_text(encoding="utf-8")
    assert [name for name in columns() if f"`{name}`" not in page] == []


def test_thermostats_and_caps_of_the_trade_are_there() -> None:
    """Thermostats 68 to 95 °C, caps of 13 and 16 psi: common practice, no source."""
    opens = {part.values["opens_c"] for part in shipped() if part.part == "thermostat"}
    assert opens >= {68, 71, 77, 82, 88, 91, 95}
    assert {part.values["pressure_kpa"] for part in shipped() if part.part == "cap"} >= {90, 110}


@pytest.mark.parametrize(
    ("row", "path", "message"),
    [
        ("cap,a,A,,200000,,,", "/values/pressure_kpa", "it must lie within 0 to 250 kPa"),
        ("cap,a,A,,,,,", "/values/pressure_kpa", "A cap needs pressure_kpa"),
        ("cap,a,A,-3,90,,,", "/price", "Price is -3; it must lie within 0 to 10000000"),
        ("cap,a b,A,,90,,,", "/id", "Id"),
        ("cap,a,,,90,,,", "/name", "Name is missing."),
        ("lid,a,A,,90,,,", "/part", "Part must be one of 'radiator', 'fan'"),
        ("cap,a,A,,90,300,,", "/values/diameter_mm", "A cap has no field diameter_mm"),
        ("fan,a,A,,,300,electric,0 190 | 0.4", "/values/curve", "Point 2 of the curve is “0.4”"),
        ("fan,a,A,,,300,electric,0 190 | 0.4 fast", "/values/curve/1/pressure_pa", "Pressure must be"),
        ("fan,a,A,,,300,electric,0 190 | 0.4 20", "/values/curve", "end at no pressure"),
        ("fan,a,A,,,300,steam,0 190 | 0.4 0", "/values/kind", "Fan must be one of"),
        ("cap,a,A,,90,,,,,,", "", "The row has 11 cells, the header 8."),
    ],
)
def test_a_row_that_does_not_fit_is_named_with_its_field(row: str, path: str, message: str) -> None:
    found = refusals(HEADER + "cap,fine,Fine,,90,,,\n" + row + "\n")
    assert found[0][:2] == ("line 3", path)
    assert message in found[0][2]


def test_semicolons_byte_order_mark_comments_and_lines_within_cells_are_read() -> None:
    text = '\ufeffpart;id;name;pressure_kpa\n# a note;;;\ncap;a;"two\nlines";90\ncap;b;B;bad\n'
    first, second = read(text, "csv")
    assert first.part is not None
    assert first.part.name == "two\nlines"
    assert second.where == "line 5"


@pytest.mark.parametrize(
    ("text", "form", "message"),
    [
        ("", "csv", "The file is empty"),
        ("id,name\n", "csv", "The header lacks the column part."),
        ("part,id,name,id\n", "csv", "The column id stands twice."),
        ('part,id,name\ncap,"a', "csv", "cannot be read as CSV"),
        ("{", "json", "not JSON"),
        ("[]", "json", "A shelf is an object"),
        ('{"format": "ebbrin-shelf", "version": 9, "parts": []}', "json", "Version 9"),
        ('{"format": "ebbrin-shelf", "version": 1, "parts": [7]}', "json", "A part is an object."),
    ],
)
def test_a_file_that_is_no_shelf_says_so(text: str, form: str, message: str) -> None:
    assert message in refusals(text, form)[0][2]


@given(st.text(max_size=200) | st.text(alphabet='part,id;"\n|0 .', max_size=80))
def test_any_text_is_answered_in_words(text: str) -> None:
    for form in ("csv", "json"):
        for entry in read(text, form):
            assert (entry.part is None) == bool(entry.problems)
            assert all(problem.message for problem in entry.problems)


def test_a_part_with_unknown_keys_or_a_nul_is_refused() -> None:
    raw = {"part": "cap", "id": "a", "name": "A\x00", "values": {"pressure_kpa": 90}, "colour": "red"}
    part, problems = read_part(raw)
    assert part is None
    assert {p.path for p in problems} == {"/name", "/colour"}


@pytest.mark.parametrize(
    "name", ["=1+1", "+49", "-x", "@cmd", "'=kept", "''", "plain", "\u00e4 – b", "=HYPERLINK(“x”)", "-"]
)
@pytest.mark.parametrize("wanted", ["csv", "json"])
def test_no_cell_is_a_formula_and_all_come_back(name: str, wanted: Form) -> None:
    part = ShelfPart(part="cap", id="own", name=name, note=name, values={"pressure_kpa": 90.0})
    text = write([part], wanted)
    if wanted == "csv":
        row = next(csv.DictReader(io.StringIO(text)))
        assert not row["name"].startswith(("=", "+", "-", "@"))
        assert not row["note"].startswith(("=", "+", "-", "@"))
    (entry,) = read(text, wanted)
    assert entry.part == part


def test_very_wide_and_very_long_files_are_refused_in_words() -> None:
    wide = "part,id,name," + ",".join(f"x{i}" for i in range(40_000))
    (refused,) = read(wide, "csv")
    assert "40003 columns; a shelf has at most 200" in refused.problems[0].message
    rows = [f"cap,own-{i},Cap,90\n" for i in range(MOST_PARTS + 2)]
    found = read("part,id,name,pressure_kpa\n" + "".join(rows), "csv")
    assert len(found) == MOST_PARTS + 1
    assert found[0].part is not None
    assert "at most 5000 parts at a time" in found[-1].problems[0].message
    many = {"format": "ebbrin-shelf", "version": 1, "parts": [{}] * (MOST_PARTS + 1)}
    (refused,) = read(json.dumps(many), "json")
    assert "at most 5000" in refused.problems[0].message


def test_a_number_of_very_many_digits_is_no_json() -> None:
    (refused,) = read('{"format": ' + "1" * 5000 + "}", "json")
    assert refused.problems[0].message == "This is not JSON."


def test_what_has_no_price_costs_what_is_most_like_it() -> None:
    def fan(name: str, price: float | None, diameter: float, kind: str = "electric") -> ShelfPart:
        values = {"kind": kind, "diameter_mm": diameter, "curve": []}
        return ShelfPart(part="fan", id=name, name=name, price=price, values=values)

    shelf = [fan("near", 90.0, 300), fan("far", 200.0, 400), fan("other", 10.0, 310, "mechanical")]
    assert price_of(shelf, fan("own", 75.0, 310)) == 75.0
    assert price_of(shelf, fan("own", 0.0, 310)) == 0.0  # a gift is none that nobody knows
    assert price_of(shelf, fan("own", None, 310)) == 90.0
    assert price_of(shelf, fan("own", None, 380)) == 200.0
    assert price_of(shelf, fan("own", None, 380, "mechanical")) == 10.0
    assert price_of(shelf[:2], fan("own", None, 380, "mechanical")) is None
    given = next(part for part in shipped() if part.part == "radiator")
    assert price_of(shipped(), given.model_copy(update={"price": None})) is not None
