"""The window: rail, station, tally, working line; where keys, links and what the shelf asks for lead to.

What an open job needs (numbers, geometry, stations, the tally) is loaded when there is one: the shelf is painted without it.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QEvent, QObject, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import QApplication, QFrame, QHBoxLayout, QLineEdit, QMainWindow, QStackedWidget, QVBoxLayout, QWidget
from shiboken6 import isValid

from omnipel.bench.commands.desk import Command
from omnipel.bench.commands.dress import put_on, read_dress
from omnipel.bench.commands.registry import all_commands, later
from omnipel.bench.commands.units import shop_unit
from omnipel.bench.parts.focusorder import step
from omnipel.bench.parts.heard import tell_roles
from omnipel.bench.parts.widgets import Elided, StateMark, button, row
from omnipel.bench.session import Session
from omnipel.bench.sharing import Sweeper
from omnipel.bench.speech import say
from omnipel.bench.stations import STATIONS
from omnipel.bench.stations.shelf.station import Shelf
from omnipel.bench.window.menu import menu_of
from omnipel.bench.window.place import ANEW, SETTING, place_of
from omnipel.bench.window.rail import Rail
from omnipel.bench.window.workingline import WorkingLine
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, term, tr, trn
from omnipel.core.words.refs import Of, Ref
from omnipel.work.requests import WANTED

if TYPE_CHECKING:
    from omnipel.bench.window.tally import Tally


class Window(QMainWindow):
    """The bench."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        tell_roles()
        self.session: Session = session
        read_dress(session.store)
        session.home_unit = shop_unit(session.store)
        self.commands: Sequence[Command] = all_commands()
        self.setMinimumSize(640, 480)
        self.rail, self.working, self.sweeper = Rail(), WorkingLine(session), Sweeper(session.pace)
        self.made_tally: Tally | None = None
        self.ahead: list[str] = []
        self.back_to: tuple[int | None, str] = (None, "")
        self.unprepared = False
        self.stack = QStackedWidget()
        self.shelf = Shelf(session)
        self.stack.addWidget(self.shelf)
        self.stations, self.here = dict[str, Any](shelf=self.shelf), "shelf"
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
        self.top = top = QHBoxLayout()
        top.setSpacing(0)
        top.addWidget(self.rail)
        top.addLayout(middle, 1)
        whole = QVBoxLayout(ground)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addLayout(top, 1)
        whole.addWidget(self.working)
        self.setCentralWidget(ground)
        self._wire()
        put_on()
        self.session.opened.emit()
        self.show_station("shelf")

    def _wire(self) -> None:
        self.rail.chosen.connect(self.show_station)
        self.rail.menu.connect(self.show_menu)
        self.shelf.wants.connect(self.shelf_wants)
        self.shelf.dropped.connect(lambda paths: later("jobs:bring_in")(self, [Path(p) for p in paths]))
        self.session.drafted.connect(self.refresh)
        self.session.advised.connect(self._advised)
        self.session.cloth.laid.connect(self._rail)
        self.session.opened.connect(self._opened)
        self.session.go.connect(self.go_to)
        self.own_keys = [QKeySequence(command.keys) for command in self.commands if command.keys]
        self.undo_keys = [QKeySequence("Ctrl+Z"), QKeySequence("Ctrl+Shift+Z")]
        self.filtered: QWidget | None = None
        self.wanted = list(WANTED)
        self.loading = QTimer(self, interval=10)
        self.loading.timeout.connect(self._load)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.focusChanged.connect(self._listen)
        for command in self.commands:
            action = QAction(say(command.words), self)
            if command.keys:
                action.setShortcuts([QKeySequence(command.keys), *([QKeySequence("Ctrl+=")] if command.id == "larger" else [])])
            action.triggered.connect(lambda _checked=False, c=command: c.when(self) and c.run(self))
            self.addAction(action)

    def _listen(self, old: QWidget | None, now: QWidget | None) -> None:
        """Listen to the keys of what has the focus, and only of that."""
        if self.filtered is not None and isValid(self.filtered):
            self.filtered.removeEventFilter(self)
        self.filtered = now if now is not None and self.isAncestorOf(now) else None
        if self.filtered is not None:
            self.filtered.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Our keys are ours also while a line has the focus; only undo of what is just being typed is left to the line."""
        if event.type() == QEvent.Type.KeyPress:
            self.session.pace.busy()
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and self.isActiveWindow():
            typed = QKeySequence(event.keyCombination())
            typing = isinstance(watched, QLineEdit) and watched.isModified() and watched.isUndoAvailable()
            if any(typed == key for key in self.own_keys) and not (typing and typed in self.undo_keys):
                event.ignore()
                return True
        return super().eventFilter(watched, event)

    def focusNextPrevChild(self, on: bool) -> bool:
        """The station in the order of its work, then what it comes to, then where else one may go."""
        here: Any = self.stack.currentWidget()  # a station
        groups = [*(here.walks if here is not None else ()), here, self.made_tally, self.working, self.head, self.rail]
        return step(self, [group for group in groups if group is not None], on=on) or super().focusNextPrevChild(on)

    # Showing

    @property
    def widget(self) -> QWidget:
        """What dialogs stand before."""
        return self

    @property
    def tally(self) -> Tally:
        """What the draft comes to; made with the first job that is opened."""
        if self.made_tally is None:
            from omnipel.bench.window.tally import Tally  # with it come numbers and geometry

            self.made_tally = Tally(self.session)
            self.made_tally.sewing.planned.connect(self._rail)
            self.made_tally.hide()
            self.top.addWidget(self.made_tally)
        return self.made_tally

    def station(self, key: str) -> Any:
        """A station, made when it is first shown."""
        if key not in self.stations:
            made = STATIONS[key].made(self.session)
            self.stations[key] = made
            self.stack.addWidget(made)
        return self.stations[key]

    def show_station(self, key: str) -> None:
        """Walk to a station."""
        if key != "shelf" and self.session.job is None:
            self.session.say("note", tr("Open a job first."))
            return
        if key != self.here:
            self.working.hint(at_shelf=key == "shelf")  # what was said belonged to the station before
        self.here = key
        self.session.pace.busy()  # the station is painted before anything is begun behind the window
        station, focused = self.station(key), QApplication.focusWidget()
        if focused is not None and self.stack.isAncestorOf(focused):
            focused.clearFocus()  # else the toolkit looks for what comes next in all the window, before the station says what has it
        self.stack.setCurrentWidget(station)
        self._frame()
        station.enter()
        if key != "shelf" and not self.ahead:
            self.ahead = [name for name in STATIONS if name not in self.stations]
            self.wanted += [STATIONS[name].module for name in self.ahead if STATIONS[name].module]
            self.loading.start()

    def _opened(self) -> None:
        """Another job (or none) is open: nothing has moved, and no number is pointed at."""
        if self.made_tally is not None:
            self.made_tally.forget()
        self.working.hint(at_shelf=self.here == "shelf")
        self.unprepared = True
        self.loading.start()
        self._frame()

    def _advised(self) -> None:
        """The remedies have been tried."""
        if self.session.job is not None:
            self.tally.refresh()

    def refresh(self) -> None:
        """The job changed: redraw what is on screen."""
        self._frame()
        if self.session.job is not None or self.here == "shelf":
            self.stations[self.here].refresh()
        self.working.refresh()

    def _rail(self) -> None:
        if self.session.draft is not None:
            self.rail.show_state(self.here, *self.tally.sewing.standing)

    def _frame(self) -> None:
        """Rail, head and tally."""
        draft, job = self.session.draft, self.session.job
        if job is not None or self.made_tally is not None:
            self.tally.stand(self.here if job is not None else "shelf")
        self.head.setVisible(job is not None and self.here != "shelf")
        self._banner()
        if draft is None:
            self.rail.show_state(self.here, None)
        if job is not None and draft is not None:
            from omnipel.core.finishing.rounding import roundings  # loaded with the job

            self._rail()
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
            self.run_command(f"export-{ref.id or 'pdf'}")
            return
        if ref.of in (Of.DELETED, Of.READABLE):
            later("jobs:bring_back" if ref.of is Of.DELETED else "jobs:go_back_to_readable")(self, int(ref.id))
            return
        if self.session.job is None:
            self.session.say("note", tr("Open a job first."))
            return
        from omnipel.core.standing import station_of  # loaded with the job

        if ref.of is Of.FIT:
            self.tally.point_at_tightest()
            ref = refs.CLEARANCE
        key = station_of(ref)
        if key != self.here:
            self.show_station(key)
        self.stations[key].go_to(ref)

    # Commands

    def run_command(self, key: str) -> None:
        """Run a command by its id."""
        command = next(c for c in self.commands if c.id == key)
        if command.when(self):
            command.run(self)

    def show_menu(self) -> None:
        """Every command that can be run now."""
        menu = menu_of(self)
        menu.popup(self.rail.menu_button.mapToGlobal(self.rail.menu_button.rect().topRight()))

    def shelf_wants(self, what: str) -> None:
        """What the shelf asks for."""
        kind, _, key = what.partition(":")
        wanted: dict[str, Callable[[], object]] = {
            "next": lambda: later("goto:go_to_next")(self),
            "sample": lambda: later("jobs:add_samples")(self),
            "duplicate": lambda: later("jobs:duplicate")(self, int(key)),
            "delete": lambda: later("jobs:delete")(self, int(key)),
            "document": lambda: later("jobs:write_document")(self, int(key)),
            "card": lambda: later("jobs:new_from_card")(self),
            "new": lambda: self.run_command("new"),
            "import": lambda: self.run_command("import"),
        }
        wanted[kind]()

    def restyle(self) -> None:
        """The look changed: measure and paint everything again."""
        for part in (self.rail, self.working, self.shelf):
            part.rescale()
        if self.made_tally is not None:
            self.made_tally.rescale()
        for widget in self.findChildren(QWidget):
            if isinstance(widget, StateMark):
                widget.rescale()
            widget.updateGeometry()
        self.refresh()
        self.update()

    def closeEvent(self, event: QCloseEvent) -> None:
        focused = QApplication.focusWidget()
        if focused is not None:
            focused.clearFocus()  # a field that is being typed into keeps what it holds
        self.session.save_waiting()
        if self.session.unsaved and not later("jobs:may_lose")(self):
            event.ignore()
            return
        if self.session.store.writable:
            self.session.keep_setting(SETTING, place_of(self))
        self.shelf.save_kept()
        self.loading.stop()
        self.session.rest()
        self.sweeper.end()
        self.session.store.close()
        super().closeEvent(event)

    def leave(self, code: int) -> None:
        """The program has been told to end: keep what can be kept, and go without asking."""
        self.session.save_waiting()
        self.session.unsaved = []
        self.close()
        QApplication.exit(code)

    def open_anew(self) -> None:
        """Close this window; whoever started it opens another at the same place."""
        self.back_to = self.session.key, self.here
        if self.close():
            QApplication.exit(ANEW)

    def _load(self) -> None:
        """Load the next piece of what a job needs, when nobody types or has a lay searched. Here and not behind the window: two threads that
        load the same libraries may each see the other's half-made ones."""
        if self.session.pace.typing or self.session.cloth.search is not None:
            return
        if self.wanted:
            import_module(self.wanted.pop(0))
            return
        self.session.pace.loaded = True
        if self.ahead:  # a station that will be walked to is made before, one in each pause
            self.station(self.ahead.pop(0))
            self.session.pace.busy()
            return
        cover = self.stations.get("cover")
        if self.unprepared and cover is not None and self.session.job is not None and self.here != "cover" and cover.prepare():
            return
        self.unprepared = False
        self.loading.stop()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self.session.pace.busy()  # first the window is painted
        QTimer.singleShot(0, self, self._first_focus)

    def _first_focus(self) -> None:
        """Once the window is there: to what the shelf asks first; and what a job needs is loaded meanwhile."""
        self.loading.start()
        if QApplication.focusWidget() is None and self.here == "shelf":
            self.shelf.take_focus()
