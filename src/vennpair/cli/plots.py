"""A comparison as a picture for a document: the Venn with its counts, and the class as a matrix."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from vennpair.cli.exits import USAGE, Stop
from vennpair.core.counting import many
from vennpair.core.reconcile.report import Report
from vennpair.core.reconcile.report.svg import MARKS, TONES

LEFT, RIGHT, BOTH, ALARM, INK, PAPER = (
    "#a34f06",
    "#0b6197",
    "#4b3a78",
    "#a8123f",
    "#1d2130",
    "#faf8f4",
)
FILL = {
    "quiet": "#e2dcf1",
    "left": "#f7e3cc",
    "right": "#cfe6f4",
    "both": "#d3c9ec",
    "alarm": "#eb9fb6",
}
EDGE = {"quiet": "#e2dcf1", "left": LEFT, "right": RIGHT, "both": BOTH, "alarm": ALARM}
HEADS, COUNTS = (1.35, 3.0, 4.65), (1.1, 3.0, 4.9)  # from left to right, in the circles' units
CENTERED: dict[str, Any] = {"ha": "center", "fontweight": "bold"}
MOST_NAMES = 70
SIDES = 3


def plot(report: Report, target: Path) -> None:
    """Write a PNG (or whatever the file's ending says).

    Raises Stop where the drawing package or the place is missing.
    """
    try:
        import matplotlib as mpl  # only here: it takes as long to load as everything else together
        from matplotlib import pyplot
    except ImportError as error:
        raise Stop(
            USAGE,
            "no_plots",
            "Pictures need the package matplotlib.",
            "Install Venn Pair with its extra: vennpair[reports].",
        ) from error
    mpl.use("Agg")
    wide, high = (
        min(14.0, 2.5 + max(len(report.items), 6) * 0.28),
        min(24.0, max(5.0, 1.8 + max(len(report.learners), 6) * 0.2)),
    )
    figure, (left, right) = pyplot.subplots(
        1, 2, figsize=(6 + wide, high), width_ratios=[6, wide], facecolor=PAPER
    )
    _draw_venn(left, report)
    _draw_class(right, report)
    try:
        figure.savefig(target, dpi=130, bbox_inches="tight", facecolor=PAPER)
    except (OSError, ValueError) as error:
        raise Stop(
            USAGE,
            "unwritable",
            f"{target} cannot be written: {error}.",
            "Choose another path; it ends with .png, .svg or .pdf.",
        ) from error
    finally:
        pyplot.close(figure)


def _draw_venn(axes: Any, report: Report) -> None:
    from matplotlib.patches import Circle

    for place, fill, edge in ((2, FILL["left"], LEFT), (4, FILL["right"], RIGHT)):
        axes.add_patch(
            Circle((place, 2), 1.97, facecolor=fill, edgecolor=edge, linewidth=1.6, alpha=0.75)
        )
    for at, words, ink in zip(
        HEADS, (report.left, "both", report.right), (LEFT, BOTH, RIGHT), strict=True
    ):
        axes.text(at, 3.2, _shortened(words, 18), color=ink, fontsize=8.5, **CENTERED)
    rows = [(name, counts) for name, counts in report.venn.items() if len(counts) == SIDES]
    for row, (name, counts) in enumerate(rows):
        high = 2.6 - row * 0.72
        for at, count in zip(COUNTS, counts, strict=True):
            axes.text(at, high, str(count), color=INK, fontsize=17, **CENTERED)
            words = name.removesuffix("s") if count == 1 else name
            axes.text(at, high - 0.24, words, ha="center", color=INK, fontsize=9)
    if differ := (report.venn.get("scores_differ") or [0])[0]:
        # Broken in two, as what both have is narrow down there.
        words = many(differ, "does not\nagree", "do not\nagree")
        axes.text(3, 0.77, words, color=ALARM, fontsize=7, va="top", **CENTERED)
    axes.set(xlim=(-0.1, 6.1), ylim=(-0.1, 4.1), aspect="equal")
    axes.set_title(_shortened(report.title, 60), color=INK, fontsize=12)
    axes.axis("off")


def _draw_class(axes: Any, report: Report) -> None:
    from matplotlib.patches import Rectangle

    named = len(report.learners) <= MOST_NAMES
    for row, column, kind in (
        (row, column, kind)
        for row, kinds in enumerate(report.kinds)
        for column, kind in enumerate(kinds)
        if kind is not None
    ):
        tone = TONES.get(kind, "both")
        axes.add_patch(
            Rectangle(
                (column - 0.44, row - 0.44),
                0.88,
                0.88,
                facecolor=FILL[tone],
                edgecolor=EDGE[tone],
                linewidth=0.7,
            )
        )
        if named and kind in MARKS:
            axes.text(
                column,
                row,
                MARKS[kind],
                ha="center",
                va="center",
                fontsize=7,
                fontweight="bold",
                color=INK,
            )
    axes.set(
        xlim=(-0.6, max(len(report.items), 6) - 0.4),
        ylim=(max(len(report.learners), 6) - 0.4, -0.6),
        aspect="equal",
    )
    axes.set_xticks(
        range(len(report.items)),
        [_shortened(each, 24) for each in report.items],
        rotation=50,
        ha="left",
        fontsize=7,
        color=INK,
    )
    names = [_shortened(each, 24) for each in report.learners] if named else []
    axes.set_yticks(range(len(names)), names, fontsize=7, color=INK)
    axes.xaxis.tick_top()
    axes.tick_params(length=0)
    axes.set_frame_on(False)
    seen = sorted({kind for kinds in report.kinds for kind in kinds if kind in MARKS})
    axes.set_xlabel(
        "   ".join(f"{MARKS[kind]} {kind.replace('_', ' ')}" for kind in seen),
        fontsize=8,
        color=INK,
    )


def _shortened(text: str, most: int) -> str:
    # Two dollar signs would begin a formula of the drawing package's own.
    return (text if len(text) <= most else text[: most - 1] + "…").replace("$", r"\$")
