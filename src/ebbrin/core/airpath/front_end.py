"""What the air meets ahead of and around the core: ram, shroud, zones, and warm air that comes round."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ebbrin.core.airpath.fan import Fan
from ebbrin.core.base import BoolArray, FloatArray, IntArray, require
from ebbrin.core.media import air
from ebbrin.core.radiator.geometry import Core

NO_SHROUD, RING, FULL_SHROUD = 0, 1, 2
FRONT_RECIRCULATION_END = 20.0 / 3.6  # choice: speed at which no warm air comes round the front, m/s
HOTTEST_AIR = 473.15  # air never leaves hotter than any coolant's table ends, K


@dataclass(frozen=True)
class AirPath:
    """Front end and shroud, (...) arrays.

    ram [-] net pressure coefficient; front_loss [-] grille and duct, exchanger_loss [-] condenser and
    charge-air cooler ahead (0 without), exit_loss [-] under the bonnet, all in velocity heads at the core's face;
    recirculation_at_rest [-] share of the air that comes round the front; shroud, int (NO_SHROUD, RING,
    FULL_SHROUD), flaps (bool) that open for ram when the fan behind a shroud stands;
    blade_recirculation [-] share that comes back around the blades.
    """

    ram: FloatArray
    front_loss: FloatArray
    exchanger_loss: FloatArray
    exit_loss: FloatArray
    recirculation_at_rest: FloatArray
    shroud: IntArray
    flaps: BoolArray
    blade_recirculation: FloatArray
    fan: Fan

    @cached_property
    def heads(self) -> FloatArray:
        """Half of the losses ahead of the core [-], with a zone axis at the end."""
        return np.asarray(0.5 * (self.front_loss + self.exchanger_loss))[..., None]

    def checked(self) -> AirPath:
        """This air path, once its coefficients are possible.

        Raises
        ------
        DomainError
            Naming the quantity, the value and the range.
        """
        require("ram coefficient", self.ram, 0.0, 2.0, "-")
        require("front loss coefficient", self.front_loss, 0.01, 1e3, "-")
        require("loss coefficient of exchangers ahead", self.exchanger_loss, 0.0, 1e4, "-")
        require("exit loss coefficient", self.exit_loss, 0.0, 1e3, "-")
        require("front recirculation", self.recirculation_at_rest, 0.0, 0.9, "-")
        require("blade recirculation", self.blade_recirculation, 0.0, 0.9, "-")
        self.fan.checked()
        return self


@dataclass(frozen=True)
class AirDemand:
    """What the air meets: ambient [K], pressure [Pa], road speed and headwind [m/s], the heat that it is
    to carry [W], heat from exchangers ahead [W], and the fans' speed ratio (..., fan zones) [-]."""

    ambient: FloatArray
    pressure: FloatArray
    speed: FloatArray
    headwind: FloatArray
    heat: FloatArray
    ahead: FloatArray
    fan_ratio: FloatArray

    @cached_property
    def density(self) -> FloatArray:
        """Of the air ahead of the car [kg/m³]."""
        return air.density(self.ambient, self.pressure)


def front_recirculation(at_rest: FloatArray, speed: FloatArray) -> FloatArray:
    """Share of the air that has been through the core before [-]: linear to none at 20 km/h (choice)."""
    return np.asarray(at_rest * np.maximum(1.0 - speed / FRONT_RECIRCULATION_END, 0.0))


def ram_pressure(path: AirPath, demand: AirDemand) -> FloatArray:
    """Pressure that driving and wind put across the core [Pa]; a tail wind does not push air back."""
    wind = demand.speed + demand.headwind
    return np.maximum(path.ram * 0.5 * demand.density * wind * np.abs(wind), 0.0)


def zone_areas(path: AirPath, core: Core) -> FloatArray:
    """(..., zones) open face of each zone [m²]: under the fan or fans, and open, which is left out where no
    candidate has any. A full shroud covers all of the face; without one, or with a ring, a fan
    serves its disc, both together at most the whole face; without a fan all of it is open."""
    fan, open_share = path.fan, 1.0 - core.blocked_face
    face, discs = core.open_face, fan.disc * fan.count * open_share
    under = np.where(path.shroud == FULL_SHROUD, face, np.minimum(discs, face))
    under = np.where(fan.fitted, under, 0.0)
    by_fan = under[..., None] * (fan.in_zone / fan.count[..., None])
    rest = np.broadcast_to(face, under.shape) - under
    if np.all(rest <= 1e-9 * face):
        return by_fan
    return np.concatenate([by_fan, np.broadcast_to(rest[..., None], (*by_fan.shape[:-1], 1))], -1)


@dataclass(frozen=True)
class ZoneSplit:
    """Heat that warms each zone's air, (..., zones): ahead of the core and in it [W], the factor
    r/(1 - r) of air that comes round the front [-], and ambient [K]."""

    ahead: FloatArray
    within: FloatArray
    comes_round: FloatArray
    ambient: FloatArray


def zone_split(path: AirPath, demand: AirDemand, share: FloatArray) -> ZoneSplit:
    """Heat by face share (..., zones) [-]."""
    r = front_recirculation(path.recirculation_at_rest, demand.speed)[..., None]
    ahead = demand.ahead[..., None] * share
    return ZoneSplit(ahead, demand.heat[..., None] * share, r / (1.0 - r), demand.ambient[..., None])


def zone_temperatures(split: ZoneSplit, mass_flow: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Inlet and outlet air [K] of each zone, (..., zones), for its mass flow [kg/s].

    Air never leaves hotter than any coolant can be: beyond it there is no steady state.
    """
    per_kelvin = 1.0 / (np.maximum(mass_flow, 1e-9) * air.HEAT_CAPACITY)
    rise, ahead = split.within * per_kelvin, split.ahead * per_kelvin
    inlet = np.minimum(split.ambient + ahead + split.comes_round * (rise + ahead), HOTTEST_AIR)
    return inlet, np.minimum(inlet + rise, HOTTEST_AIR)
