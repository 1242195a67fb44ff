"""Every size of the panels with its sum; what is set by hand stands out, with its reason and one click back."""

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QGridLayout, QWidget

from omnipel.bench.parts.flow import flow
from omnipel.bench.parts.onfold import fold_box, foldable
from omnipel.bench.parts.ontocloth import way_pick
from omnipel.bench.parts.picker import Picker
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.widgets import Number, button, emptied, label, restyle
from omnipel.bench.session import Session
from omnipel.core.cloth.marking import proposed
from omnipel.core.covers.sizes import size_words
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Panel
from omnipel.core.job.document import Override
from omnipel.core.job.findings import Act, Change
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Name, Phrase, bare, listed, mm, term, tr
from omnipel.core.words.refs import Of
from omnipel.core.words.working import Worked


def set_by_hand(size: Worked) -> bool:
    """Whether a size was set by hand, or follows from one that was."""
    return any(part.source is not None and part.source.of is Of.BY_HAND for part in size.terms)


class Sizes(QWidget):
    """The column of sizes."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.grid = QGridLayout(self)
        self.grid.setContentsMargins(0, 0, 0, 0)
        self.grid.setHorizontalSpacing(12)
        self.grid.setVerticalSpacing(3)
        self.grid.setColumnStretch(0, 1)
        self.numbers: list[Number] = []
        self.folds: dict[str, QCheckBox] = {}
        self.ways: dict[str, Picker] = {}
        self.made_for: tuple[object, ...] = ()

    def show_panels(self, panels: tuple[Panel, ...]) -> None:
        """Show the sizes of these panels."""
        wanted: list[tuple[str, Phrase, Worked]] = []
        for panel in panels:
            named = (
                (tr("finished length"), panel.length),
                (tr("finished height"), panel.width),
                (tr("cut length"), panel.cut_length),
                (tr("cut height"), panel.cut_width),
            )
            wanted += [(panel.name, words, size) for words, size in named]
            wanted += [(panel.name, term(words), size) for words, size in panel.sizes.items()]
        draft, unit = self.session.draft, self.session.unit
        by_hand = [
            o for o in self.session.open_job.cover.overrides if isinstance(draft, Drafted) and o.size in draft.cover.by_hand
        ]
        on_fold = {panel.name: panel.fold is not None for panel in panels if foldable(panel)}
        ways = tuple((panel.name, proposed(panel)) for panel in panels), dict(self.session.open_job.cover.marking)
        shape = tuple((name, words) for name, words, _ in wanted), tuple(p.notes for p in panels), unit, by_hand, on_fold, ways
        if shape != self.made_for:
            with same_focus(self):
                self._lay_out(panels, wanted, by_hand, on_fold)
            self.made_for = shape
        for number, (name, words, size) in zip(self.numbers, wanted, strict=True):
            number.show_number(tr("{panel}, {size}", panel=term(name), size=words), size, bare(size.value))
            restyle(number, "byhand" if set_by_hand(size) else "")

    def _lay_out(
        self,
        panels: tuple[Panel, ...],
        wanted: list[tuple[str, Phrase, Worked]],
        by_hand: list[Override],
        on_fold: dict[str, bool],
    ) -> None:
        emptied(self.grid)
        self.numbers, self.folds, self.ways = [], {}, {}
        line = 0
        for override in by_hand:
            self._told(override, line)
            line += 2
        for panel in panels:
            words = tr("{panel}, cut {n}", panel=term(panel.name), n=Count(panel.count))
            if panel.notes:
                notes = listed(panel.notes, "; ")
                words = tr("{panel}, cut {n} · {notes}", panel=term(panel.name), n=Count(panel.count), notes=notes)
            head = label(words, "head", wrap=True)
            self.grid.addWidget(head, line, 0, 1, 2)
            if panel.name in on_fold:
                line += 1
                self.folds[panel.name] = fold_box(self.session, panel.name, on=on_fold[panel.name])
                self.grid.addWidget(self.folds[panel.name], line, 0, 1, 2)
            line += 1
            self.ways[panel.name] = way_pick(self.session, panel)
            self.grid.addWidget(self.ways[panel.name], line, 0, 1, 2)
            for name, words, _ in wanted:
                if name == panel.name:
                    line += 1
                    number = Number(self.session)
                    number.setAlignment(Qt.AlignmentFlag.AlignRight)
                    self.numbers.append(number)
                    self.grid.addWidget(label(words, "soft"), line, 0)
                    self.grid.addWidget(number, line, 1)
            line += 1
        self.grid.setRowStretch(line, 1)

    def _told(self, override: Override, line: int) -> None:
        """A size set by hand, why, and the way back."""
        name = size_words(override.size)
        words = tr(
            "{size} {value}, set by hand: {reason}", size=name, value=mm(override.value, fine=True), reason=Name(override.reason)
        )
        told = label(words, "byhand", wrap=True)
        told.setText(self.session.sentence(words))
        back = button(tr("Back to the drafted size"), partial(self._back, override.size), "quiet")
        back.setAccessibleName(self.session.tell(tr("{size} back to the drafted size", size=name)))
        self.grid.addWidget(told, line, 0, 1, 2)
        self.grid.addLayout(flow(back), line + 1, 0, 1, 2)

    def _back(self, name: str) -> None:
        self.session.change(tr("{size} as drafted", size=size_words(name)), Change(refs.by_hand(name), act=Act.REMOVE))
