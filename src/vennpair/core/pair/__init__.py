"""Pairing: which homework course fits a shell, which states a pairing may take, what must hold
first.
"""
