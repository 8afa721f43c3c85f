"""Alembic migrations."""
