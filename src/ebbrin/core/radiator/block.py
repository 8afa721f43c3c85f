"""Heat that passes in a part of a core's face for each kelvin between coolant and air, in plain numbers."""

from __future__ import annotations

from typing import NamedTuple

from ebbrin.core.compiled import Numbers, compiled
from ebbrin.core.radiator import air_side, exchange
from ebbrin.core.radiator.geometry import Core


class Block(NamedTuple):
    """What a core is beside its surfaces, (...) arrays, numbers in compiled code: air-side area [m²], share of open
    tubes [-], factor on its conductance [-], open face [m²], height of the block [m], passes [-], whether in depth."""

    air_area: Numbers
    open_tubes: Numbers
    factor: Numbers
    open_face: Numbers
    height: Numbers
    passes: Numbers
    in_depth: Numbers


def block(core: Core) -> Block:
    """The block of a core."""
    return Block(
        core.air_area,
        1.0 - core.blocked_tubes,
        core.UA_factor,
        core.open_face,
        core.height,
        core.passes,
        core.in_depth,
    )


class Inside(NamedTuple):
    """The coolant's side at one flow, numbers: temperature going in [K], capacity rate [W/K], resistance from the
    coolant to the tubes' outside [K/W], a factor on the conductance that a probe puts there [-]."""

    hot: float
    capacity: float
    resistance: float
    gain: float


@compiled
def conductance(
    surface: Numbers, block: Numbers, inside: Inside, G: float, share: float, log_Re: float
) -> float:
    """UA [W/K] of a ``share`` of the face at a mass velocity ``G`` over it [kg/m² s], the logarithm of whose Reynolds
    number [-] is known.

    References
    ----------
    kays-london-1984 (overall conductance).
    """
    film = air_side.film_at(surface, G, log_Re)
    efficiency = air_side.efficiency_of(air_side.fin_efficiency(surface, film), surface.fin_share)
    outside = efficiency * film * block.air_area * share * block.open_tubes
    return inside.gain * block.factor / (1.0 / outside + inside.resistance / share)


@compiled
def heat_per_kelvin(block: Numbers, inside: Inside, UA: float, air_capacity: float, share: float) -> float:
    """Heat for each kelvin between the inlets [W/K] of a ``share`` of the face with a conductance ``UA`` and a capacity
    rate of all its air [W/K]; coolant splits by face share, and air past blocked tubes takes no part (choices).

    References
    ----------
    kays-london-1984 (effectiveness and NTU).
    """
    warmed = max(air_capacity * block.open_tubes, 1e-12)
    return exchange.passes_at(block.passes, block.in_depth, UA, warmed, inside.capacity * share)
