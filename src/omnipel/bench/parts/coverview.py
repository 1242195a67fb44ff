"""The sewn cover on screen: plain as soon as something has changed, with all that is seen on it a moment later."""

from PySide6.QtCore import QTimer
from PySide6.QtGui import QColor

from omnipel.bench.parts.sketchview import SketchView
from omnipel.bench.pictures import Asked, Made, made
from omnipel.bench.session import Session
from omnipel.core.draft import Drafted
from omnipel.core.pictures.view import View
from omnipel.core.words.phrases import Phrase
from omnipel.core.words.refs import Ref

PAUSE_MS = 100
"""The whole picture is made when nothing has changed for this long."""


class CoverView(SketchView):
    """A picture of the open job's cover. With all that is seen on it it is made behind the window, which goes on taking what is typed."""

    def __init__(self, words: Phrase, session: Session) -> None:
        super().__init__(words)
        self.session, self.alone = session, False
        self.timer = QTimer(self)
        self.timer.setSingleShot(True)
        self.timer.setInterval(PAUSE_MS)
        self.timer.timeout.connect(self._ask)

    def show_cover(self, lit: frozenset[Ref], *, alone: bool = False) -> None:
        """Show the cover, or the object where there is none yet."""
        self.alone = alone
        self.cloth = QColor(self.session.open_job.cover.cloth.colour)
        ready = self.session.pictures.ready(alone=alone) or not isinstance(self.session.draft, Drafted)
        self.show_scene(self.session.pictures.cover(alone=alone, quick=not ready), lit=lit)
        if ready:
            self.timer.stop()
        else:
            self.timer.start()

    def look_from(self, view: View) -> None:
        self.session.pace.busy()  # who turns it has the processor
        super().look_from(view)

    def show_other(self) -> None:
        """Something else is shown now."""
        self.timer.stop()
        self.session.painting.forget(self)

    def _ask(self) -> None:
        draft = self.session.draft
        if self.isVisible() and isinstance(draft, Drafted):
            self.session.painting.ask(self, made, Asked(draft, self.alone, self.view), self._came, self.session.fault)

    def _came(self, whole: Made) -> None:
        wanted = self.session.pictures.keep(whole) and self.alone is whole.asked.alone
        if wanted and self.isVisible() and not self.timer.isActive():
            self.show_scene(whole.seen.scene, lit=self.shining, seen=whole.seen if self.view == whole.asked.view else None)
