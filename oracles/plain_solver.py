"""The same equations as a notebook would hold them: one build, one case, one number at a time.

CoolProp for media, SciPy's Bessel functions for effectiveness (held against ht), scipy.optimize.brentq for every balance, no tables, no arrays, and
nothing taken from ebbrin's own formulas: only the numbers of a System are read. It is the oracle of the tests
(agreement within 0.02 K) and what the benchmarks are compared with. Left out: staged fans, inlet thermostats,
waterless coolant, timed cases. Its air path was written anew from the page of the computation alone, before the
product's was looked at: the one before had been written by someone who had read the product's, and made its mistake.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from math import atan, cos, exp, hypot, log, log10, pi, sin, sqrt, tanh
from typing import Any

import numpy as np
from scipy.optimize import brentq
from scipy.special import i0e

from oracles.fluids import coolprop

G = 9.80665
R_AIR, CP_AIR, PR_AIR = 287.055, 1007.0, 0.71
END = 413.15
FLUIDS = {1: ("MEG", 1113.2), 2: ("MPG", 1036.1)}


@dataclass
class Numbers:
    """A record's fields as plain numbers, nested records included."""

    def __init__(self, record: Any, case: int | None = None) -> None:
        for field in fields(record):
            value = getattr(record, field.name)
            if hasattr(value, "__dataclass_fields__"):
                setattr(self, field.name, Numbers(value, case))
            else:
                array = np.asarray(value)
                setattr(
                    self,
                    field.name,
                    array if array.ndim and case is None else array.ravel()[case or 0].item(),
                )

    def __getattr__(self, name: str) -> Any:
        raise AttributeError(name)


# Media


def coolant_properties(coolant: Any, T: float) -> tuple[float, float, float, float]:
    """Density, heat capacity, conductivity, viscosity."""
    if coolant.kind == 0:
        return tuple(coolprop(name, "T", T, "P", 2e6, "Water") for name in "DCLV")
    name = f"INCOMP::{FLUIDS[coolant.kind][0]}[{min(coolant.mass_fraction, 0.59999)}]"

    def at(T: float) -> list[float]:
        return [coolprop(letter, "T", T, "P", 1e6, name) for letter in "DCLV"]

    if T <= 373.15:
        rho, cp, k, mu = at(T)
        return rho, cp, k, mu
    a, b = at(363.15), at(373.15)
    rho, cp, k = (b[i] + (b[i] - a[i]) / 10.0 * (T - 373.15) for i in range(3))
    slope = log(b[3] / a[3]) / (1 / 373.15 - 1 / 363.15)
    return rho, cp, k, b[3] * exp(slope * (1 / T - 1 / 373.15))


def air_density(T: float, p: float) -> float:
    return p / (R_AIR * T)


def air_viscosity(T: float) -> float:
    return 1.716e-5 * (T / 273.15) ** 1.5 * (273.15 + 110.4) / (T + 110.4)


def standard_pressure(h: float) -> float:
    return 101_325.0 * (1 - 0.0065 * h / 288.15) ** 5.255876


# Engine


@dataclass
class Demand:
    """Heat in the engine, heat from the gearbox, brake power."""

    engine: float
    gearbox: float
    brake: float

    @property
    def total(self) -> float:
        return self.engine + self.gearbox


def air_conditioning(s: Any, c: Any) -> tuple[float, float]:
    """Condenser heat and compressor power: by weather and engine speed unless stated."""
    hard = min(max(0.5 + 0.5 * (c.ambient - 293.15) / 15, 0.3), 1.3) * min(
        1.0, sqrt(c.crank_speed * 60 / 1500)
    )
    if not c.air_conditioning:
        return 0.0, 0.0
    return (
        s.ahead.condenser_heat * (hard if s.ahead.condenser_follows else 1.0),
        s.ahead.compressor_power * (hard if s.ahead.compressor_follows else 1.0),
    )


