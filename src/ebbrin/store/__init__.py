"""Where builds are kept: PostgreSQL through SQLAlchemy, and the private cluster that serves it."""
