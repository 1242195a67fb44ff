"""What is carried by, hung by or pulled at: handles, straps, loops, D-rings, and the patches behind them."""

from collections.abc import Callable, Iterator, Mapping

import numpy as np

from omnipel.core.covers.options import Option, length, only_when, pick, yes
from omnipel.core.drafting.panel import Panel, Shows
from omnipel.core.drafting.shapes import even
from omnipel.core.finishing.fixing import STITCHED, Fixing, caught_or_stitched, prepared, sewn_on
from omnipel.core.finishing.kind import Kind, Lies, Put, Values
from omnipel.core.finishing.kinds import hanging
from omnipel.core.finishing.kinds.directions import (
    as_webbing,
    as_wide,
    caught,
    caught_edge,
    caught_length,
    mark_caught,
    other_seams,
    sliding,
)
from omnipel.core.finishing.operation import Operation, in_turn
from omnipel.core.finishing.placing import off_edges
from omnipel.core.job.finish import seam
from omnipel.core.plane.curves import Points
from omnipel.core.space.frames import Frame
from omnipel.core.words.phrases import Phrase, Rule, tr
from omnipel.core.words.working import Worked, worked


def patch(put: Put) -> None:
    """Reinforcement patch: turned under all round and stitched on."""
    put.made.say(off_edges(put, "pocket-too-wide"))
    put.draw(f"place of {put.feature.name}", put.local, closed=True)
    put.lay(_patch(put, put.feature.name, put.width, put.height))


def _patch(put: Put, name: str, wide: Worked, high: Worked) -> Panel:
    return even(name, wide, high, seam(put.habit("patch seam")))


def ends(put: Put) -> list[tuple[float, float]]:
    """Where the ends of handles lie in the frame of the feature: one handle lies across; a pair one above the other, as far apart as was chosen."""
    half = put.feature.width / 2.0
    rows = [0.0] if not put.values.get("pair") else [put.number("apart") / 2.0, -put.number("apart") / 2.0]
    return [(side * half, y) for y in rows for side in (-1.0, 1.0)]


def handle_outline(put: Put) -> Points:
    """What the anchors of handles take up."""
    half = put.habit("anchor") / 2.0
    at = np.array(ends(put))
    low, high = at.min(axis=0) - half, at.max(axis=0) + half
    return np.array([low, (high[0], low[1]), high, (low[0], high[1])])


def handle(put: Put) -> None:
    """Webbing handles: both ends caught in a seam, or stitched on over a patch behind."""
    n = 2.0 if put.yes("pair") else 1.0
    grip = put.width + put.length("rise", tr("rise")) * 2.0
    if put.picked("caught") == STITCHED:
        put.made.say(off_edges(put, "pocket-too-wide"))
        side = worked(tr("patch"), put.habit("backing patch"))
        for i, (x, y) in enumerate(ends(put), 1):
            put.draw(f"{put.feature.name} {i}", anchor(put, x, y), closed=True, shows=Shows.STITCHES)
            put.lay(_patch(put, f"patch of {put.feature.name}", side, side), x, y, inside=True)
        for y in dict.fromkeys(y for _, y in ends(put)):
            put.hang(hanging.handle(put, put.feature.name, hanging.here(put, 0.0, y), put.feature.width, grip.value))
        put.buy(tr("webbing"), (grip + worked(tr("stitched down"), put.habit("anchor")) * 2.0) * n, size=put.habit("webbing"))
        return
    met = caught_edge(put, as_wide)
    if met is None:
        return
    at = mark_caught(put, met[0], met[1], put.feature.width)
    put.hang(hanging.handle(put, put.feature.name, hanging.at_edge(put, met[0], at), put.feature.width, grip.value))
    put.buy(tr("webbing"), grip + caught_length(put) * 2.0, size=put.habit("webbing"))


def anchor(put: Put, x: float, y: float) -> Points:
    """The square that webbing is stitched down in."""
    half = put.habit("anchor") / 2.0
    return np.array([(x - half, y - half), (x + half, y - half), (x + half, y + half), (x - half, y + half)])


def only_width(words: Phrase) -> Callable[[Values], Mapping[str, Phrase]]:
    """Sizes of what has only a length."""

    def sizes(_values: Values) -> Mapping[str, Phrase]:
        return {"width": words}

    return sizes


def patched(f: Fixing) -> Iterator[Operation]:
    """Its edges turned under, then stitched on all round."""
    return in_turn(_patched(f))


def _patched(f: Fixing) -> Iterator[Operation]:
    yield from prepared(f, f.main)
    yield sewn_on(f, f.main, tr("Turn {feature} under all round and stitch it to {host}", feature=f.name, host=f.on))


PATCH = Kind(
    key="reinforcement patch",
    words=tr("reinforcement patch"),
    about=tr("A second layer where something pulls or rubs."),
    lies=Lies.UNDER,
    put=patch,
    operations=patched,
)

