"""Felled: turned to one side and stitched down, with both allowances as wide (semi-flat), or the lower one trimmed to half and folded in (flat)."""

from collections.abc import Iterator

from omnipel.core.drafting import crosssection
from omnipel.core.finishing.constructions import plain
from omnipel.core.finishing.constructions.construction import Against, Construction, Joining
from omnipel.core.finishing.operation import Operation, Pace, Work, in_turn
from omnipel.core.finishing.stitching import Stitching, pinned, pressed, sewn, topstitched
from omnipel.core.job.finish import Finish, seam
from omnipel.core.words.phrases import mm, tr

NARROWEST = 8.0
"""A flat-felled seam whose wider allowance is less than this cannot be folded in, mm."""


def flat_sides(joining: Joining) -> tuple[Finish, Finish]:
    """The second side half as wide."""
    return seam(joining.allowance), seam(joining.allowance / 2.0)


def against_flat(joining: Joining) -> Iterator[Against]:
    """Too narrow to fold in."""
    if joining.allowance < NARROWEST:
        text = tr("an allowance of {allowance} is too narrow to fold in", allowance=mm(joining.allowance))
        yield Against(text, "allowance", joining.choices.habits.system.up(NARROWEST))


def semi_flat(s: Stitching) -> Iterator[Operation]:
    """Sewn, both allowances to one side, stitched through from the right side."""
    return in_turn(_semi_flat(s))


def _semi_flat(s: Stitching) -> Iterator[Operation]:
    yield from pinned(s)
    yield sewn(s)
    yield pressed(s, tr("both allowances to one side"))
    yield from topstitched(s, max(1, s.seam.rows), tr("Stitch the allowances down: {seam}", seam=s.called))


def flat(s: Stitching) -> Iterator[Operation]:
    """Sewn, one allowance trimmed, the other folded over it and stitched down."""
    return in_turn(_flat(s))


def _flat(s: Stitching) -> Iterator[Operation]:
    yield from pinned(s)
    yield sewn(s)
    yield s.does("trim", "trim seam", tr("Trim the lower allowance to half: {seam}", seam=s.called), Work(Pace.SHEARS, s.long))
    yield pressed(s, tr("the longer allowance folded over the shorter"))
    yield from topstitched(s, max(1, s.seam.rows), tr("Fell it down: {seam}", seam=s.called))


SEMI_FLAT = Construction(
    "semi-flat felled",
    tr("semi-flat felled"),
    tr("Both allowances to one side, stitched through from the right side: the usual one for weather covers."),
    plain.sides,
    rows=1,
    section=crosssection.felled,
    operations=semi_flat,
)
FLAT = Construction(
    "flat-felled",
    tr("flat-felled"),
    tr("One allowance trimmed to half, the other folded over it and stitched down twice: no raw edge."),
    flat_sides,
    against=against_flat,
    rows=2,
    section=crosssection.flat_felled,
    operations=flat,
)
