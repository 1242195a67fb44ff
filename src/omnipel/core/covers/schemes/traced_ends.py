"""Traced ends and gusset: the end is a traced outline moved outward by u; the gusset is as long as that outline without its bottom.

Corners and places where a curve begins are match marks. Corners can be rounded to ease the sewing; the gusset follows.
"""

import numpy as np
import shapely

from omnipel.core.covers.options import length, yes
from omnipel.core.covers.scheme import CORNERED, Brief, Cover, Passage, Scheme, inside
from omnipel.core.covers.schemes.between_ends import corners_cut_in, lower_edge, stand, strip, to_ends
from omnipel.core.drafting.panel import Edge
from omnipel.core.drafting.shapes import outline
from omnipel.core.forms.abilities import Ability, Outlined
from omnipel.core.job.findings import Impossible
from omnipel.core.plane.curves import Points, Trace, line, quarter_chords
from omnipel.core.plane.trace import LEVELS, chord, corners_of, grown_ring, polyline_length
from omnipel.core.tolerances import CHORD_ERROR
from omnipel.core.words import refs
from omnipel.core.words.phrases import Rule, mm, tr, trn
from omnipel.core.words.working import Worked, through

OPTIONS = (
    length(
        "rounding",
        tr("round the corners by"),
        why=tr("0: as traced. A radius of {radius} and more goes under the foot without a stop.", radius=Rule(30.0, 1.25)),
        high=1000.0,
    ),
    yes("round_growth", tr("corners grow round"), False, tr("Kept corners look like the object; round ones lie closer.")),
    length("lift", tr("lower edge above the ground"), why=tr("{lift} keeps it dry.", lift=Rule(15.0, 5 / 8)), high=5000.0),
)


def draft(body: Outlined, brief: Brief) -> Cover:
    """Two ends and the gusset between them."""
    across, sides = body.across, body.sides
    deep = through(tr("depth of the outline"), tr("as traced"), lambda *s: float(np.ptp(body.outline(*s)[:, 0])), *sides)
    u = brief.u((across + deep) * 2.0)

    # Sizes
    around = Around(body, brief)
    path = around.path(u.value, *(side.value for side in sides))
    traced = through(
        tr("outline without its bottom"),
        tr("moved outward by clearance and half the thickness"),
        lambda *at: polyline_length(around.path(*at)),
        u,
        *sides,
    )
    gusset_long = brief.size("gusset_finished_length", traced)
    gusset_wide = brief.size("gusset_finished_width", across + u * 2.0)

    # Panels
    a, hem = brief.seam, brief.choices.hem
    stretches = _stretches(path)
    edges = [Edge("bottom", line(tuple(path[-1]), tuple(path[0])), hem, refs.HEM)]
    edges += [
        Edge(f"side {i}", Trace(p) if len(p) > 2 else line(tuple(p[0]), tuple(p[1])), a) for i, p in enumerate(stretches, 1)
    ]
    end = outline("end", tuple(edges))
    gusset = strip(brief, "gusset", gusset_long, gusset_wide)
    brief.note(
        end_finished_width=end.length,
        end_finished_height=end.width,
        end_cut_width=end.cut_length,
        end_cut_height=end.cut_width,
        gusset_cut_length=gusset.cut_length,
        gusset_cut_width=gusset.cut_width,
    )

    # Pieces and seams
    middle = float(body.ring[:, 0].max()) / 2.0
    clear = min(u.value, brief.t.value / 2.0 - around.cuts_in(u, brief.number("rounding")))
    pieces = stand(gusset, end, float(path[:, 1].min()), middle=middle, mirrored=True, clear=clear)
    seams = to_ends(gusset, end, mirrored=True)
    return brief.cover(
        (end, gusset),
        pieces,
        seams,
        openings=lower_edge(gusset),
        profile=_profile(body, around, u, gusset_wide, brief),
        seams_across=4,
        turns=CORNERED,
        findings=corners_cut_in(brief, lambda radius: around.cuts_in(u, radius)),
    )


class Around:
    """The outline moved outward and cut off below, for the sides and the distance it is asked for; each is worked out once."""

    def __init__(self, body: Outlined, brief: Brief) -> None:
        self.body, self.brief = body, brief
        self.known: dict[tuple[float, ...], Points] = {}

    def path(self, u: float, *sides: float) -> Points:
        """The open outline `(n, 2)` from its right foot over the top to its left foot, `u` outside the body."""
        return self._rounded_by(self.brief.number("rounding"), u, *sides)

    def plain(self, u: float, *sides: float) -> Points:
        """The same without its corners rounded."""
        return self._rounded_by(0.0, u, *sides)

    def _rounded_by(self, radius: float, u: float, *sides: float) -> Points:
        at, lift = (radius, u, *sides), self.brief.number("lift")
        if at not in self.known:
            self.known[at] = (
                _rounded(self.plain(u, *sides), lift, radius)
                if radius > CHORD_ERROR
                else _without_bottom(_grown(self.body.outline(*sides), u, self.brief), lift)
            )
        return self.known[at]

    def cuts_in(self, u: Worked, radius: float) -> float:
        """By how much corners rounded by a radius cut into the body's own above the lower edge, mm; negative when they clear them."""
        path = self._rounded_by(radius, u.value, *(side.value for side in self.body.sides))
        whole = self.body.ring
        ring = whole[whole[:, 1] > path[:, 1].min()]
        if not len(ring):
            return 0.0
        gap = shapely.distance(shapely.points(ring), shapely.LineString(path))
        cover = shapely.Polygon(path)
        shapely.prepare(cover)
        return float(np.where(shapely.contains_xy(cover, ring), -gap, gap).max() + self.brief.t.value / 2.0)


