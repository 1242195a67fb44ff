"""The tally's lines where a cover is tried on: how it went on, what it was made, whether it goes on after what is chosen to be done."""

from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.widgets import Glow
from omnipel.bench.session import Session
from omnipel.core.fit.going_on import percent
from omnipel.core.job.state import State
from omnipel.core.job.trying import Went, last_went
from omnipel.core.learning.sizes import AS_PLANNED
from omnipel.core.learning.why import most_surprising
from omnipel.core.tolerances import SURE_CHANCE
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Phrase, mm, tr, trn

WENT: dict[Went, State] = {Went.RIGHT: State.FINE, Went.UNSAID: State.OPEN, Went.NOT: State.STOP}


class Fitted:
    """Three lines, seen only at the Fit station."""

    def __init__(self, session: Session) -> None:
        self.session, self.fitting = session, fitting_of(session)
        self.went, self.made, self.after = Glow(tr("Went on?"), large=True), Glow(tr("Made size")), Glow(tr("After the change"))
        self.lines = (self.went, self.made, self.after)
        for line in self.lines:
            line.clicked.connect(lambda: session.go.emit(refs.try_on()))

    def stand(self, *, fits: bool) -> None:
        """Whether it is tried on here."""
        for line in self.lines:
            line.setVisible(fits)

    def refresh(self) -> None:
        """Show what is known."""
        tell, tries = self.session.tell, self.fitting.tries
        went = last_went(tries)
        said = went.words if went else tr("not said yet")
        spots = sum(len(one.spots) for one in tries[-1:])
        under = (
            trn("{n} place where it does not sit", "{n} places where it does not sit", spots, n=Count(spots))
            if spots
            else NOTHING
        )
        self.went.show_value(tell(said), tell(under), WENT.get(went, State.LOOK), (went, spots))
        self._made()
        self._after()

    def _made(self) -> None:
        tell, found = self.session.tell, self.fitting.why
        worst = most_surprising(found.sizes) if found is not None else None
        if worst is None:
            self.made.show_value(tell(tr("not measured yet")), "", State.OPEN)
            return
        size, length = worst
        by = length - size.planned.value
        if abs(by) < AS_PLANNED:
            self.made.show_value(tell(tr("as planned")), "", State.FINE, 0)
            return
        value = tr("{by} less", by=mm(-by)) if by < 0.0 else tr("{by} more", by=mm(by))
        beyond = size.surprises(length)
        under = tr("{size}: beyond what is usual", size=size.words) if beyond else tr("{size}: as is usual", size=size.words)
        self.made.show_value(tell(value), tell(under), State.LOOK if beyond else State.FINE, (size.key, round(by, 3)))

    def _after(self) -> None:
        tell, found = self.session.tell, self.fitting.righting
        if found is None or not found.to_do:
            self.after.show_value(tell(tr("nothing chosen")), "", State.FINE)
            return
        minutes = tr("{n} to be done", n=Count(found.to_do))
        if found.after is None:
            self.after.show_value(tell(minutes), "", State.FINE, found.to_do)
            return
        sure = found.after >= SURE_CHANCE
        value: Phrase = tr("goes on") if sure else tr("not sure")
        under = tr("chance {chance} · {done}", chance=percent(found.after), done=minutes)
        self.after.show_value(tell(value), tell(under), State.FINE if sure else State.LOOK, (round(found.after, 3), found.to_do))
