"""Tables from files: a tidy CSV or a OneRoster 1.2 CSV set becomes a Table, or a named refusal."""

from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.files.source import read_table

__all__ = ["TableError", "read_table"]
