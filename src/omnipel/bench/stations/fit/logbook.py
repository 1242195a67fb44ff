"""The logbook of the thing: what is due, what happened to its covers as a time line, and a line to write down what happens."""

from datetime import date
from functools import partial

from PySide6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from omnipel.bench.fitting import covers_of
from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picker import combo, of_enum
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.widgets import button, column, emptied, label, line, restyle
from omnipel.bench.session import Session
from omnipel.bench.stations.fit.photos import PhotoRow
from omnipel.bench.stations.fit.tries import day_of
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.trying import LONGEST_WORDS, MOST_ENTRIES, Entry, Happened, Photo
from omnipel.core.learning.logbook import Happening, dues, entry_words, timeline
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Name, Phrase, tr
from omnipel.core.words.refs import Of, Ref


class LogBox(QWidget):
    """The logbook."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.due = label(NOTHING, "soft", wrap=True)
        self.what = combo(tr("What happened"), of_enum(Happened), lambda _v: None)
        self.what.show_value(Happened.LOOKED)
        self.day = line(tr("The day it happened, as 2026-11-28"), tr("2026-11-28"))
        self.words = line(tr("What there is to say about it"), tr("the hem is chafed at the back"))
        self.words.setMaxLength(LONGEST_WORDS)
        self.look = line(tr("When to look again, as 2026-11-28"), tr("look again: as usual"))
        self.write = button(tr("Write it down"), self._write)
        self.words.returnPressed.connect(self._write)
        self.lines = QVBoxLayout()
        self.lines.setSpacing(8)
        fields = Flow(gap=8)
        for widget in (self.what, self.day, self.words, self.look, self.write):
            fields.addWidget(widget)
        papers = Flow(gap=8)
        papers.addWidget(button(tr("Report…"), partial(self._paper, "logbook"), tip=tr("The logbook on paper")))
        papers.addWidget(button(tr("Dates for a calendar…"), partial(self._paper, "calendar")))
        papers.addWidget(button(tr("Job with its photos…"), partial(self._paper, "travel"), tip=tr("Ctrl+Shift+E")))
        asks, writes = QWidget(), QWidget()
        asks.setLayout(fields)
        writes.setLayout(papers)
        self.setLayout(column(label(tr("Logbook"), "head"), self.due, asks, self.lines, writes, spacing=8))
        self.shown: object = None

    def refresh(self) -> None:
        """Show the logbook as it stands."""
        job = self.session.open_job
        today = date.today().isoformat()
        for field, wide in ((self.day, 108), (self.words, 190), (self.look, 150)):
            field.setFixedWidth(LOOK.px(wide))
        if not self.day.text() and not self.day.hasFocus():
            self.day.setText(today)
        self._due(today)
        others = covers_of(self.session)
        lines = timeline((job, *others))
        known = (lines, self.session.unit, bool(others))
        if known == self.shown:
            return
        self.shown = known
        with same_focus(self):
            emptied(self.lines)
            for one in lines:
                self.lines.addWidget(self._line(one, bool(others)))

    def _due(self, today: str) -> None:
        found = dues(self.session.open_job)
        if not found:
            self.due.setText(self.session.tell(tr("Nothing is due: it has not been made yet, or is no longer used.")))
            restyle(self.due, "soft")
            return
        first = found[0]
        over = first.over(today)
        words = tr("Due since {day}: {what}. {why}.", day=Name(first.day), what=first.words, why=self._upper(first.reason))
        if not over:
            words = tr("Next: {what}, {day}. {why}.", day=Name(first.day), what=first.words, why=self._upper(first.reason))
        self.due.setText(self.session.sentence(words))
        restyle(self.due, "look" if over else "soft")

    def _upper(self, words: Phrase) -> Name:
        return Name(self.session.sentence(words))

    def _line(self, one: Happening, several: bool) -> QWidget:
        day, what, said = label(NOTHING, "soft"), label(NOTHING, "strong", wrap=True), label(NOTHING, wrap=True)
        day.setText(one.day or "—")
        day.setFixedWidth(LOOK.px(84))
        told = tr("{what} ({cover})", what=one.words, cover=Name(one.job)) if several else one.words
        what.setText(self.session.sentence(told))
        said.setText(one.said)
        made = QWidget()
        grid = QGridLayout(made)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(1)
        grid.setColumnStretch(1, 1)
        grid.addWidget(day, 0, 0)
        grid.addWidget(what, 0, 1)
        if one.said:
            grid.addWidget(said, 1, 1, 1, 3)
        if one.where is not None and one.where.of is Of.LOG:
            photos = PhotoRow(self.session, partial(self._photos, one.where), made)
            more = button(tr("photo…"), photos.ask, "quiet")
            gone = button(tr("take away"), partial(self._drop, one.where, one), "quiet")
            gone.setAccessibleName(self.session.tell(tr("take away: {what}, {day}", what=one.words, day=Name(one.day))))
            grid.addWidget(more, 0, 2)
            grid.addWidget(gone, 0, 3)
            grid.addWidget(photos, 2, 1, 1, 3)
            photos.refresh(one.photos)
        elif one.photos:
            n = label(NOTHING, "soft")
            n.setText(self.session.tell(tr("{n} photos", n=Count(len(one.photos)))))
            grid.addWidget(n, 0, 2)
        return made

    def _write(self) -> None:
        """Write down what happened."""
        day, again = day_of(self.day.text()), day_of(self.look.text())
        for typed, read in ((self.day.text(), day), (self.look.text(), again)):
            if read is None:
                self.session.say("look", tr("“{typed}” is no day: write it as 2026-11-28.", typed=Name(typed)))
                return
        if len(self.session.open_job.log) >= MOST_ENTRIES:
            self.session.say("look", tr("The logbook is full: {n} lines.", n=Count(MOST_ENTRIES)))
            return
        happened: Happened = self.what.value
        entry = Entry(happened=happened, day=day or "", words=self.words.text().strip(), next_look=again or "")
        reason = tr("logbook: {what}", what=entry_words(entry))
        if self.session.change(reason, Change(refs.log(), entry, act=Act.ADD)):
            self.words.clear()
            self.look.clear()

    def _drop(self, where: Ref, one: Happening) -> None:
        self.session.change(tr("logbook: taken away, {what}", what=one.words), Change(where, act=Act.REMOVE))

    def _photos(self, where: Ref, photos: tuple[Photo, ...], reason: Phrase) -> None:
        self.session.set(where.at("photos"), photos, reason)

    def _paper(self, key: str) -> None:
        self.session.go.emit(Ref(Of.PAPERS, key))
