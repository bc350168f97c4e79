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
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from tools.world import processes
from tools.world.browser import Browser
from tools.world.cluster import ROOT, RUN, Cluster
from tools.world.inside import COMMAND, Insider
from tools.world.laid import laid_cluster
from tools.world.nursery import GUNICORN, Nursery
from tools.world.nursery import MANAGE as MANAGE_COMMAND
from tools.world.ports import free_port
from vennpair.client import VennPair

OTHER_INSTITUTION, STRANGER = "Other College", "sybil.orme@other.example"
INSTITUTION, PLATFORM, PUBLISHER = "Tarnfield College", "Tarnfield Campus", "Kestrelbrook Press"
ADMINISTRATOR, INSTRUCTOR, PASSWORD = (
    "orla.penhale@tarnfield.example",
    "maren.holt@tarnfield.example",
    "rivers-and-groundwater",
)
SITES = ("campus", "press", "vennpair")
MANAGE = {
    "campus": "vennpair.standins.campus.manage",
    "press": "vennpair.standins.press.manage",
    "vennpair": "vennpair.service.manage",
}
_SETTINGS = {
    "campus": "vennpair.standins.campus.settings",
    "press": "vennpair.standins.press.settings",
    "vennpair": "vennpair.service.settings",
}
_QUICK = _SETTINGS | {"vennpair": "tools.world.quick_settings"}
_WSGI = {
    "campus": "vennpair.standins.campus.wsgi",
    "press": "vennpair.standins.press.wsgi",
    "vennpair": "vennpair.service.wsgi",
}


