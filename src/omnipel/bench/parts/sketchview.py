"""A picture in space on screen: turned by dragging or by the arrow keys, with the tape path over it where one is asked for."""

from collections.abc import Collection

from PySide6.QtCore import QPoint, QPointF, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picture import NEAR, PictureView
from omnipel.core.pictures.drawing import Drawing, Item, Label
from omnipel.core.pictures.scene import Scene
from omnipel.core.pictures.seen import Met, Seen
from omnipel.core.pictures.sketch import over
from omnipel.core.pictures.view import View
from omnipel.core.space.frames import Solid
from omnipel.core.words.phrases import Phrase
from omnipel.core.words.refs import Ref

TURN_STEP = 0.12
REST = 150
"""A picture that has not been turned for so long is drawn in full, ms."""
SPOT = 6.0
"""A place that is marked is a ring of this radius, px."""
LOWEST, HIGHEST = -0.9, 1.5
"""How far one may look from below and from above, radians."""


class SketchView(PictureView):
    """Shows a picture in space. While it is turned it keeps its scale, unless it would leave the frame, and is drawn without threads and hatch."""

    def __init__(self, words: Phrase) -> None:
        super().__init__(words)
        self.scene, self.tape_words = Scene(()), ""
        self.tape: Solid | None = None
        self.view = View()
        self.seen: Seen | None = None
        self.shining: frozenset[Ref] = frozenset()
        self.spot: Solid | None = None
        self.rest = QTimer(self)
        self.rest.setSingleShot(True)
        self.rest.setInterval(REST)
        self.rest.timeout.connect(lambda: self.redraw(turned=False))

    def mark(self, spot: Solid | None) -> None:
        """Mark a place in space, `(1, 3)`, or none."""
        if spot is not None or self.spot is not None:
            self.spot = spot
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if self.spot is None:
            return
        (x, y, _), *_ = (self.spot @ self.view.matrix().T).tolist()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setBrush(LOOK.colour("accent"))
        painter.setPen(QPen(LOOK.colour("surface"), 2.0))
        painter.drawEllipse(self.to_screen(x, y), LOOK.px(SPOT), LOOK.px(SPOT))
        painter.end()

    def show_scene(
        self,
        scene: Scene,
        tape: Solid | None = None,
        words: str = "",
        *,
        lit: frozenset[Ref] = frozenset(),
        seen: Seen | None = None,
    ) -> None:
        """Show a picture and a tape path; what is `lit` stands out. `seen`: as it is seen from this side, where that is known."""
        self.scene, self.tape, self.tape_words, self.shining, self.seen = scene, tape, words, lit, seen
        self.redraw(turned=False)

    def light(self, lit: frozenset[Ref]) -> None:
        """Let something else stand out in the same picture."""
        if lit != self.shining:
            self.shining = lit
            self.redraw(turned=False)

    def redraw(self, *, turned: bool = True, quick: bool = False) -> None:
        if turned or self.seen is None:
            self.seen = Seen(self.scene, self.view)
        drawing = self.seen.drawing(self.shining, quick=quick)
        if quick:
            self.rest.start()
        else:
            self.rest.stop()
        x0, y0, x1, y1 = drawing.bounds
        room = max(self.width() - 90.0, 60.0), max(self.height() - 90.0, 60.0)
        text = LOOK.px(17) * max((x1 - x0) / room[0], (y1 - y0) / room[1], 1e-3)
        more = self.extras(text)
        if self.tape is not None and len(self.tape):
            more += over(self.tape, self.view, self.tape_words, text)
        self.set_drawing(Drawing((*drawing.items, *more)) if more else drawing)

    def extras(self, text: float) -> list[Item]:
        """What else is drawn over the picture; `text` is the height of words, mm."""
        return []

    def fit(self) -> None:
        """Fit to the paths; words may stand beside them."""
        whole = self.drawing
        if any(isinstance(item, Label) for item in whole.items):
            self.drawing = Drawing(tuple(item for item in whole.items if not isinstance(item, Label)))
        super().fit()
        self.drawing = whole

    def turn(self, yaw: float, pitch: float) -> None:
        """Turn the picture, radians."""
        self.look_from(View(self.view.yaw + yaw, min(HIGHEST, max(LOWEST, self.view.pitch + pitch))))

    def look_from(self, view: View) -> None:
        """Show it from a side."""
        self.view = view
        zoom, fitted = self.zoom, self.fitted
        self.redraw(quick=True)
        if fitted and zoom < self.zoom:
            self.zoom = zoom
            self.update()

    def met_at(self, point: QPointF, among: Collection[str] | None = None) -> Met | None:
        """What is seen under a point of the screen, through all but the sheets of some names."""
        return self.seen.met(*self.from_screen(point), among) if self.seen is not None else None

    def ref_at(self, point: QPointF) -> Ref | None:
        if self.seen is None:
            return None
        return self.seen.ref_at(*self.from_screen(point), NEAR / self.zoom)

    def drag(self, step: QPoint) -> None:
        self.turn(-step.x() * 0.009, step.y() * 0.009)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {
            Qt.Key.Key_Left: (TURN_STEP, 0.0),
            Qt.Key.Key_Right: (-TURN_STEP, 0.0),
            Qt.Key.Key_Up: (0.0, TURN_STEP),
            Qt.Key.Key_Down: (0.0, -TURN_STEP),
        }
        if event.key() in steps:
            self.turn(*steps[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)
