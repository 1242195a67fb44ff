"""SVG, full size: millimetre units, one group per layer, one group per panel inside."""

import math
from collections.abc import Sequence
from xml.etree.ElementTree import Element, SubElement, indent, tostring

import numpy as np

from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Panel
from omnipel.core.pictures.drawing import Drawing, Label, Path
from omnipel.core.pictures.pens import PENS, Layer
from omnipel.core.pictures.sheet import panel_drawing
from omnipel.core.words.phrases import Voice

GROUPS = (
    ("cut", (Layer.CUT,)),
    ("sew", (Layer.SEW,)),
    ("fold", (Layer.FOLD,)),
    ("marks", (Layer.MARKS, Layer.GRAIN, Layer.FIGURE)),
    ("text", (Layer.TEXT, Layer.DIMENSION)),
)
"""What is switched on and off together in a drawing program; drawn with the pen of its first layer."""
TEXT = 5.0
MARGIN = 20.0


def svg(draft: Drafted, voice: Voice | None = None) -> str:
    """All panels below one another, each once, as the text of an SVG file."""
    drawings, y = [], 0.0
    for panel in draft.panels:
        drawing = panel_drawing(panel, voice or Voice(draft.job.unit), TEXT, whole=True)
        x0, y0, _, y1 = drawing.bounds
        drawings.append(drawing.moved(-x0, y - y1))
        y -= y1 - y0 + MARGIN
    return written(drawings, draft.panels, draft.job.name)


def written(drawings: Sequence[Drawing], panels: Sequence[Panel], title: str) -> str:
    """The text of an SVG file; y is turned over because SVG counts it downward."""
    boxes = [drawing.bounds for drawing in drawings] or [(0.0, 0.0, 1.0, 1.0)]
    x0, y0 = min(b[0] for b in boxes) - MARGIN, min(b[1] for b in boxes) - MARGIN
    x1, y1 = max(b[2] for b in boxes) + MARGIN, max(b[3] for b in boxes) + MARGIN
    root = Element(
        "svg",
        {
            "xmlns": "http://www.w3.org/2000/svg",
            "width": f"{x1 - x0:.4f}mm",
            "height": f"{y1 - y0:.4f}mm",
            "viewBox": f"{x0:.4f} {-y1:.4f} {x1 - x0:.4f} {y1 - y0:.4f}",
        },
    )
    SubElement(root, "title").text = title
    for name, layers in GROUPS:
        pen = PENS[layers[0]]
        style = {"stroke-width": f"{pen.weight:g}"} | (
            {"stroke-dasharray": " ".join(f"{part:g}" for part in pen.dash)} if pen.dash else {}
        )
        group = SubElement(root, "g", {"id": name, "fill": "none", "stroke": "#000", **style})
        for panel, drawing in zip(panels, drawings, strict=True):
            inner = SubElement(group, "g", {"id": f"{name}-{panel.name.replace(' ', '-')}"})
            for item in drawing.items:
                if item.layer in layers:
                    _add(inner, item)
    indent(root)
    return tostring(root, encoding="unicode", xml_declaration=True) + "\n"


def _add(group: Element, item: Path | Label) -> None:
    if isinstance(item, Path):
        SubElement(group, "path", {"d": path_data(item.points, item.closed)})
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


def path_data(points: np.ndarray, closed: bool) -> str:
    """The `d` of a path."""
    steps = " L ".join(f"{x:.4f} {-y:.4f}" for x, y in points)
    return f"M {steps}{' Z' if closed else ''}"
