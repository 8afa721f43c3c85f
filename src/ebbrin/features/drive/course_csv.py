"""The course of a drive as CSV: a row for each step, units in the header."""

from __future__ import annotations

import csv
import io

from ebbrin.features.drive.answers import CoursePoints

HEADS = {
    "time_s": "time [s]",
    "metal_c": "metal [°C]",
    "engine_out_c": "engine out [°C]",
    "top_hose_c": "top hose [°C]",
    "bottom_hose_c": "bottom hose [°C]",
    "thermostat_lift": "thermostat lift [-]",
    "fan_stage": "fan stage",
    "coolant_flow_l_per_min": "flow through core [L/min]",
    "pumped_l_per_min": "flow pumped [L/min]",
    "pressure_kpa": "pressure [kPa]",
    "boiling_margin_k": "below boiling [K]",
    "shed_kw": "shed [kW]",
    "coolant_l": "coolant [L]",
    "heater_air_c": "heater air [°C]",
}


def write(points: CoursePoints) -> str:
    """The points as a table."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    columns = {head: values for name, head in HEADS.items() if (values := getattr(points, name)) is not None}
    writer.writerow(columns)
    writer.writerows(zip(*columns.values(), strict=True))
    return out.getvalue()
