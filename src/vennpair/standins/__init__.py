"""The simulated outside: a course platform (campus) and a publisher (press), each its own
project.
"""
