"""Setting up: shells, consent, accounts, homework courses, and pairing them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any, TypedDict

from vennpair.client.schema import (
    Account,
    Check,
    Consent,
    Consequences,
    Copied,
    Course,
    FirstSteps,
    Matches,
    Notice,
    Pairing,
    SeveralRow,
    ShellTool,
    Title,
)
from vennpair.client.transport import Transport


class _Unread(TypedDict):
    """What the list of courses says beside its rows."""

    unread: list[dict[str, str]]


class SettingUp(Transport):
    """The part of the client that brings a pairing about."""

    def consent(self, shell: str) -> Consent:
        """Say what of a shell is read and written, and whether somebody agreed."""
        return self._get(Consent, f"/shells/{shell}/consent")

    def agree(self, shell: str) -> Consent:
        """Agree to it."""
        return self._post(Consent, f"/shells/{shell}/consent", {})

    def withdraw(self, shell: str) -> Consent:
        """Withdraw the agreement; a live pairing is paused."""
        return self._call(Consent, "DELETE", f"/shells/{shell}/consent")

    def shell_tool(self, shell: str) -> ShellTool:
        """Say whether and where Venn Pair is turned on in a shell."""
        return self._get(ShellTool, f"/shells/{shell}/tool")

    def change_shell_tool(self, shell: str, **changes: Any) -> ShellTool:
        """Begin changing ``on``, ``navigation``, ``position``, ``audience``; ``job`` does it.

        With ``dry_run`` only say what that would break.
        """
        return self._call(ShellTool, "PATCH", f"/shells/{shell}/tool", json=changes)

    def copied(self, shell: str) -> Copied:
        """Say what a shell was copied from, and the ways on."""
        return self._get(Copied, f"/shells/{shell}/copied")

    def go_on(self, shell: str, choice: str, *, agree: bool = False) -> Pairing:
        """Pair a copied shell with the ``same`` homework course or a ``fresh`` copy.

        Its links are pointed there.
        """
        return self._post(Pairing, f"/shells/{shell}/copied", {"choice": choice, "agree": agree})

    def courses(
        self, words: str = "", shell: str = "", *, refresh: bool = False, mine: bool = False
    ) -> list[Course]:
        """Return homework courses that hold every word, best fitting the shell first."""
        params = {
            "q": words,
            "shell": shell,
            "refresh": "true" if refresh else "",
            "mine": "true" if mine else "",
        }
        return list(
            self._list(Course, "/courses", {name: value for name, value in params.items() if value})
        )

    def read_courses_again(self) -> list[dict[str, str]]:
        """Ask the publishers for their courses now.

        Return those that could not be read, with ``message`` and ``remedy``.
        """
        asked = {"refresh": "true", "limit": "1"}
        return self._get(_Unread, "/courses", asked)["unread"]

    def titles(self, words: str = "") -> Iterator[Title]:
        """Yield the institution's adopted titles that hold every word."""
        return self._list(Title, "/titles", {"q": words} if words else None)

    def pair(self, shell: str, course: str, *, agree: bool = False, share: bool = False) -> Pairing:
        """Pair a shell with a homework course, by their ids; ``agree`` gives the consent that is
        needed once.

        ``share`` uses a course that another shell has, where its publisher allows that.
        """
        return self._post(
            Pairing, "/pairings", {"shell": shell, "course": course, "agree": agree, "share": share}
        )

    def pair_new(
        self, shell: str, way: str, source: str, *, name: str = "", agree: bool = False
    ) -> Pairing:
        """Let the publisher make a course: ``way`` is title, copy_of or section_of, ``source`` that
        one's id; see ``set_up``.
        """
        return self._post(
            Pairing, "/pairings", {"shell": shell, way: source, "name": name, "agree": agree}
        )

    def guess_several(self, shells: Sequence[str]) -> list[SeveralRow]:
        """Guess a course for each shell; changes nothing."""
        return self._post(list[SeveralRow], "/pairings/several", {"shells": list(shells)})

    def pair_several(
        self, pairs: Sequence[tuple[str, str]], *, agree: bool = False
    ) -> list[SeveralRow]:
        """Pair each shell with its course; one that is refused keeps none back."""
        rows = [{"shell": shell, "course": course} for shell, course in pairs]
        return self._post(list[SeveralRow], "/pairings/several", {"pairs": rows, "agree": agree})

    def pairing(self, pairing: str) -> Pairing:
        """Return one pairing."""
        return self._get(Pairing, f"/pairings/{pairing}")

    def change_pairing(self, pairing: str, **changes: Any) -> Pairing:
        """Change ``state`` (live, paused, ended) or ``relay_on``.

        An ended one is taken up again by ``paused``.
        """
        return self._call(Pairing, "PATCH", f"/pairings/{pairing}", json=changes)

    def consequences(self, pairing: str, state: str) -> list[str]:
        """Say in sentences what a change of state would do; changes nothing."""
        path = f"/pairings/{pairing}/consequences"
        return self._get(Consequences, path, {"state": state})["consequences"]

    def readiness(self, pairing: str) -> list[Check]:
        """Check what the pairing needs, now."""
        return self._get(list[Check], f"/pairings/{pairing}/readiness")

    def first_steps(self, pairing: str, access: str = "") -> FirstSteps:
        """Return what learners are told first, by how access is paid: code, fee or free."""
        return self._get(
            FirstSteps, f"/pairings/{pairing}/first-steps", {"access": access} if access else None
        )

    def choose_first_steps(self, pairing: str, access: str, *, place: bool = False) -> FirstSteps:
        """Choose it; with ``place`` the page is put at the top of the shell."""
        return self._post(
            FirstSteps, f"/pairings/{pairing}/first-steps", {"access": access, "place": place}
        )

    def matches(self, pairing: str) -> Matches:
        """Return the publisher's accounts that need a person's word, and those that got it."""
        return self._get(Matches, f"/pairings/{pairing}/matches")

    def confirm_match(self, pairing: str, student: str, learner: str) -> dict[str, Any]:
        """Say that an account is a learner's."""
        return self._post(
            dict[str, Any], f"/pairings/{pairing}/matches", {"student": student, "learner": learner}
        )

    def undo_match(self, pairing: str, match: int) -> None:
        """Take that back."""
        self._done("DELETE", f"/pairings/{pairing}/matches/{match}")

    def accounts(self) -> list[Account]:
        """Return every publisher of the institution with one's account there."""
        return self._get(list[Account], "/accounts")

    def link_account(self, publisher: str) -> dict[str, Any]:
        """Begin a link; ``open`` is the address to open in the browser that is signed in to Venn
        Pair.
        """
        return self._post(dict[str, Any], "/accounts", {"publisher": publisher})

    def look_for_account(self, account: str) -> Account:
        """Ask the publisher which account opened it."""
        return self._post(Account, f"/accounts/{account}/look", {})

    def confirm_account(self, account: str) -> Account:
        """Say that an account that looks like somebody else's is one's own."""
        return self._post(Account, f"/accounts/{account}/confirm", {})

    def undo_account(self, account: str) -> None:
        """Undo a link."""
        self._done("DELETE", f"/accounts/{account}")

    def notices(self) -> Iterator[Notice]:
        """Yield one's notices, newest first."""
        return self._list(Notice, "/notices")

    def read_notices(self) -> None:
        """Mark all notices as read."""
        self._done("POST", "/notices/read", json={})
