"""Sizings as runs, and the tables of the job queue."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    """Add the table, and the queue's own schema as the library has it."""
    op.create_table(
        "runs",
        sa.Column("id", postgresql.UUID(as_uuid=True), primary_key=True),
        sa.Column(
            "build_id",
            postgresql.UUID(as_uuid=True),
            sa.ForeignKey("builds.id", ondelete="CASCADE"),
            nullable=False,
            index=True,
        ),
        sa.Column("state", sa.String(16), nullable=False),
        sa.Column("progress", sa.Float, server_default="0", nullable=False),
        sa.Column("attempt", sa.Integer, server_default="0", nullable=False),
        sa.Column("message", sa.String(500)),
        sa.Column("question", postgresql.JSONB, nullable=False),
        sa.Column("result", postgresql.JSONB),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("finished_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint(
            "state IN ('waiting', 'running', 'done', 'failed', 'cancelled')", name="runs_state_known"
        ),
    )
    # Through the driver: the library's script holds several statements and percent signs.
    cursor = op.get_bind().connection.cursor()
    cursor.execute(SchemaManager.get_schema())
    cursor.close()
