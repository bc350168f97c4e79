"""A comparison to take away: as CSV, XLSX, JSON, or a page of its own with the figures."""

from vennpair.core.reconcile.report.document import Report, Row, report_of_live, report_of_tables

__all__ = ["Report", "Row", "report_of_live", "report_of_tables"]
