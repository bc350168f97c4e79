"""The platform side of LTI: launches, tokens, gradebook, roster and outline services."""
