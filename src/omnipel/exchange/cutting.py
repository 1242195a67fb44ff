"""The cutting sheet: one page with every panel, its count, finished and cut sizes and the sums."""

from collections.abc import Iterator
from typing import Any

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics

from omnipel.core.covers.dressed import Dressed
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Seam, Trued
from omnipel.core.job.edges import HemOrder, Hold
from omnipel.core.pictures.pens import Paper
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.sheet import by, count_words, seam_title
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import worn
from omnipel.core.words.phrases import NOTHING, Length, Name, Phrase, Voice, bare, listed, term, tr, trn
from omnipel.core.words.sums import sum_words
from omnipel.core.words.working import Worked
from omnipel.exchange.paper import BAND, PLAIN, SQUARE, STRONG, check_square, do_not_cut, replay

Row = tuple[str, str, float]
"""Kind of row, words, indent in mm."""


def cutting_sheet(canvas: Any, draft: Drafted, paper: Paper, voice: Voice) -> None:
    """Draw the sheet as one page; the type shrinks until everything stands on it."""
    left, right = paper.margin + 5.0, paper.width - paper.margin - 5.0
    rows = list(_rows(draft, voice))
    over = BAND if draft.stops else 0.0
    lead, laid = 5.4, []
    while True:
        laid = list(_wrapped(rows, lead, right - left))
        if len(laid) * lead <= paper.height - 2.0 * paper.margin - 18.0 - HEAD - SQUARE - over or lead < 2.2:
            break
        lead *= 0.94
    y = paper.height - paper.margin - 10.0 - over
    if over:
        do_not_cut(canvas, voice, paper)
    canvas.setFillGray(0.0)
    canvas.setFont(STRONG, 18)
    canvas.drawString(left * mm, y * mm, draft.job.name)
    canvas.setFont(PLAIN, 9.5)
    unit = voice.say(tr("lengths in {unit}", unit=term(draft.job.unit.label)))
    about = " · ".join(part for part in (draft.job.owner, draft.job.place, unit) if part)
    canvas.drawString(left * mm, (y - 6.0) * mm, f"{voice.say(tr('Cutting sheet'))} · {about}")
    _picture(canvas, draft, right - WIDE, y + 6.0 - HEAD, WIDE, HEAD)
    y -= HEAD
    for kind, words, indent in laid:
        size = lead * mm * (0.74 if kind == "head" else 0.62)
        canvas.setFont(STRONG if kind in ("head", "size") else PLAIN, size)
        if kind == "head":
            canvas.setLineWidth(0.2 * mm)
            canvas.line(left * mm, (y + lead * 0.78) * mm, right * mm, (y + lead * 0.78) * mm)
        canvas.drawString((left + indent) * mm, y * mm, words)
        y -= lead * (0.45 if kind == "gap" else 1.0)
    check_square(canvas, voice, right - SQUARE, paper.margin + 2.0)
    canvas.showPage()


HEAD, WIDE = 28.0, 46.0
"""Height of the head of the sheet, and how wide the picture in it may be, mm."""


def _picture(canvas: Any, draft: Drafted, x: float, y: float, wide: float, high: float) -> None:
    """The sewn cover on its object, fitted into a box, mm."""
    drawing = drawn(worn(draft.cover, draft.body, draft.job.thing.sticks_out, plain=True), View())
    x0, y0, x1, y1 = drawing.bounds
    scale = min(wide / max(x1 - x0, 1e-6), high / max(y1 - y0, 1e-6))
    canvas.saveState()
    canvas.translate((x + wide / 2.0) * mm, (y + high / 2.0) * mm)
    replay(canvas, drawing.moved(-(x0 + x1) / 2.0, -(y0 + y1) / 2.0), scale=scale)
    canvas.restoreState()
    canvas.setFillGray(0.0)
    canvas.setStrokeGray(0.0)
    canvas.setDash([], 0)


