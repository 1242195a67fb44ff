"""Five panels over a box that slopes or tapers: its planes moved outward by u, each panel what two neighbours cut out of one.

`u` is square to every plane, so the gap is the same all over; corners are where three planes meet. Walls stand upright, so that each is a trapezoid on its
level lower edge; the top is laid flat in its own plane.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final

import numpy as np

from omnipel.core.covers.scheme import CORNERED, Brief, Cover, Passage, inside, passages
from omnipel.core.drafting.panel import Edge, Panel
from omnipel.core.drafting.pieces import Piece, placed
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.drafting.shapes import outline
from omnipel.core.forms.body import over_top
from omnipel.core.forms.taper import Tilted, slopes, tapers
from omnipel.core.job.findings import Impossible
from omnipel.core.plane.curves import Points, line
from omnipel.core.space.frames import Frame, Solid, vector
from omnipel.core.space.placements import Flat
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, tr
from omnipel.core.words.working import Worked, through

SIDES: Final = ("front", "right", "back", "left")
"""Each wall lies between the corners of its number and the next."""
OTHER_WAY: Final = {"left edge": "right edge", "right edge": "left edge"}


@dataclass(frozen=True)
class Shell:
    """The box moved outward by u, made from its numbers again and again, so that every size knows how it moves with them."""

    inputs: tuple[Worked, ...]
    """Length, width, height, front, left width, left height, drop, u."""
    lift: float = 0.0
    """How much higher its top lies for what stands up on a top that slopes, mm."""

    def corners(self, *values: float) -> Solid:
        """Upper then lower corners `(8, 3)`, heights above the lower edge of the cover."""
        *sizes, drop, u = values
        box = Tilted(*sizes)
        made = box.corners(u, box.height - drop)
        made[:, 2] -= box.height - drop
        made[:4, 2] += self.lift
        return made

    @property
    def placed(self) -> Solid:
        """The corners as they are."""
        return self.corners(*(number.value for number in self.inputs))

    def size(self, words: Phrase, rule: Callable[[Solid], float]) -> Worked:
        """A size of the shell."""
        how = tr("where the planes meet that stand off the object all round")
        return through(words, how, lambda *values: rule(self.corners(*values)), *self.inputs)


def tilted(body: Any, brief: Brief, seams: Sequence[Seam]) -> Cover:
    """Top and four walls, each a panel of its own, joined as five panels are."""
    u = brief.u((body.length + body.width) * 2.0)
    left = body.left
    ends = (left.width, left.height) if left is not None and tapers(body) else (body.width, body.height)
    front = body.front_height if slopes(body) else body.height  # what is level enough is covered as level
    shell = Shell((body.length, body.width, body.height, front, *ends, body.drop, u), _lift(body))
    at = shell.placed
    if at[:4, 2].min() <= 0.0:
        raise Impossible(tr("the cover ends above the lowest corner of the top"), refs.reading("drop"))
    lift = np.array((0.0, 0.0, body.ends))
    twins = _twins(body)
    names = ["long wall" if 2 in twins else "front wall", "short wall" if 3 in twins else "right wall", "back wall", "left wall"]
    walls = [_wall(shell, brief, k, names[k]) for k in range(4)]
    top, lid = _top(shell, brief)
    pieces: list[Piece] = [placed(top, Flat(_moved(lid, lift)), clear=u.value)]
    for k, side in enumerate(SIDES):
        ends_ = (at[4 + k], at[4 + (k + 1) % 4])
        begin, end = reversed(ends_) if k in twins else ends_
        along = (end - begin) / np.linalg.norm(end - begin)
        place = Flat(Frame(vector(begin + lift), vector(along), (0.0, 0.0, 1.0)))
        pieces.append(placed(walls[twins.get(k, k)], place, f"{side} wall", mirrored=k in twins, clear=u.value))
    cut = [wall for k, wall in enumerate(walls) if k not in twins]
    ring = walls[0].length + walls[1].length + walls[2].length + walls[3].length
    spans = walls[0].length, max((walls[1].length, walls[3].length), key=lambda size: size.value)
    brief.note(
        **{f"{wall.name.replace(' ', '_')}_cut_length": wall.cut_length for wall in cut},
        **{f"{wall.name.replace(' ', '_')}_cut_height": wall.cut_width for wall in cut},
        top_cut_length=top.cut_length,
        top_cut_width=top.cut_width,
    )
    return brief.cover(
        (top, *cut),
        pieces,
        [_with_twins(seam, {f"{SIDES[k]} wall" for k in twins}) for seam in seams],
        openings={"lower edge": Run("front wall", "lower edge")},
        profile=_profile(body, brief, shell, inside(brief, ring, CORNERED), tuple(span - brief.t for span in spans)),
        seams_across=4,
        turns=CORNERED,
    )


def _profile(body: Any, brief: Brief, shell: Shell, ring: Worked, spans: tuple[Worked, ...]) -> tuple[Passage, ...]:
    """What it lets through: all of its ring from where the lowest corner of the object's top is, and as much as it is cut there at the level of its highest."""
    low = body.height.value - float(body.tilted.corners(0.0, 0.0)[:4, 2].min())
    full = passages((low, max(body.drop.value, low + 1.0)), ring, *spans)
    if low <= 1.0:
        return full
    top = body.drop.value
    around = shell.size(tr("around at the top"), lambda corners: _around(_section(corners, top)))
    wide = [shell.size(tr("across at the top"), lambda corners, i=i: float(np.ptp(_section(corners, top)[:, i]))) for i in (0, 1)]  # type: ignore[misc]
    return (Passage(0.0, inside(brief, around, CORNERED), tuple(span - brief.t for span in wide)), *full)


