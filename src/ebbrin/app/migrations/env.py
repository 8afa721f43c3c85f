"""How Alembic reaches the database; the address comes from app/schema.py."""

from __future__ import annotations

from alembic import context
from sqlalchemy import create_engine

from ebbrin.ground.store import Base

engine = create_engine(context.config.attributes["url"])
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata)
    with context.begin_transaction():
        context.run_migrations()
engine.dispose()