def _rows(draft: Drafted, voice: Voice) -> Iterator[Row]:
    say = voice.say
    for panel in draft.panels:
        yield "head", f"{say(term(panel.name))}     {say(count_words(panel))}", 0.0
        sizes = tr(
            "cut {cut}      finished {finished}",
            cut=by(panel.cut_length, panel.cut_width),
            finished=by(panel.length, panel.width),
        )
        yield "size", say(sizes), 0.0
        if panel.rough_cut:
            long, wide = panel.rough_cut
            rough = tr("{length} × {width}", length=bare(long), width=Length(wide))
            yield "size", say(tr("cut rough {size}, quilt or wash, then trim to the cut size", size=rough)), 0.0
        for name, size in _sums(panel):
            yield "sum", f"{say(name)}:  {sum_words(size, voice)}", 4.0
        for note in panel.notes:
            yield "sum", say(note), 4.0
        yield "gap", "", 0.0
    if draft.cover.hardware:
        yield "head", say(tr("besides cloth")), 0.0
        for item in draft.cover.hardware:
            amount = sum_words(item.length, voice) if item.length else say(trn("{n} piece", "{n} pieces", item.count))
            yield "sum", f"{say(item.name)}:  {amount}{f'  ({say(item.note)})' if item.note else ''}", 4.0
        yield "gap", "", 0.0
    yield "head", say(tr("seams")), 0.0
    for trued in draft.seams:
        yield "sum", say(seam_words(trued)), 4.0
    if draft.cover.edges:
        yield "gap", "", 0.0
        yield "head", say(tr("edges")), 0.0
        for edge in draft.cover.edges:
            yield "sum", say(edge_words(edge)), 4.0
    if draft.findings:
        yield "gap", "", 0.0
        yield "head", say(tr("findings")), 0.0
        for finding in draft.findings:
            yield "sum", f"{say(finding.severity.words)}:  {voice.sentence(finding.text)}", 4.0


def seam_words(trued: Trued) -> Phrase:
    """A seam with both its sides, whether it is true, and its marks."""
    labels = [mark.label for mark in trued.marks]
    marks = NOTHING
    if len(labels) > 1:
        marks = tr("   marks {first} to {last}", first=Name(labels[0]), last=Name(labels[-1]))
    elif labels:
        marks = tr("   mark {mark}", mark=Name(labels[0]))
    marks = tr(", {how}{marks}", how=how_words(trued.seam), marks=marks)
    if trued.true:
        return tr(
            "{seam}:  {a} to {b}, true{marks}",
            seam=seam_title(trued),
            a=bare(trued.length_a),
            b=Length(trued.length_b),
            marks=marks,
        )
    return tr(
        "{seam}:  {a} to {b}, NOT TRUE by {difference}{marks}",
        seam=seam_title(trued),
        a=bare(trued.length_a, fine=True),
        b=Length(trued.length_b, fine=True),
        difference=Length(trued.difference, fine=True),
        marks=marks,
    )


def how_words(seam: Seam) -> Phrase:
    """How a seam is sewn."""
    words = term(str(seam.kind))
    if seam.stretch is not None:
        start, stop = seam.stretch
        words = tr("{how} from {start} to {stop}", how=words, start=bare(start), stop=Length(stop))
    if seam.rows:
        words = trn("{how}, {n} row of topstitching", "{how}, {n} rows of topstitching", seam.rows, how=words)
    return tr("{how}, both ends reinforced", how=words) if seam.tacked else words


def edge_words(edge: Dressed) -> Phrase:
    """The edge of an opening: how long it is, how it is finished, what holds it."""
    finish = edge.finish
    sizes = listed((Length(size) for size in (finish.width, finish.turn_under) if size), " + ")
    made = tr("{finish} {sizes}", finish=term(finish.kind), sizes=sizes) if finish.width else term(finish.kind)
    held = NOTHING
    if edge.drawn:
        held = tr(", {what} drawn in to {drawn}", what=term(edge.held_by), drawn=Length(edge.drawn_to))
    elif edge.held_by is not Hold.NOTHING:
        held = tr(", {what}", what=term(edge.held_by))
    first = tr(", sewn first") if finish.folded and edge.order is HemOrder.HEM_FIRST else NOTHING
    return tr(
        "{edge}:  {length} around, {made}{held}{first}",
        edge=term(edge.name),
        length=Length(edge.length.value),
        made=made,
        held=held,
        first=first,
    )


def _sums(panel: Panel) -> Iterator[tuple[Phrase, Worked]]:
    shown: list[Worked] = []
    own = ((term(name), size) for name, size in panel.sizes.items())
    for name, size in (*own, (tr("cut length"), panel.cut_length), (tr("cut height"), panel.cut_width)):
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