def heat_demand(s: Any, c: Any, ratio: float) -> Demand:
    """What the engine sends with its fans at a speed ratio."""
    e, v, p = s.engine, s.vehicle, standard_pressure(c.altitude)
    rho = air_density(c.ambient, p)
    if c.power_is_given:
        road = c.given_power
    else:
        slope, mass = atan(c.gradient), v.mass + c.towing * v.trailer_mass
        wind = c.speed + c.headwind
        force = mass * G * (v.rolling_resistance * cos(slope) + sin(slope)) + mass * c.acceleration
        force += 0.5 * rho * (v.drag_area + c.towing * v.trailer_drag_area) * wind * abs(wind)
        road = max(force * c.speed / v.driveline_efficiency, 0.0)
    fan = s.air.fan
    electric = e.electrical_load
    shaft = air_conditioning(s, c)[1] + c.shaft_power
    if fan.fitted and fan.mechanical:
        shaft += fan.shaft_power * ratio**3 * rho / fan.reference_density
    elif fan.fitted:
        electric += fan.count * fan.electric_power * ratio**3
    if not s.circuit.pump.belt:
        electric += s.circuit.pump.electric_power
    brake = road + shaft + electric / 0.55
    full = e.rated_power * min(1.15 * c.crank_speed / e.rated_speed, 1.0)
    full *= 1.0 if e.kind in (1, 2) else rho / 1.157
    load = min(max(brake / full, 0.0), 1.0)

    def fuel(power: float, speed: float, lost: float) -> float:
        n = speed * 60 / 1000
        if e.kind in (2, 4):
            fmep = 1e3 * (75 + 48 * n + 0.4 * (2 * e.stroke * speed) ** 2)
        else:
            fmep = 1e5 * (0.97 + 0.15 * n + 0.05 * n**2)
        return (power + (fmep + lost) * e.displacement * speed / 2) / [0.37, 0.35, 0.45, 0.30, 0.40][e.kind]

    burnt = fuel(brake, c.crank_speed, 0.6e5 * (1 - load))
    rated = fuel(e.rated_power, e.rated_speed, 0.0)
    at_rated = [0.20, 0.19, 0.20, 0.25, 0.27][e.kind] * rated
    if e.school == 1:
        at_rated = e.rated_power
    elif e.school == 2:
        at_rated = [0.65, 0.55, 0.55, 0.90, 0.55][e.kind] * e.rated_power
    coolant = min(at_rated * (burnt / rated) ** 0.85, 0.45 * burnt)
    extra = (0.01 * e.cooled_turbo + e.oil_cooler) * brake + e.egr_cooler * burnt
    return Demand(e.tune_factor * coolant + extra, e.gearbox_loss * road, brake)


# Radiator


@dataclass
class Geometry:
    """Areas that follow from the core's dimensions."""

    def __init__(self, k: Any) -> None:
        gap, pitch = k.fin_pitch - k.fin_thickness, k.fin_height + k.tube_height
        self.pitch, self.gap = pitch, gap
        self.face = k.width * k.height * (1 - k.blocked_face)
        self.sigma = k.fin_height * gap / (pitch * k.fin_pitch)
        length, across = (k.width, k.height) if k.crossflow else (k.height, k.width)
        tubes = across / pitch * k.rows
        wall = k.tube_wall
        if k.plain:
            self.row = k.depth / k.rows
            fins = 2 * (pitch * self.row - pi / 4 * k.tube_height**2)
            bare = pi * k.tube_height * gap
            self.ratio = k.rows * (fins + bare) / (k.fin_height * gap)
            self.fin_share = fins / (fins + bare)
            bore = k.tube_height - 2 * wall
            area, perimeter, self.aspect = pi / 4 * bore**2, pi * bore, 1.0
        else:
            self.Dh = 2 * k.fin_height * gap / (k.fin_height + gap)
            self.ratio = 4 * k.depth / self.Dh
            self.fin_share = k.fin_height / (k.fin_height + gap)
            wide, high = (k.depth - (k.rows - 1) * 0.002) / k.rows - 2 * wall, k.tube_height - 2 * wall
            area, perimeter, self.aspect = wide * high, 2 * (wide + high), min(wide, high) / max(wide, high)
        self.air_area = self.face * self.sigma * self.ratio
        self.flow_area = tubes * (1 - k.blocked_tubes) / k.passes * area
        self.inner = tubes * perimeter * length
        self.d, self.length = 4 * area / perimeter, length


def louvred_j(k: Any, Re: float) -> float:
    Lp, Tp = k.louvre_pitch, k.fin_height + k.tube_height
    theta = k.louvre_angle * 180 / pi
    return (
        Re**-0.49 * (theta / 90) ** 0.27 * (k.fin_pitch / Lp) ** -0.14 * (k.fin_height / Lp) ** -0.29
        * (k.depth / Lp) ** -0.23 * (k.louvre_length / Lp) ** 0.68 * (Tp / Lp) ** -0.28 * (k.fin_thickness / Lp) ** -0.05
    )  # fmt: skip


