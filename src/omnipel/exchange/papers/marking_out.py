"""The marking-out sheet: what is chalked, told from one baseline and one end, with its checks; several patterns on a page."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Final

import numpy as np
from reportlab.lib.units import mm

from omnipel.core.cloth.marking import Chalk, ChalkKind, Curved, chalk_of, rounded_to, step_of
from omnipel.core.drafting.panel import Panel
from omnipel.core.pictures.drawing import Drawing, Item, Label, Path
from omnipel.core.pictures.pens import Layer, Paper
from omnipel.core.pictures.sheet import count_words
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Angle, Count, Length, Name, Phrase, Voice, listed, term, tr
from omnipel.exchange.papers.book import FOOT, HEAD, INSIDE, Book
from omnipel.exchange.papers.paper import BAND, replay, wrapped_to, write, write_within
from omnipel.exchange.papers.sheets import PLAIN, STRONG

WIDE, HIGH = 88.0, 62.0
"""A drawing is no larger, mm."""
SIZE: Final = 9.0
"""Type, pt."""
LEAD: Final = 4.6
"""From one line to the next, mm."""
LETTER: Final = 3.1
"""Height of letters in a drawing, mm on paper."""
BETWEEN, NOTES = 6.0, 4.0 * LEAD + 3.0
"""Between two patterns, and for the notes below the head, mm."""


@dataclass(frozen=True)
class Block:
    """A pattern on the sheet: its drawing, how much smaller than it is, its lines, and how high all of it is, mm."""

    title: str
    drawing: Drawing
    scale: float
    lines: tuple[str, ...]
    high: float


def blocks(panels: Sequence[Panel], paper: Paper, voice: Voice) -> list[Block]:
    """What is chalked of each panel."""
    room = paper.width - 2.0 * (paper.margin + INSIDE) - WIDE - 6.0
    made = []
    for panel in panels:
        chalk = rounded_to(chalk_of(panel, voice.unit), step_of(voice.unit))
        title = f"{voice.sentence(term(panel.name))} · {voice.say(count_words(panel))}"
        lines = [part for phrase in told(panel, chalk, voice) for part in wrapped_to(voice.sentence(phrase), SIZE, room)]
        long, wide = chalk.size
        scale = min((WIDE - 8.0) / max(long, 1.0), HIGH / max(wide, 1.0), 0.5)
        drawing = drawn(chalk, voice, LETTER / scale)
        high = 7.0 + max(wide * scale + 3.0 * LETTER, len(lines) * LEAD)
        made.append(Block(title, drawing, scale, tuple(lines), high))
    return made


def pages(made: Sequence[Block], paper: Paper, *, stops: bool = False) -> list[list[Block]]:
    """Which blocks stand on each page; less goes on where there is the band that says not to cut."""
    room = paper.height - 2.0 * paper.margin - HEAD - FOOT - NOTES - (BAND if stops else 0.0)
    found: list[list[Block]] = [[]]
    left = room
    for block in made:
        if found[-1] and block.high > left:
            found.append([])
            left = room
        found[-1].append(block)
        left -= block.high + BETWEEN
    return found if made else []


def marking_out(book: Book, made: Sequence[Block], paper: Paper, note: Phrase) -> None:
    """Draw the sheet."""
    voice, canvas = book.voice, book.canvas
    for number, page in enumerate(pages(made, paper, stops=book.draft.stops)):
        y, left = book.headed(paper, TITLE, first=number == 0), paper.margin + INSIDE
        right = paper.width - left
        for words in (note, _FOOT):
            for line in wrapped_to(voice.say(words), SIZE, right - left):
                with canvas.tagged("P"):
                    write(canvas, left * mm, (y - 1.0) * mm, line, PLAIN, SIZE)
                y -= LEAD
        y -= 2.0
        for block in page:
            _block(canvas, block, left, right, y)
            y -= block.high + BETWEEN
        canvas.showPage()


TITLE: Final = tr("Marking out")
_FOOT: Final = tr(
    "All numbers to the chalk line, from the baseline (the lower side) and the left end. Along the grain: along the selvage."
)


def _block(canvas: Any, block: Block, left: float, right: float, top: float) -> None:
    with canvas.beside():
        canvas.setLineWidth(0.2 * mm)
        canvas.setStrokeGray(0.6)
        canvas.setDash([], 0)
        canvas.line(left * mm, top * mm, right * mm, top * mm)
    canvas.setFillGray(0.0)
    with canvas.tagged("H2", block.title):
        write_within(canvas, left * mm, (top - 4.6) * mm, block.title, STRONG, 11.0, (right - left) * mm)
    (x0, _, _, y1), y = block.drawing.bounds, top - 7.0
    for line in block.lines:
        y -= LEAD
        with canvas.tagged("P"):
            write(canvas, (left + WIDE + 6.0) * mm, (y + 1.0) * mm, line, PLAIN, SIZE)
    canvas.saveState()
    canvas.translate((left + 2.0 - min(x0, 0.0) * block.scale) * mm, (top - 8.0 - y1 * block.scale) * mm)
    with canvas.tagged("Figure", block.title):
        replay(canvas, block.drawing, scale=block.scale, fine=0.8)
    canvas.restoreState()


def drawn(chalk: Chalk, voice: Voice, text: float) -> Drawing:
    """A pattern as its numbers draw it, its corners numbered, its baseline and its end marked."""
    ring = chalk.redrawn()
    long, wide = chalk.size
    items: list[Item] = [
        Path(np.array(((-text, 0.0), (long + text, 0.0))), Layer.DIMENSION),
        Path(np.array(((0.0, -text), (0.0, wide + text))), Layer.DIMENSION),
        Path(ring, Layer.CUT, closed=True, fill="outer"),
    ]
    middle = ring.mean(axis=0)
    if chalk.kind is ChalkKind.DISC:
        x, y = chalk.corners[0]
        items += [
            Path(np.array(((x - text, y), (x + text, y))), Layer.DIMENSION),
            Path(np.array(((x, y - text), (x, y + text))), Layer.DIMENSION),
            Path(np.array(((x, y), (x + chalk.radii[0], y))), Layer.FIGURE),
            Label((x + chalk.radii[0] / 2.0, y + text * 0.35), _bare(voice, chalk.radii[0]), text),
        ]
    elif chalk.kind is not ChalkKind.RECTANGLE:
        items += _numbered(chalk, middle, text)
    for hole in chalk.holes:
        (x, y), (w, h) = hole.at, hole.size
        angles = np.linspace(0.0, 2.0 * np.pi, 49)[:-1]
        box = np.array(((-w, -h), (w, -h), (w, h), (-w, h))) / 2.0
        points = np.column_stack((np.cos(angles) * w, np.sin(angles) * h)) / 2.0 if hole.round else box
        items.append(Path(points + (x, y), Layer.FIGURE, closed=True))
    items += [
        Label((long / 2.0, -text * 1.25), _bare(voice, long), text),
        Label((-text * 0.5, wide / 2.0), _bare(voice, wide), text, angle=float(np.pi) / 2.0),
    ]
    return Drawing(tuple(items))


def _numbered(chalk: Chalk, middle: Points, text: float) -> list[Item]:
    """The numbers of the corners, inside of them, each clear of those before it."""
    made: list[Item] = []
    taken: list[Points] = []
    for k, corner in enumerate(chalk.corners, 1):
        away = middle - corner
        way = math.atan2(float(away[1]), float(away[0]))
        tried = [(reach, way + turn) for reach in (1.3, 2.4, 3.5, 4.6) for turn in (0.0, 0.5, -0.5, 1.0, -1.0)]
        spots = [np.array(corner) + reach * text * np.array((math.cos(angle), math.sin(angle))) for reach, angle in tried]
        spot = next((spot for spot in spots if all(np.hypot(*(spot - other)) > text * len(str(k)) for other in taken)), spots[0])
        taken.append(spot)
        made.append(Label((float(spot[0]), float(spot[1]) - text * 0.35), str(k), text, strong=True))
    return made


def _bare(voice: Voice, length: float) -> str:
    return voice.length(near(length, voice), fine=not voice.unit.denominator)


def near(length: float, voice: Voice) -> float:
    """A length as it is written for the chalk."""
    step = step_of(voice.unit)
    return round(length / step) * step


def _mm(length: float, voice: Voice) -> Name:
    """A length as it is chalked: half millimetres, or the job's fractions."""
    return Name(f"{_bare(voice, length)} {voice.unit.short}")


