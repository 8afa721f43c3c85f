"""Every field of a build that a person may write, by its path within a variant or a case, and builds in which each matters."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from ebbrin.build.build import Build, Variant
from ebbrin.build.case import Case
from ebbrin.build.resolve import bounds, extra
from oracles.builds import edited, part, plain_build


def fields_of(model: type[BaseModel], path: str = "") -> list[tuple[str, Any]]:
    found = []
    for name, info in model.model_fields.items():
        inner = info.annotation
        if isinstance(inner, type) and issubclass(inner, BaseModel):
            found += fields_of(inner, f"{path}/{name}")
        else:
            found.append((f"{path}/{name}", info))
    return found


DESCRIBED = [(p, i) for model in (Variant, Case) for p, i in fields_of(model) if p not in ("/id", "/name")]
NUMBERS = [(p, i) for p, i in DESCRIBED if extra(i)["quantity"] not in ("choice", "switch", "curve", "shelf")]


def nudged(info: Any, value: float) -> float:
    """A little more than a value, or less where it may not be more."""
    low, high = bounds(info)
    step = max(0.05 * abs(value), 0.02 * min(high - low, 1.0 + abs(value)))
    if extra(info)["quantity"] == "count":
        step = 1.0
    return value + step if value + step <= high else value - step


def relevant_to(path: str) -> Build:
    """A build in which the field at ``path`` matters."""
    build = plain_build(load="road", speed_km_h=70, gradient_share=0.04, headwind_km_h=5)
    name = path.rsplit("/", 1)[-1]
    if name in ("duration_s", "start_c", "metal_heat_kj_per_k"):
        build = edited(build, cases__0__kind="timed", cases__0__start_c=60)
    if name == "brake_power_kw":
        build = edited(build, cases__0__load="power", cases__0__brake_power_kw=30)
    if name == "stroke_mm":
        build = part(build, engine__kind="diesel")
    if name.startswith("trailer_"):
        build = edited(build, cases__0__tows=True)
    if name in ("rolling_radius_mm", "overall_ratio"):
        build = edited(build, cases__0__engine_speed_by="gearing", cases__0__overall_ratio=8)
    if name.startswith("measured_"):
        by = "fuel" if name == "measured_fuel_kg_per_h" else "coolant"
        measured = {"power_kw": 30, "rpm": 2500, "flow_l_per_min": 60, "rise_k": 7, "fuel_kg_per_h": 9}
        build = part(build, engine__heat_school="measured", engine__measured_by=by)
        build = part(build, **{f"engine__measured_{key}": value for key, value in measured.items()})
    if name == "oil_cooler_share":
        build = part(build, engine__oil_cooler=True)
    if name == "egr_cooler_share":
        build = part(build, engine__kind="diesel", engine__egr_cooler=True)
    if name == "residual_water_share":
        build = part(build, coolant__kind="waterless")
    if name.startswith("test_") and name != "test_voltage_v":
        tested = {"test_point": True, "test_heat_kw": 40, "test_air_m_per_s": 6, "test_coolant_l_per_min": 60}
        build = part(build, **{f"radiator__{key}": value for key, value in tested.items()})
    if name == "siphon_height_mm":
        build = part(build, circuit__pump_drive="none")
    if name.endswith("_cover_share"):
        build = part(
            build, air__fan__diameter_mm=500, air__condenser=True, air__condenser_loss_coefficient=20
        )
    if name.startswith("charge_cooler_"):
        build = part(build, air__charge_cooler=True)
    if name in ("slow_speed_share", "full_on_c", "full_off_c"):
        build = edited(
            part(
                build,
                air__fan__staging="slow",
                air__fan__slow_speed_share=0.35,
                fan_switch__on_c=93,
                fan_switch__off_c=90,
                fan_switch__full_on_c=106,
                fan_switch__full_off_c=98,
            ),
            cases__0__load="power",
            cases__0__brake_power_kw=14,
            cases__0__speed_km_h=0,
            cases__0__engine_rpm=900,
        )
    if name in ("voltage_v", "test_voltage_v"):
        build = part(build, air__fan__voltage_v=12.5)
    if name == "bypass_cracks_kpa":
        build = part(build, circuit__bypass="spring", circuit__bypass_cracks_kpa=30)
    if name == "heater_effectiveness":
        build = edited(build, cases__0__heater=True)
    if name == "gearbox_efficiency":
        build = part(build, engine__gearbox_cooler=True)
    if name in ("condenser_heat_kw", "compressor_kw", "condenser_loss_coefficient"):
        build = edited(part(build, air__condenser=True), cases__0__air_conditioning=True)
    if name in ("electric_rpm", "electric_pump_w"):
        build = part(build, circuit__pump_drive="electric")
    if name in ("curve_rpm", "pulley_ratio", "engaged_share", "disengaged_share", "shaft_power_kw"):
        build = part(build, air__fan__kind="mechanical")
    if name in ("front_recirculation_share", "diameter_mm", "blade_recirculation_share"):
        build = edited(part(build, air__shroud="none"), cases__0__speed_km_h=0)
    if name in ("on_c", "off_c"):
        build = edited(
            part(build, fan_switch__on_c=100, fan_switch__off_c=92),
            cases__0__speed_km_h=0,
            cases__0__gradient_share=0,
        )
    if name == "disengaged_share":
        build = edited(build, cases__0__speed_km_h=0, cases__0__gradient_share=0)
    if name == "top_hose_c":
        build = part(build, limits__top_hose_c=100)
    if name == "boiling_margin_k":
        build = part(build, limits__boiling_margin_k=30)
    if name == "weakest_part_kpa":
        build = part(build, cap__pressure_kpa=138, cap__weakest_part_kpa=120)
    if name.startswith("space_"):
        build = part(build, **{f"vehicle__{name}": 38.0 if "depth" in name else 370.0})
    if name == "glycol_vol_share":
        build = part(build, coolant__glycol_vol_share=0.4)
    return build
