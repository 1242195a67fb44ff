"""Why one chooses the one or the other: the sentences below the fields of the Cover station."""

from omnipel.core.job.document import ClearanceSchool, ClosureKind, LiningSchool, RingSchool
from omnipel.core.job.edges import HemOrder, Hold
from omnipel.core.words.habits import HABITS
from omnipel.core.words.phrases import Phrase, Ratio, Rule, tr

WHY = {
    ClearanceSchool.SIDE: tr("The gap on each side: what the hand feels between cloth and object."),
    ClearanceSchool.DIMENSION: tr("Ease added to each across-dimension; half of it lies on each side."),
    ClearanceSchool.GIRTH: tr("A share of the girth; large things get a larger gap."),
}


RING_WHY = {
    RingSchool.RING_FIRST: tr("Close the wall, match the quarters: every mark is checked before the long seam."),
    RingSchool.MEET_AND_TRIM: tr(
        "Sew round and close where the ends meet: no puckers, {spare} of strip more.", spare=HABITS["spare to trim"].rule
    ),
}


LONG_WHY = {
    RingSchool.RING_FIRST: tr("Cut to its length: every mark is checked before the long seam."),
    RingSchool.MEET_AND_TRIM: tr(
        "Cut {spare} longer at both ends and trimmed to the hem when it has come round.", spare=HABITS["spare to trim"].rule
    ),
}
"""The same for a strip that is sewn around ends and has free ends of its own."""

GATHERS_WHY = tr("Heavy canvas gathers {canvas} at best, shirting {shirting}.", canvas=Ratio(2.0), shirting=Ratio(3.0))


HEM_WHY = {
    HemOrder.HEM_LAST: tr("Hem last: the lower edge is evened out once the cover hangs."),
    HemOrder.HEM_FIRST: tr("Hem first: sewn while the panels are flat; the seams run through it."),
}


CLOSURE_WHY = {
    ClosureKind.NONE: tr("It drops over as it is."),
    ClosureKind.ZIP: tr("Opens from the edge up: the quickest on and off."),
    ClosureKind.HOOK_AND_LOOP: tr("Opens with one hand; collects lint."),
    ClosureKind.LACING: tr("Opens wide and pulls in tight; slow."),
}

HOLD_WHY = {
    Hold.NOTHING: tr("It hangs free."),
    Hold.CORD: tr("Drawn in under the object after it is on."),
    Hold.ELASTIC: tr("Holds by itself; wears out first."),
    Hold.HOOK_AND_LOOP: tr("Pressed to its counterpart all along; collects lint."),
}


LINING_WHY = {
    LiningSchool.NONE: tr("One layer."),
    LiningSchool.BAGGED: tr("Sewn to the lower edge and turned through a gap: no raw edge anywhere."),
    LiningSchool.BOUND: tr("Ends at the binding of the lower edge."),
    LiningSchool.AS_ONE: tr("Both cloths are cut alike and sewn as one: the quickest, raw inside."),
}


def allowance_why(allowance: float) -> Phrase:
    """The school a seam allowance belongs to."""
    if allowance < 8.0:
        return tr("About {usual}, the quilter's: flat seams in thin cotton, no room to let out.", usual=Rule(6.0, 1 / 4))
    if allowance < 11.5:
        return tr("About {usual}, the general one: enough for most cloth.", usual=Rule(10.0, 3 / 8))
    if allowance <= 15.0:
        return tr("About {usual}, the canvas maker's: room to fell the seam and stitch it down.", usual=Rule(12.0, 1 / 2))
    return tr("Wider than the schools: room to let out.")
