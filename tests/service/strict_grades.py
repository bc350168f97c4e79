"""A gradebook that excuses nothing and fails on purpose, and a publisher that repeats itself: both
from the standard alone (AGS 2.0).
"""

from __future__ import annotations

import json
import random
import threading
import time
import uuid
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from fractions import Fraction
from typing import Any

import httpx

from tests.service.strict import StrictPlatform
from tests.service.strict_site import LINE_ITEM, RESULT, SCORE, Answer
from tests.service.strict_tool import StrictTool

SCORE_MEDIA, RESULTS_MEDIA, ITEM_MEDIA = (
    f"application/vnd.ims.{name}+json"
    for name in ("lis.v1.score", "lis.v2.resultcontainer", "lis.v2.lineitem")
)
PAGE = 40
PAUSE = 1  # seconds that a 429 asks for
IN_THE_AIR = 32  # calls that may have begun before it came back, and still arrive
KNOWN = {
    "userId",
    "scoreGiven",
    "scoreMaximum",
    "comment",
    "timestamp",
    "activityProgress",
    "gradingProgress",
    "submission",
}


class StrictGradebook(StrictPlatform):
    """Columns of ``items`` for ``learners``.

    About one call in ``trouble`` goes wrong, by turns in every way.
    """

    def __init__(self, learners: int, items: int, trouble: int) -> None:
        super().__init__()
        self.learners = [f"learner-{number}" for number in range(learners)]
        self.columns = {f"col-{number}": 10.0 + number for number in range(items)}
        self.cells: dict[tuple[str, str], tuple[str, Fraction]] = {}
        self.trouble, self.calls, self.faults = (
            trouble,
            0,
            {"429": 0, "500": 0, "lost": 0, "expired": 0},
        )
        self.closed_until, self._late = 0.0, 0
        self.down = False
        self.granted = 0
        self._lock = threading.Lock()
        self._chance = random.Random(11)

    def routes(self) -> Any:
        course = f"/api/{self.course}"
        mine: dict[tuple[str, str], Any] = {}
        for column in self.columns:
            mine["GET", f"{course}/lineitems/{column}"] = (
                lambda query, headers, body, column=column: self._one(headers, column)
            )
            mine["POST", f"{course}/lineitems/{column}/scores"] = (
                lambda query, headers, body, column=column: self._score(headers, body, column)
            )
            mine["GET", f"{course}/lineitems/{column}/results"] = (
                lambda query, headers, body, column=column: self._results(query, headers, column)
            )
        return super().routes() | mine

    def answered(self, status: int) -> None:
        with self._lock:
            if status == 429 and time.monotonic() >= self.closed_until:
                self.closed_until, self._late = time.monotonic() + PAUSE, 0

    def grant(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self.granted += 1
        return super().grant(query, headers, body)

    def members(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        media = "application/vnd.ims.lti-nrps.v2.membershipcontainer+json"
        rows = [
            {
                "user_id": each,
                "roles": ["http://purl.imsglobal.org/vocab/lis/v2/membership#Learner"],
                "name": each,
                "email": f"{each}@strict.example",
                "status": "Active",
            }
            for each in self.learners
        ]
        return (
            200,
            {"Content-Type": media},
            {
                "id": f"{self.url}/api/{self.course}/members",
                "context": {"id": self.course},
                "members": rows,
            },
        )

    def _fault(self, headers: dict[str, str]) -> Answer | None:
        """Fail now and then; None where the call is to be answered. ``lost`` is left to the
        caller.
        """
        self.calls += 1
        if self.down:
            raise ConnectionAbortedError("nobody is there")
        if self.moment.came < self.closed_until:
            self._late += 1
            self.check(self._late <= IN_THE_AIR, "calls during the pause that was asked for")
            return 429, {"Retry-After": str(PAUSE)}, {"error": "busy"}
        if self.calls % self.trouble:
            return None
        how = list(self.faults)[(self.calls // self.trouble) % len(self.faults)]
        self.faults[how] += 1
        if how == "429":
            return 429, {"Retry-After": str(PAUSE)}, {"error": "busy"}
        if how == "500":
            return 500, {}, {"error": "a fault"}
        if how == "expired":
            self.tokens.clear()
            return (
                401,
                {"WWW-Authenticate": 'Bearer error="invalid_token"'},
                {"error": "invalid_token"},
            )
        return None

    def _token(self, headers: dict[str, str], scope: str) -> Answer | None:
        kind, _, value = headers.get("authorization", "").partition(" ")
        if kind == "Bearer" and value not in self.tokens:
            return (
                401,
                {"WWW-Authenticate": 'Bearer error="invalid_token"'},
                {"error": "invalid_token"},
            )
        self.check(kind == "Bearer" and scope in self.tokens[value], f"a token without {scope}")
        return None

    def _one(self, headers: dict[str, str], column: str) -> Answer:
        return self._token(headers, LINE_ITEM) or (
            200,
            {"Content-Type": ITEM_MEDIA},
            {"id": self._url(column), "label": column, "scoreMaximum": self.columns[column]},
        )

    def _url(self, column: str) -> str:
        return f"{self.url}/api/{self.course}/lineitems/{column}"

    def _score(self, headers: dict[str, str], body: bytes, column: str) -> Answer:
        with self._lock:
            refused = self._fault(headers) or self._token(headers, SCORE)
            if refused:
                return refused
            lose = self.calls % self.trouble == 0
            self.check(
                headers.get("content-type") == SCORE_MEDIA,
                f"score: content type {headers.get('content-type')}",
            )
            score = json.loads(body)
            self.check(
                set(score) <= KNOWN and score["userId"] in self.learners,
                f"score: fields or learner {sorted(score)}",
            )
            self.check(
                score["activityProgress"] == "Completed"
                and score["gradingProgress"] == "FullyGraded",
                "score: progress",
            )
            self.check(
                isinstance(score["scoreGiven"], int | float)
                and score["scoreMaximum"] > 0
                and score["scoreGiven"] >= 0,
                "score: numbers",
            )
            when = datetime.fromisoformat(score["timestamp"])
            self.check(
                when.tzinfo is not None and "." in score["timestamp"],
                "score: time without zone or parts of a second",
            )
            key, value = (
                (column, score["userId"]),
                Fraction(str(score["scoreGiven"])) / Fraction(str(score["scoreMaximum"])),
            )
            there = self.cells.get(key)
            if there is not None and when <= datetime.fromisoformat(there[0]):
                self.check(
                    value == there[1] or when < datetime.fromisoformat(there[0]),
                    "score: another value with the same time",
                )
                return 409, {}, {"error": "not newer"}
            self.cells[key] = (score["timestamp"], value)
        if lose:
            raise ConnectionAbortedError("the answer is lost")
        return 204, {}, ""

    def _results(self, query: dict[str, list[str]], headers: dict[str, str], column: str) -> Answer:
        with self._lock:
            refused = self._token(headers, RESULT)
            if refused:
                return refused
            self.check(
                headers.get("accept") == RESULTS_MEDIA,
                f"results: Accept is {headers.get('accept')}",
            )
            wanted = query.get("user_id", [])
            rows = [
                {
                    "id": f"{self._url(column)}/results/{user}",
                    "scoreOf": self._url(column),
                    "userId": user,
                    "resultScore": float(share * Fraction(str(self.columns[column]))),
                    "resultMaximum": self.columns[column],
                }
                for (where, user), (_, share) in sorted(self.cells.items())
                if where == column and (not wanted or user in wanted)
            ]
        start = int(query.get("start", ["0"])[0])
        link = (
            {"Link": f'<{self._url(column)}/results?start={start + PAGE}>; rel="next"'}
            if len(rows) > start + PAGE
            else {}
        )
        return 200, {"Content-Type": RESULTS_MEDIA} | link, rows[start : start + PAGE]


class StrictReporter(StrictTool):
    """Reports attempts through AGS, out of order and repeated, and knows what must be at the
    end.
    """

    def __init__(self, name: str = "Strict Reports") -> None:
        super().__init__(name, "reported")
        self.counting: dict[tuple[str, str], tuple[datetime, float, float]] = {}
        self._token_value, self._lock = "", threading.Lock()

    def reports(
        self, addresses: dict[str, tuple[str, float]], users: list[str], seed: int
    ) -> list[tuple[str, dict[str, Any]]]:
        """Return one to three reports of every user and line item, some repeated, in random
        order.
        """
        chance, begun, made = random.Random(seed), datetime(2027, 3, 1, 8, 0, tzinfo=UTC), []
        for column, (address, points) in addresses.items():
            for user in users:
                for attempt in range(chance.choice((1, 1, 1, 1, 2, 3))):
                    when = begun + timedelta(minutes=chance.randrange(20_000), microseconds=attempt)
                    given = chance.randrange(int(points * 4) + 1) / 4
                    made += [(address, self._score(user, when, given, points))] * chance.choice(
                        (1, 1, 1, 1, 2)
                    )
                    known = self.counting.get((column, user))
                    if known is None or when > known[0]:
                        self.counting[column, user] = when, given, points
        chance.shuffle(made)
        return made

    def _score(self, user: str, when: datetime, given: float, points: float) -> dict[str, Any]:
        return {
            "userId": user,
            "timestamp": when.isoformat(),
            "activityProgress": "Completed",
            "gradingProgress": "FullyGraded",
            "scoreGiven": given,
            "scoreMaximum": points,
        }

    def send(self, reports: list[tuple[str, dict[str, Any]]]) -> None:
        """Report all, eight at once; whoever breaks off is told again."""
        with (
            ThreadPoolExecutor(8) as threads,
            httpx.Client(timeout=30, limits=httpx.Limits(max_connections=8)) as client,
        ):
            for answer in threads.map(lambda each: self._post(client, *each), reports):
                self.check(
                    answer.status_code == 204 and not answer.content,
                    f"score answered {answer.status_code} {answer.text[:100]}",
                )

    def _post(self, client: httpx.Client, address: str, score: dict[str, Any]) -> httpx.Response:
        for pause in (0.5, 1, 2, 4, 8, 16, 0):
            try:
                answer = client.post(
                    f"{address}/scores",
                    content=json.dumps(score),
                    headers={
                        "Authorization": f"Bearer {self._access(client)}",
                        "Content-Type": SCORE_MEDIA,
                    },
                )
                if answer.status_code < 500:
                    return answer
            except httpx.TransportError:
                pass
            time.sleep(pause)
        raise AssertionError("the service did not come back")

    def _access(self, client: httpx.Client) -> str:
        with self._lock:
            if not self._token_value:
                now = int(time.time())
                where = self.platform["token_endpoint"]
                claims = {
                    "iss": self.client,
                    "sub": self.client,
                    "aud": where,
                    "iat": now,
                    "exp": now + 300,
                    "jti": uuid.uuid4().hex,
                }
                form = {
                    "grant_type": "client_credentials",
                    "client_assertion_type": (
                        "urn:ietf:params:oauth:client-assertion-type:jwt-bearer"
                    ),
                    "client_assertion": self.sign(claims),
                    "scope": f"{SCORE} {RESULT}",
                }
                answer = client.post(where, data=form).raise_for_status().json()
                self.check(
                    answer["token_type"].lower() == "bearer"
                    and answer["expires_in"] > 0
                    and set(answer["scope"].split()) == {SCORE, RESULT},
                    f"token: {answer}",
                )
                self._token_value = str(answer["access_token"])
            return self._token_value

    def results(self, address: str) -> dict[str, Fraction]:
        """Return what the service says that the gradebook holds, as shares, page after page."""
        found: dict[str, Fraction] = {}
        with httpx.Client(timeout=30) as client:
            url = f"{address}/results"
            while url:
                answer = client.get(
                    url,
                    headers={
                        "Authorization": f"Bearer {self._access(client)}",
                        "Accept": RESULTS_MEDIA,
                    },
                )
                self.check(
                    answer.status_code == 200 and answer.headers["content-type"] == RESULTS_MEDIA,
                    f"results: {answer.status_code} {answer.headers['content-type']}",
                )
                for row in answer.json():
                    self.check(
                        row["scoreOf"] == address and row["id"].startswith(address),
                        f"results: row {row}",
                    )
                    found[row["userId"]] = Fraction(str(row["resultScore"])) / Fraction(
                        str(row["resultMaximum"])
                    )
                url = answer.links.get("next", {}).get("url", "")
        return found
