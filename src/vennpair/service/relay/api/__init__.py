"""The relay over HTTP: how it stands, its rules, its scores one by one, and what feeds it."""
