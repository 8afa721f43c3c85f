"""How sure an answer is at once: what is not known, how each of it moves the balance at the limit, and the chance
that follows to first order."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ebbrin.core.base import FloatArray, IntArray
from ebbrin.core.circuit.cap import LIKELY_SAG, WEAK_END
from ebbrin.core.engine import heat as engines
from ebbrin.core.records import changed_all, scaled_at, value_at
from ebbrin.core.studies.draws import DRAWS, sides
from ebbrin.core.system import limits
from ebbrin.core.system.limits import boiling_temperature, limit_temperature
from ebbrin.core.system.parts import Cases, System
from ebbrin.core.system.steady import SteadyState, steady_state

HOLDS, TIGHT, FAILS = 0, 1, 2
HOLDS_FROM, TIGHT_FROM = (
    0.9,
    0.5,
)  # choices: chances of staying below the limit from which a case holds or is tight
POINT = 1.6448536269514722  # standard deviations from the median to the 5 and the 95 % point
LOOKED_AT = 96
"""Draws of which a case is looked at itself (choice) where no sum of single moves shows what they do together: the time of
a timed one runs out all the faster the more goes wrong, and one with two balances comes to stand at either."""
# Scatter of the correlations, 5 and 95 % points as factors; chang-wang-1997 puts 89 % of its data within 15 % in j and
# chang-2000 83 % within 15 % in f; the upper end of f also covers a doubtful definition (louvred.friction_law);
# coolant film: choice, for the transition at Re 2300 to 4000. A tested core: choice.
AIR_FILM, AIR_FRICTION, COOLANT_FILM, TESTED_CORE = (0.85, 1.15), (0.85, 1.30), (0.80, 1.20), (0.95, 1.05)
# With the scatter of the coolant's share these leave idle heat at -25 to +50 % (choice; from memory: idle fuel of
# many engines by a US energy department's table).
PART_LOAD = (0.4, 3.1)
WARMER = 2.0  # K; how much hotter the air is taken to see what a kelvin of it is worth


@dataclass(frozen=True)
class Unknown:
    """One value that is assumed or scatters: a name, the fields of the system that it sets (dotted paths), its 5 %
    point, median and 95 % point, as factors on those fields if ``relative``, and what it can be at all.

    Each side of the median is half of a normal distribution, of its logarithm for a factor.
    """

    name: str
    paths: tuple[str, ...]
    low: float
    median: float
    high: float
    relative: bool = True
    least: float = -np.inf
    most: float = np.inf

    def at(self, place: FloatArray) -> FloatArray:
        """Its value ``place`` standard deviations from the median, same shape."""
        side = np.asarray(place) / POINT
        if self.relative:
            ends = np.log(self.low / self.median), np.log(self.high / self.median)
            return np.asarray(self.median * np.exp(np.where(side < 0.0, -side * ends[0], side * ends[1])))
        value = self.median + np.where(
            side < 0.0, side * (self.median - self.low), side * (self.high - self.median)
        )
        return np.minimum(np.maximum(value, self.least), self.most)


def scatter(system: System, tested: bool = False) -> list[Unknown]:
    """What is never known exactly of one system: heat by the band of its school, the correlations, the cap.

    Parameters
    ----------
    tested : whether a test of this very core has set its UA_factor.
    """
    engine = system.engine
    schools = engines.schools(engine, engine.rated_power, engine.rated_speed)
    school = int(engine.school)
    middle = float(schools.heat[school])
    heat = (float(schools.low[school]) / middle, float(schools.high[school]) / middle)
    found = [
        Unknown("heat", ("engine.heat_factor",), heat[0], 1.0, heat[1]),
        Unknown("air_friction", ("core.air_friction",), AIR_FRICTION[0], 1.0, AIR_FRICTION[1]),
    ]
    if school != engines.MEASURED:
        found.insert(1, Unknown("part_load", ("engine.part_load_loss",), PART_LOAD[0], 1.0, PART_LOAD[1]))
    if float(system.cap.pressure) > 0.0:
        sag = (0.0, LIKELY_SAG, WEAK_END)
        found.append(Unknown("cap", ("cap.sag",), *sag, relative=False, least=0.0))
    if tested:
        return [*found, Unknown("core", ("core.UA_factor",), TESTED_CORE[0], 1.0, TESTED_CORE[1])]
    return [
        *found,
        Unknown("air_film", ("core.air_film",), AIR_FILM[0], 1.0, AIR_FILM[1]),
        Unknown("coolant_film", ("core.coolant_film",), COOLANT_FILM[0], 1.0, COOLANT_FILM[1]),
    ]


@dataclass(frozen=True)
class Bend:
    """What draws bring to a timed case, by what the sum of their single moves says of them: both (LOOKED_AT,) and sorted
    [-]. The one's share of draws is the other's."""

    summed: FloatArray
    brought: FloatArray

    def of(self, moved: FloatArray) -> FloatArray:
        """What sums of moves bring [-], same shape; straight on beyond the outermost that was looked at."""
        low, high = self.summed[0], self.summed[-1]
        beyond = np.minimum(moved - low, 0.0) + np.maximum(moved - high, 0.0)
        return np.asarray(np.interp(moved, self.summed, self.brought) + beyond)

    def least(self, moved: FloatArray, middle: float) -> float:
        """The sum of moves [-] above which a draw, of all that are ``moved`` (draws,), leaves the case below its limit where
        ``middle`` [-] is spare with all unknowns at their medians: as ``by_odds`` lays them."""
        laid = by_odds(np.sort(self.of(moved)))
        share = float(np.searchsorted(laid, -float(middle), "right")) / len(laid)
        return float(_quantile(np.sort(moved), share))


def _bend(
    system: System, cases: Cases, unknowns: Sequence[Unknown], summed: FloatArray, middle: FloatArray
) -> list[Bend]:
    """For each of some cases, from all sums (DRAWS, cases) of single moves and what is kept with all at their medians
    (cases,). Those that are looked at lie evenly among a case's own sums, so that few tell much."""
    rise, fall = sides(len(unknowns))
    ranks = ((np.arange(LOOKED_AT) + 0.5) * (DRAWS / LOOKED_AT)).astype(int)
    chosen = np.argsort(summed, axis=0)[ranks]
    brought = kept(applied(system, unknowns, (rise - fall)[chosen]), cases) - middle
    summed = np.take_along_axis(summed, chosen, 0)
    brought = np.sort(np.broadcast_to(brought, summed.shape), axis=0)
    return [Bend(summed[:, k], brought[:, k]) for k in range(summed.shape[1])]