class World:
    """One set of processes; its state lies in ``.run/<name>/state.json``.

    One that is not ``kept`` has a cluster of its own, a copy of the laid one, and hashes passwords
    quickly; ``settings`` are settings of the service, other than its own.
    """

    def __init__(
        self,
        name: str,
        ports: tuple[int, int, int] = (0, 0, 0),
        *,
        kept: bool = True,
        **settings: str,
    ) -> None:
        self.name, self._kept, self._settings = name, kept, settings
        self.home = RUN / name
        self.cluster = Cluster() if kept else Cluster(f"{name}-cluster", throwaway=True)
        self._wanted = dict(zip(SITES, ports, strict=True))
        self._insiders: dict[str, Insider] = {}
        self._nurseries: dict[tuple[str, str], Nursery] = {}
        self._lock = threading.Lock()
        self.state: dict[str, Any] = {}
        if (self.home / "state.json").exists():
            self.state = json.loads((self.home / "state.json").read_text())

    def url(self, site: str) -> str:
        """Return the address of a site."""
        return f"http://127.0.0.1:{self.state['ports'][site]}"

    def start(self, *, fresh: bool = False) -> bool:
        """Start what is down; return whether the world was laid again.

        Addresses are part of what is stored, so a world whose port somebody else took is laid
        again.
        """
        self.home.mkdir(parents=True, exist_ok=True)
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
            self._begin_again()
        self.cluster.start()
        if self._kept:
            with ThreadPoolExecutor(len(SITES)) as threads:
                list(threads.map(lambda site: self._prepare(site, fresh), SITES))
        with ThreadPoolExecutor(len(SITES)) as threads:
            list(threads.map(self.start_site, SITES))
        if fresh:
            self._connect()
            self.state["laid"] = True
        self.state["built"] = _fingerprint()
        self.start_worker()
        self._save()
        return fresh

    def stop(self) -> None:
        """End the processes of this world, and nothing else; its cluster too where it is its own."""
        marks = self.state.get("processes", {})
        for insider in self._insiders.values():
            insider.stop()
        for nursery in self._nurseries.values():
            nursery.stop()
        with ThreadPoolExecutor(8) as threads:
            list(threads.map(processes.end, marks.values()))
        if not self._kept:
            self.cluster.stop("immediate")
        self.state["processes"] = {}
        self._save()

    def start_site(self, site: str) -> None:
        """Start one site if it is down, and wait until it answers."""
        if not processes.alive(self.state["processes"].get(site)):
            bind = f"127.0.0.1:{self.state['ports'][site]}"
            # A stand-in may hold all that the service has in flight at once, and still answers.
            threads = "8" if site == "vennpair" else "64"
            words = ["-w", "1", "--threads", threads, "-b", bind, "--graceful-timeout", "3"]
            words += ["--no-control-socket", "--limit-request-line", "8190"]
            words += [f"{_WSGI[site]}:application"]
            self._begin(site, site, GUNICORN, words, self._environment(site))
        address = self.url(site) + ("/api/v1/health" if site == "vennpair" else "/")
        self._wait(site, address)

    def start_web(self, name: str, host: str) -> str:
        """Start one more web process of the service, which people reach by another name of this
        machine; return its address.
        """
        port = free_port()
        address = f"http://{host}:{port}"
        words = ["-w", "1", "--threads", "8", "-b", f"127.0.0.1:{port}"]
        command = [sys.executable, "-m", "gunicorn", *words, f"{_WSGI['vennpair']}:application"]
        environment = self._environment("vennpair") | {"VENNPAIR_URL": address}
        self.state["processes"][name] = processes.begin(
            command, environment, self.home / f"{name}.log"
        )
        self._wait(name, f"{address}/api/v1/health")
        return address

    def start_worker(self, name: str = "worker") -> None:
        """Start a worker if it is down."""
        if not processes.alive(self.state["processes"].get(name)):
            environment = self._environment("vennpair") | {"VENNPAIR_DATABASE_POOL": "false"}
            self._begin(name, "vennpair", MANAGE_COMMAND, ["work"], environment)

    def second_college(self) -> str:
        """Make one more institution, unless it is there, with an administrator of its own who has
        the usual password; return that person's name.
        """
        words = ("--institution", OTHER_INSTITUTION, "--admin", STRANGER, "--password", PASSWORD)
        self.manage("vennpair", "install", *words)
        return STRANGER

    @contextmanager
    def without_database(self, how: str = "fast") -> Iterator[None]:
        """Take the database away while inside; afterwards the service answers again, so that nobody
        who comes next meets the outage.
        """
        self.cluster.stop(how)
        try:
            yield
        finally:
            self.cluster.start()
            self.start_site("vennpair")

    def end(self, name: str, how: signal.Signals = signal.SIGTERM) -> None:
        """End one process; SIGKILL lets it finish nothing."""
        processes.end(self.state["processes"].get(name), how)

    def insider(self, site: str) -> Insider:
        """Return who answers inside a site (``tools/world/inside.py``)."""
        if site not in self._insiders:
            environment = self._environment(site) | {"VENNPAIR_DATABASE_POOL": "false"}
            log = str(self.home / f"{site}-inside.log")
            settings = environment["DJANGO_SETTINGS_MODULE"]
            self._insiders[site] = Insider(site, settings, environment, log)
        return self._insiders[site]

    def manage(self, site: str, *words: str) -> str:
        """Run a management command inside a site; return what it prints.

        Raises RuntimeError with its words.
        """
        return str(self.insider(site).ask(COMMAND, words, {}))

    def run_apart(self, site: str, *words: str) -> str:
        """Run a management command as a process of its own, for measuring; return what it prints.

        Raises SystemExit with its words.
        """
        done = subprocess.run(
            [sys.executable, "-m", MANAGE[site], *words],
            env=os.environ | self._environment(site),
            capture_output=True,
            text=True,
            cwd=ROOT,
        )
        if done.returncode:
            raise SystemExit(f"{site}: '{words[0]}' failed:\n{done.stderr.strip()}")
        return done.stdout

    def _begin(
        self, name: str, site: str, what: str, words: list[str], environment: dict[str, str]
    ) -> None:
        """Start a process of a site; of a world that nobody keeps, as a fork of its nursery."""
        log = self.home / f"{name}.log"
        if self._kept:
            module = "gunicorn" if what == GUNICORN else MANAGE[site]
            command = [sys.executable, "-m", module, *words]
            self.state["processes"][name] = processes.begin(command, environment, log)
        else:
            number = self._nursery(site, what, environment).begin(what, words, log)
            self.state["processes"][name] = processes.mark_of(number)
        self._save()

    def _nursery(self, site: str, what: str, environment: dict[str, str]) -> Nursery:
        with self._lock:
            if (site, what) not in self._nurseries:
                log = self.home / f"{site}-nursery.log"
                settings = environment["DJANGO_SETTINGS_MODULE"]
                made = Nursery(settings, _WSGI[site], environment, log)
                self._nurseries[site, what] = made
            return self._nurseries[site, what]

    def _begin_again(self) -> None:
        """Forget what was; where nobody keeps the world, begin with a copy of the laid cluster."""
        self.stop()
        self.state = {
            "kept": self._kept,
            "ports": self._choose_ports(),
            "secrets": {site: secrets.token_urlsafe(32) for site in SITES},
            "box": base64.urlsafe_b64encode(os.urandom(32)).decode(),
            "processes": {},
        }
        self._insiders, self._nurseries = {}, {}
        if not self._kept:
            self.cluster.copy_from(laid_cluster())

    def _prepare(self, site: str, fresh: bool) -> None:
        """Make the database and bring its tables up to date, unless its process already
        runs on it.
        """
        if fresh or not processes.alive(self.state["processes"].get(site)):
            self.cluster.ensure_database(self._database(site), fresh=fresh)
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
            "DJANGO_SETTINGS_MODULE": (_SETTINGS if self._kept else _QUICK)[site],
            f"{prefix}_URL": self.url(site),
            f"{prefix}_SECRET_KEY": self.state["secrets"][site],
            f"{prefix}_DATABASE_URL": f"{self.cluster.url}/{self._database(site)}",
        }
        if site == "vennpair":
            values |= {"VENNPAIR_SECRETS_KEYS": self.state["box"], **self._settings}
        return values

    def _database(self, site: str) -> str:
        return f"{site}_{self.name}" if self._kept else site

    def _choose_ports(self) -> dict[str, int]:
        return {site: free_port(wanted) for site, wanted in self._wanted.items()}

    def _wait(self, name: str, address: str) -> None:
        deadline = time.monotonic() + 40
        while time.monotonic() < deadline:
            try:
                # our own loopback address
                with urllib.request.urlopen(address, timeout=5):  # noqa: S310
                    return
            except (urllib.error.URLError, OSError):
                time.sleep(0.1)
        raise SystemExit(f"{name} does not answer at {address}; see {self.home / f'{name}.log'}")

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
