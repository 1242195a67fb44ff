"""The picture of a panel: cut line, sew line, folds, match marks, grain, name plate and dimensions."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from omnipel.core.drafting.cutline import cut_line, fold_lines
from omnipel.core.drafting.onfold import clipped
from omnipel.core.drafting.panel import Figure, MarkKind, Notch, Panel
from omnipel.core.drafting.seams import Trued
from omnipel.core.job.finish import FinishKind
from omnipel.core.pictures.dimensions import SMALL, below, dimensions_of
from omnipel.core.pictures.drawing import Drawing, Item, Label, Path
from omnipel.core.pictures.labels import Room, box_of, width_of
from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.curves import Points
from omnipel.core.plane.fold import Fold
from omnipel.core.tolerances import CHORD_ERROR, CLIP_SHORT_OF_STITCH, FOLD_ALIKE
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Phrase, Voice, bare, mm, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked

NOTCH_DEPTH = 5.0
INWARD = (0.9, 2.0, 3.1)
"""A match mark's letters stand so many of their heights inside of the sew line, the first that is free."""
KEPT = 1.5
"""A strip so many letters wide along the sew line is kept for match marks, where the name has room without it."""
STRIPES = 2.2
"""Threads that show the grain are so many letters apart."""


def panel_drawing(
    panel: Panel,
    voice: Voice,
    text: float,
    *,
    dimensions: bool = True,
    notch_labels: bool = True,
    stripes: bool = False,
    whole: bool = False,
    joins: BaseGeometry | None = None,
    chord_error: float = CHORD_ERROR,
) -> Drawing:
    """Draw one panel. `text` is the height of its letters in mm (on paper 4; on screen what a few pixels measure).

    No words lie over one another, over an opening or over a line drawn inside. The grain is an arrow, or pale `stripes` all over. A panel that is cut
    on the fold is drawn as the half that is marked out, unless the `whole` is wanted. The name does not lie over `joins` of the paper where it has room.
    """
    shown = Shown(panel, None if whole else panel.fold)
    ref = refs.panel(panel.name)
    items: list[Item] = []
    if shown.fold is None:
        items.append(Path(shown.ring, Layer.CUT, closed=True, fill=panel.cloth, ref=ref))
    else:
        items.append(Path(shown.ring, Layer.FOLD, closed=True, fill=panel.cloth, ref=ref))
        items += [Path(part, Layer.CUT, ref=ref) for part in shown.parts(cut_line(panel), closed=True)]
    if stripes:
        items += _threads(panel, shown.ring, text * STRIPES)
    for e in panel.edges:
        if e.finish.kind is not FinishKind.FOLD:
            items += [Path(p, Layer.SEW, ref=refs.panel(panel.name, e.name)) for p in shown.parts(e.curve.points(chord_error))]
    for name, points in fold_lines(panel):
        items += [Path(part, Layer.FOLD, ref=refs.panel(panel.name, name)) for part in shown.parts(points)]
    items += [drawn for figure in panel.figures if len(figure.points) for drawn in _figure(panel, figure, shown)]
    room = _room(panel, text, shown)
    placed = _on_fold(shown, voice, text, room)
    keep = replace(room, shape=room.shape.buffer(-KEPT * text))
    named: list[Item] = []
    if joins is not None and not joins.is_empty:
        off = replace(keep, taken=[*room.taken, joins])
        named = _plate(panel, voice, text, off)
        room.taken += off.taken[len(room.taken) + 1 :]
    named = named or _plate(panel, voice, text, keep)
    for mark in shown.marks():
        items += _mark(panel, mark, text * 0.85 if notch_labels else 0.0, room)
    small = dimensions and shown.fold is None and float(np.ptp(shown.ring, axis=0).max()) < SMALL * text
    named = named or _plate(panel, voice, text, room)
    items += [*placed, *(named or below(panel, voice, text, shown.ring, sized=small))]
    if not stripes:
        items += _arrow(panel, text, room, ref)
    if dimensions and (named or not small):
        items += dimensions_of(panel, voice, text, shown.ring, shown.fold)
    return Drawing(tuple(items))


