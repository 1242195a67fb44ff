"""The tally's lines about the sewing: how long it takes, how often one changes over, when it is tried on next."""

from omnipel.bench.parts.widgets import Glow
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.core.job.state import State
from omnipel.core.sewing.saying import over_words, time_sum, times_words
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, tr


class Times:
    """Three lines; of the last two only where it is sewn."""

    def __init__(self, session: Session) -> None:
        self.session, self.sewing = session, sewing_of(session)
        self.time, self.over, self.stop = Glow(tr("Time to sew")), Glow(tr("Changeovers")), Glow(tr("Next try-on"))
        self.lines = (self.time, self.over, self.stop)
        self.sews = False
        self.time.clicked.connect(self._to_time)
        self.over.clicked.connect(lambda: session.go.emit(refs.SEWING_ORDER))
        self.stop.clicked.connect(self._to_stop)
        self.sewing.ticked.connect(self.refresh)

    def stand(self, *, sews: bool) -> None:
        """Whether it is sewn here."""
        self.sews = sews
        self.over.setVisible(sews)
        self.stop.setVisible(sews)

    def refresh(self) -> None:
        """Show the plan as it stands."""
        plan, tell = self.sewing.there, self.session.tell
        if plan is None or not plan.steps:
            return
        done = self.sewing.done
        words, under = times_words(plan, done, self._gone())
        self.time.show_value(tell(words), tell(under), State.FINE, (round(plan.span(done).likely), len(done)))
        ordered = plan.ordered
        count = tr("{n} of {least}", n=Count(ordered.changeovers), least=Count(ordered.least_changeovers))
        self.over.show_value(tell(count), tell(over_words(plan)), State.FINE)
        due = plan.next_stop(done)
        after = (
            tr("none left")
            if due is None
            else tr("now")
            if due is plan.at(done)
            else tr("after step {n}", n=Count(due.number - 1))
        )
        self.stop.show_value(tell(after), tell(due.operation.words) if due is not None else "", State.FINE)

    def _gone(self) -> float:
        """Minutes that the clock ran for: of the steps done, and of the one that is due."""
        job, sewing = self.session.job, self.sewing
        known = sum(step.took for step in job.sewing.steps.values() if step.done) if job is not None else 0.0
        return known + (sewing.clock.minutes(sewing.now()) if sewing.clock.step else 0.0)

    def _to_time(self) -> None:
        """To where it is sewn; there, to the sum."""
        plan = self.sewing.there
        if self.sews and plan is not None:
            self.session.say("note", tr("time to sew: {sum}", sum=time_sum(plan, self.sewing.done)))
        else:
            self.session.go.emit(refs.step())

    def _to_stop(self) -> None:
        plan = self.sewing.there
        due = plan.next_stop(self.sewing.done) if plan is not None else None
        self.session.go.emit(refs.step(due.key if due is not None else ""))
