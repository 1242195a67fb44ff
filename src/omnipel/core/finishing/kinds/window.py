"""Clear window: a clear sheet behind an opening, lapped on from inside or framed with a strip of cloth."""

import math
from collections.abc import Iterator
from typing import Final

from omnipel.core.covers.options import pick
from omnipel.core.drafting.panel import Cloth, MarkKind
from omnipel.core.drafting.shapes import even
from omnipel.core.finishing.fixing import Fixing
from omnipel.core.finishing.kind import Kind, Lies, Put
from omnipel.core.finishing.operation import Operation, Pace, Work, in_turn
from omnipel.core.finishing.placing import off_edges
from omnipel.core.finishing.strips import strip
from omnipel.core.job.finish import seam
from omnipel.core.words.phrases import plain, tr
from omnipel.core.words.working import worked

LAPPED: Final = "lapped on"
FRAMED: Final = "framed"


def room(put: Put) -> float:
    """It keeps clear of seams and hems, and its lap besides."""
    return put.habit("opening room") + put.habit("window lap")


def window(put: Put) -> None:
    """The clear sheet, and the cloth cut away over it."""
    put.made.say(off_edges(put, "pocket-too-wide"))
    put.draw(put.feature.name, put.local, MarkKind.CUT_OUT, closed=True)
    lap = seam(put.habit("window lap"))
    put.lay(even(put.feature.name, put.width, put.height, lap, cloth=Cloth.WINDOW), inside=True)
    if put.picked("fixed") == FRAMED:
        around = (put.width + put.height) * 2.0 + worked(tr("mitres"), put.habit("window frame")) * 4.0
        wide = put.habit("window frame") + 2.0 * put.habit("patch seam")
        cloth = put.choices.cloth.cut_width
        put.made.hardware.append(strip(tr("frame"), around, wide, math.inf, cloth, plain(put.feature.name)))


def operations(f: Fixing) -> Iterator[Operation]:
    """Sewn behind the whole cloth first, which is cut away over it then; its frame last."""
    return in_turn(_operations(f))


def _operations(f: Fixing) -> Iterator[Operation]:
    around = 2.0 * (f.feature.width + f.feature.height)
    words = tr("Sew the clear sheet of {feature} behind the whole cloth", feature=f.name)
    taped = (tr("tape it: no pins, holes stay"),)
    yield f.does("sheet", "window", words, Work(Pace.CURVED, around), notes=taped)
    words = tr("Cut the cloth away over {feature}, not the sheet", feature=f.name)
    yield f.does("open", "open", words, Work(Pace.FIXED, 3.0), on=(f.host,))
    words = tr("Turn the cut edge under and topstitch it: {feature}", feature=f.name)
    if f.picked("fixed") == FRAMED:
        words = tr("Sew the frame over the edge of {feature}, corners mitred", feature=f.name)
    yield f.does("frame", "sew on", words, Work(Pace.TOPSTITCH, around), Work(Pace.CORNER, 4.0))


WINDOW = Kind(
    key="clear window",
    words=tr("clear window"),
    about=tr("To see a gauge or a label. The sheet is not folded when it is cold, and never cut hot."),
    lies=Lies.CUT,
    put=window,
    options=(pick("fixed", tr("the sheet is"), (LAPPED, FRAMED)),),
    room=room,
    operations=operations,
)
