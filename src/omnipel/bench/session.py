"""What the window works on: the shop, the open job and its draft. Every change goes through here and becomes a revision."""

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from omnipel.core.draft import Draft, draft
from omnipel.core.findings import Change, Remedy
from omnipel.core.forms import FORMS
from omnipel.core.job import Job, changed
from omnipel.core.tape.units import Unit, format_length
from omnipel.core.working import Worked
from omnipel.shop.document import adapter
from omnipel.shop.store import Store, StoreError


class Session(QObject):
    """The open shop and job.

    `drafted` tells that the job or its draft changed; `opened` that another job (or none) is open; `pointed` that the person
    points at a number; `said` that there is something to tell in one line; `go` that a place in the job is to be shown.
    """

    drafted = Signal()
    opened = Signal()
    shelved = Signal()
    pointed = Signal(str, object)
    said = Signal(str, str)
    go = Signal(str)
    unit_flipped = Signal()

    def __init__(self, store: Store) -> None:
        super().__init__()
        self.store = store
        self.key: int | None = None
        self.job: Job | None = None
        self.draft: Draft | None = None
        self.unsaved: list[tuple[int, Job, str]] = []

    # Opening

    def open(self, key: int) -> None:
        """Open a job of the shop."""
        self.key = key
        self._take(self.store.job(key))
        self.opened.emit()

    def close_job(self) -> None:
        """Back to the shelf."""
        self.key = self.job = self.draft = None
        self.opened.emit()

    def add(self, job: Job, reason: str) -> int | None:
        """Put a new job in the shop and open it."""
        try:
            key = self.store.add(job, reason)
        except StoreError as error:
            self.said.emit("stop", f"Not kept: {error}")
            return None
        self.open(key)
        self.shelved.emit()
        return key

    def _take(self, job: Job) -> None:
        self.job = job
        self.draft = draft(job)

    # Changing

    @property
    def open_job(self) -> Job:
        """The open job; only asked for while one is open."""
        if self.job is None:
            raise LookupError("no job is open")
        return self.job

    def apply(self, job: Job, reason: str) -> bool:
        """Make a change: check it, draft it, commit it. A change that is none does nothing."""
        if self.key is None or job == self.job:
            return False
        if not self.store.writable and not self.store.unwritable:
            self.said.emit("look", "This shop is open in another window; here you can only look.")
            self.drafted.emit()
            return False
        try:
            checked = adapter().validate_python(adapter().dump_python(job))
        except ValueError as error:
            self.said.emit("stop", f"Not changed: {str(error).splitlines()[-2].strip()}")
            return False
        self._take(checked)
        self._keep(self.key, checked, reason)
        self.drafted.emit()
        return True

    def change(self, reason: str, *changes: Change) -> bool:
        """Make changes by path."""
        return self.apply(changed(self.open_job, *changes), reason)

    def set(self, path: str, value: object, reason: str) -> bool:
        """Set one value by path."""
        return self.change(reason, Change(path, value))

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
                self.said.emit("stop", f"Not on disk yet, kept in memory: {error}. It is tried again with every change.")
                return
        if len(waiting) > 1:
            self.said.emit("fine", "The disk can be written again: everything is kept.")
        self.shelved.emit()

    def save_waiting(self) -> None:
        """Try again what could not be written."""
        if self.unsaved:
            key, job, reason = self.unsaved.pop()
            self._keep(key, job, reason)

    # Undo

    def undo(self) -> None:
        """Step back one revision."""
        self._step(self.store.undo, "Nothing left to undo.")

    def redo(self) -> None:
        """Step forward again."""
        self._step(self.store.redo, "Nothing to redo.")

    def go_to_revision(self, number: int) -> None:
        """Step to any revision."""
        self._step(lambda key: self.store.go_to(key, number), "That revision is gone.")

    def _step(self, step: Callable[[int], Job | None], nothing: str) -> None:
        if self.key is None:
            return
        try:
            job = step(self.key)
        except (StoreError, KeyError) as error:
            self.said.emit("stop", str(error))
            return
        if job is None:
            self.said.emit("note", nothing)
            return
        self._take(job)
        revisions, position = self.store.history(self.key)
        reason = next((r.reason for r in revisions if r.number == position), "")
        self.said.emit("note", f"Now at: {reason}")
        self.drafted.emit()
        self.shelved.emit()

    # Words

    def say(self, severity: str, words: str) -> None:
        """Tell something in one line."""
        self.said.emit(severity, words)

    def point(self, words: str, number: Worked) -> None:
        """Show the sum of a number in the working line."""
        self.pointed.emit(words, number)

    @property
    def unit(self) -> Unit:
        """The unit of the open job."""
        return self.job.unit if self.job else Unit.MM

    def fmt(self, mm: float, *, fine: bool = False, with_unit: bool = True) -> str:
        """A length in the job's unit."""
        return format_length(mm, self.unit, fine=fine, with_unit=with_unit)

    def names(self) -> dict[str, float]:
        """What may be written in a tape field besides numbers: the readings taken."""
        return {reading.place: reading.value for reading in (self.job.readings if self.job else ())}


def next_step(drafted: Draft) -> tuple[str, str]:
    """The next step of a job in words, and the place it leads to."""
    missing = [f for f in drafted.findings if f.code == "reading-missing"]
    if missing:
        return f"Measure: {missing[0].text.removeprefix('The ').removesuffix(' has not been measured yet.')}", missing[0].where
    for severity, words in (("stop", "Settle"), ("look", "Look at")):
        found = [f for f in drafted.findings if f.severity.value == severity]
        if found:
            return f"{words}: {found[0].code.replace('-', ' ')}", found[0].where
    return "Print the pattern and cut", "panels"


def wanted_words(job: Job) -> dict[str, str]:
    """What the readings of a job's form are called, by place."""
    form = FORMS.get(job.thing.form)
    return {w.place: w.words for w in form.wanted(job.readings)} if form else {}
