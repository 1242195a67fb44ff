"""Piped: a cord in a strip of cloth is caught in the seam. Its cord ends before a crossing seam, so that no needle meets it there."""

from collections.abc import Iterator

from omnipel.core.covers.scheme import Hardware
from omnipel.core.finishing.constructions import plain
from omnipel.core.finishing.constructions.construction import Against, Construction, Joining
from omnipel.core.finishing.strips import piping_width, strip
from omnipel.core.words.phrases import mm, tr
from omnipel.core.words.working import worked

THICK = 1.0
"""Cloth thicker than this, mm, takes a wider strip around its cord."""
TIGHTEST = 4.0
"""A cord does not go around a bend of less than so many times its thickness."""


def goods(joining: Joining) -> Iterator[Hardware]:
    """The strip and the cord in it."""
    run, n, habits = joining.length, float(joining.times), joining.choices.habits
    wide = piping_width(joining.wide, joining.allowance, habits.mm("thick piping") if joining.thick > THICK else 0.0)
    what = tr("around the piping of {seam}", seam=joining.called)
    long = (run + worked(tr("end"), habits.mm("strip end")) * 2.0) * n
    yield strip(tr("piping strip"), long, wide, joining.bend, joining.choices.cloth.usable_width, what)
    cord = run if joining.ring else run - worked(tr("short of the crossing seam"), habits.mm("short of a seam")) * 2.0
    note = tr("{wide} thick, in {seam}", wide=mm(joining.wide, fine=True), seam=joining.called)
    yield Hardware(tr("piping cord"), cord * n, note=note)


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
)
