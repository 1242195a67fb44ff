"""Port: an opening for something that comes out, bound, faced or cut hot, with a slit to an edge and a flap where they are wanted."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Final

import numpy as np
import shapely

from omnipel.core.covers.options import Option, length, only_when, pick, yes
from omnipel.core.drafting.panel import MarkKind
from omnipel.core.drafting.shapes import raw
from omnipel.core.finishing.fixing import Fixing, flapped, prepared, sewn_on, touched
from omnipel.core.finishing.kind import Kind, Lies, Put, Values
from omnipel.core.finishing.kinds import shapes
from omnipel.core.finishing.kinds.covering import HELD, held_down, lay_flap
from omnipel.core.finishing.kinds.directions import NOWHERE, WAYS
from omnipel.core.finishing.kinds.halves import halves
from omnipel.core.finishing.kinds.shapes import Shape
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.finishing.placing import off_edges
from omnipel.core.job.feature import Choice
from omnipel.core.job.findings import Change, Remedy
from omnipel.core.plane.curves import Points, quarter_chords
from omnipel.core.plane.trace import ring_around
from omnipel.core.words.phrases import Phrase, Rule, term, tr
from omnipel.core.words.working import Worked, worked

BOUND: Final = "bound"
FACED: Final = "faced"
HOT: Final = "cut hot"
NO_FLAP: Final = "no flap"
OVER_SLIT: Final = "over the slit"
OVER_ALL: Final = "over all of it"

OPTIONS: tuple[Option, ...] = (
    pick("shape", tr("shape"), tuple(Shape)),
    length(
        "room",
        tr("room on each side"),
        Rule(0.0, 0.0),
        tr("Added on each side to what is measured of the thing itself."),
        0.0,
        500.0,
    ),
    pick("finish", tr("its edge"), (BOUND, FACED, HOT), tr("Cloth that frays is bound or faced; only what melts is cut hot.")),
    pick(
        "slit", tr("slit"), (NOWHERE, *WAYS), tr("A slit lets it close around something that does not come through the opening.")
    ),
    pick("flap", tr("flap"), (NO_FLAP, OVER_SLIT, OVER_ALL)),
    only_when(pick("held", tr("flap is held by"), HELD), flap=(OVER_ALL,)),
    yes(
        "split",
        tr("over the seam, as two halves"),
        default=False,
        why=tr("Each half is finished on its own panel before the seam is sewn."),
    ),
)


def sizes(values: Values) -> Mapping[str, Phrase]:
    """What is round is asked across only."""
    return {"width": tr("across")} if values["shape"] == Shape.ROUND else {"width": tr("width"), "height": tr("height")}


def wide_and_high(put: Put) -> tuple[Worked, Worked]:
    """The opening as it is cut: what comes through, and room on each side."""
    room = put.length("room", tr("room")) * 2.0
    wide = put.width + room if room.value else put.width
    if put.picked("shape") == Shape.ROUND:
        return wide, wide
    return wide, put.height + room if room.value else put.height


def outline(put: Put) -> Points:
    """Of the opening."""
    wide, high = wide_and_high(put)
    return shapes.outline(put.picked("shape"), wide.value, high.value)


def room(put: Put) -> float:
    """It keeps clear of seams and hems, but for one that it is to lie across."""
    return 0.0 if put.yes("split") else put.habit("opening room")


def idle(put: Put) -> frozenset[str]:
    """On no seam there is nothing to split."""
    sewn = shapely.make_valid(shapely.Polygon(put.host.sew_points))
    return frozenset({"split"} if sewn.contains(put.area) else ())


def port(put: Put) -> None:
    """The opening, its binding or facing, slit and flap."""
    wide, high = wide_and_high(put)
    shape = put.picked("shape")
    if put.yes("split"):
        halves(put)
    else:
        put.made.say(off_edges(put, "port-across-seam"))
        put.draw(put.feature.name, put.local, MarkKind.CUT_OUT, closed=True)
    around = worked(tr("around the opening"), shapes.around(shape, wide.value, high.value), put.where)
    if put.picked("slit") != NOWHERE:
        slit = cut_slit(put, put.picked("slit"), tr("slit"))
        if slit is not None:
            around = around + slit * 2.0
            if put.picked("flap") == OVER_SLIT:
                lay_flap(put, slit, put.picked("slit"))
    elif put.picked("flap") == OVER_SLIT:
        down = Remedy(tr("Run a slit down from {feature}", feature=put.name), (Change(put.at("slit"), "down"),))
        none = Remedy(tr("No flap for {feature}", feature=put.name), (Change(put.at("flap"), NO_FLAP),))
        put.stop("flap-without-slit", tr("{feature} has a flap over a slit, and no slit.", feature=put.name), down, none)
    finish(put, around, shapes.bend(shape, wide.value, high.value), (wide, high))
    if put.picked("flap") == OVER_ALL:
        over = wide + worked(tr("flap wider"), put.habit("flap side")) * 2.0
        long = high + worked(tr("flap longer"), put.habit("flap drop"))
        held_down(put, f"flap of {put.feature.name}", over, long, put.picked("held"))


def finish(put: Put, around: Worked, bend: float, size: tuple[Worked, Worked]) -> None:
    """Binding or facing of the edge, and of the slit in it."""
    match put.picked("finish"):
        case "bound":
            put.bind(around, bend)
        case "faced":
            side = put.habit("port facing")
            more, fine = worked(tr("facing"), side) * 2.0, quarter_chords(side + min(size[0].value, size[1].value) / 2.0)
            ring = ring_around(shapely.Polygon(put.local).buffer(side, quad_segs=fine))
            put.lay(raw(f"facing of {put.feature.name}", ring, size[0] + more, size[1] + more), inside=True)
        case _:
            return


def cut_slit(put: Put, way: str, words: Phrase) -> Worked | None:
    """A straight slit from the opening to the edge of its panel in a direction."""
    right, down = WAYS[way]
    edge, _, reach = put.ground.to_edge(put.spot, (right, down))
    line = shapely.LineString([(0.0, 0.0), (right * reach, -down * reach)])
    left = line.difference(shapely.Polygon(put.local))
    if not isinstance(left, shapely.LineString) or left.is_empty:
        text = tr("{feature}: no straight slit runs from it to the {edge}.", feature=put.name, edge=term(edge))
        put.stop(
            "slit-reaches-nothing",
            text,
            Remedy(tr("No slit for {feature}", feature=put.name), (Change(put.at("slit"), NOWHERE),)),
        )
        return None
    put.draw(f"slit of {put.feature.name}", np.asarray(left.coords, dtype=np.float64), MarkKind.CUT_OUT)
    return worked(words, float(left.length), put.at("slit"))


def other_ways(values: Values) -> Sequence[tuple[Phrase, Mapping[str, Choice]]]:
    """Over the seam as two halves, or without a slit."""
    ways: list[tuple[Phrase, Mapping[str, Choice]]] = []
    if not values["split"] and values["slit"] == NOWHERE:
        ways.append((tr("over the seam, as two halves"), {"split": True}))
    if values["slit"] != NOWHERE:
        ways += [(tr("slit: {way}", way=term(way)), {"slit": way}) for way in WAYS if way != values["slit"]]
    return ways


def operations(f: Fixing) -> Iterator[Operation]:
    """Faced before it is cut, bound after; then the flap over it, which covers the edge."""
    return in_turn(_operations(f))


def _operations(f: Fixing) -> Iterator[Operation]:
    hosts = f.hosts or (f.host,)
    halves = (tr("each half on its own panel, before the seam between them"),) if len(hosts) > 1 else ()
    if f.picked("finish") == FACED:
        words = tr("Sew the facing of {feature} around the line, right sides together", feature=f.name)
        yield f.does("face", "face opening", words, Work(Pace.PORT, 0.7), on=(f.host, f.part("facing of ") or f.host))
    cut = tr("Cut the opening of {feature} in {host}", feature=f.name, host=f.on)
    hot = ("hot knife",) if f.picked("finish") == HOT else ()
    yield f.does(
        "open",
        "open",
        cut,
        Work(Pace.FIXED, 2.0),
        on=hosts,
        notes=halves,
        cautions=hot,
        checks=(Check(tr("opening across"), f.feature.width + 2.0 * f.number("room")),),
    )
    if f.picked("finish") == FACED:
        words = tr("Turn the facing of {feature} to the inside and topstitch it", feature=f.name)
        yield f.does("turn", "sew on", words, Work(Pace.PORT, 0.3), on=hosts)
    elif f.picked("finish") == BOUND:
        yield f.does("bind", "bind opening", tr("Bind the edge of {feature}", feature=f.name), Work(Pace.PORT, 1.0), on=hosts)
    flap = f.part("flap of ")
    if f.picked("flap") == OVER_SLIT and flap:
        yield from prepared(f, flap)
        yield from touched(f, flap)
        yield sewn_on(f, flap, tr("Sew {part} on: it covers the edge of the slit", part=term(flap)), action="flap")
    elif f.picked("flap") == OVER_ALL:
        yield from flapped(f, flap, f.picked("held"))


PORT = Kind(
    key="port",
    words=tr("port"),
    about=tr("An opening for what comes out: a cable, a pipe, a lever."),
    lies=Lies.CUT,
    put=port,
    options=OPTIONS,
    sizes=sizes,
    outline=outline,
    room=room,
    idle=idle,
    other_ways=other_ways,
    operations=operations,
)
