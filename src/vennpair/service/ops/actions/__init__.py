"""One use case a file."""
