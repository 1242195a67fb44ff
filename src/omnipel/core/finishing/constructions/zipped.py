"""Zipped: a zip instead of a row of stitches. Each side gives up half of the teeth that show."""

from collections.abc import Iterator
from dataclasses import replace

from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting import crosssection
from omnipel.core.finishing.constructions.construction import Against, Construction, Joining
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.finishing.stitching import Stitching, topstitched
from omnipel.core.job.finish import Finish, seam
from omnipel.core.words.phrases import mm, term, tr
from omnipel.core.words.working import worked

TIGHTEST = 60.0
"""A zip's slider does not run around a bend of less than this radius, mm."""
LEAST = 6.0
"""What has to be left to sew the tape to, mm."""


def sides(joining: Joining) -> tuple[Finish, Finish]:
    """The zip's allowance, less half of the teeth that show."""
    allowance = max(0.0, joining.allowance - joining.wide / 2.0)
    return seam(allowance), seam(allowance)


def goods(joining: Joining) -> Iterator[Hardware]:
    """A zip as long as its edge; around a ring longer by its ends."""
    habits = joining.choices.habits
    end = (
        worked(tr("end beyond the ring"), habits.mm("zip end"))
        if joining.ring
        else worked(tr("short of the end"), -habits.mm("short of a seam"))
    )
    note = tr("in {seam}, tape {tape} wide", seam=joining.called, tape=mm(habits.mm("zip tape")))
    if joining.wide:
        note = tr("{note}, {teeth} of it show", note=note, teeth=mm(joining.wide))
    yield Hardware(tr("zip"), (joining.length + end * 2.0) * float(joining.times), note=note)


def against(joining: Joining) -> Iterator[Against]:
    """A slider that jams, and tapes that cannot be sewn on."""
    if joining.bend < TIGHTEST:
        yield Against(tr("its slider jams in a bend of {bend}", bend=mm(joining.bend)))
    if joining.allowance - joining.wide / 2.0 < LEAST:
        text = tr("only {left} are left to sew its tape to", left=mm(max(0.0, joining.allowance - joining.wide / 2.0)))
        yield Against(text, "allowance", joining.choices.habits.system.up(LEAST + joining.wide / 2.0))


def operations(s: Stitching) -> Iterator[Operation]:
    """The zip is set in to one side, then to the other, while both are flat."""
    return in_turn(_operations(s))


def _operations(s: Stitching) -> Iterator[Operation]:
    one, other = (tuple(dict.fromkeys(run.piece for run in side)) for side in (s.seam.b, s.seam.a))
    baste = tr("Tape the zip to {piece}, right sides together", piece=term(one[0]))
    pull = Check(tr("the slider runs from end to end"))
    yield replace(s.does("pin", "lap", baste, Work(Pace.PIN, float(s.pins))), on=one, edges=s.seam.b)
    first = tr("Sew the zip to {piece}", piece=term(one[0]))
    yield replace(s.does("first", "set in zip", first, Work(Pace.ZIP, s.long / 2.0)), on=one, edges=s.seam.b)
    second = tr("Sew the other tape to {piece}: {seam}", piece=term(other[0]), seam=s.called)
    yield s.does(
        "sew",
        "set in zip",
        second,
        Work(Pace.ZIP, s.long / 2.0),
        seams=(s.number,),
        checks=(pull, Check(tr("sewn length"), s.long)),
    )
    yield from topstitched(s, s.seam.rows, tr("Topstitch beside the zip: {seam}", seam=s.called))


CONSTRUCTION = Construction(
    "zipped",
    tr("zipped"),
    tr("A zip joins both sides: opens without a slit in the cloth."),
    sides,
    goods,
    against,
    wide=tr("teeth that show"),
    stretches=True,
    rows=1,
    section=crosssection.zipped,
    operations=operations,
)