def told(panel: Panel, chalk: Chalk, voice: Voice) -> Iterator[Phrase]:
    """What is told about a pattern, line by line."""

    def at(point: tuple[float, float]) -> Phrase:
        return tr("{x} along, {y} up", x=Name(_bare(voice, point[0])), y=Name(_bare(voice, point[1])))

    long, wide = (_mm(side, voice) for side in chalk.size)
    if chalk.kind is ChalkKind.RECTANGLE:
        yield tr("rectangle {long} along, {wide} up", long=long, wide=wide)
        yield tr("check: both diagonals {diagonal}", diagonal=_mm(chalk.diagonal, voice))
    elif chalk.kind is ChalkKind.DISC:
        radius = chalk.radii[0]
        yield tr("string {radius} long from its middle to the chalk", radius=_mm(radius, voice))
        yield tr(
            "or fold the cloth in quarters and draw a quarter circle of {radius} from the folded corner",
            radius=_mm(radius, voice),
        )
        yield tr("check: {across} across, both ways", across=_mm(2.0 * radius, voice))
    else:
        yield tr("box {long} along, {wide} up", long=long, wide=wide)
        if chalk.kind is ChalkKind.SECTOR:
            yield from _sector(chalk, voice, at)
        for k, corner in enumerate(chalk.corners, 1):
            yield tr("corner {n}: {at}", n=Count(k), at=at(corner))
        if not (chalk.kind is ChalkKind.SECTOR and chalk.by_string):
            for k, curve in chalk.curves.items():
                yield _curve(k, len(chalk.corners), curve, voice)
        yield tr("check: {around} around the whole outline", around=_mm(chalk.around, voice))
    for hole in chalk.holes:
        wide, high = (_mm(side, voice) for side in hole.size)
        size = tr("{across} across", across=wide) if hole.round else tr("{w} × {h}", w=wide, h=high)
        yield tr("{name}: middle {at}, {size}", name=term(hole.name), at=at(hole.at), size=size)
    for notched in chalk.notches:
        marks = listed(tr("{mark} {run}", mark=Name(label), run=Name(_bare(voice, run))) for label, run in notched.marks)
        yield tr(
            "match marks on {edge}, along the sew line from {at}: {marks}",
            edge=term(notched.edge),
            at=at(notched.begins),
            marks=marks,
        )
    yield from panel.notes


def _sector(chalk: Chalk, voice: Voice, at: Any) -> Iterator[Phrase]:
    inner, outer = (_mm(radius, voice) for radius in chalk.radii)
    if chalk.by_string:
        yield tr("strings {inner} and {outer} long about one centre: {at}", inner=inner, outer=outer, at=at(chalk.centre))
    else:
        yield tr(
            "radii {inner} and {outer}: the centre falls off the cloth, so draw through the offsets", inner=inner, outer=outer
        )
    chord, rise = _mm(chalk.chord, voice), _mm(chalk.rise, voice)
    yield tr("outer arc: chord {chord}, rise {rise}, angle {angle}", chord=chord, rise=rise, angle=Angle(chalk.angle))


def _curve(k: int, corners: int, curve: Curved, voice: Voice) -> Phrase:
    numbers = listed(Name(_bare(voice, offset)) for offset in curve.offsets) if curve.offsets else tr("none")
    return tr(
        "curve {a} to {b}: from the straight line between them, every {step}: {offsets}",
        a=Count(k + 1),
        b=Count((k + 1) % corners + 1),
        step=Length(curve.step),
        offsets=numbers,
    )
