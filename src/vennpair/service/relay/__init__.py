"""Relay: the ledger of reported scores, and sending them to their columns."""
