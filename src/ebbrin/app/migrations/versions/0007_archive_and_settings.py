"""Builds that are put away, and what a workshop has set for all of them."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    """Add a column and a table."""
    op.add_column("builds", sa.Column("archived_at", sa.DateTime(timezone=True), nullable=True))
    op.create_table(
        "settings",
        sa.Column("name", sa.String(40), primary_key=True),
        sa.Column("value", sa.String(200), nullable=False),
    )
