"""Where a state folder keeps what, who holds it, and how its processes are known.

The keeper holds a lock on the file ``lock`` for as long as it lives and says in it who it is; health answers with the
same instance. A number of a process alone proves nothing.
"""

from __future__ import annotations

import errno
import fcntl
import json
import os
import secrets
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

from ebbrin.app.cluster import Cluster
from ebbrin.ground.errors import EbbrinError

DATABASE = "ebbrin"
HEALTH_WAIT = 3.0  # s


class StartError(EbbrinError):
    """A step failed; the message says which, why, and what to do."""


class BackupError(EbbrinError):
    """A backup could not be made, read or restored; the message says why and what to do."""


def state_folder() -> Path:
    """EBBRIN_STATE, or a folder that belongs to this user."""
    stated = os.environ.get("EBBRIN_STATE")
    if stated:
        return Path(stated).resolve()
    if os.geteuid() == 0:
        return Path("/var/lib/ebbrin")
    base = os.environ.get("XDG_STATE_HOME") or str(Path.home() / ".local" / "state")
    return Path(base) / "ebbrin"


def cluster_of(state: Path) -> Cluster:
    """The database server of a state folder."""
    return Cluster(state / "postgres")


def backups_of(state: Path) -> Path:
    """Folder of the backups that are made by themselves."""
    return state / "backups"


def told_of(state: Path) -> Path:
    """File in which the keeper says of backups what everybody may know."""
    return state / "run" / "backups.json"


def database_address(state: Path) -> str:
    """Where the database of a state folder is to be found."""
    return cluster_of(state).url(DATABASE)


@dataclass(frozen=True)
class Instance:
    """A running Ebbrin: its keeper, the port that it answers on, a name that no other has, and its version."""

    keeper: int
    port: int
    name: str
    version: str


def prepared(state: Path) -> None:
    """Make the state folder and what lies in it, closed to others.

    Raises
    ------
    StartError
    """
    try:
        state.mkdir(mode=0o711, parents=True, exist_ok=True)
        for name, mode in (("logs", 0o711), ("run", 0o711), ("backups", 0o700)):
            (state / name).mkdir(mode=mode, exist_ok=True)
            (state / name).chmod(mode)
        for log in (state / "logs").glob("*.log"):  # an earlier version left them open
            log.chmod(0o600)
        probe = state / f".write-{secrets.token_hex(4)}"
        probe.touch(mode=0o600)
        probe.write_bytes(b"x" * 4096)
        probe.unlink()
    except OSError as error:
        if error.errno == errno.ENOSPC:
            raise StartError(
                f"state folder {state}: its disk is full. Make room, or set EBBRIN_STATE to a folder on another disk. "
                "Nothing stored was changed"
            ) from error
        raise StartError(
            f"state folder {state} cannot be written: {error.strerror}. Set EBBRIN_STATE to one that can, or give "
            "this user the right to it. Nothing stored was changed"
        ) from error


@contextmanager
def only_one(state: Path, wait: float = 300.0) -> Iterator[None]:
    """Let one start, stop or restore at a time work on a state folder; the others wait.

    Raises
    ------
    StartError
        If it takes longer than ``wait`` [s].
    """
    with (state / "starting").open("a") as file:
        os.chmod(file.fileno(), 0o600)
        until = time.monotonic() + wait
        while True:
            try:
                fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
                break
            except BlockingIOError:
                if time.monotonic() > until:
                    raise StartError(
                        f"another start or stop of {state} has been under way for {wait:.0f} s; wait for it, or end it"
                    ) from None
                time.sleep(0.1)
        yield


def hold(state: Path, instance: Instance) -> Any:
    """Take the lock of a state folder for as long as the file that is returned stays open; nothing where another
    holds it."""
    file = (state / "lock").open("a+")
    os.chmod(file.fileno(), 0o600)
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        file.close()
        return None
    file.truncate(0)
    file.write(json.dumps(asdict(instance)))
    file.flush()
    return file


def holder(state: Path) -> Instance | None:
    """Who holds the lock of a state folder."""
    path = state / "lock"
    for _ in range(50):
        try:
            with path.open("r") as file:
                try:
                    fcntl.flock(file, fcntl.LOCK_SH | fcntl.LOCK_NB)
                except BlockingIOError:
                    with suppress(ValueError, TypeError):
                        return Instance(**json.loads(file.read()))
                else:
                    return None
        except FileNotFoundError:
            return None
        time.sleep(0.1)  # it is about to say who it is
    return None


def health(port: int) -> dict[str, Any] | None:
    """What the server on a port says of itself; nothing where none answers."""
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/v1/health", timeout=HEALTH_WAIT) as answer:
            found = json.loads(answer.read())
    except urllib.error.HTTPError as error:
        with suppress(ValueError, OSError):
            found = json.loads(error.read())
            return found if isinstance(found, dict) else None
        return None
    except (OSError, ValueError):
        return None
    return found if isinstance(found, dict) else None


def well(instance: Instance) -> bool:
    """Whether a running Ebbrin answers as the one that it should be, with its database."""
    found = health(instance.port)
    return found is not None and found.get("instance") == instance.name and found.get("database") is True
