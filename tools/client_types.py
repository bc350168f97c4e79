"""The objects of the API as typed dictionaries for the Python client, made from the schema."""

from __future__ import annotations

import textwrap
from typing import Any

Schema = dict[str, Any]
HEAD = '''"""The objects of the service's API; made from docs/openapi.yaml by tools/schema.py.

Times are ISO 8601 text with their zone, ids and exact decimals are text; what the service leaves
out is ``NotRequired``, what it does not know is None.
"""

from __future__ import annotations

from typing import Any, Literal, NotRequired, TypedDict

'''
PLAIN = {"string": "str", "integer": "int", "number": "float", "boolean": "bool", "null": "None"}


def write_types(schemas: dict[str, Schema]) -> str:
    """Return the module's text: choices first, then objects, each in the order of their names."""
    wanted = {name: each for name, each in schemas.items() if not name.startswith("Paginated")}
    choices = [_choice(name, each) for name, each in wanted.items() if "enum" in each]
    objects = [_object(name, each) for name, each in wanted.items() if "enum" not in each]
    return HEAD + "\n".join(choices) + "\n\n\n" + "\n\n\n".join(objects) + "\n"


def _choice(name: str, schema: Schema) -> str:
    return f"{name} = Literal[{', '.join(repr(value) for value in schema['enum'])}]"


def _object(name: str, schema: Schema) -> str:
    required = set(schema.get("required", ()))
    fields = [
        f"    {field}: {_field(each, field in required)}"
        for field, each in schema.get("properties", {}).items()
    ]
    doc = textwrap.indent(_doc(schema.get("description", name)), "    ")
    return f"class {name}(TypedDict):\n{doc}\n\n" + "\n".join(fields)


def _doc(words: str) -> str:
    lines = [line for part in words.split("\n\n") for line in textwrap.wrap(part, 90)]
    if len(lines) == 1:
        return f'"""{lines[0]}"""'
    return '"""' + "\n".join(lines) + '\n"""'


def _field(schema: Schema, required: bool) -> str:
    kind = _type(schema)
    return kind if required else f"NotRequired[{kind}]"


def _type(schema: Schema) -> str:
    """Return the Python type of a schema, Any where it says nothing."""
    if "$ref" in schema:
        return str(schema["$ref"].rpartition("/")[2])
    for several in ("oneOf", "anyOf", "allOf"):
        if several in schema:
            kinds = dict.fromkeys(_type(each) for each in schema[several])
            return " | ".join([*kinds, *(["None"] if schema.get("nullable") else [])])
    kinds = schema.get("type", [])
    named = [kinds] if isinstance(kinds, str) else list(kinds)
    return " | ".join(dict.fromkeys(_one(kind, schema) for kind in named)) or "Any"


def _one(kind: str, schema: Schema) -> str:
    if kind == "array":
        return f"list[{_type(schema.get('items', {}))}]"
    if kind != "object":
        return PLAIN[kind]
    values = schema.get("additionalProperties")
    return f"dict[str, {_type(values) if isinstance(values, dict) else 'Any'}]"
