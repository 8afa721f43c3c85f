"""Recorded drives as files: what is read, in which units, and what is refused and where."""

from __future__ import annotations

import numpy as np
import pytest

from ebbrin.build.build import Site
from ebbrin.features.drive.recording import COLUMNS, Recording, legs_from
from ebbrin.features.drive.recording_csv import Read, read

HEAD = "time [s],speed [km/h],engine speed [rpm],gradient [%],ambient [°C]\n"


def body(rows: int = 20, every: float = 1.0, **columns: str) -> str:
    """Even rows; a column may be set to other text."""
    cells = {"speed": "50", "rpm": "1800", "gradient": "2", "ambient": "25"} | columns
    return "".join(f"{every * i},{','.join(cells.values())}\n" for i in range(rows))


def recorded(text: str) -> Recording:
    found = read(text, "Lane")
    assert found.refused == []
    assert found.recording is not None
    return found.recording


def why(found: Read) -> tuple[str, str, str]:
    assert found.recording is None
    first = found.refused[0]
    return first.where, first.column, first.message


def test_every_column_is_read_in_its_own_unit() -> None:
    text = (
        "Time [min];Speed [mph];rpm [1/min];Altitude [ft];Ambient [°F];Power [hp];Trailer;A/C;Heater;Note\n"
        "0;60;2000;328,084;86;100;1;on;0;start\n0,5;60;2000;328,084;86;100;1;off;1;\n1;60;2000;328,084;86;100;1;0;1;\n"
    )
    found = read(text, "Lane")
    assert found.ignored == ["Note"]
    r = found.recording
    assert r is not None
    assert r.time_s == [0.0, 30.0, 60.0]
    # One mile is 1.609344 km, one foot 0.3048 m, 86 °F is 30 °C, 550 ft lbf/s is 745.7 W: by definition.
    assert r.speed_km_h[0] == pytest.approx(96.56064)
    assert r.altitude_m == pytest.approx([100.0] * 3, abs=1e-4)
    assert r.ambient_c == pytest.approx([30.0] * 3)
    assert r.brake_power_kw == pytest.approx([74.56998] * 3, abs=1e-4)
    assert (r.air_conditioning, r.heater, r.trailer) == ([1, 0, 0], [0, 1, 1], [1, 1, 1])


def test_every_column_is_read_under_its_own_head() -> None:
    cells = "0,50,1800,2,300,25,20,0,0,0\n"
    rows = "".join(cells.replace("0,", f"{i},", 1) for i in range(3))
    r = recorded(",".join(column.head for column in COLUMNS) + "\n" + rows)
    assert all(getattr(r, column.field) is not None for column in COLUMNS)


@pytest.mark.parametrize(
    ("text", "where", "column", "says"),
    [
        ("", "line 1", "", "empty"),
        (HEAD, "line 1", "", "2 to 20000 rows below its header, this one 0"),
        (HEAD.replace(",ambient [°C]", "") + "0,1,1,1\n", "line 1", "ambient [°C]", "lacks the column"),
        (HEAD.replace("[km/h]", "[knots]") + body(), "line 1", "speed [knots]", "needs [km/h] or [mph] or [m/s]"),
        (HEAD.replace(" [km/h]", "") + body(), "line 1", "speed", "needs [km/h]"),
        (HEAD.replace("gradient [%]", "speed [mph]") + body(), "line 1", "speed [mph]", "two columns of speed"),
        (HEAD.replace("gradient [%]", "oil [bar]") + body(), "line 1", "gradient [%]", "engine's work"),
        (HEAD + body(3) + "3,,1800,2,25\n", "line 5", "speed [km/h]", "missing. Nothing is put in its place"),
        (HEAD + body(3) + "3,50,1800,2,warm\n", "line 5", "ambient [°C]", "“warm”, which is no number"),
        (HEAD + body(3) + "3,50,1800,2,25,7\n", "line 5", "", "6 cells, the header 5"),
        (HEAD + body(3) + "3,50,1800,70,25\n", "line 5", "gradient [%]", "within -45 to 45 %"),
        (HEAD + body(3) + "nan,50,1800,2,25\n", "line 5", "time [s]", "must lie within"),
        (HEAD + body(3) + "2,50,1800,2,25\n", "line 5", "time", "must rise from row to row; 2 s follows 2 s"),
        (HEAD + body(3, 9000.0), "line 4", "time", "1 s to four hours; this one 18000 s"),
        (HEAD + body(3, 0.2), "line 4", "time", "1 s to four hours; this one 0.4 s"),
        (HEAD + body(20, 0.5).replace("5.0,50,", "5.0,5,"), "line 12", "speed", "-25 m/s each second"),
        (HEAD + '0,"50,1800,2,25\n', "line 2", "", "cannot be read as CSV"),
    ],
)  # fmt: skip
def test_what_is_wrong_is_named_with_its_place(text: str, where: str, column: str, says: str) -> None:
    found = why(read(text, "Lane"))
    assert found[:2] == (where, column)
    assert says in found[2]


def test_altitudes_in_the_wrong_unit_are_found() -> None:
    head = HEAD.replace("gradient [%]", "altitude [m]")
    rows = "".join(f"{i},36,1800,{100 + 8 * i},25\n" for i in range(30))
    where, column, says = why(read(head + rows, "Lane"))
    assert (column, where) == ("altitude", "line 2")
    assert "gradient of 80%" in says


def test_only_so_many_bad_cells_are_listed() -> None:
    found = read(HEAD + body(60, speed="fast"), "Lane")
    assert len(found.refused) == 21
    assert found.refused[-1].message == "40 more cells cannot be read."


def test_rows_become_legs_that_hold_until_the_next() -> None:
    text = HEAD + "0,36,1800,2,25\n10,72,0,2,26\n25,72,3000,2,27\n"
    legs = legs_from(recorded(text), Site(ambient_c=40, altitude_m=500), condenser=True, warms=True)
    assert legs.duration.tolist() == [10.0, 15.0]
    assert legs.running.tolist() == [True, False]
    assert legs.points.speed == pytest.approx([10.0, 20.0])
    assert legs.points.crank_speed[0] == pytest.approx(30.0)
    assert legs.points.ambient == pytest.approx([298.15, 299.15])
    assert legs.points.altitude.tolist() == [500.0, 500.0]  # the site's: the rows have none
    assert legs.points.gradient == pytest.approx([0.02, 0.02])
    assert not np.asarray(legs.points.power_is_given).any()


def test_switches_need_the_part_that_they_switch() -> None:
    text = HEAD.rstrip() + ",A/C,heater\n" + "".join(f"{i},50,1800,2,25,1,1\n" for i in range(4))
    with_both = legs_from(recorded(text), Site(), condenser=True, warms=True)
    without = legs_from(recorded(text), Site(), condenser=False, warms=False)
    assert with_both.points.air_conditioning.all()
    assert with_both.points.heater.all()
    assert not without.points.air_conditioning.any()
    assert not without.points.heater.any()