def louvred_f(k: Any, g: Geometry, Re: float) -> float:
    Fp, Lp, Ll, Fl, Tp = k.fin_pitch, k.louvre_pitch, k.louvre_length, k.fin_height, g.pitch
    theta, Dm, thin = k.louvre_angle * 180 / pi, k.tube_height, k.fin_thickness / k.fin_pitch

    def slow(Re: float) -> float:
        f1 = 14.39 * Re ** (-0.805 * Fp / Fl) * log(1 + Fp / Lp) ** 3.04
        f2 = log(thin**0.48 + 0.9) ** -1.435 * (g.Dh / Lp) ** -3.01 * log(0.5 * Re) ** -3.01
        return f1 * f2 * (Fp / Ll) ** -0.308 * (k.depth / Ll) ** -0.308 * exp(-0.1167 * Tp / Dm) * theta**0.35

    def fast(Re: float) -> float:
        f1 = 4.97 * Re ** (0.6049 - 1.064 / theta**0.2) * log(thin**0.5 + 0.9) ** -0.527
        f2 = ((g.Dh / Lp) * log(0.3 * Re)) ** -2.966 * (Fp / Ll) ** (-0.7931 * Tp / Fl)
        return f1 * f2 * (Tp / Dm) ** -0.0446 * log(1.2 + (Lp / Fp) ** 1.4) ** -3.553 * theta**-0.477

    if Re < 30:
        return slow(30.0) * 30 / Re
    if Re <= 130:
        return slow(Re)
    if Re >= 230:
        return fast(Re)
    w = 3.6 - 0.02 * Re
    return sqrt(((1 + w) * slow(130.0) ** 2 + (1 - w) * fast(230.0) ** 2) / 2)


def plate_j_and_f(k: Any, g: Geometry, Re: float) -> tuple[float, float]:
    D, Pt = k.tube_height, g.pitch
    j = 0.14 * Re**-0.328 * (Pt / g.row) ** -0.502 * (g.gap / D) ** 0.0312
    if k.rows < 4:
        j *= 0.991 * (2.24 * Re**-0.092 * (k.rows / 4) ** -0.031) ** (0.607 * (4 - k.rows))
    fins = 0.508 * Re**-0.521 * (Pt / D) ** 1.318
    bank = 4 / pi * (0.25 + 0.118 / (Pt / D - 1) ** 1.08 * 1.0) * Re**-0.16 * (Pt / D - 1)
    return j, fins * g.fin_share + bank * (1 - g.fin_share) * (1 - k.fin_thickness / k.fin_pitch)


def air_film(k: Any, g: Geometry, mass_velocity: float, T: float) -> float:
    """Coefficient times surface efficiency."""
    Gc = mass_velocity / g.sigma
    Re = Gc * (k.tube_height if k.plain else k.louvre_pitch) / air_viscosity(T)
    j = plate_j_and_f(k, g, Re)[0] if k.plain else louvred_j(k, Re)
    h = k.air_film * j * Gc * CP_AIR * PR_AIR ** (-2 / 3)
    m = sqrt(2 * h / (k.conductivity * k.fin_thickness))
    L = k.fin_height / 2
    if k.plain:
        r, sides = k.tube_height / 2, (g.pitch / 2, 0.5 * hypot(g.pitch / 2, g.row))
        ratio = 1.27 * min(sides) / r * sqrt(max(sides) / min(sides) - 0.3)
        L = r * (ratio - 1) * (1 + 0.35 * log(ratio))
    return h * (1 - g.fin_share * (1 - tanh(m * L) / (m * L)))


def core_drop(k: Any, g: Geometry, mass_velocity: float, T: float, rho: float) -> float:
    Gc = mass_velocity / g.sigma
    Re = Gc * (k.tube_height if k.plain else k.louvre_pitch) / air_viscosity(T)
    f = k.air_friction * (plate_j_and_f(k, g, Re)[1] if k.plain else louvred_f(k, g, Re))
    return 0.5 * Gc**2 / rho * (f * g.ratio + 0.45 * (1 - g.sigma**2))


