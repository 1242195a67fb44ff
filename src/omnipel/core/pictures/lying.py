"""Pieces as they lie on the bench in the middle of the work: flat ones beside or on one another, what is joined already as it stands in space.

In a flat picture one piece lies right side up; another that is to be joined to it lies on it with its wrong side up, its edge on that edge. The
edges that are worked along stand out, with where one starts, the way one goes, the stitch line and the pins.
"""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.drafting.pieces import named
from omnipel.core.drafting.seams import Run
from omnipel.core.pictures.board import arranged
from omnipel.core.pictures.drawing import Drawing, Item, Label, Path
from omnipel.core.pictures.folding import fold
from omnipel.core.pictures.labels import clear_of, width_of
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.scene import Scene
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.sheets import Sheet
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import cover_sheets, shown
from omnipel.core.plane.curves import Points
from omnipel.core.space.placements import normals
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, Voice, term, tr
from omnipel.core.words.refs import Ref

WRONG: Final = 1.3
"""The wrong side of cloth is drawn so much lighter."""
RIGHT: Final = 1.0
APART: Final = 0.35
"""What is about to be joined stands off by this share of the size of all."""
LETTER: Final = 0.034
"""Letters are so high, as a share of the picture's longer side."""
PIN: Final = 0.5
"""A pin is so long, in letters."""
MOST_PINS: Final = 14
FACES: Final = 0.15
"""What faces who looks by more than this is seen."""
ENOUGH: Final = 0.45
"""The usual side shows enough where it shows this share of what is worked along."""
ROOMY: Final = 1.2
"""Names take so many times the room that their letters do."""
ASPECT: Final = 1.4
PEEPS: Final = 0.22
"""Of folded cloth the lower layer peeps out by so many letters, so that it is seen that there are two."""


@dataclass(frozen=True, slots=True)
class Lies:
    """What lies on the bench.

    Args:
        on: names of the pieces that are worked on; the second of two that are joined lies on the first.
        edges: the edges that are worked along.
        sewn: numbers of the cover's seams that are sewn already.
        pins: how many pins are drawn along the edges.
        wrong: whether a single piece lies with its wrong side up, as to be hemmed.
        lit: what stands out in a picture in space.
        folded: whether two edges of one piece are brought together.
        apart: whether each is worked on by itself: they lie side by side.
        letters: how high they are, as a share of the picture's longer side.
    """

    on: tuple[str, ...]
    edges: tuple[Run, ...] = ()
    sewn: frozenset[int] = frozenset()
    pins: int = 0
    wrong: bool = False
    lit: frozenset[Ref] = frozenset()
    folded: bool = False
    apart: bool = False
    letters: float = LETTER


def parts(cover: Cover, sewn: frozenset[int]) -> Mapping[str, frozenset[str]]:
    """By piece of the surface all those that it is joined to already, itself among them."""
    groups: dict[str, set[str]] = {piece.name: {piece.name} for piece in cover.pieces if not piece.on}
    for i in sewn:
        names = {run.piece for side in cover.seams[i].sides for run in side if run.piece in groups}
        merged = set().union(*(groups[name] for name in names)) if names else set()
        for name in merged:
            groups[name] = merged
    return {name: frozenset(group) for name, group in groups.items()}


def closed(cover: Cover, sewn: frozenset[int]) -> frozenset[str]:
    """Pieces that are joined to themselves: tubes, boxed corners."""
    sides = ({run.piece for side in cover.seams[i].sides for run in side} for i in sewn)
    return frozenset(name for names in sides if len(names) == 1 for name in names)


def lying(cover: Cover, lies: Lies, voice: Voice, view: View | None = None) -> Drawing:
    """The picture of what lies on the bench."""
    joined = parts(cover, lies.sewn)
    groups = list(dict.fromkeys(joined.get(name, frozenset({name})) for name in lies.on if name in cover.flat))
    hidden = not {piece.name for piece in shown(cover)} & set(
        lies.on
    )  # it hangs beneath others: only flat is anything seen of it
    if not hidden and (any(len(group) > 1 for group in groups) or closed(cover, lies.sewn) & set(lies.on)):
        return standing(cover, groups, lies, view or _seen_best(cover, lies))
    if len(groups) == 2 and lies.edges and not lies.apart:
        return _joined(cover, lies, voice)
    if lies.folded and (drawing := folded(cover, lies, voice)) is not None:
        return drawing
    return _beside(cover, lies, voice)


