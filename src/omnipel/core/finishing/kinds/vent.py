"""Vent: an opening with mesh behind and a hood over it."""

from collections.abc import Iterator

from omnipel.core.drafting.panel import MarkKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.finishing.fixing import Fixing, prepared, sewn_on
from omnipel.core.finishing.kind import Kind, Lies, Put
from omnipel.core.finishing.operation import Operation, Pace, Work, in_turn
from omnipel.core.finishing.placing import off_edges
from omnipel.core.job.finish import double_hem
from omnipel.core.words.phrases import mm, term, tr
from omnipel.core.words.working import worked


def room(put: Put) -> float:
    """It keeps clear of seams and hems."""
    return put.habit("opening room")


def vent(put: Put) -> None:
    """The opening, its mesh and its hood, which is sewn on along three sides and open below."""
    put.made.say(off_edges(put, "port-across-seam"))
    put.draw(put.feature.name, put.local, MarkKind.CUT_OUT, closed=True)
    a = put.allowance
    hood = rectangle(
        f"hood of {put.feature.name}",
        put.width + worked(tr("room to breathe"), put.habit("hood")),
        put.height + worked(tr("overhang"), put.habit("hood")),
        bottom=double_hem(put.habit("hood hem"), put.habit("hood turn-under")),
        right=a,
        top=a,
        left=a,
        sources={"bottom": None},
    )
    put.lay(hood)
    more = put.habit("mesh")
    size = tr(
        "{feature}, {width} by {height}",
        feature=put.name,
        width=mm(put.feature.width + more),
        height=mm(put.feature.height + more),
    )
    put.buy(tr("mesh"), count=1, note=size)


def operations(f: Fixing) -> Iterator[Operation]:
    """The opening cut, mesh behind it, the hood over it, open below."""
    return in_turn(_operations(f))


def _operations(f: Fixing) -> Iterator[Operation]:
    yield f.does("open", "open", tr("Cut the opening of {feature}", feature=f.name), Work(Pace.FIXED, 2.0), on=(f.host,))
    around = 2.0 * (f.feature.width + f.feature.height)
    words = tr("Sew the mesh behind the opening of {feature}, its edge turned in", feature=f.name)
    yield f.does("mesh", "sew on", words, Work(Pace.STRAIGHT, around), Work(Pace.FIXED, 3.0), on=(f.host,))
    hood = f.part("hood of ")
    yield from prepared(f, hood)
    yield sewn_on(f, hood, tr("Sew {part} on along three sides, open below", part=term(hood)), action="hood")


VENT = Kind(
    key="vent",
    words=tr("vent"),
    about=tr("Lets damp air out: mesh behind the opening, a hood over it that is open below."),
    lies=Lies.CUT,
    put=vent,
    room=room,
    operations=operations,
)
