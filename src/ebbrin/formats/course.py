"""The course of a drive as CSV: a row for each step, units in the header."""

from __future__ import annotations

import csv
import io

from ebbrin.document.drive import CoursePoints

HEADS = {
    "time_s": "time [s]",
    "metal_c": "metal [°C]",
    "top_hose_c": "top hose [°C]",
    "bottom_hose_c": "bottom hose [°C]",
    "thermostat_lift": "thermostat lift [-]",
    "fan_stage": "fan stage",
    "coolant_flow_l_per_min": "coolant flow [L/min]",
    "pressure_kpa": "pressure [kPa]",
    "boiling_margin_k": "below boiling [K]",
    "shed_kw": "shed [kW]",
}


def write(points: CoursePoints) -> str:
    """The points as a table."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(HEADS.values())
    writer.writerows(zip(*(getattr(points, name) for name in HEADS), strict=True))
    return out.getvalue()
