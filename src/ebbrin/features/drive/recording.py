"""A drive as a logger has it: rows of time, speed, engine speed, gradient or altitude, and ambient."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf
from uuid import UUID

import numpy as np

from ebbrin.bridge.units import KILO, KM_H, RPM, kelvin
from ebbrin.build.build import Site
from ebbrin.build.drive import MOST_ROWS, MOST_SECONDS, RecordingRef
from ebbrin.build.part import Name, Part
from ebbrin.core.drive.legs import Legs
from ebbrin.core.drive.recorded import acceleration_along, gradient_along
from ebbrin.core.system.parts import Cases

TURNS, IDLE = 60.0, 900.0  # rpm: below the first the engine stands; a standing one's place in the maps
LEAST_SECONDS = 1.0
STEEPEST, HARDEST = 0.45, 20.0
"""What altitudes and speeds may come to (choices): rise over run [-], acceleration [m/s²]; more is a mistake."""

Conversion = tuple[float, float]
"""Value in the document's unit = factor × (number + offset)."""


@dataclass(frozen=True)
class Column:
    """A column of a recording: field, what a header may call it, its units, and what may stand in it."""

    field: str
    names: tuple[str, ...]
    units: dict[str, Conversion]
    low: float
    high: float
    needed: bool = False

    @property
    def head(self) -> str:
        """As the header of a file has it."""
        unit = next(iter(self.units))
        return f"{self.names[0]} [{unit}]" if unit else self.names[0]


SWITCH = {"": (1.0, 0.0)}
FAHRENHEIT = (5.0 / 9.0, -32.0)
COLUMNS = (
    Column("time_s", ("time",), {"s": (1, 0), "ms": (1e-3, 0), "min": (60, 0)}, 0, 1e9, needed=True),
    Column(
        "speed_km_h",
        ("speed",),
        {"km/h": (1, 0), "mph": (1.609344, 0), "m/s": (3.6, 0)},
        0,
        400,
        needed=True,
    ),
    Column("engine_rpm", ("engine speed", "rpm"), {"rpm": (1, 0), "1/min": (1, 0)}, 0, 15000, needed=True),
    Column("gradient_share", ("gradient", "grade"), {"%": (0.01, 0), "-": (1, 0)}, -STEEPEST, STEEPEST),
    Column("altitude_m", ("altitude", "height"), {"m": (1, 0), "ft": (0.3048, 0)}, -430, 5000),
    Column(
        "ambient_c",
        ("ambient", "air"),
        {"°C": (1, 0), "C": (1, 0), "°F": FAHRENHEIT, "F": FAHRENHEIT, "K": (1, -273.15)},
        -40,
        60,
        needed=True,
    ),
    Column(
        "brake_power_kw",
        ("power", "brake power"),
        {"kW": (1, 0), "W": (1e-3, 0), "hp": (0.74569987, 0)},
        0,
        2000,
    ),
    Column("trailer", ("trailer",), SWITCH, 0, 1),
    Column("air_conditioning", ("air conditioning", "A/C"), SWITCH, 0, 1),
    Column("heater", ("heater",), SWITCH, 0, 1),
)
"""Every column that is read. Mile, foot and horsepower (550 ft lbf/s) as they are defined."""


class Recording(Part):
    """The rows of a recording, lists of equal length. A row holds until the next; the last only ends the drive. An
    engine speed below 60 rpm is a standing engine. Without power it follows from the road, with the speed's change."""

    name: Name
    time_s: list[float]
    speed_km_h: list[float]
    engine_rpm: list[float]
    ambient_c: list[float]
    gradient_share: list[float] | None = None
    altitude_m: list[float] | None = None
    brake_power_kw: list[float] | None = None
    trailer: list[float] | None = None
    air_conditioning: list[float] | None = None
    heater: list[float] | None = None


def ref_of(recording: Recording, recording_id: UUID) -> RecordingRef:
    """A recording as a drive refers to it."""
    rows, lasts = len(recording.time_s), recording.time_s[-1] - recording.time_s[0]
    return RecordingRef(id=recording_id, name=recording.name, rows=rows, lasts_s=lasts)


