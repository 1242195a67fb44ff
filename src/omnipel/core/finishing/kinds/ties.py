"""Ties: of tape or of cloth, stitched on or caught in a seam, two facing each other at each place."""

from collections.abc import Iterator
from typing import Final

from omnipel.core.covers.options import count, length, pick
from omnipel.core.drafting.panel import MarkKind, Shows
from omnipel.core.drafting.shapes import even
from omnipel.core.finishing.fixing import STITCHED, Fixing, caught_or_stitched
from omnipel.core.finishing.kind import Kind, Lies, Put
from omnipel.core.finishing.kinds import hanging
from omnipel.core.finishing.kinds.directions import (
    as_tie,
    caught,
    caught_edge,
    caught_length,
    cross,
    mark_caught,
    other_seams,
    sliding,
)
from omnipel.core.finishing.kinds.rows import across_row, row_sizes
from omnipel.core.finishing.operation import Operation, Pace, Work, in_turn
from omnipel.core.finishing.placing import off_edges
from omnipel.core.job.finish import RAW
from omnipel.core.words.phrases import Rule, tr
from omnipel.core.words.working import worked

TAPE: Final = "tape"
CLOTH: Final = "cloth"


def ties(put: Put) -> None:
    """So many places, two ties at each."""
    places = across_row(put)
    long = put.length("long", tr("tie"))
    if put.picked("caught") == STITCHED:
        put.made.say(off_edges(put, "feature-off-panel"))
        for i, (x, y) in enumerate(places, 1):
            put.draw(f"{put.feature.name} {i}", cross(x, y), MarkKind.POINT, shows=Shows.NOTHING)
            put.hang(*hanging.ties(put, put.feature.name, hanging.here(put, x, y), put.number("long")))
        long = long + worked(tr("stitched down"), put.habit("anchor"))
    else:
        met = caught_edge(put, as_tie)
        if met is None:
            return
        edge, share = met
        run = put.host.edge(edge).curve.length
        for x, _ in places:
            at = mark_caught(put, edge, share + (x - places[:, 0].mean()) / run, put.habit("tie width"))
            put.hang(*hanging.ties(put, put.feature.name, hanging.at_edge(put, edge, at), put.number("long")))
        long = long + caught_length(put)
    n = 2 * len(places)
    if put.picked("of") == TAPE:
        put.buy(tr("tie tape"), long * float(n), size=put.habit("tie width"))
        return
    wide = worked(tr("four times its width"), put.habit("tie width")) * 4.0
    for _ in range(n):
        put.lay(even(f"tie of {put.feature.name}", wide, long, RAW))


def operations(f: Fixing) -> Iterator[Operation]:
    """Cloth ties are sewn first; all are basted to the edge, or stitched on."""
    return in_turn(_operations(f))


def _operations(f: Fixing) -> Iterator[Operation]:
    n = 2.0 * max(1.0, f.number("parts"))
    if f.picked("of") == CLOTH:
        words = tr("Fold and sew the ties of {feature}, one end turned in", feature=f.name)
        yield f.does("make", "make tie", words, Work(Pace.STRAIGHT, n * f.number("long")), Work(Pace.PIECE, n), on=())
    yield from caught_or_stitched(f)


TIES = Kind(
    key="ties",
    words=tr("ties"),
    about=tr("Two ties facing each other at each place: long enough for a bow, or for a knot."),
    lies=Lies.POINTS,
    put=ties,
    options=(
        caught(STITCHED),
        pick("of", tr("made of"), (TAPE, CLOTH), tr("Cloth is cut four times as wide as the tie.")),
        length("long", tr("each tie is long"), Rule(450.0, 18.0), tr("A bow takes 450 [18], a knot 250 [10]."), 20.0, 5000.0),
        count("parts", tr("places in a row"), 1, high=50),
    ),
    sizes=row_sizes,
    outline=across_row,
    usual=(Rule(300.0, 12.0), Rule(80.0, 3.0)),
    idle=sliding(as_tie),
    other_ways=other_seams,
    operations=operations,
)
