"""A service of which nothing is known but the kept schema: it answers each operation with an example
of what the schema says, and refuses what the schema does not have.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from typing import Any

import httpx
from tools.world.asked import schema

Shape = dict[str, Any]
ID = "0189aaaa-0000-4000-8000-00000000000a"
MOMENT = "2027-01-15T10:00:00Z"
FORMATS = {"date-time": MOMENT, "date": "2027-01-15", "uuid": ID, "decimal": "7.5"}
KINDS = {"integer": 1, "number": 1.0, "boolean": True}
DEEPEST = 4  # list within list
# What is text in the schema and not any text, and what keeps nothing from being done.
NAMED = {"timezone": "America/Chicago", "due_at": MOMENT, "shown_from": MOMENT, "next": None}
NAMED |= {"why": "", "undoes": None, "undone": False, "file": False}
REFUSED = {"code": "busy_now", "detail": "It is busy today.", "remedy": "Wait a little."}
GUESSES = "pairings_several_create"  # with ``shells``; pairs with ``pairs``
FIRST = ("done", "ready", "graded")  # of several states or kinds


def resolved(shape: Shape) -> Shape:
    """Follow references; what is one of several, or all of them, has the fields of each."""
    while "$ref" in shape:
        shape = schema()["components"]["schemas"][shape["$ref"].rsplit("/", 1)[-1]]
    parts = [resolved(each) for name in ("allOf", "oneOf") for each in shape.get(name, [])]
    if not parts or any(part.get("type") != "object" for part in parts):
        return parts[0] | {"others": parts[1:]} if parts else shape
    fields = {name: each for part in parts for name, each in part.get("properties", {}).items()}
    return {"type": "object", "properties": fields}


def example(
    shape: Shape, *, full: bool, planned: bool = False, first: str = "", depth: int = 0
) -> Any:
    """Return a value of a shape, with every field.

    ``full``: with what may be null, and with a row in each list; else lists within lists are empty.
    ``planned`` prefers the list of a plan; ``first`` a state, where there are several.
    """
    shape = resolved(shape)
    kinds = [shape, *shape.get("others", [])]
    if any("null" in each.get("type", ()) for each in kinds):
        if not full:
            return None
        known = [each for each in kinds if each.get("type") != "null"]
        shape = resolved(known[0]) if known else shape
        if isinstance(shape.get("type"), list):
            shape = shape | {"type": next(each for each in shape["type"] if each != "null")}
    else:
        shape = next((each for each in kinds if (each.get("type") == "array") == planned), shape)
    if values := [each for each in shape.get("enum", []) if each]:
        return next((each for each in (first, *FIRST) if each in values), values[0])
    if shape.get("type") == "array":
        enough = depth >= (DEEPEST if full else 2)
        return [] if enough else [example(shape["items"], full=full, first=first, depth=depth + 1)]
    if isinstance(each := shape.get("additionalProperties"), dict):
        return {"x": example(each, full=full, first=first, depth=depth + 1)}
    if shape.get("type") == "object":
        return {
            name: NAMED[name]
            if name in NAMED
            else example(each, full=full, first=first, depth=depth + 1)
            for name, each in shape.get("properties", {}).items()
        }
    return FORMATS.get(shape.get("format", ""), KINDS.get(shape.get("type", ""), "x"))


def operation_of(request: httpx.Request) -> Shape:
    """Return the operation that a request asks for; of several addresses that fit, the most literal
    one. Raises AssertionError where the schema has none.
    """
    fitting = [
        (address.count("{"), found[request.method.lower()])
        for address, found in schema()["paths"].items()
        if request.method.lower() in found
        and re.fullmatch(re.sub(r"\{\w+\}", "[^/]+", address), request.url.path)
    ]
    assert fitting, f"the API has no {request.method} {request.url.path}"
    operation: Shape = min(fitting, key=lambda each: each[0])[1]
    return operation


def fields_of(operation: Shape) -> set[str]:
    """Return the names of an operation's body, in whatever form it may be sent."""
    forms = operation.get("requestBody", {}).get("content", {}).values()
    return {name for form in forms for name in resolved(form["schema"]).get("properties", {})}


class Service:
    """Answers as the schema says, and holds each request against it: ``asked`` are the operations,
    ``sent`` their bodies, ``wrote`` those that may change something and were not a dry run. What has
    a state is in the one named ``first``; ``refused`` says which operations are refused with
    ``status``; ``says`` makes of an operation's example what a test needs.
    """

    def __init__(
        self,
        *,
        full: bool = False,
        first: str = "",
        refused: Callable[[str], bool] = lambda operation: False,
        status: int = 403,
        says: dict[str, Callable[[Any], Any]] | None = None,
    ) -> None:
        self.full, self.first, self.refused, self.status = full, first, refused, status
        self.says = says or {}
        self.asked: list[str] = []
        self.sent: list[dict[str, Any]] = []
        self.wrote: list[str] = []

    def __call__(self, request: httpx.Request) -> httpx.Response:
        """Answer one request. Raises AssertionError where the API would not know it."""
        operation = operation_of(request)
        declared = {
            each["name"] for each in operation.get("parameters", []) if each["in"] == "query"
        }
        assert set(request.url.params) <= declared, "a parameter that the API does not have"
        body, kind = request.read(), request.headers.get("Content-Type", "")
        sent: dict[str, Any] = json.loads(body) if kind == "application/json" else {}
        form = re.findall(rb'form-data; name="(\w+)"', body)
        names = set(sent) | {each.decode() for each in form}
        if "urlencoded" in kind:
            names |= set(httpx.QueryParams(body.decode()))
        assert names <= fields_of(operation), "a field that the API does not have"
        planned = bool(sent.get("dry_run")) or b'name="dry_run"\r\n\r\ntrue' in body
        planned |= operation["operationId"] == GUESSES and "shells" in sent
        self.asked.append(operation["operationId"])
        self.sent.append(sent)
        if request.method != "GET" and not planned:
            self.wrote.append(operation["operationId"])
        if self.refused(operation["operationId"]):
            return httpx.Response(self.status, json=REFUSED)
        return self._answer(operation, planned)

    def _answer(self, operation: Shape, planned: bool) -> httpx.Response:
        good = sorted(code for code in operation["responses"] if code.startswith("2"))
        code = good[0 if planned else -1]
        content = operation["responses"][code].get("content", {})
        if "application/json" not in content:
            return httpx.Response(int(code), content=b"bytes" if content else b"")
        shape = content["application/json"]["schema"]
        answer = example(shape, full=self.full, planned=planned, first=self.first)
        answer = self.says.get(operation["operationId"], lambda found: found)(answer)
        return httpx.Response(int(code), json=answer)
