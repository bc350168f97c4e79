"""Relaying: which report counts, what is sent, and what the platform's answer means."""
