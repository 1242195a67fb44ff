"""The picture of a panel: cut line, sew line, folds, match marks, grain, name plate and dimensions."""

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from omnipel.core.drafting.cutline import cut_line, fold_lines
from omnipel.core.drafting.panel import MarkKind, Notch, Panel
from omnipel.core.drafting.seams import Trued
from omnipel.core.job.finish import FinishKind
from omnipel.core.pictures.drawing import Drawing, Item, Label, Path, together
from omnipel.core.pictures.labels import Room, box_of, extent
from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.curves import Points
from omnipel.core.tolerances import CHORD_ERROR, CLIP_SHORT_OF_STITCH
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Phrase, Voice, bare, mm, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked

NOTCH_DEPTH = 5.0
INWARD = (0.9, 2.0, 3.1)
"""A match mark's letters stand so many of their heights inside of the sew line, the first that is free."""
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
    chord_error: float = CHORD_ERROR,
) -> Drawing:
    """Draw one panel. `text` is the height of its letters in mm (on paper 4; on screen what a few pixels measure).

    No words lie over one another, over an opening or over a line drawn inside. The grain is an arrow, or pale `stripes` all over.
    """
    ring = cut_line(panel)
    items: list[Item] = [Path(ring, Layer.CUT, closed=True, fill=panel.cloth, ref=refs.panel(panel.name))]
    if stripes:
        items += _threads(panel, ring, text * STRIPES)
    items += [
        Path(e.curve.points(chord_error), Layer.SEW, ref=refs.panel(panel.name, e.name))
        for e in panel.edges
        if e.finish.kind is not FinishKind.FOLD
    ]
    items += [Path(points, Layer.FOLD, ref=refs.panel(panel.name, name)) for name, points in fold_lines(panel)]
    items += [
        Path(f.points, Layer.CUT if f.kind is MarkKind.CUT_OUT else Layer.FIGURE, f.closed, ref=refs.panel(panel.name, f.name))
        for f in panel.figures
        if len(f.points)
    ]
    room = _room(panel, text)
    for notch in panel.notches:
        items += _notch(panel, notch, text * 0.85 if notch_labels else 0.0, room)
    items += _plate(panel, voice, text, room, arrow=not stripes)
    if dimensions:
        items += _dimensions(panel, voice, text)
    return Drawing(tuple(items))


def _room(panel: Panel, text: float) -> Room:
    """Where words may stand on a panel: within its sew line, clear of what is drawn there."""
    shape = shapely.make_valid(shapely.Polygon(panel.sew_points)).buffer(-0.25 * text)
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


def _notch(panel: Panel, notch: Notch, text: float, room: Room) -> list[Item]:
    place, outward = notch_place(panel, notch)
    allowance = panel.edge(notch.edge).finish.allowance
    away = np.array([math.cos(outward), math.sin(outward)])
    outer = place + away * allowance
    ref = refs.panel(panel.name, notch.edge)
    if notch.kind is MarkKind.CLIP:
        return [Path(np.array([outer, place + away * min(CLIP_SHORT_OF_STITCH, allowance)]), Layer.MARKS, ref=ref)]
    depth = min(NOTCH_DEPTH, allowance * 0.6) if allowance else NOTCH_DEPTH
    across = np.array([-away[1], away[0]]) * depth * 0.5
    drawn: list[Item] = [Path(np.array([outer - across, outer - away * depth, outer + across]), Layer.MARKS, ref=ref)]
    if notch.label and text:
        # Beside an upright edge the words end (or begin) at the edge, so that they stay on the panel.
        anchor = 1.0 if away[0] > 0.7 else 0.0 if away[0] < -0.7 else 0.5
        for inward in INWARD:
            at = place - away * text * inward
            label = Label((float(at[0]), float(at[1] - text * 0.35)), notch.label, text, Layer.MARKS, anchor, ref=ref)
            box = box_of(label)
            if room.has(box):
                room.take(box.buffer(0.1 * text))
                drawn.append(label)
                break
    return drawn


def _plate(panel: Panel, voice: Voice, text: float, room: Room, *, arrow: bool) -> list[Item]:
    """Name, count, sizes and the grain: as much of it as there is room for inside; below the panel where there is none."""
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
            return [*(replace(label, ref=ref) for label in labels), *(_arrow(panel, text, room, ref) if arrow else ())]
    low, high = cut_line(panel).min(axis=0), cut_line(panel).max(axis=0)
    under = float(low[1]) - text * 4.2
    outside = Label((float(low[0] + high[0]) / 2.0, under), f"{name} · {short}", text, strong=True, ref=ref)
    return [outside, *(_arrow(panel, text, room, ref) if arrow else ())]


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
    if panel.mirrored:
        return tr("cut {n}, mirrored · {cloth}", n=Count(panel.count), cloth=term(panel.cloth))
    return tr("cut {n} · {cloth}", n=Count(panel.count), cloth=term(panel.cloth))


def by(length: Worked, width: Worked) -> Phrase:
    """Length and width of a panel."""
    return tr("{length} × {width}", length=bare(length.value), width=mm(width.value))


