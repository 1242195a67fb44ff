"""Traced outlines from drawings: the largest closed line of an SVG or DXF file, in millimetres."""

import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Final

import numpy as np
import shapely

from omnipel.core.job.findings import Impossible
from omnipel.core.job.thing import Outline
from omnipel.core.plane.curves import Points
from omnipel.core.plane.trace import MOST_POINTS, SIMPLER, ring_of
from omnipel.core.words.phrases import Count, Name, Phrase, mm, tr
from omnipel.exchange.reading.limits import LARGEST, LONGEST_S, NoTracing, in_time
from omnipel.shop.document import DocumentError
from omnipel.shop.reasons import reason_of

DRAWINGS: Final = "*.svg *.dxf"
"""How drawings that can be read are called."""


@dataclass(frozen=True, slots=True)
class Traced:
    """An outline that was read, and what there is to say about it."""

    outline: Outline
    notes: tuple[Phrase, ...] = ()


def read_outline(path: Path, *, smoothing: float = 0.0) -> Traced:
    """The largest closed line of a drawing as a traced outline, y up, mm, its lowest left corner at 0, 0.

    Raises:
        DocumentError: the file cannot be read, is no drawing, is larger than a tracing can be, or holds no outline; says what is wrong and where.
    """
    try:
        with open(path, "rb") as file:
            text = file.read(LARGEST + 1)
        size = max(len(text), path.stat().st_size)
    except (OSError, ValueError) as error:
        raise DocumentError(str(path), reason_of(error)) from None
    if len(text) > LARGEST:
        large = tr(
            "the file is {size} MB; a tracing takes no more than {most} MB", size=Count(size / 1e6), most=Count(LARGEST / 1e6)
        )
        raise DocumentError(path.name, large)
    until = time.monotonic() + LONGEST_S
    try:
        if is_dxf(text):
            from omnipel.exchange.reading.dxf_figures import dxf_figures, units_note

            traced = _largest(dxf_figures(text, until), smoothing, until)
            return Traced(traced.outline, (*traced.notes, *units_note(text)))
        from omnipel.exchange.reading.svg_figures import svg_figures

        return _largest(svg_figures(text, until), smoothing, until)
    except NoTracing as fault:
        raise DocumentError(path.name, fault.phrase) from None


def is_dxf(text: bytes) -> bool:
    """Whether a file begins as a DXF file does: with the number of a group, then a section or a comment, or as its binary kind."""
    head = text[:400].lstrip(b"\xef\xbb\xbf \t\r\n").split(maxsplit=2)
    return text.startswith(b"AutoCAD Binary DXF") or (len(head) > 1 and head[0] in (b"0", b"999"))


def _largest(figures: Iterator[tuple[str, Points]], smoothing: float, until: float) -> Traced:
    """The largest figure that can be drafted.

    Raises:
        NoTracing: there is none; says why the largest is none.
    """
    sized = []
    for name, points in figures:
        with np.errstate(all="ignore"):
            box = np.ptp(points, axis=0)
            sized.append((float(box[0] * box[1]) if np.isfinite(points).all() else -1.0, name, points))
    fault: Phrase | None = None
    for area, name, points in sorted(sized, key=lambda item: -item[0]):
        in_time(until)
        if area <= 0.0:
            fault = fault or tr("{element} is no closed line of finite size", element=Name(name))
            continue
        try:
            return _outline(points - points.min(axis=0), smoothing)
        except Impossible as impossible:
            fault = fault or tr("{element}: {fault}", element=Name(name), fault=impossible.text)
    none = tr("the drawing holds no outline that could be drafted")
    raise NoTracing(tr("{none}: {fault}", none=none, fault=fault) if fault is not None else none)


def _outline(points: Points, smoothing: float) -> Traced:
    kept, notes = points, tuple[Phrase, ...]()
    if len(points) > MOST_POINTS:
        for off in SIMPLER[1:]:
            kept = shapely.get_coordinates(shapely.LineString(points).simplify(off))
            if len(kept) <= MOST_POINTS:
                break
        else:
            raise NoTracing(tr("{n} points are too rough for an outline", n=Count(len(points))))
        notes = (
            tr(
                "The tracing had {n} points; {kept} are kept, and none that was left out lies further than {off} off the line.",
                n=Count(len(points)),
                kept=Count(len(kept)),
                off=mm(off, fine=True),
            ),
        )
    made = Outline(points=tuple((round(float(x), 3), round(float(y), 3)) for x, y in kept), smoothing=smoothing)
    ring_of(made)
    return Traced(made, notes)
