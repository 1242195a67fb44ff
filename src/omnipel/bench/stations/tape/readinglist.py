"""All readings of the thing: the list to choose from, the check that would catch most, and the line that takes them in one go."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import WordButton, column, label, line, restyle
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.draft import letters
from omnipel.core.forms.form import Place
from omnipel.core.job.document import with_reading
from omnipel.core.job.reading import Reading
from omnipel.core.tape.card import CardError, read_card
from omnipel.core.tape.readings import value
from omnipel.core.words.phrases import NOTHING, Name, Phrase, bare, listed, mm, tr, trn


class ReadingList(QWidget):
    """Every place of the form with what was read there; `chosen` tells which one is to be shown, `asked` which one is to be taken."""

    chosen = Signal(str)
    asked = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.list = QListWidget()
        self.list.setAccessibleName(say(tr("Readings of this object")))
        self.list.currentItemChanged.connect(self._picked)
        self.list.setMinimumSize(60, 120)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setTextElideMode(Qt.TextElideMode.ElideRight)
        self.check = WordButton(self._take_check, "")
        self.card = line(tr("All readings in one go, by their letters"), tr("all in one go, by their letters"))
        self.card.returnPressed.connect(self._card)
        self.card_note = label(NOTHING, "soft", wrap=True)
        layout = column(self.list, self.check, self.card, self.card_note, spacing=6)
        layout.setStretch(0, 1)
        self.setLayout(layout)

    def forget(self) -> None:
        """Nothing that was typed for another job stays."""
        self.card.setText("")
        self.card.setModified(False)
        self.card_note.setText("")

    def refresh(self, here: str) -> None:
        """Show what was read everywhere, and which place is being taken."""
        job, places = self.session.open_job, self.session.places
        wanted = {p.key for p in self.session.advice.to_take}
        self.list.blockSignals(True)
        if self.list.count() != len(places):
            self.list.clear()
            for _ in places:
                self.list.addItem(QListWidgetItem())
        for i, place in enumerate(places):
            reading, item = job.reading(place.key), self.list.item(i)
            item.setText(f"{letters(i)}   {self.session.tell(_shown(place, reading, wanted))}")
            item.setData(Qt.ItemDataRole.UserRole, place.key)
            item.setForeground(LOOK.colour("ink" if reading or place.key in wanted else "soft"))
            if place.key == here:
                self.list.setCurrentRow(i)
        self.list.blockSignals(False)
        self.card.setPlaceholderText(say(tr("all in one go, by their letters: {example}", example=Name(self._example()))))
        self._show_check()

    def _example(self) -> str:
        asked = [(letters(i), p) for i, p in enumerate(self.session.places) if p.asked][:2]
        return ", ".join(f"{letter} {self.session.tell(bare(p.sample))}" for letter, p in asked)

    def _show_check(self) -> None:
        """The reading that would catch most misreads."""
        found = self.session.advice.best_check
        self.check.setVisible(found is not None)
        if found is not None:
            words = trn(
                "Check with: {place} (checks {n} reading)",
                "Check with: {place} (checks {n} readings)",
                found.checks,
                place=found.place.words,
            )
            self.check.show_words(self.session.tell(words))

    def _take_check(self) -> None:
        found = self.session.advice.best_check
        if found is not None:
            self.asked.emit(found.place.key)

    def _picked(self, item: QListWidgetItem | None) -> None:
        key = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        if key:
            self.chosen.emit(key)

    def _card(self) -> None:
        fault = self.take_card(self.card.text())
        restyle(self.card_note, "stop" if fault else "fine")
        if fault:
            self.card_note.setText(fault)
        else:
            self.card.setText("")
            self.card.setModified(False)

    def take_card(self, text: str) -> str:
        """Take readings by their letters, all or none; "" or what is wrong."""
        job, places = self.session.open_job, self.session.places
        try:
            found = read_card(text, [letters(i) for i in range(len(places))], job.unit)
        except CardError as error:
            return self.session.tell(error.phrase)
        taken = job
        for number, lengths in found.items():
            place = places[number]
            taken = with_reading(taken, Reading(place=place.key, repeats=lengths, instrument=place.instrument))
        self.session.apply(taken, trn("{n} reading from the card", "{n} readings from the card", len(found)))
        said = listed(
            tr("{place} {length}", place=places[n].words, length=listed((mm(x) for x in lengths), " / "))
            for n, lengths in found.items()
        )
        self.card_note.setText(self.session.tell(tr("Taken: {readings}", readings=said)))
        return ""


def _shown(place: Place, reading: Reading | None, wanted: set[str]) -> Phrase:
    """A place with its value, or what is to be done there."""
    if reading is not None and not reading.set_aside:
        return tr("{place}:  {value}", place=place.words, value=mm(value(reading), fine=True))
    if place.key in wanted:
        return tr("{place}:  to measure", place=place.words)
    if place.asked:
        return tr("{place}:  not needed", place=place.words)
    return tr("{place}:  another way", place=place.words) if wanted else tr("{place}:  a check", place=place.words)
