"""Every quantity of the document: the unit that its numbers are in, and how many decimals a person is shown.

The page's own table, web/src/model/units/quantities.ts, adds what a reader may choose instead; a test compares both.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Quantity:
    """Unit as it is written after a number, and decimals of a printed value in it."""

    unit: str
    decimals: int = 0


QUANTITIES: dict[str, Quantity] = {
    "temperature": Quantity(" °C"),
    "temperature_difference": Quantity(" K"),
    "pressure": Quantity(" kPa"),
    "air_pressure": Quantity(" Pa"),
    "length": Quantity(" mm"),
    "small_length": Quantity(" mm", 2),
    "fin_pitch": Quantity(" mm", 1),
    "area": Quantity(" m²", 3),
    "volume": Quantity(" L", 1),
    "displacement": Quantity(" L", 1),
    "mass": Quantity(" kg"),
    "power": Quantity(" kW", 1),
    "electric_power": Quantity(" W"),
    "rotation": Quantity(" rpm"),
    "speed": Quantity(" km/h"),
    "altitude": Quantity(" m"),
    "acceleration": Quantity(" m/s²", 1),
    "airflow": Quantity(" m³/s", 2),
    "coolant_flow": Quantity(" L/min"),
    "density": Quantity(" kg/m³", 2),
    "heat_capacity": Quantity(" kJ/K"),
    "duration": Quantity(" s"),
    "leg_duration": Quantity(" s"),
    "angle": Quantity("°"),
    "head": Quantity(" m", 1),
    "velocity": Quantity(" m/s", 1),
    "voltage": Quantity(" V", 1),
    "fuel_flow": Quantity(" kg/h", 1),
    "share": Quantity(" %"),
    "count": Quantity(""),
    "years": Quantity(" years"),
    "minutes": Quantity(" min"),
    "leak": Quantity(" mL/h", 1),
    "ratio": Quantity("", 2),
    "money": Quantity(""),
    "factor": Quantity(" times", 1),
}
"""By its name in the schema. A share is stored as 0 to 1 and printed in per cent."""


def unit_of(quantity: str) -> str:
    """The unit of a quantity as it is written after a number in the document; nothing where it has none."""
    found = QUANTITIES.get(quantity)
    return "" if found is None or quantity in ("share", "factor") else found.unit
