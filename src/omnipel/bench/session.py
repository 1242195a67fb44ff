"""What the window works on: the shop, the open job and its draft. Every change goes through here and becomes a revision."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal

from omnipel.bench.speech import SPEECH
from omnipel.core.advice.measuring import Measuring
from omnipel.core.draft import Draft, draft, letters
from omnipel.core.forms.body import Body
from omnipel.core.forms.form import Place
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Change, Remedy
from omnipel.core.remedies import Trying
from omnipel.core.tape.readings import value
from omnipel.core.words.phrases import Name, Phrase, Value, Voice, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.units import Unit, format_length
from omnipel.core.words.working import Worked
from omnipel.shop.document import adapter, lawful
from omnipel.shop.starter import plausible
from omnipel.shop.store import Store, StoreError

LONGEST_REASON = 160


class Session(QObject):
    """The open shop and job.

    `drafted` tells that the job or its draft changed, `advised` that its remedies have been tried; `opened` that another job (or none) is open;
    `pointed` that the person points at a number; `said` that there is something to tell in one line, `offered` the same with a link behind it;
    `go` that a place in the job is to be shown.
    """

    drafted = Signal()
    advised = Signal()
    opened = Signal()
    shelved = Signal()
    pointed = Signal(object, object)
    said = Signal(str, str)
    offered = Signal(str, str, object)
    go = Signal(object)
    unit_flipped = Signal()

    def __init__(self, store: Store) -> None:
        super().__init__()
        self.store = store
        self.key: int | None = None
        self.job: Job | None = None
        self.draft: Draft | None = None
        self.measuring: Measuring | None = None
        self.home_unit = Unit.MM
        self.unsaved: list[tuple[int, Job, str]] = []
        self.trying: Trying | None = None
        self.idle = QTimer(self, interval=0)
        self.idle.timeout.connect(self._try_more)

    # Opening

    def open(self, key: int) -> None:
        """Open a job of the shop."""
        self.key = key
        self._take(self.store.job(key))
        self.opened.emit()

    def close_job(self) -> None:
        """Back to the shelf."""
        self.key = self.job = self.draft = self.measuring = self.trying = None
        self.opened.emit()

    def add(self, job: Job, reason: Phrase) -> int | None:
        """Put a new job in the shop and open it."""
        try:
            key = self.store.add(job, self.reason(reason, job))
        except StoreError as error:
            self.say("stop", tr("Not kept: {fault}", fault=error.phrase))
            return None
        self.open(key)
        self.shelved.emit()
        return key

    def _take(self, job: Job) -> None:
        self.job = job
        drafted = draft(job)
        self.measuring = Measuring(job, drafted.measured)
        self.trying = Trying(drafted, lawful)
        self.draft = self.trying.advised  # remedies are tried while nothing else is to be done
        self.idle.start()

    def _try_more(self) -> None:
        """Try what the next finding offers."""
        if self.trying is not None and self.trying.step():
            return
        self.idle.stop()
        if self.trying is not None:
            self.draft, self.trying = self.trying.advised, None
            self.advised.emit()

    def try_all(self) -> None:
        """Try what is left at once: somebody asks for it."""
        while self.trying is not None:
            self._try_more()

    # Changing

    @property
    def open_job(self) -> Job:
        """The open job; only asked for while one is open."""
        if self.job is None:
            raise LookupError("no job is open")
        return self.job

    def apply(self, job: Job, reason: Phrase) -> bool:
        """Make a change: check it, draft it, commit it. A change that is none does nothing."""
        if self.key is None or job == self.job:
            return False
        if not self.store.writable and not self.store.unwritable:
            self.say("look", tr("This shop is open in another window; here you can only look."))
            self.drafted.emit()
            return False
        try:
            checked = adapter().validate_python(adapter().dump_python(job))
        except ValueError as error:
            self.say("stop", tr("Not changed: {fault}", fault=Name(str(error).splitlines()[-2].strip())))
            return False
        self._take(checked)
        self._keep(self.key, checked, self.reason(reason, checked))
        self.drafted.emit()
        return True

    def change(self, reason: Phrase, *changes: Change) -> bool:
        """Make changes by reference."""
        return self.apply(changed(self.open_job, *changes), reason)

    def set(self, ref: Ref, value: object, reason: Phrase) -> bool:
        """Set what a reference means."""
        return self.change(reason, Change(ref, value))

    def remedy(self, remedy: Remedy) -> bool:
        """Do what a finding proposes."""
        return self.change(remedy.words, *remedy.changes)

    def _keep(self, key: int, job: Job, reason: str) -> None:
        """Commit; what a full or read-only disk refuses stays in memory and is tried again with the next change."""
        waiting = [*self.unsaved, (key, job, reason)]
        self.unsaved = []
        for i, (k, j, why) in enumerate(waiting):
            try:
                self.store.commit(k, j, why)
            except StoreError as error:
                self.unsaved = waiting[i:]
                self.say(
                    "stop",
                    tr("Not on disk yet, kept in memory: {fault}. It is tried again with every change.", fault=error.phrase),
                )
                return
        if len(waiting) > 1:
            self.say("fine", tr("The disk can be written again: everything is kept."))
        self.shelved.emit()

    def save_waiting(self) -> None:
        """Try again what could not be written."""
        if self.unsaved:
            key, job, reason = self.unsaved.pop()
            self._keep(key, job, reason)

    def try_writing(self) -> None:
        """Another window may have been closed, or the disk freed, since."""
        if self.store.writable:
            self.save_waiting()
            self.drafted.emit()
            return
        try:
            again = Store(self.store.path)
        except StoreError as error:
            self.say("stop", error.phrase)
            return
        old, self.store = self.store, again
        old.close()
        if again.writable:
            self.save_waiting()
        if self.key is not None and not self.unsaved:
            self.open(self.key)
        if again.writable:
            self.say("fine", tr("This window can change things now."))
        else:
            self.say("look", tr("Still open in another window."))
        self.drafted.emit()

    # Undo

    def undo(self) -> None:
        """Step back one revision."""
        self._step(self.store.undo, tr("Nothing left to undo."))

    def redo(self) -> None:
        """Step forward again."""
        self._step(self.store.redo, tr("Nothing to redo."))

    def go_to_revision(self, number: int) -> None:
        """Step to any revision."""
        self._step(lambda key: self.store.go_to(key, number), tr("That revision is gone."))

    def _step(self, step: Callable[[int], Job | None], nothing: Phrase) -> None:
        if self.key is None:
            return
        try:
            job = step(self.key)
        except StoreError as error:
            self.say("stop", error.phrase)
            return
        except KeyError:
            self.say("stop", tr("That revision is gone."))
            return
        if job is None:
            self.say("note", nothing)
            return
        self._take(job)
        revisions, position = self.store.history(self.key)
        reason = next((r.reason for r in revisions if r.number == position), "")
        self.say("note", tr("Now at: {reason}", reason=Name(reason)))
        self.drafted.emit()
        self.shelved.emit()

    # Words

    def say(self, severity: str, words: Phrase) -> None:
        """Tell something in one line."""
        self.said.emit(severity, self.tell(words))

    def offer(self, words: Phrase, link: Phrase, ref: Ref) -> None:
        """Tell something in one line, with a link to what a reference means."""
        self.offered.emit(self.tell(words), self.tell(link), ref)

    def not_written(self, path: Path, error: OSError) -> None:
        """Tell that a file could not be written."""
        self.say("stop", tr("Not written: {path}: {fault}", path=Name(str(path)), fault=Name(error.strerror or str(error))))

    def tell(self, words: Value) -> str:
        """A phrase or value in the window's language and the job's unit."""
        return SPEECH.voice(self.unit).say(words)

    def sentence(self, words: Value) -> str:
        """The same, beginning with a capital letter."""
        return SPEECH.voice(self.unit).sentence(words)

    def reason(self, words: Phrase, job: Job) -> str:
        """Why a change was made, as its revision keeps it: in the unit of that moment."""
        return SPEECH.voice(job.unit).say(words)[:LONGEST_REASON]

    def point(self, words: Phrase, number: Worked) -> None:
        """Show the sum of a number in the working line."""
        self.pointed.emit(words, number)

    @property
    def unit(self) -> Unit:
        """The unit of the open job."""
        return self.job.unit if self.job else self.home_unit

    @property
    def voice(self) -> Voice:
        """The window's language with the job's unit."""
        return SPEECH.voice(self.unit)

    def fmt(self, mm: float, *, fine: bool = False, with_unit: bool = True) -> str:
        """A length in the job's unit."""
        return format_length(mm, self.unit, fine=fine, with_unit=with_unit)

    @property
    def advice(self) -> Measuring:
        """Advice on the readings of the open job; only asked for while one is open."""
        if self.measuring is None:
            raise LookupError("no job is open")
        return self.measuring

    @property
    def places(self) -> tuple[Place, ...]:
        """Where a tape can be laid on the open job's thing, in the order of its card."""
        return self.measuring.places if self.measuring is not None else ()

    @property
    def body(self) -> Body | None:
        """The open job's thing as far as it is measured, with samples where readings are missing: for sketches."""
        known = self.draft.body if self.draft is not None else None
        return known or (plausible(self.job) if self.job is not None else None)

    def names(self) -> dict[str, float]:
        """What may be written in a tape field besides numbers: the readings taken, by their words and by their letter on the card."""
        if self.job is None:
            return {}
        taken = {reading.place: value(reading) for reading in self.job.readings}
        named: dict[str, float] = {}
        for i, place in enumerate(self.places):
            if place.key in taken:
                named[self.tell(place.words)] = taken[place.key]
                named[letters(i)] = taken[place.key]
        return named
