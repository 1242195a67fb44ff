"""The cutter's window: what it does and what it waits for, with the buttons that a real one has on its panel."""

from __future__ import annotations

from typing import Final

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.look import DARK, LIGHT, LOOK, palette, prefers_dark, style_sheet
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.widgets import button, column, label, row
from omnipel.bench.speech import say
from omnipel.core.words.phrases import NOTHING, Count, Length, Phrase, tr
from omnipel.core.words.units import Unit
from omnipel.cutter.table import Table
from omnipel.exchange.devices.cutter.mechanics import Cutter, State
from omnipel.exchange.devices.cutter.speaking import Post, Speaker

TICK_MS: Final = 33
SPEEDS: Final = (1, 5, 20, 100)
"""So many times as fast as a real one."""
MORE_MM, MORE_IN = 2000.0, 2286.0
"""So much cloth is put on at a time: two metres, or two and a half yards."""
STATES: Final = {
    State.IDLE: (tr("Ready"), "fine"),
    State.RUNNING: (tr("Cutting"), "open"),
    State.PAUSED: (tr("Paused"), "look"),
    State.CLOTH: (tr("Out of cloth"), "stop"),
    State.EDGE: (tr("Beside the cloth"), "stop"),
    State.TOOL: (tr("The wrong tool"), "stop"),
    State.FINISHED: (tr("Done"), "fine"),
}
TOOLS: Final = {1: tr("knife"), 2: tr("pen")}


def tool_words(place: int) -> Phrase:
    """What is meant to be in a place."""
    name = TOOLS.get(place)
    return tr("{tool} in place {n}", tool=name, n=Count(place)) if name is not None else tr("tool in place {n}", n=Count(place))


class CutterWindow(QWidget):
    """The simulated cutter."""

    def __init__(self, cutter: Cutter, post: Post, *, unit: Unit = Unit.MM, speed: int = 1) -> None:
        super().__init__()
        self.cutter, self.post, self.unit, self.speed = cutter, post, unit, speed
        self.setObjectName("ground")
        self.setWindowTitle(say(tr("Simulated cutter")))
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.table = Table(cutter, unit)
        self.state, self.waits = label(name="big"), label(wrap=True)
        self.cure = button(tr("Put more cloth on"), self._cured, "main")
        self.pause = button(tr("Pause"), self._paused)
        self.fast = combo(tr("How fast"), [(tr("{n} × as fast", n=Count(n)), n) for n in SPEEDS], self._speed)
        self.fast.show_value(speed)
        self.link, self.cloth, self.place = label(wrap=True, name="soft"), label(wrap=True), label(name="soft")
        self.cut_link = button(
            tr("Break the link"), post.hang_up, tip=tr("As if the cable came out; the bench goes on by itself.")
        )
        side = column(
            self.state,
            self.waits,
            self.cure,
            self.pause,
            label(tr("speed"), "soft"),
            self.fast,
            self.cloth,
            self.link,
            self.cut_link,
            spacing=10,
        )
        side.addStretch(1)
        holder = QWidget()
        holder.setLayout(side)
        holder.setFixedWidth(LOOK.px(230))
        whole = row(column(self.table, self.place), holder, spacing=16, margins=16)
        whole.setStretch(0, 1)
        self.setLayout(whole)
        self.timer = QTimer(self)
        self.timer.timeout.connect(self.tick)
        self.timer.start(TICK_MS)
        self._shown: tuple[object, ...] = ()
        self.show_state()

    def tick(self) -> None:
        """Some time went by: go on, hear and tell."""
        before = self.cutter.at, self.cutter.done, len(self.cutter.drawn)
        self.post.attend()
        self.cutter.advance(TICK_MS / 1000.0 * self.speed)
        if before != (self.cutter.at, self.cutter.done, len(self.cutter.drawn)):
            self.table.update()
            self.place.setText(self.table.told())
        self.show_state()

    def show_state(self) -> None:
        """Say what it does, and what it waits for."""
        cutter = self.cutter
        now = cutter.state, cutter.wanted, self.post.linked, cutter.length, cutter.paused
        if now == self._shown:
            return
        self._shown = now
        words, colour = STATES[cutter.state]
        self.state.setText(say(words))
        self.state.setStyleSheet(f"color: {LOOK.colours.of(colour)}")
        waits, cure = NOTHING, NOTHING
        if cutter.state is State.CLOTH:
            waits, cure = tr("The roll ends before the next line does."), tr("Put more cloth on")
        elif cutter.state is State.EDGE:
            waits, cure = tr("The cloth is narrower than what is to be cut."), tr("Put wider cloth on")
        elif cutter.state is State.TOOL:
            waits, cure = tr("It is told to take the {tool}; there is none.", tool=tool_words(cutter.wanted)), tr("It is in")
        elif cutter.state is State.IDLE:
            waits = tr("Send it a job: Cut with a machine…, in Omnipel.") if not cutter.last else tr("It waits for the bench.")
        self.waits.setText(say(waits))
        self.cure.setText(say(cure))
        self.cure.setVisible(bool(cure))
        self.pause.setText(say(tr("Go on") if cutter.paused else tr("Pause")))
        self.pause.setEnabled(cutter.state in (State.RUNNING, State.PAUSED, State.IDLE) and bool(cutter.last))
        self.link.setText(say(tr("linked with the bench") if self.post.linked else tr("no bench is linked")))
        self.cut_link.setEnabled(self.post.linked)
        self.cloth.setText(
            say(
                tr("cloth {width} wide, {length} on the roll", width=Length(cutter.width), length=Length(cutter.length)),
                self.unit,
            )
        )
        self.place.setText(self.table.told())
        self.table.update()

    def _cured(self) -> None:
        if self.cutter.state is State.CLOTH:
            self.cutter.more_cloth(MORE_IN if self.unit.denominator else MORE_MM)
        elif self.cutter.state is State.EDGE:
            self.cutter.wider_cloth()
        elif self.cutter.state is State.TOOL:
            self.cutter.put_tool(self.cutter.wanted)
        self.show_state()

    def _paused(self) -> None:
        self.cutter.pause(not self.cutter.paused)
        self.show_state()

    def _speed(self, times: int) -> None:
        self.speed = times

    def closeEvent(self, event: QCloseEvent) -> None:
        self.timer.stop()
        self.post.close()
        super().closeEvent(event)


def dressed() -> None:
    """Give the program its look, as the desktop asks for it."""
    from PySide6.QtWidgets import QApplication

    LOOK.colours = DARK if prefers_dark() else LIGHT
    app = QApplication.instance()
    assert isinstance(app, QApplication)
    app.setPalette(palette(LOOK.colours))
    app.setStyleSheet(style_sheet(LOOK))


def started(cutter: Cutter, path: object, *, unit: Unit = Unit.MM, speed: int = 1) -> CutterWindow:
    """A window for a cutter that listens at a path.

    Raises:
        OSError: it cannot listen there.
    """
    from pathlib import Path

    return CutterWindow(cutter, Post(Speaker(cutter), Path(str(path))), unit=unit, speed=speed)
