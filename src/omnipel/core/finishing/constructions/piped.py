"""Piped: a cord in a strip of cloth is caught in the seam. Its cord ends before a crossing seam, so that no needle meets it there."""

from collections.abc import Iterator

from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting import crosssection
from omnipel.core.finishing.constructions import plain
from omnipel.core.finishing.constructions.construction import Against, Construction, Joining
from omnipel.core.finishing.strips import TIGHTEST, piping
from omnipel.core.words.phrases import mm, tr


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
)
