"""Text in the cells of a table that people open in a spreadsheet.

A cell that begins with =, +, -, @, a tab or a line's end can be taken for a formula there (OWASP, CSV injection, from
memory). It goes out with an apostrophe before it, and comes back without.
"""

from __future__ import annotations

RISKY = ("=", "+", "-", "@", "\t", "\r", "\n")
MARK = "'"


def harmless(text: str) -> str:
    """A text as a cell that no spreadsheet takes for a formula; ``plain`` gives it back."""
    bare = text.lstrip(MARK)
    return MARK + text if bare.startswith(RISKY) else text


def plain(cell: str) -> str:
    """What ``harmless`` was given."""
    return cell[1:] if cell.startswith(MARK) and cell.lstrip(MARK).startswith(RISKY) else cell
