"""What is written outside: one way to begin, look at, stop, retry and undo it."""
