"""The order of work on paper: every step with its box to tick, the pieces as they lie, what to set, to mind and to check."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Final

from reportlab.lib.units import mm

from omnipel.core.draft import Drafted
from omnipel.core.drafting.crosssection import CrossSection, Side
from omnipel.core.job.findings import Severity
from omnipel.core.learning.why import asked_at
from omnipel.core.pictures.drawing import Drawing, Label, Path
from omnipel.core.pictures.labels import extent
from omnipel.core.pictures.lying import LETTER
from omnipel.core.pictures.pens import Paper
from omnipel.core.sewing.howto import how
from omnipel.core.sewing.paces import Person
from omnipel.core.sewing.pictured import picture, section
from omnipel.core.sewing.plan import Plan, Step, planned
from omnipel.core.sewing.saying import changeover_words, covers_words, range_words, rig_words
from omnipel.core.sewing.traps import traps
from omnipel.core.words.phrases import Count, Minutes, Name, Phrase, Voice, tr
from omnipel.core.words.phrases import mm as length
from omnipel.exchange.papers.book import Book
from omnipel.exchange.papers.pages import LEAD, SIZE, Pages
from omnipel.exchange.papers.paper import breadth, replay, wrapped_to, write
from omnipel.exchange.papers.sheets import PLAIN, STRONG

TEXT, BESIDE = 15.0, 6.0
"""Where the words stand, from the left, and how far they are from the picture, mm; the boxes to tick stand before them."""
PICTURE: Final = (70.0, 44.0)
"""A picture is no wider and no higher, mm."""
CUT_ACROSS: Final = (46.0, 11.0)
"""What is being made, cut across, mm."""
LEAST: Final = 8.2
"""Letters in a picture are no smaller, pt."""
FEW, FEW_SHARE, MOST_SHARE = 3, 0.2, 0.06
"""Letters that took a larger share of a picture would leave nothing to be seen of the pieces, of a few or of more of them."""
BLANK: Final = "_" * 12
"""A line to write a size on that was measured."""
MOST_BOXES: Final = 10
"""Of more covers than this one box stands for all."""
BOX: Final = 3.4
GREYS: Final = {Side.FIRST: 0.72, Side.SECOND: 0.9, Side.STRIP: 0.45}
"""How light the layers of a cross-section are."""


@dataclass
class Block:
    """A step as it stands on paper: lines of its words, its picture with how large that is, and what is being made."""

    step: Step
    lines: list[tuple[str, str]] = field(default_factory=list)
    drawing: Drawing | None = None
    scale: float = 0.0
    cut: CrossSection | None = None

    @property
    def pictured(self) -> float:
        """How high its picture is, mm."""
        if self.drawing is None:
            return 0.0
        _, y0, _, y1 = extent(self.drawing)
        return (y1 - y0) * self.scale

    @property
    def high(self) -> float:
        """How high it is, mm."""
        words = len(self.lines) * LEAD + (CUT_ACROSS[1] + 2.0 if self.cut is not None else 0.0)
        return max(words, self.pictured + 1.0) + 3.0


def order_sheets(book: Book, draft: Drafted, paper: Paper, person: Person | None = None, *, told: bool = False) -> None:
    """The order of work of a job; `told`: each kind of step with how it is done, where it comes first."""
    job = draft.job
    plan = planned(draft, person, job.copies, job.sewing.order)
    made = Pages(book, paper, tr("Order of work"))
    made.begin()
    _head(made, plan)
    before: Step | None = None
    known: set[str] = set()
    drawn: set[bytes] = set()
    for step in plan.steps:
        sentences = how(step.operation.deed) if told and step.operation.deed not in known else ()
        known.add(step.operation.deed)
        block = _block(made, plan, step, sentences, drawn)
        new = before is None or step.changeover
        made.room(block.high + (2.0 * LEAD + 3.0 if new else 0.0))
        if new:
            _rig(made, step)
        _step(made, block, plan)
        before = step
    made.done()


def _head(made: Pages, plan: Plan) -> None:
    """How long it takes, how often one changes over, and what there is to say about the order."""
    say, done = made.voice.sentence, plan.making.drafted.job.sewing.done
    lines = [
        tr("{covers}, {minutes}", covers=covers_words(plan.copies), minutes=range_words(plan.span())),
        changeover_words(plan),
    ]
    if done & set(plan.by_key):
        left = plan.left(done)
        lines.append(
            tr(
                "{left} of {all} steps are left, {minutes}",
                left=Count(len(left)),
                all=Count(len(plan.steps)),
                minutes=range_words(plan.span(done)),
            )
        )
    lines += [finding.text for finding in (*made.draft.findings, *traps(plan)) if finding.severity is not Severity.NOTE]
    for words in lines:
        for line in wrapped_to(say(words), SIZE, made.right - made.left):
            made.row(((line, 0.0),))
    made.y -= 2.0


def _block(made: Pages, plan: Plan, step: Step, sentences: tuple[Phrase, ...], drawn: set[bytes]) -> Block:
    """A step, its words broken to the room that its picture leaves. What is drawn already is not drawn again: pieces as they lay, and steps that are done
    to other copies of the same panels.
    """
    block = Block(step)
    if step.operation.on:
        panel_of = plan.making.drafted.cover.panel_of
        alike = repr(
            (step.operation.deed, [panel_of.get(name, name) for name in step.operation.on], bool(step.operation.seams))
        ).encode()
        drawing, scale = _picture(plan, step, made.voice) if alike not in drawn else (None, 0.0)
        same = _known_by(drawing)
        if drawing is not None and same not in drawn:
            block.drawing, block.scale = drawing, scale
            block.cut = section(plan, step)
        drawn |= {alike, same}
    room = made.right - made.left - TEXT - (PICTURE[0] + BESIDE if block.drawing is not None else 0.0)
    say, operation = made.voice.sentence, step.operation

    def add(words: Phrase, kind: str = "", less: float = 0.0) -> None:
        broken = list(wrapped_to(say(words), SIZE * (1.06 if kind in ("head", "mind") else 1.0), room - less))
        block.lines.extend((line, kind if i == 0 else f"{kind} more") for i, line in enumerate(broken))

    add(operation.words, "head", 16.0)
    for caution in step.cautions:
        add(caution.words, "mind", 5.0)
    for name, words in step.settings:
        add(tr("{name}: {words}", name=name, words=words))
    for size in asked_at(plan.making, step.stage) if step.stage is not None else ():
        add(tr("{size}: {planned}, made {line}", size=size.words, planned=length(size.planned.value), line=Name(BLANK)))
    for check in (check for check in operation.checks if not (step.stop and check.length)):
        add(
            tr("{words}: {length}", words=check.words, length=length(check.length)) if check.length else check.words, "check", 5.0
        )
    for number, sentence in enumerate(sentences, 1):
        add(tr("{n}. {words}", n=Count(number), words=sentence))
    if (note := plan.making.drafted.job.sewing.steps.get(step.key)) is not None and note.note:
        add(tr("noted: {note}", note=_noted(note.note)))
    return block


def _known_by(drawing: Drawing | None) -> bytes:
    """What tells a picture from others."""
    paths = [item for item in drawing.items if isinstance(item, Path)] if drawing is not None else []
    return b"".join(path.layer.encode() + path.points.round(1).tobytes() for path in paths)


def _noted(text: str) -> Phrase:
    return tr("“{text}”", text=Name(text))


def _picture(plan: Plan, step: Step, voice: Voice) -> tuple[Drawing | None, float]:
    """The picture of a step and its scale, its letters large enough to be read on paper."""
    share = LETTER
    drawing = picture(plan, step, voice, share)
    if not drawing.items:
        return None, 0.0
    for _ in range(6):  # larger letters make a larger picture
        x0, y0, x1, y1 = extent(drawing)
        scale = min(PICTURE[0] / max(x1 - x0, 1e-6), PICTURE[1] / max(y1 - y0, 1e-6))
        words = [item.size for item in drawing.items if isinstance(item, Label) and item.words]
        least, few = min(words, default=0.0), min(len(words), len(step.operation.on)) <= FEW
        if not least or least * scale * mm >= LEAST:
            return drawing, scale
        share *= LEAST / (least * scale * mm) * 1.05
        if share > (FEW_SHARE if few else MOST_SHARE):
            return None, 0.0
        drawing = picture(plan, step, voice, share)
    return None, 0.0


def _rig(made: Pages, step: Step) -> None:
    """A changeover: where one goes on."""
    made.y -= LEAD * 0.4
    made.heading(rig_words(step.rig), least=0.0)
    made.y -= 1.0


def _step(made: Pages, block: Block, plan: Plan) -> None:
    top = made.y
    _boxes(made, block.step, plan)
    for line, kind in block.lines:
        made.y -= LEAD
        _line(made, line, kind)
    step = block.step
    minutes = made.voice.say(Minutes(step.likely.likely))
    edge = made.right - (PICTURE[0] + BESIDE if block.drawing is not None else 0.0)
    write(made.canvas, edge * mm - breadth(minutes, PLAIN, SIZE), (top - LEAD + 1.4) * mm, minutes, PLAIN, SIZE)
    if block.cut is not None:
        made.y -= 1.5
        paint_section(made.canvas, block.cut, (made.left + TEXT, made.y - CUT_ACROSS[1], *CUT_ACROSS))
    if block.drawing is not None:
        x0, _, x1, y1 = extent(block.drawing)
        wide = (x1 - x0) * block.scale
        made.canvas.saveState()
        made.canvas.translate(
            (made.right - (PICTURE[0] + wide) / 2.0 - x0 * block.scale) * mm, (top - 0.5 - y1 * block.scale) * mm
        )
        with made.canvas.tagged("Figure", made.voice.sentence(step.operation.words)):
            replay(made.canvas, block.drawing, scale=block.scale, filled=True, fine=0.7)
        made.canvas.restoreState()
    made.y = top - block.high


def _boxes(made: Pages, step: Step, plan: Plan) -> None:
    """A box to tick for each cover, and the step's number."""
    number = str(step.number)
    write(
        made.canvas,
        (made.left + TEXT - 1.5) * mm - breadth(number, STRONG, SIZE + 1.0),
        (made.y - LEAD + 1.4) * mm,
        number,
        STRONG,
        SIZE + 1.0,
    )
    done = step.key in plan.making.drafted.job.sewing.done
    count = plan.copies if plan.copies <= MOST_BOXES else 1
    for k in range(count):
        x, y = made.left + (k % 2) * (BOX + 0.8), made.y - LEAD + 1.0 - (k // 2) * (BOX + 0.8)
        _box(made.canvas, x, y)
        if done:
            _ticked(made.canvas, x, y)


def _ticked(canvas: Any, x: float, y: float) -> None:
    """The tick in a box of a step that is done already."""
    path = canvas.beginPath()
    for k, (right, up) in enumerate(((0.6, 1.6), (1.4, 0.7), (2.9, 2.9))):
        (path.lineTo if k else path.moveTo)((x + right) * mm, (y + up) * mm)
    canvas.setLineWidth(0.5 * mm)
    canvas.drawPath(path, stroke=1, fill=0)


def _box(canvas: Any, x: float, y: float) -> None:
    canvas.setDash([], 0)
    canvas.setLineWidth(0.25 * mm)
    canvas.setStrokeGray(0.0)
    canvas.rect(x * mm, y * mm, BOX * mm, BOX * mm, stroke=1, fill=0)


def _line(made: Pages, line: str, kind: str) -> None:
    """A line of a step: its words strong, a sign before what is to be minded, a box before what is to be checked."""
    canvas, x, y = made.canvas, made.left + TEXT, made.y
    canvas.setFillGray(0.0)
    what, _, more = kind.partition(" ")
    strong = what in ("head", "mind")
    if what in ("mind", "check"):
        if not more and what == "check":
            _box(canvas, x, y + 0.8)
        elif not more:
            _warning(canvas, x, y + 0.8)
        x += 5.0
    with canvas.tagged("H3" if what == "head" and not more else "P", line.strip() if what == "head" else ""):
        write(canvas, x * mm, (y + 1.4) * mm, line.strip(), STRONG if strong else PLAIN, SIZE)


def _warning(canvas: Any, x: float, y: float) -> None:
    """The sign before what is to be minded: a triangle with a stroke and a dot in it."""
    path = canvas.beginPath()
    path.moveTo(x * mm, y * mm)
    path.lineTo((x + 3.8) * mm, y * mm)
    path.lineTo((x + 1.9) * mm, (y + 3.4) * mm)
    path.close()
    canvas.setFillGray(0.0)
    canvas.drawPath(path, stroke=0, fill=1)
    canvas.setFillGray(1.0)
    canvas.rect((x + 1.68) * mm, (y + 1.1) * mm, 0.44 * mm, 1.2 * mm, stroke=0, fill=1)
    canvas.rect((x + 1.68) * mm, (y + 0.4) * mm, 0.44 * mm, 0.44 * mm, stroke=0, fill=1)
    canvas.setFillGray(0.0)


def paint_section(canvas: Any, made: CrossSection, box: tuple[float, float, float, float]) -> None:
    """A cross-section in a box: left, low, width and height, mm; it stands at the left of it."""
    x0, y0, x1, y1 = made.bounds
    left, low, wide, high = box
    scale = min(wide / max(x1 - x0, 1e-6), high / max(y1 - y0, 1e-6))
    at_x, at_y = left - x0 * scale, low + high / 2.0 - (y0 + y1) / 2.0 * scale

    def at(x: float, y: float) -> tuple[float, float]:
        return (at_x + x * scale) * mm, (at_y + y * scale) * mm

    canvas.saveState()
    canvas.setDash([], 0)
    canvas.setLineCap(0)
    canvas.setLineJoin(1)
    thick = max(0.7, made.t * scale) * mm
    for layer in made.layers:
        for grey, width in ((0.0, thick + 0.4 * mm), (GREYS[layer.side], thick)):
            path = canvas.beginPath()
            for k, (x, y) in enumerate(layer.points.tolist()):
                (path.lineTo if k else path.moveTo)(*at(x, y))
            canvas.setStrokeGray(grey)
            canvas.setLineWidth(width)
            canvas.drawPath(path, stroke=1, fill=0)
    canvas.setStrokeGray(0.0)
    canvas.setFillGray(1.0)
    canvas.setLineWidth(0.4 * mm)
    for x, y, radius in made.cords:
        canvas.circle(*at(x, y), radius * scale * mm, stroke=1, fill=1)
    for x, bottom, top in made.stitches:
        half = 3.0 * made.t if bottom == top else 0.0
        for grey, width in ((1.0, 0.9 * mm), (0.0, 0.45 * mm)):
            canvas.setStrokeGray(grey)
            canvas.setLineWidth(width)
            canvas.line(*at(x - half, bottom), *at(x + half, top))
    canvas.restoreState()