def _dimensions(panel: Panel, voice: Voice, text: float) -> list[Item]:
    """Cut length below and cut width at the left, outside the outline, with leaders."""
    low, high = cut_line(panel).min(axis=0), cut_line(panel).max(axis=0)
    gap, ref = text * 1.6, refs.panel(panel.name)
    y, x = float(low[1]) - gap, float(low[0]) - gap
    return [
        *_dimension(
            (float(low[0]), y),
            (float(high[0]), y),
            (0.0, 1.0),
            gap,
            text,
            voice.say(bare(panel.cut_length.value)),
            ref.at("cut_length"),
        ),
        *_dimension(
            (x, float(low[1])),
            (x, float(high[1])),
            (1.0, 0.0),
            gap,
            text,
            voice.say(bare(panel.cut_width.value)),
            ref.at("cut_width"),
        ),
    ]


def _dimension(
    a: tuple[float, float], b: tuple[float, float], towards: tuple[float, float], gap: float, text: float, words: str, ref: Ref
) -> list[Item]:
    start, end, leader = np.array(a), np.array(b), np.array(towards) * gap * 0.85
    along = (end - start) / (np.hypot(*(end - start)) or 1.0)
    across, head = np.array([-along[1], along[0]]), text * 0.4
    middle = (start + end) / 2.0
    angle = math.pi / 2.0 if abs(along[1]) > 0.5 else 0.0
    off = -text * 1.15 if not angle else -text * 0.35
    at = (float(middle[0] + (off if angle else 0.0)), float(middle[1] + (off if not angle else 0.0)))
    return [
        Path(np.array([start, end]), Layer.DIMENSION, ref=ref),
        *(Path(np.array([p - leader * 0.12, p + leader]), Layer.DIMENSION, ref=ref) for p in (start, end)),
        Path(
            np.array([start + (along + across * 0.5) * head, start, start + (along - across * 0.5) * head]),
            Layer.DIMENSION,
            ref=ref,
        ),
        Path(np.array([end - (along + across * 0.5) * head, end, end - (along - across * 0.5) * head]), Layer.DIMENSION, ref=ref),
        Label(at, words, text, Layer.DIMENSION, angle=angle, ref=ref),
    ]


def board(panels: Sequence[Panel], voice: Voice, text: float, aspect: float) -> Drawing:
    """All panels side by side in rows, so that the whole is about `aspect` times as wide as it is high."""
    drawings = [panel_drawing(panel, voice, text, stripes=True, chord_error=text * 0.02) for panel in panels]
    boxes = [extent(drawing) for drawing in drawings]
    places = arranged([(x1 - x0, y1 - y0) for x0, y0, x1, y1 in boxes], text * 1.6, aspect)
    return together(drawing.moved(x - box[0], y - box[1]) for drawing, box, (x, y) in zip(drawings, boxes, places, strict=True))


def fitted_board(panels: Sequence[Panel], voice: Voice, letter: float, wide: float, high: float) -> tuple[Drawing, float]:
    """The board as it fits into a frame, px, its letters so many px high there; and the height of these, mm.

    Larger letters take more room, which makes the board smaller: one goes half way at a time. Where panels are so many that their words alone fill
    the frame, the largest of what was tried is taken.
    """
    text, best = 30.0, (0.0, Drawing(()), 30.0)
    for _ in range(MOST_FITTED):
        drawing = board(panels, voice, text, wide / high)
        x0, y0, x1, y1 = extent(drawing)
        a_px = max((x1 - x0) / max(wide, 1.0), (y1 - y0) / max(high, 1.0), 1e-6)
        shown = text / a_px
        if shown > best[0]:
            best = shown, drawing, text
        if abs(shown - letter) < FITTED * letter:
            return drawing, text
        text = math.sqrt(text * letter * a_px)
    return best[1], best[2]


MOST_FITTED = 14
FITTED = 0.03
"""A board is fitted in so many steps at most, until its letters are as high as they should be but for this share."""


def arranged(sizes: Sequence[tuple[float, float]], gap: float, aspect: float) -> list[tuple[float, float]]:
    """Lower left corners for boxes in rows, in the order given, with the row width that fills the aspect best."""
    best: list[tuple[float, float]] = []
    best_scale = 0.0
    widest = max(w for w, _ in sizes)
    runs = {sum(w + gap for w, _ in sizes[i:j]) - gap for i in range(len(sizes)) for j in range(i + 1, len(sizes) + 1)}
    for width in sorted(run for run in runs if run >= widest * (1.0 - 1e-9)):
        places, wide, high = _rows(sizes, gap, width)
        scale = min(aspect / wide, 1.0 / high)
        if scale > best_scale:
            best, best_scale = places, scale
    return best


def _rows(sizes: Sequence[tuple[float, float]], gap: float, width: float) -> tuple[list[tuple[float, float]], float, float]:
    """Corners, whole width and height of boxes put in rows no wider than `width`; rows stand on their base line."""
    rows: list[list[int]] = [[]]
    x = 0.0
    for i, (w, _) in enumerate(sizes):
        if rows[-1] and x + w > width * 1.0001:
            rows.append([])
            x = 0.0
        rows[-1].append(i)
        x += w + gap
    places: dict[int, tuple[float, float]] = {}
    y = wide = 0.0
    for row in rows:
        high = max(sizes[i][1] for i in row)
        y -= high
        x = 0.0
        for i in row:
            places[i] = (x, y)
            x += sizes[i][0] + gap
        wide = max(wide, x - gap)
        y -= gap
    return [places[i] for i in range(len(sizes))], wide, -y - gap
