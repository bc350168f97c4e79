"""What worlds under test note of each request: how many queries it took, in a header of its answer,
and which operations of the API were asked with success. ``never_asked`` says which nobody tried.
"""

from __future__ import annotations

import os
import re
import threading
from collections.abc import Callable, Iterable
from functools import cache
from pathlib import Path
from typing import Any

import yaml
from django.db import connection
from django.http import HttpRequest, HttpResponse

from tools.world.cluster import ROOT

FILE = "VENNPAIR_ASKED_FILE"
QUERIES = "X-Queries"
METHODS = ("get", "post", "put", "patch", "delete")
Operation = tuple[str, str]


class _Counted:
    """Counts the queries of one request."""

    def __init__(self) -> None:
        self.queries = 0

    def __call__(
        self, execute: Callable[..., Any], sql: str, params: Any, many: bool, context: Any
    ) -> Any:
        self.queries += 1
        return execute(sql, params, many, context)


class NoteAsked:
    """Middleware: notes each operation once, when it is first answered with success."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response, self._lock = get_response, threading.Lock()
        self._noted: set[str] = set()

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer, and note what was asked."""
        counted = _Counted()
        with connection.execute_wrapper(counted):
            response = self._get_response(request)
        response[QUERIES] = str(counted.queries)
        match = request.resolver_match
        if match is not None and response.status_code < 400 and match.route.startswith("api/v1/"):
            self._note(f"{request.method} {match.route}")
        return response

    def _note(self, asked: str) -> None:
        with self._lock:
            if asked in self._noted:
                return
            self._noted.add(asked)
            with Path(os.environ[FILE]).open("a") as file:
                file.write(f"{asked}\n")


@cache
def schema() -> dict[str, Any]:
    """Return the kept schema, read once."""
    text = (ROOT / "docs" / "openapi.yaml").read_text("utf-8")
    # The reader written in C: the other takes three seconds, in each process of the tests.
    read: dict[str, Any] = yaml.load(text, Loader=yaml.CSafeLoader)
    return read


def operations() -> list[Operation]:
    """Return every operation of the kept schema: method and address."""
    return [
        (method.upper(), path)
        for path, each in schema()["paths"].items()
        for method in METHODS
        if method in each
    ]


def never_asked(files: Iterable[Path]) -> list[str]:
    """Return the operations of the schema that are in none of these files, in its order."""
    noted = {line for file in files if file.exists() for line in file.read_text().splitlines()}
    asked = {(each.split(" ")[0], _shape(each.split(" ", 1)[1])) for each in noted}
    return [
        f"{method} {path}" for method, path in operations() if (method, _shape(path)) not in asked
    ]


def _shape(path: str) -> str:
    """Return an address or a route with its parts that vary made equal."""
    plain = re.sub(r"\(\?P<\w+>[^)]*\)|<[^>]+>|\{\w+\}", "*", path.removeprefix("/"))
    return plain.replace("^", "").replace("\\", "").rstrip("$/")
