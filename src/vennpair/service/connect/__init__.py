"""Connect: institutions, people, registered platforms and publishers, keys."""