def gradient_of(recording: Recording) -> np.ndarray:
    """Gradient of each row [-]: as it stands there, from the altitudes, or flat where power is stated."""
    if recording.gradient_share is not None:
        return np.array(recording.gradient_share)
    if recording.altitude_m is None:
        return np.zeros(len(recording.time_s))
    speed = np.array(recording.speed_km_h) * KM_H
    return gradient_along(np.array(recording.time_s), speed, np.array(recording.altitude_m))


def acceleration_of(recording: Recording) -> np.ndarray:
    """Acceleration of each row [m/s²]."""
    return acceleration_along(np.array(recording.time_s), np.array(recording.speed_km_h) * KM_H)


def doubtful(recording: Recording) -> tuple[int, str, str] | None:
    """The first row that no car can have driven: its index, the column and why; None where all can be."""
    time = np.array(recording.time_s)
    if len(time) < 2 or len(time) > MOST_ROWS:
        return len(time) - 1, "", f"A recording has 2 to {MOST_ROWS} rows, this one {len(time)}."
    steps = np.diff(time)
    if (steps <= 0.0).any():
        at = int(np.argmax(steps <= 0.0)) + 1
        return at, "time", f"Time must rise from row to row; {time[at]:g} s follows {time[at - 1]:g} s."
    if not LEAST_SECONDS <= time[-1] - time[0] <= MOST_SECONDS:
        return len(time) - 1, "time", f"A recording lasts 1 s to four hours; this one {np.ptp(time):g} s."
    gradient = gradient_of(recording)
    if (np.abs(gradient) > STEEPEST).any():
        at = int(np.argmax(np.abs(gradient) > STEEPEST))
        said = f"The altitudes around this row come to a gradient of {gradient[at]:.0%}. Check the units of altitude, speed and time."
        return at, "altitude", said
    jumps = np.diff(np.array(recording.speed_km_h)) * KM_H / steps
    if (np.abs(jumps) > HARDEST).any():
        at = int(np.argmax(np.abs(jumps) > HARDEST)) + 1
        said = f"From the row before to this one speed changes by {jumps[at - 1]:.0f} m/s each second. Check both rows, and the units of speed and time."
        return at, "speed", said
    return None


def legs_from(recording: Recording, site: Site, condenser: bool, warms: bool) -> Legs:
    """The core's legs, one for each row that holds until another.

    Parameters
    ----------
    site : its altitude counts where the recording has none.
    condenser, warms : whether the vehicle has air conditioning and a cabin heater.
    """
    rows = slice(0, -1)
    count = len(recording.time_s) - 1

    def column(values: list[float] | None, scale: float = 1.0) -> np.ndarray:
        return np.zeros(count) if values is None else np.array(values[rows]) * scale

    rpm = column(recording.engine_rpm)
    runs = rpm >= TURNS
    stated = recording.brake_power_kw is not None
    altitude = (
        np.full(count, site.altitude_m) if recording.altitude_m is None else column(recording.altitude_m)
    )
    points = Cases(
        ambient=kelvin(recording.ambient_c[rows]),
        altitude=altitude,
        speed=column(recording.speed_km_h, KM_H),
        headwind=np.zeros(count),
        gradient=gradient_of(recording)[rows],
        acceleration=acceleration_of(recording)[rows],
        # The maps want a speed; a standing engine moves and heats nothing.
        crank_speed=np.where(runs, rpm, IDLE) * RPM,
        given_power=column(recording.brake_power_kw, KILO),
        power_is_given=np.full(count, stated),
        shaft_power=np.zeros(count),
        towing=column(recording.trailer),
        heater=(column(recording.heater) > 0.5) & warms,
        air_conditioning=(column(recording.air_conditioning) > 0.5) & condenser,
        duration=np.full(count, inf),
        start=kelvin(recording.ambient_c[rows]),
    )
    return Legs(points, np.diff(np.array(recording.time_s)), runs)
