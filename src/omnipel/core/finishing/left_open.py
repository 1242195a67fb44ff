"""Seams that are left open from … to …: both sides are parted there and turned back, and what was a seam is an opening."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.parting import edges_parted, seams_parted
from omnipel.core.drafting.patterns import regrouped
from omnipel.core.drafting.pieces import named
from omnipel.core.drafting.seams import Run, Seam, Way
from omnipel.core.drafting.walking import walk
from omnipel.core.finishing.refitted import refitted
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.finish import Finish, single_hem
from omnipel.core.job.joining import SeamChoice
from omnipel.core.space.frames import Solid
from omnipel.core.tolerances import SAME_POINT
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, tr
from omnipel.core.words.refs import Ref

STITCH = 2.0
"""Nothing shorter than this is sewn, mm."""
LEAST_SHARE = 2e-4
"""Nor so small a share of a seam: shares are known no finer where two sides differ by what is eased."""
LEVEL = 1.0
"""Two ends of a seam that lie no further apart than this in height, mm, are level."""


@dataclass(frozen=True, slots=True)
class Beginning:
    """Where one measures along a seam from: whether that is the end of its first side, and how it is called."""

    turned: bool
    words: Phrase


def begins(cover: Cover, seam: Seam) -> Beginning:
    """A seam is measured from its upper end; a level one from its left end seen from the front, or from its front end; a ring from its first mark."""
    if seam.ring:
        return Beginning(turned=False, words=tr("from its first mark"))
    ends = walk(seam.a, named(cover.pieces), cover.flat, np.array((0.0, 1.0)))
    (x, y, z), (end_x, end_y, end_z) = ends
    if abs(z - end_z) > LEVEL:
        return Beginning(turned=bool(end_z > z), words=tr("from its upper end"))
    if abs(x - end_x) > LEVEL:
        return Beginning(turned=bool(end_x < x), words=tr("from its left end"))
    return Beginning(turned=bool(end_y < y), words=tr("from its front end"))


def sewn_length(cover: Cover, seam: Seam) -> float:
    """How long a seam is when it is sewn, mm: what is gathered is as long as what it is gathered onto."""
    return math.fsum(cover.flat[run.piece].edge(run.edge).curve.length for run in seam.a) / seam.ratio


def measured(cover: Cover, seam: Seam, count: int = 241) -> tuple[NDArray[np.float64], Solid]:
    """A seam as a person measures it: lengths from where that begins, `(n,)`, mm, and the places there in space, `(n, 3)`."""
    shares = np.linspace(0.0, 1.0, count)
    places = walk(seam.a, named(cover.pieces), cover.flat, shares)
    return shares * sewn_length(cover, seam), places[::-1] if begins(cover, seam).turned else places


def left_open(cover: Cover, choices: CoverChoices, name: str) -> Cover:
    """The cover with all seams of a name left open as decided."""
    chosen = choices.seams.get(name, SeamChoice())
    if chosen.left_open <= 0.0:
        return cover
    opened = [seam for seam in cover.seams if seam.name == name]
    stretches = [_stretch(cover, seam, chosen) for seam in opened]
    cover = _parted_at(cover, opened, stretches)
    now = iter(seam for seam in cover.seams if seam.name == name)
    made: dict[int, tuple[list[Seam], tuple[Run, ...]]] = {}
    for stretch in stretches:
        seam = next(now)
        made[id(seam)] = _opened(cover, seam, stretch)
    seams: list[Seam] = []
    openings, slits = dict(cover.openings), list(cover.slits)
    wanted: dict[str, dict[str, tuple[Finish, Ref | None]]] = {}
    for seam in cover.seams:
        if id(seam) not in made:
            seams.append(seam)
            continue
        closed, free = made[id(seam)]
        seams += closed
        if free:
            called = next(
                n for n in (f"{name}, left open", *(f"{name}, left open {k}" for k in range(2, 300))) if n not in openings
            )
            openings[called] = free[0]
            slits.append(called)
        for run in free:
            back = single_hem(cover.flat[run.piece].edge(run.edge).finish.width)
            wanted.setdefault(run.piece, {})[run.edge] = (back, refs.seam(name, "allowance"))
    return refitted(replace(cover, seams=tuple(seams), openings=openings, slits=tuple(slits)), wanted)


def _stretch(cover: Cover, seam: Seam, chosen: SeamChoice) -> tuple[float, float]:
    """The stretch left open, as shares of the first side's length; what would leave less than a stitch up to a corner goes on to it."""
    whole = sewn_length(cover, seam)
    begin, end = (min(at, whole) / whole for at in (chosen.open_from, chosen.open_to))
    begin, end = (1.0 - end, 1.0 - begin) if begins(cover, seam).turned else (begin, end)
    ways = [Way(side, cover.flat) for side in seam.sides]
    corners = np.array([0.0, 1.0, *(at / way.ends[-1] for way in ways for at in way.ends)])

    def led(at: float) -> float:
        nearest = float(corners[np.abs(corners - at).argmin()])
        return nearest if abs(nearest - at) < max(STITCH / whole, LEAST_SHARE) else at

    first, last = led(begin), led(end)
    if first < last or begin >= end:
        return first, last
    return (first, end) if end > first else (begin, last)  # all of it is that short


