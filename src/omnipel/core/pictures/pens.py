"""How every layer is drawn, once for screen, PDF and SVG, and the papers that can be printed on."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Final

from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Phrase, Rule, tr
from omnipel.core.words.units import Unit


class Layer(StrEnum):
    """What a line means; each has its own weight and dash in every back-end."""

    FACE = "face"
    OUTLINE = "outline"
    CUT = "cut"
    SEW = "sew"
    FOLD = "fold"
    MARKS = "marks"
    GRAIN = "grain"
    FIGURE = "figure"
    TEXT = "text"
    DIMENSION = "dimension"
    TAPE = "tape"
    COVER = "cover"
    CONTOUR = "contour"
    CREASE = "crease"
    SEAM = "seam"
    RIM = "rim"
    STITCH = "stitch"
    PLEAT = "pleat"
    WEAVE = "weave"
    PIPING = "piping"
    ZIP = "zip"
    LIT = "lit"
    PRINT = "print"


LAYERS: Final = tuple(Layer)
FILLS: Final = ("", "object", "sticks out", "cloth", "window", "webbing", "trim", "print")
"""What may fill a path of a kept picture, or what its lines lie on."""
KEPT: Final = b"K3"
HEAD: Final = "<2shhBBB"
PATH: Final = "<BBBBHH"
FULL: Final = 200
"""A tone of 1 is kept as this."""
SIDE: Final = 20_000
"""Of a kept picture (`kept.py`): how it begins, how each path begins, and how long its longer side is."""
LAYER_WORDS = {
    Layer.CUT: tr("cut line"),
    Layer.SEW: tr("sew line"),
    Layer.FOLD: tr("fold"),
    Layer.MARKS: tr("match mark, clip"),
    Layer.GRAIN: tr("grain"),
    Layer.FIGURE: tr("placement"),
}
"""The key that stands beside a panel drawing."""


@dataclass(frozen=True, slots=True)
class Pen:
    """One layer's line.

    Args:
        weight: on paper, mm.
        dash: on paper, mm on and off; empty for a whole line.
        ink: its colour on screen, by the name the look knows.
        px: weight on screen.
        px_dash: dash on screen, in line weights.
        grey: on paper, 0 black … 1 white.
    """

    weight: float
    dash: tuple[float, ...] = ()
    ink: str = "ink"
    px: float = 1.0
    px_dash: tuple[float, ...] = ()
    grey: float = 0.0


PENS: Final[Mapping[Layer, Pen]] = {
    Layer.CUT: Pen(0.7, px=1.6),
    Layer.SEW: Pen(0.35, (6.0, 2.0), px=1.1, px_dash=(6.0, 3.0)),
    Layer.FOLD: Pen(0.35, (2.0, 2.0), "soft", 1.2, (2.0, 2.5)),
    Layer.MARKS: Pen(0.4, ink="stop", px=1.2),
    Layer.GRAIN: Pen(0.35, ink="soft", px=1.1),
    Layer.FIGURE: Pen(0.3, (4.0, 1.5), "look", 1.2, (4.0, 2.0)),
    Layer.DIMENSION: Pen(0.2, ink="soft", px=0.8, grey=0.35),
    Layer.OUTLINE: Pen(0.35, px=1.3),
    Layer.FACE: Pen(0.1, ink="soft", px=0.5, grey=0.35),
    Layer.TAPE: Pen(0.8, ink="accent", px=3.0),
    Layer.COVER: Pen(0.4, ink="accent", px=1.2),
    Layer.TEXT: Pen(0.2),
    Layer.CONTOUR: Pen(0.5, px=2.0),
    Layer.CREASE: Pen(0.25, px=1.0),
    Layer.SEAM: Pen(0.3, px=1.2),
    Layer.RIM: Pen(0.4, px=1.6),
    Layer.STITCH: Pen(0.2, px=1.0, grey=0.15),
    Layer.PLEAT: Pen(0.2, px=1.0, grey=0.25),
    Layer.WEAVE: Pen(0.1, px=0.7, grey=0.55),
    Layer.PIPING: Pen(0.9, px=3.6, grey=0.3),
    Layer.ZIP: Pen(0.9, (0.6, 0.5), "ink", 3.2, (0.5, 0.5)),
    Layer.LIT: Pen(0.9, ink="accent", px=4.0),
    Layer.PRINT: Pen(0.1, px=0.5),
}
FAR: Final = Pen(0.25, (1.0, 1.0), "accent", 1.4, (2.0, 2.0))
"""A tape where it runs behind the thing."""


@dataclass(frozen=True, slots=True)
class Paper:
    """A paper: what it is called, its size and the margin that a printer leaves, mm; of a `roll` no more than its height is taken for one sheet."""

    words: Phrase
    width: float
    height: float
    margin: float = 10.0
    roll: bool = False


PAPERS: Final[Mapping[str, Paper]] = {
    "A4": Paper(tr("A4"), 210.0, 297.0),
    "Letter": Paper(tr("Letter"), 215.9, 279.4),
    "A3": Paper(tr("A3"), 297.0, 420.0),
    "A0": Paper(tr("A0"), 841.0, 1189.0),
    "roll610": Paper(tr("roll, {width} wide", width=Rule(610.0, 24.0)), 609.6, 5000.0, roll=True),
    "roll914": Paper(tr("roll, {width} wide", width=Rule(914.0, 36.0)), 914.4, 5000.0, roll=True),
    "roll1067": Paper(tr("roll, {width} wide", width=Rule(1067.0, 42.0)), 1066.8, 5000.0, roll=True),
}
SMALL: Final = ("A4", "Letter", "A3")
"""Papers of a home printer, for cards and sheets."""


def at_home(unit: Unit) -> str:
    """The paper in the printer of those who measure in a unit.

    >>> at_home(Unit.INCH_16), at_home(Unit.MM)
    ('Letter', 'A4')
    """
    return "Letter" if System.of(unit) is System.INCH else "A4"
