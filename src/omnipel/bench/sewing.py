"""What the window knows of the open job's sewing: its plan, where one is in it, the clock; who sews, by the log of all jobs."""

from __future__ import annotations

import json
import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import TYPE_CHECKING, Final

from PySide6.QtCore import QObject, QTimer, Signal

from omnipel.bench.fitting import fitting_of
from omnipel.core.draft import Draft, Drafted
from omnipel.core.finishing.operation import Pace
from omnipel.core.job.findings import Change, Finding
from omnipel.core.job.sewing import StepLog
from omnipel.core.job.state import State
from omnipel.core.job.trying import last_went
from omnipel.core.sewing.clock import Clock
from omnipel.core.sewing.paces import Person
from omnipel.core.sewing.plan import Plan, Step, planned
from omnipel.core.sewing.traps import traps
from omnipel.core.standing import Sewn, next_step, sewn_of, states, with_more
from omnipel.core.standing import Step as NextStep
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Phrase, tr
from omnipel.shop.timelog import PACES, paces_text, person

if TYPE_CHECKING:
    from omnipel.bench.session import Session

CLOCK: Final = "sewing clock"
"""The setting of the shop in which the clock is kept, so that it goes on after the program ended in whatever way."""
IN_FULL: Final = "sewing told in full"
"""The setting that holds the kinds of steps of which somebody wants to read how they are done."""
KEPT_EVERY_MS: Final = 15_000


@dataclass(frozen=True)
class _Asked:
    """A plan: of which draft, for whom."""

    draft: Drafted
    person: Person

    def same(self, other: _Asked | None) -> bool:
        """Whether the same plan follows."""
        if other is None:
            return False
        mine, its = self.draft.job, other.draft.job
        return (
            self.draft.cover is other.draft.cover
            and (mine.copies, mine.sewing.order) == (its.copies, its.sewing.order)
            and self.person.rates == other.person.rates
        )

    def made(self, plan: Plan) -> bool:
        """Whether a plan is this one; the times of another person are put into it where they are known."""
        return self.same(_Asked(plan.making.drafted, plan.person))


def _planned(asked: _Asked) -> Plan:
    job = asked.draft.job
    return planned(asked.draft, asked.person, job.copies, job.sewing.order)


READY: Final = tr("ready")
"""Nothing is in the way of what was not begun yet; that is not the same as fine."""


