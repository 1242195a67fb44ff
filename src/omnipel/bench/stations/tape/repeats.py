"""The repeats of one reading: a chip for each, to leave out or remove, and how they scatter."""

from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.widgets import button, column, emptied, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.tape.dots import Dots
from omnipel.core.forms.form import Place
from omnipel.core.job.document import with_reading
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.reading import Reading
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Name, bare, mm, tr
from omnipel.core.words.typeset import fractions


class Repeats(QWidget):
    """Shows the repeats taken at a place, and changes them."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.place: Place | None = None
        self.dots = Dots(session)
        self.chips = Flow(gap=6)
        self.setLayout(column(self.chips, self.dots, spacing=7))

    def show_reading(self, place: Place, reading: Reading | None) -> None:
        """Show what was read at a place."""
        self.place = place
        emptied(self.chips)
        self.dots.show_reading(reading)
        for i, length in enumerate(reading.repeats if reading else ()):
            chip = button(Name(""), lambda: None, "chip", tip=tr("click: leave this repeat out, or let it count again"))
            chip.setText(fractions(self.session.tell(bare(length))))
            chip.setCheckable(True)
            chip.setChecked(bool(reading and i in reading.left_out))
            chip.clicked.connect(lambda out, k=i: self.leave_out(k, out))
            chip.setAccessibleName(self.session.tell(tr("repeat {n}: {length}", n=Count(i + 1), length=mm(length))))
            gone = button(Name("×"), partial(self.remove, i), "quiet", tip=tr("remove this repeat"))
            gone.setAccessibleName(say(tr("remove repeat {n}", n=Count(i + 1))))
            both = QWidget()
            both.setLayout(row(chip, gone, spacing=2))
            self.chips.addWidget(both)

    def _taken(self) -> tuple[Place, Reading] | None:
        reading = self.session.open_job.reading(self.place.key) if self.place is not None else None
        return (self.place, reading) if self.place is not None and reading is not None else None

    def remove(self, i: int) -> None:
        """Take a repeat away; with the last one the reading goes."""
        if (taken := self._taken()) is None:
            return
        place, old = taken
        reason = tr("{place}: {length} removed", place=place.words, length=mm(old.repeats[i]))
        if len(old.repeats) == 1:
            self.session.change(reason, Change(refs.reading(place.key), act=Act.REMOVE))
            return
        left_out = tuple(k - (k > i) for k in old.left_out if k != i)
        made = replace(old, repeats=tuple(length for k, length in enumerate(old.repeats) if k != i), left_out=left_out)
        self.session.apply(with_reading(self.session.open_job, made), reason)

    def leave_out(self, i: int, out: bool) -> None:
        """Leave a repeat out, or let it count again."""
        if (taken := self._taken()) is None:
            return
        place, old = taken
        length = mm(old.repeats[i])
        left_out = tr("{place}: {length} left out", place=place.words, length=length)
        again = tr("{place}: {length} counts again", place=place.words, length=length)
        made = replace(old, left_out=tuple(sorted({*old.left_out, i} if out else set(old.left_out) - {i})))
        self.session.apply(with_reading(self.session.open_job, made), left_out if out else again)