def standing(cover: Cover, groups: Sequence[frozenset[str]], lies: Lies, view: View) -> Drawing:
    """What is joined already, as it is sewn; what is about to be joined to it stands off."""
    names = frozenset().union(*groups)
    on = {piece.name for piece in cover.pieces if piece.on in names and not piece.feature}
    made = [_sheets(_part_of(cover, group | (on if k == 0 else frozenset()), lies.sewn)) for k, group in enumerate(groups)]
    made = [sheets for sheets in made if sheets]
    if not made:
        return Drawing(())
    first, rest = made[0], made[1:]
    everything = np.concatenate([ring for sheets in made for sheet in sheets for ring in sheet.rings])
    size, middle = float(np.ptp(everything, axis=0).max()), _middle(first)
    moved: list[Sheet] = list(first)
    for sheets in rest:
        way = _middle(sheets) - middle
        far = float(np.linalg.norm(way))
        way = way / far if far > 1e-6 * size else np.array((0.0, 0.0, 1.0))
        before = sum(len(sheet.rings) for sheet in moved)
        moved += [_after(sheet, before).moved(way * APART * size) for sheet in sheets]
    panel_of = cover.panel_of
    edges = {refs.panel(panel_of[run.piece], run.edge) for run in lies.edges}
    return drawn(Scene(tuple(moved), meshed=False), view, lies.lit | edges)


def _after(sheet: Sheet, facets: int) -> Sheet:
    """A sheet that comes after so many facets of others: what lies beyond its seams is found there."""
    drawn_ = tuple(
        one if one.mate is None else replace(one, mate=np.where(one.mate >= 0, one.mate + facets, -1)) for one in sheet.drawn
    )
    return replace(sheet, drawn=drawn_)


def _seen_best(cover: Cover, lies: Lies) -> View:
    """From where what is worked on is seen: from the usual side, or from behind or below where it lies there."""
    pieces = named(cover.pieces)
    out = []
    for run in lies.edges:
        piece, curve = pieces[run.piece], cover.flat[run.piece].edge(run.edge).curve
        inward = np.array([curve.at(share) for share in (0.25, 0.5, 0.75)])
        facing = normals(piece.place, inward)
        out.append(-facing if piece.mirrored else facing)
    if not out:
        return View()
    usual, ways = View(), np.concatenate(out)
    views = [View(usual.yaw + k * math.pi / 2.0, pitch) for pitch in (usual.pitch, -usual.pitch) for k in range(4)]
    shares = [float((ways @ view.matrix()[2] > FACES).mean()) for view in views]
    return views[0] if shares[0] >= ENOUGH else views[int(np.argmax(shares))]


def _sheets(cover: Cover) -> tuple[Sheet, ...]:
    return cover_sheets(cover) if cover.pieces else ()


def _middle(sheets: Sequence[Sheet]) -> np.ndarray:
    points = np.concatenate([ring for sheet in sheets for ring in sheet.rings])
    middle: np.ndarray = (points.min(axis=0) + points.max(axis=0)) / 2.0
    return middle


def _part_of(cover: Cover, names: frozenset[str], sewn: frozenset[int]) -> Cover:
    """What is there of a cover: some of its pieces, joined as far as they are."""
    alone = len(names) == 1  # what hangs behind another is seen while it is by itself
    pieces = tuple(
        replace(piece, on=piece.on if piece.on in names else "", behind=piece.behind and not alone)
        for piece in cover.pieces
        if piece.name in names
    )
    kept = {piece.panel for piece in pieces}

    def there(runs: Sequence[Run]) -> bool:
        return all(run.piece in names for run in runs)

    seams = tuple(seam for i, seam in enumerate(cover.seams) if i in sewn and there((*seam.a, *seam.b)))
    edges = tuple(edge for edge in cover.edges if there(edge.runs))
    panels = tuple(
        replace(panel, cloth=Cloth.OUTER) if panel.cloth is Cloth.LINING else panel
        for panel in cover.panels
        if panel.name in kept
    )
    openings = {name: run for name, run in cover.openings.items() if run.piece in names}
    lain = {key: one for key, one in cover.lying.items() if one.piece in names}
    ribbons = {key: cover.ribbons[key] for key in lain if key in cover.ribbons}
    return replace(cover, panels=panels, pieces=pieces, seams=seams, edges=edges, openings=openings, lying=lain, ribbons=ribbons)


def _ring(panel: Panel, *, turned: bool) -> Points:
    ring = cut_line(panel)
    return ring * (-1.0, 1.0) if turned else ring


