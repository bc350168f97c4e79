"""The relay over HTTP: how it is doing, its rules, its scores one by one, and what feeds it."""
