"""Venn Pair: pairs a homework course with a course shell and keeps the two in step."""

__version__ = "0.1.0"
