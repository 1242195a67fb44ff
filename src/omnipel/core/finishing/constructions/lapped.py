"""Lapped: one cloth on the other, the sew line in the middle of the overlap; for coated cloth, which does not fray."""

from collections.abc import Iterator
from dataclasses import replace

from omnipel.core.drafting import crosssection
from omnipel.core.finishing.constructions.construction import Against, Construction, Joining
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.finishing.stitching import Stitching, sewn, topstitched
from omnipel.core.job.finish import Finish, seam
from omnipel.core.words.phrases import mm, tr, trn


def sides(joining: Joining) -> tuple[Finish, Finish]:
    """Half the overlap on each side, and a little beyond the stitches above."""
    return seam(joining.wide / 2.0 + joining.choices.habits.mm("lap beyond")), seam(joining.wide / 2.0)


def against(joining: Joining) -> Iterator[Against]:
    """Cloth that frays has a raw edge on the outside."""
    if joining.choices.cloth.frays:
        yield Against(tr("its edges stay raw and this cloth frays: hot-cut it, or fold it under"))


def operations(s: Stitching) -> Iterator[Operation]:
    """Laid one on the other and stitched in rows; nothing is turned."""
    return in_turn(_operations(s))


def _operations(s: Stitching) -> Iterator[Operation]:
    lap = tr("Lap {seam} by {wide} and tape or baste it", seam=s.called, wide=mm(s.seam.wide))
    yield s.does("pin", "lap", lap, Work(Pace.PIN, float(s.pins)), checks=(Check(tr("overlap"), s.seam.wide),))
    rows = max(1, s.seam.rows)
    words = trn("Sew the lap in {n} row: {seam}", "Sew the lap in {n} rows: {seam}", rows, seam=s.called)
    yield replace(sewn(s, words=words), work=(Work(Pace.PIECE, float(len(s.on))), s.sewn(s.pace, float(rows))))
    yield from topstitched(s, 0)


CONSTRUCTION = Construction(
    "lapped",
    tr("lapped"),
    tr("One cloth on the other, stitched twice: for coated cloth and tapes."),
    sides,
    against=against,
    wide=tr("overlap"),
    habit="overlap",
    rows=2,
    section=crosssection.lapped,
    operations=operations,
)
