"""The station rail: where you are, and the state of each station as shape and word."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QFrame, QSizePolicy, QVBoxLayout

from omnipel.bench.look import LOOK
from omnipel.bench.parts import button, paint_state
from omnipel.core.draft import Draft

STATIONS = (("object", "Object", 1), ("tape", "Tape", 2), ("cover", "Cover", 3), ("panels", "Panels", 4))
STATE_WORDS = {"nothing": "nothing yet", "fine": "fine", "look": "look", "stop": "stop"}


class Rail(QFrame):
    """The left edge."""

    chosen = Signal(str)
    menu = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.buttons = {"shelf": StationButton("Shelf", 0)} | {
            key: StationButton(words, number) for key, words, number in STATIONS
        }
        layout = QVBoxLayout(self)
        layout.setContentsMargins(8, 12, 4, 8)
        layout.setSpacing(4)
        for key, made in self.buttons.items():
            made.clicked.connect(lambda _checked=False, k=key: self.chosen.emit(k))
            layout.addWidget(made)
        layout.addStretch(1)
        self.menu_button = button("Menu", self.menu.emit)
        layout.addWidget(self.menu_button)
        self.rescale()

    def rescale(self) -> None:
        """Take the width that the text scale asks for."""
        self.setFixedWidth(LOOK.px(118) + 12)
        for made in self.buttons.values():
            made.updateGeometry()

    def show_state(self, here: str, states: dict[str, str] | None) -> None:
        """Mark where you are; without a job the stations are not offered."""
        for key, made in self.buttons.items():
            made.setVisible(key == "shelf" or states is not None)
            made.set_state((states or {}).get(key, ""), key == here)


class StationButton(QAbstractButton):
    """One station."""

    def __init__(self, words: str, number: int) -> None:
        super().__init__()
        self.words, self.number, self.state, self.here = words, number, "", False
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setToolTip(f"Ctrl+{number}")

    def set_state(self, state: str, here: bool) -> None:
        """Show a state, and whether this is where you are."""
        self.state, self.here = state, here
        self.setAccessibleName(f"{self.words}{', you are here' if here else ''}{', ' + STATE_WORDS[state] if state else ''}")
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
        painter.setPen(ink)
        painter.setFont(LOOK.font(17, QFont.Weight.DemiBold))
        painter.drawText(LOOK.px(10), LOOK.px(22 if self.state else 32), self.words)
        if self.state:
            paint_state(
                painter, QRectF(LOOK.px(9), LOOK.px(29), LOOK.px(14), LOOK.px(14)), self.state, ink if self.here else None
            )
            painter.setFont(LOOK.font(13))
            painter.setPen(ink if self.here else LOOK.colour("soft"))
            painter.drawText(LOOK.px(28), LOOK.px(41), STATE_WORDS[self.state])
        painter.end()


def states(draft: Draft) -> dict[str, str]:
    """The state of each station from the findings that belong to it."""
    worst = {"object": "fine", "tape": "fine", "cover": "fine", "panels": "fine"}
    rank = {"nothing": 0, "fine": 1, "look": 2, "stop": 3}
    missing = [f for f in draft.findings if f.code == "reading-missing"]
    for finding in draft.findings:
        state = {"stop": "stop", "look": "look"}.get(finding.severity.value, "fine")
        if finding.code == "reading-missing":
            state = "look"
        station = station_of(finding.where)
        if rank[state] > rank[worst[station]]:
            worst[station] = state
    if missing and not draft.job.readings:
        worst["tape"] = "nothing"
    if not draft.panels:
        worst["panels"] = "nothing"
        if missing:
            worst["cover"] = "nothing"
    return worst


def station_of(path: str) -> str:
    """The station that decides a path of the job."""
    head = path.split(".")[0]
    if head == "cover" and path.startswith("cover.overrides"):
        return "panels"
    return {
        "readings": "tape",
        "thing": "object",
        "name": "object",
        "owner": "object",
        "place": "object",
        "notes": "object",
        "panels": "panels",
        "seams": "panels",
        "sizes": "panels",
    }.get(head, "cover")