HANDLE_OPTIONS: tuple[Option, ...] = (
    caught("the seam above"),
    length("rise", tr("stands off by"), Rule(50.0, 2.0), tr("The hand's room under it."), 0.0, 500.0),
    only_when(
        yes("pair", tr("a pair"), default=False, why=tr("Two alike, one above the other about the balance.")), caught=(STITCHED,)
    ),
    only_when(length("apart", tr("so far apart"), Rule(200.0, 8.0), low=10.0, high=5000.0), caught=(STITCHED,), pair=(True,)),
)

HANDLE = Kind(
    key="webbing handle",
    words=tr("webbing handle"),
    about=tr("To lift by: both ends caught in a seam, or stitched on with a patch behind."),
    lies=Lies.CAUGHT,
    put=handle,
    options=HANDLE_OPTIONS,
    sizes=only_width(tr("grip, end to end")),
    outline=handle_outline,
    idle=sliding(as_wide),
    other_ways=other_seams,
    operations=caught_or_stitched,
)


def strap_outline(put: Put) -> Points:
    """What the anchor takes up."""
    return anchor(put, 0.0, 0.0)


def one_end(put: Put, name: Phrase, long: Worked) -> Frame | None:
    """Webbing with one end caught or stitched on: its mark, its patch, what is bought; where it is held, None where it could not be placed."""
    if put.picked("caught") == STITCHED:
        put.made.say(off_edges(put, "pocket-too-wide"))
        put.draw(put.feature.name, put.local, closed=True, shows=Shows.STITCHES)
        side = worked(tr("patch"), put.habit("backing patch"))
        put.lay(_patch(put, f"patch of {put.feature.name}", side, side), inside=True)
        put.buy(name, long + worked(tr("stitched down"), put.habit("anchor")), size=put.habit("webbing"))
        return hanging.here(put)
    met = caught_edge(put, as_webbing)
    if met is None:
        return None
    at = mark_caught(put, met[0], met[1], put.habit("webbing"))
    put.buy(name, long + caught_length(put), size=put.habit("webbing"))
    return hanging.at_edge(put, met[0], at)


def strap(put: Put) -> None:
    """A strap with its buckle."""
    long = put.width
    if put.picked("ends") == "a buckle":
        long = long + worked(tr("through the buckle"), put.habit("anchor"))
    held = one_end(put, tr("webbing"), long)
    if held is None:
        return
    put.hang(hanging.strap(put, put.feature.name, held, put.feature.width))
    if put.picked("ends") == "a buckle":
        put.buy(tr("buckle"), count=1)


STRAP = Kind(
    key="strap",
    words=tr("strap"),
    about=tr("Goes around something, or under it, and is buckled or tied."),
    lies=Lies.CAUGHT,
    put=strap,
    options=(caught("the seam below"), pick("ends", tr("ends in"), ("a buckle", "nothing"))),
    sizes=only_width(tr("length")),
    outline=strap_outline,
    usual=(Rule(600.0, 24.0), Rule(80.0, 3.0)),
    idle=sliding(as_webbing),
    other_ways=other_seams,
    operations=caught_or_stitched,
)


def loop(put: Put) -> None:
    """A loop of webbing, both ends together."""
    held = one_end(put, tr("webbing"), put.width * 2.0)
    if held is not None:
        put.hang(hanging.loop(put, put.feature.name, held, put.feature.width))


LOOP = Kind(
    key="loop",
    words=tr("loop"),
    about=tr("To hang it up by, or to lead a cord through."),
    lies=Lies.CAUGHT,
    put=loop,
    options=(caught("the seam above"),),
    sizes=only_width(tr("stands out")),
    outline=strap_outline,
    usual=(Rule(40.0, 1.5), Rule(80.0, 3.0)),
    idle=sliding(as_webbing),
    other_ways=other_seams,
    operations=caught_or_stitched,
)


def d_ring(put: Put) -> None:
    """A D-ring in a loop of webbing."""
    held = one_end(put, tr("webbing"), worked(tr("through the ring"), put.habit("anchor")) * 2.0)
    if held is not None:
        put.hang(hanging.loop(put, put.feature.name, held, put.habit("anchor")))
        put.buy(tr("D-ring"), count=1)


def nothing_asked(_values: Values) -> Mapping[str, Phrase]:
    """It has no size of its own."""
    return {}


D_RING = Kind(
    key="D-ring",
    words=tr("D-ring"),
    about=tr("To tie down to or to hook into: in a loop of webbing."),
    lies=Lies.CAUGHT,
    put=d_ring,
    options=(caught("the seam below"),),
    sizes=nothing_asked,
    outline=strap_outline,
    idle=sliding(as_webbing),
    other_ways=other_seams,
    operations=caught_or_stitched,
)
