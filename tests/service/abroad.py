"""A platform and a publisher that have the standards and nothing else: no outline of a shell, no
private metadata. They share no code with ours; what they must not see is in ``complaints``.
"""

from __future__ import annotations

import json
import threading
import time
import uuid
from collections.abc import Callable
from html import escape
from typing import Any
from urllib.parse import parse_qs, urlsplit

import httpx
from tools.world.browser import Browser, Page

from tests.service.strict import StrictPlatform
from tests.service.strict_site import AGS, DL, LINE_ITEM, LTI, MEMBERS, RESULT, SCORE, Answer
from tests.service.strict_tool import StrictTool

MEMBERSHIP = "http://purl.imsglobal.org/vocab/lis/v2/membership"
INSTRUCTOR, LEARNER = f"{MEMBERSHIP}#Instructor", f"{MEMBERSHIP}#Learner"
ITEM, ITEMS, RESULTS, SCORES, ROSTER = (
    f"application/vnd.ims.{name}+json"
    for name in (
        "lis.v2.lineitem",
        "lis.v2.lineitemcontainer",
        "lis.v2.resultcontainer",
        "lis.v1.score",
        "lti-nrps.v2.membershipcontainer",
    )
)


class PlainPlatform(StrictPlatform):
    """A course platform with links, columns and cells, by LTI Advantage alone.

    ``pause`` is how long each call to its services takes, in seconds; ``makes_columns`` says
    whether it makes a column with a link that asks for one (Deep Linking 2.0, 3.2); ``locked``
    columns refuse scores, and so does every call to the view named in ``refuses``.
    """

    def __init__(self, learners: int = 4, *, makes_columns: bool = True) -> None:
        super().__init__()
        self.people = {f"learner-{number}": [LEARNER] for number in range(1, learners + 1)}
        self.columns: dict[str, dict[str, Any]] = {}
        self.cells: dict[tuple[str, str], dict[str, Any]] = {}
        self.links: dict[str, dict[str, Any]] = {}
        self.makes_columns, self.pause = makes_columns, 0.0
        self.locked: set[str] = set()
        self.refuses = ""  # the name of a view that answers 403
        self.busy_until, self.busy = 0.0, ""  # while it asks for patience, and in which words
        self.called: list[tuple[float, str, str]] = []
        self._lock = threading.RLock()

    def routes(self) -> Any:
        course = f"/api/{self.course}"
        mine: dict[tuple[str, str], Any] = {
            ("GET", f"{course}/members"): self.members,
            ("GET", f"{course}/lineitems"): self._list,
            ("POST", f"{course}/lineitems"): self._make,
            ("POST", "/picked"): self._take,
        }
        for key in list(self.columns):
            at = f"{course}/lineitems/{key}"
            mine |= {
                ("GET", at): self._of(key, self._one),
                ("PUT", at): self._of(key, self._change),
                ("DELETE", at): self._of(key, self._remove),
                ("POST", f"{at}/scores"): self._of(key, self._score),
                ("GET", f"{at}/results"): self._of(key, self._results),
            }
        return super().routes() | mine

    def copy(self, course: str) -> None:
        """Go on in a copy of the course: its links under other ids, and no columns or scores."""
        self.course, self.columns, self.cells = course, {}, {}
        self.links = {f"copy-{key}": link for key, link in self.links.items()}

    def column_of(self, title: str) -> dict[str, Any]:
        """Return the one column of a title."""
        (found,) = [each for each in self.columns.values() if each["label"] == title]
        return found

    def scores_of(self, title: str) -> dict[str, float]:
        """Return what a column shows, by the learner's id."""
        key = self.column_of(title)["id"].rsplit("/", 1)[-1]
        return {
            user: cell["resultScore"] for (where, user), cell in self.cells.items() if where == key
        }

    def open(self, browser: Browser, title: str = "", who: str = "teacher-1", **more: Any) -> Page:
        """Open a link by its title, or the tool itself, as a browser goes."""
        claims: dict[str, Any] = {}
        if title:
            key, link = next(each for each in self.links.items() if each[1]["title"] == title)
            column = next(
                (each for each in self.columns.values() if each.get("resourceLinkId") == key), None
            )
            claims |= {
                f"{LTI}resource_link": {"id": key, "title": title},
                f"{LTI}custom": link.get("custom", {}),
            }
            endpoint = self._claims("", "")[f"{AGS}claim/endpoint"]
            if column is not None:
                claims[f"{AGS}claim/endpoint"] = endpoint | {"lineitem": column["id"]}
        if who != "teacher-1":
            claims |= self._person(who)
        answer = self.begin(browser._http, **claims | more)
        browser.page = Page(str(answer.url), answer.status_code, answer.text)
        onward = answer.headers.get("location")
        return browser.get(str(answer.url.join(onward))) if onward else browser.page

    def _person(self, who: str) -> dict[str, Any]:
        given = who.replace("-", " ").title()
        return {
            "sub": who,
            "name": given,
            "email": f"{who}@strict.example",
            f"{LTI}roles": self.people[who],
        }

    def members(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        with self._lock:
            self._allowed(headers, MEMBERS, ROSTER)
            rows = [
                {
                    "user_id": who,
                    "roles": roles,
                    "name": who.replace("-", " ").title(),
                    "email": f"{who}@strict.example",
                    "status": "Active",
                }
                for who, roles in self.people.items()
            ]
        return (
            200,
            {"Content-Type": ROSTER},
            {
                "id": f"{self.url}/api/{self.course}/members",
                "context": {"id": self.course},
                "members": rows,
            },
        )

    def _take(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        """Take picked links from a browser, and make them and their columns."""
        for item in self.picked(parse_qs(body.decode())["JWT"][0]):
            key = f"link-{uuid.uuid4().hex[:8]}"
            self.links[key] = item
            if self.makes_columns and (wanted := item.get("lineItem")):
                self._add(
                    wanted
                    | {"label": wanted.get("label") or item["title"], "resourceLinkId": key}
                    | {
                        name: value
                        for name, value in (item.get("submission") or {}).items()
                        if name in {"startDateTime", "endDateTime"}
                    }
                )
        return 200, {"Content-Type": "text/html"}, "<p>taken</p>"

    def _add(self, fields: dict[str, Any]) -> dict[str, Any]:
        key = f"column-{uuid.uuid4().hex[:8]}"
        made = fields | {"id": f"{self.url}/api/{self.course}/lineitems/{key}"}
        with self._lock:
            self.columns[key] = made
        return made

    def _of(self, key: str, view: Callable[..., Answer]) -> Callable[..., Answer]:
        return lambda query, headers, body: self._slowly(view, key, query, headers, body)

    def _slowly(self, view: Callable[..., Answer], key: str, *asked: Any) -> Answer:
        self.called.append((time.monotonic(), view.__name__, key))
        if time.monotonic() < self.busy_until:
            return 429, {"Retry-After": self.busy}, {"error": "busy"}
        time.sleep(self.pause)
        with self._lock:
            if view.__name__ == self.refuses:
                return 403, {}, {"title": "Not in this course."}
            if key and key not in self.columns:
                return 404, {}, {"error": "no such column"}
            return view(key, *asked)

    def _list(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        return self._slowly(self._all, "", query, headers, body)

    def _all(self, key: str, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self._allowed(headers, LINE_ITEM, ITEMS)
        self.check(query.get("site") == ["1"], "line items: the address's own query was lost")
        fields = ("resource_link_id", "resourceLinkId"), ("resource_id", "resourceId"), ("tag",) * 2
        wanted = {field: query[name][0] for name, field in fields if name in query}
        rows = [
            each
            for each in self.columns.values()
            if all(each.get(field) == value for field, value in wanted.items())
        ]
        return 200, {"Content-Type": ITEMS}, rows

    def _make(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        return self._slowly(self._new, "", query, headers, body)

    def _new(self, key: str, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self._may(headers, LINE_ITEM)
        self.check(headers.get("content-type") == ITEM, "a line item's content type")
        return 201, {"Content-Type": ITEM}, self._add(json.loads(body))

    def _one(self, key: str, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self._allowed(headers, LINE_ITEM, ITEM)
        return 200, {"Content-Type": ITEM}, self.columns[key]

    def _change(self, key: str, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self._may(headers, LINE_ITEM)
        given, there = json.loads(body), self.columns[key]
        self.check(given.get("id", there["id"]) == there["id"], "a line item got another id")
        for name in ("resourceId", "resourceLinkId", "tag"):
            self.check(given.get(name) == there.get(name), f"a change lost {name}")
        self.columns[key] = given | {"id": there["id"]}
        return 200, {"Content-Type": ITEM}, self.columns[key]

    def _remove(self, key: str, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self._may(headers, LINE_ITEM)
        del self.columns[key]
        return 204, {}, ""

    def _score(self, key: str, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self._may(headers, SCORE)
        self.check(headers.get("content-type") == SCORES, "a score's content type")
        if self.columns[key]["label"] in self.locked:
            return 403, {}, {"title": "This column was locked by the registrar."}
        score = json.loads(body)
        self.check(score["userId"] in self.people, f"a score of {score['userId']}")
        if "scoreGiven" not in score:
            self.cells.pop((key, score["userId"]), None)
            return 204, {}, ""
        points = self.columns[key]["scoreMaximum"]
        self.cells[key, score["userId"]] = {
            "resultScore": score["scoreGiven"] * points / score["scoreMaximum"],
            "resultMaximum": points,
        }
        return 204, {}, ""

    def _results(self, key: str, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self._allowed(headers, RESULT, RESULTS)
        at = f"{self.columns[key]['id']}"
        rows = [
            {"id": f"{at}/results/{user}", "scoreOf": at, "userId": user} | cell
            for (where, user), cell in self.cells.items()
            if where == key and user in query.get("user_id", [user])
        ]
        return 200, {"Content-Type": RESULTS}, rows

    def _may(self, headers: dict[str, str], scope: str) -> None:
        kind, _, value = headers.get("authorization", "").partition(" ")
        held = self.tokens.get(value, set())
        self.check(kind == "Bearer" and scope in held, f"a token without {scope}")


class PlainPublisher(StrictTool):
    """A publisher with a picker and a OneRoster gradebook, whose catalogue says nothing of links.

    ``catalogue`` holds line items by ``sourcedId``, ``scores`` results by line item and student.
    """

    def __init__(self, name: str = "Plain Publishing", edition: str = "plain") -> None:
        super().__init__(name, edition)
        self.catalogue: dict[str, dict[str, Any]] = {}
        self.scores: dict[tuple[str, str], float] = {}
        self.students: dict[str, str] = {}
        self.answer: list[dict[str, Any]] = []

    def routes(self) -> Any:
        gradebook, roster = (
            "/ims/oneroster/gradebook/v1p2/classes/c-1",
            "/ims/oneroster/rostering/v1p2/classes/c-1",
        )
        return super().routes() | {
            ("GET", f"{gradebook}/lineItems"): self.line_items,
            ("GET", f"{gradebook}/results"): self._results,
            ("GET", f"{roster}/students"): self._students,
        }

    def messages(self) -> list[dict[str, Any]]:
        """Return messages with addresses and parameters of their own, and what need not be done."""
        common = {"icon_uri": f"{self.url}/icon", "label": "Plain", "placements": ["nowhere"]}
        return [
            {
                "type": kind,
                "target_link_uri": f"{self.url}/launch{query}",
                "custom_parameters": {"view": view},
            }
            | common
            for kind, query, view in (
                ("LtiResourceLinkRequest", "", "work"),
                ("LtiDeepLinkingRequest", "?picker=1", "pick"),
                ("LtiSubmissionReviewRequest", "?review=1", "review"),
                ("LtiUnheardOfRequest", "?x=1", "x"),
            )
        ]

    def add(self, key: str, title: str, points: float, **more: Any) -> None:
        """Add a graded item to the catalogue."""
        self.catalogue[key] = {"sourcedId": key, "title": title, "resultValueMax": points} | more

    def line_items(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        rows = [each | _COMMON | {"resultValueMin": 0} for each in self.catalogue.values()]
        return 200, {"X-Total-Count": str(len(rows))}, {"lineItems": rows}

    def _students(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        rows = [
            {
                "sourcedId": key,
                "status": "active",
                "dateLastModified": "2027-01-04T09:00:00Z",
                "username": key,
                "enabledUser": "true",
                "givenName": email.split("@")[0],
                "familyName": "Brook",
                "email": email,
                "role": "student",
            }
            for key, email in self.students.items()
        ]
        return 200, {"X-Total-Count": str(len(rows))}, {"users": rows}

    def _results(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        rows = [
            {
                "sourcedId": f"{item}-{student}",
                "status": "active",
                "dateLastModified": "2027-02-04T09:00:00Z",
                "lineItem": {"sourcedId": item, "type": "lineItem"},
                "student": {"sourcedId": student, "type": "user"},
                "score": score,
                "scoreStatus": "fully graded",
                "scoreDate": "2027-02-03",
            }
            for (item, student), score in self.scores.items()
        ]
        return 200, {"X-Total-Count": str(len(rows))}, {"results": rows}

    def login(self, query: dict[str, list[str]], headers: dict[str, str], body: bytes) -> Answer:
        query["target_link_uri"] = [f"{self.url}/launch"]  # each link has an address of its own
        return super().login(query, headers, body)

    def launch(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        form = {name: values[0] for name, values in parse_qs(body.decode()).items()}
        claims = self.read(form["id_token"], self.platform["jwks_uri"])
        if claims[f"{LTI}message_type"] != "LtiDeepLinkingRequest":
            self.launched.append(claims)
            return 200, {"Content-Type": "text/html"}, "<h1>Plain Publishing</h1>"
        asked, now = claims[f"{DL}deep_linking_settings"], int(time.time())
        token = self.sign(
            {
                "iss": self.client,
                "aud": self.platform["issuer"],
                "iat": now,
                "exp": now + 300,
                "nonce": uuid.uuid4().hex,
                f"{LTI}message_type": "LtiDeepLinkingResponse",
                f"{LTI}version": "1.3.0",
                f"{LTI}deployment_id": self.deployment,
                f"{DL}content_items": self.answer,
                f"{DL}data": asked["data"],
            }
        )
        back = escape(asked["deep_link_return_url"])
        page = f"<form id='go' method='post' action='{back}'><input name='JWT' value='{token}'>"
        return 200, {"Content-Type": "text/html"}, page


_COMMON = {
    "status": "active",
    "dateLastModified": "2027-01-04T09:00:00Z",
    "class": {"sourcedId": "c-1", "type": "class"},
    "category": {"sourcedId": "k", "type": "category"},
}


class Abroad:
    """A shell of a plain platform, paired with the course of a plain publisher.

    ``teacher`` is its instructor's browser.
    """

    def __init__(self, world: Any, name: str, platform: PlainPlatform) -> None:
        self.world, self.platform = world, platform
        self.publisher = PlainPublisher(f"{name} Publishing", name.lower())
        self.teacher, self.base = Browser(), f"{world.url('vennpair')}/api/v1"
        with world.administrator() as admin:
            params = {
                "openid_configuration": f"{platform.url}/.well-known/openid-configuration",
                "registration_token": platform.token,
            }
            link = admin.invite_platform(f"{name} Platform")["link"]
            httpx.get(link, params=params, timeout=30).raise_for_status()
            begun = admin.invite_publisher(f"{self.publisher.url}/start")["open"]
            httpx.get(begun, timeout=30).raise_for_status()
            host = self.publisher.url
            made = next(row for row in admin.publishers() if row["launch_url"].startswith(host))
            admin.change_publisher(
                made["id"],
                oneroster_url=self.publisher.url,
                oneroster_token_url=f"{self.publisher.url}/oauth/token",
                oneroster_client_id="api",
                oneroster_secret="s3cret",
            )
        self.name, self.pairing = name, ""

    def pair(self) -> None:
        """Open Venn Pair in the shell and pair it."""
        self.platform.open(self.teacher)
        self.prove()
        shells = self.get("shells")["results"]
        shell = next(row for row in shells if row["platform"] == f"{self.name} Platform")
        found = self.get("courses", q=f"{self.name.lower()} ed.", refresh="true")["results"]
        wanted = {"shell": shell["id"], "course": found[0]["id"], "agree": True}
        self.pairing = self.post("pairings", **wanted)["id"]

    def prove(self) -> None:
        """Take the CSRF token of the session, as the console does."""
        self.teacher.get(self.base.replace("/api/v1", "/access"))
        token = self.teacher._http.cookies.get("vennpair_csrf", "")
        self.teacher._http.headers["X-CSRFToken"] = token

    def get(self, path: str, **query: str) -> Any:
        """Ask the API as the instructor."""
        answer = self.teacher._http.get(f"{self.base}/{path}", params=query)
        assert answer.is_success, answer.text
        return answer.json()

    def post(self, path: str, **body: Any) -> Any:
        """Change something as the instructor; waits for the job where there is one."""
        answer = self.teacher._http.post(f"{self.base}/{path}", json=body)
        assert answer.is_success, answer.text
        return answer.json()

    def refused(self, path: str, **body: Any) -> str:
        """Return the code of a refusal."""
        answer = self.teacher._http.post(f"{self.base}/{path}", json=body)
        assert 400 <= answer.status_code < 500, answer.text
        return str(answer.json()["code"])

    def done(self, job: dict[str, Any]) -> dict[str, Any]:
        """Wait for a job's end."""
        for _ in range(600):
            now: dict[str, Any] = self.get(f"jobs/{job['id']}")
            if now["state"] in {"done", "failed"}:
                return now
            time.sleep(0.1)
        raise AssertionError(now)

    def pick_at_publisher(self, *items: dict[str, Any]) -> list[str]:
        """Pick items in the publisher's picker; return their ids with us."""
        self.publisher.answer = list(items)
        page = self.teacher.get(self.post(f"pairings/{self.pairing}/asks")["url"])
        assert "chosen=" in page.url, page.words
        self.prove()
        return page.url.rpartition("chosen=")[2].split(",")

    def dialogue(self) -> str:
        """Begin the platform's dialogue for content; return the picking's id."""
        arrived = self.platform.pick(self.teacher._http, accept_multiple=True)
        assert arrived.status_code == 302, arrived.text
        self.prove()
        return urlsplit(arrived.headers["location"]).path.rpartition("/")[2]

    def put_into_shell(self, items: list[str], **sheet: Any) -> None:
        """Answer the platform's dialogue with items of ours; it makes links of them."""
        token = self.post(f"pickings/{self.dialogue()}/answer", items=items, **sheet)["token"]
        httpx.post(f"{self.platform.url}/picked", data={"JWT": token}).raise_for_status()

    def compare(self) -> tuple[dict[str, Any], list[dict[str, Any]]]:
        """Compare; return the comparison and all its findings."""
        at = f"pairings/{self.pairing}/comparisons"
        begun = self.post(at)
        assert self.done(begun["job"])["state"] == "done"
        found = self.get(f"{at}/{begun['id']}/findings", limit="1000")["results"]
        return self.get(f"{at}/{begun['id']}"), found

    def settle(self, compared: dict[str, Any], **wanted: Any) -> dict[str, Any]:
        """Settle what is asked of a comparison; return the settlement once it is over."""
        at = f"pairings/{self.pairing}/settlements"
        begun = self.post(at, comparison=compared["id"], **wanted)["settlement"]
        self.done(begun["job"])
        found: dict[str, Any] = self.get(f"{at}/{begun['id']}")
        return found

    def refused_to_settle(self, compared: dict[str, Any], **wanted: Any) -> str:
        """Return the code with which a settlement is refused."""
        at = f"pairings/{self.pairing}/settlements"
        return self.refused(at, comparison=compared["id"], **wanted)

    def close(self) -> None:
        """Stop both, and let nobody meet them again."""
        with self.world.administrator() as admin:
            for each in admin.publishers():
                if each["launch_url"].startswith(self.publisher.url):
                    admin.change_publisher(each["id"], active=False)
        self.platform.close()
        self.publisher.close()
