"""Plain: right sides together, pressed apart or to one side."""

from omnipel.core.finishing.constructions.construction import Construction, Joining
from omnipel.core.job.finish import Finish, seam
from omnipel.core.words.phrases import tr


def sides(joining: Joining) -> tuple[Finish, Finish]:
    """The same allowance on both."""
    return seam(joining.allowance), seam(joining.allowance)


CONSTRUCTION = Construction("plain", tr("plain"), tr("One row, right sides together: for lined covers and light cloth."), sides)
