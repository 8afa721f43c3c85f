"""How the air's balance is looked for: where to begin, how far it is off after a look, and the step to the next."""

from __future__ import annotations

import numpy as np

from ebbrin.core.airpath.room import (
    AGAINST,
    AREA,
    COOLANT_THEN,
    CORE,
    DRIVES,
    FALLS,
    FAN_OF,
    FRESH,
    GIVES,
    LAST_OFF,
    LAST_Y,
    LEAVING,
    MASS,
    MEAN,
    MIDDLE,
    OFF,
    OWN,
    PASSES,
    SLOPE,
    THEN,
    THROUGH,
    UA,
    Y,
)
from ebbrin.core.base import FloatArray
from ebbrin.core.compiled import compiled
from ebbrin.core.radiator.block import Inside

LEAST_VELOCITY, FASTEST = 1e-6, 200.0  # m/s
DRIFT = 200.0  # K; how far mean temperatures may still move, over how far pressures may be apart
FIRST_GUESS = 2.0  # m/s
LONGEST = 4.0  # step of the logarithm of a velocity
SHORT = 1e-5  # of the logarithm of a velocity; what a shorter step brings is noise
FILM_GROWTH = 0.35  # how the conductance grows with the logarithm of the flow, about
VISCOUS = 0.4  # how the core's loss grows by its viscosity with that of the air's temperature, about
LEAST_LEFT, LEAST_LIFT = 0.2, 1.0  # of a resistance that shrinks; K between coolant and air
_LOWEST, _HIGHEST, _FIRST = (float(np.log(v)) for v in (LEAST_VELOCITY, FASTEST, FIRST_GUESS))
LEAST_DRIVE = 1e-9  # Pa; what stands in for nothing, so that its logarithm exists
PATIENCE = 12  # passes after which steps are halved, in case they only swing


@compiled
def begin(s: FloatArray, mean: float) -> None:
    """Stand at where a balance is looked for from nothing, the air in the core at a ``mean`` temperature [K]."""
    for z in range(s.shape[1]):
        s[Y, z] = _FIRST if s[AREA, z] > 0.0 else _LOWEST
        s[MEAN, z] = mean


@compiled
def foresee(block, fan, meets, inside, s):  # type: ignore[no-untyped-def]
    """Move on from the balance that stands in ``s`` to where the air is likely to stand with another coolant or ambient, as
    long as its velocities are much the same: what resists the heat changes by the coolant's share alone, the core stands
    more against warmer air, and a fan gives less to it. It only says where to look."""
    if s[THEN, 0] <= 0.0:
        return
    now, was = inside.hot - meets.ambient, s[THEN, 0] - s[THEN, 1]
    ambient = meets.ambient / s[THEN, 1]
    coolant = inside.resistance + 0.5 / inside.capacity - (s[COOLANT_THEN, 1] + 0.5 / s[COOLANT_THEN, 0])
    for z in range(s.shape[1]):
        if s[AREA, z] <= 0.0:
            continue
        share = s[AREA, z] / block.open_face
        less = 1.0 / max(1.0 + s[PASSES, z] * coolant / share, LEAST_LEFT)
        ahead = s[FRESH, z] - s[THEN, 1]
        if abs(was - ahead) < LEAST_LIFT:
            continue
        grows = less * (now - ahead) / (was - ahead)
        fresh = meets.ambient + ahead
        coldest, hottest = min(fresh, inside.hot), max(fresh, inside.hot)
        mean = min(max(fresh + (s[MIDDLE, z] - s[FRESH, z]) * grows, coldest), hottest)
        behind = min(max(fresh + (s[LEAVING, z] - s[FRESH, z]) * grows, coldest), hottest)
        # At one density the air's flow would stay: what counts is how much warmer it gets than the air outside.
        thinner, thicker = mean / (s[MEAN, z] * ambient) - 1.0, VISCOUS * (mean / s[MEAN, z] - 1.0)
        more, stands = s[CORE, z] * (thinner + thicker), s[OWN, z]
        f = int(s[FAN_OF, z])
        if f >= 0:
            stands += s[FALLS, f]
            if fan.puller > 0.5:
                more += (s[GIVES, f] + s[FALLS, f]) * (behind / (s[LEAVING, z] * ambient) - 1.0)
        s[Y, z] = min(max(s[Y, z] - more / max(stands, LEAST_DRIVE), _LOWEST), _HIGHEST)
        s[MEAN, z] = mean


