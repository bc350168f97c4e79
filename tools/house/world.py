"""A world: campus, press, the service and its worker, each a process with a database of its own.

The demo is one world, the tests have another; both are started by this.
"""

from __future__ import annotations

import base64
import hashlib
import json
import os
import secrets
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

from tools.house import processes
from tools.house.browser import Browser
from tools.house.cluster import ROOT, RUN, cluster_url, ensure_database, free_port, start_cluster
from vennpair.client import VennPair

INSTITUTION, PLATFORM, PUBLISHER = "Tarnfield College", "Tarnfield Campus", "Kestrelbrook Press"
ADMINISTRATOR, INSTRUCTOR, PASSWORD = (
    "orla.penhale@tarnfield.example",
    "maren.holt@tarnfield.example",
    "rivers-and-groundwater",
)
SITES = ("campus", "press", "vennpair")
_MANAGE = {
    "campus": "vennpair.standins.campus.manage",
    "press": "vennpair.standins.press.manage",
    "vennpair": "vennpair.service.manage",
}
_WSGI = {
    "campus": "vennpair.standins.campus.wsgi",
    "press": "vennpair.standins.press.wsgi",
    "vennpair": "vennpair.service.wsgi",
}


class World:
    """One set of processes; its state lives in ``.run/<name>/state.json``."""

    def __init__(self, name: str, ports: tuple[int, int, int] = (0, 0, 0), **settings: str) -> None:
        self.name, self._settings = name, settings  # settings of the service, other than its own
        self.home = RUN / name
        self._wanted = dict(zip(SITES, ports, strict=True))
        self.state: dict[str, Any] = {}
        if (self.home / "state.json").exists():
            self.state = json.loads((self.home / "state.json").read_text())

    def url(self, site: str) -> str:
        """Return the address of a site."""
        return f"http://127.0.0.1:{self.state['ports'][site]}"

    def start(self, *, fresh: bool = False) -> bool:
        """Start what is down; return whether the world was laid anew.

        Addresses are part of what is stored, so a world whose port somebody else took is laid anew.
        """
        self.home.mkdir(parents=True, exist_ok=True)
        start_cluster()
        marks = self.state.get("processes", {})
        down = [site for site in SITES if not processes.alive(marks.get(site))]
        moved = any(
            free_port(port) != port
            for site, port in self.state.get("ports", {}).items()
            if site in down
        )
        fresh = fresh or moved or not self.state.get("laid")
        if not fresh and self.state.get("built") != _fingerprint():
            self.stop()  # the code has changed since they were started
        if fresh:
            self.stop()
            self.state = {
                "ports": self._choose_ports(),
                "secrets": {site: secrets.token_urlsafe(32) for site in SITES},
                "box": base64.urlsafe_b64encode(os.urandom(32)).decode(),
                "processes": {},
            }
        with ThreadPoolExecutor(3) as threads:
            list(threads.map(lambda site: self._prepare(site, fresh), SITES))
        for site in SITES:
            self.start_site(site)
        if fresh:
            self._connect()
            self.state["laid"] = True
        self.state["built"] = _fingerprint()
        self.start_worker()
        self._save()
        return fresh

    def stop(self) -> None:
        """End the processes of this world, and nothing else."""
        marks = self.state.get("processes", {})
        with ThreadPoolExecutor(8) as threads:
            list(threads.map(processes.end, marks.values()))
        self.state["processes"] = {}
        self._save()

    def start_site(self, site: str) -> None:
        """Start one site if it is down, and wait until it answers."""
        if not processes.alive(self.state["processes"].get(site)):
            bind = f"127.0.0.1:{self.state['ports'][site]}"
            command = [
                sys.executable,
                "-m",
                "gunicorn",
                "-w",
                "1",
                "--threads",
                "8",
                "-b",
                bind,
                "--graceful-timeout",
                "3",
                "--no-control-socket",
                "--limit-request-line",
                "8190",
                f"{_WSGI[site]}:application",
            ]
            self.state["processes"][site] = processes.begin(
                command, self._environment(site), self.home / f"{site}.log"
            )
            self._save()
        self._wait(site)

    def start_worker(self, name: str = "worker") -> None:
        """Start a worker if it is down."""
        if not processes.alive(self.state["processes"].get(name)):
            command = [sys.executable, "-m", _MANAGE["vennpair"], "work"]
            self.state["processes"][name] = processes.begin(
                command,
                self._environment("vennpair") | {"VENNPAIR_DATABASE_POOL": "false"},
                self.home / f"{name}.log",
            )
            self._save()

    def end(self, name: str, how: signal.Signals = signal.SIGTERM) -> None:
        """End one process; SIGKILL lets it finish nothing."""
        processes.end(self.state["processes"].get(name), how)

    def manage(self, site: str, *words: str, given: str = "") -> str:
        """Run a management command of a site; return what it prints.

        Raises SystemExit with its words.
        """
        done = subprocess.run(
            [sys.executable, "-m", _MANAGE[site], *words],
            env=os.environ | self._environment(site),
            input=given,
            capture_output=True,
            text=True,
            cwd=ROOT,
        )
        if done.returncode:
            raise SystemExit(f"{site}: '{' '.join(words[:1])}' failed:\n{done.stderr.strip()}")
        return done.stdout

    def _prepare(self, site: str, fresh: bool) -> None:
        """Make the database and bring its tables up to date, unless its process already
        runs on it.
        """
        if fresh or not processes.alive(self.state["processes"].get(site)):
            ensure_database(self._database(site), fresh=fresh)
            self.manage(site, "migrate", "--verbosity", "0")
            if fresh and site != "vennpair":
                self.manage(site, "seed")

    def _connect(self) -> None:
        """Make the three known to one another, as administrators would: dynamic registration in
        both roles.
        """
        service = self.url("vennpair")
        self.manage(
            "vennpair",
            "install",
            "--institution",
            INSTITUTION,
            "--timezone",
            "America/Chicago",
            "--admin",
            ADMINISTRATOR,
            "--password",
            PASSWORD,
        )
        with self.administrator() as venn:
            link = json.loads(self.manage("campus", "registration_token"))
            venn.register_at_platform(
                link["openid_configuration"], link["registration_token"], PLATFORM
            )
            page = Browser().get(
                venn.invite_publisher(f"{self.url('press')}/lti/register", PUBLISHER)["open"]
            )
            access = {
                name: page.tree.xpath(f"string(//dd[@id='{mark}'])")
                for name, mark in (
                    ("oneroster_client_id", "client-id"),
                    ("oneroster_secret", "secret"),
                )
            }
            publisher = next(each for each in venn.publishers() if each["name"] == PUBLISHER)
            venn.change_publisher(publisher["id"], **access)
            failed = [
                step for step in venn.check_publisher(publisher["id"]) if step["state"] == "fail"
            ]
        if failed or not access["oneroster_secret"]:
            raise SystemExit(
                f"the publisher at {self.url('press')} and the service at {service} do not work"
                f" together: {failed}"
            )

    def administrator(self) -> VennPair:
        """Return a client that is signed in as the administrator."""
        with VennPair(self.url("vennpair")) as stranger:
            return VennPair(
                self.url("vennpair"), stranger.sign_in(ADMINISTRATOR, PASSWORD)["token"]
            )

    def _environment(self, site: str) -> dict[str, str]:
        prefix = site.upper()
        values = {
            f"{prefix}_URL": self.url(site),
            f"{prefix}_SECRET_KEY": self.state["secrets"][site],
            f"{prefix}_DATABASE_URL": f"{cluster_url()}/{self._database(site)}",
        }
        return values | (
            {"VENNPAIR_SECRETS_KEYS": self.state["box"], **self._settings}
            if site == "vennpair"
            else {}
        )

    def _database(self, site: str) -> str:
        return f"{site}_{self.name}"

    def _choose_ports(self) -> dict[str, int]:
        chosen: dict[str, int] = {}
        for site, wanted in self._wanted.items():
            port = free_port(wanted)
            while port in chosen.values():
                port = free_port()
            chosen[site] = port
        return chosen

    def _wait(self, site: str) -> None:
        address = self.url(site) + ("/api/v1/health" if site == "vennpair" else "/")
        deadline = time.monotonic() + 40
        while time.monotonic() < deadline:
            try:
                # our own loopback address
                with urllib.request.urlopen(address, timeout=5):  # noqa: S310
                    return
            except (urllib.error.URLError, OSError):
                time.sleep(0.1)
        raise SystemExit(f"{site} does not answer at {address}; see {self.home / f'{site}.log'}")

    def _save(self) -> None:
        self.home.mkdir(parents=True, exist_ok=True)
        kept: Path = self.home / "state.json"
        kept.write_text(json.dumps(self.state, indent=1))
        kept.chmod(0o600)


def _fingerprint() -> str:
    """Return what tells one state of the code and the built console from another."""
    digest = hashlib.sha256()
    for path in sorted(
        [
            *(ROOT / "src").rglob("*.py"),
            *(ROOT / "src").rglob("*.html"),
            ROOT / "console" / "dist" / ".stamp",
        ]
    ):
        if path.exists():
            digest.update(f"{path}\n".encode() + path.read_bytes())
    return digest.hexdigest()[:16]
