"""Jobs at the car, what was done in them, and photos."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, UUID

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    """Add three tables."""
    op.create_table(
        "jobs",
        sa.Column("id", UUID(as_uuid=True), primary_key=True),
        sa.Column(
            "build_id", UUID(as_uuid=True), sa.ForeignKey("builds.id", ondelete="CASCADE"), nullable=True
        ),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_index("ix_jobs_build_id", "jobs", ["build_id"])
    op.create_table(
        "job_entries",
        sa.Column("id", UUID(as_uuid=True), primary_key=True),
        sa.Column("job_id", UUID(as_uuid=True), sa.ForeignKey("jobs.id", ondelete="CASCADE"), nullable=False),
        sa.Column("number", sa.BigInteger, sa.Identity(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("what", JSONB, nullable=False),
    )
    op.create_index("ix_job_entries_job_id", "job_entries", ["job_id"])
    op.create_table(
        "photos",
        sa.Column("id", UUID(as_uuid=True), primary_key=True),
        sa.Column(
            "build_id", UUID(as_uuid=True), sa.ForeignKey("builds.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("picture", sa.LargeBinary, nullable=False),
    )
    op.create_index("ix_photos_build_id", "photos", ["build_id"])
