"""How a drawing is replayed on a reportlab canvas, and what every sheet carries."""

import math
import re
from collections.abc import Iterator
from contextlib import nullcontext
from typing import Any, Final

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics

from omnipel.core.pictures.drawing import Drawing, Label, Path
from omnipel.core.pictures.pens import FAR, PENS, Layer, Paper
from omnipel.core.words.habits import HABITS
from omnipel.core.words.phrases import Length, Voice, tr
from omnipel.core.words.typeset import LEAST_PAPER, STROKE, fractions, held, in_parts
from omnipel.exchange.papers.sheets import PLAIN, STRONG, spelt

SMALL: Final = 0.62
RAISED: Final = 0.25
"""Figures of a fraction are so large, and the upper ones stand so high that their heads are level with the other figures', as shares of the type."""
WHOLE: Final = re.compile(r"(\d+) $")
"""The whole number before a fraction."""
SQUARE: Final = 51.0
"""Room for the test square in either system, mm."""


LEAST_TITLE: Final = 10.5
"""A title is made no smaller than this to fit, pt."""


def write(canvas: Any, x: float, y: float, words: str, font: str, size: float) -> None:
    """Words on a canvas from a place in points, their fractions set as real ones where the type is large enough for these.

    What copies or speaks the paper is told a number with its fraction as it would be typed: from its figures alone it takes 25 9/16 for 259/16.
    """
    for said, runs in _numbers(words, size):
        with canvas.read_as(said) if said else nullcontext():
            for part, raised, share in runs:
                canvas.setFont(font, size * share)
                canvas.drawString(x, y + raised * size, part)
                x += pdfmetrics.stringWidth(part, font, size * share)


def breadth(words: str, font: str, size: float) -> float:
    """How wide words are as `write` sets them, points."""
    return float(sum(pdfmetrics.stringWidth(part, font, size * share) for part, _, share in _runs(words, size)))


def write_within(
    canvas: Any, x: float, y: float, words: str, font: str, size: float, room: float, least: float = LEAST_TITLE
) -> None:
    """Words no wider than `room`, pt: in smaller type where they would be, not under `least`; then their end is left out."""
    size = max(min(size, size * room / max(breadth(words, font, size), 1e-9)), min(size, least))
    shown = words
    while len(shown) > 1 and breadth(shown, font, size) > room:
        words = words[:-1]
        shown = words.rstrip() + "…"
    write(canvas, x, y, shown, font, size)


def wrapped_to(words: str, size: float, room: float) -> Iterator[str]:
    """Words broken into lines no wider than `room`, mm, in type of a size, pt; a number is never parted from its fraction or unit."""
    line = ""
    for word in held(words).split(" "):
        longer = f"{line} {word}" if line else word
        if line and breadth(longer, PLAIN, size) > room * mm:
            yield line
            line = f"   {word}"
        else:
            line = longer
    yield line


Run = tuple[str, float, float]
"""Signs of one height: how far they are raised and how large they are, as shares of the type."""


def _runs(words: str, size: float) -> list[Run]:
    """Words in parts of one height each."""
    return [run for _, runs in _numbers(words, size) for run in runs]


def _numbers(words: str, size: float) -> Iterator[tuple[str, list[Run]]]:
    """Words in parts of one height each; those of a number with a fraction together, after what it is read as."""
    words = spelt(words)
    if size < LEAST_PAPER:
        yield "", [(words, 0.0, 1.0)]
        return
    for plain, over, under in in_parts(fractions(words)):
        whole = WHOLE.search(plain) if over else None
        before = plain[: whole.start()] if whole is not None else plain
        if before:
            yield "", [(before, 0.0, 1.0)]
        if over:
            leading = [(whole[1], 0.0, 1.0), (" ", 0.0, 0.5)] if whole is not None else []
            said = f"{whole[1]} {over}/{under}" if whole is not None else f"{over}/{under}"
            yield said, [*leading, (over, RAISED, SMALL), (STROKE, 0.0, 1.0), (under, 0.0, SMALL)]


def replay(canvas: Any, drawing: Drawing, *, scale: float = 1.0, filled: bool = False, fine: float = 1.0) -> None:
    """Draw on a reportlab canvas in the canvas's own frame, `scale` paper mm per drawing mm, lines and dashes `fine` times as usual.

    Faces are filled with their tone of grey; other fills only when `filled`.
    """
    for item in drawing.items:
        if isinstance(item, Path):
            _path(canvas, item, scale, filled, fine)
        elif item.words:
            _label(canvas, item, scale)


def _path(canvas: Any, item: Path, scale: float, filled: bool, fine: float) -> None:
    pen = PENS[item.layer] if not item.far else FAR
    if item.layer in (Layer.FACE, Layer.PRINT):
        _face(canvas, item, scale)
        return
    canvas.setLineWidth(pen.weight * fine * mm)
    canvas.setDash([part * fine * mm for part in pen.dash], 0)
    canvas.setStrokeGray(pen.grey)
    path = canvas.beginPath()
    points = (item.points * scale * mm).tolist()
    for i, (x, y) in enumerate(points):
        if i == 0 or (item.pairs and i % 2 == 0):
            path.moveTo(x, y)
        else:
            path.lineTo(x, y)
    if item.closed:
        path.close()
    fill = filled and bool(item.fill) and not item.pairs
    if fill:
        canvas.setFillGray(0.93)
    canvas.drawPath(path, stroke=1, fill=int(fill))


