"""From bytes to rows of text, with the line each row begins on."""

from __future__ import annotations

import codecs
import csv
import io
from collections.abc import Iterator

from vennpair.core.reconcile.files.errors import TableError

LONGEST_FIELD = 1_000_000


def decode(data: bytes, file: str, encoding: str = "") -> str:
    """Decode UTF-8 with or without BOM, or UTF-16 with BOM, unless a layout names another encoding.

    Raises TableError ``encoding`` or ``empty_file``.
    """
    if not data.strip(b"\xef\xbb\xbf \t\r\n"):
        raise TableError(
            "empty_file",
            file,
            None,
            f"{file} holds nothing at all.",
            "Export it again; even a class without scores has a header line.",
        )
    wide = data.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE))
    try:
        text = data.decode(encoding or ("utf-16" if wide else "utf-8-sig"))
    except UnicodeDecodeError as error:
        line = None if wide else data[: error.start].count(b"\n") + 1
        raise _encoding(file, line) from error
    except LookupError as error:
        raise TableError(
            "encoding",
            file,
            None,
            f"There is no encoding called '{encoding}'.",
            "Write one like utf-8 or windows-1252 in the layout.",
        ) from error
    if "\0" in text:
        raise _encoding(file, text[: text.index("\0")].count("\n") + 1)
    return text


def rows(text: str, file: str, separator: str = ",") -> Iterator[tuple[int, list[str]]]:
    """Yield line and fields of every row that is not blank (RFC 4180).

    Raises TableError ``short_row``, ``too_large``.
    """
    csv.field_size_limit(LONGEST_FIELD)
    reader = csv.reader(io.StringIO(text, newline=""), strict=True, delimiter=separator)
    line = 1
    while True:
        try:
            fields = next(reader)
        except StopIteration:
            return
        except csv.Error as error:
            if "field limit" in str(error):
                raise TableError(
                    "too_large",
                    file,
                    line,
                    f"A field in line {line} of {file} is longer than {LONGEST_FIELD:,}"
                    " characters.",
                    "Check whether a quotation mark is missing.",
                ) from error
            raise TableError(
                "short_row",
                file,
                line,
                f"Line {line} of {file} is not quoted as CSV asks for: {error}.",
                "Put fields with commas or quotation marks in quotation marks, and double those"
                " inside.",
            ) from error
        if "".join(fields).strip():
            yield line, fields
        line = reader.line_num + 1


def _encoding(file: str, line: int | None) -> TableError:
    place = f", line {line}," if line else ""
    return TableError(
        "encoding",
        file,
        line,
        f"{file}{place} is neither UTF-8 nor UTF-16 with a byte-order mark.",
        "Save it as 'CSV UTF-8' and try again.",
    )
