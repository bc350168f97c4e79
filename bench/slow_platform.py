"""A platform that answers every call after the same wait: tokens, the outline protocol, line items,
scores and results, kept in memory.

Usage: python -m bench.slow_platform PORT SECONDS   (a process of its own, so that what it costs is
  not measured)
"""

from __future__ import annotations

import asyncio
import json
import sys
import time
from typing import Any
from urllib.parse import parse_qs, urlsplit

Answer = tuple[int, Any]
OFFERS = ["gradebook", "shown_from", "due_at"]


class Platform:
    """What all shells hold; a shell is the first part of the path after ``/s/``."""

    def __init__(self, url: str, seconds: float) -> None:
        self.url, self.seconds = url, seconds
        self.nodes: dict[str, dict[str, dict[str, Any]]] = {}
        self.columns: dict[str, dict[str, dict[str, Any]]] = {}
        self.writes: list[float] = []
        self.scores: dict[str, dict[str, float]] = {}

    def answer(self, method: str, path: str, body: Any, query: str = "") -> Answer:
        """Answer one request."""
        if path == "/token":
            return 200, {"access_token": "t", "token_type": "Bearer", "expires_in": 3600}
        if path == "/forget":
            self.writes.clear()
            return 204, None
        if path == "/writes":
            return 200, {
                "count": len(self.writes),
                "seconds": self.writes[-1] - self.writes[0] if self.writes else 0,
            }
        _, _, shell, *rest = path.split("/")
        nodes, columns = self.nodes.setdefault(shell, {}), self.columns.setdefault(shell, {})
        if method == "POST" and rest[-1] in {"folders", "entries", "lineitems"}:
            self.writes.append(time.perf_counter())
            return 201, self._make(shell, rest[-1], body)
        if rest[-1] == "scores":
            self.writes.append(time.perf_counter())
            self.scores.setdefault(rest[-2], {})[body["userId"]] = body["scoreGiven"]
            return 204, None
        if rest[-1] == "results":
            wanted = parse_qs(query).get("user_id")
            return 200, [
                {"id": f"{user}", "userId": user, "resultScore": score, "resultMaximum": 10}
                for user, score in self.scores.get(rest[-2], {}).items()
                if not wanted or user in wanted
            ]
        if rest == ["outline"]:
            return 200, {"nodes": list(nodes.values()), "offers": OFFERS}
        if rest == ["outline", "gradebook"]:
            return (
                (204, None)
                if method == "PUT"
                else (
                    200,
                    {
                        "columns": [{"column": each, "category": ""} for each in columns],
                        "categories": [],
                    },
                )
            )
        if rest == ["outline", "categories"]:
            return 201, {"id": body["title"], "title": body["title"]}
        return (200, list(columns.values())) if rest == ["lineitems"] else (204, None)

    def _make(self, shell: str, what: str, body: Any) -> dict[str, Any]:
        if what == "lineitems":
            made = body | {"id": f"{self.url}/s/{shell}/lineitems/{len(self.columns[shell])}"}
            self.columns[shell][made["id"]] = made
            return dict(made)
        key = f"n{len(self.nodes[shell])}"
        node = {
            "id": key,
            "kind": "folder",
            "folder": "",
            "position": 0,
            "depth": 0,
            "visible": True,
            "resource_link_id": f"r{key}",
        } | body
        self.nodes[shell][key] = node
        return dict(node)

    async def serve(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        """Serve one connection, request after request."""
        try:
            while line := await reader.readline():
                method, target, _ = line.decode().split(" ", 2)
                length = 0
                while (header := await reader.readline()) not in {b"\r\n", b""}:
                    name, _, value = header.decode().partition(":")
                    length = int(value) if name.lower() == "content-length" else length
                data = await reader.readexactly(length)
                if self.seconds:
                    await asyncio.sleep(self.seconds)
                parts = urlsplit(target)
                status, document = self.answer(
                    method,
                    parts.path,
                    json.loads(data) if data[:1] in {b"{", b"["} else None,
                    parts.query,
                )
                body = b"" if document is None else json.dumps(document).encode()
                writer.write(
                    f"HTTP/1.1 {status} OK\r\nContent-Type: application/json\r\nContent-Length:"
                    f" {len(body)}\r\n\r\n".encode()
                    + body
                )
                await writer.drain()
        except (ConnectionError, asyncio.IncompleteReadError, ValueError):
            pass
        writer.close()


async def main(port: int, seconds: float) -> None:
    """Serve until killed."""
    platform = Platform(f"http://127.0.0.1:{port}", seconds)
    server = await asyncio.start_server(platform.serve, "127.0.0.1", port)
    async with server:
        await server.serve_forever()


if __name__ == "__main__":
    asyncio.run(main(int(sys.argv[1]), float(sys.argv[2])))
