"""The shelf: generic parts that ship, the workshop's own, and the files that carry them."""

from ebbrin.features.shelf.file import Form, read
from ebbrin.features.shelf.generic import shipped
from ebbrin.features.shelf.parts import (
    SLOTS,
    ShelfKind,
    ShelfPart,
    is_still,
    nearest_price,
    of_kind,
    price_near,
    price_of,
)
from ebbrin.features.shelf.prices import PRICES, ROUGH, core_estimate, fill_price
from ebbrin.features.shelf.service import ShelfService

__all__ = [
    "PRICES",
    "ROUGH",
    "SLOTS",
    "Form",
    "ShelfKind",
    "ShelfPart",
    "ShelfService",
    "core_estimate",
    "fill_price",
    "is_still",
    "nearest_price",
    "of_kind",
    "price_near",
    "price_of",
    "read",
    "shipped",
]
