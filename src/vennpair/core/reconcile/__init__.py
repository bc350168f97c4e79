"""Comparing a publisher's scores with a gradebook's, and naming each difference with its cause."""
