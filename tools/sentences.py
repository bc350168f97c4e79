"""The sentences of the code, for those who put them into another language.

Usage: python -m tools.sentences [--check]

Finds what the service says to people, and adds what is new to each ``sentences.po`` of
``src/vennpair/service/kernel/language``; what the code no longer says goes. With ``--check``
nothing is written: it fails where a sentence has no translation, or one has a part that the
sentence lacks, or where words are said that docs/words.md avoids, also to operators and scripts.
"""

from __future__ import annotations

import ast
import calendar
import itertools
import re
import sys
from collections.abc import Iterator
from pathlib import Path

import polib

from tools.world.cluster import ROOT
from vennpair.service.kernel.language.catalogue import PART

PACKAGE = ROOT / "src" / "vennpair"
LANGUAGES = PACKAGE / "service" / "kernel" / "language"
# What operators and scripts read stays English, as do the clauses and texts of the standards.
APART = {"cli", "client", "standins", "migrations", "management", "operating", "language"}
APART_FOLDERS = re.compile(r"standards/(?!cartridge|numbers|json_text)")
APART_FILES = re.compile(
    r"service/(settings\w*|server|manage|urls|api/(health|security_txt|headers|schema)"
    r"|kernel/(metrics|operator|broadcast|web/described)|\w+/metrics)\.py"
    r"|gateways/(counted|memory)\.py|.*/(models|apps)\.py"
)
LOGGED = {"info", "warning", "exception", "error", "debug", "execute", "add_argument", "compile"}
COUNTED = {"many", "count", "_count"}  # functions that say how many of what
HELP = {"help_text", "description", "summary", "clause", "help"}
CODE = re.compile(
    r"[<>|\\]|charset=|^\w+ = |-src |%\(|://|^\W*$|^//|--[a-z]|^(GET|POST|SELECT|Bearer|Basic) |^[A-Z][\w. ]* \d[\d.]*(, [\w.]+)?$|filename"
)
SAID = re.compile(r"\{% say \"([^\"]*)\"")
# What joins the parts of a sentence, and parts that follow each other without a word between.
BETWEEN = [", ", ", and ", " and ", " or ", "{n} of {n2}"]
BETWEEN += ["{n} on {month} {n2} at {time}", " on {month} {n} at {time}", "{n} on {month} {n2}"]
BETWEEN += [" on {month} {n}", "{month} {n}, {year} at {time}", "{month} {n}"]
BETWEEN += ["scores", "points"]
# As moments were written before; rows of then are still read.
BETWEEN += ["{n} on {day} {month} at {time}", " on {day} {month} at {time}"]
BETWEEN += ["{n} on {day} {month}", " on {day} {month}", "{n} {month} {year}, {time}"]
BETWEEN += ["{n} {month} {year}", "{n} {month}", *calendar.month_name[1:], *calendar.month_abbr[1:]]
WORDS = re.compile(r"[A-Za-z]{3,}")
AVOIDED = re.compile(
    r"\b(anew|by itself|so many|stands?( (there|here|as|in|for|alone)|\.)|kept right|mend(s|ed)?"
    r"|drifts?( |\.|$)|tak(e|es|en|ing) back|took back|(any more|worthless)\b|puts? right|is no (graded|proposal|score|problem|such))",
    re.IGNORECASE,
)
# In docstrings, of which the descriptions of the API are made; a sign may stand for a thing.
AVOIDED_IN_DOCS = re.compile(
    r"(?<![`'])\b(anew|by (itself|themselves)|(stand|stands|stood)(?! for)(?![-_]))\b(?![`'])"
)
DOCUMENTED = ast.Module | ast.FunctionDef | ast.AsyncFunctionDef | ast.ClassDef
VARIANTS = 3  # conditions within one sentence of which all cases are written out


def main() -> None:
    """Write the catalogues, or check them."""
    found = sentences()
    troubles = [*_avoided(), *_avoided_in_docs()] if "--check" in sys.argv else []
    for file in sorted(LANGUAGES.glob("*/sentences.po")):
        troubles += _checked(file, found) if "--check" in sys.argv else _written(file, found)
    for trouble in troubles:
        print(trouble)
    if troubles:
        raise SystemExit(f"sentences: {len(troubles)} to put into other words")


def sentences() -> dict[str, str]:
    """Return each sentence with its parts in braces, and the file in which it is said first."""
    found: dict[str, str] = {}
    for place, said in _everything():
        apart = APART & set(place.parts) or APART_FOLDERS.match(str(place))
        if not apart and not APART_FILES.fullmatch(str(place)):
            found.setdefault(said, str(place))
    for path in sorted(PACKAGE.glob("service/**/*.html")):
        for said in SAID.findall(path.read_text("utf-8")):
            found.setdefault(said, str(path.relative_to(PACKAGE)))
    return found | dict.fromkeys(BETWEEN, "")


def _everything() -> Iterator[tuple[Path, str]]:
    """Yield whatever any part of the package says to anybody, and where."""
    for path in sorted(PACKAGE.rglob("*.py")):
        for said in _said(ast.parse(path.read_text("utf-8"))):
            fixed = PART.sub("_", said)
            if " " in fixed.strip() and WORDS.search(fixed) and not CODE.search(fixed):
                yield path.relative_to(PACKAGE), said


