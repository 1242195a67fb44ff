"""The tally: what the draft comes to, at every station; each line leads to the place that decides it."""

from collections.abc import Callable

import shapely
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from omnipel.bench.look import LOOK
from omnipel.bench.parts import Glow, StateMark, button, column, emptied, label, row, scrolled
from omnipel.bench.session import Session
from omnipel.core.draft import Draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Cloth
from omnipel.core.findings import Finding
from omnipel.core.tape.units import format_area


class Tally(QFrame):
    """The column at the right."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("tally")
        self.goes_on, self.seams, self.cloth = Glow("Goes on?"), Glow("Seams true"), Glow("Cloth in panels")
        self.goes_on.clicked.connect(lambda: session.go.emit("fit"))
        self.seams.clicked.connect(lambda: session.go.emit("seams"))
        self.cloth.clicked.connect(lambda: session.go.emit("panels"))
        self.count = label("", "head")
        self.findings = QVBoxLayout()
        self.findings.setSpacing(10)
        inner = QWidget()
        inner.setLayout(column(self.goes_on, self.seams, self.cloth, self.count, self.findings, spacing=6))
        inner.layout().addStretch(1)  # type: ignore[union-attr]
        self.setLayout(column(scrolled(inner), margins=8))
        self.shown: tuple[Finding, ...] | None = None
        self.kinds: list[tuple[str, str, int]] = []
        self.cards: list[FindingCard] = []
        self.rescale()

    def rescale(self) -> None:
        """Take the width that the text scale asks for."""
        self.setFixedWidth(LOOK.px(226) + 10)

    def refresh(self) -> None:
        """Show the draft as it stands."""
        draft = self.session.draft
        if draft is None:
            return
        fit = draft.fit
        if fit is None:
            self.goes_on.show_value("not yet" if not draft.panels else "lies on top", "", "nothing")
        else:
            state = {"will not go on": "stop", "tight": "look", "flaps": "look"}.get(
                fit.verdict, "fine" if fit.chance >= 0.95 else "look"
            )
            gap = self.session.fmt(fit.tightest.clearance)
            self.goes_on.show_value(
                "yes" if fit.verdict == "goes on" else fit.verdict,
                f"chance {_percent(fit.chance)} · gap {gap} at the tightest",
                state,
            )
        true = sum(seam.true for seam in draft.seams)
        total = len(draft.seams)
        self.seams.show_value(
            f"{true} of {total}" if total else "not yet", "", "nothing" if not total else "fine" if true == total else "stop"
        )
        self.cloth.show_value(_areas(draft, self.session), _pieces(draft), "fine" if draft.panels else "nothing")
        if draft.findings != self.shown:
            self.shown = draft.findings
            self._findings(draft.findings)

    def _findings(self, findings: tuple[Finding, ...]) -> None:
        """Show the findings; cards of the same kind are kept and only get other words."""
        self.count.setText({0: "No findings", 1: "1 finding"}.get(len(findings), f"{len(findings)} findings"))
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

    def __init__(self, session: Session, finding: Finding) -> None:
        super().__init__()
        self.session, self.finding = session, finding
        head = QHBoxLayout()
        head.setSpacing(6)
        head.addWidget(StateMark(finding.severity.value, 13.0))
        head.addWidget(label(finding.severity.words, finding.severity.value), 1)
        show = button("Show", lambda: session.go.emit(self.finding.where), "quiet")
        show.setAccessibleName(f"Show {finding.code.replace('-', ' ')}")
        head.addWidget(show)
        self.text = label("", wrap=True)
        self.text.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        self.remedies = [WordButton(lambda k=k: session.remedy(self.finding.remedies[k])) for k in range(len(finding.remedies))]
        self.setLayout(column(head, self.text, *self.remedies, spacing=2))

    def show_finding(self, finding: Finding) -> None:
        """Show another finding of the same kind."""
        self.finding = finding
        self.text.setText(finding.text)
        self.setAccessibleName(f"{finding.severity.words}: {finding.text}")
        for made, remedy in zip(self.remedies, finding.remedies, strict=True):
            made.show_words(remedy.words)


class WordButton(QWidget):
    """A remedy as a button whose words may take several lines."""

    def __init__(self, run: Callable[[], object]) -> None:
        super().__init__()
        self.button = button("", run, "remedy")
        self.text = label("", wrap=True)
        self.text.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        inner = row(self.text)
        inner.setContentsMargins(9, 5, 9, 5)
        self.button.setLayout(inner)
        self.button.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        self.setLayout(column(self.button))

    def show_words(self, words: str) -> None:
        """What the remedy does."""
        self.text.setText(words)
        self.button.setAccessibleName(words)

    def resizeEvent(self, event: object) -> None:
        room = max(40, self.width() - 20)
        self.button.setMinimumHeight(self.text.heightForWidth(room) + 12)


def _percent(chance: float) -> str:
    return "over 99 %" if chance > 0.99 else "under 1 %" if chance < 0.01 else f"{chance * 100:.0f} %"


def _areas(draft: Draft, session: Session) -> str:
    area = sum(shapely.Polygon(cut_line(p)).area * p.count for p in draft.panels if p.cloth is Cloth.OUTER)
    return format_area(area, session.unit) if area else "not yet"


def _pieces(draft: Draft) -> str:
    pieces = sum(panel.count for panel in draft.panels)
    return f"{pieces} pieces, before laying" if pieces > 1 else "1 piece, before laying" if pieces else ""
