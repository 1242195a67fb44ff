"""Flap: sewn on along its top, it hangs over something."""

from collections.abc import Iterator

from omnipel.core.covers.options import pick
from omnipel.core.finishing.fixing import Fixing, flapped
from omnipel.core.finishing.kind import Kind, Lies, Put
from omnipel.core.finishing.kinds.covering import HELD, held_down
from omnipel.core.finishing.operation import Operation, in_turn
from omnipel.core.finishing.placing import off_edges
from omnipel.core.words.phrases import Rule, tr


def flap(put: Put) -> None:
    """Its place, and its panel."""
    put.made.say(off_edges(put, "pocket-too-wide"))
    put.draw(f"place of {put.feature.name}", put.local, closed=True)
    held_down(put, put.feature.name, put.width, put.height, put.picked("held"))


def operations(f: Fixing) -> Iterator[Operation]:
    """Its edges, what holds it, then sewn on along its top."""
    return in_turn(flapped(f, f.main, f.picked("held")))


FLAP = Kind(
    key="flap",
    words=tr("flap"),
    about=tr("Hangs over an opening, a seam or a zip; sewn on along its top."),
    lies=Lies.UNDER,
    put=flap,
    options=(pick("held", tr("held by"), HELD),),
    operations=operations,
    usual=(Rule(140.0, 5.5), Rule(100.0, 4.0)),
)
