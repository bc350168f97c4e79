"""Moments on the command line: in the course's zone, which is named, whatever zone they were
written in.
"""

from __future__ import annotations

import time

import pytest

from vennpair.cli.clock import clock_of


@pytest.mark.parametrize(
    ("text", "zone", "words"),
    [
        (
            "2027-01-20T05:59:00Z",
            "America/Chicago",
            "2027-01-19 23:59 CST",
        ),  # due on the nineteenth, where the course is
        ("2027-07-20T05:59:00.123456+00:00", "America/Chicago", "2027-07-20 00:59 CDT"),
        (
            "2027-03-14T08:00:00Z",
            "America/Chicago",
            "2027-03-14 03:00 CDT",
        ),  # the hour before it did not exist
        ("2027-11-07T07:30:00Z", "America/Chicago", "2027-11-07 01:30 CST"),  # the second of two
        ("2027-01-19T23:59:00-06:00", "Asia/Kathmandu", "2027-01-20 11:44 +0545"),
        ("2027-01-19T23:59:00-06:00", "Nowhere/At_All", "2027-01-20 05:59 UTC"),
        ("2027-01-19T23:59:00-06:00", "../passwd", "2027-01-20 05:59 UTC"),
        ("2027-01-19", "Asia/Kathmandu", "2027-01-19"),
        ("", "America/Chicago", ""),
        (None, "America/Chicago", ""),
    ],
)
def test_a_moment_is_said_in_the_course_s_zone(text: str | None, zone: str, words: str) -> None:
    assert clock_of(zone)(text) == words


def test_without_a_course_it_is_this_machine_s_zone(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("TZ", "Europe/Lisbon")
    time.tzset()
    try:
        assert clock_of(seconds=True)("2027-07-01T12:00:05Z") == "2027-07-01 13:00:05 WEST"
    finally:
        monkeypatch.undo()
        time.tzset()