def applied(system: System, unknowns: Sequence[Unknown], at: FloatArray) -> System:
    """The system with unknowns ``at`` (samples, 1 or cases, unknowns) standard deviations from their medians."""
    moved: dict[str, FloatArray] = {}
    for i, unknown in enumerate(unknowns):
        if np.any(at[..., i] != 0.0) or not unknown.relative or unknown.median != 1.0:
            value = unknown.at(at[..., i])
            for path in unknown.paths:
                if unknown.relative:
                    before = moved.get(path, value_at(system, path))
                    moved[path] = scaled_at(system, path, before, value)
                else:
                    moved[path] = value
    return changed_all(system, moved) if moved else system


def spare(system: System, cases: Cases) -> FloatArray:
    """What is left of each case at its limit temperature, (cases,) or (candidates, cases) [-], above nothing where it
    stays below: logarithm of heat shed over heat sent, for a timed case the room left at its end.

    The fan stands as its switch leaves it there. Nothing is searched for, so this is quick.
    """
    limit = limit_temperature(system, boiling_temperature(system, cases, system.cap.holds))
    return limits.spare_at_limit(system, cases, np.minimum(limit, system.table_end))


def kept(
    system: System, cases: Cases, left: FloatArray | None = None, state: SteadyState | None = None
) -> FloatArray:
    """What is ``spare``, and no more than what each case comes to stand at leaves, same shape [-]. What is known already of
    the two may be given: what is ``left`` at the limit [-], and the ``state`` of each case.

    Where the heat could be shed at the limit and yet nothing settles, the hottest of the hunt decides; where a case settles
    above a limit that could be kept (a fan that has started, a bulb that is kept cold), what it settles at: the logarithm
    of how far the limit lies above the air, over how far that does.
    """
    limit = limit_temperature(system, boiling_temperature(system, cases, system.cap.holds))
    if left is None:
        left = limits.spare_at_limit(system, cases, np.minimum(limit, system.table_end))
    if np.all(np.isfinite(cases.duration)):
        return left  # a timed case is left where its end leaves it, wherever it would settle
    limit = np.broadcast_to(limit, left.shape)
    state = state or steady_state(system, cases, limit)
    settles = np.where(state.exists, state.judged, np.inf)
    hottest = np.minimum(np.where(state.hunts, state.hottest, settles), system.table_end)
    rise = np.maximum(limit - cases.ambient, 1e-3), np.maximum(hottest - cases.ambient, 1e-3)
    decides = ~np.isfinite(cases.duration) & (state.hunts | ((hottest > limit) & (left > 0.0)))
    return np.asarray(np.where(decides, np.minimum(left, np.log(rise[0] / rise[1])), left))


