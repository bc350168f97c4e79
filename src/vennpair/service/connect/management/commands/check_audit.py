"""Prove the audit trail: that no event of it was changed, taken out or put in afterwards."""

from __future__ import annotations

from typing import Any

from django.core.management.base import CommandError

from vennpair.service.connect.models import Institution
from vennpair.service.kernel.audit.models import Event
from vennpair.service.kernel.audit.sealing import first_break
from vennpair.service.kernel.operator import OperatorCommand


class Command(OperatorCommand):
    """Exits with an error where a chain is broken."""

    help = "Check that the audit trail is what was written; say each institution's newest seal."

    def handle(self, *args: Any, **options: Any) -> None:
        """Check every institution's chain."""
        broken = []
        for institution in Institution.objects.order_by("pk"):
            found = first_break(institution.pk)
            if found is not None:
                broken.append(f"{institution.name}: at number {found[0]}, {found[1]}")
                continue
            newest = Event.objects.filter(institution=institution, number__isnull=False)
            last = newest.order_by("-number").first()
            words = f"{last.number} events, newest seal {last.seal}" if last else "no events"
            self.stdout.write(f"{institution.name}: {words}")
        if broken:
            raise CommandError("The audit trail is broken. " + "; ".join(broken))
