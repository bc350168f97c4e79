"""Signing in and out, and how everything is doing."""

from __future__ import annotations

import argparse
import getpass
import os
import sys
from ipaddress import ip_address
from typing import TypeAlias
from urllib.parse import urlsplit

from vennpair.cli.choose import choose_pairing
from vennpair.cli.exits import DONE, FINDINGS, USAGE, Stop
from vennpair.cli.hints import do
from vennpair.cli.output import Output
from vennpair.cli.session import connect, forget_session, keep_session, kept_url
from vennpair.client import NotAllowed, VennPair
from vennpair.client.schema import Token

Commands: TypeAlias = "argparse._SubParsersAction[argparse.ArgumentParser]"


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    sign_in = commands.add_parser(
        "sign-in",
        help="sign in to a service",
        description=(
            "Sign in with a password; set one in the console under your name. The token is kept for"
            " thirty days."
        ),
    )
    sign_in.add_argument(
        "--service",
        metavar="URL",
        default=os.environ.get("VENNPAIR_SERVICE", ""),
        help="address of the service (VENNPAIR_SERVICE)",
    )
    sign_in.add_argument(
        "--user", metavar="NAME", required=True, help="your name there, usually your email address"
    )
    sign_in.add_argument(
        "--password-stdin", action="store_true", help="read the password from standard input"
    )
    sign_in.add_argument(
        "--code", default="", help="of your authenticator app, where your account has that"
    )
    sign_in.set_defaults(run=run_sign_in)
    sign_out = commands.add_parser("sign-out", help="sign out and forget the token")
    sign_out.set_defaults(run=run_sign_out)
    status = commands.add_parser(
        "status",
        help="the state of a pairing, or of all of them",
        description=(
            "Without a shell: every shell with what needs attention. With one: its readiness and"
            " relay."
        ),
    )
    status.add_argument("shell", nargs="?", help="label, title or id")
    status.set_defaults(run=run_status)


def run_sign_in(args: argparse.Namespace, out: Output) -> int:
    """Sign in."""
    url = args.service or kept_url()
    if not url:
        raise Stop(USAGE, "no_service", "Which service?", "Name it with --service URL.")
    _require_private(url)
    if args.password_stdin:
        password = sys.stdin.readline().rstrip("\n")
    elif sys.stdin.isatty():
        password = getpass.getpass(f"Password of {args.user}: ")
    else:
        raise Stop(
            USAGE,
            "no_password",
            "There is no terminal to ask for the password.",
            "Use --password-stdin.",
        )
    with VennPair(url) as venn:
        signed = _signed_in(venn, args, password)
    keep_session(url, signed["token"])
    if out.as_json:
        out.document({"service": url, "name": signed["name"], "expires": signed["expires"]})
    out.line(f"Signed in to {url} as {signed['name']}, until {signed['expires'][:10]}.")
    return DONE


def _require_private(url: str) -> None:
    """Raise Stop where a password would travel for everybody to read."""
    parts = urlsplit(url)
    if parts.scheme == "http" and not _is_here(parts.hostname or ""):
        raise Stop(
            USAGE,
            "not_https",
            f"A password is not sent to {url}: on the way everybody could read it.",
            f"Use https://{parts.netloc}.",
        )


def _is_here(host: str) -> bool:
    try:
        return ip_address(host).is_loopback
    except ValueError:
        return host == "localhost" or host.endswith(".localhost")


def _signed_in(venn: VennPair, args: argparse.Namespace, password: str) -> Token:
    """Sign in; ask for the code of the second factor where there is one."""
    try:
        return venn.sign_in(args.user, password, args.code)
    except NotAllowed as error:
        if error.code != "code_needed" or not sys.stdin.isatty():
            raise
    code = input("Code of your authenticator app, or a recovery code: ")
    return venn.sign_in(args.user, password, code.strip())


def run_sign_out(args: argparse.Namespace, out: Output) -> int:
    """Sign out."""
    with connect() as venn:
        venn.sign_out()
    forget_session()
    if out.as_json:
        out.document({"signed_out": True})
    out.line("Signed out; the token is revoked.")
    return DONE


def run_status(args: argparse.Namespace, out: Output) -> int:
    """Say how things are."""
    with connect() as venn:
        return _status_of(venn, args.shell, out) if args.shell else _status_of_all(venn, out)


def _status_of_all(venn: VennPair, out: Output) -> int:
    me, shells = venn.me(), list(venn.shells())
    if out.as_json:
        out.document({"me": me, "shells": shells})
    if out.terminal:
        out.line(f"{me['name']}, {me['institution']}")
    rows = [(row["label"], row["title"], row["state"], row["attention"]) for row in shells]
    out.table(
        ("shell", "title", "state", "needs attention"),
        rows,
        empty="You have no shells yet: open Venn Pair from a course once.",
    )
    return DONE


def _status_of(venn: VennPair, wanted: str, out: Output) -> int:
    pairing = venn.pairing(choose_pairing(venn, wanted))
    checks, relay = venn.readiness(pairing["id"]), venn.relay(pairing["id"])
    if out.as_json:
        out.document({"pairing": pairing, "readiness": checks, "relay": relay})
    out.line(
        f"{pairing['shell']['label']} with {pairing['course']['title']},"
        f" {pairing['course']['code']}: {pairing['state']}, relay"
        f" {'on' if pairing['relay_on'] else 'OFF: no score is sent'}"
    )
    styles = {"fail": "bold red", "warn": "yellow", "ok": ""}
    label = pairing["shell"]["label"]
    out.table(
        ("check", "state", "what", "what to do"),
        [
            (
                check["code"],
                check["state"],
                check["message"],
                do(check["code"], check["remedy"], label),
            )
            for check in checks
        ],
        styles=[styles[check["state"]] for check in checks],
    )
    out.line(
        "Scores: "
        + (
            ", ".join(f"{count} {state}" for state, count in sorted(relay["counts"].items()))
            or "none reported yet"
        )
    )
    return FINDINGS if any(check["state"] == "fail" for check in checks) else DONE
