"""The picture of a lay: the cloth with its selvages, what is squared off and what is bought, and every piece where it is cut, numbered in that order.

x runs along the bolt from the squared end, y up across it from the selvage that distances are measured from (or the fold).
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache
from typing import Final

import numpy as np
import shapely

from omnipel.core.cloth.cuts import Cut
from omnipel.core.cloth.lay import Lay, by_the_piece
from omnipel.core.cloth.sheets import Ground
from omnipel.core.job.laying import Placed
from omnipel.core.nesting.shape import turned
from omnipel.core.pictures.drawing import Drawing, Item, Label, Path
from omnipel.core.pictures.labels import ASCENT, Room, width_of
from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Count, Voice, bare, mm, tr
from omnipel.core.words.refs import Of, Ref

BEYOND: Final = 0.12
"""So much of the bolt is seen beyond what is used, as a share of that."""
LEAST_BEYOND: Final = 120.0
"""But no less, mm."""
MOST_LINES: Final = 400
"""More lines of a pattern than this are not drawn."""
FINE: Final = 0.02
"""Outlines are drawn no further off than this, as a share of the height of letters: a quarter of a px on screen."""


def piece_ref(lay: Lay, key: str) -> Ref:
    """What is meant by a piece of a lay."""
    return Ref(Of.LAY, lay.layer.value, key)


def seen_length(lay: Lay, ground: Ground) -> float:
    """How much of a ground is drawn, from its squared end on, mm."""
    if not math.isinf(ground.length):
        return ground.length
    if by_the_piece(lay.sheet):
        return lay.sheet.cloth.cut_piece
    needed = max(lay.there - lay.sheet.ends, lay.length + lay.sheet.ends, 300.0)
    return needed + max(LEAST_BEYOND, needed * BEYOND)


def lay_drawing(lay: Lay, ground: Ground, voice: Voice, text: float, *, numbers: bool = True) -> Drawing:
    """A ground with what lies on it; `text` is the height of its letters, mm."""
    items = list(_cloth(lay, ground, voice, text))
    for number, placed in enumerate(lay.on(ground), 1):
        items += _piece(lay, placed, voice, text, number if numbers else 0)
    return Drawing(tuple(items))


def _cloth(lay: Lay, ground: Ground, voice: Voice, text: float) -> Iterator[Item]:
    long, wide = seen_length(lay, ground), ground.width
    bolt = math.isinf(ground.length) and not by_the_piece(lay.sheet)
    ends = lay.sheet.ends if bolt else 0.0
    yield Path(_box(-ends, 0.0, long, wide), Layer.DIMENSION, closed=True, fill="cloth")
    yield from _pattern(lay, long, wide)
    if ends:
        yield Path(_box(-ends, 0.0, 0.0, wide), Layer.FACE, closed=True, fill="object", tone=0.8, hatched=True)
    for y in (0.0, wide):
        yield Path(np.array(((-ends, y), (long, y))), Layer.FOLD if lay.sheet.folded and y == 0.0 else Layer.OUTLINE)
    yield Path(np.array(((0.0, 0.0), (0.0, wide))), Layer.FOLD if bolt else Layer.OUTLINE)
    if not bolt:
        yield Path(np.array(((long, 0.0), (long, wide))), Layer.OUTLINE)
    border = voice.say(tr("fold") if lay.sheet.folded else tr("selvage"))
    yield Label((0.0, -text * 1.35), border, text, anchor=0.0)
    told = tr("{width} wide", width=mm(wide))
    yield Label((0.0, wide + text * 0.5), voice.say(told), text, anchor=0.0)
    for ring in ground.avoid:
        yield Path(np.array(ring), Layer.MARKS, closed=True, fill="trim", tone=0.9, hatched=True)
    if bolt and lay.on(ground):
        yield from _bought(lay, wide, voice, text, border)


def _bought(lay: Lay, wide: float, voice: Voice, text: float, border: str) -> Iterator[Item]:
    """Where the last piece ends, and the steps that are sold beside it."""
    used, cloth = lay.length, lay.sheet.cloth
    if lay.sheet.ends:
        yield Path(_box(used, 0.0, used + lay.sheet.ends, wide), Layer.FACE, closed=True, fill="object", tone=0.8, hatched=True)
    begun = -lay.sheet.ends
    at = begun + lay.there
    words = [(at, voice.say(tr("buy {length}", length=mm(lay.bought.value))), Layer.TAPE)]
    before = lay.bought.value - cloth.sold_by
    if cloth.sold_by and before >= cloth.least and lay.used.value - before * cloth.left_by_wash[0] > 1e-6:
        words.append((begun + before * cloth.left_by_wash[0], voice.say(mm(before)), Layer.MARKS))
    clear = True
    for x, said, layer in words:
        yield Path(np.array(((x, -text * 0.6), (x, wide + text * 0.4))), layer)
        if clear or words[0][0] - x > width_of(said, text) + text:
            anchor = 0.0 if clear and len(words) > 1 and words[0][0] - words[1][0] < 3.0 * text else 0.5
            left = x - anchor * width_of(said, text, strong=clear)
            low = 1.6 if left > width_of(border, text) + text * 0.4 else 2.9  # not over what the border is called
            yield Label((x, -text * low), said, text, anchor=anchor, strong=clear)
        clear = False


def _pattern(lay: Lay, long: float, wide: float) -> Iterator[Item]:
    """Where the cloth's pattern comes again."""
    along, across = lay.sheet.cloth.repeat_along, lay.sheet.cloth.repeat_across
    lines: list[tuple[float, float]] = []
    if along and long / along < MOST_LINES:
        for x in np.arange(0.0, long + 1e-9, along):
            lines += [(float(x), 0.0), (float(x), wide)]
    if across and wide / across < MOST_LINES:
        for y in np.arange(0.0, wide + 1e-9, across):
            lines += [(0.0, float(y)), (long, float(y))]
    if lines:
        yield Path(np.array(lines), Layer.WEAVE, pairs=True)


