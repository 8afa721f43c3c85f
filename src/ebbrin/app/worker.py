"""A worker: takes sizings from the queue, and those that a worker left behind.

A worker tells the database every HEARTBEAT seconds that it is alive. One that has been silent for STALLED
seconds is taken for dead: what it had in hand goes back to the queue.
"""

from __future__ import annotations

import asyncio
import logging
import os
from collections.abc import Callable
from contextlib import suppress
from uuid import UUID

from procrastinate import App, PsycopgConnector
from procrastinate.exceptions import ProcrastinateException

from ebbrin.features.size.runs import RunService
from ebbrin.features.size.store import QUEUE, TASK
from ebbrin.ground.store import Database

HEARTBEAT, STALLED, LOOK_EVERY = 1.5, 20.0, 1.0
"""[s]. A machine with too much to do keeps a living worker silent for some seconds: it must not be taken for dead."""
AGAIN_AFTER = 1.0  # s
log = logging.getLogger(__name__)


def app_on(url: str, service: RunService) -> App:
    """The queue's application on one database, with its one task."""
    app = App(connector=PsycopgConnector(conninfo=url.replace("+psycopg", "")))

    @app.task(name=TASK, queue=QUEUE)
    def size(run_id: str) -> None:
        service.work(UUID(run_id))

    return app


async def _take_back(app: App) -> None:
    """Put what silent workers left behind back into the queue, for as long as this worker lives."""
    while True:
        with suppress(ProcrastinateException):
            await app.job_manager.prune_stalled_workers(STALLED)
            for job in await app.job_manager.get_stalled_jobs(queue=QUEUE, seconds_since_heartbeat=STALLED):
                log.warning("job %s was left behind; it goes back to the queue", job.id)
                await app.job_manager.retry_job(job)
        await asyncio.sleep(LOOK_EVERY)


async def _leave_with(parent: int, app_task: asyncio.Task[None]) -> None:
    """Stop once the process that started this one is gone."""
    while os.getppid() == parent:
        await asyncio.sleep(LOOK_EVERY)
    app_task.cancel()


async def serve(url: str, until_empty: bool = False) -> None:
    """Work on one database until told to stop, or until the queue is empty."""
    database = Database(url)
    app = app_on(url, RunService(database))
    try:
        async with app.open_async():
            await app.job_manager.prune_stalled_workers(STALLED)
            aside = [asyncio.create_task(_take_back(app))]
            work = asyncio.create_task(
                app.run_worker_async(
                    queues=[QUEUE],
                    wait=not until_empty,
                    update_heartbeat_interval=HEARTBEAT,
                    stalled_worker_timeout=STALLED,
                    fetch_job_polling_interval=LOOK_EVERY,
                    delete_jobs="successful",
                )
            )
            aside.append(asyncio.create_task(_leave_with(os.getppid(), work)))
            try:
                await work
            finally:
                for task in aside:
                    task.cancel()
                await asyncio.gather(*aside, return_exceptions=True)
    finally:
        database.close()


def work(address: Callable[[], str]) -> None:
    """Work until told to stop; begin again when the database has been away.

    Parameters
    ----------
    address : asked for the database's address before each beginning.
    """
    os.nice(5)  # the page's own answers come first
    parent = os.getppid()
    while os.getppid() == parent:
        try:
            asyncio.run(serve(address()))
            return
        except (asyncio.CancelledError, KeyboardInterrupt):
            return
        except Exception:
            log.exception("the worker begins again")
            asyncio.run(asyncio.sleep(AGAIN_AFTER))