def by_draws(system: System, cases: Cases, left: FloatArray, likely: FloatArray) -> IntArray:
    """Which cases are looked at draw by draw: timed ones, and those that may come to stand elsewhere than the balance at the
    limit says, as where less is ``likely`` kept (cases,) than is ``left`` there [-], and wherever warmth brings its own
    flow: with a bulb at the inlet, or without a pump."""
    circuit = system.circuit
    own_flow = np.any(circuit.thermostat.at_inlet) or np.any(circuit.pump.siphon > 0.0)
    return np.flatnonzero(np.isfinite(cases.duration) | (likely < left) | own_flow)


def _quantile(ordered: FloatArray, share: float) -> FloatArray:
    """What a ``share`` [-] of draws (..., draws), sorted, lies below, straight between them, as NumPy's quantile, which takes
    four times as long with its partition as a sort does."""
    at = share * (ordered.shape[-1] - 1)
    low = min(int(at), ordered.shape[-1] - 2)
    return np.asarray(ordered[..., low] + (at - low) * (ordered[..., low + 1] - ordered[..., low]))


def centred(moved: FloatArray) -> FloatArray:
    """What many draws (draws, ...) bring, laid around what they bring with all at their medians (choice).

    Most unknowns can go further wrong than right, so that many of them together would lie below their medians
    together. The likely answer is kept as the middle one: a case just at its limit has even odds.
    """
    return np.asarray(moved - _quantile(_sorted(moved), 0.5))


def _sorted(moved: FloatArray) -> FloatArray:
    """Draws (draws, ...) as (..., draws), the least first."""
    return np.sort(np.moveaxis(moved, 0, -1))


def by_odds(brought: FloatArray) -> FloatArray:
    """What many draws (draws,) bring to a timed case beyond what is spare with all unknowns at their medians [-], laid around
    that (choice): a draw's odds among the others are taken as many times as nothing has. The more nothing lies at the
    edge of the draws, which then say little of what lies around it, the more they are shifted as a whole (``centred``).

    What is spare of a timed case jumps where its limit is just not reached any more: moved by as much as the middle one
    lies off, draws from one side of the gap would come to lie on the other, all at once.
    """
    n = len(brought)
    order = np.argsort(brought)
    ordered = brought[order]
    below = 0.5 * (np.searchsorted(ordered, 0.0, "left") + np.searchsorted(ordered, 0.0, "right"))
    nothing = min(max(float(below) / n, 0.5 / n), 1.0 - 0.5 / n)
    shares = (np.arange(n) + 0.5) / n
    odds = shares / (1.0 - shares) * nothing / (1.0 - nothing)
    amid = 4.0 * nothing * (1.0 - nothing)
    laid = np.empty(n)
    laid[order] = amid * np.interp(odds / (1.0 + odds), shares, ordered)
    laid += (1.0 - amid) * (brought - _quantile(ordered, 0.5))
    return laid


