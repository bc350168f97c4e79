"""The Python client of the service's API.

with VennPair("https://pair.college.example", token="…") as venn:
    for shell in venn.shells():
        print(shell["label"], shell["state"])
"""

from vennpair.client.api import VennPair
from vennpair.client.errors import NotAllowed, Refusal, ServiceError, Unreachable

__all__ = ["NotAllowed", "Refusal", "ServiceError", "Unreachable", "VennPair"]
