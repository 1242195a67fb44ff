"""How the paths of a drawing are painted on screen, and small pictures made ready once. Knows no geometry: the shelf is painted with it."""

import struct
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Final, Protocol

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPen, QPixmap, QPolygonF

from omnipel.bench.parts.look import LOOK, Colours
from omnipel.core.pictures.pens import FAR, FILLS, FULL, HEAD, KEPT, LAYERS, PATH, PENS, Layer, Pen
from omnipel.core.words.refs import Ref

Shape = QPolygonF | QPainterPath
"""A path ready to be painted, y down: one line or ring; or several rings, or separate lines."""


class Stroke(Protocol):
    """What is asked of a path when it is painted."""

    @property
    def layer(self) -> Layer: ...
    @property
    def closed(self) -> bool: ...
    @property
    def fill(self) -> str: ...
    @property
    def tone(self) -> float: ...
    @property
    def ref(self) -> Ref | None: ...
    @property
    def pairs(self) -> bool: ...
    @property
    def far(self) -> bool: ...
    @property
    def rings(self) -> tuple[int, ...]: ...
    @property
    def hatched(self) -> bool: ...


@dataclass(frozen=True, slots=True)
class Plain:
    """A path of a kept picture."""

    layer: Layer
    closed: bool
    fill: str
    tone: float
    pairs: bool
    far: bool
    rings: tuple[int, ...] = ()
    hatched: bool = False
    ref: Ref | None = None


def shaped(item: Stroke, points: Sequence[Sequence[float]]) -> Shape:
    """A path's points as Qt wants them."""
    if not item.pairs and not item.rings:
        return QPolygonF([QPointF(x, y) for x, y in points])
    path = QPainterPath()
    begins = range(0, len(points), 2) if item.pairs else item.rings
    for start, stop in zip(begins, (*begins[1:], len(points)), strict=True):
        path.addPolygon(QPolygonF([QPointF(x, y) for x, y in points[start:stop]]))
        if not item.pairs:
            path.closeSubpath()
    path.setFillRule(fill_rule(item))
    return path


def fill_rule(item: Stroke) -> Qt.FillRule:
    """How several rings are filled: facets may overlap, letters have holes."""
    return Qt.FillRule.OddEvenFill if item.layer is Layer.PRINT else Qt.FillRule.WindingFill


def pen(layer: Layer, *, lit: bool = False, far: bool = False) -> QPen:
    """The pen of a layer on screen; cosmetic, so that it does not grow with the zoom."""
    return _pen(layer, lit, far, LOOK.colours)


@lru_cache(maxsize=256)
def _pen(layer: Layer, lit: bool, far: bool, _colours: Colours) -> QPen:
    known = FAR if far else PENS[layer]
    return _made(known, LOOK.colour("accent" if lit else known.ink), 3.2 if lit else known.px, dashed=not lit)


def _made(known: Pen, colour: QColor, wide: float, *, dashed: bool = True) -> QPen:
    made = QPen(colour, wide)
    if known.px_dash and dashed:
        made.setDashPattern(known.px_dash)
    made.setCosmetic(True)
    made.setCapStyle(Qt.PenCapStyle.FlatCap)
    made.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    return made


DEPTHS: Final = {
    Layer.WEAVE: 0.13,
    Layer.PLEAT: 0.45,
    Layer.STITCH: 0.6,
    Layer.PIPING: 0.5,
    Layer.SEAM: 0.8,
    Layer.RIM: 0.85,
    Layer.CREASE: 0.75,
    Layer.ZIP: 0.85,
    Layer.PRINT: 0.85,
}
"""How far lines on a sheet stand out from its own colour."""


@lru_cache(maxsize=512)
def _pen_on(layer: Layer, stuff: str, cloth: int, _colours: Colours) -> QPen:
    """The pen of a layer on a sheet of some stuff."""
    known = PENS[layer]
    depth = DEPTHS.get(layer)
    own = stuff_colour(stuff, QColor.fromRgb(cloth))
    colour = LOOK.colour(known.ink) if depth is None else own if stuff == "thread" else _marked(own, depth)
    return _made(known, colour, known.px)


