"""Pair: shells, homework courses, learners, and the pairing that joins them."""
