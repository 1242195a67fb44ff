"""The form of a try-on: sizes as they were measured on what is sewn, beside what was planned."""

from collections.abc import Mapping
from datetime import date
from functools import partial

from PySide6.QtWidgets import QGridLayout, QWidget

from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.tapefield import TapeField, length_field, moves_on
from omnipel.bench.parts.widgets import Number, emptied, label
from omnipel.bench.session import Session
from omnipel.core.job.trying import Stage, TryOn, tried, with_size
from omnipel.core.learning.sizes import Size
from omnipel.core.sewing.plan import Step
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Phrase, bare, tr


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
        self.stage: Stage | None = None

    def show_step(self, step: Step) -> None:
        """Ask for the sizes of a step, none where one does not stop."""
        self.stage = step.stage
        asked = list(fitting_of(self.session).sizes_at(self._try(step.stage)).values()) if step.stage is not None else []
        self.setVisible(bool(asked))
        known = (tuple((size.key, size.planned) for size in asked), self.session.unit, self.session.key, dict(self.made))
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
        made = self.made.get(size.key)
        name = label(NOTHING, wrap=True)
        name.setText(self.session.sentence(tr("{size} ({how})", size=size.words, how=size.how) if size.how else size.words))
        planned = Number(self.session)
        planned.show_number(size.words, size.planned, bare(size.planned.value))
        field = length_field(self.session, size.words, partial(self._measured, size), strict=True)
        moves_on(field, size.key, lambda: self.fields)
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

    @property
    def made(self) -> Mapping[str, float]:
        """What was measured at this stage."""
        return self._try(self.stage).made if self.stage is not None else {}

    def _try(self, stage: Stage) -> TryOn:
        return tried(self.session.open_job.tries, stage) or TryOn(stage=stage)

    def _measured(self, size: Size, length: float) -> None:
        self._keep(size, length, tr("made size: {size}", size=size.words))

    def _forget(self, size: Size) -> None:
        self._keep(size, None, tr("made size taken away: {size}", size=size.words))

    def _keep(self, size: Size, length: float | None, reason: Phrase) -> None:
        if self.stage is not None:
            tries = with_size(self.session.open_job.tries, self.stage, size.key, length, date.today().isoformat())
            self.session.set(refs.try_on(), tries, reason)