def in_kelvin(spare: FloatArray, per_kelvin: FloatArray) -> FloatArray:
    """How much hotter the air may be [K] with so much ``spare`` [-]: the heat shed goes with how far the coolant stands
    above the air; ``per_kelvin`` is how it goes in the air as it is [-/K]."""
    return np.asarray(-np.expm1(-spare) / per_kelvin)


@dataclass(frozen=True)
class Estimate:
    """First-order chances. (cases,): below, chance of staying below the limit; hotter, by how much hotter air the
    likely answer must reach its limit for the chance asked [K]; wanted, what must be spare for it, middle, what is kept with all at their medians, and left, what is spare at the limit then [-]; per_kelvin, what a kelvin of hotter air takes of that [-/K]. build, chance that all cases stay below. (unknowns, cases): down and up, what is gained per standard
    deviation below and above the median [-]; bends, how these go together in timed cases, by their number; settles, share of the variance that hangs on each unknown; swing, how far
    the ambient at the limit lies apart between its 5 and its 95 % point [K]."""

    below: FloatArray
    build: float
    hotter: FloatArray
    wanted: FloatArray
    middle: FloatArray
    left: FloatArray
    down: FloatArray
    up: FloatArray
    bends: dict[int, Bend]
    per_kelvin: FloatArray
    settles: FloatArray
    swing: FloatArray

    def at_limit(self, case: int) -> float:
        """Chance of one steady case [-] if it came to stand wherever its balance at the limit says."""
        rise, fall = sides(len(self.up))
        moved = centred(rise @ self.up[:, case] + fall @ self.down[:, case])
        return float(np.count_nonzero(self.left[case] + moved > 0.0) / DRAWS)

    def if_known(self, case: int) -> FloatArray:
        """(unknowns, 2) chance of one case if an unknown were known to be at its 5, and at its 95 % point."""
        n = len(self.up)
        rise, fall = sides(n)
        # The draws along the last axis: what lies side by side in memory is counted four times as fast.
        each = np.ascontiguousarray((rise * self.up[:, case] + fall * self.down[:, case]).T)
        ends = np.stack([self.down[:, case], self.up[:, case]], -1) * POINT
        moved = each.sum(0)
        bend = self.bends.get(case)
        # More draws only bring more: what a timed case must be brought is a sum of moves, as a steady one's is.
        least = np.median(moved) - self.middle[case] if bend is None else bend.least(moved, self.middle[case])
        asked = least - ends
        return np.asarray(np.count_nonzero((moved - each)[:, None] > asked[:, :, None], -1) / DRAWS)


def draws_of(found: Estimate) -> FloatArray:
    """(DRAWS, cases) what the draws bring to each case [-]."""
    rise, fall = sides(len(found.up))
    return _laid(rise @ found.up + fall @ found.down, found.bends)


def _laid(summed: FloatArray, bends: dict[int, Bend]) -> FloatArray:
    """(DRAWS, cases) what the draws bring, from the sums of their single moves [-], laid around the likely answer."""
    moved = centred(summed)
    for case, bend in bends.items():
        moved[:, case] = by_odds(bend.of(summed[:, case]))
    return moved


def asked_for(found: Estimate, asked: float) -> Estimate:
    """The same estimate for another chance ``asked`` [-]: ``wanted`` and ``hotter`` go by it, all else stays."""
    wanted = _wanted(draws_of(found), asked)
    return replace(found, wanted=wanted, hotter=in_kelvin(wanted, found.per_kelvin))


