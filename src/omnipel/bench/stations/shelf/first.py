"""What an empty shop asks and offers first."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QButtonGroup, QPushButton, QRadioButton, QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.signs import Sign
from omnipel.bench.parts.widgets import button, column, label
from omnipel.bench.speech import say
from omnipel.core.words.phrases import term, tr
from omnipel.core.words.units import Unit

if TYPE_CHECKING:
    from omnipel.bench.session import Session

UNITS = (Unit.INCH_16, Unit.INCH_8, Unit.CM, Unit.MM)


class FirstStart(QWidget):
    """The unit, and three ways to begin."""

    def __init__(self, session: Session, wants: Callable[[str], object]) -> None:
        super().__init__()
        self.session = session
        self.units = QButtonGroup(self)
        unit_row = Flow(gap=16)
        unit_row.addWidget(label(tr("I measure in"), "head"))
        for unit in UNITS:
            made = QRadioButton(say(term(unit.label)))
            made.setAccessibleName(say(tr("I measure in {unit}", unit=term(unit.label))))
            made.setChecked(unit is session.home_unit)
            made.clicked.connect(lambda _on=False, u=unit: self._measures_in(u))
            self.units.addButton(made)
            unit_row.addWidget(made)
        ways = (
            (
                "new",
                tr("Measure something now"),
                tr("Pick what it is, put the tape around it, and its cover drafts itself while you type."),
            ),
            (
                "sample",
                tr("Look round the sample shop"),
                tr("Two dozen jobs of the made-up Quillet Hill, some with trouble on purpose, some a winter old."),
            ),
            ("card", tr("Read a tape card"), tr("All readings in one go, by their letters, in any order.")),
        )
        made_ways: list[QWidget] = []
        for kind, words, under in ways:
            made_ways += [button(words, partial(wants, kind), "main" if kind == "new" else ""), label(under, "soft", wrap=True)]
        layout = column(
            Sign("shelf"),
            label(tr("Nothing on the shelf yet"), "title"),
            label(tr("A cover that fits begins with a tape. First: what is on yours?"), "head", wrap=True),
            unit_row,
            *made_ways,
            spacing=10,
            margins=24,
        )
        for k in range(layout.count()):
            item = layout.itemAt(k)
            widget = item.widget() if item is not None else None
            if isinstance(widget, QPushButton):
                layout.setAlignment(widget, Qt.AlignmentFlag.AlignLeft)
        layout.addStretch(1)
        self.setLayout(layout)
        self.setMaximumWidth(760)

    def _measures_in(self, unit: Unit) -> None:
        """What was asked: the unit of new jobs, with its habits."""
        self.session.home_unit = unit
        self.session.keep_setting("unit", unit.value)

    def take_focus(self) -> None:
        """To the question."""
        for made in self.units.buttons():
            if made.isChecked():
                made.setFocus()
