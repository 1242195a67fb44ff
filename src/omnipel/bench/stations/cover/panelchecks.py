"""Which panels a layer lies on: a tick for each; all of them where none is ticked."""

from functools import partial

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.widgets import check, emptied
from omnipel.bench.session import Session
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.changes import meant
from omnipel.core.job.document import CoverChoices
from omnipel.core.words.phrases import Phrase, term, tr
from omnipel.core.words.refs import Ref


class PanelChecks(QWidget):
    """A tick for every panel that can have the layer, and for those named that are gone."""

    def __init__(self, session: Session, ref: Ref, words: Phrase) -> None:
        super().__init__()
        self.session, self.ref, self.words = session, ref, words
        self.made_for: tuple[object, ...] = ()
        self.row = Flow(gap=6)
        self.setLayout(self.row)

    def sizeHint(self) -> QSize:
        """As wide as all of them beside one another: with many they take the whole width of the form."""
        hint, wide = super().sizeHint(), sum(box.sizeHint().width() + self.row.gap for box in self.row.shown)
        return QSize(max(hint.width(), wide), hint.height())

    def filled(self, _choices: CoverChoices) -> None:
        """Show the panels as they stand."""
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            return
        surface = {piece.panel for piece in draft.cover.pieces if not piece.on}
        names = [p.name for p in draft.panels if p.cloth is Cloth.OUTER and p.name in surface]
        on: tuple[str, ...] = meant(self.session.open_job, self.ref)
        shape = (tuple(names), on)
        if shape == self.made_for:
            return
        self.made_for = shape
        with same_focus(self):
            emptied(self.row)
            for name in dict.fromkeys((*names, *on)):
                full = tr("{what}: {panel}", what=self.words, panel=term(name))
                box = check(term(name), partial(self._ticked, name), full=full)
                box.setChecked(not on or name in on)
                self.row.addWidget(box)

    def _ticked(self, name: str, ticked: bool) -> None:
        names, on = self.made_for
        assert isinstance(names, tuple)
        assert isinstance(on, tuple)
        now = set(on or names) | {name} if ticked else set(on or names) - {name}
        kept = tuple(panel for panel in dict.fromkeys((*names, *on)) if panel in now)
        self.session.set(self.ref, () if set(names) <= now or not kept else kept, self.words)