def _grown(ring: Points, u: float, brief: Brief) -> Points:
    """The outline moved outward."""
    return grown_ring(ring, u, rounded=brief.yes("round_growth")) if u > 0.0 else ring


def _rounded(path: Points, lift: float, rho: float) -> Points:
    """The open outline with its corners rounded; its feet stand where they stood.

    Raises:
        Impossible: corners so round leave nothing of it.
    """
    # Both sides run on below the lower edge, so that only what is above it is rounded.
    ends = np.array([_run_on(path[0], path[1], 2.0 * rho), _run_on(path[-1], path[-2], 2.0 * rho)])
    if ends[0, 0] <= ends[1, 0]:  # they would cross
        ends = np.array([path[0] - (0.0, 2.0 * rho), path[-1] - (0.0, 2.0 * rho)])
    kept = (
        shapely.make_valid(shapely.Polygon(np.vstack((path, ends[1], ends[0]))))
        .buffer(-rho)
        .buffer(rho, quad_segs=quarter_chords(rho))
    )
    if not isinstance(kept, shapely.Polygon) or kept.is_empty or kept.bounds[3] <= lift:
        raise Impossible(tr("corners of radius {radius} leave nothing of the outline", radius=mm(rho)), refs.option("rounding"))
    ring = np.ascontiguousarray(shapely.get_coordinates(shapely.normalize(kept).simplify(0.005))[-2::-1])
    return _without_bottom(ring, lift)


def _run_on(foot: Points, before: Points, by: float) -> Points:
    """Where a side comes to when it runs straight on below its foot."""
    along = foot - before
    length = float(np.hypot(*along)) or 1.0
    down = along / length if along[1] < 0.0 else np.array([0.0, -1.0])
    return np.asarray(foot + down * by)


def _without_bottom(ring: Points, lift: float) -> Points:
    """The outline above the lower edge, open, from its right foot over the top to its left foot; `(n, 2)`.

    Raises:
        Impossible: nothing is above it, or it stands on several feet.
    """
    low, high = ring.min(axis=0), ring.max(axis=0)
    if lift >= high[1]:
        raise Impossible(tr("the lower edge lies above the whole outline"), refs.option("lift"))
    # The cover is open below: what was moved outward under the ground is cut off with the bottom.
    above = shapely.Polygon(ring).intersection(shapely.box(low[0] - 1.0, lift, high[0] + 1.0, high[1] + 1.0))
    parts = [p for p in getattr(above, "geoms", [above]) if isinstance(p, shapely.Polygon) and p.area > 1.0]
    if len(parts) != 1:
        raise Impossible(
            trn(
                "the outline does not stand on {n} foot at the lower edge: raise or lower it",
                "the outline stands on {n} separate feet at the lower edge: raise or lower it",
                len(parts),
            ),
            refs.option("lift"),
        )
    closed = shapely.get_coordinates(shapely.normalize(shapely.Polygon(parts[0].exterior)))[-2::-1]
    on_floor = np.abs(closed[:, 1] - lift) < 1e-6
    feet = np.flatnonzero(on_floor)
    right, left = feet[closed[feet, 0].argmax()], feet[closed[feet, 0].argmin()]
    rolled = np.roll(closed, -right, axis=0)
    path = rolled[: (left - right) % len(closed) + 1]
    if len(path) < 3:
        raise Impossible(tr("the lower edge leaves nothing of the outline above it"), refs.option("lift"))
    if (np.abs(path[1:-1, 1] - lift) < 1e-6).any():
        raise Impossible(tr("the outline stands on separate feet at the lower edge: raise or lower it"), refs.option("lift"))
    return np.ascontiguousarray(path)


def _stretches(path: Points) -> list[Points]:
    """The open outline parted at its corners, so that each corner is a match mark."""
    cuts = [0, *corners_of(path, closed=False), len(path) - 1]
    return [path[i : k + 1] for i, k in zip(cuts, cuts[1:], strict=False) if k > i]


def _profile(body: Outlined, around: Around, u: Worked, wide: Worked, brief: Brief) -> tuple[Passage, ...]:
    """What it lets through from the top down: at each depth the chord of the end, and the gusset's width; rounded corners are judged by themselves."""
    high = float(body.outline(*(side.value for side in body.sides))[:, 1].max())
    made = []
    for share in LEVELS:

        def chord_there(out: float, *sides: float, part: float = share) -> float:
            path, top = around.plain(out, *sides), float(body.outline(*sides)[:, 1].max())
            return chord(path, max(float(path[:, 1].min()) + 1e-6, top * (1.0 - part)))

        across = through(tr("across the end there"), tr("from side to side of the outline"), chord_there, u, *body.sides)
        girth = wide * 2.0 + across * 2.0
        low = float(around.plain(u.value, *(side.value for side in body.sides))[:, 1].min())
        depth = high - max(low + 1e-6, high * (1.0 - share))
        made.append(Passage(depth, inside(brief, girth, CORNERED), (wide - brief.t, across - brief.t)))
    return tuple(made)


SCHEME = Scheme(
    "traced-ends",
    tr("Traced ends and gusset"),
    tr("Two shaped ends and one long strip between them."),
    frozenset({Ability.OUTLINED}),
    OPTIONS,
    draft,
    without=frozenset({refs.CLOSING_ALLOWANCE, refs.EASE_DROP}),
    trimmed=("gusset",),
)
