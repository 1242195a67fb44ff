"""Paper sizes, the pens of every layer on paper, and how a drawing is replayed on a reportlab canvas."""

import math
from dataclasses import dataclass
from pathlib import Path as FilePath
from typing import Any, Final

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

from omnipel.core.pictures.drawing import Drawing, Label, Layer, Path
from omnipel.core.words.habits import HABITS
from omnipel.core.words.phrases import Length, Voice, tr

TYPE_FOLDER: Final = FilePath(__file__).parent.parent / "bench" / "type"
PLAIN: Final = "Omnipel"
STRONG: Final = "Omnipel-Strong"
SQUARE: Final = 51.0
"""Room for the test square in either system, mm."""


@dataclass(frozen=True, slots=True)
class Paper:
    """A paper: its size and the margin that a home printer leaves, mm."""

    name: str
    width: float
    height: float
    margin: float = 10.0


PAPERS: Final = {
    "A4": Paper("A4", 210.0, 297.0),
    "Letter": Paper("Letter", 215.9, 279.4),
    "A0": Paper("A0", 841.0, 1189.0),
    "roll914": Paper("roll914", 914.0, 2000.0),
}

PENS: Final = {
    Layer.CUT: (0.5, None),
    Layer.SEW: (0.35, (6.0, 2.0)),
    Layer.FOLD: (0.35, (2.0, 2.0)),
    Layer.MARKS: (0.4, None),
    Layer.GRAIN: (0.35, None),
    Layer.FIGURE: (0.3, (4.0, 1.5)),
    Layer.DIMENSION: (0.2, None),
    Layer.OUTLINE: (0.35, None),
    Layer.FACE: (0.1, None),
    Layer.TAPE: (0.8, None),
    Layer.COVER: (0.4, None),
    Layer.TEXT: (0.2, None),
}
"""Line weight and dash by layer, mm."""


def load_type() -> None:
    """Register the program's typeface with reportlab, once."""
    if PLAIN not in pdfmetrics.getRegisteredFontNames():
        pdfmetrics.registerFont(TTFont(PLAIN, str(TYPE_FOLDER / "SourceSansPro-Regular.ttf")))
        pdfmetrics.registerFont(TTFont(STRONG, str(TYPE_FOLDER / "SourceSansPro-Semibold.ttf")))


def replay(canvas: Any, drawing: Drawing, *, scale: float = 1.0, filled: bool = False) -> None:
    """Draw on a reportlab canvas in the canvas's own frame, `scale` paper mm per drawing mm.

    Faces are filled with their tone of grey; other fills only when `filled`.
    """
    for item in drawing.items:
        if isinstance(item, Path):
            _path(canvas, item, scale, filled)
        elif item.words:
            _label(canvas, item, scale)


def _path(canvas: Any, item: Path, scale: float, filled: bool) -> None:
    weight, dash = PENS[item.layer] if item.ref != "far" else (0.25, (1.0, 1.0))
    canvas.setLineWidth(weight * mm)
    canvas.setDash(*([[part * mm for part in dash], 0] if dash else [[], 0]))
    canvas.setStrokeGray(0.35 if item.layer in (Layer.DIMENSION, Layer.FACE) else 0.0)
    path = canvas.beginPath()
    points = (item.points * scale * mm).tolist()
    for i, (x, y) in enumerate(points):
        if i == 0 or (item.pairs and i % 2 == 0):
            path.moveTo(x, y)
        else:
            path.lineTo(x, y)
    if item.closed:
        path.close()
    fill = item.layer is Layer.FACE or (filled and bool(item.fill))
    if fill:
        canvas.setFillGray(0.75 + 0.23 * item.tone if item.layer is Layer.FACE else 0.93)
    canvas.drawPath(path, stroke=1, fill=int(fill))


def _label(canvas: Any, item: Label, scale: float) -> None:
    font, size = (STRONG if item.strong else PLAIN), item.size * scale * mm
    if size < 2.0:
        return
    canvas.setFillGray(0.0)
    canvas.setFont(font, size)
    canvas.saveState()
    canvas.translate(item.at[0] * scale * mm, item.at[1] * scale * mm)
    if item.angle:
        canvas.rotate(math.degrees(item.angle))
    shift = -item.anchor * pdfmetrics.stringWidth(item.words, font, size)
    canvas.drawString(shift, 0, item.words)
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
