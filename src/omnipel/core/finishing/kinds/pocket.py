"""Pocket: flat, doubled on a fold, as wide as its panel, boxed, gathered at its mouth, divided; sewn on while its panel is flat."""

from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Final

import numpy as np
import shapely

from omnipel.core.covers.options import Option, count, length, only_when, pick, ratio, yes
from omnipel.core.drafting.panel import Edge, Figure, MarkKind, Notch, Panel, Shows
from omnipel.core.drafting.shapes import outline as panel_of
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.finishing.fixing import Fixing, flapped, prepared, sewn_on
from omnipel.core.finishing.kind import Kind, Lies, Put, Values, rectangle_of
from omnipel.core.finishing.kinds import hanging
from omnipel.core.finishing.kinds.covering import HELD, held_down
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.finishing.placing import off_edges
from omnipel.core.finishing.stitching import PINS_APART
from omnipel.core.job.document import Iron
from omnipel.core.job.findings import Impossible
from omnipel.core.job.finish import BOUND, Finish, double_hem, elastic_casing
from omnipel.core.plane.curves import Points, Trace, line
from omnipel.core.plane.trace import ring_around
from omnipel.core.space.frames import Frame, vector
from omnipel.core.space.placements import Folded
from omnipel.core.tolerances import SHORTEST
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, Rule, mm, term, tr
from omnipel.core.words.working import Worked, worked

SINGLE: Final = "one layer"
DOUBLED: Final = "doubled on a fold"
HEMMED: Final = "hemmed"
GATHERED: Final = "gathered by an elastic"
CLOSED: Final = "closed"
OPEN: Final = "left open"
LEVEL: Final = 1e-6
"""Corners of a clipped outline that differ by less in height lie on one line, mm."""

OPTIONS: tuple[Option, ...] = (
    pick("made", tr("made of"), (SINGLE, DOUBLED), tr("Doubled on a fold it has no hem: the fold is its mouth.")),
    only_when(pick("mouth", tr("mouth"), (HEMMED, "bound", GATHERED)), made=(SINGLE,)),
    only_when(ratio("fullness", tr("mouth gathers"), 1.5, low=1.05, high=3.0), made=(SINGLE,), mouth=(GATHERED,)),
    yes("full", tr("as wide as its panel"), default=False, why=tr("Its sides are caught in the panel's own seams.")),
    count("parts", tr("pockets side by side"), 1, high=12),
    only_when(length("depth", tr("depth, 0 for flat"), Rule(0.0, 0.0), low=0.0, high=1000.0), made=(SINGLE,), full=(False,)),
    only_when(
        pick("corners", tr("lower corners"), (CLOSED, OPEN), tr("Open corners let crumbs and chips fall out.")),
        made=(SINGLE,),
        full=(False,),
    ),
    yes("flap", tr("flap"), default=False),
    only_when(pick("held", tr("flap is held by"), HELD), flap=(True,)),
)


def sizes(values: Values) -> Mapping[str, Phrase]:
    """One as wide as its panel is asked for its height only."""
    return {"height": tr("height")} if values["full"] else {"width": tr("width"), "height": tr("height")}


def outline(put: Put) -> Points:
    """Where it lies; one as wide as its panel reaches from seam to seam."""
    if not put.yes("full"):
        return rectangle_of(put)
    sewn = shapely.make_valid(shapely.Polygon(put.spot.seen(put.host.sew_points)))
    h = put.feature.height / 2.0
    low_x, _, high_x, _ = sewn.bounds
    part = sewn.intersection(shapely.box(low_x - 1.0, -h, high_x + 1.0, h))
    parts = [p for p in getattr(part, "geoms", [part]) if isinstance(p, shapely.Polygon) and p.covers(shapely.Point(0.0, 0.0))]
    if not parts:
        return rectangle_of(put)
    return ring_around(parts[0])


def idle(put: Put) -> frozenset[str]:
    """A flat one has no corners to leave open; one as wide as its panel has no place across."""
    flat = {"corners"} if not put.number("depth") else set()
    return frozenset(flat | ({"from_centre"} if put.yes("full") else set()))


def room(put: Put) -> float:
    """It keeps clear of seams and hems, but for those that it is caught in."""
    return 0.0 if put.yes("full") else put.habit("opening room")


