"""Walking a seam: a slider that goes along both its edges at once, so that the match marks pass by."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QSlider, QWidget

from omnipel.bench.parts.widgets import Elided, label, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.seams import Trued
from omnipel.core.drafting.walking import Step, stepped
from omnipel.core.pictures.sheet import seam_title
from omnipel.core.words.phrases import Name, Phrase, bare, mm, tr

STEPS = 400
"""The slider has so many steps."""


class SeamWalk(QWidget):
    """The slider and what it says; `walked` tells the step one has come to, or None when no seam is walked."""

    walked = Signal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.trued: Trued | None = None
        self.cover: Cover | None = None
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, STEPS)
        self.slider.setPageStep(STEPS // 20)
        self.slider.setAccessibleName(say(tr("Walk along the seam")))
        self.slider.valueChanged.connect(self._walked)
        self.words = Elided("soft")
        layout = row(label(tr("walk a seam"), "soft"), self.slider, self.words)
        layout.setStretch(1, 2)
        layout.setStretch(2, 3)
        self.setLayout(layout)
        self.show_seam(None, None)

    def show_seam(self, cover: Cover | None, trued: Trued | None) -> None:
        """Walk this seam from its beginning, or on from where one is when it is the same."""
        same = trued is not None and self.trued is not None and trued.seam.name == self.trued.seam.name
        self.cover, self.trued = cover, trued
        self.slider.setEnabled(trued is not None)
        if not same:
            with_none = self.slider.blockSignals(True)
            self.slider.setValue(0)
            self.slider.blockSignals(with_none)
        self._walked()

    def _walked(self) -> None:
        if self.trued is None or self.cover is None:
            self.words.show_words(say(tr("choose a seam")))
            self.walked.emit(None)
            return
        step = stepped(self.trued, self.cover.flat, self.slider.value() / STEPS)
        words = self.session.tell(self._told(self.trued, step))
        self.words.show_words(words)
        self.slider.setAccessibleDescription(words)
        self.walked.emit((self.slider.value() / STEPS, step))

    def _told(self, trued: Trued, step: Step) -> Phrase:
        (_, _, one), (_, _, other) = step.sides
        share = self.slider.value() / STEPS
        gone = tr("{here} of {all}", here=bare(one), all=mm(trued.length_a))
        if abs(trued.seam.ratio - 1.0) > 1e-9:
            gone = tr("{here} on the one side, {there} on the other", here=bare(one), there=mm(other))
        told = tr("{seam}: {gone}", seam=seam_title(trued), gone=gone)
        if step.before is not None and abs(step.before.fraction - share) < 0.5 / STEPS:
            return tr("{told} · at mark {mark}", told=told, mark=Name(step.before.label))
        if step.after is not None:
            far = (step.after.fraction - share) % 1.0 * trued.length_a
            return tr("{told} · mark {mark} in {far}", told=told, mark=Name(step.after.label), far=mm(far))
        return told
