"""What the window knows of the open job's sewing: its plan, where one is in it, the clock."""

from __future__ import annotations

import json
import time
from datetime import date
from typing import TYPE_CHECKING, Final

from PySide6.QtCore import QObject, QTimer, Signal

from omnipel.core.draft import Drafted
from omnipel.core.job.findings import Change
from omnipel.core.job.sewing import StepLog
from omnipel.core.sewing.clock import Clock
from omnipel.core.sewing.plan import Plan, Step, planned
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, tr

if TYPE_CHECKING:
    from omnipel.bench.session import Session

CLOCK: Final = "sewing clock"
"""The setting of the shop in which the clock is kept, so that it goes on after the program ended in whatever way."""
KEPT_EVERY_MS: Final = 15_000


class Sewing(QObject):
    """The open job's plan and the step one is at."""

    ticked = Signal()
    """Another second has gone by, or the clock was stopped."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.session = session
        self.clock, self.of_job = Clock(), -1
        self.now = time.monotonic
        self.made: Plan | None = None
        self.for_: tuple[object, ...] = ()
        self.keeping = QTimer(self)
        self.keeping.setInterval(KEPT_EVERY_MS)
        self.keeping.timeout.connect(self.keep)
        session.opened.connect(self._opened)
        session.ending.connect(self._ended)
        if session.key is not None:
            self._opened()  # the job was there before anybody asked for its sewing

    @property
    def plan(self) -> Plan | None:
        """The plan of the open job, made when it is asked for; None while nothing is drafted."""
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            return None
        job = draft.job
        if self.made is None or self.made.making.drafted.cover is not draft.cover or self.for_ != (job.sewing.order, job.copies):
            self.for_ = (job.sewing.order, job.copies)
            self.made = planned(draft, copies=job.copies, wanted=job.sewing.order)
        return self.made

    @property
    def current(self) -> Step | None:
        """The first step that is not done; None when all are."""
        plan = self.plan
        done = self.session.open_job.sewing.done if plan is not None else frozenset()
        return next((step for step in plan.steps if step.key not in done), None) if plan is not None else None

    def start(self) -> None:
        """The clock runs for the step one is at."""
        step = self.current
        if step is not None:
            self.of_job = self.session.key or -1
            self.clock = self.clock.begun(step.key, self.now())
            self.keeping.start()
        self.ticked.emit()

    def pause(self) -> None:
        """The clock stands."""
        self.clock = self.clock.paused(self.now())
        self.keep()
        self.ticked.emit()

    def touch(self) -> None:
        """Somebody does something."""
        self.clock = self.clock.touch(self.now())

    def done(self) -> bool:
        """The step is done; the next one begins. False where there is none, or it could not be kept."""
        step = self.current
        if step is None:
            return False
        took = self.clock.minutes(self.now()) if self.clock.step == step.key else 0.0
        old = self.session.open_job.sewing.steps.get(step.key, StepLog())
        log = StepLog(
            done=True, took=took, planned=step.work.minutes, deed=step.operation.deed, day=date.today().isoformat(), note=old.note
        )
        ran = self.clock.runs
        if not self.session.change(tr("step done: {step}", step=step.operation.words), Change(refs.step(step.key), log)):
            return False
        self.clock = Clock()
        if ran:
            self.start()
        return True

    def back(self) -> bool:
        """The last step that is done is to be done again, and goes on where its clock stood."""
        plan = self.plan
        steps = self.session.open_job.sewing.steps
        last = (
            next((s for s in reversed(plan.steps) if s.key in self.session.open_job.sewing.done), None)
            if plan is not None
            else None
        )
        if last is None:
            return False
        old, ran = steps[last.key], self.clock.runs
        again = StepLog(note=old.note)
        if not self.session.change(
            tr("step to be done again: {step}", step=last.operation.words), Change(refs.step(last.key), again)
        ):
            return False
        self.clock = Clock(last.key, old.took * 60.0, self.now() if ran else None, self.now())
        self.ticked.emit()
        return True

    def note(self, step: Step, text: str) -> bool:
        """Write something down about a step."""
        return self.session.set(refs.step(step.key, "note"), text, self._noted(step))

    @staticmethod
    def _noted(step: Step) -> Phrase:
        return tr("note: {step}", step=step.operation.words)

    def keep(self) -> None:
        """Put the clock where it is found again after the program ended, in whatever way."""
        if self.of_job < 0 or not self.clock.step:
            return
        told = {"job": self.of_job, "step": self.clock.step, "seconds": round(self.clock.seconds(self.now()), 1)}
        self.session.keep_setting(CLOCK, json.dumps(told))
        if not self.clock.runs:
            self.keeping.stop()

    def _ended(self) -> None:
        """The window is being closed: nothing is kept any more after this."""
        self.clock = self.clock.paused(self.now())
        self.keep()
        self.keeping.stop()
        self.of_job = -1

    def _opened(self) -> None:
        """Another job: the clock of its step is found again where it was kept."""
        if self.clock.runs:
            self.pause()
        self.clock, self.of_job = Clock(), self.session.key or -1
        try:
            kept = json.loads(self.session.store.setting(CLOCK, "{}"))
            if kept.get("job") == self.session.key:
                self.clock = Clock(str(kept["step"]), float(kept["seconds"]), None, self.now())
        except (ValueError, KeyError, TypeError, AttributeError):
            return


def sewing_of(session: Session) -> Sewing:
    """The sewing of a session's open job; there is one of them."""
    return session.findChild(Sewing) or Sewing(session)
