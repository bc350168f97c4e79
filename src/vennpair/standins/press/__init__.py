"""The press stand-in: a small homework service that is an LTI 1.3 tool and speaks OneRoster 1.2."""
