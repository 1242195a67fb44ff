"""Made against planned: the sizes of a try-on, the most telling first, each with a field, how far it is off, and what would be usual."""

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QLabel, QWidget

from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.tapefield import TapeField, length_field, moves_on
from omnipel.bench.parts.widgets import Number, column, emptied, label, restyle, row
from omnipel.bench.session import Session
from omnipel.core.job.trying import TryOn
from omnipel.core.learning.sizes import Size
from omnipel.core.words.phrases import NOTHING, Share, bare, tr

TELLING = 0.03
"""What tells less of the doubt (share) is not said to."""


class MadeTable(QWidget):
    """A line for each size that is asked for."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.fitting = session, fitting_of(session)
        self.grid = QGridLayout()
        self.grid.setHorizontalSpacing(10)
        self.grid.setVerticalSpacing(4)
        self.grid.setColumnStretch(0, 1)
        self.fields: dict[str, TapeField] = {}
        self.offs: dict[str, QLabel] = {}
        self.shown: object = None
        head = row(label(tr("Made against planned"), "head"))
        head.addStretch(1)
        self.order = label(tr("most telling first"), "soft")
        head.addWidget(self.order)
        self.setLayout(column(head, self.grid, spacing=6))

    def refresh(self, one: TryOn) -> None:
        """Show the sizes of a try-on."""
        asked = list(self.fitting.sizes_at(one).values())
        told = tuple((size.key, size.planned, round(size.sigma, 6), round(size.tells, 4)) for size in asked)
        known = told, self.session.unit, self.session.key, one.id, LOOK.px(100)
        if known != self.shown:
            self.shown = known
            with same_focus(self):
                self._make(asked)
        for size in asked:
            self._fill(size, one.made.get(size.key))

    def _make(self, asked: list[Size]) -> None:
        emptied(self.grid)
        self.fields, self.offs = {}, {}
        heads = (NOTHING, tr("planned"), tr("made"), tr("differs"), tr("usual"))
        for k, words in enumerate(heads):
            head = label(words, "soft")
            head.setAlignment(Qt.AlignmentFlag.AlignRight)
            self.grid.addWidget(head, 0, k)
        for line, size in enumerate(asked, 1):
            self._ask(size, line)

    def _ask(self, size: Size, line: int) -> None:
        name = label(NOTHING, wrap=True)
        name.setText(self.session.sentence(size.words))
        named = column(name, spacing=0)
        if size.how:
            under = label(NOTHING, "soft", wrap=True)
            under.setText(self.session.tell(size.how))
            named.addWidget(under)
        if size.tells >= TELLING:
            tells = tr("tells {share} of the doubt whether it goes on", share=Share(size.tells))
            name.setToolTip(self.session.tell(tells))
        planned = Number(self.session)
        planned.show_number(size.words, size.planned, bare(size.planned.value))
        field = length_field(self.session, size.words, partial(self._measured, size), strict=True)
        moves_on(field, size.key, lambda: self.fields)
        field.setFixedWidth(LOOK.px(84))
        field.empty.connect(partial(self._measured, size, None))
        off = label(NOTHING)
        usual = label(NOTHING, "soft")
        usual.setText(self.session.tell(tr("± {by}", by=bare(2.0 * size.sigma))))
        usual.setAccessibleName(self.session.tell(tr("usual: within {by}", by=bare(2.0 * size.sigma))))
        self.fields[size.key], self.offs[size.key] = field, off
        self.grid.addLayout(named, line, 0)
        for k, widget in enumerate((planned, field, off, usual), 1):
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            self.grid.addWidget(widget, line, k, right if k != 2 else Qt.AlignmentFlag.AlignVCenter)

    def _fill(self, size: Size, made: float | None) -> None:
        self.fields[size.key].show_length(made)
        off = self.offs[size.key]
        if made is None:
            off.setText("")
            return
        by = made - size.planned.value
        shown = self.session.tell(bare(abs(by)))
        sign = "" if shown == self.session.tell(bare(0.0)) else "+ " if by > 0.0 else "− "
        off.setText(f"{sign}{shown}")
        off.setAccessibleName(self.session.tell(size.off(made)))
        off.setToolTip(self.session.tell(size.off(made)))
        restyle(off, "stop" if size.surprises(made) else "")

    def _measured(self, size: Size, length: float | None) -> None:
        one = self.fitting.current
        if one is None or (length is None and size.key not in one.made):
            return
        made = {key: known for key, known in one.made.items() if key != size.key}
        reason = tr("made size taken away: {size}", size=size.words)
        if length is not None:
            made, reason = {**made, size.key: length}, tr("made size: {size}", size=size.words)
        self.fitting.set("made", made, reason)
