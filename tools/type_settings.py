"""Settings by which the type checker learns the models of the service and of both stand-ins."""

import os

for _prefix in ("VENNPAIR", "CAMPUS", "PRESS"):
    os.environ.setdefault(f"{_prefix}_URL", "http://127.0.0.1:1")
    os.environ.setdefault(f"{_prefix}_SECRET_KEY", "only for checking types")
    os.environ.setdefault(f"{_prefix}_DATABASE_URL", "postgres://nobody@127.0.0.1:1/none")
os.environ.setdefault("VENNPAIR_SECRETS_KEYS", "0" * 43 + "=")

from vennpair.service.settings import *  # noqa: E402, F403

INSTALLED_APPS = [
    *INSTALLED_APPS,  # noqa: F405
    "vennpair.standins.campus",
    "vennpair.standins.press",
]