def _avoided() -> list[str]:
    """Return what is said in words that the style guide avoids; samples speak as people do, and
    migrations as their time did.
    """
    return [
        f"{place}: {said!r} says what docs/words.md avoids"
        for place, said in _everything()
        if AVOIDED.search(PART.sub("_", said)) and not {"standins", "migrations"} & set(place.parts)
    ]


def _avoided_in_docs() -> list[str]:
    """Return where docstrings have such words."""
    return [
        f"{path.relative_to(PACKAGE)}: {met[0]!r} in a docstring is what docs/words.md avoids"
        for path in sorted(PACKAGE.rglob("*.py"))
        for node in ast.walk(ast.parse(path.read_text("utf-8")))
        if isinstance(node, DOCUMENTED)
        and (met := AVOIDED_IN_DOCS.search(ast.get_docstring(node) or ""))
    ]


def _said(node: ast.AST) -> Iterator[str]:
    if isinstance(node, ast.keyword) and node.arg in HELP:
        return
    if isinstance(node, ast.Call):
        name = _name(node.func)
        if isinstance(node.func, ast.Attribute) and node.func.attr in LOGGED:
            return
        if name in COUNTED:
            yield from _nouns(node)
            return
    if isinstance(node, DOCUMENTED) and ast.get_docstring(node):
        for child in [*node.body[1:], *getattr(node, "decorator_list", [])]:
            yield from _said(child)
        return
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        yield node.value
        return
    if isinstance(node, ast.JoinedStr):
        yield from _cases(node)
        for value in node.values:
            if isinstance(value, ast.FormattedValue) and not isinstance(value.value, ast.IfExp):
                yield from _said(value.value)
        return
    for child in ast.iter_child_nodes(node):
        yield from _said(child)


def _nouns(call: ast.Call) -> Iterator[str]:
    """Yield how many of what: one, and more of them."""
    nouns = [str(each.value) for each in call.args[1:] if isinstance(each, ast.Constant)]
    if nouns:
        yield f"{{n}} {nouns[0]}"
        yield f"{{n}} {nouns[1] if len(nouns) > 1 else f'{nouns[0]}s'}"


def _cases(joined: ast.JoinedStr) -> Iterator[str]:
    """Yield an f-string with all its conditions' words written out, or as parts where many."""
    values = [each.value for each in joined.values if isinstance(each, ast.FormattedValue)]
    tests = dict.fromkeys(ast.dump(each.test) for each in map(_chosen, values) if each)
    if len(tests) > VARIANTS:
        yield _text(joined, {})
        return
    for truths in itertools.product((True, False), repeat=len(tests)):
        yield _text(joined, dict(zip(tests, truths, strict=True)))


def _chosen(node: ast.expr) -> ast.IfExp | None:
    """Return an expression that is one of two texts."""
    return node if isinstance(node, ast.IfExp) and _text_like(node.body, node.orelse) else None


def _text_like(*nodes: ast.expr) -> bool:
    return all(
        isinstance(each, ast.JoinedStr)
        or (isinstance(each, ast.Constant) and isinstance(each.value, str))
        for each in nodes
    )


def _text(node: ast.expr, truths: dict[str, bool], names: dict[str, int] | None = None) -> str:
    names = {} if names is None else names
    if isinstance(node, ast.Constant):
        return str(node.value)
    if isinstance(node, ast.JoinedStr):
        return "".join(_text(each, truths, names) for each in node.values)
    if isinstance(node, ast.FormattedValue):
        chosen = _chosen(node.value)
        if chosen and (known := ast.dump(chosen.test)) in truths:
            return _text(chosen.body if truths[known] else chosen.orelse, truths, names)
        name = re.sub(r"[^a-z_]", "", _name(node.value).lower()).strip("_") or "x"
        names[name] = names.get(name, 0) + 1
        return f"{{{name}{names[name] if names[name] > 1 else ''}}}"
    return ""


def _name(node: ast.expr) -> str:
    """Return what to call a part after the expression that fills it."""
    match node:
        case ast.Name(id=name):
            return name
        case ast.Attribute(attr=name):
            return name
        case ast.Call(func=function):
            return "n" if _name(function) == "len" else _name(function)
        case ast.Subscript(value=value) | ast.IfExp(body=value):
            return _name(value)
        case _:
            return "x"


def _written(file: Path, found: dict[str, str]) -> list[str]:
    catalogue = polib.pofile(str(file))
    known = {entry.msgid: entry.msgstr for entry in catalogue}
    made = polib.POFile(wrapwidth=100)
    made.metadata = catalogue.metadata
    for said, place in found.items():
        made.append(
            polib.POEntry(
                msgid=said, msgstr=known.get(said, ""), occurrences=[(place, "")] * bool(place)
            )
        )
    made.save(str(file))
    return [f"{file.parent.name}: {said}" for said in found if not known.get(said)]


def _checked(file: Path, found: dict[str, str]) -> list[str]:
    known = {entry.msgid: entry.msgstr for entry in polib.pofile(str(file))}
    missing = [
        f"{file.parent.name}: no words for {said!r}" for said in found if not known.get(said)
    ]
    odd = [
        f"{file.parent.name}: {other!r} has a part that {said!r} lacks"
        for said, other in known.items()
        if not set(PART.findall(other)) <= set(PART.findall(said))
    ]
    gone = [
        f"{file.parent.name}: nobody says {said!r} any more" for said in known if said not in found
    ]
    return missing + odd + gone


if __name__ == "__main__":
    main()
