"""Tables from files: a tidy CSV, a OneRoster 1.2 CSV set or a wide table with its layout becomes a
Table, or a named refusal.
"""

from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.files.layout import Layout, read_layout
from vennpair.core.reconcile.files.source import read_table

__all__ = ["Layout", "TableError", "read_layout", "read_table"]
