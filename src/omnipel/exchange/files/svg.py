"""SVG, full size: millimetre units, one group per layer, one group per piece inside. What is an arc is written as one."""

import io
import math
import zipfile
from xml.etree.ElementTree import Element, SubElement, indent, tostring

from omnipel.core.draft import Drafted
from omnipel.core.pictures.drawing import Item, Path
from omnipel.core.pictures.pens import PENS, Layer
from omnipel.core.plane.bows import along
from omnipel.core.words.phrases import Voice
from omnipel.exchange.files.flat import CLOTH, Flat, flat

GROUPS = (
    ("cut", (Layer.CUT,)),
    ("sew", (Layer.SEW,)),
    ("fold", (Layer.FOLD,)),
    ("marks", (Layer.MARKS, Layer.GRAIN, Layer.FIGURE)),
    ("text", (Layer.TEXT, Layer.DIMENSION)),
)
"""What is switched on and off together in a drawing program; drawn with the pen of its first layer."""
MARGIN = 20.0
EARLIEST = (1980, 1, 1, 0, 0, 0)
"""What an archive keeps no time of is as old as it can be."""


def svg(draft: Drafted, voice: Voice | None = None, of: str = "") -> str:
    """All panels below one another, each once, or the part that is asked for, as the text of an SVG file.

    Raises:
        NoSuchPart: there is no such part.
    """
    return written(flat(draft, voice or Voice(draft.job.unit), of))


def each(draft: Drafted, voice: Voice) -> bytes:
    """A zip archive with one drawing for each panel."""
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        for number, panel in enumerate(draft.panels, 1):
            name = "".join(c if c.isalnum() or c in "-_ " else "-" for c in panel.name)[:60]
            info = zipfile.ZipInfo(f"{number:02} {name}.svg", EARLIEST)
            info.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(info, svg(draft, voice, panel.name))
    return target.getvalue()


def written(whole: Flat) -> str:
    """The text of an SVG file; y is turned over because SVG counts it downward."""
    x0, y0, x1, y1 = whole.bounds
    x0, y0, x1, y1 = x0 - MARGIN, y0 - MARGIN, x1 + MARGIN, y1 + MARGIN
    root = Element(
        "svg",
        {
            "xmlns": "http://www.w3.org/2000/svg",
            "width": f"{x1 - x0:.4f}mm",
            "height": f"{y1 - y0:.4f}mm",
            "viewBox": f"{x0:.4f} {-y1:.4f} {x1 - x0:.4f} {y1 - y0:.4f}",
        },
    )
    SubElement(root, "title").text = whole.name
    if whole.cloths:
        edge = SubElement(root, "g", {"id": "cloth", "fill": "none", "stroke": "#000", "stroke-width": f"{PENS[CLOTH].weight:g}"})
        for ring in whole.cloths:
            _add(edge, Path(ring, CLOTH, closed=True))
    for name, layers in GROUPS:
        pen = PENS[layers[0]]
        style = {"stroke-width": f"{pen.weight:g}"} | (
            {"stroke-dasharray": " ".join(f"{part:g}" for part in pen.dash)} if pen.dash else {}
        )
        group = SubElement(root, "g", {"id": name, "fill": "none", "stroke": "#000", **style})
        for piece in whole.pieces:
            inner = SubElement(group, "g", {"id": f"{name}-{piece.name.replace(' ', '-')}"})
            for item in piece.drawing.items:
                if item.layer in layers:
                    _add(inner, item)
    indent(root)
    return tostring(root, encoding="unicode", xml_declaration=True) + "\n"


def _add(group: Element, item: Item) -> None:
    if isinstance(item, Path):
        SubElement(group, "path", {"d": path_data(item)})
        return
    x, y = item.at[0], -item.at[1]
    style = {
        "x": f"{x:.3f}",
        "y": f"{y:.3f}",
        "font-size": f"{item.size:.3f}",
        "font-family": "sans-serif",
        "text-anchor": {0.0: "start", 1.0: "end"}.get(item.anchor, "middle"),
        "fill": "#000",
        "stroke": "none",
    }
    if item.angle:
        style["transform"] = f"rotate({-math.degrees(item.angle):.3f} {x:.3f} {y:.3f})"
    SubElement(group, "text", style).text = item.words


def path_data(item: Path) -> str:
    """The `d` of a path, its arcs as arcs."""
    points = item.points.tolist()
    at = points[0]
    steps = [f"M {at[0]:.4f} {-at[1]:.4f}"]
    drawn = "M"
    if item.pairs:
        return " ".join(
            f"M {x:.4f} {-y:.4f} L {u:.4f} {-v:.4f}" for (x, y), (u, v) in zip(points[::2], points[1::2], strict=True)
        )
    for k, sweep in along(item.points, item.bows, closed=item.closed):
        x, y = points[k]
        if sweep:
            radius = math.dist(at, (x, y)) / 2.0 / math.sin(abs(sweep) / 2.0)
            steps.append(f"A {radius:.4f} {radius:.4f} 0 0 {0 if sweep > 0.0 else 1} {x:.4f} {-y:.4f}")
        elif not (item.closed and k == 0):
            steps.append(f"{'' if drawn == 'L' else 'L '}{x:.4f} {-y:.4f}")
        at, drawn = (x, y), "A" if sweep else "L"
    return " ".join(steps) + (" Z" if item.closed else "")
