"""Run a worker: take up what a killed one left, then work through the queue."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import connection
from django.utils import timezone
from procrastinate.contrib.django import app

from vennpair.service.ops.tasks import take_up
from vennpair.service.relay.waking import take_up_relays


class Command(BaseCommand):
    """Any number of workers may run, on any number of machines."""

    help = "Run a worker."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--concurrency", type=int, default=4)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run until stopped."""
        take_up()
        take_up_relays(timezone.now())
        connection.close()
        worker = app.with_connector(app.connector.get_worker_connector())
        with worker.open():
            worker.run_worker(concurrency=options["concurrency"], fetch_job_polling_interval=1.0, delete_jobs="successful")
