"""What ./start calls once everything is installed: cluster, schema, demo, server, and stopping them.

python -m ebbrin.cli.serve up|down|fresh|run|keep|work
"""

from __future__ import annotations

import gc
import json
import logging
import os
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path

from ebbrin.store.cluster import Cluster, ClusterError

PAGE = Path(__file__).resolve().parents[3] / "web" / "dist"
WAIT_SECONDS = 60.0
GRACE = 3.0  # how long a worker may go on after it was told to stop, s
DATABASE = "ebbrin"


class StartError(RuntimeError):
    """A step failed; the message says which, why, and what to do."""


def state_folder() -> Path:
    """EBBRIN_STATE, or a folder that belongs to this user."""
    stated = os.environ.get("EBBRIN_STATE")
    if stated:
        return Path(stated).resolve()
    if os.geteuid() == 0:
        return Path("/var/lib/ebbrin")
    base = os.environ.get("XDG_STATE_HOME") or str(Path.home() / ".local" / "state")
    return Path(base) / "ebbrin"


def port() -> int:
    """EBBRIN_PORT, or 8600."""
    text = os.environ.get("EBBRIN_PORT", "8600")
    if not text.isdigit() or not 1 <= int(text) <= 65535:
        raise StartError(f"EBBRIN_PORT is {text!r}; it must be a port number from 1 to 65535")
    return int(text)


def _say(text: str) -> None:
    print(f"  {text}", flush=True)


def _record(state: Path) -> Path:
    return state / "server.json"


def _entry(state: Path) -> dict[str, int]:
    """What up() noted: processes of server and worker's keeper, and the port."""
    try:
        found = json.loads(_record(state).read_text())
        return {name: int(found[name]) for name in ("pid", "port", "keeper") if name in found}
    except (OSError, ValueError, TypeError):
        return {}


def _ours(pid: int | None, word: bytes, state: Path) -> bool:
    """Whether a process is the one of ours that does ``word``."""
    try:
        command = Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
    except OSError:
        return False
    return b"ebbrin.cli.serve" in command and word in command and str(state).encode() in command


def _server(state: Path) -> tuple[int, int] | None:
    """Process and port of the server that we started, if it still runs."""
    entry = _entry(state)
    if "port" not in entry or not _ours(entry.get("pid"), b"run", state):
        return None
    return entry["pid"], entry["port"]


def _keeper(state: Path) -> int | None:
    """Process that keeps a worker running, if it still does."""
    pid = _entry(state).get("keeper")
    return pid if _ours(pid, b"keep", state) else None


def _healthy(at: int) -> bool:
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{at}/api/v1/health", timeout=2) as answer:
            return bool(answer.status == 200)
    except (urllib.error.URLError, OSError):
        return False


def up(state: Path, wanted: int) -> None:
    """Bring everything up; what already runs stays.

    Raises
    ------
    StartError
    """
    running = _server(state)
    if running is not None and _healthy(running[1]):
        if _keeper(state) is None:
            _note(state, keeper=_begin(state, "worker.log", "keep", str(state)).pid)
            _say("worker       started again")
        _say(f"Ebbrin runs already at http://127.0.0.1:{running[1]}")
        return
    try:
        state.mkdir(parents=True, exist_ok=True)
        (state / "logs").mkdir(exist_ok=True)
    except OSError as error:
        raise StartError(
            f"state folder {state} cannot be made: {error}. Set EBBRIN_STATE to one that can"
        ) from error
    cluster = Cluster(state / "postgres")
    try:
        cluster.start()
        url = cluster.ensure_database(DATABASE)
    except ClusterError as error:
        raise StartError(f"database: {error}") from error
    _say(f"database     PostgreSQL on 127.0.0.1:{cluster.port()}")
    _prepare(url)
    _launch(state, wanted)
    _say(f"ready        http://127.0.0.1:{wanted}   (stop it with ./start --stop)")


def _prepare(url: str) -> None:
    from ebbrin.service.builds import BuildService
    from ebbrin.store.database import Database, migrate

    migrate(url)
    database = Database(url)
    added = BuildService(database).load_demo_when_new()
    database.close()
    _say("schema       up to date" + (f", demo workshop loaded ({added} build)" if added else ""))


def _begin(state: Path, log: str, *words: str) -> subprocess.Popen[bytes]:
    """Start one of our own processes, which outlives this one."""
    with (state / "logs" / log).open("ab") as out:
        return subprocess.Popen(
            [sys.executable, "-m", "ebbrin.cli.serve", *words],
            stdin=subprocess.DEVNULL,
            stdout=out,
            stderr=out,
            start_new_session=True,
        )


