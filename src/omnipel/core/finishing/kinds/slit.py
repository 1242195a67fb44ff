"""Slit: an upright cut, bound, its ends tacked, with a flap under it where it is wanted."""

from collections.abc import Iterator

import numpy as np

from omnipel.core.covers.options import pick, yes
from omnipel.core.drafting.panel import MarkKind
from omnipel.core.drafting.shapes import even
from omnipel.core.finishing.fixing import Fixing, prepared, sewn_on, touched
from omnipel.core.finishing.kind import Kind, Lies, Put, Values
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.finishing.placing import off_edges
from omnipel.core.plane.curves import Points
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, term, tr
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


def operations(f: Fixing) -> Iterator[Operation]:
    """Faced before it is cut, bound after; its ends tacked; then the flap."""
    return in_turn(_operations(f))


def _operations(f: Fixing) -> Iterator[Operation]:
    long = 2.0 * f.feature.height
    faced = f.picked("finish") != "bound"
    if faced:
        words = tr("Sew the facing of {feature} around the line, right sides together", feature=f.name)
        yield f.does(
            "face", "face opening", words, Work(Pace.STRAIGHT, long), Work(Pace.FIXED, 4.0), on=(f.host, f.part("facing of "))
        )
    yield f.does(
        "open",
        "open",
        tr("Cut {feature} open", feature=f.name),
        Work(Pace.FIXED, 1.0),
        on=(f.host,),
        checks=(Check(tr("slit"), f.feature.height),),
    )
    if faced:
        words = tr("Turn the facing of {feature} to the inside and topstitch it", feature=f.name)
        yield f.does("turn", "sew on", words, Work(Pace.TOPSTITCH, long), on=(f.host,))
    else:
        yield f.does(
            "bind",
            "bind opening",
            tr("Bind the edge of {feature}", feature=f.name),
            Work(Pace.BINDING, long),
            Work(Pace.FIXED, 4.0),
            on=(f.host,),
        )
    yield f.does("tack", "tack part", tr("Tack both ends of {feature}", feature=f.name), Work(Pace.FIXED, 1.0), on=(f.host,))
    flap = f.part("flap of ")
    if flap:
        yield from prepared(f, flap)
        yield from touched(f, flap)
        yield sewn_on(f, flap, tr("Sew {part} under the slit", part=term(flap)), action="flap")


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
    operations=operations,
)
