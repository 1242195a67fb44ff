"""The picture of a panel: cut line, sew line, folds, match marks, grain, name plate and dimensions."""

import math
from collections.abc import Sequence

import numpy as np
import shapely

from omnipel.core.drafting.cutline import cut_line, fold_lines
from omnipel.core.drafting.panel import MarkKind, Notch, Panel
from omnipel.core.drafting.seams import Trued
from omnipel.core.job.finish import FinishKind
from omnipel.core.pictures.drawing import Drawing, Item, Label, Path, together
from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.curves import Points
from omnipel.core.tolerances import CHORD_ERROR, CLIP_SHORT_OF_STITCH
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Phrase, Voice, bare, mm, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked

NOTCH_DEPTH = 5.0


def panel_drawing(
    panel: Panel,
    voice: Voice,
    text: float,
    *,
    dimensions: bool = True,
    notch_labels: bool = True,
    chord_error: float = CHORD_ERROR,
) -> Drawing:
    """Draw one panel. `text` is the height of its letters in mm (on paper 4; on screen what a few pixels measure)."""
    items: list[Item] = [Path(cut_line(panel), Layer.CUT, closed=True, fill=panel.cloth, ref=refs.panel(panel.name))]
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
    notch_labels = notch_labels and min(np.ptp(panel.sew_points, axis=0)) > 9.0 * text
    for notch in panel.notches:
        items += _notch(panel, notch, text * 0.8 if notch_labels else 0.0)
    items += _plate(panel, voice, text)
    if dimensions:
        items += _dimensions(panel, voice, text)
    return Drawing(tuple(items))


def notch_place(panel: Panel, notch: Notch) -> tuple[Points, float]:
    """Point of the notch on the sew line as `(2,)`, and the outward direction there, radians."""
    curve = panel.edge(notch.edge).curve
    return np.array(curve.at(notch.fraction)), curve.heading_at(notch.fraction) - math.pi / 2.0


def _notch(panel: Panel, notch: Notch, text: float) -> list[Item]:
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
        at = place - away * text * 0.9
        # Beside an upright edge the words end (or begin) at the edge, so that they stay on the panel.
        anchor = 1.0 if away[0] > 0.7 else 0.0 if away[0] < -0.7 else 0.5
        drawn.append(Label((float(at[0]), float(at[1] - text * 0.35)), notch.label, text, Layer.MARKS, anchor, ref=ref))
    return drawn


def _plate(panel: Panel, voice: Voice, text: float) -> list[Item]:
    """Name, count, sizes and the grain arrow, in the middle of the panel."""
    ring = shapely.Polygon(panel.sew_points)
    middle = ring.centroid if ring.contains(ring.centroid) else ring.representative_point()
    spans = np.ptp(panel.sew_points, axis=0)
    lines = [
        voice.say(term(panel.name)),
        voice.say(count_words(panel)),
        voice.say(tr("finished {size}", size=by(panel.length, panel.width))),
        voice.say(tr("cut {size}", size=by(panel.cut_length, panel.cut_width))),
    ]
    room = _fitting(ring, (middle.x, middle.y), max(map(len, lines)), len(lines), text, bool(panel.notches))
    top = middle.y + room * 1.4 * (len(lines) / 2.0 - 0.7)
    ref = refs.panel(panel.name)
    items: list[Item] = [
        Label((middle.x, top - i * room * 1.4), words, room, strong=i == 0, ref=ref) for i, words in enumerate(lines)
    ]
    along = np.array([math.cos(panel.grain), math.sin(panel.grain)])
    reach = 0.3 * float(abs(along) @ spans)
    below = top - len(lines) * room * 1.4
    if below > ring.bounds[1] + room:
        start, end = np.array([middle.x, below]) - along * reach, np.array([middle.x, below]) + along * reach
        head = room * 0.6
        across = np.array([-along[1], along[0]])
        items += [
            Path(np.array([start, end]), Layer.GRAIN, ref=ref),
            Path(
                np.array([end - along * head + across * head * 0.5, end, end - along * head - across * head * 0.5]),
                Layer.GRAIN,
                ref=ref,
            ),
            Path(
                np.array([start + along * head + across * head * 0.5, start, start + along * head - across * head * 0.5]),
                Layer.GRAIN,
                ref=ref,
            ),
        ]
    return items


def _fitting(ring: shapely.Polygon, middle: tuple[float, float], letters: int, lines: int, text: float, marked: bool) -> float:
    """The height of letters at which a block of words stays inside the panel and clear of its match marks."""
    room, size = ring.buffer(-1.8 * text) if marked else ring, text
    x, y = middle
    while size > 0.3 * text:
        half_wide, half_high = 0.25 * letters * size, 0.75 * lines * size
        if room.contains(shapely.box(x - half_wide, y - half_high, x + half_wide, y + half_high)):
            return size
        size *= 0.9
        if size < 0.6 * text:
            room = ring
    return size


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
    drawings = [panel_drawing(panel, voice, text, chord_error=text * 0.02) for panel in panels]
    boxes = [drawing.bounds for drawing in drawings]
    places = arranged([(x1 - x0, y1 - y0) for x0, y0, x1, y1 in boxes], text * 3.0, aspect)
    return together(drawing.moved(x - box[0], y - box[1]) for drawing, box, (x, y) in zip(drawings, boxes, places, strict=True))


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
