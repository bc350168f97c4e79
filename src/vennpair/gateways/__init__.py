"""HTTP to the outside: platforms and publishers, with tokens, timeouts and retries.

Every failure leaves here as an ``OutsideError`` that carries one of the three kinds of failure.
"""
