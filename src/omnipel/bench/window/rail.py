"""The station rail: where you are, and the state of each station as shape and word."""

from collections.abc import Mapping
from typing import Final

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QFrame, QSizePolicy, QVBoxLayout

from omnipel.bench.parts.entered import Entered
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.signs import paint_sign
from omnipel.bench.parts.widgets import button, paint_state
from omnipel.bench.speech import say
from omnipel.bench.stations import STATIONS
from omnipel.core.job.state import State
from omnipel.core.words.phrases import NOTHING, Phrase, tr

NO_WORDS: Final[Mapping[str, Phrase]] = {}


class Rail(QFrame):
    """The left edge."""

    chosen = Signal(str)
    menu = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.buttons = {"shelf": StationButton("shelf", tr("Shelf"), 0)} | {
            key: StationButton(key, station.words, number) for number, (key, station) in enumerate(STATIONS.items(), 1)
        }
        layout = QVBoxLayout(self)
        layout.setContentsMargins(8, 12, 4, 8)
        layout.setSpacing(4)
        for key, made in self.buttons.items():
            made.clicked.connect(lambda _checked=False, k=key: self.chosen.emit(k))
            layout.addWidget(made)
        layout.addStretch(1)
        self.menu_button = button(tr("Menu"), self.menu.emit)
        layout.addWidget(self.menu_button)
        self.rescale()

    def rescale(self) -> None:
        """Take the width that the text scale asks for."""
        self.setFixedWidth(LOOK.px(118) + 12)
        for made in self.buttons.values():
            made.updateGeometry()

    def show_state(self, here: str, states: dict[str, State] | None, words: Mapping[str, Phrase] = NO_WORDS) -> None:
        """Mark where you are; without a job the stations are not offered. `words` say more than the state."""
        for key, made in self.buttons.items():
            made.setVisible(key == "shelf" or states is not None)
            made.set_state((states or {}).get(key), key == here, words.get(key, NOTHING))


class StationButton(Entered, QAbstractButton):
    """One station."""

    def __init__(self, key: str, words: Phrase, number: int) -> None:
        super().__init__()
        self.key = key
        self.words, self.number, self.here = say(words), number, False
        self.stands = ""
        self.state: State | None = None
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setToolTip(f"Ctrl+{number}")

    def set_state(self, state: State | None, here: bool, words: Phrase = NOTHING) -> None:
        """Show a state, in `words` where there are any, and whether this is where you are."""
        stands = say(words or state.words) if state else ""
        if (state, here, stands) == (self.state, self.here, self.stands) and self.accessibleName():
            return
        self.state, self.here, self.stands = state, here, stands
        told = [self.words, *([say(tr("you are here"))] if here else []), *([stands] if state else [])]
        self.setAccessibleName(", ".join(told))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(LOOK.px(110), LOOK.px(52))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect())
        ink = LOOK.colour("ink")
        if self.here:
            painter.fillRect(box, LOOK.colour("accent"))
            ink = LOOK.colour("on_accent")
        elif self.underMouse():
            painter.fillRect(box, LOOK.colour("surface"))
        if self.hasFocus():
            painter.setPen(QPen(LOOK.colour("on_accent" if self.here else "accent"), 2))
            painter.drawRect(box.adjusted(2, 2, -2, -2))
        sign = LOOK.px(26)
        paint_sign(painter, QRectF(box.right() - sign - LOOK.px(8), LOOK.px(3 if self.state else 11), sign, sign), self.key, ink)
        painter.setPen(ink)
        painter.setFont(LOOK.font(17, QFont.Weight.DemiBold))
        painter.drawText(LOOK.px(10), LOOK.px(22 if self.state else 32), self.words)
        if self.state:
            paint_state(
                painter, QRectF(LOOK.px(9), LOOK.px(29), LOOK.px(14), LOOK.px(14)), self.state, ink if self.here else None
            )
            painter.setFont(LOOK.font(14))
            painter.setPen(ink if self.here else LOOK.colour("soft"))
            painter.drawText(LOOK.px(28), LOOK.px(41), self.stands)
        painter.end()
