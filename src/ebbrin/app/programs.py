"""The PostgreSQL servers that this machine has, as Debian installs them."""

from __future__ import annotations

from pathlib import Path

from ebbrin.ground.errors import EbbrinError


class ClusterError(EbbrinError):
    """The cluster could not be made or started; the message says what to do."""


def installed() -> dict[str, Path]:
    """Folders of initdb and pg_ctl by the version of the server that they are of."""
    return {p.parent.parent.name: p.parent for p in Path("/usr/lib/postgresql").glob("*/bin/pg_ctl")}


def in_order(version: str) -> list[int]:
    """A version of the server such as 9.6 or 15, to be compared."""
    return [int(part) for part in version.split(".")]


def newest_installed() -> str:
    """The newest version of the server on this machine.

    Raises
    ------
    ClusterError
    """
    found = installed()
    if not found:
        raise ClusterError("PostgreSQL is not installed. Install it: apt-get install postgresql")
    return max(found, key=in_order)


def server_programs(data: Path | None = None) -> Path:
    """Folder of initdb and pg_ctl: of the version that made ``data`` if it exists, else the newest."""
    if data is not None and (data / "PG_VERSION").exists():
        version, found = (data / "PG_VERSION").read_text().strip(), installed()
        if version not in found:
            raise ClusterError(
                f"The stored data needs PostgreSQL {version or '(its PG_VERSION is empty)'}, which is not installed. "
                f"Install it: apt-get install postgresql-{version}. Ebbrin then moves the data to the newest "
                "version by itself and keeps the old."
            )
        return found[version]
    return installed()[newest_installed()]
