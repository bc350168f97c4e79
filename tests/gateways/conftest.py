"""The server for one test."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from tests.gateways.server import Server


@pytest.fixture
def server() -> Iterator[Server]:
    made = Server()
    yield made
    made.close()
