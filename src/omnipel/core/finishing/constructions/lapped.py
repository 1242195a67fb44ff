"""Lapped: one cloth on the other, the sew line in the middle of the overlap; for coated cloth, which does not fray."""

from collections.abc import Iterator

from omnipel.core.drafting import crosssection
from omnipel.core.finishing.constructions.construction import Against, Construction, Joining
from omnipel.core.job.finish import Finish, seam
from omnipel.core.words.phrases import tr


def sides(joining: Joining) -> tuple[Finish, Finish]:
    """Half the overlap on each side, and a little beyond the stitches above."""
    return seam(joining.wide / 2.0 + joining.choices.habits.mm("lap beyond")), seam(joining.wide / 2.0)


def against(joining: Joining) -> Iterator[Against]:
    """Cloth that frays has a raw edge on the outside."""
    if joining.choices.cloth.frays:
        yield Against(tr("its edges stay raw and this cloth frays: hot-cut it, or fold it under"))


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
)