@dataclass(frozen=True, eq=False)
class Marked:
    """A match mark or clip: its place on the sew line, the direction outward there, radians, and whether the half it is drawn in is the mirrored one."""

    notch: Notch
    place: Points
    outward: float
    turned: bool = False

    @property
    def into(self) -> Points:
        """From the corner at which it stands along its edge."""
        sense = (1.0 if self.notch.fraction < 0.5 else -1.0) * (-1.0 if self.turned else 1.0)
        return np.array((-math.sin(self.outward), math.cos(self.outward))) * sense

    def named(self, label: str) -> "Marked":
        """It with other letters."""
        return replace(self, notch=replace(self.notch, label=label))

    def mirrored(self, fold: Fold) -> "Marked":
        """It as it lies in the other half."""
        return Marked(self.notch, fold.mirrored(self.place[None])[0], 2.0 * fold.heading - self.outward, turned=True)


class Shown:
    """What is drawn of a panel: all of it, or the half that is marked out where it is cut on the fold."""

    def __init__(self, panel: Panel, fold: Fold | None) -> None:
        self.panel, self.fold = panel, fold
        whole = cut_line(panel)
        reach = 2.0 * float(np.ptp(whole, axis=0).sum()) + 1.0
        self.half = fold.half(reach) if fold is not None else None
        self.ring: Points = whole
        if self.half is not None:
            kept = shapely.make_valid(shapely.Polygon(whole)).intersection(self.half)
            self.ring = np.asarray(max(shapely.get_parts(kept), key=lambda part: part.area).exterior.coords)[:-1]

    def parts(self, points: Points, *, closed: bool = False) -> list[Points]:
        """What is seen of a line."""
        return [points] if self.half is None else list(clipped(points, self.half, closed=closed))

    def marks(self) -> Iterator[Marked]:
        """Every mark; those of the half that is not drawn lie over the other, in brackets."""
        placed = [Marked(notch, *notch_place(self.panel, notch)) for notch in self.panel.notches]
        if self.fold is None:
            yield from placed
            return
        fold = self.fold
        here = [mark for mark in placed if fold.side(mark.place[None])[0] >= -ON_FOLD]
        under = [mark.mirrored(fold) for mark in placed if fold.side(mark.place[None])[0] < -ON_FOLD]
        for mark in here:
            over = [u for u in under if u.notch.kind is mark.notch.kind and np.hypot(*(u.place - mark.place)) < ON_FOLD][:1]
            under = [u for u in under if u not in over]
            below = [f"({u.notch.label})" for u in over if u.notch.label not in ("", mark.notch.label)]
            yield mark.named(" ".join((mark.notch.label, *below)))
        for mark in under:
            yield mark.named(f"({mark.notch.label})" if mark.notch.label else "")


ON_FOLD = 1.0
"""Marks of both halves that lie over one another as near as this are one, mm."""


def _figure(panel: Panel, figure: Figure, shown: Shown) -> Iterator[Item]:
    """Something drawn inside a panel; a ring stays one where nothing of it is cut off."""
    layer = Layer.CUT if figure.kind is MarkKind.CUT_OUT else Layer.FIGURE
    ref = refs.panel(panel.name, figure.name)
    parts = shown.parts(figure.points, closed=figure.closed)
    whole = shown.fold is None or bool((shown.fold.side(figure.points) >= 0.0).all())
    if whole:
        yield Path(figure.points, layer, figure.closed, ref=ref)
    else:
        yield from (Path(part, layer, ref=ref) for part in parts)