def _wanted(moved: FloatArray, asked: float) -> FloatArray:
    """(cases,) what must be spare [-] for a chance, from what the draws bring (DRAWS, cases)."""
    return -_quantile(_sorted(moved), 1.0 - asked)


def holds_until(found: Estimate, ambient: FloatArray, limiting: FloatArray) -> FloatArray:
    """Air temperature [K] up to which each case has the chance asked for (cases,), to first order: never hotter than the
    ``limiting`` one [K], at which even odds end, and hotter than the case's own ``ambient`` [K] where it has that chance.

    Between the two it lies as heat goes with how far the coolant stands above the air. Beyond either, what a kelvin is
    worth at the case's own air says how far; of a case that all but stands still in hotter air that may be below any.
    """
    middle, wanted = found.middle, np.maximum(found.wanted, 0.0)
    within = (middle > 0.0) & (limiting > ambient)
    # Where the case holds, it lies between its own air and the limiting one; else below the colder of the two.
    share = np.expm1(np.minimum(wanted - middle, 0.0)) / np.expm1(-np.where(within, middle, 1.0))
    below = np.minimum(ambient, limiting) + in_kelvin(
        np.where(middle > 0.0, np.minimum(middle, wanted), 0.0) - wanted, found.per_kelvin
    )
    return np.asarray(np.where(within & (wanted < middle), ambient + share * (limiting - ambient), below))


def verdict_of(chance: FloatArray) -> IntArray:
    """HOLDS, TIGHT or FAILS by the chance of staying below the limit [-]; broadcasts."""
    return np.select([chance >= HOLDS_FROM, chance >= TIGHT_FROM], [HOLDS, TIGHT], FAILS)


def estimate(
    system: System,
    cases: Cases,
    unknowns: Sequence[Unknown],
    asked: float = HOLDS_FROM,
    state: SteadyState | None = None,
) -> Estimate:
    """Chances of one system (fields of shape ()) from each unknown moved alone to its 5 and its 95 % point.

    What the moves bring to ``spare`` is added up, straight between the points on either side of the median, over DRAWS
    draws of all of them, and laid around the likely answer (``centred``, ``by_odds``). Interactions are left out, but for
    cases that are looked at ``by_draws``: what LOOKED_AT of the draws bring themselves bends the sums (``Bend``).

    Parameters
    ----------
    asked : chance that ``hotter`` is for.
    state : what each case comes to, where that is known already.
    """
    n = len(unknowns)
    at = np.zeros((2 * n + 2, n))
    for i in range(n):
        at[1 + 2 * i, i], at[2 + 2 * i, i] = -POINT, POINT
    # The last row is the first in warmer air: one look for all of them.
    ambient = np.tile(cases.ambient, (len(at), 1))
    ambient[-1] += WARMER
    found = spare(applied(system, unknowns, at[:, None]), replace(cases, ambient=ambient))
    found, warmer = found[:-1], found[-1]
    middle = kept(system, cases, found[0], state)  # it stands at their medians
    down, up = (found[1::2] - found[0]) / POINT, (found[2::2] - found[0]) / POINT
    rise, fall = sides(n)
    summed, bends = rise @ up + fall @ down, {}
    which = by_draws(system, cases, found[0], middle)
    if which.size:
        bent = _bend(system, cases.taken(which), unknowns, summed[:, which], middle[which])
        bends = dict(zip(which.tolist(), bent, strict=True))
    moved = _laid(summed, bends)
    below = middle + moved > 0.0
    per_kelvin = np.maximum((found[0] - warmer) / WARMER, 1e-6)
    wanted = _wanted(moved, asked)
    variance = (0.5 * (up - down)) ** 2
    return Estimate(
        below.mean(0),
        float(below.all(-1).mean()),
        in_kelvin(wanted, per_kelvin),
        wanted,
        middle,
        found[0],
        down,
        up,
        bends,
        per_kelvin,
        variance / np.maximum(variance.sum(0), 1e-30),
        np.abs(up - down) * POINT / per_kelvin,
    )