GREYS: Final = {"cloth": 0.9, "object": 0.99, "sticks out": 0.95, "webbing": 0.6, "trim": 0.55, "window": 0.97, "print": 0.25}
"""How light what a picture shows is on paper, in full light."""
HATCH: Final = 1.1
"""So far apart are the lines of the hatch in the shade, mm."""
EVEN_ODD, NON_ZERO = 0, 1


def _face(canvas: Any, item: Path, scale: float) -> None:
    """A run of facets as one path, so that no gap shows between them; hatched where it lies in the shade."""
    points = item.points * scale * mm
    path = canvas.beginPath()
    for start, stop in zip(item.rings or (0,), (*item.rings[1:], len(points)), strict=True):
        ring = points[start:stop].tolist()
        path.moveTo(*ring[0])
        for x, y in ring[1:]:
            path.lineTo(x, y)
        path.close()
    grey = min(1.0, GREYS.get(item.fill, 0.9) * (0.72 + 0.28 * item.tone))
    canvas.setDash([], 0)
    canvas.setFillGray(grey)
    canvas.setStrokeGray(grey)
    canvas.setLineWidth(0.1 * mm)
    canvas.drawPath(path, stroke=1, fill=1, fillMode=EVEN_ODD if item.layer is Layer.PRINT else NON_ZERO)
    if item.hatched:
        _hatch(canvas, path, points, grey * 0.82)


def _hatch(canvas: Any, path: Any, points: Any, grey: float) -> None:
    """Lines at 45° inside of a path."""
    (x0, y0), (x1, y1) = points.min(axis=0), points.max(axis=0)
    canvas.saveState()
    canvas.clipPath(path, stroke=0, fill=0)
    canvas.setStrokeGray(grey)
    canvas.setLineWidth(0.12 * mm)
    first = math.floor((x0 - y1) / (HATCH * mm))
    for k in range(first, math.ceil((x1 - y0) / (HATCH * mm)) + 1):
        at = k * HATCH * mm
        canvas.line(y0 + at, y0, y1 + at, y1)
    canvas.restoreState()


def _label(canvas: Any, item: Label, scale: float) -> None:
    font, size = (STRONG if item.strong else PLAIN), item.size * scale * mm
    if size < 2.0:
        return
    canvas.setFillGray(0.0)
    canvas.saveState()
    canvas.translate(item.at[0] * scale * mm, item.at[1] * scale * mm)
    if item.angle:
        canvas.rotate(math.degrees(item.angle))
    write(canvas, -item.anchor * breadth(item.words, font, size), 0.0, item.words, font, size)
    canvas.restoreState()


def check_square(canvas: Any, voice: Voice, x: float, y: float) -> None:
    """A square to measure before anything is cut, its lower left corner at x, y mm: 50 mm, or 2 in for those who work in inches."""
    side = HABITS["test square"].rule.mm(voice.unit)
    canvas.saveState()
    canvas.setLineWidth(0.3 * mm)
    canvas.setStrokeGray(0.0)
    canvas.setDash([], 0)
    canvas.rect(x * mm, y * mm, side * mm, side * mm)
    canvas.setFillGray(0.0)
    canvas.setFont(STRONG, 9)
    canvas.drawString((x + 3) * mm, (y + 27) * mm, voice.say(tr("test square")))
    canvas.setFont(PLAIN, 8.5)
    canvas.drawString((x + 3) * mm, (y + 22) * mm, voice.say(tr("measures {side} each way;", side=Length(side))))
    canvas.drawString((x + 3) * mm, (y + 18) * mm, voice.say(tr("if not, print at 100 %")))
    canvas.restoreState()


BAND: Final = 9.0
"""Height of the band over a sheet that must not be cut, mm."""


def do_not_cut(canvas: Any, voice: Voice, paper: Paper) -> None:
    """A hatched band along the top of a sheet: what is on it is only to be looked at."""
    left, low, wide = paper.margin, paper.height - paper.margin - BAND, paper.width - 2.0 * paper.margin
    canvas.saveState()
    frame = canvas.beginPath()
    frame.rect(left * mm, low * mm, wide * mm, BAND * mm)
    canvas.setFillGray(1.0)
    canvas.setStrokeGray(0.0)
    canvas.setDash([], 0)
    canvas.setLineWidth(0.5 * mm)
    canvas.drawPath(frame, stroke=1, fill=1)
    canvas.clipPath(frame, stroke=0)
    for step in range(math.ceil((wide + BAND) / 5.0)):
        x = left - BAND + 5.0 * step
        canvas.line(x * mm, low * mm, (x + BAND) * mm, (low + BAND) * mm)
    words = voice.say(tr("DO NOT CUT: a finding says stop"))
    size = 15.0
    room = pdfmetrics.stringWidth(words, STRONG, size) + 6.0 * mm
    middle = paper.width * mm / 2.0
    canvas.rect(middle - room / 2.0, (low + 1.0) * mm, room, (BAND - 2.0) * mm, stroke=0, fill=1)
    canvas.setFillGray(0.0)
    canvas.setFont(STRONG, size)
    canvas.drawCentredString(middle, (low + 2.6) * mm, words)
    canvas.restoreState()