def _on_fold(shown: Shown, voice: Voice, text: float, room: Room) -> list[Item]:
    """A bracket along the fold, its ends pointing at it, and what it means."""
    fold = shown.fold
    if fold is None:
        return []
    along = np.array((math.cos(fold.heading), math.sin(fold.heading)))
    up = np.array((-along[1], along[0]))
    near = shown.ring[np.abs(fold.side(shown.ring)) < FOLD_ALIKE]
    if len(near) < 2:
        return []
    low, high = float((near @ along).min()), float((near @ along).max())
    level = float(np.array(fold.at) @ up)

    def at(run: float, off: float) -> Points:
        return along * run + up * (level + off)

    ref = refs.panel(shown.panel.name)
    # Words are read from below or from the right.
    angle = math.remainder(fold.heading, math.pi)
    angle += math.pi if angle <= -math.pi / 2.0 + 1e-9 else 0.0
    off = DEEP * text + text * (0.5 if math.cos(angle - fold.heading) > 0.0 else 1.2)
    for words in (voice.say(tr("place on the fold of the cloth")), voice.say(tr("on the fold"))):
        half = width_of(words, text) / 2.0 + 0.6 * text
        middle, spare = (low + high) / 2.0, (high - low) / 2.0 - half
        for k in range(2 * TRIED + 1 if spare > 0.0 else 0):
            run = middle + spare * ((k + 1) // 2) / TRIED * (1.0 if k % 2 else -1.0)
            a, b, head = run - half, run + half, 0.4 * text
            box = shapely.Polygon(np.array((at(a, 0.3 * text), at(b, 0.3 * text), at(b, 2.4 * text), at(a, 2.4 * text))))
            if not room.has(box):
                continue
            room.take(box)
            ends = (np.array((at(x - head * 0.6, head), at(x, 0.0), at(x + head * 0.6, head))) for x in (a, b))
            bracket = np.array((at(a, 0.0), at(a, DEEP * text), at(b, DEEP * text), at(b, 0.0)))
            x, y = at(run, off).tolist()
            return [
                *(Path(line, Layer.GRAIN, ref=ref) for line in (bracket, *ends)),
                Label((x, y), words, text, Layer.GRAIN, angle=angle, ref=ref),
            ]
    return []


DEEP, TRIED = 0.9, 6
"""How deep a bracket along the fold is, as a share of the height of its letters; so many places to either side of the middle are tried for it."""


def _room(panel: Panel, text: float, shown: Shown) -> Room:
    """Where words may stand on a panel: within its sew line, clear of what is drawn there."""
    shape = shapely.make_valid(shapely.Polygon(panel.sew_points))
    if shown.half is not None:
        shape = shape.intersection(shown.half)
    shape = shape.buffer(-0.25 * text)
    taken: list[BaseGeometry] = []
    for figure in panel.figures:
        if not len(figure.points):
            continue
        if figure.closed and len(figure.points) > 2:
            drawn: BaseGeometry = shapely.LinearRing(figure.points)
            if figure.kind is MarkKind.CUT_OUT:
                drawn = shapely.make_valid(shapely.Polygon(figure.points))
        else:
            drawn = shapely.LineString(figure.points) if len(figure.points) > 1 else shapely.Point(figure.points[0])
        taken.append(drawn.buffer(0.2 * text))
    taken += [shapely.LineString(points).buffer(0.15 * text) for _, points in fold_lines(panel) if len(points) > 1]
    return Room(shape, taken)


def _threads(panel: Panel, ring: Points, apart: float) -> list[Item]:
    """Pale threads along the grain."""
    along = np.array((math.cos(panel.grain), math.sin(panel.grain)))
    across = np.array((-along[1], along[0]))
    low, high = float((ring @ across).min()), float((ring @ across).max())
    left, right = float((ring @ along).min()) - 1.0, float((ring @ along).max()) + 1.0
    at = np.arange(low + apart / 2.0, high, apart)
    if not 0 < len(at) <= MOST_THREADS:
        return []
    ends = np.stack((at[:, None] * across + left * along, at[:, None] * across + right * along), axis=1)
    inside = shapely.make_valid(shapely.Polygon(ring))
    for figure in panel.figures:
        if figure.kind is MarkKind.CUT_OUT and figure.closed and len(figure.points) > 2:
            inside = inside.difference(shapely.make_valid(shapely.Polygon(figure.points)))
    found = shapely.get_parts(shapely.intersection(shapely.linestrings(ends), inside))
    pairs = [np.asarray(part.coords) for part in found if isinstance(part, shapely.LineString) and part.length > 0.0]
    return [Path(np.concatenate(pairs), Layer.WEAVE, fill="thread", pairs=True)] if pairs else []


MOST_THREADS = 400


def notch_place(panel: Panel, notch: Notch) -> tuple[Points, float]:
    """Point of the notch on the sew line as `(2,)`, and the outward direction there, radians."""
    curve = panel.edge(notch.edge).curve
    return np.array(curve.at(notch.fraction)), curve.heading_at(notch.fraction) - math.pi / 2.0


def _mark(panel: Panel, mark: Marked, text: float, room: Room) -> list[Item]:
    notch, place = mark.notch, mark.place
    allowance = panel.edge(notch.edge).finish.allowance
    away = np.array([math.cos(mark.outward), math.sin(mark.outward)])
    outer = place + away * allowance
    ref = refs.panel(panel.name, notch.edge)
    if notch.kind is MarkKind.CLIP:
        return [Path(np.array([outer, place + away * min(CLIP_SHORT_OF_STITCH, allowance)]), Layer.MARKS, ref=ref)]
    drawn: list[Item] = []
    into = mark.into if notch.kind is MarkKind.CORNER else np.zeros(2)  # letters stand inside of the corner
    if notch.kind is not MarkKind.CORNER:
        depth = min(NOTCH_DEPTH, allowance * 0.6) if allowance else NOTCH_DEPTH
        across = np.array([-away[1], away[0]]) * depth * 0.5
        drawn.append(Path(np.array([outer - across, outer - away * depth, outer + across]), Layer.MARKS, ref=ref))
    if notch.label and text:
        # Beside an upright edge the words end (or begin) at the edge, so that they stay on the panel.
        anchor = 1.0 if away[0] > 0.7 else 0.0 if away[0] < -0.7 else 0.5
        half = width_of(notch.label, text) / 2.0 + 0.3 * text
        for inward, side in ((inward, side) for side in dict.fromkeys((anchor, 0.0, 1.0)) for inward in INWARD):
            at = place - away * text * inward + into * (half if anchor == 0.5 else 2.1 * text)
            beside = 0.0 if side == anchor else (0.4 if side == 0.0 else -0.4) * text
            where = float(at[0]) + beside, float(at[1] - text * 0.35)
            label = Label(where, notch.label, text, Layer.MARKS, side, ref=ref)
            box = box_of(label)
            if room.has(box):
                room.take(box.buffer(0.1 * text))
                drawn.append(label)
                break
    return drawn


def _plate(panel: Panel, voice: Voice, text: float, room: Room) -> list[Item]:
    """Name, count and sizes: as much of it as there is room for inside."""
    sizes = [
        voice.say(tr("finished {size}", size=by(panel.length, panel.width))),
        voice.say(tr("cut {size}", size=by(panel.cut_length, panel.cut_width))),
    ]
    name, count = voice.say(term(panel.name)), voice.say(count_words(panel))
    short = voice.say(tr("cut {n}", n=Count(panel.count)))
    ref = refs.panel(panel.name)
    for lines in ([name, count, *sizes], [name, count], [name, short], [f"{name} · {short}"], [name]):
        labels = room.block(lines, text)
        if labels is not None:
            room.take(*(box_of(label) for label in labels))
            return [replace(label, ref=ref) for label in labels]
    return []


def _arrow(panel: Panel, text: float, room: Room, ref: Ref) -> list[Item]:
    """The grain as an arrow, where it touches no words."""
    along = np.array([math.cos(panel.grain), math.sin(panel.grain)])
    across = np.array([-along[1], along[0]])
    spans = np.ptp(panel.sew_points, axis=0)
    for share in (0.3, 0.2, 0.12):
        reach = share * float(abs(along) @ spans)
        wide, high = abs(along) * 2.0 * reach + abs(across) * text
        at = room.middle(float(wide), float(high))
        if at is None:
            continue
        start, end, head = np.array(at) - along * reach, np.array(at) + along * reach, text * 0.6
        return [
            Path(np.array([start, end]), Layer.GRAIN, ref=ref),
            *(
                Path(
                    np.array([tip - way * head + across * head * 0.5, tip, tip - way * head - across * head * 0.5]),
                    Layer.GRAIN,
                    ref=ref,
                )
                for tip, way in ((end, along), (start, -along))
            ),
        ]
    return []


def seam_title(trued: Trued) -> Phrase:
    """What a seam is called, and how many there are like it."""
    name = term(trued.seam.name)
    return tr("{seam}, {n} times", seam=name, n=Count(trued.times)) if trued.times > 1 else name


def count_words(panel: Panel) -> Phrase:
    """How many are cut of a panel, and from what."""
    if panel.fold is not None:
        return tr("cut {n} on the fold · {cloth}", n=Count(panel.count), cloth=term(panel.cloth))
    if panel.mirrored:
        return tr("cut {n}, mirrored · {cloth}", n=Count(panel.count), cloth=term(panel.cloth))
    return tr("cut {n} · {cloth}", n=Count(panel.count), cloth=term(panel.cloth))


def by(length: Worked, width: Worked) -> Phrase:
    """Length and width of a panel."""
    return tr("{length} × {width}", length=bare(length.value), width=mm(width.value))
