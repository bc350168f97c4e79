"""Write docs/openapi.yaml from the service's code.

With --check, only say whether it is up to date.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path

from tools.house.cluster import ROOT

KEPT = ROOT / "docs" / "openapi.yaml"
# The schema depends on no setting; these only let the settings module load.
ENVIRONMENT = {
    "VENNPAIR_URL": "http://127.0.0.1",
    "VENNPAIR_SECRET_KEY": "unused",
    "VENNPAIR_SECRETS_KEYS": "unused",
    "VENNPAIR_DATABASE_URL": "postgres://127.0.0.1/unused",
    "VENNPAIR_DATABASE_POOL": "false",
}


def main() -> None:
    """Run."""
    with tempfile.TemporaryDirectory() as folder:
        fresh = Path(folder) / "openapi.yaml"
        command = [
            sys.executable,
            "-m",
            "vennpair.service.manage",
            "spectacular",
            "--validate",
            "--fail-on-warn",
            "--file",
            str(fresh),
        ]
        subprocess.run(command, check=True, env=os.environ | ENVIRONMENT)
        if "--check" not in sys.argv:
            KEPT.write_bytes(fresh.read_bytes())
        elif KEPT.read_bytes() != fresh.read_bytes():
            raise SystemExit(
                "docs/openapi.yaml is not what the code says; run: python -m tools.schema && (cd"
                " console && npm run types)"
            )


if __name__ == "__main__":
    main()