def _parted_at(cover: Cover, seams: list[Seam], stretches: list[tuple[float, float]]) -> Cover:
    """The cover with the edges on both sides of seams parted where they are left open."""
    cuts: dict[str, dict[str, set[float]]] = {}
    for seam, stretch in zip(seams, stretches, strict=True):
        for side in seam.sides:
            way = Way(side, cover.flat)
            for at in stretch:
                run, fraction = way.locate(at)
                if 1e-6 < fraction < 1.0 - 1e-6:
                    cuts.setdefault(run.piece, {}).setdefault(run.edge, set()).add(round(fraction, 9))
    sorts = {piece: tuple((edge, tuple(sorted(at))) for edge, at in sorted(mine.items())) for piece, mine in cuts.items()}
    names = {
        (piece, edge): parts
        for piece, sort in sorts.items()
        for edge, parts in edges_parted(cover.flat[piece], dict(sort))[1].items()
    }
    panels, pieces = regrouped(
        cover.panels,
        cover.pieces,
        lambda piece: sorts.get(piece.name, ()),
        lambda panel, sort: edges_parted(panel, dict(sort))[0],
    )
    return replace(cover, panels=panels, pieces=pieces, seams=seams_parted(cover.seams, names))


def _opened(cover: Cover, seam: Seam, stretch: tuple[float, float]) -> tuple[list[Seam], tuple[Run, ...]]:
    """A seam as what stays of it before and beyond the stretch, and the free edges of the stretch."""
    sides = []
    for side in seam.sides:
        way = Way(side, cover.flat)
        shares = [end / way.ends[-1] for end in way.ends]
        where = [_place((begin + end) / 2.0, stretch) for begin, end in zip([0.0, *shares], shares, strict=False)]
        sides.append([tuple(run for run, at in zip(side, where, strict=True) if at == k) for k in range(3)])
    (before_a, open_a, beyond_a), (before_b, open_b, beyond_b) = sides
    around = (*beyond_a, *before_a), (*beyond_b, *before_b)  # of a ring, what is beyond runs on into what is before
    pairs = [around] if seam.ring else [(before_a, before_b), (beyond_a, beyond_b)]
    whole, (begin, end) = sewn_length(cover, seam), stretch
    spans = [(end, 1.0 + begin)] if seam.ring else [(0.0, begin), (end, 1.0)]
    kept = [
        replace(
            seam,
            name=seam.name if k == 0 else f"{seam.name}, beyond",
            whole=seam.name,
            a=a,
            b=b,
            ring=False,
            easier="",
            stretch=_left_of(seam.stretch, span, whole),
        )
        for k, ((a, b), span) in enumerate((pair, span) for pair, span in zip(pairs, spans, strict=True) if pair[0] and pair[1])
    ]
    return kept, (*open_a, *open_b)


def _place(at: float, stretch: tuple[float, float]) -> int:
    """Whether a share lies before (0), in (1) or beyond (2) a stretch."""
    return 0 if at < stretch[0] else 1 if at < stretch[1] else 2


def _left_of(stretch: tuple[float, float] | None, span: tuple[float, float], whole: float) -> tuple[float, float] | None:
    """What is left of a construction's stretch, mm along the whole seam, in a part of it that lies between two shares, as mm along that part.

    A ring's part may run over its beginning; of two stretches that this leaves the longer is kept.
    """
    if stretch is None:
        return None
    begin, end = span[0] * whole, span[1] * whole
    found = [
        (max(begin, low) - begin, min(end, high) - begin) for low, high in (stretch, (stretch[0] + whole, stretch[1] + whole))
    ]
    low, high = max(found, key=lambda run: run[1] - run[0])
    if low <= SAME_POINT and high >= end - begin - SAME_POINT:
        return None  # all along this part
    return (low, high) if high > low else (0.0, 0.0)
