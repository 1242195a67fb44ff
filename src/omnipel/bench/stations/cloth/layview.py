"""The lay as it is seen and pushed about: pieces are dragged, stop at their neighbours, are turned and locked; no overlap can be made."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picture import PictureView
from omnipel.bench.parts.ruler import EDGE, paint_edge
from omnipel.bench.session import Session
from omnipel.core.cloth.drawn import lay_drawing, piece_ref, seen_length
from omnipel.core.cloth.lay import Lay, by_the_piece
from omnipel.core.cloth.said import place_words
from omnipel.core.cloth.sheets import BOLT, Ground
from omnipel.core.job.laying import Placed
from omnipel.core.nesting.placing import Placed as Lying
from omnipel.core.nesting.placing import slid
from omnipel.core.nesting.problem import Problem
from omnipel.core.pictures.labels import extent
from omnipel.core.words.phrases import Phrase, tr
from omnipel.core.words.refs import Of, Ref

LETTER: Final = 13
"""Height of the letters in a lay, px."""
STEADY: Final = 1.03
"""Letters keep their height in the lay until they would be larger by this on screen."""
STEP: Final = 10.0
"""An arrow key moves a piece by so much, mm, with Shift by a tenth of it."""
ARROWS: Final = {
    Qt.Key.Key_Left: (-1.0, 0.0),
    Qt.Key.Key_Right: (1.0, 0.0),
    Qt.Key.Key_Up: (0.0, 1.0),
    Qt.Key.Key_Down: (0.0, -1.0),
}


@dataclass
class Moving:
    """A piece that is being moved: among which others, and from where."""

    key: str
    problem: Problem
    others: list[Lying]
    start: Lying
    now: Lying
    grabbed: tuple[float, float]


class LayView(PictureView):
    """Shows one ground with what lies on it. `changed` tells placements that a person made, with words for it; `picked` the piece that was chosen."""

    changed = Signal(object, object)
    picked = Signal(str)
    margin = 12.0

    def __init__(self, words: Phrase, session: Session) -> None:
        super().__init__(words)
        self.session = session
        self.lay: Lay | None = None
        self.ground: Ground | None = None
        self.chosen = ""
        self.fixed = False
        self.moving: Moving | None = None
        self.stale = False
        self.setMinimumSize(200, 140)

    def show_lay(self, lay: Lay, ground: Ground, *, fixed: bool = False) -> None:
        """Show how pieces lie on a ground; what is `fixed` can only be looked at."""
        same = self.lay is not None and self.ground is not None and self.ground.id == ground.id
        self.lay, self.ground, self.fixed = lay, ground, fixed
        self.moving = None
        if not same:
            self.fitted = True
        if self.chosen and self.chosen not in lay.sheet.by_key:
            self.chosen = ""
        self.redraw()

    def redraw(self) -> None:
        """Draw it as it stands, its letters as high as they are to be on screen."""
        if self.lay is None or self.ground is None:
            return
        self.stale = False
        lay, ground = self._as_moved(), self.ground
        long, wide = seen_length(lay, ground), ground.width
        a_px = 1.0 / self.zoom
        if self.fitted:
            margin = self.margin * LOOK.scale + LOOK.px(LETTER) * 1.6
            a_px = max(long / max(self.width() - 2.0 * margin, 50.0), wide / max(self.height() - 2.0 * margin - EDGE, 50.0))
        text = LOOK.px(LETTER) * a_px
        steady = STEADY ** math.floor(math.log(text, STEADY))  # where words stand is known from before
        self.set_drawing(lay_drawing(lay, ground, self.session.voice, steady))
        self.lit = frozenset([piece_ref(lay, self.chosen)]) if self.chosen else frozenset()
        told = self.session.tell(self.about())
        self.setAccessibleDescription(told)

    def about(self) -> Phrase:
        """What is chosen, and where it lies."""
        placed = self.piece
        if placed is None or self.lay is None:
            return tr("Tab and arrow keys choose a piece; dragged, it stops at its neighbours.")
        return tr("{piece}: {place}", piece=self.lay.sheet.by_key[placed.piece].words, place=place_words(self.lay, placed))

    @property
    def piece(self) -> Placed | None:
        """Where the chosen piece lies."""
        return next((p for p in self.lay.placed if p.piece == self.chosen), None) if self.lay is not None else None

    def _as_moved(self) -> Lay:
        """The lay with the piece that is being moved where it is now."""
        assert self.lay is not None
        if self.moving is None or self.ground is None:
            return self.lay
        placed = self.lay.sheet.placed(self.ground, [self.moving.key], [self.moving.now])[0]
        return replace(self.lay, placed=tuple(placed if p.piece == placed.piece else p for p in self.lay.placed))

    def frame(self) -> tuple[float, float, float, float]:
        x0, y0, x1, y1 = extent(self.drawing)
        room = self.height() - 2.0 * self.margin * LOOK.scale
        return x0, y0, x1, y1 + (y1 - y0) * EDGE / max(room - EDGE, EDGE)  # clear of the ruler above

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.stale = True  # a layout may ask for several sizes before it rests
        self.update()

    def zoom_by(self, factor: float, about: QPointF | None = None) -> None:
        super().zoom_by(factor, about)
        self.redraw()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.fitted = True
        self.redraw()

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.stale:
            self.redraw()
        super().paintEvent(event)
        if self.lay is None:
            return
        painter = QPainter(self)
        zero = self.to_screen(0.0, 0.0).x()
        box = QRectF(3.0, 3.0, self.width() - 6.0, EDGE)
        painter.setClipRect(box)
        paint_edge(painter, box, self.zoom, zero, self.session.unit, LOOK.colour("soft"))
        painter.end()

    # Moving pieces

    def choose(self, key: str) -> None:
        """Choose a piece."""
        if key != self.chosen:
            self.chosen = key
            self.redraw()
            self.picked.emit(key)

    def begin(self, key: str, at: tuple[float, float] = (0.0, 0.0)) -> Moving | None:
        """Begin to move a piece; None where it may not be moved."""
        lay, ground = self.lay, self.ground
        placed = next((p for p in lay.placed if p.piece == key), None) if lay is not None else None
        if lay is None or ground is None or placed is None or placed.locked or self.fixed:
            return None
        on = lay.on(ground)
        if by_the_piece(lay.sheet) and ground.id == BOLT:
            ground = replace(ground, length=lay.sheet.cloth.piece_length)
        problem = lay.sheet.problem(ground, [p.piece for p in on])
        lying = problem.nest([lay.sheet.place(p) for p in on])
        mine = next(i for i, p in enumerate(on) if p.piece == key)
        return Moving(key, problem, lying[:mine] + lying[mine + 1 :], lying[mine], lying[mine], at)

    def move_to(self, moving: Moving, step: tuple[float, float]) -> None:
        """Move a piece by a step from where it began, as far as it goes."""
        way = moving.start.way
        wanted = np.array(step)
        if any(way.pitch):
            wanted = np.array([round(s / p) * p if p else s for s, p in zip(step, way.pitch, strict=True)])
        if way.level is not None:
            wanted[1] = 0.0
        begun = moving.now if not any(way.pitch) else moving.start
        moving.now = slid(moving.problem.ground, begun, moving.start.at + wanted - begun.at, moving.others)
        if any(way.pitch):  # between two repeats it may not lie
            off = moving.now.at - moving.start.at
            if any(p and abs(math.remainder(float(o), p)) > 1e-6 for o, p in zip(off, way.pitch, strict=True)):
                moving.now = moving.start

    def end(self, moving: Moving, words: Phrase) -> None:
        """Keep where a piece has been moved to."""
        self.moving = moving
        made = self._as_moved()
        self.moving = None
        if not np.allclose(moving.now.at, moving.start.at) or moving.now.way is not moving.start.way:
            self.changed.emit(made, words)
        self.redraw()

    def turn(self) -> None:
        """Turn the chosen piece the next way it may lie, as near to where it is as there is room."""
        moving = self.begin(self.chosen)
        if moving is None or self.lay is None:
            return
        ways = self.lay.sheet.shapes[moving.key].ways
        here = next(
            (i for i, way in enumerate(ways) if abs(math.remainder(way.turn - moving.start.way.turn, math.tau)) < 1e-9), 0
        )
        middle = (moving.start.low + moving.start.high) / 2.0
        for k in range(1, len(ways)):
            way = ways[(here + k) % len(ways)]
            at = middle - (way.low + way.high) / 2.0
            for least in (float(at[0]) - 1e-6, -np.inf):
                found = moving.problem.ground.leftmost(
                    way, moving.others, near=float(at[1]), reach=1e9, least=max(least, -float(way.low[0]))
                )
                if found is not None:
                    moving.now = found
                    self.end(moving, tr("{piece} turned", piece=self.lay.sheet.by_key[moving.key].words))
                    return
        self.session.say("note", tr("This piece may lie in no other way: its cloth, or a match, has one."))

    def lock(self) -> None:
        """Lock the chosen piece where it lies, or free it."""
        placed, lay = self.piece, self.lay
        if placed is None or lay is None or self.fixed:
            return
        made = replace(placed, locked=not placed.locked)
        words = lay.sheet.by_key[placed.piece].words
        said = tr("{piece} locked", piece=words) if made.locked else tr("{piece} free again", piece=words)
        self.changed.emit(replace(lay, placed=tuple(made if p.piece == made.piece else p for p in lay.placed)), said)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        ref = self.ref_at(event.position())
        if event.button() is Qt.MouseButton.LeftButton and ref is not None and ref.of is Of.LAY:
            self.setFocus()
            self.choose(ref.part)
            self.moving = self.begin(ref.part, self.from_screen(event.position()))
            if self.moving is None:
                self._say_why()
            return
        super().mousePressEvent(event)

    def _say_why(self) -> None:
        placed = self.piece
        if placed is not None and placed.locked:
            self.session.say("note", tr("It is locked; L frees it."))
        elif self.fixed:
            self.session.say("note", tr("While a shorter lay is looked for, pieces stay where they are: stop the search first."))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.moving is None:
            super().mouseMoveEvent(event)
            return
        here = self.from_screen(event.position())
        self.move_to(self.moving, (here[0] - self.moving.grabbed[0], here[1] - self.moving.grabbed[1]))
        self.redraw()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        moving = self.moving
        if moving is None or self.lay is None:
            super().mouseReleaseEvent(event)
            return
        self.end(moving, tr("{piece} moved", piece=self.lay.sheet.by_key[moving.key].words))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key in ARROWS and self.chosen:
            moving = self.begin(self.chosen)
            if moving is None or self.lay is None:
                self._say_why()
                return
            step = STEP * (0.1 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0)
            pitch = moving.start.way.pitch
            along, across = ARROWS[key]
            self.move_to(moving, (along * max(step, pitch[0]), across * max(step, pitch[1])))
            self.end(moving, tr("{piece} moved", piece=self.lay.sheet.by_key[moving.key].words))
        elif key == Qt.Key.Key_R:
            self.turn()
        elif key == Qt.Key.Key_L:
            self.lock()
        elif key in (Qt.Key.Key_PageDown, Qt.Key.Key_PageUp, Qt.Key.Key_N) or (key in ARROWS and not self.chosen):
            self.step(-1 if key == Qt.Key.Key_PageUp else 1)
        elif key == Qt.Key.Key_Escape:
            self.choose("")
        else:
            super().keyPressEvent(event)

    def step(self, by: int) -> None:
        """Choose the next piece in the order of cutting, or the one before."""
        if self.lay is None or self.ground is None:
            return
        keys = [p.piece for p in self.lay.on(self.ground)]
        if keys:
            here = keys.index(self.chosen) if self.chosen in keys else -1 if by > 0 else 0
            self.choose(keys[(here + by) % len(keys)])

    def ref_at(self, point: QPointF) -> Ref | None:
        """The piece under a point."""
        if self.lay is None or self.ground is None:
            return None
        x, y = self.from_screen(point)
        from shapely import Point, Polygon

        for placed in reversed(self.lay.on(self.ground)):
            if Polygon(self.lay.outline(placed)).covers(Point(x, y)):
                return piece_ref(self.lay, placed.piece)
        return None
