"""The marking-out sheet: what is chalked, told from one baseline and one end, with its checks; several patterns on a page."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Final

import numpy as np
from reportlab.lib.units import mm

from omnipel.core.cloth.marking import Chalk, ChalkKind, Curved, chalk_of, rounded_to, step_of
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Panel
from omnipel.core.pictures.drawing import Drawing, Item, Label, Path
from omnipel.core.pictures.pens import Layer, Paper
from omnipel.core.pictures.sheet import count_words
from omnipel.core.words.phrases import Angle, Count, Length, Name, Phrase, Voice, listed, term, tr
from omnipel.core.words.units import format_length
from omnipel.exchange.paper import PLAIN, STRONG, do_not_cut, replay, wrapped_to, write, write_within

WIDE, HIGH = 88.0, 62.0
"""A drawing is no larger, mm."""
SIZE: Final = 9.0
"""Type, pt."""
LEAD: Final = 4.6
"""From one line to the next, mm."""
LETTER: Final = 3.1
"""Height of letters in a drawing, mm on paper."""
HEAD, BETWEEN, FOOT = 16.0, 6.0, 6.0


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
    room = paper.width - 2.0 * paper.margin - WIDE - 6.0
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


def pages(made: Sequence[Block], paper: Paper) -> list[list[Block]]:
    """Which blocks stand on each page."""
    room = paper.height - 2.0 * paper.margin - HEAD - FOOT
    found: list[list[Block]] = [[]]
    left = room
    for block in made:
        if found[-1] and block.high > left:
            found.append([])
            left = room
        found[-1].append(block)
        left -= block.high + BETWEEN
    return found if made else []


def marking_out(canvas: Any, draft: Drafted, made: Sequence[Block], paper: Paper, voice: Voice, note: Phrase) -> None:
    """Draw the sheet."""
    spread = pages(made, paper)
    for number, page in enumerate(spread, 1):
        top = paper.height - paper.margin
        if draft.stops:
            do_not_cut(canvas, voice, paper)
            top -= 10.0
        left, right = paper.margin, paper.width - paper.margin
        canvas.setFillGray(0.0)
        words = voice.say(tr("Marking out · {job}", job=Name(draft.job.name)))
        write_within(canvas, left * mm, (top - 6.0) * mm, words, STRONG, 15.0, (right - left - 24.0) * mm)
        canvas.setFont(PLAIN, SIZE)
        canvas.drawRightString(
            right * mm, (top - 6.0) * mm, voice.say(tr("{n} of {all}", n=Count(number), all=Count(len(spread))))
        )
        canvas.drawString(left * mm, (top - 11.5) * mm, voice.say(note))
        y = top - HEAD
        for block in page:
            _block(canvas, block, left, y)
            y -= block.high + BETWEEN
        canvas.drawString(left * mm, paper.margin * mm, voice.say(_FOOT))
        canvas.showPage()


_FOOT: Final = tr(
    "All numbers to the chalk line, from the baseline (the lower side) and the left end. Along the grain: along the selvage."
)


def _block(canvas: Any, block: Block, left: float, top: float) -> None:
    canvas.setLineWidth(0.2 * mm)
    canvas.setStrokeGray(0.6)
    canvas.setDash([], 0)
    canvas.line(left * mm, top * mm, (left + 190.0) * mm, top * mm)
    canvas.setFillGray(0.0)
    write(canvas, left * mm, (top - 4.6) * mm, block.title, STRONG, 11.0)
    (x0, _, _, y1), y = block.drawing.bounds, top - 7.0
    for line in block.lines:
        y -= LEAD
        write(canvas, (left + WIDE + 6.0) * mm, (y + 1.0) * mm, line, PLAIN, SIZE)
    canvas.saveState()
    canvas.translate((left + 2.0 - min(x0, 0.0) * block.scale) * mm, (top - 8.0 - y1 * block.scale) * mm)
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
        for k, (x, y) in enumerate(chalk.corners, 1):
            out = np.array((x, y)) - middle
            out = out / max(float(np.hypot(*out)), 1e-9) * -text * 1.3
            items.append(Label((float(x + out[0]), float(y + out[1]) - text * 0.35), str(k), text, strong=True))
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


def _bare(voice: Voice, length: float) -> str:
    return format_length(near(length, voice), voice.unit, fine=not voice.unit.denominator)


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
