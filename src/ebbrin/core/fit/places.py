"""Where air collects, and which way of filling lets it out: heights against heights."""

from __future__ import annotations

from dataclasses import dataclass

FUNNEL = 0.25  # choice: how far a funnel stands above the filler, m
RAISED = 0.30  # choice: by how much the end with the filler is raised over the bulkhead on ramps, m
SCHOOLS = ("bleed", "bottle", "funnel", "vent", "nose")
"""Ways of filling, the surest first."""


@dataclass(frozen=True)
class Heights:
    """Places above the lower hose [m], None where nobody knows: filler, upper end of the heater's core (0 without one),
    engine outlet, highest bleed screw; how many of these there are, None where nobody knows; whether the filler is on
    a pressurised bottle, and whether an electric pump has a vent run."""

    filler: float | None
    heater: float | None
    outlet: float | None
    bleed: float | None
    bleed_screws: int | None
    bottle: bool
    vent_run: bool


@dataclass(frozen=True)
class Works:
    """Whether a way of filling will let the air out, None where that hangs on a height that nobody knows; why, as a code:
    absent (the car has no such thing), above, below, unknown, pumped; and how far the way's opening stands above the
    highest place that holds air [m], None where nobody knows."""

    works: bool | None
    why: str
    spare: float | None


def highest(heights: Heights) -> float | None:
    """The highest place that holds air [m]; None where a height is not known."""
    if heights.heater is None or heights.outlet is None:
        return None
    return max(heights.heater, heights.outlet)


def works(school: str, heights: Heights) -> Works:
    """Whether one of SCHOOLS lets the air out.

    Air leaves by itself only upwards: the opening, or the level that a funnel keeps, must stand above every place that
    holds air. An electric pump with a vent run carries it down to the filler.
    """
    if school == "vent":
        return Works(heights.vent_run, "pumped" if heights.vent_run else "absent", None)
    if school == "bleed" and not heights.bleed_screws:
        return Works(
            None if heights.bleed_screws is None else False,
            "unknown" if heights.bleed_screws is None else "absent",
            None,
        )
    if school == "bottle" and not heights.bottle:
        return Works(False, "absent", None)
    opening = heights.bleed if school == "bleed" else heights.filler
    top = highest(heights)
    if opening is None or top is None:
        return Works(None, "unknown", None)
    spare = opening + {"funnel": FUNNEL, "nose": FUNNEL + RAISED}.get(school, 0.0) - top
    return Works(spare >= 0.0, "above" if spare >= 0.0 else "below", spare)


def lift_needed(heights: Heights) -> float | None:
    """By how much the end with the filler has to rise so that a funnel on it is the highest point [m]; 0 where it is
    already, None where nobody knows.

    >>> lift_needed(Heights(0.5, 0.85, 0.6, None, 0, False, False))
    0.1
    """
    top = highest(heights)
    if heights.filler is None or top is None:
        return None
    return round(max(top - heights.filler - FUNNEL, 0.0), 6)


def must_go(place: float, filler: float, volume: float, reserve: float = 0.15) -> float:
    """How much has to run out [m³] before a place can be opened: the share of the fill that stands above it, with a
    ``reserve`` [-] on top.

    The fill is taken to be spread evenly over the height from the lower hose to the filler (a choice: blocks and tanks
    are much alike in it).

    Parameters
    ----------
    place, filler : heights above the lower hose [m].
    volume : of the fill [m³].

    >>> round(must_go(0.5, 0.6, 9.0e-3) * 1e3, 2)  # L
    1.72
    """
    above = min(max((filler - place) / filler, 0.0), 1.0) if filler > 0.0 else 1.0
    return min(above * (1.0 + reserve) * volume, volume)
