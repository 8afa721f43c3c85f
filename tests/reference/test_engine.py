"""Engine heat and road load against published laws and numbers worked by hand."""

from __future__ import annotations

import numpy as np
import pytest

from ebbrin.core.engine import heat
from ebbrin.core.engine.heat import Engine
from ebbrin.core.engine.road_load import Motion, Vehicle, brake_power


def engine(kind: int, **changes: float) -> Engine:
    given = {
        "kind": kind, "school": heat.ENERGY_BALANCE, "displacement": 2.0e-3, "rated_power": 100e3,
        "rated_speed": 95.0, "stroke": 0.086, "tune_factor": 1.0, "cooled_turbo": 0.0, "gearbox_loss": 0.0,
        "electrical_load": 0.0, "heat_capacity": 4e4,
    }  # fmt: skip
    return Engine(**{name: np.asarray(value) for name, value in (given | changes).items()})  # type: ignore[arg-type]


def test_petrol_friction_is_that_of_barnes_moss() -> None:
    # Heywood 1988, ch. 13: 0.97 + 0.15 n + 0.05 n² bar; 1.87 bar at 3000 rpm.
    assert heat.friction_pressure(heat.PETROL_NA, 50.0, 0.086) == pytest.approx(1.87e5)


def test_diesel_friction_is_that_of_millington_and_hartles() -> None:
    # Heywood 1988, ch. 13 (from memory): 75 + 48 n + 0.4 S_p² kPa; 2000 rpm, 90 mm: S_p = 6 m/s.
    assert heat.friction_pressure(heat.DIESEL, 2000 / 60, 0.09) == pytest.approx((75 + 96 + 0.4 * 36) * 1e3)


@pytest.mark.parametrize(
    # Heywood 1988, table 12.1 (from memory): coolant share of fuel energy at rated power.
    ("kind", "low", "high"),
    [(heat.PETROL_NA, 0.17, 0.26), (heat.PETROL_BOOSTED, 0.17, 0.26), (heat.DIESEL, 0.16, 0.35)],
)
def test_coolant_share_at_rated_power_lies_in_heywoods_band(kind: int, low: float, high: float) -> None:
    e = engine(kind)
    result = heat.heat_rejection(e, 100e3, 95.0, 0.0, 0.0)
    share = result.engine / heat.fuel_power(e, 100e3, 95.0)
    assert low <= share <= high
    assert result.low <= result.engine <= result.high


def test_energy_balance_by_hand() -> None:
    # fmep at 5700 rpm 3.4495 bar, 65.54 kW of friction; (100 + 65.54)/0.37 = 447.4 kW; a fifth of it.
    result = heat.heat_rejection(engine(heat.PETROL_NA), 100e3, 95.0, 0.0, 0.0)
    assert result.engine == pytest.approx(0.2 * (100e3 + 3.4495e5 * 2e-3 * 47.5) / 0.37, rel=1e-4)


def test_thirds_school_sends_as_much_as_the_crank() -> None:
    result = heat.heat_rejection(engine(heat.PETROL_NA, school=heat.THIRDS), 60e3, 60.0, 0.0, 0.0)
    assert result.engine == pytest.approx(60e3)
    assert result.thirds == pytest.approx(60e3)
    assert result.energy_balance != pytest.approx(60e3, rel=0.01)


def test_idle_heat_is_what_the_trade_knows() -> None:
    # Common practice, no source: a warm engine idles at 2 to 8 kW of coolant heat.
    result = heat.heat_rejection(engine(heat.PETROL_NA), 0.0, 15.0, 0.0, 400.0)
    assert 2e3 < result.engine < 8e3


def test_heat_never_passes_its_share_of_the_fuel() -> None:
    power = np.linspace(0.0, 100e3, 20)
    e = engine(heat.DIESEL)
    result = heat.heat_rejection(e, power, 40.0, 0.0, 0.0)
    assert np.all(result.high <= heat.MOST_OF_FUEL * heat.fuel_power(e, power, 40.0) + 1e-6)
    assert np.all(np.diff(result.engine) > 0)


def test_gearbox_loss_stays_out_of_the_engine() -> None:
    with_box = heat.heat_rejection(engine(heat.DIESEL, gearbox_loss=0.12), 50e3, 40.0, 0.0, 0.0)
    without = heat.heat_rejection(engine(heat.DIESEL), 50e3, 40.0, 0.0, 0.0)
    assert with_box.gearbox == pytest.approx(6e3)
    assert with_box.engine == pytest.approx(without.engine)
    assert with_box.total - without.total == pytest.approx(6e3)


def motion(speed: float, gradient: float = 0.0, acceleration: float = 0.0, headwind: float = 0.0) -> Motion:
    return Motion(*map(np.asarray, (speed, gradient, acceleration, headwind)))


car = Vehicle(*map(np.asarray, (1500.0, 0.66, 0.015, 0.9)))


@pytest.mark.parametrize(
    ("movement", "watts"),
    [
        # Worked by hand from Gillespie 1992, ch. 4, air of 1.2 kg/m³:
        # rolling 220.65 N, drag 356.4 N at 30 m/s; 6 % grade 880.99 N; 1 m/s² 1500 N.
        (motion(30.0), (220.65 + 356.4) * 30 / 0.9),
        (motion(30.0, gradient=0.06), (220.65 * 0.998205 + 880.99 + 356.4) * 30 / 0.9),
        (motion(10.0, acceleration=1.0), (220.65 + 39.6 + 1500.0) * 10 / 0.9),
        (motion(20.0, headwind=10.0), (220.65 + 356.4) * 20 / 0.9),
        (motion(20.0, gradient=-0.1), 0.0),
    ],
)
def test_road_load_worked_example(movement: Motion, watts: float) -> None:
    assert brake_power(car, movement, 1.2) == pytest.approx(watts, rel=1e-4)
