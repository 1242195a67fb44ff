"""The Tape station: one reading at a time in large type, its own picture, what the others say, its repeats, and what to do when they contradict."""

from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import QVBoxLayout, QWidget

from omnipel.bench.parts.columns import Columns, Part, station
from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.picker import combo, of_enum
from omnipel.bench.parts.sketchview import SketchView
from omnipel.bench.parts.tapefield import TapeField, length_field
from omnipel.bench.parts.widgets import WordButton, button, column, emptied, label, line, restyle, reveal, row, scrolled, surface
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.atbench import AtBench
from omnipel.bench.stations.tape.listening import Listening
from omnipel.bench.stations.tape.readinglist import ReadingList
from omnipel.bench.stations.tape.repeats import Repeats
from omnipel.core.advice.measuring import Trust, taken_again
from omnipel.core.draft import Drafted, letters
from omnipel.core.fit.going_on import SEWING, Fit
from omnipel.core.forms.form import Place
from omnipel.core.job.document import Job, with_reading
from omnipel.core.job.reading import MOST_REPEATS, Instrument, Reading
from omnipel.core.pictures.worn import uncovered
from omnipel.core.tape.readings import counted, spread, value
from omnipel.core.tolerances import LONGEST
from omnipel.core.words import refs
from omnipel.core.words.notation import TapeError, parse_length
from omnipel.core.words.phrases import NOTHING, Count, Name, Phrase, Share, bare, listed, mm, term, tr
from omnipel.core.words.refs import Of, Ref
from omnipel.core.words.typeset import fractions

TRUST_STYLE = {Trust.CHECKED: "fine", Trust.ALONE: "soft", Trust.DOUBTED: "look", Trust.ASIDE: "open"}


