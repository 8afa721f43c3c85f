"""The same equations as a notebook would hold them: one build, one case, one number at a time.

CoolProp for media, ht for effectiveness, scipy.optimize.brentq for every balance, no tables, no arrays, and
nothing taken from ebbrin's own formulas: only the numbers of a System are read. It is the oracle of the tests
(agreement within 0.5 %) and what the benchmarks are compared with. Left out: staged fans, clutches at part
speed, inlet thermostats, waterless coolant.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from math import atan, copysign, cos, exp, hypot, log, log10, pi, sin, sqrt, tanh
from typing import Any

import ht
import numpy as np
from CoolProp.CoolProp import PropsSI
from scipy.optimize import brentq

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
        return tuple(PropsSI(name, "T", T, "P", 2e6, "Water") for name in "DCLV")  # type: ignore[return-value]
    name = f"INCOMP::{FLUIDS[coolant.kind][0]}[{min(coolant.mass_fraction, 0.59999)}]"

    def at(T: float) -> list[float]:
        return [PropsSI(letter, "T", T, "P", 1e6, name) for letter in "DCLV"]

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


def heat_demand(s: Any, c: Any, fan_on: bool) -> tuple[float, float, float]:
    """Heat in the engine, heat from the gearbox, brake power."""
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
    shaft = (s.ahead.compressor_power if c.air_conditioning else 0.0) + c.shaft_power
    if fan.fitted and fan.mechanical:
        ratio = (
            c.crank_speed
            * fan.pulley_ratio
            * (fan.engaged if fan_on else fan.disengaged)
            / fan.reference_speed
        )
        shaft += fan.shaft_power * ratio**3 * rho / fan.reference_density
    elif fan.fitted and fan_on:
        electric += fan.count * fan.electric_power * fan.voltage_ratio**3
    if not s.circuit.pump.belt:
        electric += s.circuit.pump.electric_power
    brake = road + shaft + electric / 0.55

    def fuel(power: float, speed: float) -> float:
        n = speed * 60 / 1000
        if e.kind == 2:
            fmep = 1e3 * (75 + 48 * n + 0.4 * (2 * e.stroke * speed) ** 2)
        else:
            fmep = 1e5 * (0.97 + 0.15 * n + 0.05 * n**2)
        return (power + fmep * e.displacement * speed / 2) / [0.37, 0.35, 0.45, 0.30][e.kind]

    burnt, rated = fuel(brake, c.crank_speed), fuel(e.rated_power, e.rated_speed)
    share = [0.20, 0.19, 0.18, 0.25][e.kind]
    coolant = min(share * rated * (burnt / rated) ** 0.85, 0.45 * burnt)
    if e.school == 1:
        coolant = brake
    elif e.school == 2:
        coolant = [0.65, 0.55, 0.55, 0.90][e.kind] * brake
    extra = (0.01 * e.cooled_turbo + e.oil_cooler) * brake + e.egr_cooler * burnt
    return e.tune_factor * coolant + extra, e.gearbox_loss * road, brake


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
        r, across = k.tube_height / 2, g.pitch / 2
        ratio = 1.27 * across / r * sqrt(0.5 * hypot(across, g.row) / across - 0.3)
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

    if Re <= 2300:
        Nu = laminar
    elif Re >= 4000:
        Nu = gnielinski(Re)
    else:
        Nu = laminar + (Re - 2300) / 1700 * (gnielinski(4000.0) - laminar)
    return k.coolant_film * Nu * cond / g.d


def heat_per_kelvin(k: Any, UA: float, C_air: float, C: float) -> float:
    def one(UA: float, C_air: float, C: float) -> float:
        least, most = min(C_air, C), max(C_air, C)
        return least * ht.effectiveness_from_NTU(UA / least, least / most, subtype="crossflow")

    n = int(k.passes)
    if n == 1:
        return one(UA, C_air, C)
    if k.in_depth:
        least, most = min(C_air, C), max(C_air, C)
        e, R = one(UA / n, C_air, C) / least, least / most
        power = ((1 - e * R) / (1 - e)) ** n
        return least * (power - 1) / (power - R)
    hot, heat = 1.0, 0.0  # one kelvin between the inlets, chained from pass to pass
    for _ in range(n):
        passed = one(UA / n, C_air / n, C) * hot
        heat, hot = heat + passed, hot - passed / C
    return heat


# Air path


def fan_rise(s: Any, case: Any, on: bool, flow: float, blades: float) -> float:
    fan = s.air.fan
    if fan.mechanical:
        ratio = (
            case.crank_speed
            * fan.pulley_ratio
            * (fan.engaged if on else fan.disengaged)
            / fan.reference_speed
        )
    else:
        ratio = fan.voltage_ratio if on else 0.0
    each = flow / fan.count / (1 - (s.air.blade_recirculation if ratio > 0 else 0.0))
    stopped = -1.5 * 0.5 * blades * (each / (pi / 4 * fan.diameter**2)) ** 2
    if ratio == 0:
        return max(stopped, 0.0) if s.air.flaps and s.air.shroud else stopped
    table = np.linspace(0, fan.free_flow, len(fan.pressure))
    at = each / ratio
    if at <= fan.free_flow:
        rise = float(np.interp(at, table, fan.pressure))
    else:
        rise = fan.pressure[-1] + (fan.pressure[-1] - fan.pressure[-2]) / (table[-1] - table[-2]) * (
            at - table[-1]
        )
    rise = max(rise * ratio**2 * blades / fan.reference_density, stopped)
    return max(rise, 0.0) if s.air.flaps and s.air.shroud else rise


def zones(s: Any, g: Geometry) -> list[tuple[float, bool]]:
    fan = s.air.fan
    if not fan.fitted:
        return [(g.face, False)]
    if s.air.shroud == 2:
        return [(g.face, True)]
    disc = min(fan.count * pi / 4 * fan.diameter**2 * (1 - s.core.blocked_face), g.face)
    return [(disc, True), (g.face - disc, False)] if disc < g.face else [(disc, True)]


@dataclass
class Zone:
    share: float
    mass_flow: float
    velocity: float
    fresh: float
    round_again: float
    mean: float


def air_through(s: Any, case: Any, on: bool, heat: float, brake: float) -> list[Zone]:
    """Each zone's air when the core gives off ``heat``."""
    k, a, g = s.core, s.air, Geometry(s.core)
    p = standard_pressure(case.altitude)
    rho = air_density(case.ambient, p)
    wind = case.speed + case.headwind
    ram = max(a.ram * 0.5 * rho * copysign(wind**2, wind), 0.0)
    r = a.recirculation_at_rest * max(1 - case.speed / (20 / 3.6), 0.0)
    ahead = (s.ahead.condenser_heat if case.air_conditioning else 0.0) + s.ahead.charge_cooler * brake
    found = []
    for area, fanned in zones(s, g):
        share = area / g.face

        def temperatures(v: float, area: float = area, share: float = share) -> tuple[float, float, float]:
            C = max(v * rho * area, 1e-9) * CP_AIR
            rise, before = heat * share / C, ahead * share / C
            inlet = min(case.ambient + before + r / (1 - r) * (rise + before), 473.15)
            return inlet, min(inlet + rise, 473.15), min(case.ambient + before / (1 - r), 473.15)

        def spare(v: float, area: float = area, fanned: bool = fanned) -> float:
            inlet, outlet, _ = temperatures(v)
            mean, hot = 0.5 * (inlet + outlet), air_density(outlet, p)
            loss = core_drop(k, g, v * rho, mean, air_density(mean, p))
            loss += (
                0.5 * (a.front_loss + a.exchanger_loss) * rho * v**2
                + 0.5 * a.exit_loss * (rho * v) ** 2 / hot
            )
            drive = ram + (rho - hot) * G * k.height
            if fanned:
                blades = hot if a.fan.puller else air_density(inlet, p)
                drive += fan_rise(s, case, on, v * rho * area / blades, blades)
            return drive - loss

        v = brentq(spare, 1e-6, 80.0, xtol=1e-10)
        inlet, outlet, fresh = temperatures(v)
        found.append(Zone(share, v * rho * area, v, fresh, r / (1 - r), 0.5 * (inlet + outlet)))
    return found


