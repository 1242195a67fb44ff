"""The Sew station: one step at a time, large, with its picture, settings and cautions; the clock runs by itself."""

from collections.abc import Mapping
from functools import partial
from typing import Final

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QKeyEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import QProgressBar, QVBoxLayout, QWidget

from omnipel.bench.parts.announce import announce
from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.heard import GROUP, hear_as
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.scrolled import RoomedPage
from omnipel.bench.parts.signs import Vacant
from omnipel.bench.parts.widgets import button, column, label, line, row, surface
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.speech import say
from omnipel.bench.stations.atbench import AtBench
from omnipel.bench.stations.sew.card import CardPage, StepCard
from omnipel.bench.stations.sew.planned import PlanMode
from omnipel.bench.stations.sew.way import WayView
from omnipel.core.job.sewing import LONGEST_NOTE
from omnipel.core.sewing.howto import how
from omnipel.core.sewing.plan import Step
from omnipel.core.sewing.saying import step_sum
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Minutes, Phrase, tr
from omnipel.core.words.refs import Of, Ref

SECOND_MS: Final = 1000


class SewStation(AtBench):
    """Works through the order of work."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.sewing = session, sewing_of(session)
        self.shown, self.planning = "", False
        self.way = WayView()
        self.way.looked.connect(self._look)
        self.card = StepCard(session)
        self.empty = Vacant("sew", tr("Go to what is to be done"), self._next)
        self.elapsed = label(NOTHING, "big")
        self.of = button(NOTHING, self._sum, "quiet", tip=tr("S: the sum of these minutes"))
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(8)
        self.bar.setAccessibleName(say(tr("time of this step")))
        self.done = button(tr("done, next"), self._done, "main", tip=tr("Space"))
        self.back = button(tr("one back"), self._back, tip=tr("Backspace"))
        self.pause = button(NOTHING, self._pause, tip=tr("P: the clock"))
        self.more = button(NOTHING, self._more, tip=tr("M: how it is done"))
        self.note = line(tr("A note on this step"), tr("a note: sewed 15 instead of 12"))
        self.note.setMaxLength(LONGEST_NOTE)
        self.note.editingFinished.connect(self._noted)
        self.away = label(NOTHING, "look", wrap=True)
        self.count_it, self.leave_out = (
            button(tr("Count it"), partial(self._was_away, False)),
            button(tr("Leave it out"), partial(self._was_away, True)),
        )
        self.asks = QWidget()
        asks = row(self.away, self.count_it, self.leave_out)
        asks.setStretch(0, 1)
        self.asks.setLayout(asks)
        self.page = CardPage(self.card)
        both = column(self.page, self.asks, self._clock(), margins=8)
        both.setStretch(0, 1)
        self.inner = surface(both)
        self.plans = button(NOTHING, self._flip, tip=tr("O: the whole order of work"))
        top = row(self.way, self.plans, spacing=6)
        top.setStretch(0, 1)
        top.setContentsMargins(2, 2, 8, 2)
        self.top = surface(top)
        self.plan_mode = PlanMode(session, self._show)
        self.table = surface(column(RoomedPage(self.plan_mode)))
        self.table.hide()
        whole = QVBoxLayout(self)
        whole.setContentsMargins(16, 16, 16, 8)
        whole.addWidget(self.top)
        whole.addWidget(self.empty, 1)
        whole.addWidget(self.inner, 1)
        whole.addWidget(self.table, 1)
        self.timer = QTimer(self)
        self.timer.setInterval(SECOND_MS)
        self.timer.timeout.connect(self._tick)
        self.sewing.ticked.connect(self._tick)
        self.inner.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        hear_as(self.inner, GROUP, tr("The step that is shown"))
        self._bind()

    def _clock(self) -> Flow:
        """The clock of the step, a note, and what ends it, in a row."""
        self.bar.setMinimumWidth(LOOK.px(90))
        gauge = QWidget()
        gauge.setLayout(column(self.bar))
        gauge.setMinimumHeight(LOOK.px(30))
        self.note.setMinimumWidth(LOOK.px(170))
        clock = Flow(gap=10)
        for widget in (self.elapsed, self.of, gauge, self.note, self.more, self.pause, self.back, self.done):
            clock.addWidget(widget)
        return clock

    def _bind(self) -> None:
        """The keys that work while the step has the focus, and not while something is written."""
        keys = (
            (Qt.Key.Key_Space, self._done),
            (Qt.Key.Key_Return, self._done),
            (Qt.Key.Key_Enter, self._done),
            (Qt.Key.Key_Backspace, self._back),
            (Qt.Key.Key_N, self._to_note),
            (Qt.Key.Key_P, self._pause),
            (Qt.Key.Key_M, self._more),
            (Qt.Key.Key_O, self._flip),
            (Qt.Key.Key_S, self._sum),
        )
        for pressed, does in keys:
            key = QShortcut(QKeySequence(pressed), self.inner, does)
            key.setContext(Qt.ShortcutContext.WidgetShortcut)
            key.setAutoRepeat(False)

    @property
    def walks(self) -> tuple[QWidget, ...]:
        """The step and what is done about it, or the table of all; then the whole way."""
        return (*self.plan_mode.walks, self.way) if self.planning else (self.inner, self.card, self.asks, self.way)

    def enter(self) -> None:
        """Somebody has come to sew: the step that is due, and its clock."""
        self.shown = ""
        self.refresh()
        self.inner.setFocus()
        self.timer.start()

    def hideEvent(self, event: object) -> None:
        self.timer.stop()

    def refresh(self) -> None:
        """Show the plan as it stands."""
        plan, current = self.sewing.plan, self.sewing.current
        there = plan is not None and bool(plan.steps)
        self.top.setVisible(there)
        self.inner.setVisible(there and not self.planning)
        self.table.setVisible(there and self.planning)
        self.plans.setText(say(tr("Sew on") if self.planning else tr("Order…")))
        self.empty.setVisible(not there)
        if plan is None or not there:
            draft = self.session.draft
            if draft is not None:
                self.empty.say(
                    self.session.sentence(draft.findings[0].text) if draft.findings else say(tr("Nothing is drafted yet."))
                )
            return
        if self.planning:
            self.plan_mode.refresh()
        step = plan.by_key.get(self.shown) or current or plan.steps[-1]
        done = self.sewing.done
        self.way.show_way(plan.steps, done, current.number if current is not None else 0, step.number)
        told = step.operation.deed in self.sewing.told_in_full
        if step is not self.card.shown:
            self.page.to_top()
        self.card.show_step(plan, step, open_=told)
        here = current is not None and step.key == current.key
        self.done.setEnabled(here)
        self.back.setEnabled(bool(done))
        self.more.setText(say(tr("less") if told else tr("how?")))
        if not self.note.hasFocus():
            self.note.setText(
                self.session.open_job.sewing.steps[step.key].note if step.key in self.session.open_job.sewing.steps else ""
            )
        self._tick()

    @property
    def step(self) -> Step | None:
        """The step that is looked at."""
        plan = self.sewing.plan
        return (plan.by_key.get(self.shown) or self.sewing.current or plan.steps[-1]) if plan is not None and plan.steps else None

    def _flip(self) -> None:
        """Between one step and the table of all."""
        self.planning = not self.planning
        self.refresh()
        if self.planning:
            self.plan_mode.enter()
        else:
            self.inner.setFocus()

    def _show(self, key: str) -> None:
        """Look at a step that was chosen in the table."""
        self.planning = False
        self.inner.setFocus()
        plan = self.sewing.plan
        if plan is not None and key in plan.by_key:
            self._look(plan.by_key[key].number)

    def _look(self, number: int) -> None:
        plan = self.sewing.plan
        if plan is not None:
            step, current = plan.steps[number - 1], self.sewing.current
            self.shown = "" if current is not None and current.key == step.key else step.key
            self.refresh()
            announce(self.way, self.session.sentence(step.operation.words))

    def _done(self) -> None:
        if self.shown and self.sewing.current is not None:
            self.shown = ""
            self.refresh()
            return
        if not self.sewing.begun:
            self.sewing.start()
            self.refresh()
        elif self.sewing.do():
            self.refresh()
            if (step := self.sewing.current) is not None:
                announce(self.card, self.session.sentence(step.operation.words))

    def _back(self) -> None:
        self.shown = ""
        if self.sewing.back():
            self.refresh()

    def _pause(self) -> None:
        self.sewing.pause() if self.sewing.clock.runs else self.sewing.start()
        self.refresh()

    def _more(self) -> None:
        """How it is done, of this kind of step, from now on or no longer."""
        if self.step is not None:
            self.sewing.tell_in_full(self.step.operation.deed)
            self.refresh()

    def _sum(self) -> None:
        """The sum of the step's minutes, in the working line."""
        step, plan = self.step, self.sewing.plan
        if step is not None and plan is not None:
            self.session.say("note", tr("step {n}: {sum}", n=Count(step.number), sum=step_sum(plan, step)))

    def _to_note(self) -> None:
        self.note.setFocus()

    def _noted(self) -> None:
        step, text = self.step, self.note.text().strip()
        known = self.session.open_job.sewing.steps
        if step is not None and text != (known[step.key].note if step.key in known else ""):
            self.sewing.note(step, text)
        if self.note.hasFocus():
            QTimer.singleShot(0, self.inner.setFocus)  # not before the key that ended it is let go of

    def _was_away(self, leave_out: bool) -> None:
        clock, now = self.sewing.clock, self.sewing.now()
        self.sewing.clock = clock.left_out(now) if leave_out else clock.touch(now)
        self._tick()

    def _tick(self) -> None:
        """Show the clock."""
        step, clock = self.step, self.sewing.clock
        if step is None:
            return
        minutes = clock.minutes(self.sewing.now()) if clock.step == step.key else 0.0
        logged = self.session.open_job.sewing.steps.get(step.key)
        if logged is not None and logged.done:
            minutes = logged.took
        self.elapsed.setText(f"{int(minutes)}:{int(minutes * 60) % 60:02d}")
        span = step.likely
        told = tr("of {likely} ({low} to {high})", likely=Minutes(span.likely), low=Minutes(span.low), high=Minutes(span.high))
        self.of.setText(self.session.tell(told))
        self.bar.setMaximum(1000)
        self.bar.setValue(min(1000, round(1000 * minutes / max(span.likely, 0.01))))
        ends = tr("done, next") if self.sewing.begun else tr("begin")
        self.done.setText(say(ends if self.sewing.current is not None else tr("all is done")))
        self.pause.setVisible(self.sewing.begun)  # until then it begins with the step
        self.pause.setText(say(tr("pause") if clock.runs else tr("start the clock")))
        gone = clock.away(self.sewing.now())
        self.asks.setVisible(gone > 0.0)
        if gone:
            self.away.setText(self.session.tell(tr("Nothing happened for {gone}. Were you sewing?", gone=Minutes(gone / 60.0))))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        self.sewing.touch()
        if event.key() in (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            self.page.turn(down=event.key() == Qt.Key.Key_PageDown)
        else:
            super().keyPressEvent(event)

    def _next(self) -> None:
        if (step := sewing_of(self.session).next) is not None:
            self.session.go.emit(step.where)

    def meant(self) -> Ref | None:
        """The step that is looked at."""
        step = self.step
        return refs.step(step.key) if step is not None else None

    def explains(self, ref: Ref) -> tuple[Phrase, ...]:
        """How a step of sewing is done."""
        plan = self.sewing.plan
        if ref.of is not Of.STEP or plan is None or ref.id not in plan.by_key:
            return ()
        return how(str(plan.by_key[ref.id].operation.deed))[:3]

    def go_to(self, ref: Ref) -> None:
        """Look at a step."""
        plan = self.sewing.plan
        if ref == refs.SEWING_ORDER:
            if not self.planning:
                self._flip()
        elif ref.of is Of.STEP and plan is not None and ref.id in plan.by_key:
            self._show(ref.id)

    def field_words(self) -> Mapping[Ref, Phrase]:
        """All steps."""
        plan = self.sewing.plan
        if plan is None:
            return {}
        return {
            refs.step(step.key): tr("step {n}: {words}", n=Count(step.number), words=step.operation.words) for step in plan.steps
        }
