"""Slit: an upright cut, bound, its ends tacked, with a flap under it where it is wanted."""

import numpy as np

from omnipel.core.covers.options import pick, yes
from omnipel.core.drafting.panel import MarkKind
from omnipel.core.drafting.shapes import even
from omnipel.core.finishing.kind import Kind, Lies, Put, Values
from omnipel.core.finishing.placing import off_edges
from omnipel.core.plane.curves import Points
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, tr
from omnipel.core.words.working import worked

FINE = 0.5
"""Half as wide as a slit is drawn, mm."""


def outline(put: Put) -> Points:
    """A line with nearly no width."""
    h = put.feature.height / 2.0
    return np.array([(-FINE, -h), (FINE, -h), (FINE, h), (-FINE, h)])


def room(put: Put) -> float:
    """It keeps clear of seams and hems."""
    return put.habit("opening room")


def slit(put: Put) -> None:
    """The cut, its binding or facing, and the flap under it."""
    put.made.say(off_edges(put, "port-across-seam"))
    h = put.feature.height / 2.0
    put.draw(put.feature.name, np.array([(0.0, -h), (0.0, h)]), MarkKind.CUT_OUT)
    if put.picked("finish") == "bound":
        put.bind(put.height * 2.0)
    else:
        side = worked(tr("each side"), put.habit("port facing")) * 2.0
        put.lay(even(f"facing of {put.feature.name}", side, put.height + side, put.allowance, refs.SEAM_ALLOWANCE))
    if put.yes("flap"):
        wide_flap = worked(tr("each side"), put.habit("slit flap")) * 2.0
        long = put.height + worked(tr("lap"), put.habit("flap lap"))
        put.lay(even(f"flap of {put.feature.name}", wide_flap, long, put.allowance, refs.SEAM_ALLOWANCE))
        put.buy(
            tr("hook-and-loop"), long, note=tr("under the flap of {feature}", feature=put.name), size=put.habit("hook-and-loop")
        )


def sizes(values: Values) -> dict[str, Phrase]:
    """Only how long it is."""
    return {"height": tr("length")}


SLIT = Kind(
    key="slit",
    words=tr("slit"),
    about=tr("An upright cut to reach through. Both ends are tacked: that is where it tears."),
    lies=Lies.CUT,
    put=slit,
    options=(
        pick("finish", tr("its edge"), ("bound", "faced")),
        yes("flap", tr("flap under it"), default=False, why=tr("Keeps dust and water out; closed with hook-and-loop.")),
    ),
    sizes=sizes,
    outline=outline,
    room=room,
)
