"""The Tape station: one reading at a time in large type, its path on the sketch, its repeats and cross-checks."""

from dataclasses import replace
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLineEdit, QListWidget, QListWidgetItem, QWidget

from omnipel.bench.flow import Flow
from omnipel.bench.look import LOOK
from omnipel.bench.parts import button, column, combo, emptied, label, restyle, row, scrolled, surface
from omnipel.bench.session import Session
from omnipel.bench.sketchview import SketchView
from omnipel.bench.tapefield import TapeField
from omnipel.core.findings import Act, Change, Impossible
from omnipel.core.forms import FORMS
from omnipel.core.forms.body import Body, Taken, Wanted
from omnipel.core.job import Job, with_reading
from omnipel.core.tape.notation import TapeError, parse_length
from omnipel.core.tape.readings import MOST_REPEATS, Instrument, Reading
from omnipel.core.tape.units import format_length
from omnipel.core.tolerances import LONGEST

if TYPE_CHECKING:
    from omnipel.bench.wireless import WirelessTape


class TapeStation(QWidget):
    """Takes the readings."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.place = ""
        self.sketch = SketchView("Sketch of the object with the tape path")
        self.name, self.how, self.state = (
            label("", "title", wrap=True),
            label("", "soft", wrap=True),
            label("", "soft", wrap=True),
        )
        self.field = TapeField(session, "Reading", large=True)
        self.field.entered.connect(self._entered)
        self.field.empty.connect(self.next_place)
        self.chips = Flow(gap=6)
        self.value = label("", "head", wrap=True)
        self.instrument = combo("Instrument", [(i.value, i) for i in Instrument], self._instrument)
        self.note = QLineEdit(accessibleName="Note on this reading", placeholderText="note: where exactly, what was in the way")
        self.note.setMinimumWidth(40)
        self.note.editingFinished.connect(self._noted)
        self.list = QListWidget(accessibleName="Readings of this object")
        self.list.currentItemChanged.connect(self._picked)
        self.list.setMinimumSize(60, 120)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setTextElideMode(Qt.TextElideMode.ElideRight)
        self.again = label("", "soft", wrap=True)
        self.wireless: WirelessTape | None = None
        self.listen = QCheckBox("wireless tape", accessibleName="listen to a wireless tape")
        self.listen.clicked.connect(self._listen)
        card = button("Blank tape card…", lambda: session.go.emit("tape-card"))
        keys = label(
            "Enter keeps it and goes on · Shift+Enter keeps it and measures the same again · ↑ ↓ choose a reading",
            "soft",
            wrap=True,
        )
        self.right = QWidget()
        right = column(
            self.name,
            self.how,
            self.field,
            self.chips,
            self.value,
            self.state,
            row(label("taken with"), self.instrument, self.note),
            keys,
            spacing=8,
        )
        right.addWidget(self.list, 1)
        right.addWidget(self.again)
        more = Flow(gap=12)
        more.addWidget(self.listen)
        more.addWidget(card)
        right.addLayout(more)
        self.right.setLayout(right)
        sheet = surface(column(self.sketch, margins=4))
        layout = QHBoxLayout(self)
        layout.setContentsMargins(16, 16, 16, 8)
        layout.setSpacing(16)
        layout.addWidget(sheet, 1)
        layout.addWidget(scrolled(self.right), 1)

    @property
    def wanted(self) -> tuple[Wanted, ...]:
        """The readings of the open job's form."""
        job = self.session.open_job
        form = FORMS.get(job.thing.form)
        return form.wanted(job.readings) if form else ()

    def enter(self) -> None:
        """The station was opened: go to the first reading that is still wanted."""
        places = [w.place for w in self.wanted]
        if self.place not in places:
            self.place = self._first_open() or (places[0] if places else "")
        self.refresh()
        self.field.setFocus()

    def _first_open(self) -> str:
        job = self.session.open_job
        for needed in (True, False):
            for want in self.wanted:
                if want.needed is needed and job.reading(want.place) is None:
                    return want.place
        return ""

    def go_to(self, place: str) -> None:
        """Show one reading."""
        if place in [w.place for w in self.wanted]:
            self.place = place
            self.field.clear()
            self.refresh()
            self.field.setFocus()

    def next_place(self) -> None:
        """Go on to the next reading; after the last, to the first that is missing."""
        places = [w.place for w in self.wanted]
        if not places:
            return
        here = places.index(self.place) if self.place in places else -1
        job = self.session.open_job
        ahead = places[here + 1 :] + places[: here + 1]
        unread = [p for p in ahead if job.reading(p) is None]
        if unread:
            self.go_to(unread[0])
        else:
            self.session.say("fine", "All readings are taken. Ctrl+3 goes on to the cover.")
            self.go_to(ahead[0])

    # Wireless tape

    def _listen(self, on: bool) -> None:
        """Listen to a wireless tape, or no more."""
        if not on:
            if self.wireless is not None:
                self.wireless.stop()
            self.session.say("note", "No longer listening to the wireless tape.")
            return
        from omnipel.bench.wireless import WirelessTape
        from omnipel.exchange.tape_device import socket_path

        self.wireless = WirelessTape(socket_path(), self.take)
        fault = self.wireless.start()
        self.listen.setChecked(not fault)
        said = f"Not listening: {fault}" if fault else f"Listening at {self.wireless.path}. Send with: omnipel tape"
        self.session.say("stop" if fault else "fine", said)

    def take(self, text: str) -> str:
        """Take in a reading that came over the air; "" or why it was not taken."""
        if self.session.job is None or not self.isVisible():
            return "the bench is not asking for a reading"
        try:
            mm = parse_length(text, self.session.unit)
        except TapeError as error:
            return str(error)
        if not 0.0 < mm <= LONGEST:
            return "a length of more than 0 is expected"
        before, want = self.session.open_job, self._want()
        self._entered(mm, False)
        return "" if self.session.open_job != before else f"{want.words} was not changed"

    # Changes

    def _entered(self, mm: float, stay: bool) -> None:
        job = self.session.open_job
        old = job.reading(self.place)
        words = self._want().words
        if old is None:
            reading = Reading(place=self.place, repeats=(mm,), instrument=self.instrument.value)
        elif len(old.repeats) >= MOST_REPEATS:
            self.session.say("look", f"{words} has {MOST_REPEATS} repeats already: remove one first.")
            return
        else:
            reading = replace(old, repeats=(*old.repeats, mm))
        if self.session.apply(with_reading(job, reading), f"{words}: {format_length(mm, job.unit, with_unit=True)}"):
            self.field.clear()
            if not stay:
                self.next_place()

    def _instrument(self, instrument: object) -> None:
        if (old := self.session.open_job.reading(self.place)) is not None and isinstance(instrument, Instrument):
            reading = replace(old, instrument=instrument)
            self.session.apply(
                with_reading(self.session.open_job, reading), f"{self._want().words}: taken with {instrument.value}"
            )

    def _noted(self) -> None:
        old = self.session.open_job.reading(self.place)
        if old is not None and self.note.text() != old.note:
            self.session.apply(
                with_reading(self.session.open_job, replace(old, note=self.note.text()[:500])), f"note on {self._want().words}"
            )

    def _remove(self, i: int) -> None:
        job = self.session.open_job
        old = job.reading(self.place)
        if old is None:
            return
        words = f"{self._want().words}: {format_length(old.repeats[i], job.unit)} removed"
        if len(old.repeats) == 1:
            self.session.change(words, Change(f"readings.{self.place}", act=Act.REMOVE))
            return
        left_out = tuple(k - (k > i) for k in old.left_out if k != i)
        repeats = tuple(mm for k, mm in enumerate(old.repeats) if k != i)
        self.session.apply(with_reading(job, replace(old, repeats=repeats, left_out=left_out)), words)

    def _leave_out(self, i: int, out: bool) -> None:
        old = self.session.open_job.reading(self.place)
        if old is None:
            return
        left_out = tuple(sorted({*old.left_out, i} if out else set(old.left_out) - {i}))
        words = (
            f"{self._want().words}: {format_length(old.repeats[i], self.session.unit)} {'left out' if out else 'counts again'}"
        )
        self.session.apply(with_reading(self.session.open_job, replace(old, left_out=left_out)), words)

    def _picked(self, item: QListWidgetItem | None) -> None:
        if item is not None and item.data(Qt.ItemDataRole.UserRole) != self.place:
            self.place = item.data(Qt.ItemDataRole.UserRole)
            self.field.clear()
            self.refresh()

    # Showing

    def _want(self) -> Wanted:
        return next((w for w in self.wanted if w.place == self.place), Wanted(self.place, self.place, "", 0.0))

    def refresh(self) -> None:
        """Show the job as it stands."""
        job = self.session.open_job
        if self.place not in [w.place for w in self.wanted]:
            self.place = self._first_open() or (self.wanted[0].place if self.wanted else "")
        want, reading = self._want(), job.reading(self.place)
        self.name.setText(want.words[:1].upper() + want.words[1:] + ("" if want.needed else "  (helpful)"))
        self.how.setText(want.how)
        unit = {"mm": "mm", "cm": "cm"}.get(job.unit.value, "inches")
        self.field.line.setPlaceholderText(f"type it, in {unit} or with a unit" if reading is None else "measure it again")
        self.field.line.setAccessibleName(want.words)
        self.instrument.show_value(reading.instrument if reading else Instrument.TAPE)
        self.note.setEnabled(reading is not None)
        if not self.note.hasFocus() or reading is None:
            self.note.setText(reading.note if reading else "")
        self._chips(reading, job)
        self._state(reading, job)
        self._list(job)
        self._sketch(job, want, reading)

    def _chips(self, reading: Reading | None, job: Job) -> None:
        emptied(self.chips)
        for i, mm in enumerate(reading.repeats if reading else ()):
            chip = button(
                format_length(mm, job.unit), lambda: None, "chip", tip="click: leave this repeat out, or let it count again"
            )
            chip.setCheckable(True)
            chip.setChecked(bool(reading and i in reading.left_out))
            chip.clicked.connect(lambda out, k=i: self._leave_out(k, out))
            chip.setAccessibleName(f"repeat {i + 1}: {format_length(mm, job.unit)}")
            gone = button("×", lambda k=i: self._remove(k), "quiet", tip="remove this repeat")
            gone.setAccessibleName(f"remove repeat {i + 1}")
            both = QWidget()
            both.setLayout(row(chip, gone, spacing=2))
            self.chips.addWidget(both)

    def _state(self, reading: Reading | None, job: Job) -> None:
        found = [
            f
            for f in (self.session.draft.findings if self.session.draft else ())
            if f.where == f"readings.{self.place}" and f.code != "reading-missing"
        ]
        if reading is None:
            self.value.setText("")
            self.state.setText("")
            return
        method = "median" if len(reading.kept) >= 4 else "mean" if len(reading.kept) > 1 else "one reading"
        self.value.setText(
            f"{format_length(reading.value, job.unit, fine=True, with_unit=True)}   ± {format_length(reading.spread, job.unit, fine=True)}  ({method})"
        )
        self.state.setText(" ".join(f.text for f in found))
        restyle(self.state, found[0].severity.value if found else "soft")

    def _list(self, job: Job) -> None:
        self.list.blockSignals(True)
        if self.list.count() != len(self.wanted):
            self.list.clear()
            for _ in self.wanted:
                self.list.addItem(QListWidgetItem())
        for i, want in enumerate(self.wanted):
            reading, item = job.reading(want.place), self.list.item(i)
            shown = (
                format_length(reading.value, job.unit, fine=True, with_unit=True)
                if reading
                else ("not measured" if want.needed else "not measured, helpful")
            )
            item.setText(f"{want.words}:  {shown}")
            item.setData(Qt.ItemDataRole.UserRole, want.place)
            item.setForeground(LOOK.colour("ink" if reading else "soft"))
            if want.place == self.place:
                self.list.setCurrentRow(i)
        self.list.blockSignals(False)
        fit = self.session.draft.fit if self.session.draft else None
        ranked = [(place, part) for place, part in fit.shares if place != "sewing" and part > 0.01] if fit else []
        words = {w.place: w.words for w in self.wanted}
        if ranked:
            order = ", ".join(f"{words.get(place, place)} ({part:.0%} of the doubt)" for place, part in ranked[:3])
            self.again.setText(f"What matters most to going on: {order}. Measure that again first.")
        else:
            self.again.setText("")

    def _sketch(self, job: Job, want: Wanted, reading: Reading | None) -> None:
        body = self.session.draft.body if self.session.draft else None
        body = body or plausible(job)
        if body is None:
            return
        words = f"{want.words} {format_length(reading.value, job.unit)}" if reading else f"{want.words}: here"
        self.sketch.show_mesh(body.mesh(), body.tape(self.place), words)


def plausible(job: Job) -> Body | None:
    """The body as far as it is measured, with sample values where readings are still missing: for the sketch only."""
    form = FORMS.get(job.thing.form)
    if form is None:
        return None
    taken = {r.place: r for r in job.readings}
    wanted = form.wanted(job.readings)
    readings = [taken.get(w.place) or Reading(place=w.place, repeats=(w.sample,)) for w in wanted if w.needed or w.place in taken]
    try:
        return form.measure(Taken(readings, wanted), job.thing)
    except Impossible:
        return None
