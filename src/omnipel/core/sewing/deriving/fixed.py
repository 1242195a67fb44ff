"""What is put on a cover, and what a scheme draws on its panels: openings, channels, ties, fasteners, pieces that lie on others."""

import math
from collections.abc import Iterator
from itertools import groupby
from typing import Any

import numpy as np
import shapely

from omnipel.core.drafting.panel import Cloth, Figure, MarkKind, Shows
from omnipel.core.finishing.facings import is_facing
from omnipel.core.finishing.fixing import Fixing, prepared, set_in_turn, sewn_on, touched
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.job.feature import Feature
from omnipel.core.job.findings import Impossible
from omnipel.core.plane.trace import polyline_length
from omnipel.core.sewing.making import Making
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, listed, term, tr


def of_features(making: Making) -> Iterator[Operation]:
    """Each as its kind says."""
    for feature in making.choices.features:
        kind, lying = KINDS.get(feature.kind), making.drafted.cover.lying.get(feature.id)
        if kind is None or lying is None:
            continue
        try:
            values = kind.values(feature, making.choices)
        except Impossible:
            continue
        yield from kind.operations(_fixing(making, feature, lying.piece, values))


def _fixing(making: Making, feature: Feature, host: str, values: dict[str, bool | float | str]) -> Fixing:
    parts = {name: making.flat[name] for name, piece in making.pieces.items() if piece.feature == feature.id}
    drawn = {name: [f for f in making.flat[name].figures if f.feature == feature.id] for name in making.pieces}
    hosts = tuple(name for name, found in drawn.items() if found and name not in parts) or (host,)
    figures = tuple(figure for name in hosts for figure in drawn[name])
    return Fixing(
        feature=feature,
        values=values,
        ref=refs.feature(feature.id),
        host=host,
        parts=parts,
        figures=figures,
        choices=making.choices,
        in_edge=in_edge(making, host, tuple(drawn[host])),
        hosts=hosts,
    )


def in_edge(making: Making, piece: str, figures: tuple[Figure, ...]) -> str:
    """The opening in whose folded edge points of a piece lie; "" for none."""
    points = [tuple(figure.points.mean(axis=0)) for figure in figures if figure.kind is MarkKind.POINT and len(figure.points)]
    if not points:
        return ""
    for edge in making.edges:
        for run in edge.runs:
            finish = making.edge(run).finish
            if run.piece == piece and finish.folded:
                line = shapely.LineString(making.edge(run).curve.points(0.5))
                if min(line.distance(shapely.Point(point)) for point in points) <= finish.folded:
                    return edge.name
    return ""


def of_figures(making: Making) -> Iterator[Operation]:
    """What the scheme draws on each panel: openings cut and bound, lines stitched, ties and fasteners."""
    for piece in making.surface:
        drawn = [figure for figure in making.figures(piece) if figure.holds != "seam"]
        if making.flat[piece].cloth is Cloth.OUTER:
            yield from _openings(making, piece, [f for f in drawn if f.seen is Shows.EDGE])
            yield from _lines(making, piece, [f for f in drawn if f.seen is Shows.STITCHES])
            yield from _points(making, piece, [f for f in drawn if f.seen is Shows.FASTENER])


def _does(key: str, deed: str, words: Phrase, piece: str, *work: Work, **more: Any) -> Operation:
    return Operation(key=key, deed=deed, words=words, ref=refs.panel(piece), on=(piece,), work=work, **more)


def _openings(making: Making, piece: str, figures: list[Figure]) -> Iterator[Operation]:
    for figure in figures:
        name, long = term(figure.name), _length(figure)
        across = (
            Check(tr("{opening}, across", opening=name), float(np.ptp(figure.points[:, 0])))
            if figure.closed
            else Check(name, long)
        )
        words = tr("Cut the {opening} in {piece}", opening=name, piece=term(piece))
        work = (Work(Pace.SHEARS, long), Work(Pace.FIXED, 1.0))
        yield _does(f"figure:{piece}/{figure.name}/open", "open", words, piece, *work, checks=(across,))
    if figures:
        around = math.fsum(_length(f) * (1.0 if f.closed else 2.0) for f in figures)
        inside = Pace.BINDING_INSIDE if any(f.closed for f in figures) else Pace.BINDING
        told = tr("Bind the edge of {openings}", openings=listed((term(figure.name) for figure in figures), ", "))
        yield _does(f"figure:{piece}/openings/bind", "bind opening", told, piece, Work(inside, around))