def _joined(cover: Cover, lies: Lies, voice: Voice) -> Drawing:
    """The smaller piece on the larger, wrong side up, edge on edge, middle on middle."""
    below, above = lies.on[0], lies.on[-1]
    if (
        cover.flat[above].length.value * cover.flat[above].width.value
        > cover.flat[below].length.value * cover.flat[below].width.value
    ):
        below, above = above, below  # the larger one lies below: else nothing is seen of the other
    mine = [run for run in lies.edges if run.piece == below]
    other = [run for run in lies.edges if run.piece == above]
    if not mine or not other:
        return _beside(cover, lies, voice)
    under, over = cover.flat[below], cover.flat[above]
    turned = {piece.name: piece.mirrored for piece in cover.pieces}
    base = _way(under, mine, turned=turned[below])
    laid = _way(over, other, turned=not turned[above])
    move = _onto(laid, base)
    rings = [_ring(under, turned=turned[below]), move(_ring(over, turned=not turned[above]))]
    text = lies.letters * _size(rings)
    items = [*_cloth(rings[0], RIGHT), *_cloth(rings[1], WRONG)]
    items += [Path(move(curve), Layer.SEW) for curve in _curves(over, turned=not turned[above])]
    items += _worked(move(laid), lies.pins, text, voice)
    items.append(_below(tr("{piece}, right side up", piece=term(below)), rings[0], rings, text, voice))
    items.append(_above(tr("{piece}, wrong side up", piece=term(above)), rings[1], rings, text, voice))
    return _legible(items)


def folded(cover: Cover, lies: Lies, voice: Voice) -> Drawing | None:
    """One piece folded so that the edges that are to be joined lie on one another; None where they do not meet by folding once."""
    name = next((name for name in lies.on if name in cover.flat), "")
    runs = [run for run in lies.edges if run.piece == name]
    if not name or len(runs) != 2:
        return None
    turned = {piece.name: piece.mirrored for piece in cover.pieces}[name]
    panel = cover.flat[name]
    one, other = (_way(panel, [run], turned=turned) for run in runs)
    made = fold(_ring(panel, turned=turned), one, other)
    if made is None:
        return None
    text = lies.letters * _size([made.below, made.above])
    peeps = np.array((PEEPS, -PEEPS)) * text
    items = [*_cloth(made.below + peeps, RIGHT), *_cloth(made.above, WRONG)]
    if len(made.line):
        items.append(Path(made.line, Layer.FOLD))
    items += _worked(other, lies.pins, text, voice)
    rings = [made.below + peeps, made.above]
    items.append(_below(tr("{piece}, folded right sides together", piece=term(name)), made.above, rings, text, voice))
    return _legible(items)


def _onto(laid: Points, base: Points) -> "Move":
    """Moves one way onto another, middle on middle, both going the same way there: that is where one pins first."""
    (there, along), (here, goes) = (_middle_of(way) for way in (laid, base))
    turn = math.atan2(float(goes[1]), float(goes[0])) - math.atan2(float(along[1]), float(along[0]))
    return Move(turn, there, here)


def _middle_of(way: Points) -> tuple[Points, Points]:
    """The middle of a line, and the way it goes there."""
    runs = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(way, axis=0).T))))
    return _at(way, runs, float(runs[-1]) / 2.0)


@dataclass(frozen=True)
class Move:
    """Turns about a place and moves that to another."""

    angle: float
    about: Points
    to: Points

    def __call__(self, points: Points) -> Points:
        """Points moved, `(n, 2)`."""
        c, s = math.cos(self.angle), math.sin(self.angle)
        moved: Points = (points - self.about) @ np.array(((c, s), (-s, c))) + self.to
        return moved


def _way(panel: Panel, runs: Sequence[Run], *, turned: bool) -> Points:
    """The line along some edges, in the order in which they are walked."""
    lines = []
    for run in runs:
        points = panel.edge(run.edge).curve.points(0.2)
        lines.append(points[::-1] if run.reversed else points)
    whole = np.concatenate(lines)
    keep = np.concatenate(([True], np.hypot(*np.diff(whole, axis=0).T) > 1e-9))
    whole = whole[keep]
    return whole * (-1.0, 1.0) if turned else whole


def _curves(panel: Panel, *, turned: bool) -> list[Points]:
    lines = [edge.curve.points(0.2) for edge in panel.edges]
    return [line * (-1.0, 1.0) for line in lines] if turned else lines


def _size(rings: Sequence[Points]) -> float:
    return float(np.ptp(np.concatenate(rings), axis=0).max())


def _cloth(ring: Points, tone: float) -> Iterator[Item]:
    """A piece of cloth and its border."""
    yield Path(ring, Layer.FACE, closed=True, fill="cloth", tone=tone)
    yield Path(ring, Layer.CONTOUR, closed=True)


def _worked(way: Points, pins: int, text: float, voice: Voice) -> Iterator[Item]:
    """The line that is worked along: where one starts, which way one goes, pins across it."""
    yield Path(way, Layer.LIT)
    runs = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(way, axis=0).T))))
    long = float(runs[-1])
    for share in (np.arange(min(pins, MOST_PINS)) + 0.5) / max(1, min(pins, MOST_PINS)) if pins else ():
        at, along = _at(way, runs, share * long)
        across = np.array((-along[1], along[0])) * PIN * text
        yield Path(np.array((at - across, at + across)), Layer.MARKS)
    angles = np.linspace(0.0, 2.0 * math.pi, 17)[:-1]
    yield Path(way[0] + np.column_stack((np.cos(angles), np.sin(angles))) * text * 0.35, Layer.TAPE, closed=True)
    at, along = _at(way, runs, long * 0.6)
    across = np.array((-along[1], along[0]))
    head = np.array((at - (along - across * 0.6) * text * 0.5, at, at - (along + across * 0.6) * text * 0.5))
    yield Path(head, Layer.TAPE)
    yield Label((float(way[0][0]), float(way[0][1])), voice.say(tr("start")), text, strong=True)