def darcy(Re: float, laminar: float) -> float:
    turbulent = (1.8 * log10(max(Re, 4000.0)) - 1.5) ** -2
    if Re >= 4000:
        return turbulent
    low = laminar / min(Re, 2300.0)
    return low if Re <= 2300 else low + (Re - 2300) / 1700 * (turbulent - low)


def coolant_film(k: Any, g: Geometry, volume_flow: float, fluid: tuple[float, float, float, float]) -> float:
    rho, cp, cond, mu = fluid
    Re, Pr = rho * volume_flow / g.flow_area * g.d / mu, cp * mu / cond
    a = g.aspect
    laminar = 7.541 * (1 - 2.610 * a + 4.970 * a**2 - 5.119 * a**3 + 2.702 * a**4 - 0.548 * a**5)
    laminar = 3.66 if k.plain else laminar

    def gnielinski(Re: float) -> float:
        f8 = (1.8 * log10(Re) - 1.5) ** -2 / 8
        Nu = f8 * (Re - 1000) * Pr / (1 + 12.7 * sqrt(f8) * (Pr ** (2 / 3) - 1))
        return Nu * (1 + (g.d / g.length) ** (2 / 3))

    def entering(Re: float) -> float:
        grown = 1.615 * (Re * Pr * g.d / g.length) ** (1 / 3) - 0.7
        return (laminar**3 + 0.7**3 + grown**3) ** (1 / 3)

    if Re <= 2300:
        Nu = entering(Re)
    elif Re >= 4000:
        Nu = gnielinski(Re)
    else:
        Nu = entering(2300.0) + (Re - 2300) / 1700 * (gnielinski(4000.0) - entering(2300.0))
    return k.coolant_film * Nu * cond / g.d


NODES, WEIGHTS = np.polynomial.legendre.leggauss(64)


def crossflow(NTU: float, ratio: float) -> float:
    """Effectiveness of crossflow with neither stream mixed: the exact integral that ht takes by adaptive quadrature, by
    Gauss's nodes. A test holds it against ht, ten times slower."""
    t, root = 0.5 * (NODES + 1), sqrt(ratio)
    grown = np.exp(-NTU * (t - root) ** 2) * i0e(2 * NTU * root * t) * t * (1 + NTU * (1 - t * t))
    return (1 - float(WEIGHTS @ grown)) / ratio


def heat_per_kelvin(k: Any, UA: float, C_air: float, C: float) -> float:
    def one(UA: float, C_air: float, C: float) -> float:
        least, most = min(C_air, C), max(C_air, C)
        # Beyond NTU 100 nothing is left to gain, and the nodes lie too far apart.
        return least * crossflow(min(UA / least, 100.0), least / most)

    n = int(k.passes)
    if n == 1:
        return one(UA, C_air, C)
    if k.in_depth:
        least, most = min(C_air, C), max(C_air, C)
        e, R = min(one(UA / n, C_air, C) / least, 1 - 1e-9), least / most
        power = ((1 - e * R) / (1 - e)) ** n
        return least * (power - 1) / (power - R)
    hot, heat = 1.0, 0.0  # one kelvin between the inlets, chained from pass to pass
    for _ in range(n):
        passed = one(UA / n, C_air / n, C) * hot
        heat, hot = heat + passed, hot - passed / C
    return heat


# Air path


@dataclass
class Fans:
    """What the fans are in one case: speed over reference speed, None for a clutch that follows its air."""

    ratio: float | None
    turning: bool


def fan_speed(s: Any, case: Any, on: bool) -> Fans:
    """Electric: by voltage. Belt: by pulley; with a clutch by the air behind the core (ratio None)."""
    fan = s.air.fan
    if not fan.fitted:
        return Fans(0.0, False)
    if not fan.mechanical:
        return Fans(fan.voltage_ratio if on else 0.0, on)
    full = case.crank_speed * fan.pulley_ratio / fan.reference_speed
    if fan.engaged == fan.disengaged:
        return Fans(full * fan.engaged, True)
    return Fans(None, True)


def clutch_ratio(s: Any, case: Any, behind: float) -> float:
    """Viscous clutch: engagement 0 at 60, 1 at 85 °C of the air behind the core; slips above 2800 rpm."""
    fan = s.air.fan
    engagement = min(max((behind - 333.15) / 25.0, 0.0), 1.0)
    speed = (
        case.crank_speed * fan.pulley_ratio * (fan.disengaged + (fan.engaged - fan.disengaged) * engagement)
    )
    return min(speed, 2800 / 60) / fan.reference_speed


