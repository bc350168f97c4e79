"""A course platform's services: gradebook (AGS), roster (NRPS) and the shell's outline."""

from __future__ import annotations

from vennpair.gateways.platform_grades import GradeServices
from vennpair.gateways.platform_outline import OutlineService


class PlatformGateway(GradeServices, OutlineService):
    """Speaks to one platform. Every method raises OutsideError."""

    def grant(self, scopes: list[str]) -> None:
        """Get another token for scopes, to see whether they are granted."""
        self._tokens.forget()
        self._tokens.token(scopes)