def _legible(items: Sequence[Item]) -> Drawing:
    """The drawing with the word at the start moved to where it lies over as little as can be."""
    placed = [item for item in items if isinstance(item, Path) or not item.strong]
    for label in (item for item in items if isinstance(item, Label) and item.strong):
        placed.append(clear_of(label, 0.5 * label.size, placed))
    return Drawing(tuple(placed))


def _at(way: Points, runs: np.ndarray, along: float) -> tuple[Points, Points]:
    """A place so far along a line, and the way it goes there."""
    k = min(int(np.searchsorted(runs, along, side="right")) - 1, len(way) - 2)
    step = way[k + 1] - way[k]
    unit = step / max(float(np.hypot(*step)), 1e-9)
    return way[k] + unit * (along - runs[k]), unit


def _below(words: Phrase, ring: Points, rings: Sequence[Points], text: float, voice: Voice) -> Label:
    """What the lower piece is called, below everything, under its own middle."""
    low = float(np.concatenate(rings)[:, 1].min())
    return Label((float(ring[:, 0].mean()), low - text * 1.6), voice.say(words), text)


def _above(words: Phrase, ring: Points, rings: Sequence[Points], text: float, voice: Voice) -> Label:
    """What the upper piece is called, above everything, over its own middle."""
    high = float(np.concatenate(rings)[:, 1].max())
    return Label((float(ring[:, 0].mean()), high + text * 0.9), voice.say(words), text)


def _beside(cover: Cover, lies: Lies, voice: Voice) -> Drawing:
    """Pieces side by side, the edges that are worked along standing out."""
    names = [name for name in lies.on if name in cover.flat]
    if not names:
        return Drawing(())
    turned = {piece.name: piece.mirrored is not lies.wrong for piece in cover.pieces}
    rings = {name: _ring(cover.flat[name], turned=turned[name]) for name in names}
    called = {name: voice.say(_called(name, lies, alone=len(names) == 1)) for name in names}
    spans = {name: (float(np.ptp(ring[:, 0])), float(np.ptp(ring[:, 1]))) for name, ring in rings.items()}
    text = _letters(spans, called, lies.letters)
    boxes = [(max(wide, ROOMY * width_of(called[name], text)), high + 2.2 * text) for name, (wide, high) in spans.items()]
    places = arranged(boxes, 1.5 * text, ASPECT)
    items: list[Item] = []
    for name, (x, y), (room, _) in zip(names, places, boxes, strict=True):
        by = np.array((x + (room - spans[name][0]) / 2.0, y + 2.2 * text)) - rings[name].min(axis=0)
        items += _cloth(rings[name] + by, WRONG if lies.wrong else RIGHT)
        for figure in cover.flat[name].figures:
            points = (figure.points * (-1.0, 1.0) if turned[name] else figure.points) + by
            items.append(Path(points, Layer.FIGURE, closed=figure.closed))
        ways = [_way(cover.flat[name], [run], turned=turned[name]) + by for run in lies.edges if run.piece == name]
        items += [Path(way, Layer.LIT) for way in ways[1:]]
        items += _worked(ways[0], lies.pins, text, voice) if ways else ()
        items.append(Label((x + room / 2.0, y + 0.7 * text), called[name], text))
    return _legible(items)


def _called(name: str, lies: Lies, *, alone: bool) -> Phrase:
    """What a piece is called, and which side lies up where it lies alone."""
    if not alone:
        return term(name)
    words = term(name)
    return tr("{piece}, wrong side up", piece=words) if lies.wrong else tr("{piece}, right side up", piece=words)


def _letters(spans: Mapping[str, tuple[float, float]], called: Mapping[str, str], share: float) -> float:
    """How high letters are: as a share of what all pieces together will take up."""
    text = 0.0
    for _ in range(4):
        boxes = [(max(wide, ROOMY * width_of(called[name], text)), high + 2.2 * text) for name, (wide, high) in spans.items()]
        places = arranged(boxes, 1.5 * text, ASPECT)
        ends = np.array([(x + wide, y + high) for (x, y), (wide, high) in zip(places, boxes, strict=True)])
        whole = ends.max(axis=0) - np.array(places).min(axis=0)
        text = share * float(max(whole[0], whole[1] * ASPECT))
    return text