def fan_rise(s: Any, ratio: float, turning: bool, flow: float, rho: float) -> float:
    """Pressure rise [Pa] at ``flow`` [m³/s] through all fans together."""
    fan, air = s.air.fan, s.air
    if not fan.fitted:
        return 0.0
    each = flow / fan.count
    stopped = -1.5 * 0.5 * rho * (each / (pi / 4 * fan.diameter**2)) ** 2
    if not turning or ratio <= 0.0:
        return 0.0 if air.shroud == 0 or air.flaps else stopped
    steps = np.linspace(0.0, fan.free_flow, len(fan.pressure))
    at = each / ratio
    if at <= fan.free_flow:
        rise = float(np.interp(at, steps, fan.pressure))
    else:
        slope = (fan.pressure[-1] - fan.pressure[-2]) / (steps[-1] - steps[-2])
        rise = fan.pressure[-1] + slope * (at - fan.free_flow)
    rise = max(rise * ratio**2 * rho / fan.reference_density, stopped)
    # What does not tie the fan to the core, or opens, lets the air past one that would resist.
    return max(rise, 0.0) if air.shroud == 0 or air.flaps else rise


@dataclass
class Zone:
    """A part of the face: its share, what covers it, and what was found for it."""

    share: float
    fan: bool
    condenser: bool
    charge: bool
    mass_flow: float = 0.0
    heat: float = 0.0
    fresh: float = 0.0
    out: float = 0.0


def zones(s: Any) -> list[Zone]:
    """The face cut by what covers it, all nested about the middle."""
    air, core = s.air, s.core
    fan = 0.0
    if air.fan.fitted:
        discs = air.fan.count * pi / 4 * air.fan.diameter**2 / (core.width * core.height)
        fan = min(float(air.shroud_cover if air.shroud == 2 else discs), 1.0)
    condenser = float(air.condenser_cover) if air.condenser_loss > 0 or s.ahead.condenser_heat > 0 else 0.0
    charge = float(air.charge_cover) if air.charge_loss > 0 or s.ahead.charge_cooler > 0 else 0.0
    edges = sorted({fan, condenser, charge, 1.0} - {0.0})
    found, start = [], 0.0
    for edge in edges:
        if edge - start > 1e-12:
            found.append(Zone(edge - start, edge <= fan, edge <= condenser, edge <= charge))
        start = edge
    return found


@dataclass
class Air:
    """All zones settled, the fan's plenum among them, for one top hose."""

    zones: list[Zone]
    ratio: float


