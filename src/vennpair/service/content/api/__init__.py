"""Packages, imports with their entries and deliveries, items and the catalogue of a pairing."""
