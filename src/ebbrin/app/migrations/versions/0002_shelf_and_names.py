"""Names of revisions, and the workshop's own shelf."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    """Add the column and the table."""
    op.add_column("revisions", sa.Column("name", sa.String(120)))
    op.create_table(
        "shelf_parts",
        sa.Column("id", sa.String(64), nullable=False),
        sa.Column("version", sa.Integer, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("removed", sa.Boolean, server_default=sa.false(), nullable=False),
        sa.Column("document", postgresql.JSONB, nullable=False),
        sa.PrimaryKeyConstraint("id", "version", name="shelf_parts_pkey"),
        sa.CheckConstraint("version >= 1", name="shelf_parts_version_positive"),
    )
