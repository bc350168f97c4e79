"""What shells hold and offer now, read side by side for a plan."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

from django.utils import timezone

from vennpair.core.deploy.capabilities import Offers
from vennpair.core.deploy.plan import ShellSnapshot
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.connect.gateways import platform_gateway
from vennpair.service.content.models import Placement
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.concurrency import IN_FLIGHT
from vennpair.service.pair.consent import consent_needed
from vennpair.service.pair.models import Consent, Pairing, Shell
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.outline import Node
from vennpair.standards.outline.gradebook import Gradebook


@dataclass(frozen=True, slots=True)
class ShellRead:
    """A shell's outline, the parts of the protocol that it offers, and its gradebook's order where
    it tells it.
    """

    outline: tuple[Node, ...]
    offers: frozenset[str]
    book: Gradebook | None


def read_shell(gateway: PlatformGateway, url: str) -> ShellRead:
    """Read one shell. Raises OutsideError."""
    nodes, offers = gateway.outline_and_offers(url)
    return ShellRead(
        tuple(nodes), offers, gateway.gradebook(url) if "gradebook" in offers else None
    )


def snapshots(pairings: Sequence[Pairing]) -> dict[str, ShellSnapshot]:
    """Read all shells at once; return by pairing what each holds. Raises Refused, OutsideError."""
    found, hindered = read_shells(pairings)
    for error in hindered.values():
        raise error
    return found


def read_shells(
    pairings: Sequence[Pairing],
) -> tuple[dict[str, ShellSnapshot], dict[str, Refused | OutsideError]]:
    """Read all shells at once; return by pairing what each holds, and of those that cannot be read
    or written to, why.
    """
    hindered: dict[str, Refused | OutsideError] = dict(_closed(pairings))
    open_ = [each for each in pairings if str(each.pk) not in hindered]
    gateways = {each.shell.platform_id: each.shell.platform for each in open_}
    opened = {key: platform_gateway(platform) for key, platform in gateways.items()}
    titles: dict[str, list[str]] = {}
    for owner, title in Placement.objects.filter(
        pairing__in=open_, state=Placement.State.PLACED
    ).values_list("pairing_id", "title"):
        titles.setdefault(str(owner), []).append(title)

    def read(shell: Shell) -> ShellRead:
        return read_shell(opened[shell.platform_id], shell.outline_url)

    with ThreadPoolExecutor(IN_FLIGHT) as threads:
        asked = {str(each.pk): threads.submit(read, each.shell) for each in open_}
    now, found = timezone.now(), {}
    for pairing in open_:
        key = str(pairing.pk)
        try:
            shell = asked[key].result()
        except OutsideError as error:
            hindered[key] = error
            continue
        found[key] = ShellSnapshot(
            shell.outline,
            pairing.shell.zone,
            now,
            shell.offers,
            tuple(each.title for each in shell.book.categories) if shell.book else (),
            tuple(titles.get(key, ())),
        )
    return found, hindered


def _closed(pairings: Sequence[Pairing]) -> Iterator[tuple[str, Refused]]:
    """Yield the pairings whose shells offer no outline, or that nobody agreed to."""
    agreed = set(
        Consent.objects.filter(
            shell__in=[each.shell_id for each in pairings], withdrawn_at=None
        ).values_list("shell_id", flat=True)
    )
    for pairing in pairings:
        try:
            require_outline(pairing)
        except Refused as refused:
            yield str(pairing.pk), refused
        else:
            if pairing.shell_id not in agreed:
                yield str(pairing.pk), consent_needed(pairing.shell)


def require_columns(pairing: Pairing) -> None:
    """Let pass where something of what was deployed can be read and changed from here: links by the
    Shell Outline service, or at least columns (AGS 2.0). Raises Refused ``no_services``.
    """
    shell = pairing.shell
    if not shell.outline_url and not (
        shell.lineitems_url and {v.SCOPE_LINE_ITEM, v.SCOPE_LINE_ITEM_READ} & set(shell.scopes)
    ):
        raise Refused(
            "no_services",
            "The platform lets Venn Pair read neither links nor columns of this shell.",
            "Ask the platform's administrator to allow Assignment and Grade Services, then open"
            " Venn Pair from the shell again.",
            409,
        )


def require_outline(pairing: Pairing) -> None:
    """Let pass where links can be placed from here.

    Raises Refused ``no_outline`` naming the other routes.
    """
    shell = pairing.shell
    if not shell.outline_url or v.SCOPE_OUTLINE not in shell.scopes:
        remedy = (
            "Add the links from inside the shell: where it adds content from a tool, choose Venn"
            " Pair and pick the items. Or choose them under Deploy, save them as a cartridge, and"
            " upload that in the shell."
        )
        raise Refused(
            "no_outline",
            "The platform offers no Shell Outline service for this shell, so Venn Pair cannot place"
            " links in it.",
            remedy,
            409,
        )


def offers_of(pairing: Pairing) -> Offers:
    """Return what both sides of a pairing really offer, by asking.

    An outline that does not answer counts as not offered.
    """
    shell = pairing.shell
    parts: frozenset[str] | None = None
    if shell.outline_url and v.SCOPE_OUTLINE in shell.scopes:
        try:
            parts = platform_gateway(shell.platform).outline_and_offers(shell.outline_url)[1]
        except OutsideError:
            parts = None
    graded = pairing.items.filter(gone=False, kind="graded")
    facts = [
        graded.filter(due_at__isnull=False).exists(),
        graded.filter(points__gt=0).exists(),
        graded.exclude(category="").exists(),
    ]
    return Offers(frozenset(shell.scopes), parts, *facts)
