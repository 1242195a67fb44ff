"""The window: rail, station, tally, working line; where keys, links and what the shelf asks for lead to."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import Any

import shiboken6
from PySide6.QtCore import QEvent, QObject, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QMainWindow,
    QMenu,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from omnipel.bench.commands import jobs
from omnipel.bench.commands.desk import Command
from omnipel.bench.commands.dress import read_dress
from omnipel.bench.commands.goto import go_to_next
from omnipel.bench.commands.habits import shop_unit
from omnipel.bench.commands.registry import COMMANDS
from omnipel.bench.parts.widgets import Elided, button, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations import made as make_station
from omnipel.bench.stations.shelf import Shelf
from omnipel.bench.window.rail import Rail
from omnipel.bench.window.tally import Tally
from omnipel.bench.window.workingline import HINT, WorkingLine
from omnipel.core.covers.rounding import roundings
from omnipel.core.draft import Drafted
from omnipel.core.fit.going_on import Fit
from omnipel.core.standing import states, station_of
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, term, tr, trn
from omnipel.core.words.refs import Of, Ref


class Window(QMainWindow):
    """The bench."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session: Session = session
        self.commands: Sequence[Command] = COMMANDS
        self.setMinimumSize(900, 600)
        self.rail, self.tally, self.working = Rail(), Tally(session), WorkingLine(session)
        self.stack = QStackedWidget()
        self.shelf = Shelf(session)
        self.stack.addWidget(self.shelf)
        self.stations: dict[str, Any] = {"shelf": self.shelf}
        self.here = "shelf"
        self.title = Elided("head")
        self.unit_button = button(NOTHING, partial(self.run_command, "unit"), "quiet", tip=Name("Ctrl+U"))
        self.round_button = button(tr("≈ Round…"), partial(self.run_command, "round"), tip=tr("Round everything chosen (Ctrl+R)"))
        self.banner = button(NOTHING, session.try_writing, "look")
        self.banner.hide()
        ground = QWidget()
        ground.setObjectName("ground")
        head = row(self.title, self.round_button, self.unit_button)
        head.setStretch(0, 1)
        head.setContentsMargins(16, 6, 16, 0)
        self.head = QFrame()
        self.head.setLayout(head)
        middle = QVBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self.banner)
        middle.addWidget(self.head)
        middle.addWidget(self.stack, 1)
        top = QHBoxLayout()
        top.setSpacing(0)
        top.addWidget(self.rail)
        top.addLayout(middle, 1)
        top.addWidget(self.tally)
        whole = QVBoxLayout(ground)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addLayout(top, 1)
        whole.addWidget(self.working)
        self.setCentralWidget(ground)
        self._wire()
        session.home_unit = shop_unit(session.store)
        read_dress(self)
        self.session.opened.emit()
        self.show_station("shelf")

    def _wire(self) -> None:
        self.rail.chosen.connect(self.show_station)
        self.rail.menu.connect(self.show_menu)
        self.shelf.wants.connect(self.shelf_wants)
        self.shelf.dropped.connect(lambda paths: jobs.bring_in(self, [Path(p) for p in paths]))
        self.session.drafted.connect(self.refresh)
        self.session.advised.connect(self.tally.refresh)
        self.session.opened.connect(self._opened)
        self.session.go.connect(self.go_to)
        self.own_keys = [QKeySequence(command.keys) for command in COMMANDS if command.keys]
        self.undo_keys = [QKeySequence("Ctrl+Z"), QKeySequence("Ctrl+Shift+Z")]
        self.filtered: QWidget | None = None
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.focusChanged.connect(self._listen)
        for command in COMMANDS:
            action = QAction(say(command.words), self)
            if command.keys:
                action.setShortcuts([QKeySequence(command.keys), *([QKeySequence("Ctrl+=")] if command.id == "larger" else [])])
            action.triggered.connect(lambda _checked=False, c=command: c.when(self) and c.run(self))
            self.addAction(action)

    def _listen(self, old: QWidget | None, now: QWidget | None) -> None:
        """Listen to the keys of what has the focus, and only of that."""
        if self.filtered is not None and shiboken6.isValid(self.filtered):
            self.filtered.removeEventFilter(self)
        self.filtered = now if now is not None and self.isAncestorOf(now) else None
        if self.filtered is not None:
            self.filtered.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Our keys are ours also while a line has the focus; only undo of what is just being typed is left to the line."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and self.isActiveWindow():
            typed = QKeySequence(event.keyCombination())
            typing = isinstance(watched, QLineEdit) and watched.isModified() and watched.isUndoAvailable()
            if any(typed == key for key in self.own_keys) and not (typing and typed in self.undo_keys):
                event.ignore()
                return True
        return super().eventFilter(watched, event)

    # Showing

    @property
    def widget(self) -> QWidget:
        """What dialogs stand before."""
        return self

    def station(self, key: str) -> Any:
        """A station, made when it is first shown."""
        if key not in self.stations:
            made = make_station(key, self.session)
            self.stations[key] = made
            self.stack.addWidget(made)
        return self.stations[key]

    def show_station(self, key: str) -> None:
        """Walk to a station."""
        if key != "shelf" and self.session.job is None:
            self.session.say("note", tr("Open a job first."))
            return
        if key != self.here:
            self.working.say("note", say(HINT))  # what was said belonged to the station before
        self.here = key
        station = self.station(key)
        self.stack.setCurrentWidget(station)
        self._frame()
        station.enter()

    def _opened(self) -> None:
        """Another job (or none) is open: nothing has moved, and no number is pointed at."""
        for line in (self.tally.goes_on, self.tally.seams, self.tally.cloth):
            line.forget()
        self.working.say("note", say(HINT))
        self._frame()

    def refresh(self) -> None:
        """The job changed: redraw what is on screen."""
        self._frame()
        if self.session.job is not None or self.here == "shelf":
            self.stations[self.here].refresh()
        self.working.refresh()

    def _frame(self) -> None:
        """Rail, head and tally."""
        draft, job = self.session.draft, self.session.job
        self.tally.setVisible(job is not None and self.here != "shelf")
        self.head.setVisible(job is not None and self.here != "shelf")
        self.rail.show_state(self.here, states(draft) if draft else None)
        self._banner()
        if job is not None:
            owner = f"   {job.owner}" if job.owner else ""
            self.title.show_words(f"{job.name}{owner}")
            self.unit_button.setText(say(term(job.unit.label)))
            self.unit_button.setAccessibleName(say(tr("Unit: {unit}. Flip it", unit=term(job.unit.label))))
            self.round_button.setVisible(bool(roundings(job)))
            self.setWindowTitle(f"{job.name} · Omnipel")
            self.tally.refresh()
        else:
            self.setWindowTitle("Omnipel")

    def _banner(self) -> None:
        words = ""
        store = self.session.store
        if not store.writable and not store.unwritable:
            words = say(tr("This shop is open in another window: here you can look, not change. Press to try again."))
        elif store.unwritable and not self.session.unsaved:
            words = self.session.sentence(tr("{fault}: changes stay in memory. Press to try again.", fault=store.unwritable))
        elif self.session.unsaved:
            words = say(
                trn(
                    "{n} change not on disk yet, kept in memory. Press to try again.",
                    "{n} changes not on disk yet, kept in memory. Press to try again.",
                    len(self.session.unsaved),
                )
            )
        self.banner.setText(words)
        self.banner.setVisible(bool(words))

    def go_to(self, ref: Ref) -> None:
        """Show the place of the job that a reference means."""
        if ref.of is Of.PAPERS:
            self.run_command(ref.id or "papers")
            return
        if ref.of is Of.DELETED:
            jobs.bring_back(self, int(ref.id))
            return
        if ref.of is Of.FIT:
            draft = self.session.draft
            if isinstance(draft, Drafted) and isinstance(draft.fit, Fit):
                self.session.point(tr("left at the tightest"), draft.fit.tightest.slack)
            ref = refs.CLEARANCE
        key = station_of(ref)
        if key != self.here:
            self.show_station(key)
        self.stations[key].go_to(ref)

    # Commands

    def run_command(self, key: str) -> None:
        """Run a command by its id."""
        command = next(c for c in COMMANDS if c.id == key)
        if command.when(self):
            command.run(self)

    def show_menu(self) -> None:
        """Every command that can be run now."""
        menu = QMenu(self)
        for command in COMMANDS:
            action = menu.addAction(f"{say(command.words)}\t{command.keys}")
            action.triggered.connect(lambda _checked=False, c=command: c.run(self))
            action.setEnabled(command.when(self))
        menu.popup(self.rail.menu_button.mapToGlobal(self.rail.menu_button.rect().topRight()))

    def shelf_wants(self, what: str) -> None:
        """What the shelf asks for."""
        kind, _, key = what.partition(":")
        wanted: dict[str, Callable[[], object]] = {
            "next": lambda: go_to_next(self),
            "sample": lambda: jobs.add_samples(self),
            "duplicate": lambda: jobs.duplicate(self, int(key)),
            "delete": lambda: jobs.delete(self, int(key)),
            "card": lambda: jobs.new_from_card(self),
            "new": lambda: self.run_command("new"),
            "import": lambda: self.run_command("import"),
        }
        wanted[kind]()

    def restyle(self) -> None:
        """The look changed: measure and paint everything again."""
        for part in (self.rail, self.tally, self.working):
            part.rescale()
        self.tally.shown, self.tally.kinds = None, []
        for widget in self.findChildren(QWidget):
            widget.updateGeometry()
        self.refresh()
        self.update()

    def closeEvent(self, event: QCloseEvent) -> None:
        focused = QApplication.focusWidget()
        if focused is not None:
            focused.clearFocus()  # a field that is being typed into keeps what it holds
        self.session.save_waiting()
        self.session.store.close()
        super().closeEvent(event)

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        QTimer.singleShot(0, self, self._first_focus)

    def _first_focus(self) -> None:
        """Once the window is there: to what the shelf asks first."""
        if QApplication.focusWidget() is None and self.here == "shelf":
            self.shelf.take_focus()
