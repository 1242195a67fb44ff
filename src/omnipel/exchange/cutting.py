"""The cutting sheet: one page with every panel, its count, finished and cut sizes and the sums."""

from collections.abc import Iterator
from typing import Any

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics

from omnipel.core.draft import Draft
from omnipel.core.drafting.panel import Panel
from omnipel.core.pictures.sums import sum_words
from omnipel.core.tape.units import format_length
from omnipel.core.working import Worked
from omnipel.exchange.paper import PLAIN, SQUARE, STRONG, Paper, check_square

Row = tuple[str, str, float]
"""Kind of row, words, indent in mm."""


def cutting_sheet(canvas: Any, draft: Draft, paper: Paper) -> None:
    """Draw the sheet as one page; the type shrinks until everything stands on it."""
    left, right = paper.margin + 5.0, paper.width - paper.margin - 5.0
    rows = list(_rows(draft))
    lead, laid = 5.4, []
    while True:
        laid = list(_wrapped(rows, lead, right - left))
        if len(laid) * lead <= paper.height - 2.0 * paper.margin - 32.0 - SQUARE or lead < 2.2:
            break
        lead *= 0.94
    y = paper.height - paper.margin - 10.0
    canvas.setFillGray(0.0)
    canvas.setFont(STRONG, 18)
    canvas.drawString(left * mm, y * mm, draft.job.name)
    canvas.setFont(PLAIN, 9.5)
    about = " · ".join(part for part in (draft.job.owner, draft.job.place, f"lengths in {draft.job.unit.words}") if part)
    canvas.drawString(left * mm, (y - 6.0) * mm, f"Cutting sheet · {about}")
    y -= 14.0
    for kind, words, indent in laid:
        size = lead * mm * (0.74 if kind == "head" else 0.62)
        canvas.setFont(STRONG if kind in ("head", "size") else PLAIN, size)
        if kind == "head":
            canvas.setLineWidth(0.2 * mm)
            canvas.line(left * mm, (y + lead * 0.78) * mm, right * mm, (y + lead * 0.78) * mm)
        canvas.drawString((left + indent) * mm, y * mm, words)
        y -= lead * (0.45 if kind == "gap" else 1.0)
    check_square(canvas, right - SQUARE, paper.margin + 2.0)
    canvas.showPage()


def _rows(draft: Draft) -> Iterator[Row]:
    unit = draft.job.unit
    for panel in draft.panels:
        yield (
            "head",
            f"{panel.name}     cut {panel.count}{' (half of them mirrored)' if panel.mirrored else ''} from {panel.cloth}",
            0.0,
        )
        cut, finished = (
            " × ".join(format_length(size.value, unit) for size in sizes)
            for sizes in ((panel.cut_length, panel.cut_width), (panel.length, panel.width))
        )
        yield "size", f"cut {cut}      finished {finished}", 0.0
        if panel.rough_cut:
            rough = " × ".join(format_length(side, unit) for side in panel.rough_cut)
            yield "size", f"cut rough {rough}, quilt or wash, then trim to the cut size", 0.0
        for name, size in _sums(panel):
            yield "sum", f"{name}:  {sum_words(size, unit)}", 4.0
        if panel.note:
            yield "sum", panel.note, 4.0
        yield "gap", "", 0.0
    if draft.cover.hardware:
        yield "head", "besides cloth", 0.0
        for item in draft.cover.hardware:
            amount = sum_words(item.length, unit) if item.length else f"{item.count} pieces"
            yield "sum", f"{item.name}:  {amount}{f'  ({item.note})' if item.note else ''}", 4.0
        yield "gap", "", 0.0
    yield "head", "seams", 0.0
    for trued in draft.seams:
        sides = f"{format_length(trued.length_a, unit, fine=True)} to {format_length(trued.length_b, unit, fine=True)}"
        state = "true" if trued.true else f"NOT TRUE by {format_length(trued.difference, unit, fine=True)}"
        marks = f"   marks {trued.marks[0].label} to {trued.marks[-1].label}" if trued.marks else ""
        yield "sum", f"{trued.seam.name}:  {sides}, {state}{marks}", 4.0
    if draft.findings:
        yield "gap", "", 0.0
        yield "head", "findings", 0.0
        for finding in draft.findings:
            yield "sum", f"{finding.severity.words}:  {finding.text}", 4.0


def _sums(panel: Panel) -> Iterator[tuple[str, Worked]]:
    shown: list[Worked] = []
    for name, size in (*panel.sizes.items(), ("cut length", panel.cut_length), ("cut width", panel.cut_width)):
        if size not in shown:
            shown.append(size)
            yield name, size


def _wrapped(rows: list[Row], lead: float, width: float) -> Iterator[Row]:
    """Rows broken at spaces so that none is wider than the sheet; what runs on is indented once more."""
    for kind, words, indent in rows:
        size = lead * mm * (0.74 if kind == "head" else 0.62)
        font = STRONG if kind in ("head", "size") else PLAIN
        line, at, now = "", indent, kind
        for word in words.split(" "):
            trial = f"{line} {word}" if line else word
            if line and pdfmetrics.stringWidth(trial, font, size) > (width - at) * mm:
                yield now, line, at
                line, at, now = word, indent + 4.0, "sum" if kind == "head" else kind
            else:
                line = trial
        yield now, line, at
