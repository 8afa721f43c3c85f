"""The keeper: holds the state folder, and keeps database, server and worker running until it is told to stop.

Started by root, server and worker run as an ordinary user where that one can read the project's folder. They are told
the database's address on their standard input, where no other user can see it.
"""

from __future__ import annotations

import os
import pwd
import signal
import subprocess
import sys
import time
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path

from ebbrin.app import backup, places
from ebbrin.app.cluster import Cluster
from ebbrin.app.places import DATABASE, BackupError, Instance
from ebbrin.app.programs import ClusterError
from ebbrin.app.reporting import log_to
from ebbrin.ground.version import PACKAGE, version

LOOK_EVERY, BACKUP_EVERY = 0.3, 300.0  # s
AGAIN_AFTER, AGAIN_AT_MOST = 0.5, 15.0  # s
STEADY = 10.0  # how long a process must have lived for its end to be no pattern, s
GRACE = 8.0  # how long a process may go on after it was told to stop, s
ORDINARY = ("ebbrin", "nobody")
"""Users that server and worker may run as, the first that there is."""


def ordinary_user() -> pwd.struct_passwd | None:
    """Whom root gives server and worker to: nobody in particular who can read the project's folder; nothing where
    there is none, or we are not root."""
    if os.geteuid() != 0:
        return None
    for name in ORDINARY:
        try:
            user = pwd.getpwnam(name)
        except KeyError:
            continue
        command = [*as_user(user), sys.executable, "-c", "import ebbrin.ground.version, numpy"]
        can = subprocess.run(
            command, stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, check=False,
            cwd="/", env=plain_environment(),
        )  # fmt: skip
        if can.returncode == 0 and Path(PACKAGE).exists():
            return user
        return None
    return None


def as_user(user: pwd.struct_passwd) -> list[str]:
    """What goes before a command that is to run as ``user`` and can never become another."""
    return [
        "setpriv", "--reuid", str(user.pw_uid), "--regid", str(user.pw_gid), "--clear-groups", "--no-new-privs",
        "--inh-caps=-all", "--bounding-set=-all",
    ]  # fmt: skip


def plain_environment() -> dict[str, str]:
    """This process's environment without what belongs to its user."""
    return {key: value for key, value in os.environ.items() if key not in {"HOME", "XDG_RUNTIME_DIR"}} | {
        "HOME": "/"
    }


def cache_of(state: Path) -> Path:
    """Where the children keep what is compiled."""
    return state / "run" / "cache"


def given(folder: Path, user: pwd.struct_passwd | None) -> None:
    """A folder for a child alone, made where it is not there."""
    folder.mkdir(mode=0o700, exist_ok=True)
    if user is not None:
        give(folder, user)


@dataclass
class Child:
    """One of the processes that are kept running."""

    words: list[str]
    process: subprocess.Popen[bytes] | None = None
    since: float = 0.0
    again_at: float = 0.0
    wait: float = field(default=AGAIN_AFTER)