def air_through(
    s: Any, case: Any, fans: Fans, top: float, film: float, mass_flow: float, cp: float, ahead: Any
) -> Air:
    """Every zone's flow, with the heat that this zone itself sheds at that flow.

    Written from the page of the computation alone, before the product's air path was looked at. Each zone:
    ram + fan + buoyancy = (front + exit) heads at ambient density + exchangers ahead + core; heat by
    effectiveness at its own flow; one plenum pressure for all zones under a fan, whose flow is their sum.
    """
    k, g, air = s.core, Geometry(s.core), s.air
    pressure, T0 = standard_pressure(case.altitude), case.ambient
    rho0 = air_density(T0, pressure)
    V = max(case.speed + case.headwind, 0.0)
    ram = air.ram * 0.5 * rho0 * V**2
    r = air.recirculation_at_rest * max(1 - case.speed / (20 / 3.6), 0.0)
    again = r / (1 - r)
    open_tubes = 1 - k.blocked_tubes
    parts = zones(s)
    under = [z for z in parts if z.fan]

    def thermal(z: Zone, m: float, ahead_heat: float) -> None:
        """Heat and temperatures of one zone at a mass flow."""
        C, G = m * CP_AIR, m / (g.face * z.share)
        T_in = min(T0 + ahead_heat / C * (1 + again), 473.15)
        mean = 0.5 * (T_in + top)
        for _ in range(60):  # properties at the mean of in and out
            outer = air_film(k, g, G, mean) * g.air_area * z.share * open_tubes
            inner = g.inner * open_tubes * z.share
            UA = k.UA_factor / (1 / outer + (1 / film + k.scale / 1.5 + k.tube_wall / 160) / inner)
            rate = heat_per_kelvin(k, UA, C * open_tubes, mass_flow * cp * z.share)
            z.heat = rate * (top - T_in) / (1 + rate * again / C)
            z.fresh = T_in + again * z.heat / C
            z.out = z.fresh + z.heat / C
            if abs(0.5 * (z.fresh + z.out) - mean) < 1e-4:
                break
            mean = 0.5 * (z.fresh + z.out)
        z.mass_flow = m

    def spare(z: Zone, m: float, plenum: float, ahead_heat: float) -> float:
        thermal(z, m, ahead_heat)
        G, mean = m / (g.face * z.share), 0.5 * (z.fresh + z.out)
        heads = air.front_loss + air.exit_loss
        heads += air.condenser_loss * z.condenser + air.charge_loss * z.charge
        buoyancy = (rho0 - air_density(z.out, pressure)) * 9.80665 * k.height
        lost = heads * 0.5 * G**2 / rho0 + core_drop(k, g, G, mean, air_density(mean, pressure))
        return ram + plenum + buoyancy - lost

    def flow(z: Zone, plenum: float, warmed: Any) -> float:
        """Mass flow of a zone against a plenum pressure; next to none where it would run backwards."""
        least, most = 1e-7 * g.face * z.share, 60.0 * g.face * z.share

        def left(log_m: float) -> float:
            return spare(z, exp(log_m), plenum, warmed(z, exp(log_m)))

        if left(log(least)) <= 0:
            return least
        return exp(brentq(left, log(least), log(most), xtol=1e-7))

    # What exchangers ahead give off warms all the air that passes them alike, so it goes by mass flow.
    sums = {"condenser": 1e-9, "charge": 1e-9}

    def warmed(z: Zone, m: float) -> float:
        return m * (
            z.condenser * ahead.condenser / sums["condenser"] + z.charge * ahead.charge / sums["charge"]
        )

    ratio = fans.ratio or 0.0
    for _ in range(200):

        def plenum_left(plenum: float) -> float:
            nonlocal ratio
            total = sum(flow(z, plenum, warmed) for z in under)
            hot = sum(z.mass_flow * z.out for z in under) / total
            if fans.ratio is None:
                ratio = clutch_ratio(s, case, hot)
            met = hot if air.fan.puller else sum(z.mass_flow * z.fresh for z in under) / total
            rho = air_density(met, pressure)
            through = total / rho / (1 - (air.blade_recirculation if fans.turning else 0.0))
            return fan_rise(s, ratio, fans.turning, through, rho) - plenum

        for z in parts:
            if not z.fan:
                flow(z, 0.0, warmed)
        if under:
            brentq(plenum_left, -2e4, 5e3, xtol=1e-7)
        now = {
            "condenser": max(sum(z.mass_flow for z in parts if z.condenser), 1e-9),
            "charge": max(sum(z.mass_flow for z in parts if z.charge), 1e-9),
        }
        moved = max(abs(now[n] / sums[n] - 1) for n in now)
        sums = now
        if moved < 1e-6 or (ahead.condenser == 0 and ahead.charge == 0):
            break
    return Air(parts, ratio)


