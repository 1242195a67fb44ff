"""The Object station: what the thing is, and what sticks out of it."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtWidgets import QButtonGroup, QFileDialog, QFormLayout, QLineEdit, QPlainTextEdit, QVBoxLayout, QWidget

from omnipel.bench.parts.columns import Columns, Part, station
from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.pick import picked_from
from omnipel.bench.parts.picker import combo, of_enum
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.widgets import button, check, column, emptied, label, line, reveal, row, scrolled, surface
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.atbench import AtBench
from omnipel.bench.stations.object.formcard import FormCard
from omnipel.bench.stations.object.stickcard import StickCard
from omnipel.bench.stations.object.sticksketch import StickSketch
from omnipel.core.advice.proposals import Proposal, proposals
from omnipel.core.covers import SCHEMES, schemes_for
from omnipel.core.forms import FORMS
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.thing import ComesOff, Face, Lives, SticksOut
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, Phrase, Value, listed, term, tr, trn
from omnipel.core.words.refs import Of, Ref
from omnipel.core.words.units import MM_PER_INCH
from omnipel.shop.starter import starter


class ObjectStation(AtBench):
    """Says what the object is."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.open = False
        self.cards = {form.key: FormCard(form) for form in FORMS.values()}
        self.group = QButtonGroup(self)
        pictures = Flow(even=True)
        for key, card in self.cards.items():
            self.group.addButton(card)
            card.clicked.connect(lambda _checked=False, k=key: self._form(k))
            pictures.addWidget(card)
        self.tiles = QWidget()
        earlier = button(tr("Like an earlier job…"), self._like_earlier, tip=tr("Starts from a copy of it, without its readings"))
        beside = row(earlier)
        beside.addStretch(1)
        self.tiles.setLayout(column(label(tr("What is it?"), "title"), pictures, beside, spacing=12))
        self.chosen = label(NOTHING, "title", wrap=True)
        self.about = label(NOTHING, "soft", wrap=True)
        self.folded = QWidget()
        top = row(self.chosen, button(tr("Change"), self.unfold, tip=tr("Pick another form")))
        top.setStretch(0, 1)
        self.folded.setLayout(column(top, self.about, spacing=4))
        self._fields()
        self.sketch = StickSketch(session)
        self.sketch.moved_to.connect(self._moved)
        self.sketch.placed_at.connect(self._placed)
        self.sketch.setMinimumHeight(220)
        self.proposal_head, self.proposal_list = label(tr("Proposed from your answers"), "head", wrap=True), QVBoxLayout()
        self.proposal_list.setSpacing(6)
        self.proposed: tuple[object, ...] = ()
        self.proposal_head.hide()
        self.stick = QVBoxLayout()
        self.stick.setSpacing(6)
        self.add = button(tr("Add what sticks out"), self._ask_place)
        self.trace = button(tr("Bring in an outline…"), self._trace)
        note = label(
            tr(
                "Knob, crank, handle, cable, valve: placed from the centre line of its side and the top edge, measured over, never beside."
            ),
            "soft",
            wrap=True,
        )
        self._lay_out(note)
        self.made_for: tuple[object, ...] = ("none",)
        self.sticking: list[StickCard] = []
        session.opened.connect(self._another)
        self._another()

    def _lay_out(self, note: QWidget) -> None:
        """Left the answers and what sticks out, right the thing, large."""
        left = QWidget()
        add = Flow(gap=8)
        add.addWidget(self.add)
        add.addWidget(self.trace)
        answers = column(self.tiles, self.folded, self.form, spacing=12)
        answers.addWidget(self.proposal_head)
        answers.addLayout(self.proposal_list)
        answers.addLayout(column(label(tr("What sticks out"), "head"), note, self.stick, add, spacing=8))
        answers.addStretch(1)
        left.setLayout(answers)
        right = surface(column(self.sketch, margins=4))
        self.left = scrolled(left)
        self.columns = Columns((Part(self.left, 215), Part(right, 215)))
        self.setLayout(station(self.columns))

    def _fields(self) -> None:
        """The answers besides the form."""
        self.name = self._line(tr("name of the job"), self._named)
        self.owner = self._line(
            tr("for whom"), lambda text: self._set(refs.of_job("owner"), text[:120], tr("for {name}", name=Name(text)))
        )
        self.where = self._line(
            tr("where it stands"),
            lambda text: self._set(refs.of_job("place"), text[:120], tr("stands: {place}", place=Name(text))),
        )
        self.lives = combo(
            tr("where it is kept"), of_enum(Lives), lambda v: self._set(refs.thing("lives"), v, tr("kept {where}", where=term(v)))
        )
        self.off = combo(
            tr("comes off"),
            of_enum(ComesOff),
            lambda v: self._set(refs.thing("comes_off"), v, tr("comes off {often}", often=term(v))),
        )
        self.hot = check(
            tr("it gets hot"), lambda on: self._set(refs.thing("gets_hot"), on, tr("it gets hot") if on else tr("it stays cool"))
        )
        self.notes = QPlainTextEdit()
        self.notes.setAccessibleName(say(tr("notes")))
        self.notes.setMaximumHeight(56)
        self.notes.setTabChangesFocus(True)
        self.notes.installEventFilter(self)
        self.form = QFormLayout()
        self.form.setVerticalSpacing(8)
        self.form.setHorizontalSpacing(16)
        self.fields: dict[Ref, QWidget] = {
            refs.of_job("name"): self.name,
            refs.of_job("owner"): self.owner,
            refs.of_job("place"): self.where,
            refs.thing("lives"): self.lives,
            refs.thing("comes_off"): self.off,
            refs.thing("gets_hot"): self.hot,
            refs.of_job("notes"): self.notes,
        }
        words = (tr("name"), tr("for"), tr("stands"), tr("is kept"), tr("comes off"), NOTHING, tr("notes"))
        for shown, field in zip(words, self.fields.values(), strict=True):
            self.form.addRow(label(shown), field)

    @property
    def walks(self) -> tuple[QWidget, ...]:
        """In this order the keys walk it: what it is, the answers, what sticks out, and then the picture."""
        return (self.tiles, self.folded, *self.fields.values(), *self.sticking, self.add, self.trace, self.sketch)

    def decides(self) -> dict[Ref, QWidget]:
        """Its fields, by what they decide."""
        return self.fields

    def field_words(self) -> dict[Ref, Phrase]:
        """Every field of this station, for go-to."""
        job = self.session.open_job
        words = {
            refs.thing("form"): tr("what it is"),
            refs.of_job("name"): tr("name of the job"),
            refs.of_job("owner"): tr("for whom"),
            refs.of_job("place"): tr("where it stands"),
            refs.thing("lives"): tr("where it is kept"),
            refs.thing("comes_off"): tr("how often it comes off"),
            refs.thing("gets_hot"): tr("it gets hot"),
            refs.of_job("notes"): tr("notes"),
        }
        for thing in job.thing.sticks_out:
            words[refs.sticks_out(thing.id)] = tr("sticks out: {thing}", thing=Name(thing.name))
        return words

    def _named(self, text: str) -> object:
        return bool(text.strip()) and self._set(
            refs.of_job("name"), text.strip()[:120], tr("named {name}", name=Name(text.strip()))
        )

    def _line(self, words: Value, done: Callable[[str], object]) -> QLineEdit:
        made = line(words)

        def finished() -> None:
            if made.isModified():
                made.setModified(False)
                done(made.text())

        made.editingFinished.connect(finished)
        return made

    def _another(self) -> None:
        """Another job: what was typed belonged to the one before; a job that has been measured shows its form folded."""
        job = self.session.job
        self.open = job is not None and not job.readings and not job.thing.sticks_out
        for made in (self.name, self.owner, self.where):
            made.setModified(False)
        self.sketch.ask_place(False)
        self.made_for = ("none",)

    def enter(self) -> None:
        """The station was opened."""
        self.refresh()
        self.columns.verticalScrollBar().setValue(0)
        card = self.cards.get(self.session.open_job.thing.form)
        if self.open and card is not None:
            reveal(card)
        else:
            reveal(self.name)
            self.left.verticalScrollBar().setValue(0)

    def _to_name(self) -> None:
        """To the name, all of it picked, so that typing replaces the one that was made up."""
        reveal(self.name)
        self.name.selectAll()

    def unfold(self) -> None:
        """Show all forms, to pick another."""
        self.open = True
        self.refresh()
        card = self.cards.get(self.session.open_job.thing.form)
        if card is not None:
            card.setFocus()

    def refresh(self) -> None:
        """Show the job as it stands."""
        job = self.session.open_job
        form = FORMS.get(job.thing.form)
        self.tiles.setVisible(self.open)
        self.folded.setVisible(not self.open)
        self.chosen.setText(say(form.words) if form else job.thing.form)
        self.about.setText(say(form.about) if form else "")
        for key, card in self.cards.items():
            card.setChecked(key == job.thing.form)
        for made, text in ((self.name, job.name), (self.owner, job.owner), (self.where, job.place)):
            if not made.isModified():
                made.setText(text)
        self.lives.show_value(job.thing.lives)
        self.off.show_value(job.thing.comes_off)
        self.hot.setChecked(job.thing.gets_hot)
        if not self.notes.hasFocus():
            self.notes.setPlainText(job.notes)
        self.trace.setVisible(bool(form and form.traced))
        self.sketch.refresh()
        self._proposals(job)
        shape = (job.thing.sticks_out, job.unit)
        if shape != self.made_for:
            with same_focus(self):
                emptied(self.stick)
                self.sticking = [StickCard(self.session, thing) for thing in job.thing.sticks_out]
                for sticking in self.sticking:
                    self.stick.addWidget(sticking)
            self.made_for = shape

    def go_to(self, ref: Ref) -> None:
        """Put the focus on the field that decides what a reference means."""
        if ref == refs.thing("form"):
            self.unfold()
        elif ref.whole == refs.OUTLINE.whole and ref.part.startswith("outline"):
            self.trace.setFocus(Qt.FocusReason.OtherFocusReason)
        elif ref.of is Of.STICKS_OUT:
            for sticking in self.sticking:
                if sticking.ref == ref.whole:
                    sticking.name.setFocus(Qt.FocusReason.OtherFocusReason)
        elif ref in self.fields:
            reveal(self.fields[ref])

    def _set(self, ref: Ref, value: object, reason: Phrase) -> bool:
        return self.session.set(ref, value, reason)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if watched is self.notes and event.type() == QEvent.Type.FocusOut and self.session.job is not None:
            text = self.notes.toPlainText()[:4000]
            if text != self.session.job.notes:
                self.session.set(refs.of_job("notes"), text, tr("notes"))
        return super().eventFilter(watched, event)

    def _form(self, key: str) -> None:
        """Another form: its own places, and the first scheme that serves it unless the present one does."""
        job = self.session.open_job
        self.open = False
        if key == job.thing.form:
            self.refresh()
            self._to_name()
            return
        form, scheme = FORMS[key], SCHEMES.get(job.cover.scheme)
        if scheme is None or not scheme.serves_form(form):
            scheme = schemes_for(form)[0]
        fresh = starter(key, scheme.key, job.unit, with_readings=False, habits=job.cover.habits)
        cover = replace(fresh.cover, cloth=job.cover.cloth, padding=max(job.cover.padding, fresh.cover.padding))
        thing = replace(job.thing, form=key, outline=job.thing.outline if form.traced else None)
        self.session.apply(replace(job, thing=thing, cover=cover), tr("form: {form}", form=form.words))
        self._to_name()

    def _like_earlier(self) -> None:
        """Start from a copy of an earlier job: its form, cover and cloth, without its readings."""
        here = self.session.key
        entries: list[tuple[str, object]] = [
            (card.name, card.id) for card in self.session.store.cards(archived=True) if card.id != here
        ]
        if not entries:
            self.session.say("note", tr("There is no earlier job yet."))
            return
        picked = picked_from(self, tr("Like which job?"), entries)
        if isinstance(picked, int):
            self.take_after(picked)

    def take_after(self, key: int) -> None:
        """Take over what an earlier job decided."""
        earlier, job = self.session.read(key), self.session.open_job
        if earlier is None:
            return
        thing = replace(earlier.thing, sticks_out=(), outline=None)
        self.open = False
        taken = replace(job, unit=earlier.unit, thing=thing, readings=(), cover=replace(earlier.cover, overrides=()))
        self.session.apply(taken, tr("like {job}", job=Name(earlier.name)))

    def _moved(self, id_: str, from_centre: float, from_top: float) -> None:
        """Something that sticks out was dragged to another place."""
        ref = refs.sticks_out(id_)
        thing = next(thing for thing in self.session.open_job.thing.sticks_out if thing.id == id_)
        self.session.change(
            tr("{thing} moved", thing=Name(thing.name)),
            Change(ref.at("from_centre"), from_centre),
            Change(ref.at("from_top"), from_top),
        )

    def _proposals(self, job: Job) -> None:
        """What the answers propose, each with its reason and a button that takes it."""
        found = proposals(job)
        if (found, job.unit) == self.proposed:
            return
        self.proposed = (found, job.unit)
        emptied(self.proposal_list)
        for proposal in found:
            self.proposal_list.addWidget(self._proposal(proposal))
        self.proposal_head.setVisible(bool(found))

    def _proposal(self, proposal: Proposal) -> QWidget:
        tell = self.session.tell
        take = button(tr("Take it"), lambda: self.session.change(proposal.words, *proposal.changes))
        take.setAccessibleName(tell(tr("Take it: {proposal}", proposal=proposal.words)))
        words, reason = label(wrap=True), label(NOTHING, "soft", wrap=True)
        words.setText(tell(proposal.words))
        reason.setText(tell(proposal.reason))
        shown = row(take)
        shown.insertLayout(0, column(words, reason, spacing=1), 1)
        holder = QWidget()
        holder.setLayout(shown)
        return holder

    def _trace(self) -> None:
        from omnipel.exchange.reading.outlines import DRAWINGS

        title, kinds = say(tr("Bring in a traced outline")), f"{say(tr('Drawings'))} ({DRAWINGS})"
        path, _ = QFileDialog.getOpenFileName(self, title, "", kinds)
        if path:
            self.bring_outline(Path(path))

    def bring_outline(self, path: Path) -> None:
        """Put the largest closed line of a drawing into the job."""
        from omnipel.exchange.reading.outlines import read_outline
        from omnipel.shop.document import DocumentError

        try:
            traced = read_outline(path)
        except DocumentError as error:
            self.session.say("stop", tr("Not brought in: {fault}. The old outline stays.", fault=error.phrase))
            return
        if self.session.set(refs.OUTLINE, traced.outline, tr("outline from {file}", file=Name(path.name))):
            came = trn("{n} point brought in.", "{n} points brought in.", len(traced.outline.points))
            self.session.say("fine", tr("{text}", text=listed([came, *traced.notes], " ")))

    def _ask_place(self) -> None:
        """The next click on the sketch says where it sticks out; the button again puts it in the middle."""
        if self.sketch.placing:
            self._placed(Face.FRONT, 0.0, self._round(100.0, 4.0))
            return
        self.sketch.ask_place(True)
        self.session.say(
            "note", tr("Click on the sketch where it sticks out. The same button again puts it in the middle of the front.")
        )

    def _round(self, metric: float, inches: float) -> float:
        return inches * MM_PER_INCH if self.session.unit.denominator else metric

    def _placed(self, face: str, from_centre: float, from_top: float) -> None:
        self.sketch.ask_place(False)
        job = self.session.open_job
        names = {thing.name for thing in job.thing.sticks_out}
        first = say(tr("knob"))
        name = next(n for n in (first, *(f"{first} {i}" for i in range(2, 99))) if n not in names)
        step = self._round(5.0, 0.25)
        made = SticksOut(
            name=name,
            from_top=round(from_top / step) * step,
            from_centre=round(from_centre / step) * step,
            reach=self._round(40.0, 1.5),
            size=self._round(50.0, 2.0),
            face=Face(face),
        )
        self.session.change(tr("{thing} sticks out", thing=Name(name)), Change(refs.sticks_out(), made, Act.ADD))
        self.go_to(refs.sticks_out(self.session.open_job.thing.sticks_out[-1].id))
