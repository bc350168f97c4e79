"""Open formats and protocols as pure codecs: bytes and claims in, typed objects out, and back.

Nothing here opens a socket, touches a database or reads a clock that was not handed in.
"""