def _note(state: Path, **values: int) -> None:
    _record(state).write_text(json.dumps(_entry(state) | values))


def _launch(state: Path, wanted: int) -> None:
    log = state / "logs" / "server.log"
    process = _begin(state, "server.log", "run", str(state), str(wanted))
    _note(state, pid=process.pid, port=wanted)
    if _keeper(state) is None:
        _note(state, keeper=_begin(state, "worker.log", "keep", str(state)).pid)
    deadline = time.monotonic() + WAIT_SECONDS
    while time.monotonic() < deadline:
        if process.poll() is not None:
            _stop(_keeper(state))
            _record(state).unlink(missing_ok=True)
            tail = "\n".join(log.read_text(errors="replace").splitlines()[-5:])
            raise StartError(
                f"server: it ended at once. Is port {wanted} taken? Choose another with EBBRIN_PORT. {log} ends:\n{tail}"
            )
        if _healthy(wanted):
            return
        time.sleep(0.1)
    raise StartError(f"server: no answer on port {wanted} within {WAIT_SECONDS:.0f} s; see {log}")


def database_address(state: Path) -> str:
    """Where the database of a state folder is to be found."""
    return Cluster(state / "postgres").url(DATABASE)


def run(state: Path, wanted: int) -> None:
    """Serve in the foreground; the process that up() starts."""
    import uvicorn

    from ebbrin.api.app import create_app

    app = create_app(database_address(state), PAGE)
    gc.freeze()  # what is loaded by now stays; collections need not look at it again
    uvicorn.run(app, host="127.0.0.1", port=wanted, log_level="warning", access_log=False)


def keep(state: Path) -> None:
    """Keep one worker running: start another when it ends, until told to stop."""
    told = False

    def stop(_signal: int, _frame: object) -> None:
        nonlocal told
        told = True
        worker.terminate()
        try:
            worker.wait(GRACE)
        except subprocess.TimeoutExpired:
            worker.kill()  # what it has in hand is taken up again

    while not told:
        worker = subprocess.Popen([sys.executable, "-m", "ebbrin.cli.serve", "work", str(state)])
        signal.signal(signal.SIGTERM, stop)
        worker.wait()
        if not told:
            time.sleep(1.0)


def work(state: Path) -> None:
    """One worker in the foreground; more of them may run beside it, here or elsewhere."""
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(levelname)s %(name)s: %(message)s")
    from ebbrin.jobs import worker

    worker.work(lambda: database_address(state))


def _stop(pid: int | None) -> None:
    """Ask a process of ours to end, and see to it that it does."""
    if pid is None:
        return
    os.kill(pid, signal.SIGTERM)
    deadline = time.monotonic() + 10.0
    while Path(f"/proc/{pid}").exists() and time.monotonic() < deadline:
        try:
            os.waitpid(pid, os.WNOHANG)
        except ChildProcessError:
            time.sleep(0.1)


def down(state: Path) -> None:
    """Stop what up() started, and nothing else."""
    running = _server(state)
    _stop(_keeper(state))
    _stop(running[0] if running else None)
    _record(state).unlink(missing_ok=True)
    stopped = Cluster(state / "postgres").stop() if (state / "postgres").exists() else False
    _say("stopped" if running or stopped else "nothing was running")


def fresh(state: Path) -> None:
    """Set the demo data back, after asking."""
    from ebbrin.service.builds import BuildService
    from ebbrin.store.database import Database, migrate

    question = "Remove every stored build and load the demo workshop again? Type yes: "
    try:
        agreed = input(question).strip().lower() == "yes"
    except EOFError:
        agreed = False
    if not agreed:
        _say("nothing was changed")
        return
    cluster = Cluster(state / "postgres")
    state.mkdir(parents=True, exist_ok=True)
    cluster.start()
    url = cluster.ensure_database(DATABASE)
    migrate(url)
    database = Database(url)
    _say(f"demo workshop set back ({BuildService(database).reset_to_demo()} build)")
    database.close()


def main(words: list[str]) -> int:
    """Do what is asked; 0 if it went well."""
    try:
        if words[:1] == ["run"]:
            run(Path(words[1]), int(words[2]))
        elif words[:1] == ["keep"]:
            keep(Path(words[1]))
        elif words[:1] == ["work"]:
            work(Path(words[1]))
        elif words == ["up"]:
            up(state_folder(), port())
        elif words == ["down"]:
            down(state_folder())
        elif words == ["fresh"]:
            fresh(state_folder())
            up(state_folder(), port())
        else:
            raise StartError("say up, down or fresh")
    except (StartError, ClusterError) as error:
        print(f"  failed       {error}", file=sys.stderr, flush=True)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
