"""What the window works on: the shop, the open job and its draft. Every change goes through here and becomes a revision.

What drafts and checks jobs is loaded when the first one is opened: the shelf is painted without it.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, NoReturn

from PySide6.QtCore import QObject, Signal

from omnipel.bench.clothing import Clothing
from omnipel.bench.deliverer import Deliverer, Pace
from omnipel.bench.pictures import Pictures
from omnipel.bench.speech import SPEECH
from omnipel.core.drafts import Drafts, relaid
from omnipel.core.words.phrases import Name, Phrase, Value, Voice, tr
from omnipel.core.words.refs import Of, Ref
from omnipel.core.words.units import Unit
from omnipel.shop.opening import StoreError
from omnipel.shop.store import Store
from omnipel.work.tasks import Works

if TYPE_CHECKING:
    from omnipel.core.advice.measuring import Measuring
    from omnipel.core.draft import Draft
    from omnipel.core.forms.body import Body
    from omnipel.core.forms.form import Place
    from omnipel.core.job.document import Job
    from omnipel.core.job.findings import Change, Remedy
    from omnipel.core.remedies import Trying
    from omnipel.core.words.working import Worked
    from omnipel.shop.whole import NotWritten

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
    ending = Signal()

    def __init__(self, store: Store) -> None:
        super().__init__()
        self.store = store
        self.key: int | None = None
        self.job: Job | None = None
        self.draft: Draft | None = None
        self.measuring: Measuring | None = None
        self.home_unit = Unit.MM
        self.unsaved: list[tuple[int, Job, str]] = []
        self.withdrawn: list[tuple[int, Job, str]] = []
        self.along: dict[str, str] = {}
        self.deliverer, self.pace = Deliverer(), Pace()
        self.works = Works(self.deliverer.came.emit, self.pace.wait)
        self.painting = Works(self.deliverer.came.emit)
        self.trying: Trying | None = None
        self.drafts = Drafts()
        self.pictures, self.cloth = Pictures(self), Clothing(self)

    # Opening

    def open(self, key: int) -> bool:
        """Open a job of the shop; False when it cannot be read. What is not on disk yet comes before what is."""
        job = self.read(key)
        if job is None:
            return False
        self.key = key
        self._take(job)
        self.opened.emit()
        return True

    def read(self, key: int, *, silent: bool = False) -> Job | None:
        """A job as it stands, with what is not on disk yet; None, and said, when it cannot be read."""
        from omnipel.shop.document import DocumentError

        waiting = [job for k, job, _ in self.unsaved if k == key]
        if waiting:
            return waiting[-1]
        try:
            return self.store.job(key)
        except KeyError:
            fault = tr("This job is not there any more.")
        except DocumentError as error:
            fault = tr("This job cannot be read: {fault}.", fault=error.phrase)
            if not silent and self.store.writable:
                self.offer(fault, tr("Go back to the last change that can be read"), Ref(Of.READABLE, str(key)))
                return None
        if not silent:
            self.say("stop", fault)
        return None

    def fault(self, error: Exception) -> NoReturn:
        """Our own fault goes where all such faults go."""
        raise error

    def close_job(self) -> None:
        """Back to the shelf."""
        self.works.forget("remedies")
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
        # The first job that is opened loads what drafts it.
        from omnipel.core.advice.measuring import Measuring
        from omnipel.core.remedies import Trying
        from omnipel.shop.document import lawful

        self.pace.busy()  # what a change comes to is shown before its remedies are tried
        self.job = job
        again = relaid(self.draft, job) if self.draft is not None and self.trying is None else None
        drafted = again or self.drafts.of(job)
        self.measuring = Measuring(job, drafted.measured)
        if again is not None:
            self.draft = again  # its remedies are the same
            return
        self.trying = Trying(drafted, lawful)
        self.draft = self.trying.advised
        self._try_more()

    def _try_more(self) -> None:
        """Have the next finding's remedies tried, behind the window and one finding at a time, so that what is newer need not wait long."""
        if self.trying is not None:
            self.works.ask("remedies", lambda trying: trying.step(), self.trying, self._tried, self.fault)

    def _tried(self, more: bool) -> None:
        if more:
            self._try_more()
        elif self.trying is not None:
            self._told(self.trying)

    def _told(self, tried: Trying) -> None:
        self.draft, self.trying = tried.advised, None
        self.advised.emit()

    def try_all(self) -> None:
        """Try all at once: somebody asks for it. What is under way behind the window is no longer waited for."""
        if self.trying is None:
            return
        from omnipel.core.remedies import Trying  # as above

        self.works.forget("remedies")
        tried = Trying(self.trying.drafted, self.trying.lawful)
        while tried.step():
            pass
        self._told(tried)

    def rest(self) -> None:
        """Nothing is worked on any more: the window is being closed."""
        self.ending.emit()
        self.works.close()
        self.painting.close()

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
        from omnipel.shop.document import DocumentError, checked  # as above

        try:
            made = checked(job)
        except DocumentError as error:
            self.say("stop", tr("Not changed: {fault}.", fault=error.phrase))
            return False
        self._take(made)
        self._keep(self.key, made, self.reason(reason, made))
        self.drafted.emit()
        return True

    def change(self, reason: Phrase, *changes: Change) -> bool:
        """Make changes by reference."""
        from omnipel.core.job.changes import changed  # as above

        return self.apply(changed(self.open_job, *changes), reason)

    def set(self, ref: Ref, value: object, reason: Phrase) -> bool:
        """Set what a reference means."""
        from omnipel.core.job.findings import Change  # as above

        return self.change(reason, Change(ref, value))

    def remedy(self, remedy: Remedy) -> bool:
        """Do what a finding proposes."""
        return self.change(remedy.words, *remedy.changes)

    def _keep(self, key: int, job: Job, reason: str) -> None:
        """Commit; what a full or read-only disk refuses stays in memory and is tried again with the next change."""
        along, self.along = self.along, {}
        waiting = [*self.unsaved, (key, job, reason)]
        self.unsaved, self.withdrawn = [], []
        for i, (k, j, why) in enumerate(waiting):
            try:
                self.store.commit(k, j, why, along if i == len(waiting) - 1 else {})
            except StoreError as error:
                self.unsaved, self.along = waiting[i:], along
                self.say(
                    "stop",
                    tr("Not on disk yet, kept in memory: {fault}. It is tried again with every change.", fault=error.phrase),
                )
                return
        if len(waiting) > 1:
            self.say("fine", tr("The disk can be written again: everything is kept."))
        self.shelved.emit()

    def keep_setting(self, name: str, value: str) -> None:
        """Keep a setting of the shop; where it cannot be written it counts until the window is closed."""
        try:
            self.store.set(name, value)
        except StoreError as error:
            if self.store.unwritable or self.store.writable:
                self.say("look", tr("Not kept: {fault}", fault=error.phrase))

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
        if self.key is not None:
            self.open(self.key)
        if again.writable and not self.unsaved:
            self.say("fine", tr("This window can change things now."))
        elif not again.writable and not again.unwritable:
            self.say("look", tr("Still open in another window."))
        self.drafted.emit()

    # Undo

    def undo(self) -> None:
        """Step back one revision; of changes that are not on disk yet, the last is taken back first."""
        mine = [i for i, (key, _, _) in enumerate(self.unsaved) if key == self.key]
        if mine and self.key is not None:
            self.withdrawn.append(self.unsaved.pop(mine[-1]))
            job = self.read(self.key)
            if job is not None:
                self._stepped(job, self.unsaved[mine[-2]][2] if len(mine) > 1 else self._last_reason())
            return
        self._step(self.store.undo, tr("Nothing left to undo."))

    def redo(self) -> None:
        """Step forward again."""
        if self.withdrawn and self.withdrawn[-1][0] == self.key:
            self.unsaved.append(self.withdrawn.pop())
            self._stepped(self.unsaved[-1][1], self.unsaved[-1][2])
            return
        self._step(self.store.redo, tr("Nothing to redo."))

    def go_to_revision(self, number: int) -> None:
        """Step to any revision. What is not on disk yet is put there first."""
        self.save_waiting()
        if any(key == self.key for key, _, _ in self.unsaved):
            return
        self._step(lambda key: self.store.go_to(key, number), tr("That revision is gone."))

    def _last_reason(self) -> str:
        revisions, position = self.store.history(self.key or 0)
        return {r.number: r.reason for r in revisions}.get(position, "")

    def _step(self, step: Callable[[int], Job | None], nothing: Phrase) -> None:
        from omnipel.shop.document import DocumentError  # as above

        if self.key is None:
            return
        try:
            job = step(self.key)
        except (StoreError, DocumentError) as error:
            self.say("stop", error.phrase)
            return
        except KeyError:
            self.say("stop", tr("That revision is gone."))
            return
        if job is None:
            self.say("note", nothing)
            return
        self._stepped(job, self._last_reason())

    def _stepped(self, job: Job, reason: str) -> None:
        self._take(job)
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

    def not_written(self, error: NotWritten) -> None:
        """Tell that a file could not be written."""
        self.say("stop", tr("Not written: {fault}", fault=error.phrase))

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
        return self.voice.length(mm, fine=fine, with_unit=with_unit)

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
        from omnipel.shop.starter import plausible  # as above

        known = self.draft.body if self.draft is not None else None
        return known or (plausible(self.job) if self.job is not None else None)
