"""A OneRoster 1.2 CSV set as a table: users are learners, line items are items, results are
scores.
"""

from __future__ import annotations

from vennpair.core.reconcile.files.builder import TableBuilder
from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.tables import Table
from vennpair.standards.oneroster.csvset import CsvSet, CsvSetError, Row, read_csv_set

REQUIRED = {
    "users": ("sourcedId", "givenName", "familyName", "email"),
    "lineItems": ("sourcedId", "title", "classSourcedId", "resultValueMax"),
    "results": ("lineItemSourcedId", "studentSourcedId", "score"),
}


def read_oneroster(data: bytes, file: str, class_id: str = "") -> Table:
    """Read one class of a OneRoster set. Raises TableError with the place and the remedy."""
    try:
        tables = read_csv_set(data, REQUIRED)
    except CsvSetError as error:
        raise TableError(
            error.code,
            f"{file}/{error.table}" if error.table else file,
            error.line,
            error.message,
            error.remedy,
        ) from error
    chosen = _chosen_class(tables, file, class_id)
    builder = TableBuilder(file)
    items = {}
    for row in tables.live("lineItems"):
        if row["classSourcedId"] == chosen:
            builder.file = f"{file}/lineItems.csv"
            items[row["sourcedId"]] = builder.item(
                row["sourcedId"], row["title"], row["resultValueMax"], row.line
            )
    results = [row for row in tables.live("results") if row["lineItemSourcedId"] in items]
    learners = {
        user["sourcedId"]: _learner(builder, user) for user in _learners(tables, chosen, results)
    }
    builder.file = f"{file}/results.csv"
    for row in results:
        if row["studentSourcedId"] in learners:
            score = "" if row.get("scoreStatus") == "exempt" else row["score"]
            builder.score(
                learners[row["studentSourcedId"]],
                items[row["lineItemSourcedId"]],
                score,
                row.line,
                at=row.get("scoreDate"),
            )
    return builder.finish()


def _learner(builder: TableBuilder, user: Row) -> int:
    return builder.learner(
        user["sourcedId"], user["email"], f"{user['givenName']} {user['familyName']}".strip()
    )


def _chosen_class(tables: CsvSet, file: str, class_id: str) -> str:
    """Return the class to read; ask where there are several."""
    ids = list(dict.fromkeys(row["classSourcedId"] for row in tables.live("lineItems")))
    if class_id in ids or (not class_id and len(ids) <= 1):
        return class_id or next(iter(ids), "")
    titles = {row["sourcedId"]: row.get("title") for row in tables.live("classes")}
    named = ", ".join(f"{each} ({titles[each]})" if titles.get(each) else each for each in ids)
    what = f"has no class {class_id}" if class_id else "holds several classes"
    raise TableError(
        "class_needed",
        file,
        None,
        f"{file} {what}. It holds: {named or 'none'}.",
        "Choose one with --class ID.",
    )


def _learners(tables: CsvSet, class_id: str, results: list[Row]) -> list[Row]:
    """Return the users who are graded in the class: enrolled as students, or with a result and no
    other part in it.
    """
    parts: dict[str, set[str]] = {}
    for row in tables.live("enrollments"):
        if row.get("classSourcedId") == class_id:
            parts.setdefault(row.get("userSourcedId"), set()).add(row.get("role").lower())
    scored = {row["studentSourcedId"] for row in results}
    if not tables.has("enrollments"):
        for row in tables.live("roles"):
            parts.setdefault(row.get("userSourcedId"), set()).add(row.get("role").lower())
    users = tables.live("users")
    if not parts:
        return [user for user in users if user["sourcedId"] in scored]
    return [
        user
        for user in users
        if "student"
        in parts.get(user["sourcedId"], {"student"} if user["sourcedId"] in scored else set())
    ]
