"""Every combination of the choices, which of them hold, and which of those no other beats."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from itertools import compress

import numpy as np

from ebbrin.bridge import to_core
from ebbrin.bridge.units import kilopascals
from ebbrin.build.build import Variant
from ebbrin.core.airpath import fan as fans
from ebbrin.core.base import BoolArray, FloatArray, IntArray
from ebbrin.core.media.coolants import freezing_temperature
from ebbrin.core.sizing import search as core
from ebbrin.core.sizing.search import AIR, COOLANT, CORE, PUMP, Found, Options
from ebbrin.core.sizing.target import Target
from ebbrin.features.shelf import PRICES, price_near
from ebbrin.features.size import choices
from ebbrin.features.size.choices import Choice
from ebbrin.features.size.taken import Ground

Proceed = Callable[[float], bool]
MOST = 60_000
"""Combinations that are looked at in one go; of more a sample is, then what lies next to the best of it."""
ROUNDS = 2  # of looking next to the best
STEPS = np.array([0.5, 1.0, 5.0, 0.002])
"""Margin [K], cost, electric power [W] and face [m²] that count as the same."""


@dataclass(frozen=True)
class Table:
    """The choices along each axis, as the document has them and as the core does, and which go together; per
    combination cost, electric power [W] and face [m²] follow from them."""

    cores: list[Choice]
    airs: list[Choice]
    pumps: list[Choice]
    coolants: list[Choice]
    options: Options
    fits: BoolArray
    fixed_cost: float
    switch_cost: FloatArray
    """(airs,) price of another fan switch, for the fans that one runs."""

    def at(self, index: IntArray) -> tuple[Choice, Choice, Choice, Choice]:
        """The four choices of one combination."""
        return (
            self.cores[index[CORE]],
            self.airs[index[AIR]],
            self.pumps[index[PUMP]],
            self.coolants[index[COOLANT]],
        )

    def costs(self, index: IntArray) -> FloatArray:
        """(n,) price of what is new."""
        parts = np.asarray(sum(price[index[:, k]] for k, price in enumerate(self._prices)))
        return np.asarray(self.fixed_cost + self.switch_cost[index[:, AIR]] + parts)

    def electric(self, index: IntArray) -> FloatArray:
        """(n,) electric power of fans at full and of an electric pump [W]."""
        fan, pump = self._powers
        return np.asarray(fan[index[:, AIR]] + pump[index[:, PUMP]])

    def faces(self, index: IntArray) -> FloatArray:
        """(n,) face of the core [m²]."""
        return self._faces[index[:, CORE]]

    @cached_property
    def _prices(self) -> list[FloatArray]:
        axes = (self.cores, self.airs, self.pumps, self.coolants)
        return [np.array([c.price + sum(p[2] for p in c.plus) for c in axis]) for axis in axes]

    @cached_property
    def _powers(self) -> tuple[FloatArray, FloatArray]:
        still = np.asarray(1.0)  # a driven fan draws none, whatever the engine's speed
        full = [fans.speeds(a.fan, fans.FULL, still).engaged for a in self.options.airs]
        fan = [
            float(fans.drawn_power(a.fan, f, 1.2)[0]) for a, f in zip(self.options.airs, full, strict=True)
        ]
        return np.array(fan), np.array(
            [0.0 if p.belt else float(p.electric_power) for p in self.options.pumps]
        )

    @cached_property
    def _faces(self) -> FloatArray:
        return np.array([float(c.width * c.height) for c in self.options.cores])


def table_of(ground: Ground) -> Table:
    """Every choice, made into parts of the core by the same way that a build is."""
    v, wishes, shelf = ground.variant, ground.wishes, ground.shelf
    cores = choices.cores(v.radiator, shelf, ground.room, wishes)
    airs = choices.airs(v.air, shelf, wishes)
    ratio = float(ground.resolved.variant.circuit.belt_ratio or 1.0)
    pumps = choices.pumps(v.circuit, ratio, wishes)
    coldest = float(np.min(ground.cases.ambient))
    offered = choices.coolants(
        v.coolant, float(ground.resolved.variant.coolant.volume_l or 0.0), shelf, wishes
    )
    fluids = [to_core.coolant_from(ground.filled("coolant", c.part)) for c in offered]
    liquid = [freezing_temperature(fluid) <= coldest for fluid in fluids]
    coolants = list(compress(offered, liquid))
    valve = ground.resolved.variant.thermostat
    options = Options(
        [to_core.core_from(ground.filled("radiator", c.part)) for c in cores],
        [to_core.air_from(ground.filled("air", c.part)) for c in airs],
        [to_core.circuit_from(ground.filled("circuit", c.part), valve).pump for c in pumps],
        list(compress(fluids, liquid)),
    )
    switches = np.array([PRICES["switch"] if ground.buys_switch(air_.fan) else 0.0 for air_ in options.airs])
    return Table(
        cores, airs, pumps, coolants, options, choices.go_together(cores, airs), _fixed_cost(ground), switches
    )


def variant_of(ground: Ground, table: Table, chosen: IntArray) -> Variant:
    """The variant with the parts ``chosen`` (4,), and the cap of the search."""
    core_, air, pump, coolant = table.at(chosen)
    return ground.with_parts(radiator=core_.part, air=air.part, circuit=pump.part, coolant=coolant.part)


def _fixed_cost(ground: Ground) -> float:
    """Price of thermostat and cap, the cap as if it were new in any case."""
    cost = 0.0
    if ground.new_thermostat:
        opens = ground.resolved.variant.thermostat.opens_c or 0.0
        cost += price_near(ground.shelf, "thermostat", "opens_c", opens)
    if "cap" not in ground.wishes.keep:
        cost += price_near(ground.shelf, "cap", "pressure_kpa", kilopascals(ground.cap))
    return cost


def affordable(ground: Ground, table: Table) -> IntArray:
    """(n, 4) combinations that keep to budget and electric power."""
    index = core.every(table.options, table.fits)
    wishes = ground.wishes
    if wishes.budget is not None:
        index = index[table.costs(index) <= wishes.budget + 1e-9]
    if wishes.electric_w is not None:
        index = index[table.electric(index) <= wishes.electric_w + 1e-9]
    return index


def searched(ground: Ground, table: Table, index: IntArray, target: Target, proceed: Proceed) -> Found | None:
    """What combinations keep; none for none."""
    if len(index) == 0:
        return Found(np.zeros(0), np.zeros(0, np.int64), np.zeros(0, bool))
    return core.search(ground.system, table.options, index, ground.cases, target, proceed)


def looked_through(
    ground: Ground, table: Table, index: IntArray, proceed: Proceed
) -> tuple[IntArray, Found] | None:
    """What was looked at and what came of it: all, or a sample and then whatever lies next to its front."""
    target = ground.target
    margin = target.wanted
    if len(index) <= MOST:
        found = searched(ground, table, index, target, proceed)
        return None if found is None else (index, found)
    some = index[:: -(-len(index) // (MOST // 2))]
    found = searched(ground, table, some, target, _part(proceed, 0.0, 0.5))
    for turn in range(ROUNDS):
        if found is None:
            return None
        best = some[front(table, some, found, margin)]
        fresh = _next_to(best, index, some)[: MOST // 2]
        if len(fresh) == 0:
            break
        told = _part(proceed, 0.5 + 0.25 * turn, 0.25)
        more = searched(ground, table, fresh, target, told)
        if more is None:
            return None
        some = np.concatenate([some, fresh])
        found = Found(
            *(np.concatenate([getattr(found, n), getattr(more, n)]) for n in ("margin", "case", "complete"))
        )
    return None if found is None else (some, found)


def _part(proceed: Proceed, done: float, share: float) -> Proceed:
    """Progress of a part of the work, as progress of the whole."""
    return lambda here: proceed(done + share * here)


def _next_to(best: IntArray, index: IntArray, known: IntArray) -> IntArray:
    """Combinations of ``index`` that differ from one of ``best`` along one axis, and are not ``known``."""
    shape = tuple(index.max(0) + 1)
    flat = np.ravel_multi_index(tuple(index.T), shape)
    near = np.zeros(len(index), bool)
    for axis in range(4):
        others = [k for k in range(4) if k != axis]
        rest = np.ravel_multi_index(tuple(index[:, others].T), tuple(shape[k] for k in others))
        of_best = np.ravel_multi_index(tuple(best[:, others].T), tuple(shape[k] for k in others))
        near |= np.isin(rest, of_best)
    return index[near & ~np.isin(flat, np.ravel_multi_index(tuple(known.T), shape))]


def objectives(table: Table, index: IntArray, margin: FloatArray) -> FloatArray:
    """(n, 4) what counts, smaller being better, in steps that count as the same."""
    costs = np.stack([-margin, table.costs(index), table.electric(index), table.faces(index)], -1)
    return np.asarray(np.ceil(costs / STEPS - 1e-9) * STEPS)


def good(found: Found, margin: float) -> IntArray:
    """Indices of the combinations that keep the margin in every case."""
    return np.flatnonzero(found.complete & (found.margin >= margin))


def front(table: Table, index: IntArray, found: Found, margin: float) -> IntArray:
    """Indices of the combinations that hold and that no other beats in everything."""
    holds = good(found, margin)
    if holds.size == 0:
        return holds
    return np.asarray(holds[core.non_dominated(objectives(table, index[holds], found.margin[holds]))])