def stuff_colour(stuff: str, cloth: QColor) -> QColor:
    """The colour of what a sheet is of."""
    match stuff:
        case "object":
            return LOOK.colour("body")
        case "sticks out":
            return mixed(LOOK.colour("body"), LOOK.colour("soft"), 0.22)
        case "webbing" | "trim":
            return _marked(cloth, 0.4)
        case "thread":
            return mixed(LOOK.colour("surface"), cloth, 0.5)
        case "window":
            return mixed(LOOK.colour("body"), QColor("#8fb6c4"), 0.5)
        case "print":
            return _marked(cloth, DEPTHS[Layer.PRINT])
        case _:
            return cloth


def _marked(colour: QColor, depth: float) -> QColor:
    """A colour that stands out from another: darker, or lighter where that is dark itself."""
    return mixed(colour, QColor("#ffffff") if luminance(colour) < DARK_CLOTH else QColor("#17130c"), depth)


DARK_CLOTH: Final = 0.14
"""On cloth darker than this lines are light."""


def luminance(colour: QColor) -> float:
    """Relative luminance, 0 … 1."""
    parts = (colour.redF(), colour.greenF(), colour.blueF())
    linear = [part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def mixed(one: QColor, other: QColor, share: float) -> QColor:
    """So much of the other in the one."""
    return QColor.fromRgbF(
        *(
            a + (b - a) * share
            for a, b in zip((one.redF(), one.greenF(), one.blueF()), (other.redF(), other.greenF(), other.blueF()), strict=True)
        )
    )


def paint_strokes(
    painter: QPainter, strokes: Sequence[tuple[Stroke, Shape]], cloth: QColor, lit: frozenset[Ref] = frozenset()
) -> None:
    """Paint paths in the painter's own frame; those whose ref is `lit` stand out."""
    for item, shape in strokes:
        if item.pairs and isinstance(shape, QPainterPath):
            painter.setPen(_pen_on(item.layer, item.fill, cloth.rgb(), LOOK.colours) if item.fill else pen(item.layer))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPath(shape)
        elif item.layer is Layer.FACE or item.layer is Layer.PRINT:
            _fill(painter, item, shape, cloth)
        elif item.closed and not isinstance(shape, QPainterPath):
            painter.setPen(pen(item.layer, lit=_shines(item, lit), far=item.far))
            painter.setBrush(_brush(item, cloth))
            painter.drawPolygon(shape)
        elif not isinstance(shape, QPainterPath):
            painter.setPen(pen(item.layer, lit=_shines(item, lit), far=item.far))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolyline(shape)


def _shines(item: Stroke, lit: frozenset[Ref]) -> bool:
    return bool(lit) and item.ref in lit and item.layer in (Layer.SEW, Layer.CUT)


def _fill(painter: QPainter, item: Stroke, shape: QPolygonF | QPainterPath, cloth: QColor) -> None:
    """A face in its own colour, hatched where it lies in the shade."""
    # Faces are painted without smoothing, which is quick, and their borders are drawn over them smoothly; a hairline in their own colour closes the
    # gaps where they meet. Prints have no borders.
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, on=item.layer is Layer.PRINT)
    hair, brush, hatch = _paints(item.fill, item.tone, cloth.rgb(), LOOK.colours)
    painter.setPen(hair)
    painter.setBrush(brush)
    _draw(painter, shape)
    if item.hatched:
        painter.setPen(Qt.PenStyle.NoPen)
        inverted, _ = painter.transform().inverted()
        hatch = QBrush(hatch)
        hatch.setTransform(inverted)  # the hatch keeps its size and its slant whatever the zoom
        painter.setBrush(hatch)
        _draw(painter, shape)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)


