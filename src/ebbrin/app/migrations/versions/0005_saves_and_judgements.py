"""Ids of saves, kept judgements, and one sizing of a build at a time."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    """Add a column, a table and an index."""
    op.add_column("revisions", sa.Column("save_id", postgresql.UUID(as_uuid=True), nullable=True))
    op.create_unique_constraint("revisions_save_id_key", "revisions", ["save_id"])
    op.create_table(
        "judgements",
        sa.Column(
            "build_id",
            postgresql.UUID(as_uuid=True),
            sa.ForeignKey("builds.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("mark", sa.String(20), nullable=False),
        sa.Column("version", sa.String(64), nullable=False),
        sa.Column("line", postgresql.JSONB, nullable=False),
    )
    # Of several that are open for a build the newest stays.
    op.execute(
        "UPDATE runs SET state = 'cancelled', finished_at = now() WHERE state IN ('waiting', 'running') "
        "AND id NOT IN (SELECT DISTINCT ON (build_id) id FROM runs WHERE state IN ('waiting', 'running') "
        "ORDER BY build_id, created_at DESC)"
    )
    op.create_index(
        "runs_one_open",
        "runs",
        ["build_id"],
        unique=True,
        postgresql_where=sa.text("state IN ('waiting', 'running')"),
    )
