"""A gradebook and a homework course that answer every call after the same wait, in pages, as AGS,
NRPS and OneRoster 1.2 have them.

Usage: python -m bench.slow_sides PORT SECONDS LEARNERS ITEMS [EACH]   (a process of its own, so that
  what it costs is not measured; EACH 1: every score was typed over, not one in a hundred)
"""

from __future__ import annotations

import asyncio
import json
import sys
from typing import Any
from urllib.parse import parse_qs, urlsplit

PAGE = 100


class Sides:
    """Learner ``u7`` is account ``a7``; item ``i3`` has 10 points.

    One score in ``each`` was typed over.
    """

    def __init__(self, url: str, learners: int, items: int, each: int = 100) -> None:
        self.url, self.learners, self.items, self.each = url, learners, items, each
        self.rows = {
            "students": self._students(),
            "lineItems": self._line_items(),
            "results": self._results(),
        }

    def answer(self, path: str, query: dict[str, list[str]]) -> tuple[dict[str, str], Any]:
        """Return headers and document."""
        if path.endswith("/token"):
            return {}, {"access_token": "t", "token_type": "Bearer", "expires_in": 3600}
        if path.startswith("/s/"):
            return self._platform(path, query)
        name = path.rpartition("/")[2]
        rows = self.rows[name]
        limit, offset = int(query.get("limit", ["100"])[0]), int(query.get("offset", ["0"])[0])
        headers = {"X-Total-Count": str(len(rows))}
        if offset + limit < len(rows):
            headers["Link"] = (
                f'<{self.url}{path}?limit={limit}&offset={offset + limit}>; rel="next"'
            )
        return headers, {"users" if name == "students" else name: rows[offset : offset + limit]}

    def _platform(self, path: str, query: dict[str, list[str]]) -> tuple[dict[str, str], Any]:
        start, last = int(query.get("start", ["0"])[0]), path.split("/")[-1]
        if last == "members":
            role = "http://purl.imsglobal.org/vocab/lis/v2/membership#Learner"
            rows = [
                {
                    "user_id": f"u{each}",
                    "roles": [role],
                    "name": f"Learner {each}",
                    "email": f"l{each}@tarnfield.example",
                    "status": "Active",
                }
                for each in range(self.learners)
            ]
            headers, page = self._page(path, rows, start)
            return headers, {"id": self.url, "context": {"id": "c"}, "members": page}
        if last == "results":
            item = int(path.split("/")[-2].removeprefix("col"))
            return self._page(
                path,
                [
                    {
                        "id": f"r{each}",
                        "userId": f"u{each}",
                        "resultScore": _score(each, item)
                        + (each * item % self.each == self.each - 1),
                        "resultMaximum": 10,
                    }
                    for each in range(self.learners)
                ],
                start,
            )
        return self._page(
            path,
            [
                {"id": f"{self.url}{path}/col{each}", "label": f"Item {each}", "scoreMaximum": 10}
                for each in range(self.items)
            ],
            start,
        )

    def _page(self, path: str, rows: list[Any], start: int) -> tuple[dict[str, str], list[Any]]:
        more = (
            {"Link": f'<{self.url}{path}?start={start + PAGE}>; rel="next"'}
            if start + PAGE < len(rows)
            else {}
        )
        return more, rows[start : start + PAGE]

    def _students(self) -> list[Any]:
        return [
            _object(
                f"a{each}",
                givenName="Learner",
                familyName=str(each),
                email=f"l{each}@tarnfield.example",
                role="student",
                enabledUser="true",
            )
            for each in range(self.learners)
        ]

    def _line_items(self) -> list[Any]:
        return [
            _object(f"i{each}", title=f"Item {each}", resultValueMax=10)
            for each in range(self.items)
        ]

    def _results(self) -> list[Any]:
        refs = [
            ({"lineItem": _ref(f"i{item}")}, {"student": _ref(f"a{who}")}, who, item)
            for item in range(self.items)
            for who in range(self.learners)
        ]
        return [
            _object(
                f"r{who}x{item}",
                **one,
                **other,
                score=_score(who, item),
                scoreStatus="fully graded",
                scoreDate="2027-03-01",
            )
            for one, other, who, item in refs
        ]


def _score(learner: int, item: int) -> int:
    return (learner * 7 + item) % 11


def _ref(key: str) -> dict[str, str]:
    return {"sourcedId": key, "type": "x", "href": "http://127.0.0.1/x"}


def _object(key: str, **fields: Any) -> dict[str, Any]:
    return {
        "sourcedId": key,
        "status": "active",
        "dateLastModified": "2027-03-01T09:00:00Z",
    } | fields


async def main(port: int, seconds: float, learners: int, items: int, each: int = 100) -> None:
    """Serve until killed."""
    sides = Sides(f"http://127.0.0.1:{port}", learners, items, each)
    known: dict[
        str, tuple[dict[str, str], bytes]
    ] = {}  # so that its own work does not take the machine from what is measured

    async def serve(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        try:
            while line := await reader.readline():
                _, target, _ = line.decode().split(" ", 2)
                length = 0
                while (header := await reader.readline()) not in {b"\r\n", b""}:
                    name, _, value = header.decode().partition(":")
                    length = int(value) if name.lower() == "content-length" else length
                await reader.readexactly(length)
                await asyncio.sleep(seconds)
                if target not in known:
                    parts = urlsplit(target)
                    headers, document = sides.answer(parts.path, parse_qs(parts.query))
                    known[target] = headers, json.dumps(document).encode()
                headers, body = known[target]
                lines = "".join(f"{name}: {value}\r\n" for name, value in headers.items())
                writer.write(
                    f"HTTP/1.1 200 OK\r\nContent-Type: application/json\r\n{lines}Content-Length:"
                    f" {len(body)}\r\n\r\n".encode()
                    + body
                )
                await writer.drain()
        except (ConnectionError, asyncio.IncompleteReadError, ValueError):
            pass
        writer.close()

    server = await asyncio.start_server(serve, "127.0.0.1", port)
    async with server:
        await server.serve_forever()


if __name__ == "__main__":
    port, seconds, *rest = sys.argv[1:]
    asyncio.run(main(int(port), float(seconds), *map(int, rest)))