@lru_cache(maxsize=512)
def _paints(stuff: str, tone: float, cloth: int, _colours: Colours) -> tuple[QPen, QBrush, QBrush]:
    """A face's hairline, its colour and its hatch."""
    colour = shaded(stuff_colour(stuff, QColor.fromRgb(cloth)), tone)
    hair = QPen(colour, 0.0)
    hair.setCosmetic(True)
    return hair, QBrush(colour), QBrush(_marked(colour, HATCHED), Qt.BrushStyle.BDiagPattern)


def _draw(painter: QPainter, shape: QPolygonF | QPainterPath) -> None:
    if isinstance(shape, QPainterPath):
        painter.drawPath(shape)
    else:
        painter.drawPolygon(shape)


HATCHED: Final = 0.1
"""How far the hatch stands out from the shade."""


def _brush(item: Stroke, cloth: QColor) -> QBrush:
    if not item.fill:
        return QBrush(Qt.BrushStyle.NoBrush)
    tint = QColor(cloth)
    tint.setAlphaF(0.30 if item.fill == "outer" else 0.14)
    return QBrush(tint)


def shaded(colour: QColor, tone: float) -> QColor:
    """A colour in light of 0 … 1; a little over 1 is lighter than it is."""
    return QColor.fromRgbF(*(min(1.0, part * tone) for part in (colour.redF(), colour.greenF(), colour.blueF())))


class Thumbnail:
    """A picture made ready once, to be painted small into any box; it fills `bounds`, y down."""

    def __init__(self, strokes: Sequence[tuple[Stroke, Shape]], bounds: QRectF, cloth: QColor | None = None) -> None:
        self.strokes, self.bounds, self.cloth = strokes, bounds, cloth

    def paint(self, painter: QPainter, box: QRectF, cloth: QColor | None = None) -> None:
        """Paint it fitted into a box, in the colour of its cloth."""
        scale = min(box.width() / max(self.bounds.width(), 1e-6), box.height() / max(self.bounds.height(), 1e-6))
        painter.save()
        painter.translate(box.center())
        painter.scale(scale, scale)
        painter.translate(-self.bounds.center())
        paint_strokes(painter, self.strokes, cloth or self.cloth or LOOK.colour("line"))
        painter.restore()

    def pixmap(self, wide: int, high: int, fineness: float, cloth: QColor | None = None) -> QPixmap:
        """It painted for a box, `fineness` px of the screen for each px of ours."""
        made = QPixmap(round(wide * fineness), round(high * fineness))
        made.setDevicePixelRatio(fineness)
        made.fill(Qt.GlobalColor.transparent)
        painter = QPainter(made)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.paint(painter, QRectF(2, 2, wide - 4, high - 4), cloth)  # room for the lines along the edge
        painter.end()
        return made


def unpacked(picture: bytes) -> Thumbnail:
    """A kept picture, as `core/pictures/kept.py` packs it; an empty one for what is none."""
    strokes: list[tuple[Stroke, Shape]] = []
    try:
        mark, wide, high, *cloth = struct.unpack_from(HEAD, picture)
        if mark != KEPT:
            return Thumbnail((), QRectF())
        at = struct.calcsize(HEAD)
        while at < len(picture):
            layer, flags, tone, fill, more, count = struct.unpack_from(PATH, picture, at)
            at += struct.calcsize(PATH)
            begins = struct.unpack_from(f"<{more}H", picture, at)
            at += 2 * more
            flat = struct.unpack_from(f"<{2 * count}h", picture, at)
            at += 4 * count
            rings = (0, *begins) if LAYERS[layer] in (Layer.FACE, Layer.PRINT) else ()
            made = Plain(
                LAYERS[layer], bool(flags & 1), FILLS[fill], tone / FULL, bool(flags & 2), bool(flags & 4), rings, bool(flags & 8)
            )
            strokes.append((made, shaped(made, list(zip(flat[::2], flat[1::2], strict=True)))))
    except (struct.error, IndexError, ValueError):
        return Thumbnail((), QRectF())
    return Thumbnail(strokes, QRectF(0.0, 0.0, wide, high), QColor(*cloth))