def _section(corners: Solid, height: float) -> Points:
    """The level section of the shell so high above its lower edge: its plan as far as the top is higher than that, `(k, 2)`."""
    made = []
    for (x, y, z), (x2, y2, z2) in zip(corners[:4], np.roll(corners[:4], -1, axis=0), strict=True):
        if z >= height:
            made.append((x, y))
        if (z >= height) is not (z2 >= height):
            share = (height - z) / (z2 - z)
            made.append((x + share * (x2 - x), y + share * (y2 - y)))
    return np.array(made or [(0.0, 0.0)])


def _around(ring: Points) -> float:
    return float(np.linalg.norm(ring - np.roll(ring, 1, axis=0), axis=1).sum())


def _lift(body: Any) -> float:
    """What stands up in the middle is as high on all sides: over its edges a sloping top has to lie higher than the drop over its middle says, mm."""
    _, to_right, to_back = body.tilted.top
    return over_top(body.sticks_out, abs(to_right) + abs(to_back))[0] - over_top(body.sticks_out)[0]


def _twins(body: Any) -> dict[int, int]:
    """The walls that are cut from the pattern of the one opposite, turned over: the back where nothing slopes, the left end where nothing tapers."""
    return ({} if slopes(body) else {2: 0}) | ({} if tapers(body) else {3: 1})


def _with_twins(seam: Seam, turned: set[str]) -> Seam:
    """A seam with the edges of pieces that are turned over: what was their left edge is the right one of the pattern, walked the other way."""

    def run(old: Run) -> Run:
        if old.piece not in turned:
            return old
        return Run(old.piece, OTHER_WAY.get(old.edge, old.edge), reversed=not old.reversed)

    return replace(seam, a=tuple(map(run, seam.a)), b=tuple(map(run, seam.b)))


def _wall(shell: Shell, brief: Brief, k: int, name: str) -> Panel:
    """A trapezoid on its level lower edge, seen from outside."""
    end = (k + 1) % 4
    at = shell.placed

    def length(corners: Solid) -> float:
        return float(np.linalg.norm(corners[4 + end] - corners[4 + k]))

    taller = k if at[k, 2] > at[end, 2] else end
    long = shell.size(tr("length of the wall"), length)
    high = shell.size(tr("height at its higher side"), lambda corners: float(corners[taller, 2]))
    ring = [(0.0, 0.0), (long.value, 0.0), (long.value, float(at[end, 2])), (0.0, float(at[k, 2]))]
    names = ("lower edge", "right edge", "top edge", "left edge")
    hem, a = (brief.choices.hem, refs.HEM), (brief.seam, refs.SEAM_ALLOWANCE)
    edges = tuple(Edge(n, line(ring[i], ring[(i + 1) % 4]), *(hem if n == "lower edge" else a)) for i, n in enumerate(names))
    return outline(name, edges, long, high)


def _flat(corners: Solid) -> tuple[Points, Frame]:
    """The top laid flat in its own plane, from its front left corner, `(4, 2)`, and that plane: its middle line runs to the right."""
    origin, front, back = corners[0], corners[1] - corners[0], corners[2] - corners[3]
    along = front / np.linalg.norm(front) + back / np.linalg.norm(back)
    right = along / np.linalg.norm(along)
    out = np.cross(front, corners[3] - corners[0])
    up = np.cross(out / np.linalg.norm(out), right)
    flat = np.column_stack(((corners[:4] - origin) @ right, (corners[:4] - origin) @ up))
    return flat, Frame(vector(origin), vector(right), vector(up))


def _top(shell: Shell, brief: Brief) -> tuple[Panel, Frame]:
    """The top, seen from above."""
    ring, frame = _flat(shell.placed)
    long, wide = (
        shell.size(words, lambda corners, i=i: float(np.ptp(_flat(corners)[0][:, i])))  # type: ignore[misc]
        for i, words in enumerate((tr("length of the top"), tr("width of the top")))
    )
    points = [(float(x), float(y)) for x, y in ring]
    edges = tuple(
        Edge(name, line(points[i], points[(i + 1) % 4]), brief.seam, refs.SEAM_ALLOWANCE) for i, name in enumerate(SIDES)
    )
    return outline("top", edges, long, wide), frame


def _moved(frame: Frame, by: Solid) -> Frame:
    return Frame(vector(np.array(frame.origin) + by), frame.right, frame.up)
