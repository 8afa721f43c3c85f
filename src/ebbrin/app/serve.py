"""What ./start calls once everything is installed: cluster, schema, demo, keeper, and stopping them.

python -m ebbrin.app.serve up|down|fresh|keep|run|work
"""

from __future__ import annotations

import json
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import threading
import time
from contextlib import suppress
from pathlib import Path

from ebbrin.app import places
from ebbrin.app.cluster import Cluster
from ebbrin.app.places import (
    DATABASE,
    BackupError,
    Instance,
    StartError,
    only_one,
    prepared,
    state_folder,
)
from ebbrin.app.process import beginning, leave
from ebbrin.app.programs import ClusterError
from ebbrin.app.reporting import log_to, say
from ebbrin.ground.version import version

PAGE = Path(__file__).resolve().parents[3] / "web" / "dist"
WAIT_SECONDS = 90.0
FREE_WAIT = 15.0  # how long a port may take to become free, s
STOP_WAIT = 20.0  # s
SWITCH_EVERY = 5e-4  # how long a computing thread may keep the others waiting, s


def port() -> int:
    """EBBRIN_PORT, or 8600."""
    text = os.environ.get("EBBRIN_PORT", "8600")
    if not text.isdigit() or not 1 <= int(text) <= 65535:
        raise StartError(f"EBBRIN_PORT is {text!r}; it must be a port number from 1 to 65535")
    return int(text)


def up(state: Path, wanted: int) -> None:
    """Bring everything up; what already runs well stays.

    Raises
    ------
    StartError
    """
    prepared(state)
    with only_one(state):
        _up(state, wanted)


def _up(state: Path, wanted: int) -> None:
    began = time.monotonic()
    running = places.holder(state)
    if running is not None and running.version == version() and places.well(running):
        say(f"Ebbrin runs already at http://127.0.0.1:{running.port}")
        return
    if running is not None:
        why = "version " + running.version if running.version != version() else "one that does not answer"
        say(f"replacing    {why}")
        _end(running.keeper)
    _end_earlier(state)
    cluster = places.cluster_of(state)
    try:
        url = _database(state, cluster)
    except (ClusterError, BackupError) as error:
        raise StartError(f"database: {error}") from error
    say(f"database     PostgreSQL on 127.0.0.1:{cluster.port()} ({time.monotonic() - began:.1f} s)")
    _prepare(state, cluster, url)
    from ebbrin.app.warmth import compiled

    compiled(state)
    _launch(state, wanted)
    say(f"ready        http://127.0.0.1:{wanted}   (stop it with ./start --stop)")


def _database(state: Path, cluster: Cluster) -> str:
    """Start the database server, moved to the newest version on this machine; the address for Ebbrin's role."""
    from ebbrin.app import backup

    cluster.start()
    old = backup.outdated(cluster)
    if old is None:
        return cluster.ensure_database(DATABASE)
    cluster.ensure_database(DATABASE)
    made = backup.make_kept(cluster, DATABASE, places.backups_of(state), f"postgresql-{old}", version())
    _, kept = backup.restore(made, cluster.folder, DATABASE)
    cluster.start()
    say(
        f"database     moved from PostgreSQL {old} to the newest; the old one is kept in {kept} until you remove it"
    )
    return cluster.ensure_database(DATABASE)


def _prepare(state: Path, cluster: Cluster, url: str) -> None:
    """Bring the schema up, after a backup where it changes, and load the demo into a new one."""
    from ebbrin.app import backup
    from ebbrin.app.schema import NewerSchema, knows_schema, migrate, newest_schema
    from ebbrin.features.fit.demo import load_demo_jobs
    from ebbrin.features.fit.jobs import Jobs
    from ebbrin.features.workshop.service import BuildService
    from ebbrin.ground.errors import StoreBroken, StoreError
    from ebbrin.ground.store import Database

    database = Database(url)
    try:
        found = database.schema()
        if found is not None and not knows_schema(found):
            raise NewerSchema(found, newest_schema())
        if found is not None and found != newest_schema():
            made = backup.make_kept(cluster, DATABASE, places.backups_of(state), "schema", version())
            say(f"backup       before the schema changes: {made}")
        if found is None and database.has_tables():
            _damaged("it does not say which version it is of")
            return
        migrate(url)
        missing = database.missing_tables()
        if missing:
            _damaged(f"the table {', '.join(missing)} is missing")
            return
        added = BuildService(database).load_demo_when_new()
        load_demo_jobs(Jobs(database), added)
    except StoreBroken as error:
        _damaged(error.what)
        return
    except NewerSchema as error:
        raise StartError(
            f"schema: {error}. Nothing was changed. Start the newer Ebbrin, or restore a backup that this one made"
        ) from error
    except BackupError as error:
        raise StartError(f"backup: {error} The schema was not changed") from error
    except StoreError as error:
        raise StartError(f"schema: {error}") from error
    finally:
        database.close()
    say("schema       up to date" + (f", demo workshop loaded ({len(added)} builds)" if added else ""))