def coolant_through(s: Any, case: Any, top: float, heat: float) -> tuple[float, float, float]:
    """Mass flow through radiator, bypass, heater; without a pump by the buoyancy that ``heat`` makes."""
    c, g = s.circuit, Geometry(s.core)
    fluid = coolant_properties(s.coolant, top)
    rho, _, _, mu = fluid
    lift = min(max((top - c.thermostat.opens) / c.thermostat.span, 0.0), 1.0)
    opening = c.thermostat.leak + (1 - c.thermostat.leak) * lift
    pump = c.pump
    ratio = (case.crank_speed * pump.belt_ratio if pump.belt else pump.electric_speed) / pump.reference_speed
    a = g.aspect
    fRe = 96 * (1 - 1.3553 * a + 1.9467 * a**2 - 1.7012 * a**3 + 0.9564 * a**4 - 0.2537 * a**5)
    fRe = 64.0 if s.core.plain else fRe

    def drop(Q: float) -> float:
        v = Q / g.flow_area
        tubes = (darcy(rho * v * g.d / mu, fRe) * g.length / g.d + 1.5) * s.core.passes * 0.5 * rho * v**2
        v = Q / (pi / 4 * c.hose_bore**2)
        hoses = darcy(rho * v * c.hose_bore / mu, 64.0) * (c.hose_length / c.hose_bore + 20 * c.hose_bends)
        return tubes + hoses * 0.5 * rho * v**2 + c.thermostat_resistance * rho / 1000 * (Q / opening) ** 2

    def branches(dp: float) -> tuple[float, float]:
        gate = 1.0
        if c.bypass.kind == 2:
            gate = 1 - 0.98 * lift
        elif c.bypass.kind == 1:
            gate = 0.003 + 0.997 * min(max(dp / c.bypass.cracking - 1, 0.0), 1.0)
        root = sqrt(dp / (rho / 1000))
        return gate * c.bypass.conductance * root, c.heater.conductance * root

    def spare(Q: float) -> float:
        dp = drop(Q)
        total = Q + sum(branches(dp))
        if pump.siphon > 0:
            cold = max(top - heat / (Q * rho * fluid[1]), case.ambient)
            lift_by = (coolant_properties(s.coolant, cold)[0] - rho) * G * pump.siphon
            return lift_by - c.jacket_resistance * rho / 1000 * total**2 - dp
        given = pump.shut_off * rho / 1000 * (ratio**2 - (total / pump.run_out) ** 2)
        return given - c.jacket_resistance * rho / 1000 * total**2 - dp

    Q = brentq(spare, 1e-12, pump.run_out * ratio, xtol=1e-15)
    bypass, heater = branches(drop(Q))
    return Q * rho, bypass * rho, heater * rho


# System


@dataclass
class Ahead:
    """Heat given to the air ahead of the core."""

    condenser: float
    charge: float


def heat_shed(s: Any, case: Any, fans: Fans, top: float) -> tuple[float, float]:
    """Heat shed at a top hose, and heat asked for with the fan as fast as it turns then."""
    k, g = s.core, Geometry(s.core)
    # A clutch is taken as engaged for the charge-air cooler and for where the coolant's mean lies.
    most = fans.ratio
    if most is None:
        most = case.crank_speed * s.air.fan.pulley_ratio * s.air.fan.engaged / s.air.fan.reference_speed
    asked = heat_demand(s, case, most)
    mass_flow, _, through_heater = coolant_through(s, case, top, asked.total)
    mean = max(top - 0.5 * asked.total / (mass_flow * 3700), 0.5 * (top + case.ambient))
    fluid = coolant_properties(s.coolant, mean)
    film = coolant_film(k, g, mass_flow / fluid[0], fluid)
    ahead = Ahead(air_conditioning(s, case)[0], s.ahead.charge_cooler * asked.brake)
    air = air_through(s, case, fans, top, film, mass_flow, fluid[1], ahead)
    total = sum(zone.heat for zone in air.zones)
    if case.heater:
        total += s.circuit.heater.effectiveness * min(through_heater * fluid[1], 100.0) * (top - case.ambient)
    return total, heat_demand(s, case, air.ratio).total


def settle(system: Any, cases: Any, i: int, fan_on: bool) -> float | None:
    """Top hose [K] at which case ``i`` of a System settles with the fan on or off; None without one."""
    s, case = Numbers(system), Numbers(cases, i)
    fans = fan_speed(s, case, fan_on)

    def excess(top: float) -> float:
        shed, asked = heat_shed(s, case, fans, top)
        return shed - asked

    if excess(END) < 0:
        return None
    return float(brentq(excess, case.ambient + 1e-3, END, xtol=1e-3))


def steady_top_hose(system: Any, cases: Any, i: int) -> tuple[float, float] | None:
    """Coldest and hottest top hose with the fan switch at work [K]: the same unless the fan cycles."""
    fan, switch = system.air.fan, system.fan_switch
    on_point, off_point = float(switch.on), float(switch.off)
    driven = bool(fan.fitted) and bool(fan.mechanical)
    forced = bool(fan.fitted) and bool(cases.air_conditioning[i])
    if driven or forced:
        on = settle(system, cases, i, fan_on=True)
        return None if on is None else (on, on)
    off = settle(system, cases, i, fan_on=False)
    if not fan.fitted or (off is not None and off < on_point):
        return None if off is None else (off, off)
    on = settle(system, cases, i, fan_on=True)
    if on is None or on >= off_point:
        return None if on is None else (on, on)
    return off_point, on_point