def pocket(put: Put) -> None:
    """Its place, its divisions, its panel, its flap."""
    if not put.yes("full") or not shapely.Polygon(put.spot.seen(put.host.sew_points)).buffer(0.01).covers(
        shapely.Polygon(put.local)
    ):
        put.made.say(off_edges(put, "pocket-too-wide"))
    put.draw(f"place of {put.feature.name}", put.local, closed=True)
    low, high = put.local.min(axis=0), put.local.max(axis=0)
    parts = int(put.number("parts"))
    for k in range(1, parts):
        x = low[0] + (high[0] - low[0]) * k / parts
        put.draw(f"division {k} of {put.feature.name}", np.array([(x, low[1]), (x, high[1])]), shows=Shows.STITCHES)
    wide = put.width if not put.yes("full") else worked(tr("as wide as the panel"), float(high[0] - low[0]), put.at("full"))
    single = put.picked("made") == SINGLE
    mouth = put.picked("mouth") if single else DOUBLED
    deep = put.length("depth", tr("depth")) if single and not put.yes("full") else worked(tr("depth"), 0.0)
    panel = _panel(put, wide, deep, mouth)
    put.lay(panel, place=_standing_out(put, panel, deep.value) if deep.value and mouth != GATHERED else None)
    _goods(put, wide + deep * 2.0, mouth)
    if put.yes("flap"):
        over = wide + worked(tr("flap wider"), put.habit("flap side")) * 2.0
        size = worked(tr("flap"), put.habit("flap"))
        held_down(put, f"flap of {put.feature.name}", over, size, put.picked("held"), up=float(high[1]))


def _standing_out(put: Put, panel: Panel, deep: float) -> Folded:
    """A boxed pocket on its panel: its front so far out, its sides and its bottom back to the cover."""
    (x, y), on = panel.sew_points.max(axis=0), hanging.here(put)
    high = float(y) - deep
    foot, right, up, out = (np.array(v) for v in (on.origin, on.right, on.up, on.out))
    low = foot - up * (deep + high / 2.0)
    half = x / 2.0 - deep

    def part(
        x0: float, y0: float, x1: float, y1: float, origin: np.ndarray, along: np.ndarray, upward: np.ndarray
    ) -> tuple[Points, Frame]:
        return np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)]), Frame(vector(origin), vector(along), vector(upward))

    return Folded(
        (
            part(deep, deep, x - deep, y, low - right * x / 2.0 + out * deep, right, up),
            part(deep, 0.0, x - deep, deep, foot - right * x / 2.0 - up * high / 2.0, right, out),
            part(x - deep, deep, x, y, low + right * half + out * x, -out, up),
            part(0.0, deep, deep, y, low - right * half, out, up),
        )
    )


def _mouth(put: Put, mouth: str) -> Finish:
    match mouth:
        case "hemmed":
            return double_hem(put.habit("pocket hem"), put.habit("pocket turn-under"))
        case "gathered by an elastic":
            return elastic_casing(put.habit("elastic"), put.habit("pocket turn-under"))
        case _:
            return BOUND


def _panel(put: Put, wide: Worked, deep: Worked, mouth: str) -> Panel:
    a, name = put.allowance, put.feature.name
    if mouth == DOUBLED:
        made = rectangle(name, wide, put.height * 2.0, bottom=a, right=a, top=a, left=a)
        x, y = wide.value, put.feature.height
        fold = Figure("fold", np.array([(0.0, y), (x, y)]))
        return _between_seams(put, replace(made, figures=(fold,)))
    top = _mouth(put, mouth)
    full = float(put.values["fullness"]) if mouth == GATHERED else 1.0
    across = (wide + deep * 2.0) * full
    if not deep.value:
        return _between_seams(put, rectangle(name, across, put.height, bottom=a, right=a, top=top, left=a, sources={"top": None}))
    d, x, y = deep.value, across.value, put.feature.height + deep.value
    points = [(d, 0), (x - d, 0), (x - d, d), (x, d), (x, y), (0, y), (0, d), (d, d)]
    names = ("bottom", "right corner up", "right corner out", "right", "top", "left", "left corner out", "left corner up")
    edges = tuple(
        Edge(n, line(points[i], points[(i + 1) % 8]), top if n == "top" else a, None if n == "top" else refs.SEAM_ALLOWANCE)
        for i, n in enumerate(names)
    )
    if put.picked("corners") == CLOSED:
        return panel_of(name, edges, across, put.height + deep, notes=(tr("boxed: close the two lower corners"),))
    left_open = min(put.habit("open corner"), d)
    share = left_open / d
    marks = tuple(
        Notch(edge, at, "open", MarkKind.POINT)
        for edge, at in (
            ("right corner up", share),
            ("right corner out", 1.0 - share),
            ("left corner out", share),
            ("left corner up", 1.0 - share),
        )
    )
    note = tr("boxed: close the two lower corners, but leave the lower {open} of each open", open=mm(left_open))
    return panel_of(name, edges, across, put.height + deep, notes=(note,), notches=marks)


