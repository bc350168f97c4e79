"""The tool side of LTI: launches from a platform, and scores reported back to it."""
