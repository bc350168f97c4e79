"""Write what is made from the code: docs/openapi.yaml, from that the types of the Python client
(src/vennpair/client/schema.py), the table of a sheet's fields in docs/deploying.md, and
docs/term-sheet.schema.json. The console's types are made by `npm run types`.

With --check, only say whether all are up to date.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

import yaml

from tools.client_types import write_types
from tools.world.cluster import ROOT
from vennpair.core.deploy.sheet import description_of
from vennpair.core.deploy.term_sheet import json_schema

KEPT = ROOT / "docs" / "openapi.yaml"
TYPES = ROOT / "src" / "vennpair" / "client" / "schema.py"
SHEET = ROOT / "docs" / "deploying.md"
TERM = ROOT / "docs" / "term-sheet.schema.json"
BEGIN, END = "<!-- sheet: made by tools/schema.py -->", "<!-- /sheet -->"
# The schema depends on no setting; these only let the settings module load.
ENVIRONMENT = {
    "VENNPAIR_URL": "http://127.0.0.1",
    "VENNPAIR_SECRET_KEY": "unused",
    "VENNPAIR_SECRETS_KEYS": "0" * 43 + "=",
    "VENNPAIR_DATABASE_URL": "postgres://127.0.0.1/unused",
    "VENNPAIR_DATABASE_POOL": "false",
}
REMEDY = "run: python -m tools.schema && (cd console && npm run types)"


def main() -> None:
    """Run."""
    made = {
        KEPT: (fresh := _schema()),
        TYPES: _types(fresh),
        SHEET: _with_table(SHEET.read_text()),
        TERM: json.dumps(json_schema(), indent=2) + "\n",
    }
    for path, text in made.items():
        if "--check" not in sys.argv:
            path.write_text(text)
        elif not path.exists() or path.read_text() != text:
            raise SystemExit(f"{path.relative_to(ROOT)} is not what the code says; {REMEDY}")


def _schema() -> str:
    """Return the schema as the service's code gives it."""
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "openapi.yaml"
        command = [sys.executable, "-m", "vennpair.service.manage", "spectacular"]
        command += ["--validate", "--fail-on-warn", "--file", str(file)]
        subprocess.run(command, check=True, env=os.environ | ENVIRONMENT)
        return file.read_text()


def _types(schema: str) -> str:
    """Return the client's types, formatted as all our code is."""
    text = write_types(yaml.load(schema, Loader=yaml.CSafeLoader)["components"]["schemas"])
    ruff = [
        str(Path(sys.executable).parent / "ruff"),
        "format",
        "--stdin-filename",
        str(TYPES),
        "-",
    ]
    return subprocess.run(ruff, input=text, capture_output=True, text=True, check=True).stdout


def _with_table(text: str) -> str:
    """Return the page with the table of the sheet's fields as they are described now."""
    before, _, rest = text.partition(BEGIN)
    rows = ["| key in a file | option | what it says |", "| --- | --- | --- |"]
    for each, said in description_of():
        option = f"`{said.option}`" if said.option else ""
        rows.append(f"| `{each.name}` | {option} | {said.help} |")
    return "\n".join([before + BEGIN, *rows, END]) + rest.partition(END)[2]


if __name__ == "__main__":
    main()
