"""What the air of one candidate in one case is worked on: a row for each number, a column for each zone of the face."""

from __future__ import annotations

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.compiled import compiled, compiled_with_room

ROWS = 30
(
    AREA, FAN_OF, CONDENSER, CHARGE, Y, MEAN, MASS, FRESH, INLET, MIDDLE, LEAVING, PASSES, UA, DRIVES, AGAINST, OWN, CORE,
    OFF, RESISTS, SLOPE, LAST_Y, LAST_OFF, RATIO, GIVES, FALLS, THROUGH, RE, LOG_RE, THEN, COOLANT_THEN,
) = range(ROWS)  # fmt: skip
"""Rows of what is worked on, one column for each zone, those beyond the zones of no area. Of the face: area [m²]; which
fan, or pair of fans, pulls through it, -1 for none; 1 where the condenser, and where the charge-air cooler stands ahead,
else 0. Logarithm of the velocity and mean temperature that are looked at [K]. What comes out of a look: mass flow [kg/s];
temperatures of the air ahead, going in, half way and leaving [K]; heat per kelvin over the air ahead, and conductance
[W/K]; what drives the air, what stands against it, how that grows with the logarithm of the velocity, and the core's own part of
it [Pa]; logarithm of the second over the first; what stands against the fans, less ram and buoyancy [Pa]. Slopes learnt,
and the last pass. Then, a column for each fan: ratio of speed, what it adds, how that falls with the logarithm of the flow
[Pa], and its whole flow [kg/s]. The Reynolds number of each zone with its logarithm [-]. And what the last look was at, two
columns: coolant going in, nothing where there was no look, and ambient [K]; the coolant's capacity rate [W/K], and the
resistance from it to the tubes' outside [K/W]."""


@compiled_with_room
def room_for(faces: FloatArray) -> FloatArray:
    """Room to work on one of some faces (candidates, 4, zones)."""
    return np.zeros((ROWS, max(faces.shape[2], 2)))


@compiled
def lay(s: FloatArray, face: FloatArray) -> None:
    """Lay a face (4, zones) into the room."""
    for row in range(4):
        for z in range(face.shape[1]):
            s[row, z] = face[row, z]
    s[THEN, 0] = 0.0


@compiled
def copy(s: FloatArray, other: FloatArray) -> None:
    """Lay all that stands in ``s`` into ``other``, room for as many zones."""
    for row in range(s.shape[0]):
        for z in range(s.shape[1]):
            other[row, z] = s[row, z]
