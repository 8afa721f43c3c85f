"""Circuits of electric fans and pumps that are new or carry more than before, by what each draws."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from math import ceil

from ebbrin.build.build import Variant
from ebbrin.build.fan import Fan
from ebbrin.build.fields import known
from ebbrin.core.fit.wiring import FUSES, RATED, RELAY, drawn, fuse_for, gauge_for, wire_for


@dataclass(frozen=True)
class Circuit:
    """What draws so much [A], each of so many; ``id`` is that of its line on the list of parts."""

    id: str
    of: str
    amps: float
    count: int

    @property
    def takes(self) -> str:
        """Its fuse, wire and relay."""
        if (
            self.amps > FUSES[-1]
            or (fuse := fuse_for(self.amps)) is None
            or (wire := wire_for(self.amps)) is None
        ):
            return "more than one circuit, each with fuse, wire and relay"
        each = "for each: " if self.count > 1 else ""
        relay = ceil(RELAY * self.amps)
        return f"{each}fuse {fuse:g} A, wire {wire:g} mm² (AWG {gauge_for(wire)}), relay {relay} A or more"

    @property
    def why(self) -> str:
        """What it draws, and what that asks for."""
        draws = f"{self.amps:.0f} A{' each' if self.count > 1 else ''}"
        return f"It draws {draws}: a relay of its own, the fuse close to the battery, and the fuse protects the wire."


def circuits(standing: Variant, chosen: Variant, new: Collection[str]) -> list[Circuit]:
    """Those of a fan that draws more than the one before, each or together, and of such a pump.

    Parameters
    ----------
    new : slots whose part is another one.
    """
    found = []
    fan, before = chosen.air.fan, standing.air.fan
    if "fan" in new and fan.kind == "electric":
        amps = _amps(fan)
        if before.kind != "electric" or amps > _amps(before) or fan.count > before.count:
            found.append(Circuit("wiring", "fan", amps, fan.count))
    pump, earlier = chosen.circuit, standing.circuit
    if "pump" in new and pump.pump_drive == "electric":
        watts = known(pump, "electric_pump_w")
        if earlier.pump_drive != "electric" or watts > known(earlier, "electric_pump_w"):
            found.append(Circuit("pump_wiring", "pump", watts / RATED, 1))
    return found


def _amps(fan: Fan) -> float:
    """What one fan draws [A]."""
    tested = known(fan, "test_voltage_v")
    return drawn(known(fan, "electric_power_w"), tested, tested if fan.voltage_v is None else fan.voltage_v)
