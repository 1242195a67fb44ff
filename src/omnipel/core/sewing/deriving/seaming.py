"""How seams are sewn: as their construction says, or as their scheme joins them; boxed corners; what is caught in a seam."""

from collections.abc import Iterator
from dataclasses import replace
from typing import Any, Final

from omnipel.core.drafting.panel import Cloth, MarkKind
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.finishing.constructions import CONSTRUCTIONS
from omnipel.core.finishing.constructions.fuller import gathering
from omnipel.core.finishing.operation import After, Check, Operation, Pace, Work, in_turn
from omnipel.core.finishing.stitching import BENT, Stitching, neatened, plainly, pressed, sewn
from omnipel.core.job.document import Iron
from omnipel.core.plane.curves import Arc
from omnipel.core.sewing.making import Making
from omnipel.core.tolerances import CORNER_ANGLE
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, listed, term, tr

EARS: Final = 25.0
"""An ear of a boxed corner is cut off so far from its stitches, mm, or as the allowance is."""


def of_seams(making: Making) -> Iterator[Operation]:
    """All seams but those in which outer and lining meet, and pieces whose boxed corners are drawn on them."""
    for i, seam in enumerate(making.seams):
        if i in making.meeting:
            continue
        stitching = making.stitching(i)
        if seam.onto:
            yield _caught(making, stitching)
        elif seam.kind == SeamKind.BOXED or _folded(making, seam):
            yield from _boxed(stitching)
        else:
            yield from joined(making, stitching)
    for name in making.surface:
        yield from _drawn_boxes(making, name)


def of_curves(making: Making) -> Iterator[Operation]:
    """Inward curves that a seam will pull at are staystitched while their panels are flat: cut across the threads they stretch."""
    runs = [
        Run(piece, edge.name)
        for piece in making.surface
        for edge in making.flat[piece].edges
        if (piece, edge.name) in making.in_seam and isinstance(edge.curve, Arc) and edge.curve.curvature < -1.0 / BENT
    ]
    if runs and making.choices.cloth.frays:
        pieces = tuple(dict.fromkeys(run.piece for run in runs))
        words = tr(
            "Staystitch the inward curves of {pieces}, just inside the stitch line", pieces=listed(term(name) for name in pieces)
        )
        work = (Work(Pace.CURVED, making.long(runs)), Work(Pace.PIECE, float(len(pieces))))
        ref = refs.panel(making.pieces[pieces[0]].panel)
        yield Operation(key="curves/staystitch", deed="staystitch", words=words, ref=ref, on=pieces, edges=tuple(runs), work=work)


def joined(making: Making, s: Stitching) -> Iterator[Operation]:
    """As its construction says, or as its scheme joins it."""
    known = CONSTRUCTIONS.get(str(s.seam.kind))
    gaps = tuple(_gaps(making, s))
    steps = known.operations(s) if known is not None else _scheme(s)
    for step in steps:
        own = step
        if step.seams and gaps:
            own = replace(step, notes=(*step.notes, *gaps))
        if making.pieces[s.on[0]].name.startswith("lining ") and step.seams:
            own = replace(own, notes=(*own.notes, tr("a little nearer to the raw edge than the outer: it lies looser")))
        yield own


def _scheme(s: Stitching) -> Iterator[Operation]:
    """What a scheme joins in a way of its own: a zip round a ring, a lap, halves gathered onto a base."""
    if s.seam.kind == SeamKind.ZIP:
        return CONSTRUCTIONS["zipped"].operations(s)
    if s.seam.ratio != 1.0:
        return gathering(s)
    return plainly(s)


def _gaps(making: Making, s: Stitching) -> Iterator[Phrase]:
    """What stays open of it: the end at a casing with its cord in it, the gap that a lining is turned through, an opening for a handle."""
    for edge in making.corded.get(s.number, ()):
        yield tr("stop at the casing of {edge}, and lock the end: never across its cord", edge=term(edge.name))
    for side in s.seam.sides:
        for run in side:
            panel = making.flat[run.piece]
            marks = [
                notch
                for notch in panel.notches
                if notch.edge == run.edge and notch.kind is MarkKind.POINT and notch.label == "gap"
            ]
            if marks and panel.cloth is Cloth.LINING:
                yield tr("leave the marked gap open, and lock the stitches at both its ends")
                return
            if (
                any(figure.name.startswith("handle opening") for figure in panel.figures)
                and run.edge.endswith("half")
                and run.piece.startswith("upper")
            ):
                yield tr("leave it open where the handle comes through, as marked")
                return