class Sewing(QObject):
    """The open job's plan and the step one is at."""

    ticked = Signal()
    """Another second has gone by, or the clock was stopped."""
    planned = Signal()
    """The plan of the draft as it stands is there."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.session, self.fitting = session, fitting_of(session)
        self.fitting.learnt.connect(self.planned)
        self.clock, self.of_job = Clock(), -1
        self.now = time.monotonic
        self.made: Plan | None = None
        self.asked: _Asked | None = None
        self.known: tuple[Plan, frozenset[str], tuple[Finding, ...]] | None = None
        self.person = Person()
        self.logged: Mapping[str, StepLog] | None = None
        self.in_full: frozenset[str] | None = None
        self.keeping = QTimer(self)
        self.keeping.setInterval(KEPT_EVERY_MS)
        self.keeping.timeout.connect(self.keep)
        session.opened.connect(self._opened)
        session.drafted.connect(self.refresh)
        session.ending.connect(self._ended)
        if session.key is not None:
            self._opened()  # the job was there before anybody asked for its sewing

    # The plan

    def _wanted(self) -> _Asked | None:
        draft = self.session.draft
        return _Asked(draft, self.person) if isinstance(draft, Drafted) else None

    def refresh(self) -> None:
        """Have the plan made behind the window, unless it is there or being made."""
        steps = self.session.job.sewing.steps if self.session.job is not None else None
        if steps != self.logged:  # a step was done, or taken back in whatever way: the log is another
            self.logged = steps
            self.learn()
            return
        wanted = self._wanted()
        if wanted is None:
            self.made = self.asked = None
            self.session.works.forget("plan")
        elif not wanted.same(self.asked):
            self.asked = wanted
            self.session.works.ask("plan", _planned, wanted, self._came, self.session.fault)

    def _came(self, made: Plan) -> None:
        if self.there is None:
            self.made = made if made.person == self.person else made.by(self.person)
        self.planned.emit()

    @property
    def there(self) -> Plan | None:
        """The plan of the draft as it stands, if it has been made."""
        wanted = self._wanted()
        return self.made if wanted is not None and self.made is not None and wanted.made(self.made) else None

    @property
    def plan(self) -> Plan | None:
        """The same, made when it is not there yet; None while nothing is drafted."""
        wanted = self._wanted()
        if wanted is not None and self.there is None:
            self.made, self.asked = _planned(wanted), wanted
        return self.there

    @property
    def done(self) -> frozenset[str]:
        """The keys of the steps that are done."""
        return self.session.job.sewing.done if self.session.job is not None else frozenset()

    @property
    def current(self) -> Step | None:
        """The first step that is not done; None when all are."""
        plan = self.plan
        return plan.at(self.done) if plan is not None else None

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What there is to say about the order of work, as far as it is there."""
        plan, done = self.there, self.done
        if plan is None:
            return ()
        if self.known is None or self.known[0] is not plan or self.known[1] != done:
            self.known = plan, done, traps(plan, done)
        return self.known[2]

    @property
    def told(self) -> Draft | None:
        """The draft with everything there is to say, about its order of work too."""
        draft = self.session.draft
        return with_more(draft, (*self.findings, *self.fitting.findings)) if draft is not None else None

    @property
    def sewn(self) -> Sewn | None:
        """How far the cover is sewn; None while that is not known."""
        plan, n = self.there, len(self.done)
        if plan is None:  # what is due is known in a moment
            return Sewn(n, n + 1, words=tr("go on where you were")) if n else None
        return sewn_of(plan, self.done)

    @property
    def standing(self) -> tuple[dict[str, State], dict[str, Phrase]]:
        """How each station of the open job stands; and in what words, where there is more to say than its state."""
        told, sewn = self.told, self.sewn
        if told is None:
            return {}, {}
        found = states(told, self.session.cloth.left)
        how = last_went(told.job.tries)
        words: dict[str, Phrase] = {}
        ready = READY if not told.stops else NOTHING
        if found["sew"] is State.FINE:
            words["sew"] = (sewn.told if sewn is not None else NOTHING) or ready
        if how or found["fit"] is State.FINE:
            words["fit"] = how.words if how else ready
        return found, words

    @property
    def next(self) -> NextStep | None:
        """The one next thing to do about the open job; None while none is open."""
        told = self.told
        return next_step(told, self.session.cloth.left, self.sewn) if told is not None else None

    # Who sews

    def learn(self) -> None:
        """Who sews, by the log of all jobs and the paces of the shop."""
        self.person = person(self.session.store)
        if self.made is not None and self.made.person.rates == self.person.rates:
            self.made = self.made.by(self.person)
            self.planned.emit()
        self.refresh()

    def keep_paces(self, changed: Mapping[Pace, float]) -> None:
        """Other paces from now on."""
        self.session.keep_setting(PACES, paces_text(changed))
        self.learn()
        self.session.drafted.emit()

    @property
    def told_in_full(self) -> frozenset[str]:
        """Kinds of steps of which how they are done is told sentence by sentence; whoever is practised closes them one by one."""
        if self.in_full is None:
            try:
                self.in_full = frozenset(str(deed) for deed in json.loads(self.session.store.setting(IN_FULL, "[]")))
            except (ValueError, TypeError):
                self.in_full = frozenset()
        return self.in_full

    def tell_in_full(self, deed: str) -> None:
        """Tell how a kind of step is done from now on, or no longer."""
        self.in_full = self.told_in_full ^ {deed}
        self.session.keep_setting(IN_FULL, json.dumps(sorted(self.in_full)))

    # Moving steps

    def order(self, keys: Sequence[str], reason: Phrase) -> bool:
        """Keep an order that a person chose; the proposed one again where there are no keys."""
        return self.session.set(refs.SEWING_ORDER, tuple(keys), reason)

    # Doing

    @property
    def begun(self) -> bool:
        """Whether the clock has run for the step one is at: only then can it be done, so that no step is done without its minutes by mistake."""
        step = self.current
        return step is not None and self.clock.step == step.key

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

    def do(self) -> bool:
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
        last = next((s for s in reversed(plan.steps) if s.key in self.done), None) if plan is not None else None
        if last is None:
            return False
        old, ran = self.session.open_job.sewing.steps[last.key], self.clock.runs
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
        self.made = self.asked = self.logged = None
        self.refresh()
        try:
            kept = json.loads(self.session.store.setting(CLOCK, "{}"))
            if kept.get("job") == self.session.key:
                self.clock = Clock(str(kept["step"]), float(kept["seconds"]), None, self.now())
        except (ValueError, KeyError, TypeError, AttributeError):
            return


def sewing_of(session: Session) -> Sewing:
    """The sewing of a session's open job; there is one of them."""
    return session.findChild(Sewing) or Sewing(session)