class TapeStation(AtBench):
    """Takes the readings."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.place = ""
        self.sketch = SketchView(tr("Sketch of the object with the tape path"))
        self.name, self.how = label(NOTHING, "title", wrap=True), label(NOTHING, "soft", wrap=True)
        self.field = TapeField(session, tr("Reading"), large=True)
        self.field.doubts = self._doubts
        self.field.entered.connect(self._entered)
        self.field.empty.connect(self.next_place)
        self.field.stepped.connect(self._stepped)
        self.others = label(NOTHING, "soft", wrap=True)
        self.repeats = Repeats(session)
        self.value, self.trust = label(NOTHING, "head", wrap=True), label(NOTHING, "soft")
        self.state = label(NOTHING, "look", wrap=True)
        self.cures = QVBoxLayout()
        self.cures.setSpacing(4)
        self.instrument = combo(tr("Instrument"), of_enum(Instrument), self._instrument)
        self.note = line(tr("Note on this reading"), tr("note: where exactly, what was in the way"))
        self.note.setMinimumWidth(40)
        self.note.editingFinished.connect(self._noted)
        self.beside_words = label()
        self.beside = length_field(session, tr("beside it"), self._beside, strict=True)
        self.beside_row = QWidget()
        self.beside_row.setLayout(row(self.beside_words, self.beside))
        self.readings = ReadingList(session)
        self.readings.chosen.connect(self._picked)
        session.advised.connect(self._advised)
        self.readings.asked.connect(lambda place: self.go_to(refs.reading(place)))
        self.listening = Listening(session, self.take)
        self.again = label(NOTHING, "soft", wrap=True)
        self._lay_out()
        session.opened.connect(self._another)

    def _lay_out(self) -> None:
        """Left the picture and all readings, right the one that is being taken."""
        keys = label(
            tr("Enter keeps it and goes on · Shift+Enter keeps it and measures the same again · ↑ ↓ choose a reading"),
            "soft",
            wrap=True,
        )
        right = QWidget()
        taking = column(
            self.name,
            self.how,
            self.field,
            self.beside_row,
            self.others,
            self.repeats,
            self.value,
            self.trust,
            self.state,
            self.cures,
            row(label(tr("taken with")), self.instrument),
            self.note,
            keys,
            spacing=7,
        )
        taking.addStretch(1)
        right.setLayout(taking)
        sheet = surface(column(self.sketch, margins=4))
        blank = button(tr("Blank tape card…"), lambda: self.session.go.emit(refs.TAPE_CARD))
        more = Flow(gap=12)
        more.addWidget(self.listening)
        more.addWidget(blank)
        lower = column(self.readings, more, spacing=6)
        lower.setStretch(0, 1)
        left, taken = QWidget(), QWidget()
        beside = column(sheet, lower, spacing=8)
        beside.setStretch(0, 5)
        beside.setStretch(1, 6)
        left.setLayout(beside)
        wrapped = column(scrolled(right), self.again, spacing=4)
        wrapped.setStretch(0, 1)
        taken.setLayout(wrapped)
        self.taken = taken
        self.setLayout(station(Columns((Part(left, 215, turn=1), Part(taken, 215)))))

    @property
    def walks(self) -> tuple[QWidget, ...]:
        """In this order the keys walk it: the reading that is being taken, its repeats and the rest about it, then all readings, then the picture."""
        return (self.field, self.beside_row, self.repeats, self.taken, self.readings, self.listening)

    # Where

    @property
    def places(self) -> tuple[Place, ...]:
        """Where a tape can be laid on the open job's thing."""
        return self.session.places

    def _another(self) -> None:
        """Another job: its own place, and nothing that was typed for the one before."""
        self.place = ""
        self.note.setText("")
        self.note.setModified(False)
        self.readings.forget()

    def enter(self) -> None:
        """The station was opened: go to the first reading that is still to be taken."""
        if self.place not in [p.key for p in self.places]:
            self.place = self._first_open()
        self.refresh()
        self.field.setFocus()

    def focus_card(self) -> None:
        """To the line that takes all readings in one go."""
        self.readings.card.setFocus()

    def _first_open(self) -> str:
        """The first reading that is still to be taken, else the first place there is."""
        wanted = self.session.advice.to_take
        return wanted[0].key if wanted else (self.places[0].key if self.places else "")

    def field_words(self) -> dict[Ref, Phrase]:
        """Every field of this station, for go-to."""
        return {
            **{refs.reading(p.key): tr("reading: {place}", place=p.words) for p in self.places},
            Ref(Of.TAPE, "", "instrument"): tr("what this reading was taken with"),
            Ref(Of.TAPE, "", "note"): tr("note on this reading"),
            Ref(Of.TAPE, "", "card"): tr("all readings in one go, by their letters"),
            Ref(Of.TAPE, "", "listen"): tr("listen to a wireless tape"),
        }

    def meant(self) -> Ref:
        """The reading that is looked at."""
        return refs.reading(self.place)

    def go_to(self, ref: Ref) -> None:
        """Show one reading, or put the focus on another field of this station."""
        fields = {"instrument": self.instrument, "note": self.note, "card": self.readings.card, "listen": self.listening.box}
        if ref.of is Of.TAPE:
            if ref.part in fields:
                reveal(fields[ref.part])
        elif ref.id in [p.key for p in self.places]:
            self.place = ref.id
            self.field.clear()
            self.refresh()
            self.field.setFocus()

    def next_place(self) -> None:
        """Go on to what is still to be measured; when that is enough, to what has not been read yet."""
        job = self.session.open_job
        wanted = self.session.advice.to_take
        if wanted:
            self.go_to(refs.reading(wanted[0].key))
            return
        places = [p.key for p in self.places]
        here = places.index(self.place) if self.place in places else -1
        asked = [p.key for p in (*self.places[here + 1 :], *self.places[: here + 1]) if p.asked and job.reading(p.key) is None]
        if self.session.draft is not None and self.session.draft.stops:
            self.session.say("look", tr("These readings are enough, but something is wrong: the findings say what."))
        else:
            self.session.say("fine", tr("These readings are enough. Ctrl+3 goes on to the cover; one more would check them."))
        self.go_to(refs.reading(asked[0] if asked else places[(here + 1) % len(places)]))

    def _stepped(self, step: int) -> None:
        """One reading up or down the list."""
        places = [p.key for p in self.places]
        if self.place in places:
            self.go_to(refs.reading(places[min(max(places.index(self.place) + step, 0), len(places) - 1)]))

    # Wireless tape

    def take(self, text: str) -> str:
        """Take in what came over the air, one reading or several by their letters; "" or why it was not taken."""
        if self.session.job is None or not self.isVisible():
            return say(tr("the bench is not asking for a reading"))
        if any(mark in text for mark in ",;") and text.strip()[:1].isalpha():
            return self.readings.take_card(text)
        try:
            length = parse_length(text, self.session.unit)
        except TapeError as error:
            return self.session.tell(error.phrase)
        if not 0.0 < length <= LONGEST:
            return say(tr("a length of more than 0 is expected"))
        before, want = self.session.open_job, self._want()
        if want is None:
            return say(tr("the bench is not asking for a reading"))
        self._entered(length, False)
        return "" if self.session.open_job != before else self.session.tell(tr("{place} was not changed", place=want.words))

    # Changes

    def _doubts(self, length: float) -> Phrase:
        place = self._want()
        return self.session.advice.question(place, length, self.instrument.value) if place else NOTHING

    def _entered(self, length: float, stay: bool) -> None:
        job, place = self.session.open_job, self._want()
        if place is None:
            return
        old = job.reading(place.key)
        if old is not None and not old.set_aside and len(old.repeats) >= MOST_REPEATS:
            self.session.say(
                "look", tr("{place} has {n} repeats already: remove one first.", place=place.words, n=Count(MOST_REPEATS))
            )
            return
        reading = taken_again(old, place, length, self.instrument.value)
        if self.session.apply(with_reading(job, reading), tr("{place}: {length}", place=place.words, length=mm(length))):
            self.field.clear()
            if not stay:
                self.next_place()

    def _change(self, reason: Phrase, **changes: object) -> None:
        """Change the reading that is shown."""
        old = self.session.open_job.reading(self.place)
        if old is not None:
            made = replace(old, **changes)  # type: ignore[arg-type]
            self.session.apply(with_reading(self.session.open_job, made), reason)

    def _instrument(self, instrument: Instrument) -> None:
        self._change(
            tr("{place}: taken with {instrument}", place=self._words(), instrument=term(instrument)), instrument=instrument
        )

    def _beside(self, length: float) -> None:
        self._change(tr("{place}: {length} beside it", place=self._words(), length=mm(length)), beside=length)

    def _noted(self) -> None:
        if self.note.isModified():
            self.note.setModified(False)
            self._change(tr("note on {place}", place=self._words()), note=self.note.text()[:500])

    def _picked(self, key: str) -> None:
        if key != self.place:
            self.place = key
            self.field.clear()
            self.refresh()

    # Showing

    def _want(self) -> Place | None:
        return next((p for p in self.places if p.key == self.place), None)

    def _words(self) -> Phrase:
        want = self._want()
        return want.words if want is not None else NOTHING

    def refresh(self) -> None:
        """Show the job as it stands."""
        job = self.session.open_job
        if self.place not in [p.key for p in self.places]:
            self.place = self._first_open()
        want, reading = self._want(), job.reading(self.place)
        if want is None:
            return
        number = self.places.index(want)
        kind = (
            NOTHING
            if want.asked or reading is not None
            else tr("   (another way)")
            if self.session.advice.to_take
            else tr("   (a check)")
        )
        self.name.setText(f"{letters(number)}   {self.session.sentence(want.words)}{say(kind)}")
        self.how.setText(self.session.tell(want.how))
        hint = tr("in {unit}", unit=_unit_word(job))
        self.field.line.setPlaceholderText(say(hint if reading is None or reading.set_aside else tr("once more")))
        self.field.rename(want.words)
        self.instrument.show_value(reading.instrument if reading else want.instrument)
        self.note.setEnabled(reading is not None)
        if not self.note.isModified():
            self.note.setText(reading.note if reading else "")
        self.beside_row.setVisible(want.beside is not None)
        if want.beside is not None:
            self.beside_words.setText(say(want.beside.words))
            self.beside.rename(want.beside.words)
            self.beside.show_length(reading.beside if reading and reading.beside else want.beside.usual.mm(job.unit))
            self.beside.setEnabled(reading is not None)
        self._others(want)
        self.repeats.show_reading(want, reading)
        self._value(want, reading)
        self._finding()
        self.readings.refresh(self.place)
        self._matters()
        self._sketch(want, reading)

    def _others(self, want: Place) -> None:
        """What the other readings say it should be."""
        found = self.session.advice.expected(want)
        self.others.setVisible(found is not None)
        if found is not None:
            words = tr("The others say {low} to {high}.", low=bare(found.low), high=mm(found.high))
            self.others.setText(self.session.tell(words))

    def _value(self, want: Place, reading: Reading | None) -> None:
        draft = self.session.draft
        doubtful = draft.doubtful if isinstance(draft, Drafted) else frozenset()
        trusted = self.session.advice.trust(want, doubtful)
        self.value.setVisible(reading is not None)
        self.trust.setVisible(trusted is not None)
        if reading is None or trusted is None:
            return
        n = len(counted(reading))
        method = tr("median") if n >= 4 else tr("mean") if n > 1 else tr("one reading")
        words = tr(
            "{value} ± {spread} ({method})",
            value=mm(value(reading), fine=True),
            spread=bare(spread(reading), fine=True),
            method=method,
        )
        self.value.setText(fractions(self.session.tell(words)))
        self.trust.setText(say(term(trusted)))
        restyle(self.trust, TRUST_STYLE[trusted])

    def _advised(self) -> None:
        """Remedies have been tried: show those that hold."""
        if self.isVisible() and self.session.job is not None:
            self._finding()

    def _finding(self) -> None:
        """What there is to say about this reading, with its cures as buttons."""
        draft = self.session.draft
        found = [
            f for f in (draft.findings if draft else ()) if f.where == refs.reading(self.place) and f.code != "reading-missing"
        ]
        emptied(self.cures)
        self.state.setVisible(bool(found))
        if not found:
            return
        self.state.setText(self.session.sentence(found[0].text))
        restyle(self.state, found[0].severity.value)
        for remedy in found[0].remedies:
            cure = WordButton(partial(self.session.remedy, remedy))
            cure.show_words(self.session.tell(remedy.words))
            self.cures.addWidget(cure)

    def _matters(self) -> None:
        """The readings that matter most to going on."""
        draft = self.session.draft
        fit = draft.fit if isinstance(draft, Drafted) else None
        shares = fit.shares if isinstance(fit, Fit) else ()
        called = {p.key: p.words for p in self.places}
        ranked = [
            tr("{place} ({share} of the doubt)", place=called.get(place, Name(place)), share=Share(part))
            for place, part in shares
            if place != SEWING and part > 0.01
        ]
        self.again.setText(self.session.tell(tr("What matters most to going on: {readings}.", readings=listed(ranked[:3]))))
        self.again.setVisible(bool(ranked))

    def _sketch(self, want: Place, reading: Reading | None) -> None:
        body = self.session.body
        if body is None:
            return
        shown = (
            tr("{place}: {value}", place=want.words, value=bare(value(reading), fine=True))
            if reading
            else tr("{place}: here", place=want.words)
        )
        self.sketch.show_scene(uncovered(body), body.tape(want.key), self.session.tell(shown))


def _unit_word(job: Job) -> Phrase:
    return {"mm": tr("millimetres"), "cm": tr("centimetres")}.get(job.unit.value, tr("inches"))
