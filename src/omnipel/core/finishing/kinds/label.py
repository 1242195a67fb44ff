"""Label: folded into a seam, or stitched on; who made it, of what, how to wash it."""

from omnipel.core.drafting.panel import Shows
from omnipel.core.finishing.fixing import STITCHED, caught_or_stitched
from omnipel.core.finishing.kind import Kind, Lies, Put
from omnipel.core.finishing.kinds.directions import as_wide, caught, caught_edge, mark_caught, other_seams, sliding
from omnipel.core.finishing.placing import off_edges
from omnipel.core.words.phrases import Rule, mm, tr


def label(put: Put) -> None:
    """Its place."""
    size = tr("{feature}, {width} by {height}", feature=put.name, width=mm(put.feature.width), height=mm(put.feature.height))
    if put.picked("caught") == STITCHED:
        put.made.say(off_edges(put, "pocket-too-wide"))
        put.draw(f"place of {put.feature.name}", put.local, closed=True, shows=Shows.STITCHES)
    else:
        met = caught_edge(put, as_wide)
        if met is None:
            return
        mark_caught(put, met[0], met[1], put.feature.width)
    put.buy(tr("label"), count=1, note=size)


LABEL = Kind(
    key="label",
    words=tr("label"),
    about=tr("Folded into a seam on the inside, or stitched on near the lower edge."),
    lies=Lies.CAUGHT,
    put=label,
    options=(caught(STITCHED),),
    usual=(Rule(30.0, 1.25), Rule(20.0, 3 / 4)),
    idle=sliding(as_wide),
    other_ways=other_seams,
    operations=caught_or_stitched,
)