def _damaged(what: str) -> None:
    """Say what is wrong with the database; what does not need that part of it is served even so."""
    say(f"schema       damaged: {what}. Nothing was changed; what does not need it works;")
    say("             restore a backup (ebbrin restore FILE) to have all of it")


def _port_free(wanted: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", wanted))
        except OSError:
            return False
    return True


def _launch(state: Path, wanted: int) -> None:
    """Start the keeper and wait until its server answers as the one that was started.

    Raises
    ------
    StartError
    """
    until = time.monotonic() + FREE_WAIT
    while not _port_free(wanted):
        if time.monotonic() > until:
            raise StartError(
                f"server: port {wanted} is taken by another program. Choose another with EBBRIN_PORT, or end that program"
            )
        time.sleep(0.2)
    name = secrets.token_hex(8)
    with (state / "logs" / "keeper.out").open("ab") as out:
        os.chmod(out.fileno(), 0o600)
        keeper = subprocess.Popen(
            [sys.executable, "-m", "ebbrin.app.serve", "keep", str(state), str(wanted), name],
            stdin=subprocess.DEVNULL,
            stdout=out,
            stderr=out,
            start_new_session=True,
        )
    mine = Instance(keeper.pid, wanted, name, version())
    deadline = time.monotonic() + WAIT_SECONDS
    while time.monotonic() < deadline:
        if keeper.poll() is not None:
            raise StartError(f"server: its keeper ended at once; see {state / 'logs'}")
        if places.well(mine):
            return
        time.sleep(0.1)
    _end(keeper.pid)
    raise StartError(f"server: no answer on port {wanted} within {WAIT_SECONDS:.0f} s; see {state / 'logs'}")


def _lives(pid: int) -> bool:
    """Whether a process is there and has not ended; one that nobody has asked after since it ended has."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] not in ("Z", "X")
    except (OSError, IndexError):
        return False


def _end(pid: int) -> None:
    """Ask a process of ours to end, and see to it that it does."""
    for sign, wait in ((signal.SIGTERM, STOP_WAIT), (signal.SIGKILL, 5.0)):
        try:
            os.kill(pid, sign)
        except ProcessLookupError:
            return
        deadline = time.monotonic() + wait
        while time.monotonic() < deadline:
            with suppress(ChildProcessError):
                os.waitpid(pid, os.WNOHANG)
            if not _lives(pid):
                return
            time.sleep(0.05)


def _end_earlier(state: Path) -> None:
    """End what an Ebbrin of before the keeper's lock has left running, known by its own command line."""
    record = state / "server.json"
    try:
        noted = json.loads(record.read_text())
    except (OSError, ValueError):
        return
    for key, word in (("keeper", b"keep"), ("pid", b"run")):
        try:
            pid = int(noted[key])
            command = Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
        except (OSError, ValueError, KeyError, TypeError):
            continue
        known = (
            b"ebbrin.cli.serve" in command or b"ebbrin.app.serve" in command
        )  # the first is what it was called
        if known and word in command and str(state).encode() in command:
            _end(pid)
    record.unlink(missing_ok=True)


def down(state: Path) -> None:
    """Stop what up() started, and nothing else."""
    if not state.exists():
        say("nothing was running")
        return
    prepared(state)
    with only_one(state):
        say("stopped" if stop_all(state) else "nothing was running")


def stop_all(state: Path) -> bool:
    """Stop keeper and database of a state folder; whether there was anything."""
    running = places.holder(state)
    if running is not None:
        _end(running.keeper)
    _end_earlier(state)
    cluster = places.cluster_of(state)
    stopped = cluster.stop() if cluster.folder.exists() else False
    return running is not None or stopped


def fresh(state: Path) -> None:
    """Set the demo data back, after asking, and after a backup."""
    from ebbrin.app import backup
    from ebbrin.app.schema import NewerSchema, migrate
    from ebbrin.features.fit.demo import load_demo_jobs
    from ebbrin.features.fit.jobs import Jobs
    from ebbrin.features.workshop.service import BuildService
    from ebbrin.ground.store import Database

    question = (
        "Remove every stored build and load the demo workshop again? A backup is made first. Type yes: "
    )
    try:
        agreed = input(question).strip().lower() == "yes"
    except EOFError:
        agreed = False
    if not agreed:
        say("nothing was changed")
        return
    prepared(state)
    with only_one(state):
        cluster = places.cluster_of(state)
        try:
            cluster.start()
            url = cluster.ensure_database(DATABASE)
            made = backup.make_kept(cluster, DATABASE, places.backups_of(state), "fresh", version())
            say(f"backup       {made}")
            migrate(url)
        except (BackupError, NewerSchema) as error:
            raise StartError(f"nothing was changed: {error}") from error
        database = Database(url)
        back = BuildService(database).reset_to_demo()
        load_demo_jobs(Jobs(database), back)
        say(f"demo         workshop set back ({len(back)} builds)")
        database.close()


def _told_address() -> str:
    """The database's address, as the keeper says it on our standard input."""
    return sys.stdin.readline().strip()


def _leave_with_parent() -> None:
    """End this process once the one that started it is gone."""
    # Said by the keeper: it may be gone before we look.
    parent = int(os.environ.get("EBBRIN_PARENT", os.getppid()))

    def look() -> None:
        while os.getppid() == parent:
            time.sleep(0.5)
        os.kill(os.getpid(), signal.SIGTERM)
        time.sleep(5.0)
        os._exit(1)

    threading.Thread(target=look, daemon=True).start()


def run(wanted: int, name: str) -> None:
    """Serve in the foreground; one of the processes that the keeper keeps."""
    with beginning():
        from ebbrin.app.serving import serve
        from ebbrin.app.warmth import an_answer
        from ebbrin.app.web import create_app

        _leave_with_parent()
        sys.setswitchinterval(SWITCH_EVERY)
        told = os.environ.get("EBBRIN_TOLD")
        app = create_app(_told_address(), PAGE, instance=name, told=Path(told) if told else None)
        # Compiled code is read from the disk when it is first asked for: a second that nobody need wait for.
        threading.Thread(target=an_answer, daemon=True).start()
    serve(app, wanted)


def work(address: str) -> None:
    """One worker in the foreground; more of them may run beside it, here or elsewhere."""
    with beginning():
        from ebbrin.app import worker

    _leave_with_parent()
    worker.work(lambda: address)


def _child_log() -> None:
    file = os.environ.get("EBBRIN_LOG")
    log_to(Path(file) if file else None)


def main(words: list[str]) -> int:
    """Do what is asked; 0 if it went well."""
    try:
        if words[:1] == ["run"]:
            _child_log()
            run(int(words[2]), words[3])
        elif words[:1] == ["keep"]:
            from ebbrin.app.keeper import Keeper

            return Keeper(Path(words[1]), int(words[2]), words[3]).run()
        elif words == ["work", "-"]:
            _child_log()
            work(_told_address())
        elif words == ["up"]:
            with beginning():
                up(state_folder(), port())
        elif words == ["down"]:
            down(state_folder())
        elif words == ["fresh"]:
            with beginning():
                fresh(state_folder())
                up(state_folder(), port())
        else:
            raise StartError("say up, down or fresh")
    except (StartError, ClusterError) as error:
        print(f"  failed       {error}", file=sys.stderr, flush=True)
        return 1
    except OSError as error:
        free = shutil.disk_usage("/").free // 1_000_000
        print(
            f"  failed       {error} ({free} MB free on /). Nothing stored was changed",
            file=sys.stderr,
            flush=True,
        )
        return 1
    return 0


if __name__ == "__main__":
    leave(main(sys.argv[1:]))
