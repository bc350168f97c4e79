"""Content: packages, imports and their entries, deliveries, written cartridges, items and the
catalogue.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

from vennpair.client.schema import (
    Catalogue,
    Delivery,
    DeliveryPlan,
    Entry,
    Import,
    Item,
    Job,
    Package,
    Written,
)
from vennpair.client.transport import Transport

PIECE = 1 << 20


class Content(Transport):
    """The part of the client that brings content in."""

    def items(self, pairing: str, **filters: str) -> Iterator[Item]:
        """Yield the items, filtered by ``kind``, ``unit``, ``subject``, ``q`` or ``placed``."""
        return self._list(Item, f"/pairings/{pairing}/items", filters)

    def refresh_catalogue(self, pairing: str) -> Catalogue:
        """Read the publisher's catalogue now; return what changed since the last time."""
        return self._post(Catalogue, f"/pairings/{pairing}/catalogue", {})

    def catalogue(self, pairing: str) -> list[Catalogue]:
        """Return the last readings of the catalogue, the newest first."""
        return self._get(list[Catalogue], f"/pairings/{pairing}/catalogue")

    def send_package(
        self,
        pairing: str,
        file: Path,
        progress: Callable[[int, int], None] = lambda done, total: None,
    ) -> Package:
        """Send a cartridge in parts; one that broke off goes on where it was.

        Raises OSError where the file cannot be read.
        """
        size = file.stat().st_size
        package = self._post(
            Package,
            f"/pairings/{pairing}/packages",
            {"filename": file.name, "size": size, "fingerprint": _fingerprint(file)},
        )
        there, length = set(package["received"]), package["part_bytes"]
        with file.open("rb") as handle:
            for number in range(-(-size // length)):
                if number not in there:
                    handle.seek(number * length)
                    path = f"/pairings/{pairing}/packages/{package['id']}/parts/{number}"
                    package = self._call(
                        Package,
                        "PUT",
                        path,
                        content=handle.read(length),
                        extra={"Content-Type": "application/octet-stream"},
                    )
                progress(min((number + 1) * length, size), size)
        return package

    def start_import(self, pairing: str, package: str = "", *, catalogue: bool = False) -> Import:
        """Start reading a cartridge: the publisher's, or a package that was sent.

        Or the publisher's catalogue, without any.
        """
        asked = (
            {"source": "upload", "package": package}
            if package
            else {"source": "catalogue" if catalogue else "publisher"}
        )
        return self._post(Import, f"/pairings/{pairing}/imports", asked)

    def imports(self, pairing: str) -> Iterator[Import]:
        """Yield the imports, the newest first."""
        return self._list(Import, f"/pairings/{pairing}/imports")

    def import_of(self, pairing: str, import_id: str) -> Import:
        """Return one import with its report."""
        return self._get(Import, f"/pairings/{pairing}/imports/{import_id}")

    def stop_import(self, pairing: str, import_id: str) -> Job:
        """Stop what an import is doing."""
        return self._post(Job, f"/pairings/{pairing}/imports/{import_id}/stop", {})

    def entries(self, pairing: str, import_id: str, **filters: str) -> Iterator[Entry]:
        """Yield an import's outline, filtered by ``kind``, ``state``, ``q`` or ``attention``."""
        return self._list(Entry, f"/pairings/{pairing}/imports/{import_id}/entries", filters)

    def preview(self, pairing: str, import_id: str, entry: str) -> dict[str, Any]:
        """Return a look at one entry."""
        return self._get(
            dict[str, Any], f"/pairings/{pairing}/imports/{import_id}/entries/{entry}/preview"
        )

    def rename_entries(
        self,
        pairing: str,
        import_id: str,
        *,
        names: Mapping[str, str] | None = None,
        entries: Sequence[str] = (),
        pattern: str = "",
        dry_run: bool = False,
    ) -> list[dict[str, str]]:
        """Rename by id, or many by a pattern; return the names before and after."""
        asked = {
            "names": dict(names or {}),
            "entries": list(entries),
            "pattern": pattern,
            "dry_run": dry_run,
        }
        return self._post(
            list[dict[str, str]], f"/pairings/{pairing}/imports/{import_id}/entries/rename", asked
        )

    def match_entry(self, pairing: str, import_id: str, entry: str, item: str | None) -> Entry:
        """Say which graded item a link opens, or none."""
        return self._post(
            Entry, f"/pairings/{pairing}/imports/{import_id}/entries/{entry}/match", {"item": item}
        )

    def plan_delivery(self, pairing: str, import_id: str, **order: Any) -> DeliveryPlan:
        """Say what bringing entries in would do: ``everything``, ``entries``, ``kinds``, ``words``,
        ``review``, ``folder``, ``columns``.
        """
        return self._post(
            DeliveryPlan,
            f"/pairings/{pairing}/imports/{import_id}/deliveries",
            order | {"dry_run": True},
        )

    def deliver(self, pairing: str, import_id: str, **order: Any) -> Delivery:
        """Start bringing entries in."""
        return self._post(Delivery, f"/pairings/{pairing}/imports/{import_id}/deliveries", order)

    def deliveries(self, pairing: str, import_id: str) -> list[Delivery]:
        """Return what was brought in and taken out, the newest first."""
        return self._get(list[Delivery], f"/pairings/{pairing}/imports/{import_id}/deliveries")

    def last_delivery(self, pairing: str, import_id: str) -> Delivery | None:
        """Return what was brought in last and not taken out since, None where nothing is. It is
        undone by its job's id (``undo_operation``).
        """
        rows = self.deliveries(pairing, import_id)
        gone = {each["undoes"] for each in rows if each["job"]["state"] == "done"}
        return next((each for each in rows if not each["undoes"] and each["id"] not in gone), None)

    def write_cartridge(
        self, pairing: str, import_id: str, profile: str = "full", **order: Any
    ) -> Written:
        """Start writing entries as a cartridge."""
        return self._post(
            Written,
            f"/pairings/{pairing}/imports/{import_id}/written",
            order | {"profile": profile},
        )

    def written(self, pairing: str, import_id: str) -> list[Written]:
        """Return the cartridges written from an import, the newest first."""
        return self._get(list[Written], f"/pairings/{pairing}/imports/{import_id}/written")

    def fetch_package(self, pairing: str, package: str, target: Path) -> None:
        """Save a package's bytes, piece by piece. Raises OSError where the file cannot be
        written.
        """
        self._download(f"/pairings/{pairing}/packages/{package}/content", target)


def _fingerprint(file: Path) -> str:
    """Return what tells a file from others: the SHA-256 of its bytes, read piece by piece."""
    digest = hashlib.sha256()
    with file.open("rb") as handle:
        while piece := handle.read(PIECE):
            digest.update(piece)
    return digest.hexdigest()
