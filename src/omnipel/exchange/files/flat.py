"""What a file for a drawing program or a cutter holds: panels below one another, one of them, or the pieces as they lie on a cloth."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Final

import numpy as np

from omnipel.core.cloth.cuts import Cut, layers_of
from omnipel.core.cloth.drawn import labels_of, seen_length
from omnipel.core.cloth.lay import Lay, laid
from omnipel.core.cloth.sheets import Ground
from omnipel.core.draft import Draft, Drafted
from omnipel.core.drafting.panel import Panel
from omnipel.core.job.laying import Placed
from omnipel.core.nesting.shape import turned
from omnipel.core.pictures.drawing import Drawing, Item, Label, Path, together
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.sheet import panel_drawing
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Name, Phrase, Refusal, Voice, listed, plain, term, tr

TEXT: Final = 5.0
"""Height of letters, mm."""
APART: Final = 20.0
"""Panels stand so far from one another, mm."""
LAY: Final = "lay"
CLOTH: Final = Layer.OUTLINE
"""The layer of the cloth's own edges."""


class NoSuchPart(Refusal):
    """There is no such panel or cloth; says which there are."""


@dataclass(frozen=True, eq=False)
class Piece:
    """Something to be cut: what it is called in files, the panel it is cut from, and all that is drawn of it where it lies."""

    name: str
    panel: str
    drawing: Drawing


@dataclass(frozen=True, eq=False)
class Flat:
    """Pieces beside one another, in the order in which they are cut, and the cloths they lie on as rings.

    `end` is how far cloth goes, mm; None where it is endless or there is none.
    """

    name: str
    pieces: tuple[Piece, ...]
    cloths: tuple[Points, ...] = ()
    end: float | None = None
    ways: dict[object, list[Any]] = field(default_factory=dict, repr=False)
    """The ways of each tool, once `routes` has found them."""

    @cached_property
    def drawing(self) -> Drawing:
        """All of it, the edges of its cloths first."""
        edges = Drawing(tuple(Path(ring, CLOTH, closed=True) for ring in self.cloths))
        return together([edges, *(piece.drawing for piece in self.pieces)])

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """xmin, ymin, xmax, ymax of everything."""
        return self.drawing.bounds


def parts(draft: Draft) -> list[tuple[str, Phrase]]:
    """What a file can be made of, by the key that asks for it: all panels, each by itself, each cloth with its pieces."""
    if not isinstance(draft, Drafted) or not draft.panels:
        return []
    return _parts(draft, [laid(draft, layer) for layer in layers_of(draft)])


def _parts(draft: Drafted, lays: list[Lay]) -> list[tuple[str, Phrase]]:
    found: list[tuple[str, Phrase]] = [("", tr("all panels"))]
    found += [(panel.name, tr("{panel} alone", panel=term(panel.name))) for panel in draft.panels]
    for lay in lays:
        layer = lay.layer
        used = [ground for ground in lay.grounds if lay.on(ground)]
        for n, ground in enumerate(used, 1):
            words = tr("lay of the {cloth} cloth", cloth=term(layer))
            if len(used) > 1:
                words = tr("lay of the {cloth} cloth, {on}", cloth=term(layer), on=ground.name if ground.name else plain(str(n)))
            found.append((f"{LAY}:{layer.value}" + (f":{n}" if n > 1 else ""), words))
    return found


def flat(draft: Drafted, voice: Voice, of: str = "") -> Flat:
    """The pieces that are asked for: "" all panels, a panel's name, or a cloth's lay as `parts` calls it; "lay" alone is the first.

    Raises:
        NoSuchPart: there is none of that name.
    """
    if of not in ("", *(panel.name for panel in draft.panels)):
        return _of_lay(draft, voice, of)
    panels = [panel for panel in draft.panels if of in ("", panel.name)]
    return Flat(draft.job.name if not of else f"{draft.job.name} · {of}", tuple(_stacked(panels, voice)))


