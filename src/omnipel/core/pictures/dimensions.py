"""The sizes of a panel beside its drawing."""

import math
from typing import Final

import numpy as np

from omnipel.core.drafting.panel import Panel
from omnipel.core.pictures.drawing import Item, Label, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.curves import Points
from omnipel.core.plane.fold import Fold
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Voice, bare, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked

SMALL: Final = 7.0
"""A panel shorter than so many times the height of its letters has its name and its size below it, without leaders."""


def below(panel: Panel, voice: Voice, text: float, ring: Points, *, sized: bool) -> list[Item]:
    """The name of a panel that has no room for it, below it: with its cut size (`sized`), or below its dimensions."""
    (left, low), (right, _) = ring.min(axis=0).tolist(), ring.max(axis=0).tolist()
    size = voice.say(tr("{length} × {width}", length=bare(panel.cut_length.value), width=bare(panel.cut_width.value)))
    name = f"{voice.say(term(panel.name))} · {voice.say(tr('cut {n}', n=Count(panel.count)))}"
    middle, ref = (left + right) / 2.0, refs.panel(panel.name)
    if not sized:
        return [Label((middle, low - 4.2 * text), name, text, strong=True, ref=ref)]
    return [
        Label((middle, low - 1.5 * text), name, text, strong=True, ref=ref),
        Label((middle, low - 2.8 * text), size, text, Layer.DIMENSION, ref=ref.at("cut_length")),
    ]


def dimensions_of(panel: Panel, voice: Voice, text: float, ring: Points, fold: Fold | None) -> list[Item]:
    """Cut length below and cut width at the left, outside the outline, with leaders; of a half how far it reaches from the fold."""
    low, high = ring.min(axis=0), ring.max(axis=0)
    gap, ref = text * 1.6, refs.panel(panel.name)
    y, x = float(low[1]) - gap, float(low[0]) - gap
    halved = None if fold is None else abs(math.sin(fold.heading)) > 0.5  # whether the fold stands upright

    def told(size: Worked, *, half: bool) -> str:
        return voice.say(tr("{half} to the fold", half=bare(size.value / 2.0)) if half else bare(size.value))

    long, wide = told(panel.cut_length, half=halved is True), told(panel.cut_width, half=halved is False)
    ends = (float(low[0]), y), (float(high[0]), y)
    sides = (x, float(low[1])), (x, float(high[1]))
    return [
        *_dimension(*ends, (0.0, 1.0), gap, text, long, ref.at("cut_length")),
        *_dimension(*sides, (1.0, 0.0), gap, text, wide, ref.at("cut_width")),
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
