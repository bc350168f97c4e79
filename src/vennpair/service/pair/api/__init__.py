"""The API of pairing: shells, homework courses, pairings, accounts, learners."""
