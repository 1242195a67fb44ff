"""Gathered and eased: one side is cut longer and drawn in to the other as it is sewn, by two rows in its allowance, or by the fingers."""

from collections.abc import Iterator
from dataclasses import replace
from typing import Final

from omnipel.core.drafting import crosssection
from omnipel.core.finishing.constructions import plain
from omnipel.core.finishing.constructions.construction import Against, Construction, Joining
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.finishing.stitching import Stitching, neatened, sewn, topstitched
from omnipel.core.tolerances import MOST_EASE, MOST_GATHERED
from omnipel.core.words.phrases import Phrase, Ratio, mm, term, tr

EASED: Final = 1.0 + MOST_EASE
"""Cloth is eased by no more than this; beyond it has to be gathered."""


def too_gathered(joining: Joining) -> Iterator[Against]:
    """The cloth does not gather so far."""
    limit = joining.choices.cloth.gather_limit
    yield from _beyond(
        joining, limit, tr("this cloth gathers {limit} at best, not {ratio}", limit=Ratio(limit), ratio=Ratio(joining.fuller))
    )


def too_eased(joining: Joining) -> Iterator[Against]:
    """More cannot be eased in without pleats."""
    yield from _beyond(
        joining, EASED, tr("{limit} can be eased in without pleats, not {ratio}", limit=Ratio(EASED), ratio=Ratio(joining.fuller))
    )


def _beyond(joining: Joining, limit: float, text: Phrase) -> Iterator[Against]:
    if joining.fuller > limit * (1.0 + 1e-9):
        yield Against(text, "fuller", limit)


def gathering(s: Stitching) -> Iterator[Operation]:
    """Two rows in the allowance, drawn up to the other side between quarter marks."""
    return in_turn(_gathering(s))


def _gathering(s: Stitching) -> Iterator[Operation]:
    side = s.seam.a
    mine = tuple(dict.fromkeys(run.piece for run in side))
    words = tr("Sew two gather rows inside the allowance of {piece}", piece=term(mine[0]))
    knot = (tr("knot the threads at one end; the under thread is pulled"),)
    yield replace(s.does("gather", "gather", words, Work(Pace.GATHERS, s.long * s.seam.ratio), notes=knot), on=mine, edges=side)
    words = tr("Mark quarters on both sides: {seam}", seam=s.called)
    yield s.does(
        "quarters",
        "quarters",
        words,
        Work(Pace.FIXED, 1.0),
        checks=(Check(tr("a quarter of the gathered side"), s.long * s.seam.ratio / 4.0),),
    )
    words = tr("Draw {piece} up to {long} and pin quarter on quarter", piece=term(mine[0]), long=mm(s.long))
    yield s.does("draw", "draw up", words, Work(Pace.PIN, float(s.pins)), checks=(Check(tr("drawn up"), s.long),))
    yield sewn(s)
    yield from neatened(s)
    yield from topstitched(s, s.seam.rows)


GATHERED = Construction(
    "gathered",
    tr("gathered"),
    tr("One side is cut longer and drawn in by two rows in its allowance: a frill, a full skirt."),
    plain.sides,
    section=crosssection.fuller,
    operations=gathering,
    against=too_gathered,
    fuller=(1.5, 1.05, MOST_GATHERED),
)
EASED_ON = Construction(
    "eased",
    tr("eased"),
    tr("One side is cut a little longer and eased in by the fingers, without a pleat."),
    plain.sides,
    section=crosssection.fuller,
    against=too_eased,
    fuller=(1.02, 1.0, 1.2),
)