class Keeper:
    """Keeps one instance running on a state folder."""

    def __init__(self, state: Path, port: int, name: str) -> None:
        self._state, self._port, self._name = state, port, name
        self._cluster: Cluster = places.cluster_of(state)
        self._user = ordinary_user()
        self._told_to_stop = False
        self._children = {
            "server": Child(["run", str(state), str(port), name]),
            "worker": Child(["work", "-"]),
        }
        self._backup_at = 0.0
        self._log = log_to(state / "logs" / "keeper.log", "ebbrin.keeper")

    def run(self) -> int:
        """Hold the state folder until told to stop; 3 where another holds it."""
        held = places.hold(self._state, Instance(os.getpid(), self._port, self._name, version()))
        if held is None:
            return 3
        signal.signal(signal.SIGTERM, self._stop)
        signal.signal(signal.SIGINT, self._stop)
        self._log.warning("keeper of %s begins, version %s", self._name, version())
        if self._user is None and os.geteuid() == 0:
            self._log.warning("server and worker run as root: no ordinary user can read the project's folder")
        try:
            while not self._told_to_stop:
                self._look()
                time.sleep(LOOK_EVERY)
        finally:
            self._end_all()
            held.close()
        return 0

    def _stop(self, _signal: int, _frame: object) -> None:
        self._told_to_stop = True

    def _look(self) -> None:
        if not self._cluster.running():
            self._bring_back_database()
            return
        for name, child in self._children.items():
            self._tend(name, child)
        if time.monotonic() >= self._backup_at:
            self._backup_at = time.monotonic() + BACKUP_EVERY
            self._back_up()

    def _bring_back_database(self) -> None:
        self._log.error("the database server is gone; starting it")
        try:
            before = self._cluster.folder.joinpath("port").read_text()
            self._cluster.start()
            moved = self._cluster.folder.joinpath("port").read_text() != before
        except (ClusterError, OSError) as error:
            self._log.error("%s", error)
            time.sleep(5.0)
            return
        if moved:  # the others know the old address
            self._end_all()

    def _tend(self, name: str, child: Child) -> None:
        now = time.monotonic()
        if child.process is not None:
            code = child.process.poll()
            if code is None:
                if now - child.since > STEADY:
                    child.wait = AGAIN_AFTER
                return
            self._log.error("the %s ended with %s; it is started again in %.0f s", name, code, child.wait)
            child.process, child.again_at = None, now + child.wait
            child.wait = min(2.0 * child.wait, AGAIN_AT_MOST)
        if now >= child.again_at and not self._told_to_stop:
            child.process, child.since = self._begin(name, child), now

    def _begin(self, name: str, child: Child) -> subprocess.Popen[bytes]:
        logs, cache = self._state / "logs" / name, cache_of(self._state)
        for folder in (logs, cache):
            given(folder, self._user)
        with (self._state / "logs" / f"{name}.out").open("ab") as out:
            os.chmod(out.fileno(), 0o600)
            if out.tell() > 1_000_000:
                out.truncate(0)
            process = subprocess.Popen(
                [*(as_user(self._user) if self._user else []), sys.executable, "-m", "ebbrin.app.serve", *child.words],
                stdin=subprocess.PIPE,
                stdout=out,
                stderr=out,
                cwd="/",
                env=plain_environment()
                | {"EBBRIN_COMPILED": str(cache), "EBBRIN_LOG": str(logs / f"{name}.log"),
                    "EBBRIN_PARENT": str(os.getpid()),
                   "EBBRIN_TOLD": str(places.told_of(self._state)), "PYTHONDONTWRITEBYTECODE": "1"},
            )  # fmt: skip
        assert process.stdin is not None
        try:
            process.stdin.write(f"{self._cluster.url(DATABASE)}\n".encode())
            process.stdin.close()
        except (OSError, ClusterError) as error:
            self._log.error("the %s could not be told where the database is: %s", name, error)
        return process

    def _back_up(self) -> None:
        folder = places.backups_of(self._state)
        try:
            if backup.due(folder, datetime.now(UTC)):
                made = backup.make_kept(self._cluster, DATABASE, folder, "daily", version())
                self._log.warning("backed up to %s", made)
        except (BackupError, ClusterError, OSError) as error:
            self._log.error("no backup was made: %s", error)
        tell_backups(self._state)

    def _end_all(self) -> None:
        living = [
            c.process for c in self._children.values() if c.process is not None and c.process.poll() is None
        ]
        for process in living:
            process.terminate()
        until = time.monotonic() + GRACE
        for process in living:
            try:
                process.wait(max(until - time.monotonic(), 0.1))
            except subprocess.TimeoutExpired:
                process.kill()  # what a worker has in hand is taken up again
                process.wait()
        for child in self._children.values():
            child.process = None


def tell_backups(state: Path) -> None:
    """Say where everybody may read it how old the newest backup is."""
    file = places.told_of(state)
    new = file.with_suffix(".new")
    new.write_text(backup.noted(places.backups_of(state)))
    new.chmod(0o644)
    new.replace(file)


def give(path: Path, user: pwd.struct_passwd) -> None:
    """A folder and what lies in it to a user."""
    for entry in [path, *path.rglob("*")]:
        os.chown(entry, user.pw_uid, user.pw_gid, follow_symlinks=False)