@compiled
def apart(s: FloatArray) -> float:
    """How far pressures are apart at most after a look, by logarithms [-], each into ``s.off``, or how far mean
    temperatures may still move over DRIFT."""
    most = 0.0
    for z in range(s.shape[1]):
        if s[AREA, z] <= 0.0:
            continue
        s[OFF, z] = np.log(max(s[AGAINST, z], LEAST_DRIVE) / max(s[DRIVES, z], LEAST_DRIVE))
        if s[Y, z] > _LOWEST or s[OFF, z] <= 0.0:
            most = max(most, abs(s[OFF, z]), abs(s[MIDDLE, z] - s[MEAN, z]) / DRIFT)
    return most


@compiled
def damping(passes: int) -> float:
    """What part of a step is taken after so many passes, in case they only swing."""
    return 1.0 if passes < PATIENCE else (0.5 if passes < 2 * PATIENCE else 0.2)


@compiled
def step_of(s: FloatArray, z: int) -> float:
    """What is taken off the logarithm of a zone's velocity by the step that Newton's method has left in ``s.off``."""
    step = min(max(s[OFF, z], -LONGEST), LONGEST)
    return s[Y, z] - min(max(s[Y, z] - step, _LOWEST), _HIGHEST)


@compiled
def move(s: FloatArray, damped: float) -> None:
    """Take the step that Newton's method has left in ``s.off``, or a part of it."""
    for z in range(s.shape[1]):
        if s[AREA, z] > 0.0:
            s[Y, z] -= damped * step_of(s, z)
        s[MEAN, z] = s[MIDDLE, z]


@compiled
def to_come(s: FloatArray, open_face: float, inside: Inside) -> float:
    """By about how much the heat to the air [W] will change with the step that Newton's method has left in ``s.off``. How
    what passes grows with the flow comes from the mean difference in temperature; it only says where to look next."""
    gained = 0.0
    for z in range(s.shape[1]):
        if s[AREA, z] > 0.0:
            passes = s[PASSES, z]
            by_air = 1.0 - passes * open_face / (2.0 * inside.capacity * s[AREA, z])
            grows = max(by_air - (1.0 - FILM_GROWTH) * passes / s[UA, z], 0.0)
            gained += passes * (inside.hot - s[FRESH, z]) * np.expm1(-grows * step_of(s, z))
    return gained


@compiled
def newton(s, learn, known):  # type: ignore[no-untyped-def]
    """Newton's step, into ``s.off``, on the logarithms of all velocities; how density and heat follow the flow is left
    out, which costs a pass or two. A zone with a fan of its own, or none, learns its slope from what the last step
    brought."""
    for f in range(-1, 2):
        served, weighted, pulls = 0, 0.0, 0.0
        for z in range(s.shape[1]):
            if s[FAN_OF, z] == f and s[AREA, z] > 0.0:
                served += 1
        if served == 0:
            continue
        if f >= 0 and served > 1:
            # One plenum: (own + falls weight) step = off against, by the formula for a matrix of rank one.
            for z in range(s.shape[1]):
                if s[FAN_OF, z] == f and s[AREA, z] > 0.0:
                    weight = s[MASS, z] / s[THROUGH, f]
                    weighted += weight * s[OFF, z] * s[AGAINST, z] / s[OWN, z]
                    pulls += weight / s[OWN, z]
            whole = weighted / (1.0 + s[FALLS, f] * pulls)
            for z in range(s.shape[1]):
                if s[FAN_OF, z] == f and s[AREA, z] > 0.0:
                    s[LAST_Y, z], s[LAST_OFF, z] = s[Y, z], s[OFF, z]
                    s[OFF, z] = (s[OFF, z] * s[AGAINST, z] - s[FALLS, f] * whole) / s[OWN, z]
            continue
        for z in range(s.shape[1]):
            if s[FAN_OF, z] != f or s[AREA, z] <= 0.0:
                continue
            own = s[OWN, z] + (s[FALLS, f] if f >= 0 else 0.0)
            assumed = max(own, 1e-300) / s[AGAINST, z]
            if learn:
                moved = s[Y, z] - s[LAST_Y, z]
                if abs(moved) > SHORT:
                    s[SLOPE, z] = (s[OFF, z] - s[LAST_OFF, z]) / moved
            slope = s[SLOPE, z] if (learn or known) and s[SLOPE, z] > 0.0 else assumed
            s[LAST_Y, z], s[LAST_OFF, z] = s[Y, z], s[OFF, z]
            s[SLOPE, z] = min(max(slope, 0.5 * assumed), 3.0 * assumed)
            s[OFF, z] /= s[SLOPE, z]
