"""How the paths of a drawing are painted on screen, and small pictures made ready once. Knows no geometry: the shelf is painted with it."""

import struct
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Protocol

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPen, QPolygonF

from omnipel.bench.parts.look import LOOK, Colours
from omnipel.core.pictures.pens import FAR, FILLS, HEAD, LAYERS, PATH, PENS, Layer
from omnipel.core.words.refs import Ref


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


@dataclass(frozen=True, slots=True)
class Plain:
    """A path of a kept picture."""

    layer: Layer
    closed: bool
    fill: str
    tone: float
    pairs: bool
    far: bool
    ref: Ref | None = None


def pen(layer: Layer, *, lit: bool = False, far: bool = False) -> QPen:
    """The pen of a layer on screen; cosmetic, so that it does not grow with the zoom."""
    return _pen(layer, lit, far, LOOK.colours)


@lru_cache(maxsize=256)
def _pen(layer: Layer, lit: bool, far: bool, _colours: Colours) -> QPen:
    known = FAR if far else PENS[layer]
    made = QPen(LOOK.colour("accent" if lit else known.ink), 3.2 if lit else known.px)
    if known.px_dash and not lit:
        made.setDashPattern(known.px_dash)
    made.setCosmetic(True)
    made.setCapStyle(Qt.PenCapStyle.FlatCap)
    made.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    return made


def paint_strokes(
    painter: QPainter,
    strokes: Sequence[tuple[Stroke, QPolygonF]],
    cloth: QColor,
    lit: frozenset[Ref] = frozenset(),
    tints: Mapping[str, QColor] | None = None,
) -> None:
    """Paint paths in the painter's own frame; those whose ref is `lit` stand out."""
    for item, polygon in strokes:
        if item.pairs:
            painter.setPen(pen(item.layer))
            painter.drawLines(polygon.toList())
            continue
        if item.layer is Layer.FACE:
            brush = _tinted(item, tints) if tints and item.fill in tints else _brush(item, cloth)
            # Facets are drawn hard-edged, in half the time; the lines over them are smooth. A hairline in the facet's own colour
            # closes the gaps, but where one sees through them it would draw a net.
            painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
            hair = QPen(brush.color(), 1.0) if brush.isOpaque() else QPen(Qt.PenStyle.NoPen)
            hair.setCosmetic(True)
            painter.setPen(hair)
            painter.setBrush(brush)
            painter.drawPolygon(polygon)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)
            continue
        shines = bool(lit) and item.ref in lit and item.layer in (Layer.SEW, Layer.CUT)
        painter.setPen(pen(item.layer, lit=shines, far=item.far))
        if item.closed:
            painter.setBrush(_brush(item, cloth))
            painter.drawPolygon(polygon)
        else:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolyline(polygon)


def _tinted(item: Stroke, tints: Mapping[str, QColor]) -> QBrush:
    """A face of the cover in its own colour, seen through as much as its alpha says."""
    colour = tints[item.fill]
    shaded = _shaded(colour, item.tone)
    shaded.setAlpha(colour.alpha())
    return QBrush(shaded)


def _brush(item: Stroke, cloth: QColor) -> QBrush:
    if item.layer is Layer.FACE:
        kind = item.fill.partition(":")[0]
        base = {"object": LOOK.colour("body"), "sticks out": LOOK.colour("glow")}.get(kind, cloth)
        return QBrush(_shaded(base, item.tone))
    if not item.fill:
        return QBrush(Qt.BrushStyle.NoBrush)
    tint = QColor(cloth)
    tint.setAlphaF(0.30 if item.fill == "outer" else 0.14)
    return QBrush(tint)


def _shaded(colour: QColor, tone: float) -> QColor:
    """A colour in light of 0 … 1."""
    shade = 0.74 + 0.26 * tone
    return QColor.fromRgbF(colour.redF() * shade, colour.greenF() * shade, colour.blueF() * shade)


class Thumbnail:
    """A picture made ready once, to be painted small into any box; it fills `bounds`, y down."""

    def __init__(self, strokes: Sequence[tuple[Stroke, QPolygonF]], bounds: QRectF) -> None:
        self.strokes, self.bounds = strokes, bounds

    def paint(self, painter: QPainter, box: QRectF) -> None:
        """Paint it fitted into a box."""
        scale = min(box.width() / max(self.bounds.width(), 1e-6), box.height() / max(self.bounds.height(), 1e-6))
        painter.save()
        painter.translate(box.center())
        painter.scale(scale, scale)
        painter.translate(-self.bounds.center())
        paint_strokes(painter, self.strokes, LOOK.colour("line"))
        painter.restore()


def unpacked(picture: bytes) -> Thumbnail:
    """A kept picture, as `core/pictures/kept.py` packs it; an empty one for what is none."""
    strokes: list[tuple[Stroke, QPolygonF]] = []
    try:
        mark, wide, high = struct.unpack_from(HEAD, picture)
        at = struct.calcsize(HEAD)
        while at < len(picture):
            layer, flags, tone, fill, count = struct.unpack_from(PATH, picture, at)
            at += struct.calcsize(PATH)
            flat = struct.unpack_from(f"<{2 * count}h", picture, at)
            at += 4 * count
            polygon = QPolygonF([QPointF(x, y) for x, y in zip(flat[::2], flat[1::2], strict=True)])
            made = Plain(LAYERS[layer], bool(flags & 1), FILLS[fill], tone / 255.0, bool(flags & 2), bool(flags & 4))
            strokes.append((made, polygon))
    except (struct.error, IndexError):
        return Thumbnail((), QRectF())
    return Thumbnail(strokes if mark == b"K1" else (), QRectF(0.0, 0.0, wide, high))
