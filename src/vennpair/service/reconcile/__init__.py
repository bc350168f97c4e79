"""Reconcile: comparisons of a pairing, and their findings."""
