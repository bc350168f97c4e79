"""The client against the kept schema: each method asks for an operation that is there, with no
parameter or field that it does not have, and takes what the schema says that it answers.
"""

from __future__ import annotations

import inspect
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest
from tests.client.schema_service import Service

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
    service = Service(full=True)
    words = given(getattr(VennPair, name), tmp_path)
    with VennPair("https://pair.example", "t", transport=httpx.MockTransport(service)) as venn:
        answer = getattr(venn, name)(**words)
        if isinstance(answer, Iterator):
            assert list(answer), "the schema's example has one row"
    assert service.asked, "nothing was asked"
