"""The Fit station: a cover tried on, made against planned, why, what can be done now, and what is learnt of it."""

from collections.abc import Mapping

from PySide6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.columns import Columns, Part, station
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.signs import Vacant
from omnipel.bench.parts.widgets import button, column, label, reveal, scrolled, surface
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.speech import say
from omnipel.bench.stations.atbench import AtBench
from omnipel.bench.stations.fit.because import Because
from omnipel.bench.stations.fit.learnt import LearntBox
from omnipel.bench.stations.fit.logbook import LogBox
from omnipel.bench.stations.fit.measured import MadeTable
from omnipel.bench.stations.fit.picture import FitPicture
from omnipel.bench.stations.fit.righted import Righted
from omnipel.bench.stations.fit.tries import TryForm, TryStrip
from omnipel.core.job.trying import TryOn
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, term, tr
from omnipel.core.words.refs import Of, Ref

PICTURE, MOST = 200, (1 << 24) - 1
"""The picture is so high, px at 100 % text, where it stands above the sizes; the toolkit's greatest height."""


class FitStation(AtBench):
    """Tries on, measures, learns."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.fitting = session, fitting_of(session)
        self.strip = TryStrip(session)
        self.strip.chosen.connect(self._choose)
        self.strip.begins.connect(self._begin)
        self.form, self.table, self.because = TryForm(session), MadeTable(session), Because(session)
        self.picture, self.learnt = FitPicture(session), LearntBox(session, self.fitting)
        self.empty = Vacant("fit", tr("Go to what is to be done"), self._next)
        self.fitting.learnt.connect(self.refresh)
        session.cloth.laid.connect(self._cloth_laid)
        shown = column(self.picture, self.form, spacing=8, margins=8)
        shown.setStretch(0, 1)
        self.left = left = surface(shown)
        right = QWidget()
        self.righted, self.log = Righted(session), LogBox(session)
        self.doing = surface(column(self.righted, margins=10))
        begin = button(tr("Write down the first try-on"), self._begin)
        intro = tr(
            "Put the cover on its thing, inside out where you can, before it is finished; again when it is finished, and after it was used. Write down how it "
            "went on and what it measures: then it is told why, and what can be done."
        )
        self.nothing = surface(column(label(tr("Not tried on yet"), "head"), label(intro, "soft", wrap=True), begin, margins=10))
        self.measured = surface(column(self.table, self.because, margins=10))
        self.told = column(
            self.nothing,
            self.measured,
            self.doing,
            surface(column(self.learnt, margins=10)),
            surface(column(self.log, margins=10)),
            spacing=8,
        )
        self.told.addStretch(1)
        right.setLayout(self.told)
        self.right = scrolled(right)
        self.columns = Columns((Part(left, 300, 5), Part(self.right, 345, 6)), self.strip)
        self.strip.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        self.columns.laid.connect(self._laid)
        whole = QVBoxLayout()
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(self.empty, 1)
        inner = QWidget()
        inner.setLayout(station(self.columns))
        self.inner = inner
        whole.addWidget(inner, 1)
        self.setLayout(whole)

    @property
    def walks(self) -> tuple[QWidget, ...]:
        """Which try-on, how it went on, the sizes, why, what can be done, what is learnt, the logbook; then the picture."""
        return (self.strip, self.nothing, self.form, self.table, self.because, self.righted, self.learnt, self.log, self.picture)

    def enter(self) -> None:
        """Somebody has come to try on."""
        self.refresh()
        if self.fitting.current is None:
            self.strip.another.setFocus()
        else:
            first = next(iter(self.table.fields.values()), None)
            (first or self.strip).setFocus()

    def refresh(self) -> None:
        """Show the try-ons as they stand."""
        draft = self.session.draft
        if draft is None or self.session.job is None:
            return
        there = self.fitting.making is not None
        self.inner.setVisible(there)
        self.empty.setVisible(not there)
        if not there:
            self.empty.say(
                self.session.sentence(draft.findings[0].text) if draft.findings else say(tr("Nothing is drafted yet."))
            )
            return
        one = self.fitting.current
        self.strip.refresh(self.session.open_job.tries, one.id if one is not None else "")
        for part in (self.form, self.measured):
            part.setVisible(one is not None)
        self.nothing.setVisible(one is None)
        self.because.refresh(self.fitting.why if one is not None else None)
        self.doing.setVisible(one is not None and not one.blank)
        self.righted.refresh()
        self.learnt.refresh()
        self.log.refresh()
        self.picture.refresh(one or TryOn())
        if one is not None:
            self.form.refresh(one)
            self.table.refresh(one)

    def _laid(self, below: bool) -> None:
        """Above the sizes the picture leaves them room."""
        self.picture.view.setMaximumHeight(LOOK.px(PICTURE) if below else MOST)
        high = QSizePolicy.Policy.Maximum if below else QSizePolicy.Policy.Preferred
        self.left.setSizePolicy(QSizePolicy.Policy.Preferred, high)

    def _cloth_laid(self) -> None:
        """It is known how much cloth it was to take."""
        one = self.fitting.current
        if self.isVisible() and one is not None:
            self.table.refresh(one)

    def _choose(self, id_: str) -> None:
        self.fitting.choose(id_)
        self.refresh()

    def _begin(self) -> None:
        if self.fitting.begin():
            self.refresh()
            first = next(iter(self.form.went.values()))
            first.setFocus()

    def _next(self) -> None:
        if (step := sewing_of(self.session).next) is not None:
            self.session.go.emit(step.where)

    def go_to(self, ref: Ref) -> None:
        """Look at a try-on."""
        if ref.of is Of.TRY and ref.id:
            self._choose(ref.id)
        elif ref.of is Of.LOG:
            reveal(self.log.words)
        elif ref.of is Of.ALTERATION:
            reveal(self.righted.to_sew)

    def field_words(self) -> Mapping[Ref, Phrase]:
        """All try-ons."""
        tries: dict[Ref, Phrase] = {
            refs.try_on(one.id): tr("try-on: {stage}", stage=term(one.stage)) for one in self.fitting.tries
        }
        return {**tries, refs.log(): tr("logbook")}
