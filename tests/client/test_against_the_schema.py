"""The client against the kept schema: each method asks for an operation that is there, with no
parameter or field that it does not have, and takes what the schema says that it answers.
"""

from __future__ import annotations

import inspect
import json
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest
from tools.world.asked import schema

from vennpair.client import VennPair

METHODS = sorted(
    name
    for name, _ in inspect.getmembers(VennPair, inspect.isfunction)
    if not name.startswith("_") and name != "close"
)
SAMPLES: dict[str, Any] = {
    "str": "x",
    "str | None": "x",
    "int": 7,
    "float": 7.0,
    "bool": True,
    "list[str]": ["x"],
    "Sequence[str]": ["x"],
    "Mapping[str, str] | None": {"x": "y"},
    "dict[str, Any]": {},
    "Sequence[Drift]": [{"id": "d"}],
    "Sequence[tuple[str, str]]": [("x", "y")],
    "Sequence[tuple[str, str | Mapping[str, Any] | None]]": [("x", "y")],
    "Job": {"id": "j", "state": "queued", "message": "", "remedy": ""},
}
NAMED = {"way": "title"}  # what is a name of a field itself
# What docstrings of free parameters name beside fields: values, and what is answered.
NO_FIELDS = {"card", "dry_run", "how", "job", "paused"}
Shape = dict[str, Any]


def resolved(shape: Shape) -> Shape:
    """Follow references; what is one of several, or all of them, has the fields of each."""
    while "$ref" in shape:
        shape = schema()["components"]["schemas"][shape["$ref"].rsplit("/", 1)[-1]]
    parts = [resolved(each) for name in ("allOf", "oneOf") for each in shape.get(name, [])]
    if not parts or any(part.get("type") != "object" for part in parts):
        return parts[0] | {"others": parts[1:]} if parts else shape
    fields = {name: each for part in parts for name, each in part.get("properties", {}).items()}
    return {"type": "object", "properties": fields}


def example(shape: Shape, *, planned: bool = False, depth: int = 0) -> Any:
    """Return a value of a shape, with every field; ``planned`` prefers the list of a plan."""
    shape = resolved(shape)
    kinds = [shape, *shape.get("others", [])]
    if "null" in str([each.get("type") for each in kinds]):
        return None
    shape = next((each for each in kinds if (each.get("type") == "array") == planned), shape)
    if "enum" in shape:
        return "done" if "done" in shape["enum"] else shape["enum"][0]
    if shape.get("type") == "array":
        return [] if depth > 3 else [example(shape["items"], depth=depth + 1)]
    if shape.get("type") == "object":
        fields = shape.get("properties", {}).items()
        return {
            name: None if name == "next" else example(each, depth=depth + 1)
            for name, each in fields
        }
    return {"integer": 1, "number": 1.0, "boolean": True}.get(shape.get("type", ""), "x")


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
    """Answers as the schema says, and holds each request against it."""

    def __init__(self) -> None:
        self.asked: list[str] = []

    def __call__(self, request: httpx.Request) -> httpx.Response:
        """Answer one request. Raises AssertionError where the API would not know it."""
        operation = operation_of(request)
        self.asked.append(operation["operationId"])
        declared = {
            each["name"] for each in operation.get("parameters", []) if each["in"] == "query"
        }
        assert set(request.url.params) <= declared, "a parameter that the API does not have"
        body, kind = request.read(), request.headers.get("Content-Type", "")
        sent: dict[str, Any] = json.loads(body) if kind == "application/json" else {}
        names = set(sent) | {
            each.decode() for each in re.findall(rb'form-data; name="(\w+)"', body)
        }
        if "urlencoded" in kind:
            names |= set(httpx.QueryParams(body.decode()))
        assert names <= fields_of(operation), "a field that the API does not have"
        planned = bool(sent.get("dry_run"))
        good = sorted(code for code in operation["responses"] if code.startswith("2"))
        code = good[0 if planned else -1]
        content = operation["responses"][code].get("content", {})
        if "application/json" not in content:
            return httpx.Response(int(code), content=b"bytes" if content else b"")
        shape = content["application/json"]["schema"]
        return httpx.Response(int(code), json=example(shape, planned=planned))


def given(method: Any, folder: Path) -> dict[str, Any]:
    """Return something for every parameter of a method; of free ones, those that it documents."""
    (folder / "file").write_bytes(b"bytes")
    found: dict[str, Any] = {}
    for name, each in list(inspect.signature(method).parameters.items())[1:]:
        if each.kind is inspect.Parameter.VAR_KEYWORD:
            words = re.findall(r"``([a-z_]+)``", inspect.getdoc(method) or "")
            found |= {word: "x" for word in words if word not in NO_FIELDS}
        elif each.annotation.startswith("Path"):
            found[name] = folder / "file"
        elif name in NAMED or each.annotation in SAMPLES:
            found[name] = NAMED.get(name, SAMPLES.get(each.annotation))
        else:  # how progress is told, or what has no value of its own here
            assert each.default is not inspect.Parameter.empty, f"nothing to give for {name}"
    return found


@pytest.mark.parametrize("name", METHODS)
def test_a_method_asks_what_the_api_has_and_takes_what_it_answers(
    name: str, tmp_path: Path
) -> None:
    service = Service()
    words = given(getattr(VennPair, name), tmp_path)
    with VennPair("https://pair.example", "t", transport=httpx.MockTransport(service)) as venn:
        answer = getattr(venn, name)(**words)
        if isinstance(answer, Iterator):
            assert list(answer), "the schema's example has one row"
    assert service.asked, "nothing was asked"
