"""Fasteners in a row: across, or all along the edge of an opening; by count or by spacing."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Final

import numpy as np
import shapely

from omnipel.core.covers.options import Option, count, length, only_when, pick
from omnipel.core.drafting.panel import Figure, MarkKind
from omnipel.core.finishing.fixing import Fixing, set_in_turn
from omnipel.core.finishing.kind import Kind, Lies, Put, Values
from omnipel.core.finishing.kinds.along_edges import along_opening, has_long_sides, opening_below
from omnipel.core.finishing.kinds.directions import cross
from omnipel.core.finishing.operation import Operation, Pace, Work
from omnipel.core.finishing.placing import off_edges
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Phrase, Rule, mm, term, tr

STITCH_LINE: Final = 5.0
"""A fastener nearer than this to a hem's stitch line splits it."""
ACROSS: Final = "across"
AROUND: Final = "all along its edge"
BY_COUNT: Final = "by number"
BY_SPACING: Final = "by spacing"


def across_row(put: Put) -> Points:
    """Where the points of a row lie in the frame of the feature, `(n, 2)`."""
    n, half = how_many(put), put.feature.width / 2.0
    return np.column_stack((np.linspace(-half, half, n) if n > 1 else np.zeros(1), np.zeros(n)))


def how_many(put: Put) -> int:
    """In a row across: as many as were chosen, or as its spacing asks for."""
    if put.values.get("by") == BY_SPACING:
        return max(2, math.ceil(put.feature.width / put.number("spacing") - 1e-9) + 1)
    return int(put.values.get("parts", 2.0))


def row_sizes(values: Values) -> Mapping[str, Phrase]:
    """A single one has no width."""
    single = values.get("by", BY_COUNT) == BY_COUNT and values.get("parts", 2.0) == 1.0
    return {} if values.get("runs", ACROSS) == AROUND or single else {"width": tr("from first to last")}


def anywhere(put: Put) -> frozenset[str]:
    """All along an edge it lies where that is."""
    if put.picked("runs") != AROUND:
        return frozenset()
    opening = opening_below(put)
    if opening is None:
        return frozenset({"from_centre", "from_top", "by", "parts", "long_parts", "spacing", "inset", "half"})
    return frozenset({"from_centre", "from_top"} | (set() if has_long_sides(put, opening) else {"long_parts"}))


def row(put: Put, goods: Phrase) -> None:
    """Its points, each a cross on its panel."""
    if put.picked("runs") == AROUND:
        found = along_opening(put)
        if found is None:
            return
        for i, (piece, at) in enumerate(found, 1):
            figure = Figure(f"{put.feature.name} {i}", at + cross(0.0, 0.0), MarkKind.POINT, feature=put.feature.id)
            put.made.figures.setdefault(piece, []).append(figure)
        put.buy(goods, count=len(found))
        return
    points_across(put, goods)


def points_across(put: Put, goods: Phrase) -> None:
    """A row across: whether it lies on its panel, and clear of the stitch line of a hem."""
    places = across_row(put)
    for i, (x, y) in enumerate(places, 1):
        put.draw(f"{put.feature.name} {i}", cross(x, y), MarkKind.POINT)
    put.made.say(off_edges(put, "feature-off-panel"))
    points = shapely.MultiPoint(put.spot.flat(places))
    for edge in put.host.edges:
        depth = edge.finish.folded
        away = min(shapely.LineString(edge.curve.points(0.5)).distance(point) for point in points.geoms)
        if depth and abs(away - depth) < STITCH_LINE:
            text = tr(
                "{feature} sits {away} from the fold of the {edge}, in the stitch line of its hem of {depth}.",
                feature=put.name,
                away=mm(away),
                edge=term(edge.name),
                depth=mm(depth),
            )
            put.look("snap-in-stitch-line", text)
            break
    put.buy(goods, count=len(places))


def room(_put: Put) -> float:
    """It may lie in a hem, but not across an edge."""
    return -1e4


OPTIONS: tuple[Option, ...] = (
    pick("runs", tr("runs"), (ACROSS, AROUND), tr("All along the edge it hangs over: corners are shared by both sides.")),
    pick("by", tr("set"), (BY_COUNT, BY_SPACING)),
    only_when(count("parts", tr("in a row, or on each short side"), 4, high=200), by=(BY_COUNT,)),
    only_when(count("long_parts", tr("on each long side"), 6, low=2), by=(BY_COUNT,), runs=(AROUND,)),
    only_when(length("spacing", tr("no further apart than"), Rule(250.0, 10.0), low=5.0, high=5000.0), by=(BY_SPACING,)),
    only_when(length("inset", tr("from the edge"), Rule(12.0, 1 / 2), low=0.0, high=500.0), runs=(AROUND,)),
)


