"""The sewn cover on its object."""

from PySide6.QtCore import QSize
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.sketchview import SketchView
from omnipel.bench.parts.widgets import column
from omnipel.bench.session import Session
from omnipel.core.pictures.worn import uncovered
from omnipel.core.words.phrases import tr

SHOW = ((tr("cover over object"), "both"), (tr("cover alone"), "cover"), (tr("object alone"), "object"))


class WornView(QWidget):
    """The picture and what is shown of it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.sketch = SketchView(tr("Sketch of the cover over the object. Arrow keys turn it."))
        self.what = combo(tr("What is shown"), SHOW, lambda _v: self.refresh())
        self.sketch.hint = QSize(240, 190)  # it takes what room there is; where that is less, it scrolls before it vanishes
        shown = Flow(gap=8)
        shown.addWidget(self.what)
        layout = column(self.sketch, shown, spacing=4)
        layout.setStretch(0, 1)
        self.setLayout(layout)

    def refresh(self) -> None:
        """Show the draft as it stands."""
        body = self.session.body
        if body is None:
            return
        self.sketch.cloth = QColor(self.session.open_job.cover.cloth.colour)
        if self.what.value == "object":
            self.sketch.show_scene(uncovered(body))
        else:
            self.sketch.show_scene(self.session.pictures.cover(alone=self.what.value == "cover"))
