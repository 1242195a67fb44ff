"""The form of a try-on: sizes as they were measured on what is sewn, beside what was planned."""

from functools import partial

from PySide6.QtWidgets import QGridLayout, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.tapefield import TapeField, length_field
from omnipel.bench.parts.widgets import Number, emptied, label
from omnipel.bench.session import Session
from omnipel.core.sewing.measured import Size, sizes
from omnipel.core.sewing.plan import Plan, Step
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, bare, tr


class MadeSizes(QWidget):
    """One line for each size: what is measured, what it should be, a field, how far it is off."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.grid = QGridLayout(self)
        self.grid.setContentsMargins(0, 0, 0, 0)
        self.grid.setHorizontalSpacing(8)
        self.grid.setVerticalSpacing(4)
        self.grid.setColumnStretch(0, 1)
        self.fields: dict[str, TapeField] = {}
        self.shown: object = None

    def show_step(self, plan: Plan, step: Step) -> None:
        """Ask for the sizes of a step, none where one does not stop."""
        asked = sizes(plan, step)
        self.setVisible(bool(asked))
        known = (
            tuple((size.key, size.planned) for size in asked),
            self.session.unit,
            self.session.key,
            dict(self.session.open_job.sewing.made),
        )
        if known == self.shown:
            return
        self.shown = known
        with same_focus(self):
            emptied(self.grid)
            self.fields = {}
            if asked:
                heads = (tr("size"), tr("planned"), tr("made"))
                for k, words in enumerate(heads):
                    self.grid.addWidget(label(words, "soft", wrap=k == 0), 0, k)
            for line, size in enumerate(asked):
                self._ask(size, 2 * line + 1)

    def _ask(self, size: Size, line: int) -> None:
        made = self.session.open_job.sewing.made.get(size.key)
        name = label(NOTHING, wrap=True)
        name.setText(self.session.sentence(size.words))
        planned = Number(self.session)
        planned.show_number(size.words, size.planned, bare(size.planned.value))
        field = length_field(self.session, size.words, partial(self._measured, size), strict=True)
        field.setFixedWidth(LOOK.px(84))
        field.show_length(made)
        field.empty.connect(partial(self._forget, size))
        self.fields[size.key] = field
        for k, widget in enumerate((name, planned, field)):
            self.grid.addWidget(widget, line, k)
        if made is not None:
            off = label(NOTHING, "soft", wrap=True)
            off.setText(self.session.tell(size.off(made)))
            self.grid.addWidget(off, line + 1, 0, 1, 3)

    def _measured(self, size: Size, length: float) -> None:
        made = {**self.session.open_job.sewing.made, size.key: length}
        self.session.set(refs.SIZES_MADE, made, tr("made size: {size}", size=size.words))

    def _forget(self, size: Size) -> None:
        made = {key: length for key, length in self.session.open_job.sewing.made.items() if key != size.key}
        self.session.set(refs.SIZES_MADE, made, tr("made size taken away: {size}", size=size.words))