def _length(figure: Figure) -> float:
    return polyline_length(np.vstack((figure.points, figure.points[:1])) if figure.closed else figure.points)


def _lines(making: Making, piece: str, figures: list[Figure]) -> Iterator[Operation]:
    channel = [figure for figure in figures if figure.holds == "ribbon"]
    if channel:
        words = tr("Stitch the channel for the {goods} on {piece}", goods=term(channel[0].holds), piece=term(piece))
        long = math.fsum(_length(figure) for figure in channel)
        yield _does(f"figure:{piece}/channel", "stitch line", words, piece, Work(Pace.TOPSTITCH, long), Work(Pace.PIECE, 1.0))
    for figure in figures:
        if figure.holds == "tie":
            words = tr(
                "Baste the {goods} to the closing edge of {piece}, at its line", goods=term(figure.name), piece=term(piece)
            )
            yield _does(f"figure:{piece}/{figure.name}", "baste part", words, piece, Work(Pace.FIXED, 1.5))
        elif not figure.holds:
            words = tr("Stitch the {line} on {piece}", line=term(figure.name), piece=term(piece))
            yield _does(f"figure:{piece}/{figure.name}", "stitch line", words, piece, Work(Pace.TOPSTITCH, _length(figure)))


def _points(making: Making, piece: str, figures: list[Figure]) -> Iterator[Operation]:
    ties = [figure for figure in figures if figure.holds == "tie"]
    if ties:
        words = tr("Baste the ties to the edges of {piece} at their marks", piece=term(piece))
        inward = (tr("they lie on the right side and point inward"),)
        yield _does(f"figure:{piece}/ties", "baste part", words, piece, Work(Pace.FIXED, 1.0 * len(ties)), notes=inward)
    for kind, alike in groupby((f for f in figures if f.holds != "tie"), key=lambda f: f.name.rstrip("0123456789 ")):
        points = list(alike)
        yield from _fasteners(making, piece, kind, points)


def _fasteners(making: Making, piece: str, kind: str, points: list[Figure]) -> Iterator[Operation]:
    """Fasteners that the scheme sets along an edge: patches first, corners, halves, the rest; studs on the object for snaps."""
    bought = {str(item.name) for item in making.goods}
    feature = Feature(kind="snaps", name=piece, id="")
    where = in_edge(making, piece, tuple(points))
    if kind == "tie":
        words = tr("Sew the ties of {piece} on at their marks", piece=term(piece))
        yield _does(f"figure:{piece}/ties", "sew on", words, piece, Work(Pace.FIXED, 2.0 * len(points)), opening=where)
        return
    if "backing patches" in bought:
        words = tr("Tape a backing patch under every {kind} of {piece}", kind=term(kind), piece=term(piece))
        yield _does(f"figure:{piece}/patches", "score part", words, piece, Work(Pace.FIXED, 0.5 * len(points)))
    holder = Fixing(
        feature=feature,
        values={},
        ref=refs.panel(piece),
        host=piece,
        parts={},
        figures=tuple(points),
        choices=making.choices,
        in_edge=where,
        begins=f"figure:{piece}/{kind}",
    )
    goods = term(kind if kind.endswith("s") else f"{kind}s")
    yield from set_in_turn(holder, goods, len(points), around=True, on_object=kind == "snap", flat=False)


def of_parts(making: Making) -> Iterator[Operation]:
    """Pieces of a scheme that lie on others: their edges, what holds them, then sewn on."""
    touch = any(str(item.name) == "hook-and-loop" for item in making.goods)
    for piece in making.pieces.values():
        panel = making.flat[piece.name]
        if not piece.on or piece.feature or panel.cloth is not Cloth.OUTER or is_facing(panel):
            continue
        holder = Fixing(
            feature=Feature(kind="flap", name=piece.name, id=""),
            values={},
            ref=refs.panel(piece.panel),
            host=making.host(piece),
            parts={piece.name: making.flat[piece.name]},
            figures=(),
            choices=making.choices,
            begins=f"piece:{piece.name}",
        )
        yield from in_turn(_part(holder, piece.name, touch=touch))


def _part(f: Fixing, piece: str, *, touch: bool) -> Iterator[Operation]:
    yield from prepared(f, piece)
    if touch:
        yield from touched(f, piece)
    yield sewn_on(f, piece, tr("Sew {part} on to {host}", part=term(piece), host=f.on))