def _caught(making: Making, s: Stitching) -> Operation:
    """What only hangs in a seam is basted to one side of it before that is sewn: to the straight one."""
    there = s.seam.b[0]
    seams = [k for k in making.in_seam.get((there.piece, there.edge), ()) if k != s.number and not making.seams[k].onto]
    host, along = there.piece, s.seam.b
    for k in seams:
        sides = making.seams[k].sides
        other = next((side for side in sides if all(run.piece != there.piece for run in side)), None)
        if other is not None and making.straight(other) and not making.straight(s.seam.b) and other[0].piece != s.seam.a[0].piece:
            host, along = other[0].piece, other
    hangs = s.seam.a[0].piece
    words = tr("Baste {piece} to {host} along the edge that the seam will catch", piece=term(hangs), host=term(host))
    checks = (Check(tr("both edges are as long"), s.long),)
    side = (tr("right sides as they hang when it is worn; inside the allowance"),)
    work = (Work(Pace.PIN, float(s.pins)), s.sewn(Pace.STRAIGHT))
    return s.does(
        "catch", "catch", words, *work, on=(host, hangs), edges=(*along, *s.seam.a), seams=(s.number,), checks=checks, notes=side
    )


def _folded(making: Making, seam: Seam) -> bool:
    """Whether a seam joins two edges of one piece that meet in a corner cut out of it: a box is folded there."""
    if len(seam.a) != 1 or len(seam.b) != 1 or seam.a[0].piece != seam.b[0].piece:
        return False
    panel = making.flat[seam.a[0].piece]
    names = [edge.name for edge in panel.edges]
    one, other = names.index(seam.a[0].edge), names.index(seam.b[0].edge)
    first = next((i for i, k in ((one, other), (other, one)) if (i + 1) % len(names) == k), None)
    return first is not None and panel.turn_after(first) > CORNER_ANGLE


def _boxed(s: Stitching) -> Iterator[Operation]:
    """Folded so that both edges meet, sewn square to the fold; tried before the ear is cut off, where there is one."""
    return in_turn(_box(s))


def _box(s: Stitching) -> Iterator[Operation]:
    fold = tr("Fold {corner} so that its two edges meet, and pin it", corner=s.called)
    yield s.does("fold", "mark boxed", fold, Work(Pace.PIN, 3.0), checks=(Check(tr("stitch line, square to the fold"), s.long),))
    yield replace(sewn(s, "sew boxed", tr("Sew {corner}", corner=s.called)), work=(Work(Pace.BOXED, 1.0),))
    if s.seam.kind == SeamKind.BOXED:
        words = tr("Cut the ear of {corner} off", corner=s.called)
        yield s.does("cut off", "cut boxed", words, Work(Pace.FIXED, 0.7), cautions=("blades",))
        for neat in neatened(s):
            yield replace(neat, deed="neaten boxed")
        return
    yield from neatened(s)
    yield pressed(s)


def _drawn_boxes(making: Making, piece: str) -> Iterator[Operation]:
    """Boxed corners that are drawn on a piece, not cut out of it."""
    corners = [figure for figure in making.figures(piece) if figure.kind is MarkKind.BOXED]
    if not corners:
        return
    key, ref, name = f"boxed:{piece}", refs.panel(making.pieces[piece].panel), term(piece)
    n = float(len(corners))
    wide = max(float((figure.points.max(axis=0) - figure.points.min(axis=0)).max()) for figure in corners)

    def does(action: str, deed: str, words: Phrase, work: Work, after: str = "", **more: Any) -> Operation:
        why = (After(f"{key}/{after}", tr("the corner is folded, sewn, tried, cut in this order")),) if after else ()
        return Operation(key=f"{key}/{action}", deed=deed, words=words, ref=ref, on=(piece,), work=(work,), after=why, **more)

    ends = tuple(
        After(f"{making.keys[i]}/sew", tr("the ends are sewn before they are boxed"))
        for i in making.joined_at.get(piece, ())
        if i not in making.meeting and making.seams[i].kind not in (SeamKind.ZIP, "zipped")
    )
    fold = does(
        "fold",
        "mark boxed",
        tr("Fold the boxed corners of {piece} flat, seam on seam, and pin them", piece=name),
        Work(Pace.PIN, 3.0 * n),
    )
    yield replace(fold, after=ends, checks=(Check(tr("stitch line, square to the fold"), wide),))
    yield does("sew", "sew boxed", tr("Sew the boxed corners of {piece}", piece=name), Work(Pace.BOXED, n), "fold")
    cut = tr("Cut the ears of {piece} off, an allowance from the stitches", piece=name)
    yield does("cut off", "cut boxed", cut, Work(Pace.FIXED, 0.7 * n), "sew", cautions=("blades",))
    if making.choices.cloth.frays and making.choices.cloth.iron is not Iron.NEVER:
        yield does(
            "neaten",
            "neaten boxed",
            tr("Neaten the boxed corners of {piece}", piece=name),
            Work(Pace.NEATENING, wide * n),
            "cut off",
        )
