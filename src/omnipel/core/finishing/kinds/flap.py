"""Flap: sewn on along its top, it hangs over something."""

from omnipel.core.covers.options import pick
from omnipel.core.finishing.kind import Kind, Lies, Put
from omnipel.core.finishing.kinds.covering import HELD, held_down
from omnipel.core.finishing.placing import off_edges
from omnipel.core.words.phrases import Rule, tr


def flap(put: Put) -> None:
    """Its place, and its panel."""
    put.made.say(off_edges(put, "pocket-too-wide"))
    put.draw(f"place of {put.feature.name}", put.local, closed=True)
    held_down(put, put.feature.name, put.width, put.height, put.picked("held"))


FLAP = Kind(
    key="flap",
    words=tr("flap"),
    about=tr("Hangs over an opening, a seam or a zip; sewn on along its top."),
    lies=Lies.UNDER,
    put=flap,
    options=(pick("held", tr("held by"), HELD),),
    usual=(Rule(140.0, 5.5), Rule(100.0, 4.0)),
)
