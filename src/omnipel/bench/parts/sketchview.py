"""The measured sketch on screen; turned by dragging or by the arrow keys."""

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QKeyEvent

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picture import PictureView
from omnipel.core.pictures.drawing import Drawing, Label
from omnipel.core.pictures.sketch import View, sketch
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Mesh
from omnipel.core.words.phrases import Phrase

TURN_STEP = 0.12


class SketchView(PictureView):
    """Shows a mesh and the tape path in focus."""

    def __init__(self, words: Phrase) -> None:
        super().__init__(words)
        self.mesh, self.tape_words = Mesh(), ""
        self.tape: Solid | None = None
        self.view = View()
        self.over = ""

    def show_mesh(self, mesh: Mesh, tape: Solid | None = None, words: str = "", *, over: str = "") -> None:
        """Show a surface and a tape path; parts that begin with `over` are drawn last."""
        self.over = over
        self.mesh, self.tape, self.tape_words = mesh, tape, words
        self._redraw()

    def _redraw(self) -> None:
        drawing = sketch(self.mesh, self.view, self.tape, self.tape_words, 1.0, over=self.over)
        x0, y0, x1, y1 = drawing.bounds
        room = max(self.width() - 90.0, 60.0), max(self.height() - 90.0, 60.0)
        scale = max((x1 - x0) / room[0], (y1 - y0) / room[1], 1e-3)
        self.set_drawing(
            sketch(self.mesh, self.view, self.tape, self.tape_words, LOOK.px(17) * scale, over=self.over)
            if self.tape is not None
            else drawing
        )

    def fit(self) -> None:
        """Fit to the paths; words may stand beside them."""
        whole = self.drawing
        self.drawing = Drawing(tuple(item for item in whole.items if not isinstance(item, Label)))
        super().fit()
        self.drawing = whole

    def turn(self, yaw: float, pitch: float) -> None:
        """Turn the sketch, radians."""
        self.view = View(self.view.yaw + yaw, min(1.45, max(-0.35, self.view.pitch + pitch)))
        self._redraw()

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