def _box(x0: float, y0: float, x1: float, y1: float) -> Points:
    return np.array(((x0, y0), (x1, y0), (x1, y1), (x0, y1)))


def _piece(lay: Lay, placed: Placed, voice: Voice, text: float, number: int) -> Iterator[Item]:
    cut, ref, at = lay.sheet.by_key[placed.piece], piece_ref(lay, placed.piece), (placed.x, placed.y)
    rings = [cut.ring]
    if cut.panel is not None and not cut.on_fold:
        rings.append(cut.on_cloth(cut.panel.sew_points))
    drawn = [_thinned(np.ascontiguousarray(ring, dtype=np.float64).tobytes(), placed.turn, text * FINE) for ring in rings]
    yield Path(drawn[0] + at, Layer.CUT, closed=True, fill="outer", ref=ref)
    for sewn in drawn[1:]:
        yield Path(sewn + at, Layer.SEW, closed=True, ref=ref)
    for label in labels_of(cut, drawn[0], voice, text, number, placed.locked):
        yield replace(label, at=(label.at[0] + placed.x, label.at[1] + placed.y), ref=ref)


@lru_cache(maxsize=512)
def _thinned(ring: bytes, turn: float, within: float) -> Points:
    """An outline turned, with as few corners as can be seen."""
    whole = turned(np.frombuffer(ring).reshape(-1, 2), turn)
    thin: Points = shapely.get_coordinates(shapely.simplify(shapely.LinearRing(whole), within))[:-1]
    return thin if len(thin) > 2 else whole


def labels_of(cut: Cut, ring: Points, voice: Voice, text: float, number: int, locked: bool) -> Iterator[Label]:
    """Number, name and size where there is room for them; else what goes in, in the end its number alone."""
    name = voice.say(cut.words)
    size = voice.say(tr("{long} × {wide}", long=bare(cut.size[0]), wide=bare(cut.size[1] * (2.0 if cut.on_fold else 1.0))))
    more = [
        voice.say(words)
        for words, said in ((tr("on the fold"), cut.on_fold), (tr("mirrored"), cut.turned_over), (tr("locked"), locked))
        if said
    ]
    head = f"{number} · {name}" if number else name
    alone = voice.say(Count(number))
    blocks = ((head, size, *more), (head, size), (head,), *(((alone,),) if number else ()))
    found = _block(ring.tobytes(), blocks, text)
    if found:
        yield from found
    elif number:  # too small for anything inside: beside it
        (_, y0), (x1, y1) = ring.min(axis=0), ring.max(axis=0)
        yield Label((float(x1) + text * 0.2, float(y0 + y1) / 2.0 - text * ASCENT / 2.0), alone, text, anchor=0.0)


@lru_cache(maxsize=512)
def _block(ring: bytes, blocks: tuple[tuple[str, ...], ...], text: float) -> tuple[Label, ...]:
    """The first of several blocks of words for which an outline has room; nothing where it has none."""
    room = Room(shapely.Polygon(np.frombuffer(ring).reshape(-1, 2)).buffer(-text * 0.25))
    return next((tuple(found) for lines in blocks if (found := room.block(lines, text)) is not None), ())
