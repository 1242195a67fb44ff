"""Piped: a cord in a strip of cloth is caught in the seam. Its cord ends before a crossing seam, so that no needle meets it there."""

from collections.abc import Iterator
from dataclasses import replace

from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting import crosssection
from omnipel.core.finishing.constructions import plain
from omnipel.core.finishing.constructions.construction import Against, Construction, Joining
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.finishing.stitching import Stitching, neatened, pinned, pressed, sewn, topstitched
from omnipel.core.finishing.strips import TIGHTEST, piping
from omnipel.core.words.phrases import mm, term, tr


def goods(joining: Joining) -> Iterator[Hardware]:
    """The strip and the cord in it."""
    times, ends = joining.times, 0 if joining.ring else 2
    run = joining.length * float(times)
    yield from piping(run, joining.wide, joining.allowance, joining.bend, ends * times, joining.choices, joining.called)


def against(joining: Joining) -> Iterator[Against]:
    """The cord is too thick for the bend, or the allowance too narrow for the strip."""
    if joining.bend < TIGHTEST * joining.wide:
        text = tr("a cord of {wide} does not go around a bend of {bend}", wide=mm(joining.wide, fine=True), bend=mm(joining.bend))
        yield Against(text, "wide", joining.choices.habits.system.down(joining.bend / TIGHTEST))
    if joining.length.value <= 2.0 * joining.choices.habits.mm("short of a seam"):
        yield Against(tr("nothing is left of the cord in a run of {run}", run=mm(joining.length.value)))


def operations(s: Stitching) -> Iterator[Operation]:
    """The piping is made and basted to one side while that is flat; then both are sewn close to the cord."""
    return in_turn(_operations(s))


def _operations(s: Stitching) -> Iterator[Operation]:
    begin, end = s.seam.stretch or (0.0, s.long)
    run = end - begin
    words = tr("Make the piping for {seam}: cord in its strip, stitched close", seam=s.called)
    yield replace(
        s.does("piping", "make piping", words, Work(Pace.STRAIGHT, run), checks=(Check(tr("piping is long enough"), run),)),
        on=(),
        edges=(),
    )
    side = s.seam.b
    free = (
        () if s.seam.ring else (tr("pull the cord back and cut it off where another seam crosses, so that no needle meets it"),)
    )
    baste = tr("Baste the piping to {piece}, raw edges together", piece=term(side[0].piece))
    cord = Check(tr("cord ends free of the crossing seam")) if free else Check(tr("its ends meet without a gap"))
    yield replace(s.does("baste", "baste piping", baste, Work(Pace.CURVED if s.bent else Pace.STRAIGHT, run), checks=(cord,), notes=free),
                  on=tuple(dict.fromkeys(r.piece for r in side)), edges=side)  # fmt: skip
    yield from pinned(s)
    yield sewn(s, "sew piped", tr("Sew {seam} close to the cord", seam=s.called))
    yield from neatened(s)
    yield pressed(s)
    yield from topstitched(s, s.seam.rows)


CONSTRUCTION = Construction(
    "piped",
    tr("piped"),
    tr("A cord in a strip marks the edge and stiffens it; it stops short of a crossing seam."),
    plain.sides,
    goods,
    against,
    wide=tr("cord diameter"),
    habit="piping",
    stretches=True,
    section=crosssection.piped,
    operations=operations,
)
