"""DXF for drawing and cutting programs: R2000, and R12 for old machines. Millimetres; outlines closed, arcs true, one layer for each kind of line."""

from __future__ import annotations

import io
import logging
import math
from typing import TYPE_CHECKING, Any, Final

from omnipel.core.draft import Drafted
from omnipel.core.pictures.drawing import CAPITALS, Label, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.bows import along, bulge
from omnipel.core.words.phrases import Voice
from omnipel.exchange.files.flat import CLOTH, Flat, flat

if TYPE_CHECKING:
    from ezdxf.document import Drawing as Document

LAYERS: Final = {
    Layer.CUT: ("CUT", 1),
    Layer.SEW: ("SEW", 5),
    Layer.FOLD: ("FOLD", 3),
    Layer.MARKS: ("NOTCH", 6),
    Layer.GRAIN: ("GRAIN", 8),
    Layer.FIGURE: ("INTERNAL", 4),
    Layer.TEXT: ("TEXT", 7),
    Layer.DIMENSION: ("TEXT", 7),
    CLOTH: ("CLOTH", 9),
}
"""Each kind of line's layer in the file, and the number of its colour there."""
R2000, R12 = "R2000", "R12"
DECIMALS: Final = 6
"""Of a coordinate in a file."""


def dxf(draft: Drafted, voice: Voice, version: str = R2000, of: str = "") -> bytes:
    """All panels below one another, or the part that is asked for, as the content of a DXF file.

    Raises:
        NoSuchPart: there is no such part.
    """
    return written(flat(draft, voice, of), version)


def written(whole: Flat, version: str = R2000) -> bytes:
    """The content of a DXF file."""
    from ezdxf.filemanagement import new
    from ezdxf.units import MM

    logging.getLogger("ezdxf").setLevel(logging.ERROR)  # else it tells the terminal about R12 what `exports` tells the person
    document = new(version, units=MM if version != R12 else 0)  # R12 knows no units: a number is a millimetre
    document.header["$MEASUREMENT"] = 1
    for name, colour in dict(LAYERS.values()).items():
        if name != "CLOTH" or whole.cloths:
            document.layers.add(name, color=colour)
    space: Any = document.modelspace()
    for ring in whole.cloths:
        _path(space, Path(ring, CLOTH, closed=True))
    for piece in whole.pieces:
        for item in piece.drawing.items:
            if item.layer not in LAYERS:
                continue
            if isinstance(item, Path):
                _path(space, item)
            elif item.words:
                _words(space, item)
    _seen(document, whole)
    target = io.StringIO(newline="\r\n")
    document.write(target)
    return target.getvalue().encode(document.output_encoding, errors="dxfreplace")


def _path(space: Any, path: Path) -> None:
    look = {"layer": LAYERS[path.layer][0]}
    points = path.points.round(DECIMALS).tolist()
    if path.pairs:
        for start, end in zip(points[::2], points[1::2], strict=True):
            space.add_line(start, end, look)
        return
    if len(points) == 1:
        space.add_point(points[0], look)
        return
    line = [[*points[0], 0.0]]
    for k, sweep in along(path.points, path.bows, closed=path.closed):
        line[-1][2] = bulge(sweep)
        if not (path.closed and k == 0):
            line.append([*points[k], 0.0])
    if len(line) == 2 and not path.closed and not line[0][2]:
        space.add_line(points[0], points[-1], look)
        return
    add = space.add_polyline2d if space.doc.dxfversion == "AC1009" else space.add_lwpolyline
    add([tuple(vertex) for vertex in line], format="xyb", close=path.closed, dxfattribs=look)


def _words(space: Any, label: Label) -> None:
    from ezdxf.enums import TextEntityAlignment

    look = {
        "layer": LAYERS[label.layer][0],
        "height": round(label.size * CAPITALS, 3),  # there a text is as high as its capitals
        "rotation": round(math.degrees(label.angle), 4),
    }
    align = {0.0: TextEntityAlignment.LEFT, 1.0: TextEntityAlignment.RIGHT}.get(label.anchor, TextEntityAlignment.CENTER)
    words = " ".join(label.words.replace("⁄", "/").split())
    space.add_text(words, dxfattribs=look).set_placement(label.at, align=align)


def _seen(document: Document, whole: Flat) -> None:
    """What is seen when the file is opened: all of it."""
    x0, y0, x1, y1 = whole.bounds
    document.header["$EXTMIN"], document.header["$EXTMAX"] = (x0, y0, 0.0), (x1, y1, 0.0)
    document.set_modelspace_vport(height=max(y1 - y0, (x1 - x0) * 0.6, 1.0) * 1.1, center=((x0 + x1) / 2.0, (y0 + y1) / 2.0))
