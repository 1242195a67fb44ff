"""Whatever a job is: its cut lines hold their allowances, its pictures and papers are made, and hold nothing but numbers."""

import json
import math
from collections import Counter
from collections.abc import Iterator
from random import Random
from xml.etree import ElementTree

import numpy as np
import shapely

from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Panel
from omnipel.core.pictures.board import board
from omnipel.core.pictures.drawing import Drawing, Path
from omnipel.core.pictures.kept import packed
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.sheet import panel_drawing
from omnipel.core.pictures.unrolled import Unrolling, taken_apart
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import cover_sheets, uncovered, worn
from omnipel.core.tolerances import LONGEST
from omnipel.core.words.phrases import Voice
from omnipel.exchange.asked import NotExported, Order
from omnipel.exchange.export import DESPITE_STOP, MOST, exported
from omnipel.exchange.exports import EXPORTS
from tests.attack.documents import Report
from tests.attack.jobs import attacked

PLACES = np.linspace(0.1, 0.9, 9)
FEW = 12
"""Sheets of a pattern that are printed here; the others are only counted."""


def wrong_cut(panel: Panel) -> Iterator[str]:
    """What is wrong with a cut line: it is no simple ring, leaves some of the panel out, or holds less than an edge's allowance."""
    ring = cut_line(panel)
    if not np.isfinite(ring).all() or np.abs(ring).max() > 4.0 * LONGEST:
        yield "is not finite"
        return
    cut, sew = shapely.Polygon(ring), shapely.Polygon(panel.sew_points)
    if not cut.is_valid:
        yield "crosses itself"
        return
    if sew.difference(cut.buffer(1e-3)).area > 1e-3:
        yield "leaves some of the panel out"
    shapely.prepare(cut)
    for edge in panel.edges:
        deep = edge.finish.allowance
        if panel.mitred or not deep:
            continue
        for part in PLACES:
            (x, y), heading = edge.curve.at(float(part)), edge.curve.heading_at(float(part))
            far = shapely.Point(x + deep * math.sin(heading), y - deep * math.cos(heading))
            if shapely.distance(cut, far) > 0.05:
                yield f"holds less than {deep:.2f} at {part:.1f} of {edge.name}"
                break


def unfinite(drawing: Drawing) -> bool:
    """Whether a picture holds what is no number."""
    return any(isinstance(item, Path) and not np.isfinite(item.points).all() for item in drawing.items)


def wrong_pictures(drafted: Drafted, voice: Voice) -> Iterator[str]:
    """What is wrong with the pictures of a draft."""
    pictures = [panel_drawing(panel, voice, 5.0) for panel in drafted.panels]
    pictures.append(board(drafted.panels, voice, 5.0, 1.6).drawing)
    body, cover = drafted.body, drafted.cover
    rolls = [Unrolling(sheet) for sheet in cover_sheets(cover, plain=True) if sheet.flat]
    pictures += [
        drawn(worn(cover, body), View()),
        drawn(uncovered(body), View()),
        drawn(taken_apart(rolls, (), 0.8, View()), View()),
    ]
    for number, picture in enumerate(pictures):
        if unfinite(picture):
            yield f"picture {number} is not finite"
        if not packed(picture).startswith(b"K3"):
            yield f"picture {number} cannot be kept"


def wrong_papers(drafted: Drafted, voice: Voice) -> Iterator[str]:
    """What is wrong with what it is written as."""
    for export in (export for export in EXPORTS.values() if not export.because(drafted)):
        if export.id == "told":
            continue  # the same paper as the order of work
        order = Order(drafted, voice, "A0" if "A0" in export.papers else "A4")
        count = export.sheets(order) if export.sheets is not None else 1
        if FEW < count <= MOST:
            continue
        try:
            content = exported(export, order, DESPITE_STOP)
        except NotExported as error:
            if count <= MOST:
                yield f"{export.id}: {error}"
            continue
        if not content.startswith(export.begins):
            yield f"{export.id} begins with {content[:20]!r}"
        if export.id == "svg":
            words = [word for node in ElementTree.fromstring(content).iter() for word in node.attrib.values()]
            if any("nan" in word or "inf" in word.split() for word in words):
                yield "svg holds what is no number"
        if export.id == "json":
            json.loads(content, parse_constant=lambda word: (_ for _ in ()).throw(ValueError(word)))


def cloth(count: int, seed: int) -> Report:
    """Cut lines, pictures and papers of absurd jobs."""
    how, faults = Counter[str](), []
    for i in range(count):
        job = attacked(Random(seed * 1_000_003 + i))
        drafted, voice = draft(job), Voice(job.unit)
        if not isinstance(drafted, Drafted):
            how["not drafted"] += 1
            continue
        how["drafted"] += 1
        try:
            found = [f"{panel.name} {wrong}" for panel in drafted.panels for wrong in wrong_cut(panel)]
            found += [*wrong_pictures(drafted, voice), *wrong_papers(drafted, voice)]
        except Exception as error:
            found = [f"{type(error).__name__}: {error}"]
        faults += [f"cloth {i} of seed {seed}, {job.thing.form} {job.cover.scheme}: {wrong}" for wrong in found]
    return how, faults