ON_COVER: Final = "on the cover"
ON_OBJECT: Final = "on the object"


def snaps(put: Put) -> None:
    """Snaps; where their other half is screwed to the object, the studs for that."""
    row(put, tr("snaps"))
    if put.picked("half") == ON_OBJECT:
        put.made.hardware += [replace(bought, name=tr("screw studs")) for bought in put.made.hardware if bought.count]


def fasteners(f: Fixing, goods: Phrase) -> Iterator[Operation]:
    """In a row: corners or ends first, then halves, then the rest; beside an edge once that is finished, else while the panel is flat."""
    around, on_object = f.picked("runs") == AROUND, f.picked("half") == ON_OBJECT
    return set_in_turn(f, goods, len(f.figures), around=around, on_object=on_object, flat=not f.in_edge)


def snaps_on(f: Fixing) -> Iterator[Operation]:
    """Corners first, then halves; the studs on the object, with the cover stretched over it."""
    return fasteners(f, tr("snaps"))


def grommets_on(f: Fixing) -> Iterator[Operation]:
    """Corners first, then halves."""
    return fasteners(f, tr("grommets"))


def drains_on(f: Fixing) -> Iterator[Operation]:
    """While the panel is flat."""
    yield f.does(
        "set",
        "set flat",
        tr("Set the drain eyelets of {feature}", feature=f.name),
        Work(Pace.FASTENER, float(len(f.figures))),
        on=(f.host,),
    )


def exits_on(f: Fixing) -> Iterator[Operation]:
    """Before the casing is folded: they go through its outer layer only."""
    words = tr("Set both grommets of {feature} in the outer layer of the casing", feature=f.name)
    yield f.does("set", "set flat", words, Work(Pace.FASTENER, float(len(f.figures))), on=(f.host,), opening=f.in_edge)


def grommets(put: Put) -> None:
    """Grommets."""
    row(put, tr("grommets"))


SNAPS = Kind(
    key="snaps",
    words=tr("snaps"),
    about=tr("In a row across or along an edge, through two layers or a patch."),
    lies=Lies.POINTS,
    put=snaps,
    options=(
        *OPTIONS,
        pick("half", tr("their other half"), (ON_COVER, ON_OBJECT), tr("On the object a stud is screwed in for each.")),
    ),
    sizes=row_sizes,
    idle=anywhere,
    outline=across_row,
    room=room,
    operations=snaps_on,
)
GROMMETS = Kind(
    key="grommets",
    words=tr("grommets"),
    about=tr("To lace or to tie down through, in a row across or along an edge."),
    lies=Lies.POINTS,
    put=grommets,
    options=OPTIONS,
    sizes=row_sizes,
    idle=anywhere,
    outline=across_row,
    room=room,
    operations=grommets_on,
)


def cord_exit(put: Put) -> None:
    """Two grommets that a drawcord comes out through."""
    points_across(put, tr("grommets"))


def pair_sizes(_values: Values) -> Mapping[str, Phrase]:
    """How far apart."""
    return {"width": tr("from first to last")}


CORD_EXIT = Kind(
    key="drawcord exit",
    words=tr("drawcord exit"),
    about=tr("Two grommets in the casing that both ends of a drawcord come out through."),
    lies=Lies.POINTS,
    put=cord_exit,
    sizes=pair_sizes,
    outline=across_row,
    room=room,
    operations=exits_on,
    usual=(Rule(40.0, 1.5), Rule(80.0, 3.0)),
)


def drain(put: Put) -> None:
    """Eyelets at the lowest place, that water runs out of."""
    points_across(put, tr("drain eyelets"))
    lowest = min(float(facet.solid[:, 2].min()) for facet in put.ground.facets)
    above = put.spot.place[2] - lowest
    if above > put.habit("drain height"):
        text = tr("{feature} lies {above} above the lowest place, where water stands.", feature=put.name, above=mm(above))
        put.look("drain-not-lowest", text)


DRAIN = Kind(
    key="drain eyelet",
    words=tr("drain eyelet"),
    about=tr("Lets water out at the lowest place of whatever holds it; two when the base is long."),
    lies=Lies.POINTS,
    put=drain,
    options=(count("parts", tr("how many"), 1, high=12),),
    sizes=row_sizes,
    outline=across_row,
    room=room,
    operations=drains_on,
)
