"""The list of parts as a file."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping
from types import MappingProxyType

from pydantic import Field

from ebbrin.build.part import Part
from ebbrin.features.fit.jobs import PartState
from ebbrin.features.fit.parts import PartsList
from ebbrin.ground.words import printed


class Noted(Part):
    """What was noted of one line in the shop."""

    state: PartState = "to_get"
    paid: float | None = Field(default=None, ge=0, le=1e7, description="In the workshop's money.")


STATES: dict[PartState, str] = {"to_get": "to get", "here": "here", "fitted": "fitted"}
GOTTEN = ("buy", "material", "tool")
"""Kinds of lines that somebody has to get."""


def as_csv(found: PartsList, currency: str = "", noted: Mapping[str, Noted] = MappingProxyType({})) -> str:
    """The list as CSV, quantities in the document's units, with what was ``noted`` of its lines, by their ids; what a sheet
    would take for a formula is made plain text. Its last line sums the prices, and what was paid."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    money = f" [{currency}]" if currency else ""
    table.writerow(["kind", "part", "amount", "why", f"price{money}", "price from", "state", f"paid{money}"])
    spent = 0.0
    for line in found.lines:
        one = noted.get(line.id, Noted())
        spent += one.paid or 0.0
        state = STATES[one.state] if line.kind in GOTTEN else ""
        table.writerow(
            [
                *(line.kind, line.title, printed(line.amount), printed(line.why)),
                *(_money(line.price), line.source, state, _money(one.paid)),
            ]
        )
    table.writerow(["", "sum", "", "", _money(found.total), "", "", _money(spent)])
    return out.getvalue()


def _money(value: float | None) -> str:
    return "" if value is None else f"{value:.2f}"
