"""The API of comparisons, settlements and cells."""
