"""The Object station: what the thing is, and what sticks out of it."""

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QAbstractButton,
    QButtonGroup,
    QCheckBox,
    QFileDialog,
    QFormLayout,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPlainTextEdit,
    QVBoxLayout,
    QWidget,
)

from omnipel.bench.flow import Flow
from omnipel.bench.look import LOOK
from omnipel.bench.parts import button, column, combo, emptied, label, row, scrolled, surface
from omnipel.bench.picture import Thumbnail
from omnipel.bench.session import Session
from omnipel.bench.sticksketch import StickSketch
from omnipel.bench.tape_station import plausible
from omnipel.bench.tapefield import length_field
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.proposals import Proposal, proposals
from omnipel.core.findings import Act, Change
from omnipel.core.forms import FORMS
from omnipel.core.forms.body import Form
from omnipel.core.forms.thing import ComesOff, Lives, SticksOut, Treatment
from omnipel.core.job import Job
from omnipel.core.pictures.drawing import Drawing
from omnipel.core.pictures.sketch import View, sketch
from omnipel.shop.starter import starter


class ObjectStation(QWidget):
    """Says what the object is."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.cards = {form.key: FormCard(form) for form in FORMS.values()}
        self.group = QButtonGroup(self)
        pictures = Flow(even=True)
        for key, card in self.cards.items():
            self.group.addButton(card)
            card.clicked.connect(lambda _checked=False, k=key: self._form(k))
            pictures.addWidget(card)
        self.name = self._line("name of the job", lambda text: text.strip() and self._set("name", text.strip()[:120]))
        self.owner = self._line("for whom", lambda text: self._set("owner", text[:120]))
        self.where = self._line("where it stands", lambda text: self._set("place", text[:120]))
        self.lives = combo("where it lives", [(v.value, v) for v in Lives], lambda v: self._set("thing.lives", v))
        self.off = combo("comes off", [(v.value, v) for v in ComesOff], lambda v: self._set("thing.comes_off", v))
        self.hot = QCheckBox("it gets hot", accessibleName="it gets hot")
        self.hot.clicked.connect(lambda on: self._set("thing.gets_hot", bool(on)))
        self.notes = QPlainTextEdit(accessibleName="notes")
        self.notes.setMaximumHeight(90)
        self.notes.setTabChangesFocus(True)
        self.notes.focusOutEvent = self._notes_left  # type: ignore[assignment]
        form = QFormLayout()
        form.setVerticalSpacing(8)
        form.setHorizontalSpacing(16)
        for words, field in (
            ("name", self.name),
            ("for", self.owner),
            ("stands", self.where),
            ("lives", self.lives),
            ("comes off", self.off),
            ("", self.hot),
            ("notes", self.notes),
        ):
            form.addRow(words, field)
        self.sketch = StickSketch(session)
        self.sketch.moved_to.connect(self._moved)
        self.sketch.setMinimumHeight(220)
        self.proposal_head, self.proposal_list = label("Proposed from your answers", "head", wrap=True), QVBoxLayout()
        self.proposal_list.setSpacing(6)
        self.proposed: tuple[Proposal, ...] = ()
        self.proposal_head.hide()
        self.stick = QVBoxLayout()
        self.stick.setSpacing(6)
        add = button("Add what sticks out", self._add)
        self.trace = button("Bring in an outline…", self._trace)
        left = QWidget()
        left.setLayout(column(label("What is it?", "title"), pictures, form, spacing=12))
        left.layout().addStretch(1)  # type: ignore[union-attr]
        right = QWidget()
        note = label(
            "Knob, crank, handle, cable, valve: placed from the front centre line and the top edge, measured over, never beside.",
            "soft",
            wrap=True,
        )
        right.setLayout(
            column(
                surface(column(self.sketch, margins=4)),
                label("What sticks out", "head"),
                note,
                self.stick,
                add,
                self.trace,
                self.proposal_head,
                self.proposal_list,
                spacing=8,
            )
        )
        right.layout().addStretch(1)  # type: ignore[union-attr]
        layout = QHBoxLayout(self)
        layout.setContentsMargins(16, 16, 16, 8)
        layout.setSpacing(16)
        layout.addWidget(scrolled(left), 1)
        layout.addWidget(scrolled(right), 1)
        self.made_for: tuple[object, ...] = ("none",)

    def _line(self, words: str, done: object) -> QLineEdit:
        line = QLineEdit()
        line.setAccessibleName(words)
        line.editingFinished.connect(lambda: done(line.text()))  # type: ignore[operator]
        return line

    def enter(self) -> None:
        """The station was opened."""
        self.refresh()
        card = self.cards.get(self.session.open_job.thing.form)
        if card is not None:
            card.setFocus()

    def refresh(self) -> None:
        """Show the job as it stands."""
        job = self.session.open_job
        for key, card in self.cards.items():
            card.setChecked(key == job.thing.form)
        for line, text in ((self.name, job.name), (self.owner, job.owner), (self.where, job.place)):
            if not line.hasFocus():
                line.setText(text)
        self.lives.show_value(job.thing.lives)
        self.off.show_value(job.thing.comes_off)
        self.hot.setChecked(job.thing.gets_hot)
        if not self.notes.hasFocus():
            self.notes.setPlainText(job.notes)
        self.trace.setVisible(job.thing.form in ("traced", "flat"))
        self.sketch.refresh()
        self._proposals(job)
        shape = (job.thing.sticks_out, job.unit)
        if shape != self.made_for:
            emptied(self.stick)
            for i, thing in enumerate(job.thing.sticks_out):
                self.stick.addWidget(StickCard(self.session, i, thing))
            self.made_for = shape

    def go_to(self, path: str) -> None:
        """Nothing here needs more than the station itself."""

    def _set(self, path: str, value: object) -> None:
        self.session.set(path, value, f"{path.rpartition('.')[2].replace('_', ' ')}: {value}"[:80])

    def _notes_left(self, event: object) -> None:
        QPlainTextEdit.focusOutEvent(self.notes, event)  # type: ignore[arg-type]
        if self.session.job is not None and self.notes.toPlainText() != self.session.job.notes:
            self.session.set("notes", self.notes.toPlainText()[:4000], "notes")

    def _form(self, key: str) -> None:
        """Another form: its own readings, and the first scheme that serves it unless the present one does."""
        job = self.session.open_job
        if key == job.thing.form:
            return
        scheme = job.cover.scheme
        if scheme not in SCHEMES or key not in SCHEMES[scheme].forms:
            scheme = next(s.key for s in SCHEMES.values() if key in s.forms)
        fresh = starter(key, scheme, job.unit, with_readings=False)
        cover = replace(fresh.cover, cloth=job.cover.cloth, padding=max(job.cover.padding, fresh.cover.padding))
        self.session.apply(
            replace(job, thing=replace(job.thing, form=key, outline=job.thing.outline or fresh.thing.outline), cover=cover),
            f"form: {FORMS[key].words.lower()}",
        )

    def _moved(self, number: int, from_centre: float, from_top: float) -> None:
        """Something that sticks out was dragged to another place."""
        thing = self.session.open_job.thing.sticks_out[number]
        path = f"thing.sticks_out.{number}"
        self.session.change(
            f"{thing.name} moved", Change(f"{path}.from_centre", from_centre), Change(f"{path}.from_top", from_top)
        )

    def _proposals(self, job: Job) -> None:
        """What the answers propose, each with its reason and a button that takes it."""
        found = proposals(job)
        if found == self.proposed:
            return
        self.proposed = found
        emptied(self.proposal_list)
        for proposal in found:
            take = button("Take it", lambda p=proposal: self.session.change(p.words, *p.changes))
            take.setAccessibleName(f"Take it: {proposal.words}")
            words = column(label(proposal.words, wrap=True), label(proposal.reason, "soft", wrap=True), spacing=1)
            line = row(take)
            line.insertLayout(0, words, 1)
            holder = QWidget()
            holder.setLayout(line)
            self.proposal_list.addWidget(holder)
        self.proposal_head.setVisible(bool(found))

    def _trace(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Bring in a traced outline", "", "Drawings (*.svg)")
        if path:
            self.bring_outline(Path(path))

    def bring_outline(self, path: Path) -> None:
        """Put the largest closed path of an SVG file into the job."""
        from omnipel.exchange.outlines import read_svg_outline
        from omnipel.shop.document import DocumentError

        try:
            outline = read_svg_outline(path)
        except DocumentError as error:
            self.session.say("stop", f"Not brought in: {error}. The old outline stays.")
            return
        if self.session.set("thing.outline", outline, f"outline from {path.name}"[:80]):
            self.session.say("fine", f"{len(outline.points)} points brought in, 1 unit of the drawing as SVG says.")

    def _add(self) -> None:
        job = self.session.open_job
        names = {thing.name for thing in job.thing.sticks_out}
        name = next(n for n in ("knob", *(f"knob {i}" for i in range(2, 99))) if n not in names)
        self.session.change(
            f"{name} sticks out", Change("thing.sticks_out", SticksOut(name=name, from_top=100.0, reach=40.0, size=50.0), Act.ADD)
        )


class StickCard(QWidget):
    """One thing that sticks out: its name, place, reach, size, treatment."""

    def __init__(self, session: Session, i: int, thing: SticksOut) -> None:
        super().__init__()
        self.session, self.path = session, f"thing.sticks_out.{i}"
        name = QLineEdit(thing.name, accessibleName="what sticks out")
        name.editingFinished.connect(
            lambda: (
                name.text().strip()
                and session.set(f"{self.path}.name", name.text().strip()[:80], f"named {name.text().strip()}"[:80])
            )
        )
        treat = combo(
            "what the cover does",
            [(t.value, t) for t in Treatment],
            lambda t: session.set(f"{self.path}.treatment", t, f"{thing.name}: {t}"),
        )
        treat.show_value(thing.treatment)
        gone = button("Remove", lambda: session.change(f"{thing.name} removed", Change(self.path, act=Act.REMOVE)), "quiet")
        grid = QGridLayout()
        grid.setSpacing(6)
        fields = (
            ("from the top", "from_top", -20_000.0),
            ("right of centre", "from_centre", -20_000.0),
            ("stands out", "reach", 0.0),
            ("size", "size", 0.0),
        )
        for k, (words, attribute, low) in enumerate(fields):
            field = length_field(
                session,
                f"{thing.name} {words}",
                lambda mm, a=attribute, w=words: session.set(f"{self.path}.{a}", mm, f"{thing.name} {w}"),
                low=low,
                strict=low == 0.0,
                high=10_000.0,
            )
            field.show_length(getattr(thing, attribute))
            grid.addWidget(label(words, "soft"), k // 2 * 2, k % 2)
            grid.addWidget(field, k // 2 * 2 + 1, k % 2)
        self.setLayout(column(surface(column(row(name, treat, gone), grid, margins=8))))


class FormCard(QAbstractButton):
    """A form as a drawn picture with its name."""

    def __init__(self, form: Form) -> None:
        super().__init__()
        self.form = form
        self.setCheckable(True)
        self.setAccessibleName(f"{form.words}. {form.about}")
        self.setToolTip(form.about)
        self.picture: Thumbnail | None = None

    def sizeHint(self) -> QSize:
        return QSize(LOOK.px(126), LOOK.px(112))

    def minimumSizeHint(self) -> QSize:
        return QSize(LOOK.px(104), LOOK.px(112))

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.picture is None:
            body = plausible(starter(self.form.key, next(s.key for s in SCHEMES.values() if self.form.key in s.forms)))
            self.picture = Thumbnail(sketch(body.mesh(), View()) if body else Drawing(()))
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setBrush(LOOK.colour("surface"))
        ring = LOOK.colour("accent") if self.isChecked() or self.hasFocus() else LOOK.colour("line")
        painter.setPen(QPen(ring, 3.0 if self.isChecked() else 2.0 if self.hasFocus() else 1.0))
        painter.drawRoundedRect(self.rect().adjusted(2, 2, -2, -2), 4, 4)
        self.picture.paint(painter, QRectF(10, 8, self.width() - 20, self.height() - LOOK.px(24) - 14))
        painter.setFont(LOOK.font(14))
        painter.setPen(LOOK.colour("ink"))
        mark = "✓ " if self.isChecked() else ""
        painter.drawText(
            self.rect().adjusted(4, 0, -4, -6),
            Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom,
            mark + self.form.words,
        )
        painter.end()
