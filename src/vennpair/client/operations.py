"""Operations of all kinds: what was, is or will be written outside."""

from __future__ import annotations

from collections.abc import Iterator

from vennpair.client.schema import Operation, OperationStep, Reversal
from vennpair.client.transport import Transport


class Operating(Transport):
    """The part of the client that looks after operations. The id of an operation is its job's."""

    def operations(self, pairing: str = "", state: str = "", kind: str = "") -> Iterator[Operation]:
        """Yield operations, the newest first: of one pairing or of all, in one state (``going``:
        not ended yet), of one kind.
        """
        asked = {"pairing": pairing, "state": state, "kind": kind}
        given = {name: value for name, value in asked.items() if value}
        return self._list(Operation, "/operations", given)

    def operation(self, operation: str) -> Operation:
        """Return one operation."""
        return self._get(Operation, f"/operations/{operation}")

    def operation_steps(self, operation: str) -> Iterator[OperationStep]:
        """Yield the steps of an operation in their order."""
        return self._list(OperationStep, f"/operations/{operation}/steps")

    def stop_operation(self, operation: str) -> Operation:
        """Stop an operation; what is in flight is finished first."""
        return self._post(Operation, f"/operations/{operation}/stop", {})

    def retry_operation(self, operation: str) -> Operation:
        """Do again just what could not be done or was not begun."""
        return self._post(Operation, f"/operations/{operation}/retry", {})

    def plan_operation_undo(self, operation: str) -> list[Reversal]:
        """Say what undoing would do, and what stays and why. Changes nothing."""
        return self._post(list[Reversal], f"/operations/{operation}/undo", {"dry_run": True})

    def undo_operation(self, operation: str) -> Operation:
        """Undo what is safe to undo; return the operation that does it."""
        return self._post(Operation, f"/operations/{operation}/undo", {})
