"""The tally: what the draft comes to, at every station; each line leads to the place that decides it."""

from collections.abc import Sequence
from functools import partial

from PySide6.QtWidgets import QFrame, QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.parts.heard import GROUP
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import Elided, Glow, StateMark, WordButton, button, column, emptied, label, scrolled
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.window.fitted import Fitted
from omnipel.bench.window.times import Times
from omnipel.core.cloth.said import bought_words
from omnipel.core.draft import Drafted
from omnipel.core.fit.going_on import Fit, Verdict, percent
from omnipel.core.job.findings import Finding, Severity
from omnipel.core.job.state import State
from omnipel.core.job.trying import TIGHT, last_went
from omnipel.core.standing import Step, subject
from omnipel.core.tolerances import SURE_CHANCE
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Listed, Money, Name, listed, mm, term, tr, trn


class Tally(QFrame):
    """The column at the right."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("tally")
        self.goes_on, self.seams = Glow(tr("Goes on?"), large=True), Glow(tr("Seams true"))
        self.cloth, self.pay = Glow(tr("Cloth to buy")), Glow(tr("To pay now"))
        self.sewing, self.times, self.fitted = sewing_of(session), Times(session), Fitted(session)
        self.lines = (*self.fitted.lines, self.goes_on, self.seams, self.cloth, self.pay, *self.times.lines)
        self.goes_on.clicked.connect(lambda: session.go.emit(refs.FIT))
        self.seams.clicked.connect(lambda: session.go.emit(refs.seam()))
        for line in (self.cloth, self.pay):
            line.clicked.connect(lambda: session.go.emit(refs.lay()))
        session.cloth.laid.connect(self._laid)
        session.cloth.laid.connect(self._next)
        self.sewing.planned.connect(self.refresh)
        self.count = label(NOTHING, "head")
        self.findings = QVBoxLayout()
        self.findings.setSpacing(10)
        inner = QWidget()
        self.shows = QVBoxLayout()
        self.shows.setSpacing(6)
        for line in self.lines:
            self.shows.addWidget(line)
        whole = column(self.shows, self.count, self.findings, spacing=6)
        whole.addStretch(1)
        inner.setLayout(whole)
        self.next = WordButton(self._take_step, "main")
        self.setLayout(column(scrolled(inner), self.next, margins=8))
        self.step: Step | None = None
        self.shown: tuple[object, ...] | None = None
        self.sews = False
        self.kinds: list[tuple[str, str, int]] = []
        self.cards: list[FindingCard] = []
        self.rescale()

    def rescale(self) -> None:
        """Take the width that the text scale asks for; everything is shown anew."""
        self.setFixedWidth(LOOK.px(226) + 10)
        self.shown, self.kinds = None, []

    def forget(self) -> None:
        """Another job: nothing has changed in it yet."""
        for line in self.lines:
            line.forget()

    def stand(self, here: str) -> None:
        """Show what counts at a station: at the bench where it is sewn the time comes first, and what is bought has been."""
        sews, fits = here == "sew", here == "fit"
        self.setVisible(here != "shelf")
        for line in (self.goes_on, self.cloth, self.pay):
            line.setVisible(not sews and not fits)
        self.seams.setVisible(not fits)
        self.fitted.stand(fits=fits)
        self.times.stand(sews=sews)
        if sews != self.sews:
            self.sews = sews
            for k, line in enumerate((*self.times.lines, self.seams) if sews else self.lines):
                self.shows.insertWidget(k, line)

    def point_at_tightest(self) -> None:
        """Show the sum of what is left at the tightest."""
        draft = self.session.draft
        if isinstance(draft, Drafted) and isinstance(draft.fit, Fit):
            self.session.point(tr("left at the tightest"), draft.fit.tightest.slack)

    def refresh(self) -> None:
        """Show the draft as it stands."""
        draft = self.sewing.told
        if draft is None:
            return
        if isinstance(draft, Drafted):
            self._drafted(draft)
        else:
            waits = self.session.tell(tr("not yet"))
            for shown in self.lines:
                shown.show_value(waits, "", State.OPEN)
        self.times.refresh()
        if self.goes_on.isHidden() and isinstance(draft, Drafted):
            self.fitted.refresh()
        self._next()
        told = (draft.findings, self.session.unit, self.session.trying is None)
        if told != self.shown:
            self.shown = told
            self._findings(draft.findings)

    def _next(self) -> None:
        self.step = self.sewing.next
        if self.step is not None:
            self.next.show_words(self.session.tell(self.step.words))

    def _drafted(self, draft: Drafted) -> None:
        tell, fit = self.session.tell, draft.fit
        if isinstance(fit, Fit):
            state = {Verdict.WILL_NOT: State.STOP, Verdict.GOES_ON: State.FINE}.get(fit.verdict, State.LOOK)
            state = State.LOOK if state is State.FINE and fit.chance < SURE_CHANCE else state
            under = tr("chance {chance} · gap {gap} at the tightest", chance=percent(fit.chance), gap=mm(fit.tightest.clearance))
            if fit.doubtful:
                under = tr(
                    "{readings} in doubt · at best {chance}", readings=self._words(fit.doubtful), chance=percent(fit.chance)
                )
            shown = tr("yes") if fit.verdict is Verdict.GOES_ON else term(fit.verdict)
            went = last_went(draft.job.tries)
            if went in TIGHT and state is State.FINE:
                state, under = State.LOOK, tr("as drafted · when tried on: {went}", went=went.words)
            self.goes_on.show_value(tell(shown), tell(under), state, (fit.verdict, fit.chance, fit.tightest.clearance))
        else:
            self.goes_on.show_value(tell(fit.words), "", State.FINE)
        true, total = sum(seam.true for seam in draft.seams), len(draft.seams)
        fits = State.FINE if true == total else State.STOP
        seams = tr("{true} of {total}", true=Count(true), total=Count(total)) if total else tr("no seam")
        self.seams.show_value(tell(seams), "", fits, (true, total))
        self._laid()

    def _laid(self) -> None:
        """Show what is to be bought, once that is laid: until then what was known before stands, marked as being reckoned."""
        now, draft, tell = self.session.cloth.current, self.session.draft, self.session.tell
        if not isinstance(draft, Drafted):
            return
        if now is None:
            for line in (self.cloth, self.pay):
                line.under.setText(tell(tr("is being laid…")))
                line.under.setVisible(True)
            return
        lay = next(iter(now.lays.values()), None)
        doubtful = draft.rests_on_doubt(*(n for p in draft.panels for n in (p.cut_length, p.cut_width)))
        state = State.STOP if any(lay.left for lay in now.lays.values()) else State.LOOK if doubtful else State.FINE
        under = [tr("{used} used, {width} wide", used=mm(lay.used.value), width=mm(lay.bolt.width))] if lay is not None else []
        if len(now.lays) > 1:
            more = len(now.lays) - 1
            under.append(trn("and {n} other cloth", "and {n} other cloths", more))
        if doubtful:
            under = [tr("rests on {readings}, in doubt", readings=self._words(doubtful))]
        amount = bought_words(lay) if lay is not None and lay.placed else tr("none")
        known = {layer: (one.bought.value, one.used.value, one.left) for layer, one in now.lays.items()}
        self.cloth.show_value(tell(amount), tell(listed(under)), state, known)
        taken = now.taken
        unknown = trn("{n} price unknown", "{n} prices unknown", len(taken.unknown)) if taken.unknown else NOTHING
        more_ = [
            part
            for part in (unknown, tr("{stash} from the stash", stash=Money(taken.stashed)) if taken.stashed else NOTHING)
            if part
        ]
        priced = State.LOOK if taken.unknown and taken.pay else State.OPEN if taken.unknown else State.FINE
        self.pay.show_value(
            tell(taken.pay_words), tell(listed(more_, " · ")), priced, (taken.pay, len(taken.unknown), taken.stashed)
        )

    def _words(self, places: Sequence[str]) -> Listed:
        words = {place.key: place.words for place in self.session.places}
        return listed(words.get(place, Name(place)) for place in places)

    def _take_step(self) -> None:
        """Do the next thing: apply its remedy, or go where it is done."""
        self.session.try_all()
        step = self.step
        if step is None:
            return
        if step.remedy is not None:
            self.session.remedy(step.remedy)
        else:
            self.session.go.emit(step.where)

    def _findings(self, findings: tuple[Finding, ...]) -> None:
        """Show the findings; cards of the same kind are kept and only get other words."""
        self.count.setText(
            self.session.tell(trn("{n} finding", "{n} findings", len(findings)) if findings else tr("No findings"))
        )
        kinds = [_kind(finding) for finding in findings]
        if kinds != self.kinds:
            emptied(self.findings)
            self.cards = [FindingCard(self.session, finding) for finding in findings]
            for card in self.cards:
                self.findings.addWidget(card)
            self.kinds = kinds
        for card, finding in zip(self.cards, findings, strict=True):
            card.show_finding(finding)


def _kind(finding: Finding) -> tuple[str, str, int]:
    return finding.code, finding.severity.value, len(finding.remedies)


class FindingCard(QFrame):
    """One finding: shape and word of its severity, what and where, remedies as buttons."""

    heard_as = GROUP

    def __init__(self, session: Session, finding: Finding) -> None:
        super().__init__()
        self.session, self.finding = session, finding
        self.brief = finding.severity is Severity.NOTE
        head = QHBoxLayout()
        head.setSpacing(6)
        head.addWidget(StateMark(finding.severity.value, 13.0))
        self.head = Elided("soft" if self.brief else finding.severity.value)
        head.addWidget(self.head, 1)
        self.show_it = show = button(tr("Show"), lambda: session.go.emit(self.finding.where), "quiet")
        show.setAccessibleName(session.tell(tr("Show {subject}", subject=subject(finding))))
        self.why = button(tr("Why"), self._unfold, "quiet")
        self.why.setAccessibleName(session.tell(tr("Why: {subject}", subject=subject(finding))))
        head.addWidget(self.why)
        head.addWidget(show)
        self.text = label(wrap=True)
        self.text.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        self.remedies = [WordButton(partial(self._cure, k)) for k in range(len(finding.remedies))]
        self.setLayout(column(head, self.text, *self.remedies, spacing=2))
        self.why.setVisible(self.brief)  # only now that it has a parent: else it is a window of its own and takes the keys
        self._fold(self.brief)

    def _fold(self, folded: bool) -> None:
        """A note is one line; the rest of it is there when it is asked for."""
        for part in (self.text, *self.remedies, *((self.show_it,) if self.brief else ())):
            part.setVisible(not folded)
        self.why.setText(self.session.tell(tr("Why") if folded else tr("Less")))

    def _unfold(self) -> None:
        self._fold(not self.text.isHidden())

    def _cure(self, k: int) -> None:
        self.session.remedy(self.finding.remedies[k])

    def show_finding(self, finding: Finding) -> None:
        """Show another finding of the same kind."""
        self.finding = finding
        text = self.session.sentence(finding.text)
        if finding.advice and self.session.trying is None:
            text = f"{text} {self.session.sentence(finding.advice)}"
        self.text.setText(text)
        self.head.show_words(self.session.tell(subject(finding) if self.brief else finding.severity.words))
        self.setAccessibleName(f"{self.session.tell(finding.severity.words)}: {text}")
        for made, remedy in zip(self.remedies, finding.remedies, strict=True):
            made.show_words(self.session.tell(remedy.words))