def _of_lay(draft: Drafted, voice: Voice, of: str) -> Flat:
    """What lies on a cloth; every cloth is laid only where one is asked for."""
    lays = [laid(draft, layer) for layer in layers_of(draft)]
    known = [key for key, _ in _parts(draft, lays)]
    if of == LAY:
        of = next((key for key in known if key.startswith(f"{LAY}:")), of)
    if of not in known:
        there = listed([plain(key) for key in known if key], ", ")
        raise NoSuchPart(tr("there is no “{part}” here; there are {others}", part=Name(of), others=there))
    layer, _, nth = of.removeprefix(f"{LAY}:").partition(":")
    lay = next(lay for lay in lays if lay.layer.value == layer)
    used = [ground for ground in lay.grounds if lay.on(ground)]
    return _laid(draft, lay, used[int(nth or 1) - 1], voice)


def _stacked(panels: list[Panel], voice: Voice) -> Iterator[Piece]:
    y = 0.0
    for panel in panels:
        drawing = panel_drawing(panel, voice, TEXT, whole=True)
        x0, y0, _, y1 = drawing.bounds
        yield Piece(panel.name, panel.name, drawing.moved(-x0, y - y1))
        y -= y1 - y0 + APART


def _laid(draft: Drafted, lay: Lay, ground: Ground, voice: Voice) -> Flat:
    """What lies on a cloth, in the order of cutting; x from its squared end, y from the selvage."""
    pieces = []
    for number, placed in enumerate(lay.on(ground), 1):
        cut = lay.sheet.by_key[placed.piece]
        pieces.append(
            Piece(placed.piece, cut.panel.name if cut.panel is not None else "", _piece(lay, cut, placed, voice, number))
        )
    long = seen_length(lay, ground)
    ring = np.array(((0.0, 0.0), (long, 0.0), (long, ground.width), (0.0, ground.width)))
    end = None if math.isinf(ground.length) else ground.length
    return Flat(f"{draft.job.name} · {lay.layer.value}", tuple(pieces), (ring,), end)


def _piece(lay: Lay, cut: Cut, placed: Placed, voice: Voice, number: int) -> Drawing:
    """A piece with all its marks, where it lies. Of a half on the fold its outline alone: its marks lie in both layers."""
    words = [
        replace(label, at=(label.at[0] + placed.x, label.at[1] + placed.y))
        for label in labels_of(cut, turned(cut.ring, placed.turn), voice, TEXT, number, placed.locked)
    ]
    if cut.panel is None or cut.on_fold:
        return Drawing((Path(lay.outline(placed), Layer.CUT, closed=True), *words))
    drawn = panel_drawing(cut.panel, voice, TEXT, dimensions=False, whole=True)
    there = (item for item in drawn.items if isinstance(item, Path) or item.layer is Layer.MARKS)
    return Drawing((*(_moved(item, cut, placed) for item in there), *words))


def _moved(item: Item, cut: Cut, placed: Placed) -> Item:
    """Something drawn on a panel as it lies on the cloth; words stay to be read, whichever way the piece is turned."""

    def there(points: Points) -> Points:
        moved: Points = turned(cut.on_cloth(points), placed.turn) + (placed.x, placed.y)
        return moved

    if isinstance(item, Path):
        points = there(item.points)
        return replace(item, points=points[::-1].copy() if cut.mirrored and item.closed else points)
    way = np.array((math.cos(item.angle), math.sin(item.angle)))
    at, ahead = there(np.array((item.at, np.array(item.at) + way)))
    angle = math.atan2(*(ahead - at)[::-1])
    upside_down = math.cos(angle) < -1e-9
    return Label(
        (float(at[0]), float(at[1])),
        item.words,
        item.size,
        item.layer,
        1.0 - item.anchor if upside_down else item.anchor,
        angle + math.pi if upside_down else angle,
        item.strong,
    )