def _between_seams(put: Put, plain_panel: Panel) -> Panel:
    """A pocket as wide as its panel has that panel's own sides, as much fuller as it is; where these are straight and upright it is the plain one."""
    ring = put.local * (plain_panel.length.value / float(np.ptp(put.local[:, 0])), 1.0)
    box = (ring.max(axis=0) - ring.min(axis=0)).prod()
    if not put.yes("full") or len(plain_panel.edges) != 4 or abs(shapely.Polygon(ring).area - box) < 0.01 * box:
        return plain_panel
    if put.picked("made") == DOUBLED:
        return plain_panel
    high, low = (ring[np.abs(ring[:, 1] - y) < LEVEL] for y in (float(ring[:, 1].max()), float(ring[:, 1].min())))
    if min(float(np.ptp(high[:, 0])), float(np.ptp(low[:, 0]))) < SHORTEST:
        raise Impossible(tr("the {panel} has no two sides there", panel=put.on), put.at("full"))
    left, right = high[high[:, 0].argmin()], high[high[:, 0].argmax()]
    turned = np.roll(ring, -int(np.flatnonzero((ring == left).all(axis=1))[0]), axis=0)
    down = turned[: int(np.flatnonzero((turned == right).all(axis=1))[0]) + 1]
    mouth = line((float(right[0]), float(right[1])), (float(left[0]), float(left[1])))
    edges = (
        Edge("sides and bottom", Trace(np.ascontiguousarray(down)), put.allowance),
        Edge("top", mouth, plain_panel.edge("top").finish, None),
    )
    there = float(np.ptp(ring[:, 1]))  # its panel may end before it does
    tall = (
        worked(tr("as high as the panel is there"), there, put.at("height"))
        if there < put.feature.height - LEVEL
        else plain_panel.width
    )
    return panel_of(plain_panel.name, edges, plain_panel.length, tall)


def _goods(put: Put, across: Worked, mouth: str) -> None:
    if mouth == "bound":
        put.bind(across)
    elif mouth == GATHERED:
        long = across + worked(tr("ends"), put.habit("elastic overlap")) * 2.0
        put.buy(
            tr("elastic"),
            long,
            note=tr("{wide} wide, in the mouth of {feature}", wide=mm(put.habit("elastic")), feature=put.name),
        )


def operations(f: Fixing) -> Iterator[Operation]:
    """Its mouth first, then its corners; basted on while its panel is flat, sewn on, divided; its flap last."""
    return in_turn(_operations(f))


def _operations(f: Fixing) -> Iterator[Operation]:
    main, ironed = f.main, f.choices.cloth.iron is not Iron.NEVER
    doubled = f.picked("made") == DOUBLED
    if doubled:
        words = tr("Fold {part}, sew it round but for a gap, and turn it", part=term(main))
        yield f.does(
            "double", "prepare part", words, Work(Pace.STRAIGHT, f.around(main) / 2.0), Work(Pace.FIXED, 3.0), on=(main,)
        )
    yield from prepared(f, main)
    if f.picked("mouth") == GATHERED and not doubled:
        words = tr("Draw the elastic into the mouth of {part} and sew both its ends", part=term(main))
        yield f.does("elastic", "prepare part", words, Work(Pace.FIXED, 3.0), on=(main,))
    if f.number("depth") and not doubled and not f.yes("full"):
        words = tr("Close the two lower corners of {part}", part=term(main))
        if f.picked("corners") == OPEN:
            words = tr("Close the two lower corners of {part}, but leave the lowest bit open as marked", part=term(main))
        yield f.does("box", "prepare part", words, Work(Pace.BOXED, 2.0), on=(main,))
    if not f.yes("full") and not doubled:
        words = (
            tr("Press the allowances of {part} under", part=term(main))
            if ironed
            else tr("Fold the allowances of {part} under", part=term(main))
        )
        yield f.does("press", "press part" if ironed else "score part", words, Work(Pace.PRESSING, f.around(main)), on=(main,))
    caught = tr("Baste {feature} to {host}: its sides are caught in the seams", feature=f.name, host=f.on)
    basted = tr("Baste {feature} on three sides to {host}", feature=f.name, host=f.on)
    mouth = Check(tr("mouth up, at its marks"))
    yield f.does(
        "baste",
        "baste part",
        caught if f.yes("full") else basted,
        Work(Pace.FIXED, 2.0),
        Work(Pace.PIN, f.around(main) / PINS_APART),
        checks=(mouth,),
    )
    words = tr("Sew {feature} to {host}, both mouth corners locked", feature=f.name, host=f.on)
    yield sewn_on(f, main, words, Work(Pace.POCKET, 0.4), Work(Pace.STRAIGHT, f.around(main)))
    parts = int(f.number("parts"))
    if parts > 1:
        words = tr("Stitch the divisions of {feature}", feature=f.name)
        yield f.does("divide", "stitch line", words, Work(Pace.TOPSTITCH, f.feature.height * (parts - 1.0)))
    if f.yes("flap"):
        yield from flapped(f, f.part("flap of "), f.picked("held"))


POCKET = Kind(
    key="pocket",
    words=tr("pocket"),
    about=tr("Sewn on while its panel is flat, its mouth up as it is worn."),
    lies=Lies.SEWN,
    put=pocket,
    options=OPTIONS,
    sizes=sizes,
    outline=outline,
    room=room,
    idle=idle,
    operations=operations,
)
