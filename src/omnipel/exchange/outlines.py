"""Traced outlines from SVG files: the largest closed path, in millimetres.

The file is read with a parser that refuses external entities and expansion bombs before anything else sees it.
"""

import io
from pathlib import Path

import numpy as np

from omnipel.core.job.findings import Impossible
from omnipel.core.job.thing import Outline
from omnipel.core.plane.trace import path_points, ring_of
from omnipel.core.words.phrases import Count, Name, plain, tr
from omnipel.shop.document import DocumentError

LARGEST = 8_000_000
MM_PER_PX = 25.4 / 96.0
"""SVG's own unit, the px, is 1/96 inch."""


def read_svg_outline(path: Path, *, smoothing: float = 0.0) -> Outline:
    """The largest closed path of an SVG file as a traced outline, y up, mm.

    Raises:
        DocumentError: the file cannot be read, is no SVG, or holds no outline; says what is wrong.
    """
    from defusedxml import DefusedXmlException
    from defusedxml.ElementTree import ParseError, fromstring, tostring
    from svgelements import SVG
    from svgelements import Path as SvgPath
    from svgelements import Shape as SvgShape

    try:
        text = path.read_bytes()
    except OSError as error:
        raise DocumentError(str(path), plain((error.strerror or str(error)).lower())) from None
    if len(text) > LARGEST:
        raise DocumentError(
            path.name,
            tr(
                "the file is {size} MB; a tracing takes no more than {most} MB",
                size=Count(len(text) / 1e6),
                most=Count(LARGEST / 1e6),
            ),
        )
    try:
        clean = tostring(fromstring(text))
        drawing = SVG.parse(io.BytesIO(clean), reify=True)
    except (ParseError, DefusedXmlException, ValueError) as error:
        raise DocumentError(path.name, tr("this is no SVG drawing: {fault}", fault=Name(str(error)))) from None
    found: list[Outline] = []
    for element in drawing.elements(lambda e: isinstance(e, SvgShape)):
        for part in SvgPath(element).as_subpaths():
            outline = _outline(SvgPath(part).d(), smoothing)
            found += [outline] if outline else []
    if not found:
        raise DocumentError(path.name, tr("the drawing holds no outline that could be drafted"))
    return max(found, key=lambda outline: float(np.prod(np.ptp(np.array(outline.points), axis=0))))


def _outline(data: str, smoothing: float) -> Outline | None:
    try:
        points = path_points(data) * MM_PER_PX
        made = Outline(points=tuple((round(float(x), 3), round(float(y), 3)) for x, y in points), smoothing=smoothing)
        ring_of(made)
    except Impossible:
        return None
    return made
