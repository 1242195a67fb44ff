"""What is learnt: lines with their ranges, those of this job beside it, and all of them on a page of their own with evidence, switches and reset."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QSize
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.fitting import Fitting
from omnipel.bench.parts.asking import sized
from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.heard import CHART
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import button, check, column, emptied, label, row, scrolled
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.core.finishing.operation import DEEDS
from omnipel.core.learning.estimates import KINDS, Line
from omnipel.core.learning.evidence import BETWEEN
from omnipel.core.learning.gaussian import Normal
from omnipel.core.words.phrases import NOTHING, Count, Name, Phrase, listed, tr, trn
from omnipel.shop import timelog

MOST_DEEDS = 8
"""So many kinds of steps are told of, those that were done most."""
SPANS = 3.0
"""A line is drawn so many of the spreads that are usual to either side."""


class RangeBar(QWidget):
    """An estimate as a mark in its range, on a line; where it began is marked."""

    heard_as = CHART

    def __init__(self, learnt: Line, words: str) -> None:
        super().__init__()
        self.learnt = learnt
        self.setAccessibleName(words)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(LOOK.px(16))

    def sizeHint(self) -> QSize:
        """As wide as there is room."""
        return QSize(LOOK.px(120), LOOK.px(16))

    def paintEvent(self, event: QPaintEvent) -> None:
        prior, now = self.learnt.prior, self.learnt.now
        low, high = prior.mean - SPANS * prior.sigma, prior.mean + SPANS * prior.sigma
        low, high = min(low, now.range[0]), max(high, now.range[1])

        def at(value: float) -> int:
            return round(6 + (self.width() - 12) * (value - low) / (high - low))

        painter, middle = QPainter(self), self.height() // 2
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(LOOK.colour("line"), 1.5))
        painter.drawLine(6, middle, self.width() - 6, middle)
        painter.setPen(QPen(LOOK.colour("soft"), 1.5))
        zero = at(0.0 if self.learnt.differs else prior.mean)
        painter.drawLine(zero, middle - 5, zero, middle + 5)
        accent = LOOK.colour("accent" if self.learnt.on else "line")
        painter.setPen(QPen(accent, 4.0))
        painter.drawLine(at(now.range[0]), middle, at(now.range[1]), middle)
        painter.setPen(QPen(accent, 2.0))
        painter.setBrush(LOOK.colour("surface"))
        painter.drawEllipse(at(now.mean) - 5, middle - 5, 10, 10)
        painter.end()


class LearntBox(QWidget):
    """What is learnt of what this job is made of."""

    def __init__(self, session: Session, fitting: Fitting) -> None:
        super().__init__()
        self.session, self.fitting = session, fitting
        self.count = label(NOTHING, "soft")
        head = row(label(tr("Learnt"), "head"))
        head.addStretch(1)
        head.addWidget(self.count)
        self.lines = QVBoxLayout()
        self.lines.setSpacing(8)
        self.none = label(tr("Nothing yet: measure what was made, and say how it went on."), "soft", wrap=True)
        self.all = button(tr("All that is learnt…"), self._all)
        self.again = button(tr("Make it again with this…"), self._again, tip=tr("Ctrl+Shift+N"))
        self.setLayout(column(head, self.none, self.lines, self.all, self.again, spacing=6))

    def refresh(self) -> None:
        """Show the lines that concern the open job."""
        mine = self._mine()
        covers = {name for line in mine for name, _, _ in line.told}
        self.count.setText(self.session.tell(trn("{n} cover", "{n} covers", len(covers))) if covers else "")
        self.none.setVisible(not mine)
        self.all.setVisible(bool(self.fitting.experience.lines))
        job = self.session.job
        self.again.setVisible(job is not None and bool(job.tries or job.log or job.sewing.done))
        emptied(self.lines)
        for line in mine:
            words, says = label(NOTHING, "soft"), label(NOTHING)
            words.setText(self.session.tell(line.words))
            says.setText(self.session.tell(line.says))
            told = row(words, says, spacing=8)
            told.setStretch(0, 1)
            self.lines.addLayout(column(told, RangeBar(line, says.text()), spacing=0))

    def _mine(self) -> list[Line]:
        from omnipel.core.learning.applying import keys_of

        job = self.session.job
        lines = self.fitting.experience.lines
        return [lines[key] for key in keys_of(job) if key in lines and lines[key].n] if job is not None else []

    def _again(self) -> None:
        from omnipel.bench.stations.fit.again import ask_again  # drafts the new one

        ask_again(self, self.session)

    def _all(self) -> None:
        LearntDialog(self, self.session, self.fitting).exec()


class LearntDialog(Dialog):
    """All that the shop has learnt."""

    def __init__(self, parent: QWidget, session: Session, fitting: Fitting) -> None:
        intro = tr(
            "Each line begins as with all people, and every cover that was measured moves it. It is only proposed, never done by itself; what is switched off "
            "is not even that."
        )
        super().__init__(parent, tr("What is learnt"), intro)
        self.session, self.fitting = session, fitting
        self.lines = QVBoxLayout()
        self.lines.setSpacing(14)
        inner = QWidget()
        inner.setLayout(column(self.lines, margins=4))
        close = button(tr("Close"), self.accept, "main")
        foot = row()
        foot.addStretch(1)
        foot.addWidget(close)
        whole = column(label(tr("What is learnt"), "title"), label(intro, "soft", wrap=True), scrolled(inner), foot, margins=16)
        whole.setStretch(2, 1)
        self.setLayout(whole)
        self.fitting.learnt.connect(self.refresh)
        self.refresh()
        sized(self, 720, 620)

    def refresh(self) -> None:
        """Show all lines."""
        emptied(self.lines)
        for line in self.fitting.experience.lines.values():
            self.lines.addLayout(self._line(line))
        said = self.fitting.ruled
        for key in sorted(said.forgotten) if said is not None else ():
            kind, between, _of = key.partition(BETWEEN)
            if key not in self.fitting.experience.lines and between and kind in KINDS:
                self.lines.addLayout(self._forgotten(key))
        self.lines.addLayout(self._minutes())
        self.lines.addStretch(1)

    def _line(self, line: Line) -> QVBoxLayout:
        tell = self.session.tell
        words, says, evidence = label(NOTHING, "strong"), label(NOTHING, "strong"), label(NOTHING, "soft", wrap=True)
        words.setText(self.session.sentence(line.words))
        says.setText(tell(line.says))
        told = [tr("{evidence}", evidence=line.evidence)] if line.n else []
        if line.scatter is not None and line.scatter.n >= 1.0:
            told.append(line.scatters)
        evidence.setText(self.session.sentence(listed(told, "; ")) if told else "")
        jobs = label(NOTHING, "soft", wrap=True)
        jobs.setText(tell(listed([tr("{job}: {said}", job=Name(n), said=line.seen(v)) for n, _, v in line.told], " · ")))
        use, reset = self._ruling(line.key, line.words, self.fitting.switch, self._reset)
        head = row(words, says, use, reset, spacing=12)
        head.setStretch(0, 1)
        return column(head, RangeBar(line, says.text()), evidence, jobs, spacing=2)

    def _ruling(
        self, key: str, words: Phrase, switch: Callable[[str, bool], object], reset: Callable[[str], object]
    ) -> tuple[QCheckBox, QPushButton]:
        """Whether a line is used, and whether what was seen of it counts."""
        said = self.fitting.ruled
        use = check(tr("used"), partial(switch, key), full=tr("used: {line}", line=words))
        use.setChecked(said is None or key not in said.off)
        gone = said is not None and key in said.forgotten
        act = tr("Count all again") if gone else tr("Forget so far")
        made = button(act, partial(reset, key), "quiet")
        made.setAccessibleName(self.session.tell(tr("{what}: {line}", what=act, line=words)))
        return use, made

    def _forgotten(self, key: str) -> QHBoxLayout:
        """A line of which nothing counts any more; it can be counted again."""
        line = Line(key, Normal(0.0, 1.0), Normal(0.0, 1.0), ())
        words = label(NOTHING, "strong")
        words.setText(self.session.sentence(line.words))
        _, again = self._ruling(key, line.words, self.fitting.switch, self._reset)
        made = row(words, label(tr("forgotten so far"), "soft"), again, spacing=12)
        made.setStretch(0, 1)
        return made

    def _minutes(self) -> QVBoxLayout:
        """How long whoever sews here takes, by the clock."""
        tell, person = self.session.tell, timelog.person(self.session.store, whether_used=True)
        known = sorted(((f.n, deed, f) for deed, f in person.factors.items() if f.n), reverse=True)
        head = row(label(tr("Your minutes"), "strong"), label(tr("by the clock at Sew"), "soft"), spacing=12)
        head.setStretch(1, 1)
        if timelog.timed_jobs(self.session.store):
            for part in self._ruling(timelog.MINUTES, tr("your minutes"), self._used, self._forget):
                head.addWidget(part)
        if not known:
            return column(head, label(tr("Nothing was timed yet."), "soft"), spacing=2)
        told = [
            trn(
                "{what}: {times} of the usual time ({n} step, {low} to {high})",
                "{what}: {times} of the usual time ({n} steps, {low} to {high})",
                n,
                what=DEEDS[deed].words,
                times=Count(f.times, 2),
                low=Count(f.span[0], 2),
                high=Count(f.span[1], 2),
            )
            for n, deed, f in known
            if deed in DEEDS
        ]
        shown = column(head, spacing=2)
        for one in told[:MOST_DEEDS]:
            words = label(NOTHING, "soft", wrap=True)
            words.setText(self.session.sentence(one))
            shown.addWidget(words)
        if len(told) > MOST_DEEDS:
            more = len(told) - MOST_DEEDS
            rest = trn("and {n} kind of step more, at “Your paces…”", "and {n} kinds of steps more, at “Your paces…”", more)
            words = label(NOTHING, "soft")
            words.setText(tell(rest))
            shown.addWidget(words)
        return shown

    def _used(self, key: str, on: bool) -> None:
        self.fitting.switch(key, on)
        sewing_of(self.session).learn()

    def _forget(self, key: str) -> None:
        self.fitting.reset(key, timelog.timed_jobs(self.session.store))
        sewing_of(self.session).learn()
        self.refresh()

    def _reset(self, key: str) -> None:
        self.fitting.reset(key)