# Coolant circuit


def coolant_through(s: Any, case: Any, top: float) -> tuple[float, float, float]:
    """Mass flow through radiator, bypass, heater."""
    c, g = s.circuit, Geometry(s.core)
    fluid = coolant_properties(s.coolant, top)
    rho, _, _, mu = fluid
    lift = min(max((top - c.thermostat.opens) / c.thermostat.span, 0.0), 1.0)
    opening = 0.01 + 0.99 * lift
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
        given = pump.shut_off * rho / 1000 * (ratio**2 - (total / pump.run_out) ** 2)
        return given - c.jacket_resistance * rho / 1000 * total**2 - dp

    Q = brentq(spare, 1e-12, pump.run_out * ratio, xtol=1e-15)
    bypass, heater = branches(drop(Q))
    return Q * rho, bypass * rho, heater * rho


# System


def heat_shed(s: Any, case: Any, top: float, heat: float, air: list[Zone]) -> float:
    k, g = s.core, Geometry(s.core)
    mass_flow, _, through_heater = coolant_through(s, case, top)
    mean = max(top - 0.5 * heat / (mass_flow * 3700), 0.5 * (top + case.ambient))
    fluid = coolant_properties(s.coolant, mean)
    film, open_tubes, total = coolant_film(k, g, mass_flow / fluid[0], fluid), 1 - k.blocked_tubes, 0.0
    for zone in air:
        outer = (
            air_film(k, g, zone.mass_flow / (g.face * zone.share), zone.mean)
            * g.air_area
            * zone.share
            * open_tubes
        )
        inner = g.inner * open_tubes * zone.share
        UA = k.UA_factor / (1 / outer + (1 / film + k.scale / 1.5 + k.tube_wall / 160) / inner)
        C = zone.mass_flow * CP_AIR
        rate = heat_per_kelvin(k, UA, C * open_tubes, mass_flow * fluid[1] * zone.share)
        total += rate * (top - zone.fresh) / (1 + rate * zone.round_again / C)
    if case.heater:
        total += s.circuit.heater.effectiveness * min(through_heater * fluid[1], 100.0) * (top - case.ambient)
    return total


def settle(system: Any, cases: Any, i: int, fan_on: bool) -> float | None:
    """Top hose [K] at which case ``i`` of a System settles with the fan on or off; None without one."""
    s, case = Numbers(system), Numbers(cases, i)
    engine, gearbox, brake = heat_demand(s, case, fan_on)
    heat = engine + gearbox
    air = air_through(s, case, fan_on, heat, brake)

    def excess(top: float) -> float:
        return heat_shed(s, case, top, heat, air) - heat

    if excess(END) < 0:
        return None
    return float(brentq(excess, case.ambient + 1e-6, END, xtol=1e-6))


def steady_top_hose(system: Any, cases: Any, i: int) -> float | None:
    """Top hose with the fan switch at work [K]."""
    fan, switch = system.air.fan, system.fan_switch
    middle = 0.5 * float(switch.on + switch.off)
    off = settle(system, cases, i, fan_on=False)
    if not fan.fitted or (off is not None and off <= middle and not cases.air_conditioning[i]):
        return off
    on = settle(system, cases, i, fan_on=True)
    forced = bool(cases.air_conditioning[i])
    return middle if on is not None and on < middle and not forced else on
