"""Run a worker: take up what a killed one left, then work through the queue."""

from __future__ import annotations

import asyncio
import logging
import os
import signal
import sys
import threading
import time
from contextlib import suppress
from typing import Any

import psycopg
from django.core.management.base import BaseCommand, CommandParser
from django.db import DatabaseError, connection, connections
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.exceptions import ConnectorException
from prometheus_client import start_http_server

from vennpair.service.kernel import tracing
from vennpair.service.kernel.broadcast import listen
from vennpair.service.kernel.jobs.tasks import take_up
from vennpair.service.kernel.jobs.waking import worker_begins

log = logging.getLogger(__name__)
_ending = threading.Event()  # somebody asked for the end: nothing is begun any more


class Command(BaseCommand):
    """Any number of workers may run, on any number of machines."""

    help = "Run a worker."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--concurrency", type=int, default=4)
        parser.add_argument("--metrics", default="", metavar="ADDRESS:PORT")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run until stopped; a database that is away is waited for."""
        tracing.begin("work")
        if options["metrics"]:
            address, _, port = options["metrics"].rpartition(":")
            start_http_server(int(port), address)
        _wait_for_database()
        listen()  # what other processes know has come before the first job is begun
        take_up(held=True)
        worker_begins(timezone.now())
        connection.close()
        threading.Thread(target=_begin_again_after_an_outage, daemon=True).start()
        if not asyncio.run(_work(options["concurrency"])):
            _begin_again()


async def _work(concurrency: int) -> bool:
    """Work through the queue; return whether somebody asked for the end. The queue's worker also
    ends when it loses the database, and that is no reason to end.
    """
    worker = app.with_connector(
        app.connector.get_worker_connector()  # type: ignore[attr-defined]
    )
    try:
        async with worker.open_async():
            running = asyncio.create_task(
                worker.run_worker_async(
                    concurrency=concurrency,
                    fetch_job_polling_interval=1.0,
                    delete_jobs="successful",
                    install_signal_handlers=False,
                )
            )

            def stop() -> None:
                _ending.set()
                running.cancel()  # it finishes what it has begun

            for each in (signal.SIGTERM, signal.SIGINT):
                asyncio.get_running_loop().add_signal_handler(each, stop)
            with suppress(asyncio.CancelledError):
                await running
    except (ConnectorException, psycopg.Error) as error:
        log.warning("the queue was lost (%s)", str(error.__cause__ or error).strip())
    return _ending.is_set()


def _wait_for_database() -> None:
    """Return once the database answers, or somebody asks for the end."""
    asked = connections.create_connection("default")
    told = False
    while not _ending.is_set():
        try:
            asked.ensure_connection()
        except DatabaseError as error:
            if not told:
                log.warning("the database does not answer yet (%s); waiting", str(error).strip())
            told = True
            _ending.wait(1)
        else:
            asked.close()
            return


def _begin_again_after_an_outage() -> None:
    """Where the database went away, begin as a new process once it is back.

    The queue's worker stops taking jobs when it loses its connection, and waits for those that it
    has; whatever they hang on is taken up by the new one, as after a kill.
    """
    watched = connections.create_connection("default")
    try:
        while True:
            with watched.cursor() as cursor:
                cursor.execute("SELECT 1")
            time.sleep(1)
    except DatabaseError as error:
        log.warning(
            "the database went away (%s); this worker starts again when it is back",
            str(error).strip(),
        )
    _begin_again()


def _begin_again() -> None:
    """Go on as a new process once the database answers; end where somebody asks for it first."""
    _wait_for_database()
    if _ending.is_set():
        # Without the database nothing can be finished; others take it up, as after a kill.
        os._exit(0)
    os.execv(sys.executable, sys.orig_argv)  # noqa: S606 - the very command that started this one
