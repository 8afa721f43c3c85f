"""How sure an answer is: sampling of what is assumed or scatters, and what each unknown is worth."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ebbrin.core.base import FloatArray
from ebbrin.core.circuit.cap import LIKELY_SAG
from ebbrin.core.engine import heat as engines
from ebbrin.core.system import limits
from ebbrin.core.system.batch import outcome
from ebbrin.core.system.limits import SAFE_MARGIN
from ebbrin.core.system.parts import Cases, System, changed, value_at

SAMPLES, SEED, CHUNK = 400, 20, 100
# Scatter of the correlations, low and high factor; chang-wang-1997 puts 89 % of its data within 15 % in j and
# chang-2000 83 % within 15 % in f; the upper end of f also covers a doubtful definition (louvred.friction_law);
# coolant film: choice, for the transition at Re 2300 to 4000. A tested core: choice.
AIR_FILM, AIR_FRICTION, COOLANT_FILM, TESTED_CORE = (0.85, 1.15), (0.85, 1.30), (0.80, 1.20), (0.95, 1.05)
CAP_SAG = 7000.0  # common practice: a sound cap may open this far below its mark, Pa


@dataclass(frozen=True)
class Unknown:
    """One value that is assumed or scatters: a name, the fields of the system that it sets (dotted paths),
    and least, likeliest and greatest value, as factors on those fields if ``relative``."""

    name: str
    paths: tuple[str, ...]
    low: float
    mode: float
    high: float
    relative: bool = True

    def applied(self, system: System, value: FloatArray) -> System:
        """The system with this unknown at ``value``, an array (samples, 1)."""
        for path in self.paths:
            base = value_at(system, path)
            if path.endswith(".pressure") and base.ndim:  # a fan curve has its points on an axis of its own
                system = changed(system, path, base * value[..., None])
            else:
                system = changed(system, path, base * value if self.relative else value)
        return system


@dataclass(frozen=True)
class Chances:
    """(cases,) unless said otherwise: share of samples that stay below the limit and that hold with
    SAFE_MARGIN [-]; 5, 50 and 95 % points of the temperature that margins are taken from, (3, cases) [K], inf
    where such a share has no steady state; the same shares for all cases together."""

    below_limit: FloatArray
    holds: FloatArray
    quantiles: FloatArray
    build_below_limit: float
    build_holds: float
    samples: int


@dataclass(frozen=True)
class Sensitivity:
    """What one unknown is worth: the margin [K] in each case at its low and at its high end, all others
    likeliest, (unknowns, cases); the margin with all likeliest, (cases,). A case without steady state counts
    as if its top hose stood at the end of the tables."""

    names: tuple[str, ...]
    at_low: FloatArray
    at_high: FloatArray
    likeliest: FloatArray

    @property
    def swing(self) -> FloatArray:
        """Kelvins of margin that hang on each unknown, (unknowns, cases)."""
        return np.abs(self.at_high - self.at_low)


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
    if float(system.cap.pressure) > 0.0:
        found.append(Unknown("cap", ("cap.sag",), 0.0, LIKELY_SAG, CAP_SAG, relative=False))
    if tested:
        return [*found, Unknown("core", ("core.UA_factor",), TESTED_CORE[0], 1.0, TESTED_CORE[1])]
    return [
        *found,
        Unknown("air_film", ("core.air_film",), AIR_FILM[0], 1.0, AIR_FILM[1]),
        Unknown("coolant_film", ("core.coolant_film",), COOLANT_FILM[0], 1.0, COOLANT_FILM[1]),
    ]


def triangular(share: FloatArray, low: float, mode: float, high: float) -> FloatArray:
    """Value of a triangular distribution at a cumulative ``share`` [-]; exact inverse."""
    if high <= low:
        return np.full(share.shape, mode)
    knee = (mode - low) / (high - low)
    rising = low + np.sqrt(share * (high - low) * (mode - low))
    falling = high - np.sqrt((1.0 - share) * (high - low) * (high - mode))
    return np.where(share < knee, rising, falling)


def drawn(unknowns: Sequence[Unknown], samples: int, seed: int) -> FloatArray:
    """(samples, unknowns) values, each unknown spread evenly over its distribution (Latin hypercube)."""
    rng = np.random.default_rng(seed)
    columns = []
    for unknown in unknowns:
        share = (rng.permutation(samples) + rng.random(samples)) / samples
        columns.append(triangular(share, unknown.low, unknown.mode, unknown.high))
    return np.stack(columns, -1) if columns else np.zeros((samples, 0))


def _at(system: System, unknowns: Sequence[Unknown], values: FloatArray) -> System:
    for i, unknown in enumerate(unknowns):
        system = unknown.applied(system, values[:, i, None])
    return system


def chances(
    system: System,
    cases: Cases,
    unknowns: Sequence[Unknown],
    samples: int = SAMPLES,
    seed: int = SEED,
    proceed: Callable[[float], bool] = lambda _share: True,
) -> Chances | None:
    """Sample the unknowns of one system and count; None if ``proceed`` said to stop.

    Parameters
    ----------
    proceed : called with the share that is done [-] before each CHUNK of samples.

    Raises
    ------
    DomainError
        If a case lies outside what is possible.
    """
    cases, values = cases.checked(), drawn(unknowns, samples, seed)
    parts = []
    for first in range(0, samples, CHUNK):
        if not proceed(first / samples):
            return None
        part = _at(system, unknowns, values[first : first + CHUNK])
        parts.append(outcome(part, cases))
    margin, hot = (
        np.concatenate([np.atleast_2d(getattr(p, name)) for p in parts]) for name in ("margin", "hot")
    )
    ranked = np.sort(hot, axis=0)
    rows = [min(int(q * len(ranked)), len(ranked) - 1) for q in (0.05, 0.50, 0.95)]
    below, holds = margin >= 0.0, margin >= SAFE_MARGIN
    return Chances(
        below.mean(0),
        holds.mean(0),
        ranked[rows],
        float(below.all(-1).mean()),
        float(holds.all(-1).mean()),
        samples,
    )


def sensitivity(system: System, cases: Cases, unknowns: Sequence[Unknown]) -> Sensitivity:
    """Move each unknown of one system to either end, the others likeliest, and solve all of it in one go."""
    cases, n = cases.checked(), len(unknowns)
    middle = np.array([u.mode for u in unknowns])
    values = np.tile(middle, (2 * n + 1, 1))
    for i, unknown in enumerate(unknowns):
        values[1 + 2 * i, i], values[2 + 2 * i, i] = unknown.low, unknown.high
    several = _at(system, unknowns, values)
    margin = outcome(several, cases).margin
    boils = limits.boiling_temperature(several, cases, several.cap.holds)
    floor = limits.limit_temperature(several, boils) - system.table_end
    margin = np.maximum(margin, np.broadcast_to(floor, margin.shape))
    return Sensitivity(tuple(u.name for u in unknowns), margin[1::2], margin[2::2], margin[0])
