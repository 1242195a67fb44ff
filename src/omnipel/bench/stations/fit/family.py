"""One thing in several sizes: which reading tells the sizes apart, a line for each size; the sizes of all of the family side by side."""

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QLineEdit, QWidget

from omnipel.bench.parts.asking import sized
from omnipel.bench.parts.dialog import Dialog, meaning
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, column, emptied, label, line, row, scrolled
from omnipel.bench.session import Session
from omnipel.core.draft import Drafted, draft
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Change
from omnipel.core.learning.again import in_size
from omnipel.core.tape.readings import as_read
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Length, Name, Value, bare, tr
from omnipel.shop.kin import of_family

MOST = 12
"""No more sizes are made at once."""
LONGEST = 120


class FamilyDialog(Dialog):
    """The sizes of a family, and more of them."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        intro = tr(
            "The same cover for things of one shape. One reading is given for each size; all others grow with it and can be taken anew in each job."
        )
        super().__init__(parent, tr("In several sizes"), intro)
        self.session, self.old = session, session.open_job
        words = {place.key: place.words for place in session.places}
        picks: list[tuple[Value, object]] = [(words[r.place], r.place) for r in self.old.readings if r.place in words]
        self.place = combo(tr("The reading that tells the sizes apart"), picks, lambda _v: self._show())
        self.family = line(tr("What the family is called"))
        self.family.setMaxLength(LONGEST)
        self.family.setText(self.old.kin.family or self.old.name)
        self.sizes: list[tuple[str, float]] = []
        meaning(
            self.place, tr("The reading that is another one in each size. All others grow with it, as they stand to it here.")
        )
        meaning(self.family, tr("The name under which the sizes belong together; each job adds its own size to it."))
        self.table = QGridLayout()
        self.table.setHorizontalSpacing(14)
        self.table.setVerticalSpacing(4)
        self.more = length_field(session, tr("another size"), self._add, strict=True)
        self.more.setFixedWidth(120)
        meaning(self.more, tr("One more size: type that reading, and Enter adds a line to the table."))
        self.make = button(tr("Make these jobs"), self._make, "main")
        inner = QWidget()
        shown = column(self.table)
        shown.addStretch(1)
        inner.setLayout(shown)
        add = row(label(tr("another size"), "soft"), self.more, spacing=8)
        add.addStretch(1)
        foot = row(button(tr("Leave it"), self.reject), self.make, spacing=8)
        foot.insertStretch(0, 1)
        top = row(label(tr("family"), "soft"), self.family, label(tr("told apart by"), "soft"), self.place, spacing=8)
        whole = column(
            label(tr("In several sizes"), "title"), label(intro, "soft", wrap=True), top, scrolled(inner), add, foot, margins=16
        )
        whole.setStretch(3, 1)
        self.setLayout(whole)
        self._show()
        sized(self, 820, 560)
        self.more.setFocus()

    @property
    def kin(self) -> list[Job]:
        """The jobs of the shop that belong to the family, and the open one first."""
        family = self.old.kin.family
        return [self.old, *(of_family(self.session.store, family, self.session.key or -1) if family else ())]

    def _name(self, length: float) -> str:
        return f"{self.family.text().strip() or self.old.name}, {self.session.tell(Length(length))}"[:LONGEST]

    def _add(self, length: float) -> None:
        if len(self.sizes) < MOST and all(abs(length - known) > 0.05 for _, known in self.sizes):
            self.sizes.append((self._name(length), length))
            self._show()
        self.more.clear()
        self.more.setFocus()

    def _new(self) -> list[Job]:
        family = self.family.text().strip() or self.old.name
        return [in_size(self.old, name, self.place.value, length, family) for name, length in self.sizes]

    def _show(self) -> None:
        emptied(self.table)
        self.make.setEnabled(bool(self.sizes))
        heads = (tr("job"), tr("reading"), NOTHING)
        for k, words in enumerate(heads):
            self.table.addWidget(label(words, "soft"), 0, k)
        there = self.kin
        drafts = [(job, draft(job)) for job in (*there, *self._new())]
        first = next((d for _, d in drafts if isinstance(d, Drafted)), None)
        panels = [panel.name for panel in first.panels][:4] if first is not None else []
        for k, name in enumerate(panels, 3):
            head = label(NOTHING, "soft", wrap=True)
            head.setText(self.session.tell(tr("{panel}, cut", panel=Name(name))))
            self.table.addWidget(head, 0, k)
        for line_, (job, drafted) in enumerate(drafts, 1):
            self._line(line_, job, drafted, panels, line_ - 1 - len(there))

    def _line(self, at: int, job: Job, drafted: object, panels: list[str], new: int) -> None:
        name: QLineEdit | QWidget
        if new >= 0:
            name = line(tr("What this size is called"))
            name.setText(job.name)
            name.textEdited.connect(partial(self._named, new))
        else:
            name = label(Name(job.name), wrap=True)
        self.table.addWidget(name, at, 0)
        reading = job.reading(self.place.value)
        told = label(NOTHING)
        told.setText(self.session.tell(bare(as_read(reading))) if reading is not None else "")
        self.table.addWidget(told, at, 1, Qt.AlignmentFlag.AlignRight)
        if new >= 0:
            self.table.addWidget(button(tr("leave out"), partial(self._drop, new), "quiet"), at, 2)
        cut = {p.name: (p.cut_length.value, p.cut_width.value) for p in drafted.panels} if isinstance(drafted, Drafted) else {}
        for k, panel in enumerate(panels, 3):
            size = label(NOTHING)
            if panel in cut:
                size.setText(self.session.tell(tr("{long} × {wide}", long=bare(cut[panel][0]), wide=bare(cut[panel][1]))))
            self.table.addWidget(size, at, k)

    def _named(self, k: int, text: str) -> None:
        self.sizes[k] = (text[:LONGEST] or self._name(self.sizes[k][1]), self.sizes[k][1])

    def _drop(self, k: int) -> None:
        del self.sizes[k]
        self._show()

    def _make(self) -> None:
        made = self._new()
        family = self.family.text().strip() or self.old.name
        if self.old.kin.family != family:
            self.session.change(tr("family: {name}", name=Name(family)), Change(refs.of_job("kin.family"), family))
        self.accept()
        for job in made:
            if self.session.add(job, tr("in another size, from {job}", job=Name(self.old.name))) is None:
                return
        self.session.go.emit(refs.panel())


def ask_family(parent: QWidget, session: Session) -> None:
    """Ask, and make them."""
    if isinstance(session.draft, Drafted) and session.open_job.readings:
        FamilyDialog(parent, session).exec()
    else:
        session.say("look", tr("It has to be measured first."))
