"""The command line: one module for each step; files are worked on without a service."""
