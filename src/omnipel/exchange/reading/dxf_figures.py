"""The figures of a DXF drawing: closed lines as they are, and what lines, arcs and curves make when their ends meet."""

import io
from collections.abc import Iterable, Iterator
from itertools import islice
from typing import Any, Final

import numpy as np
import shapely

from omnipel.core.plane.curves import Points
from omnipel.core.tolerances import CHORD_ERROR
from omnipel.core.words.phrases import Name, Phrase, tr
from omnipel.exchange.reading.limits import DEEPEST, MOST_ELEMENTS, NoTracing, in_time

MEET: Final = 0.01
"""Ends of lines no further apart than this meet, mm: drawings are written with a few decimals."""
MOST_POINTS: Final = 200_000
"""Of all figures together."""
KINDS: Final = ("LINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE", "LWPOLYLINE", "POLYLINE", "INSERT")
"""What an outline can be made of."""


def dxf_figures(text: bytes, until: float) -> Iterator[tuple[str, Points]]:
    """Every figure of a drawing as the name of what it is and its points, mm; what does not close by itself is joined to others.

    Raises:
        NoTracing: this is no DXF drawing, it is larger than a tracing can be, or takes too long.
    """
    document = _document(text)
    scale = _scale(document)
    open_: list[Points] = []
    count = 0
    for entity in _parts(document.modelspace(), until):
        points = _points(entity, scale)
        count += len(points)
        if count > MOST_POINTS:
            raise NoTracing(tr("the drawing has more than {n} points; save the outline alone", n=Name(str(MOST_POINTS))))
        if len(points) < 2 or not np.isfinite(points).all():
            continue
        if len(points) > 3 and np.hypot(*(points[0] - points[-1])) <= MEET:
            yield _called(entity), points[:-1]
        else:
            open_.append(points)
    yield from (("joined lines", ring) for ring in _joined(open_, until))


def units_note(text: bytes) -> tuple[Phrase, ...]:
    """That a drawing does not say its unit, where it does not."""
    if _document(text).header.get("$INSUNITS", 0):
        return ()
    return (tr("The drawing says no unit: one in it was taken for a millimetre."),)


def _document(text: bytes) -> Any:
    from ezdxf import recover
    from ezdxf.lldxf.const import DXFError

    try:
        return recover.read(io.BytesIO(text))[0]
    except (DXFError, ValueError, LookupError, TypeError, AttributeError, RecursionError, OverflowError) as error:
        raise NoTracing(tr("this is no DXF drawing: {fault}", fault=Name(" ".join(str(error).split())[:80]))) from None


def _scale(document: Any) -> float:
    """How long one of its units is, mm."""
    from ezdxf.enums import InsertUnits
    from ezdxf.units import conversion_factor

    unit = document.header.get("$INSUNITS", 0)
    try:
        return float(conversion_factor(InsertUnits(unit), InsertUnits.Millimeters)) if unit else 1.0
    except (KeyError, ValueError, ZeroDivisionError, TypeError, IndexError):
        return 1.0


def _parts(entities: Iterable[Any], until: float) -> Iterator[Any]:
    """What a drawing consists of, blocks in their places, and blocks within these."""
    left: list[tuple[int, Iterator[Any]]] = [(0, iter(entities))]
    count = 0
    while left:
        depth, within = left[-1]
        for entity in islice(within, 1):
            count += 1
            if count > MOST_ELEMENTS:
                raise NoTracing(tr("the drawing has more than {n} parts; save the outline alone", n=Name(str(MOST_ELEMENTS))))
            in_time(until)
            if entity.dxftype() == "INSERT":
                if depth >= DEEPEST:
                    raise NoTracing(tr("{element} is a copy of itself", element=Name(_called(entity))))
                left.append((depth + 1, _made(entity)))
            elif entity.dxftype() in KINDS:
                yield entity
            break
        else:
            left.pop()


def _made(entity: Any) -> Iterator[Any]:
    """What a block, or a line with arcs in it, is made of; nothing where it cannot be told."""
    try:
        yield from entity.virtual_entities()
    except Exception:  # what a spoilt drawing makes of another's reader; the part counts as not there
        return


def _points(entity: Any, scale: float) -> Points:
    """An entity as points, mm; none where it cannot be read."""
    off = CHORD_ERROR / scale
    try:
        kind = entity.dxftype()
        if kind == "LINE":
            made = [entity.dxf.start, entity.dxf.end]
        elif kind in ("LWPOLYLINE", "POLYLINE"):
            made = _polyline(entity, off)
        else:
            made = list(entity.flattening(off))
        return np.array([(point[0], point[1]) for point in made], dtype=np.float64).reshape(-1, 2) * scale
    except Exception:  # as above
        return np.empty((0, 2))


def _polyline(entity: Any, off: float) -> list[Any]:
    """A line of straight steps and arcs."""
    made: list[Any] = []
    for part in entity.virtual_entities():
        if part.dxftype() == "LINE":
            here = [part.dxf.start, part.dxf.end]
        else:
            here = list(part.flattening(off))
            if made and made[-1].distance(here[-1]) < made[-1].distance(here[0]):
                here.reverse()
            elif not made:  # an arc is told counter-clockwise, whichever way the line runs
                first = next(iter(entity.points() if entity.dxftype() == "POLYLINE" else entity.vertices_in_wcs()))
                if here[-1].distance(first) < here[0].distance(first):
                    here.reverse()
        made += here[1:] if made else here
    return made


def _joined(lines: list[Points], until: float) -> Iterator[Points]:
    """Rings that open lines make whose ends meet."""
    if not lines:
        return
    in_time(until)
    ends = np.concatenate([np.stack((line[0], line[-1])) for line in lines])
    places = np.asarray(shapely.points(ends))
    near = shapely.STRtree(places).query(places, predicate="dwithin", distance=MEET)
    first = np.arange(len(ends))
    for a, b in near.T.tolist():
        first[a] = min(first[a], first[b])
    for k, line in enumerate(lines):  # ends that meet become one
        line[0], line[-1] = ends[first[2 * k]], ends[first[2 * k + 1]]
    merged = shapely.line_merge(shapely.MultiLineString([shapely.LineString(line) for line in lines]))
    for part in shapely.get_parts(merged):
        if part.is_closed and len(part.coords) > 3:
            yield shapely.get_coordinates(part)[:-1]


def _called(entity: Any) -> str:
    return f"{entity.dxftype()} #{entity.dxf.get('handle') or '?'}"
