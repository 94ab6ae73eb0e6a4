"""Background work, one mechanism for all of it.

A job is declared with the row that owns it: the row says what is still to be done, so a job that died with its worker is made
again by the sweep. It is asked for within the transaction that wants it: both happen or neither does. While it runs it holds a
lock that ends with its connection, so that making it again never does it twice at once. What keeps failing says so on its row,
where somebody can ask for it again.
"""

import logging
from collections.abc import Callable, Iterable
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.db import close_old_connections, connection, transaction
from django.utils import timezone
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued
from procrastinate.jobs import Status

JOBS: dict[str, "Job"] = {}
OVERDUE = settings.SWEEP_SECONDS // 2  # seconds after which a job that nobody holds is made again
EVERY_SWEEP = "* * * * *" if settings.SWEEP_SECONDS == 60 else f"* * * * * */{settings.SWEEP_SECONDS}"
KEPT_HOURS = 72  # how long finished jobs stay in the queue's tables
_log = logging.getLogger(__name__)


@dataclass
class Job:
    """One kind of work. `lost(before)` gives the arguments of every job that its rows still want and that were asked for before;
    `failed(says, **arguments)` writes on the row why it was given up."""

    name: str
    work: Callable[..., Any]
    lost: Callable[[datetime], Iterable[dict]]
    failed: Callable[..., None]
    tries: int
    task: Any = None

    def __call__(self, *args, **arguments):
        return self.work(*args, **arguments)

    def ask(self, seconds=0, again=False, **arguments):
        """Have it done, after so many seconds; asking twice while it waits is asking once, unless `again`."""
        lock = None if again else f"{self.name}:{_mark(arguments)}"
        later = {"schedule_in": {"seconds": seconds}} if seconds else {}
        try:
            with transaction.atomic():  # a refusal must not spoil the transaction around it
                self.task.configure(queueing_lock=lock, **later).defer(**arguments)
        except AlreadyEnqueued:
            pass

    def run(self, context, **arguments):
        """What a worker calls."""
        fresh_connection()
        try:
            with _held(f"{self.name}:{_mark(arguments)}") as mine:
                if mine:
                    self._try(context, arguments)
        finally:
            fresh_connection()

    def _try(self, context, arguments):
        try:
            self.work(**arguments)
        except Exception as error:
            if context.job.attempts >= self.tries:
                _log.exception("%s %s given up", self.name, arguments)
                self.failed(_says(error), **arguments)
                return
            raise


def job(name, *, lost, failed, tries=3, wait=3):
    """Decorator: declares a job. `wait` is the base of growing pauses between tries, in seconds."""

    def declare(work):
        made = JOBS[name] = Job(name, work, lost, failed, tries)
        patience = RetryStrategy(max_attempts=tries, exponential_wait=wait)
        made.task = app.task(name=f"practice:{name}", pass_context=True, retry=patience)(made.run)
        return made

    return declare


def fresh_connection():
    """Workers live long, and connections do not; within somebody's transaction it is left alone."""
    if not connection.in_atomic_block:
        close_old_connections()


def _mark(arguments):
    return ":".join(str(value) for _, value in sorted(arguments.items()))


def _says(error):
    """Why, for the people in the office; what the program did not expect stands in the log."""
    return getattr(error, "says", "") or f"the program failed ({type(error).__name__}); it is in the log"


@contextmanager
def _held(mark):
    """Whether this connection is the only one at the job; the database lets go of the lock when the connection ends."""
    with connection.cursor() as cursor:
        cursor.execute("select pg_try_advisory_lock(hashtextextended(%s, 0))", [mark])
        mine = cursor.fetchone()[0]
    try:
        yield mine
    finally:
        if mine and connection.connection is not None and not connection.connection.closed:
            with connection.cursor() as cursor:
                cursor.execute("select pg_advisory_unlock(hashtextextended(%s, 0))", [mark])


def make_lost_again(before=None):
    """Ask again for every job that its row still wants; harmless for one that waits or runs. How many were asked for."""
    before = before or timezone.now() - timedelta(seconds=OVERDUE)
    asked = 0
    for one in JOBS.values():
        for arguments in one.lost(before):
            one.ask(**arguments)
            asked += 1
    return asked


@app.periodic(cron=EVERY_SWEEP)
@app.task(name="practice:sweep", queueing_lock="sweep")
def sweep(timestamp):
    """Jobs that died with their worker are made again."""
    fresh_connection()
    make_lost_again()


@app.periodic(cron="17 3 * * *")
@app.task(name="practice:prune", queueing_lock="prune", pass_context=True)
async def prune(context, timestamp):
    """Finished jobs leave the queue's tables after some days; those that died with their worker are said to have failed first."""
    manager = context.app.job_manager
    for stalled in await manager.get_stalled_jobs(seconds_since_heartbeat=3600):
        if stalled.id != context.job.id:
            await manager.finish_job(stalled, status=Status.FAILED, delete_job=False)
    kinds = {"include_failed": True, "include_cancelled": True, "include_aborted": True}
    await manager.delete_old_jobs(nb_hours=KEPT_HOURS, **kinds)
