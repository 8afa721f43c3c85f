"""The drive on which this very car is asked what a driver would see: warm-up, road, queue, a blip of the throttle, driving
off, crawling, a climb, a fast road, and a stop."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ebbrin.core.base import BoolArray, FloatArray
from ebbrin.core.drive.legs import Legs
from ebbrin.core.system.demand import road_power
from ebbrin.core.system.parts import Cases, System

Part = Literal["cold", "warm_up", "road", "queue", "blip", "drive_off", "crawl", "climb", "fast", "stop"]


@dataclass(frozen=True)
class Piece:
    """One leg: seconds, speed [m/s], share of rated speed that the engine turns (0: it idles), gradient [-], and the
    share of rated power that it may ask at most: less steep, then slower, until it does."""

    part: Part
    seconds: float
    speed: float
    turns: float = 0.0
    gradient: float = 0.0
    most: float = 1.0
    heater: bool = False
    runs: bool = True


IDLE = 14.0  # choice: 840 per minute, rev/s
ROUND: tuple[Piece, ...] = (
    Piece("cold", 60.0, 0.0),
    Piece("warm_up", 480.0, 12.0, 0.38),
    Piece("road", 300.0, 20.0, 0.45, heater=True),
    Piece("queue", 720.0, 0.0),
    Piece("blip", 45.0, 0.0, 0.45),
    Piece("queue", 150.0, 0.0),
    Piece("drive_off", 180.0, 14.0, 0.40),
    Piece("crawl", 420.0, 1.8, 0.20),
    Piece("climb", 360.0, 14.0, 0.60, gradient=0.06, most=0.6),
    Piece("fast", 300.0, 27.0, 0.55, most=0.45),
    Piece("stop", 360.0, 0.0, runs=False),
)
"""Choices: what a road asks of a car in use, each part long enough that it has settled or boils."""
EASIER = 0.8


def standard_round(system: System, ambient: float, altitude: float) -> Legs:
    """The round for one system (fields of shape ()), at its site's ambient [K] and altitude [m]."""
    n = len(ROUND)
    full = np.full

    def of(values: list[float]) -> FloatArray:
        return np.array(values, dtype=np.float64)

    rated = float(system.engine.rated_speed)
    runs: BoolArray = np.array([piece.runs for piece in ROUND])
    cases = Cases(
        ambient=full(n, ambient),
        altitude=full(n, altitude),
        speed=of([piece.speed for piece in ROUND]),
        headwind=np.zeros(n),
        gradient=of([piece.gradient for piece in ROUND]),
        acceleration=np.zeros(n),
        crank_speed=of([max(piece.turns * rated, IDLE) for piece in ROUND]),
        given_power=np.zeros(n),
        power_is_given=np.zeros(n, bool),
        shaft_power=np.zeros(n),
        towing=np.zeros(n),
        air_conditioning=np.zeros(n, bool),
        heater=np.array([piece.heater for piece in ROUND]),
        duration=full(n, np.inf),
        start=full(n, np.nan),
    )
    return Legs(_within_power(system, cases).checked(), of([piece.seconds for piece in ROUND]), runs)


def _within_power(system: System, cases: Cases) -> Cases:
    """The legs made easier until none asks more of the engine than it may."""
    most = np.array([piece.most for piece in ROUND]) * float(system.engine.rated_power)
    for _ in range(12):
        over = np.broadcast_to(road_power(system, cases), most.shape) > most
        if not over.any():
            break
        hilly = over & (cases.gradient > 0.005)
        cases = replace(
            cases,
            gradient=np.where(hilly, cases.gradient * EASIER, cases.gradient),
            speed=np.where(over & ~hilly, cases.speed * EASIER, cases.speed),
        )
    return cases
