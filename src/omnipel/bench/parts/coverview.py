"""The sewn cover on screen: words and numbers come first, then the cover as it is changed, plain, and a moment later with all that is seen on it."""

from PySide6.QtCore import QTimer, Signal
from PySide6.QtGui import QColor

from omnipel.bench.deliverer import while_there
from omnipel.bench.parts.sketchview import SketchView
from omnipel.bench.pictures import Asked, Made, made
from omnipel.bench.session import Session
from omnipel.core.draft import Drafted
from omnipel.core.pictures.view import View
from omnipel.core.words.phrases import Phrase
from omnipel.core.words.refs import Ref

PAUSE_MS = 100
"""The whole picture is made when nothing has changed for this long."""
EARLY_MS = 3000
"""One that will be looked at is made when the job has been open for this long elsewhere: who walks to it at once must not wait for that."""


class CoverView(SketchView):
    """A picture of the open job's cover.

    A change is answered in three steps, so that nobody who types waits: what is written on the window is painted, then the plain picture, as soon as
    nothing else is to be done; with all that is seen on it it is made behind the window.
    """

    due = Signal()
    """The picture of what was changed is about to be shown; what is drawn beside it is due, too."""

    def __init__(self, words: Phrase, session: Session) -> None:
        super().__init__(words)
        self.session, self.alone = session, False
        self.soon = QTimer(self)
        self.soon.setSingleShot(True)
        self.soon.setInterval(0)
        self.soon.timeout.connect(self._now)
        self.timer = QTimer(self)
        self.timer.setSingleShot(True)
        self.timer.timeout.connect(self._ask)

    def show_cover(self, lit: frozenset[Ref], *, alone: bool = False) -> None:
        """Show the cover, or the object where there is none yet."""
        self.alone = alone
        self.cloth = QColor(self.session.open_job.cover.cloth.colour)
        self.shining = lit
        if self.session.pictures.ready(alone=alone) or not isinstance(self.session.draft, Drafted):
            self.show_other()
            self.due.emit()
            self.show_scene(self.session.pictures.cover(alone=alone), lit=lit)
        elif self.session.pictures.known(alone=alone, plain=True) is not None:
            self._now()
        elif not self.soon.isActive():
            self.soon.start()

    def _now(self) -> None:
        self.due.emit()
        self.soon.stop()
        if self.session.job is not None:
            self.show_scene(self.session.pictures.cover(alone=self.alone, quick=True), lit=self.shining)
            self.timer.start(PAUSE_MS)

    def redraw(self, *, turned: bool = True, quick: bool = False) -> None:
        if not self.soon.isActive():  # else another picture is about to be drawn
            super().redraw(turned=turned, quick=quick)

    def look_from(self, view: View) -> None:
        self.session.pace.busy()  # who turns it has the processor
        if self.soon.isActive():
            self._now()
        super().look_from(view)

    def show_other(self) -> None:
        """Something else is shown now."""
        if self.soon.isActive():
            self.due.emit()
        self.soon.stop()
        self.timer.stop()
        self.session.painting.forget(self)

    def prepare(self) -> None:
        """It will be looked at: have the picture made before, if there is time."""
        self.timer.start(EARLY_MS)

    def _ask(self) -> None:
        draft = self.session.draft
        if isinstance(draft, Drafted) and not self.session.pictures.ready(alone=self.alone):
            self.session.painting.ask(
                self, made, Asked(draft, self.alone, self.view), while_there(self, self._came), self.session.fault
            )

    def _came(self, whole: Made) -> None:
        wanted = self.session.pictures.keep(whole) and self.alone is whole.asked.alone
        if wanted and self.isVisible() and not self.timer.isActive():
            self.show_scene(whole.seen.scene, lit=self.shining, seen=whole.seen if self.view == whole.asked.view else None)
