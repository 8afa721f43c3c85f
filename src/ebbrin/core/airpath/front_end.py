"""What the air meets ahead of and around the core: ram, what covers which part of the face, and warm air that
comes round."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ebbrin.core.airpath.fan import Fan
from ebbrin.core.base import BoolArray, FloatArray, IntArray, require
from ebbrin.core.compiled import Numbers, both
from ebbrin.core.radiator.geometry import Core

NO_SHROUD, RING, FULL_SHROUD = 0, 1, 2
FRONT_RECIRCULATION_END = 20.0 / 3.6  # choice: speed at which no warm air comes round the front, m/s
HOTTEST_AIR = 473.15  # air ahead is never taken to be hotter than any coolant's table ends, K


@dataclass(frozen=True)
class AirPath:
    """Front end and shroud, (...) arrays.

    ram [-] net pressure coefficient of the inlet; front_loss [-] grille and duct, exit_loss [-] under the bonnet,
    condenser_loss and charge_loss [-] of a condenser and a charge-air cooler ahead (0 without), all in velocity heads
    at the core's face and ambient density; shroud_cover, condenser_cover, charge_cover [-] shares of the face that
    a full shroud, the condenser and the charge-air cooler cover, nested about its middle (choice);
    recirculation_at_rest [-] share of the air that comes round the front; shroud, int (NO_SHROUD, RING,
    FULL_SHROUD), flaps (bool) that open where the fan behind a shroud would resist;
    blade_recirculation [-] share of a turning fan's flow that comes back around the blades.
    """

    ram: FloatArray
    front_loss: FloatArray
    exit_loss: FloatArray
    condenser_loss: FloatArray
    charge_loss: FloatArray
    shroud_cover: FloatArray
    condenser_cover: FloatArray
    charge_cover: FloatArray
    recirculation_at_rest: FloatArray
    shroud: IntArray
    flaps: BoolArray
    blade_recirculation: FloatArray
    fan: Fan

    @cached_property
    def free_of_stopped(self) -> BoolArray:
        """Whether the air gets past fans that would resist it: open flaps, or no shroud that ties them to the core."""
        return np.asarray((self.shroud == NO_SHROUD) | self.flaps)

    def checked(self) -> AirPath:
        """This air path, once its coefficients are possible.

        Raises
        ------
        DomainError
            Naming the quantity, the value and the range.
        """
        require("ram coefficient", self.ram, 0.0, 2.0, "-")
        require("front loss coefficient", self.front_loss, 0.01, 1e3, "-")
        require("exit loss coefficient", self.exit_loss, 0.0, 1e3, "-")
        for name in ("condenser", "charge"):
            require(f"{name} loss coefficient", getattr(self, f"{name}_loss"), 0.0, 1e4, "-")
        for name in ("shroud", "condenser", "charge"):
            require(
                f"share of the face that the {name} covers", getattr(self, f"{name}_cover"), 0.05, 1.0, "-"
            )
        require("front recirculation", self.recirculation_at_rest, 0.0, 0.9, "-")
        require("blade recirculation", self.blade_recirculation, 0.0, 0.9, "-")
        self.fan.checked()
        return self


@both
def front_recirculation(at_rest: Numbers, speed: Numbers) -> Numbers:
    """Share of the air that has been through the core before [-]: linear to none at 20 km/h (choice); broadcasts."""
    return at_rest * np.maximum(1.0 - speed / FRONT_RECIRCULATION_END, 0.0)


@both
def ram_pressure(ram: Numbers, speed: Numbers, headwind: Numbers, density: Numbers) -> Numbers:
    """Pressure that driving and wind put across the core [Pa], from ``ram`` [-], speeds [m/s] and the air's density
    [kg/m³]; a tail wind does not push air back; broadcasts."""
    wind = speed + headwind
    return np.maximum(ram * 0.5 * density * wind * np.abs(wind), 0.0)


@dataclass(frozen=True)
class Zones:
    """The face cut by what covers it, from the fans outwards, (..., zones): area [m²]; serves (..., zones, fans),
    which fan or pair of fans pulls through it; whether condenser and charge-air cooler stand ahead."""

    area: FloatArray
    serves: BoolArray
    condenser: BoolArray
    charge: BoolArray

    @cached_property
    def shared(self) -> bool:
        """Whether anywhere one fan pulls through more than one zone."""
        return bool((self.serves & (self.area > 0.0)[..., None]).sum(-2).max(initial=0) > 1)


def zones(path: AirPath, core: Core) -> Zones:
    """The zones of a face. A full shroud covers its share; without one, or with a ring, a fan serves its disc, both
    together at most the whole face; without a fan all of it is open. Zones that no candidate has are left out."""
    fan, gross = path.fan, core.width * core.height
    discs = np.minimum(fan.disc * fan.count / gross, 1.0)
    under = np.where(fan.fitted, np.where(path.shroud == FULL_SHROUD, path.shroud_cover, discs), 0.0)
    condenser = np.where(path.condenser_loss > 0.0, path.condenser_cover, 1.0)
    charge = np.where(path.charge_loss > 0.0, path.charge_cover, 1.0)
    covers = np.stack(np.broadcast_arrays(under, condenser, charge, np.ones_like(gross)), -1)
    edges = np.sort(covers, -1)
    share = np.diff(edges, axis=-1, prepend=0.0)
    pulled = (edges <= covers[..., :1])[..., None] & np.ones(fan.in_zone.shape[-1], bool)
    if fan.apart:
        # Each of two fans pulls through its half of every zone under both; a single one through all of it.
        halves = np.asarray(fan.in_zone / fan.count[..., None])
        share = np.repeat(share, 2, -1) * np.tile(halves, share.shape[-1])
        edges = np.repeat(edges, 2, -1)
        pulled = np.repeat(pulled, 2, -2) & np.resize(np.eye(2, dtype=bool), (edges.shape[-1], 2))
    kept = np.flatnonzero((share > 1e-9).reshape(-1, share.shape[-1]).any(0))
    share, edges = np.where(share > 1e-9, share, 0.0)[..., kept], edges[..., kept]
    return Zones(
        share * core.open_face[..., None],
        pulled[..., kept, :],
        np.asarray(edges <= condenser[..., None]),
        np.asarray(edges <= charge[..., None]),
    )
