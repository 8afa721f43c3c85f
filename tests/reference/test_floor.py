"""What benchmarks count in is what the core works out: the same formulas written as arrays, against the compiled ones."""

from __future__ import annotations

import numpy as np
import pytest

from ebbrin.core import ducts
from ebbrin.core.media import air
from ebbrin.core.media.coolants import properties
from ebbrin.core.radiator import air_side, coolant_side, exchange
from ebbrin.core.system.parts import System
from ebbrin.demo import demo_builds
from oracles import floor
from oracles.builds import to_core


@pytest.fixture(scope="module")
def system() -> System:
    return to_core(demo_builds()[0])[0]


def test_air_loses_what_the_core_says(system: System) -> None:
    for T, density in ((260.0, 1.3), (330.0, 1.07), (390.0, 0.6)):
        G = np.geomspace(0.05, 40.0, 200)
        # Slower than the correlation was fitted to, the floor holds its friction; the core goes on as 1/Re.
        G = G[air_side.reynolds(system.surface, G, np.asarray(T)) >= 30.0]
        assert len(G) > 100
        found = floor.pressure_drop(system.surface, G, T, density)
        assert found == pytest.approx(air_side.pressure_drop(system.surface, G, T, density), rel=1e-9)


def test_coolant_films_and_losses_are_the_core_s_over_all_regimes(system: System) -> None:
    flow = np.geomspace(1e-5, 8e-3, 300)
    seen = []
    for T in (263.15, 320.0, 372.0):
        fluid = properties(system.coolant, np.full(flow.shape, T))
        Re = coolant_side.tube_reynolds(system.tubes, flow, fluid)
        seen.append(Re)
        found = floor.nusselt(Re, fluid.prandtl, system.tubes)
        tubes = system.tubes
        theirs = coolant_side.nusselt(Re, fluid.prandtl, tubes.laminar_nusselt, tubes.slenderness)
        assert found == pytest.approx(theirs, rel=1e-9)
        assert floor.inner_resistance(tubes, Re, fluid) == pytest.approx(
            coolant_side.inner_resistance(tubes, Re, fluid), rel=1e-9
        )
        lost = ducts.pressure_drop(coolant_side.tube_duct(tubes, fluid), flow) if T > 300.0 else None
        if lost is not None:
            assert floor.duct_drop(tubes, fluid, flow) == pytest.approx(lost, rel=1e-9)
    Re = np.concatenate(seen)
    assert (Re < 2300.0).any()
    assert ((Re > 2300.0) & (Re < 4000.0)).any()
    assert (Re > 4000.0).any()


def test_effectiveness_is_the_core_s_series() -> None:
    NTU, ratio = np.meshgrid(np.geomspace(1e-3, 8.0, 40), np.linspace(0.01, 1.0, 25))
    found = floor.effectiveness(NTU, ratio)
    assert found == pytest.approx(exchange.crossflow_effectiveness(NTU, ratio), rel=1e-6)


def test_one_evaluation_is_what_passes_for_each_kelvin(system: System) -> None:
    shape = (3, 4)
    found = floor.floor(system, shape)()
    T = np.full(shape, 370.0) + np.linspace(0.0, 5.0, shape[1])
    fluid, G, Q = properties(system.coolant, T), np.full(shape, 6.0), np.full(shape, 1.5e-3)
    film = air_side.heat_transfer_coefficient(
        system.surface, G, air_side.reynolds(system.surface, G, np.asarray(330.0))
    )
    fins = air_side.surface_efficiency(air_side.fin_efficiency(system.surface, film), system.core.fin_share)
    Re = coolant_side.tube_reynolds(system.tubes, Q, fluid)
    inside = coolant_side.inner_resistance(system.tubes, Re, fluid)
    UA = 1.0 / (1.0 / (fins * film * system.core.air_area) + inside)
    streams = G * system.core.open_face * air.HEAT_CAPACITY, Q * fluid.density * fluid.heat_capacity
    assert found == pytest.approx(exchange.heat_per_kelvin(UA, *streams), rel=1e-6)
