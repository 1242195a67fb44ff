"""Slit: an upright cut, bound, its ends tacked, with a flap under it where it is wanted."""

import numpy as np

from omnipel.core.covers.options import pick, yes
from omnipel.core.drafting.panel import MarkKind
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.finishing.kind import Kind, Lies, Put, Values
from omnipel.core.finishing.placing import off_edges
from omnipel.core.finishing.strips import binding_width, strip
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Phrase, plain, tr
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
    around = put.height * 2.0 + worked(tr("overlap"), put.habit("binding join"))
    if put.picked("finish") == "bound":
        wide = binding_width(put.habit("binding"), put.choices.cloth.thickness)
        cloth = put.choices.cloth.usable_width
        put.made.hardware.append(strip(tr("binding"), around, wide, 1e9, cloth, plain(put.feature.name)))
    else:
        a, side = put.allowance, worked(tr("each side"), put.habit("port facing")) * 2.0
        put.lay(rectangle(f"facing of {put.feature.name}", side, put.height + side, bottom=a, right=a, top=a, left=a))
    if put.yes("flap"):
        a = put.allowance
        wide_flap = worked(tr("each side"), put.habit("slit flap")) * 2.0
        long = put.height + worked(tr("lap"), put.habit("flap lap"))
        put.lay(rectangle(f"flap of {put.feature.name}", wide_flap, long, bottom=a, right=a, top=a, left=a))
        put.buy(tr("hook-and-loop"), long, note=tr("under the flap of {feature}", feature=put.name))


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
