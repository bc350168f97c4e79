"""The API of connections: platforms, publishers, invitations, keys, people and tokens."""
