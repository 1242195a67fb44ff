"""The window: rail, station, tally, working line; and what the commands do."""

from html import escape
from pathlib import Path
from typing import Any

import shiboken6
from PySide6.QtCore import QEvent, QObject, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QDialog,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QInputDialog,
    QLineEdit,
    QMainWindow,
    QMenu,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from omnipel.bench.commands import COMMANDS
from omnipel.bench.goto import PickDialog, goals
from omnipel.bench.habits import HabitsDialog, RoundingDialog, local_unit, shop_habits
from omnipel.bench.look import DARK, LIGHT, LOOK, palette, prefers_dark, style_sheet
from omnipel.bench.papers import PapersDialog
from omnipel.bench.parts import Elided, button, row
from omnipel.bench.rail import Rail
from omnipel.bench.session import Session
from omnipel.bench.shelf import Shelf
from omnipel.bench.speech import say
from omnipel.bench.stations import made as make_station
from omnipel.bench.tally import Tally
from omnipel.bench.workingline import HINT, WorkingLine
from omnipel.core.covers import schemes_for
from omnipel.core.covers.rounding import rounded, roundings
from omnipel.core.draft import Drafted
from omnipel.core.fit.going_on import Fit
from omnipel.core.forms import FORMS
from omnipel.core.standing import next_step, states, station_of
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import NOTHING, Name, Phrase, Share, listed, term, tr, trn
from omnipel.core.words.units import NEXT_UNIT, Unit
from omnipel.shop.document import SUFFIX, DocumentError, file_name, read, write
from omnipel.shop.starter import plausible, starter
from omnipel.shop.store import Store, StoreError


class Window(QMainWindow):
    """The bench."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session: Session = session
        self.setMinimumSize(900, 600)
        self.rail, self.tally, self.working = Rail(), Tally(session), WorkingLine(session)
        self.stack = QStackedWidget()
        self.shelf = Shelf(session)
        self.stack.addWidget(self.shelf)
        self.stations: dict[str, Any] = {"shelf": self.shelf}
        self.here = "shelf"
        self.title = Elided("head")
        self.unit_button = button(NOTHING, self.flip_unit, "quiet", tip=Name("Ctrl+U"))
        self.round_button = button(tr("≈ Round…"), self.round_chosen, tip=tr("Round everything chosen (Ctrl+R)"))
        self.banner = button(NOTHING, self.try_writing, "look")
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
        self._read_settings()
        self.session.opened.emit()
        self.show_station("shelf")

    def _wire(self) -> None:
        self.rail.chosen.connect(self.show_station)
        self.rail.menu.connect(self.show_menu)
        self.shelf.wants.connect(self.shelf_wants)
        self.shelf.dropped.connect(lambda paths: self.bring_in([Path(p) for p in paths]))
        self.session.drafted.connect(self.refresh)
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

    def _read_settings(self) -> None:
        self.session.home_unit = self.shop_unit()
        LOOK.scale = float(self.session.store.setting("text scale", "1.0"))
        dark = self.session.store.setting("dark", "desktop")
        self.set_dark(prefers_dark() if dark == "desktop" else dark == "yes")

    # Showing

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

    def go_to(self, path: str) -> None:
        """Show the place of the job that a path leads to."""
        if path in ("papers", "tape-card"):
            (self.papers if path == "papers" else self.ask_tape_card)()
            return
        if path == "fit":
            draft = self.session.draft
            if isinstance(draft, Drafted) and isinstance(draft.fit, Fit):
                self.session.point(tr("left at the tightest"), draft.fit.tightest.slack)
            path = "cover.clearance.amount"
        key = station_of(path)
        if key != self.here:
            self.show_station(key)
        self.stations[key].go_to(path.removeprefix("readings."))

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
        if kind == "next" and self.session.draft is not None:
            self.show_station(station_of(next_step(self.session.draft).where))
        elif kind == "sample":
            self.add_samples()
        elif kind == "duplicate":
            job = self.session.store.job(int(key))
            from dataclasses import replace

            self.session.add(replace(job, name=say(tr("{job}, copy", job=Name(job.name)))[:120]), tr("duplicated"))
            self.show_station("object")
        elif kind == "delete":
            self.delete(int(key))
        elif kind == "card":
            self.new_from_card()
        elif kind in ("new", "import"):
            self.run_command(kind)

    def delete(self, key: int) -> None:
        """Take a job off the shelf; the banner brings it back."""
        name = self.session.store.job(key).name
        self.session.store.delete(key)
        if self.session.key == key:
            self.session.close_job()
        self.shelf.refresh()
        self.working.text.setText(
            f"{escape(say(tr('{job} is deleted.', job=Name(name))))} "
            f'<a href="undelete.{key}" style="color:{LOOK.colours.accent}">{escape(say(tr("Bring it back")))}</a>'
        )
        self.session.go.disconnect(self.go_to)
        self.session.go.connect(self._undelete_or_go)

    def _undelete_or_go(self, path: str) -> None:
        self.session.go.disconnect(self._undelete_or_go)
        self.session.go.connect(self.go_to)
        if path.startswith("undelete."):
            self.session.store.delete(int(path.partition(".")[2]), False)
            self.shelf.refresh()
            self.session.say("fine", tr("It is back."))
        else:
            self.go_to(path)

    def add_samples(self) -> None:
        """Put the sample jobs into an empty shop, to look round."""
        from omnipel.shop.sample import SAMPLES

        for sample in SAMPLES:
            self.session.store.add(sample(), say(tr("sample job")))
        self.show_station("shelf")

    def new_job(self) -> None:
        """A new job without readings; the Object station asks what it is."""
        if self._begin(next(iter(FORMS))):
            self.show_station("object")

    def _begin(self, form: str) -> bool:
        """Put an empty job for a form into the shop, in the unit and with the habits of this shop, and open it."""
        unit = self.shop_unit()
        names = {card.job.name for card in self.session.store.cards(archived=True)}
        first = say(tr("New cover"))
        name = next(n for n in (first, *(f"{first} {i}" for i in range(2, 9999))) if n not in names)
        scheme = schemes_for(FORMS[form])[0].key
        habits = shop_habits(self.session.store, System.of(unit))
        job = starter(form, scheme, unit, name=name, with_readings=False, habits=habits)
        return self.session.add(job, tr("new job")) is not None

    def shop_unit(self) -> Unit:
        """The unit new jobs begin in: what was asked at first start, else what the desktop's country measures in."""
        return Unit(self.session.store.setting("unit", local_unit().value))

    def new_from_card(self) -> None:
        """A job to be filled from a tape card: which form, then all readings in one go."""
        entries: list[tuple[str, object]] = [(say(form.words), key) for key, form in FORMS.items()]
        dialog = PickDialog(self, tr("What was measured?"), entries)
        if dialog.exec() == QDialog.DialogCode.Accepted and isinstance(dialog.picked, str) and self._begin(dialog.picked):
            self.type_card()

    def type_card(self) -> None:
        """To the line that takes readings by their letters."""
        self.show_station("tape")
        self.station("tape").focus_card()

    def round_chosen(self) -> None:
        """Show what would change, and round it as one step that can be undone."""
        job = self.session.open_job
        found = roundings(job)
        if not found:
            self.session.say("note", tr("Everything chosen is round already."))
            return
        dialog = RoundingDialog(self, self.session, found)
        if dialog.exec() == QDialog.DialogCode.Accepted:
            self.session.apply(rounded(job), tr("everything chosen rounded"))

    def edit_habits(self) -> None:
        """What this shop starts from."""
        HabitsDialog(self, self.session, System.of(self.session.unit if self.session.job else self.shop_unit())).exec()

    def rename(self) -> None:
        """Ask for another name."""
        name, done = QInputDialog.getText(
            self, say(tr("Rename")), say(tr("Name of the job")), QLineEdit.EchoMode.Normal, self.session.open_job.name
        )
        if done and name.strip():
            self.session.set("name", name.strip()[:120], tr("named {name}", name=Name(name.strip())))

    def flip_unit(self) -> None:
        """The next unit for this job. No size changes; what is not round in it shows an ≈ and can be rounded."""
        job = self.session.open_job
        unit = NEXT_UNIT[job.unit]
        self.session.set("unit", unit, tr("unit: {unit}", unit=term(unit.label)))

    def go_to_anything(self) -> None:
        """Type a part of a name and be there."""
        dialog = PickDialog(self, tr("Go to anything"), goals(self))
        if dialog.exec() == QDialog.DialogCode.Accepted and isinstance(dialog.picked, tuple):
            kind, value = dialog.picked
            if kind == "command":
                self.run_command(value)
            elif kind == "job":
                self.session.open(value)
                self.shelf_wants("next")
            elif kind == "size":
                self.show_station("panels")
                self.station("panels").set_by_hand(value)
            else:
                self.go_to(value)

    def show_history(self) -> None:
        """All changes of the job; the chosen one is gone back (or forward) to."""
        if self.session.key is None:
            return
        revisions, position = self.session.store.history(self.session.key)
        entries: list[tuple[str, object]] = [
            (f"{'▸ ' if r.number == position else ''}{r.reason}   {r.made[11:16]}", r.number) for r in reversed(revisions)
        ]
        dialog = PickDialog(self, tr("History of changes"), entries, current=len(revisions) - position)
        if dialog.exec() == QDialog.DialogCode.Accepted and isinstance(dialog.picked, int):
            self.session.go_to_revision(dialog.picked)

    def papers(self) -> None:
        """Write the full-size pattern with its cutting sheet."""
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            self.session.say("look", tr("There are no panels to print yet."))
            return
        dialog = PapersDialog(self, draft.stops)
        if dialog.exec() == QDialog.DialogCode.Accepted:
            self.write_pattern(dialog.path(), dialog.paper())

    def write_pattern(self, path: Path, paper: str) -> None:
        """Write the pattern as PDF, or as SVG when the name says so."""
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            return
        try:
            if path.suffix.lower() == ".svg":
                from omnipel.exchange.svg import svg

                path.write_text(svg(draft, self.session.voice), encoding="utf-8")
            else:
                from omnipel.exchange.pattern import pattern_pdf

                path.write_bytes(pattern_pdf(draft, paper, self.session.voice))
        except OSError as error:
            self._not_written(path, error)
            return
        self.session.say("fine", tr("Written: {path}. Print at 100 % and measure the test square first.", path=Name(str(path))))

    def _not_written(self, path: Path, error: OSError) -> None:
        self.session.say(
            "stop", tr("Not written: {path}: {fault}", path=Name(str(path)), fault=Name(error.strerror or str(error)))
        )

    def ask_tape_card(self) -> None:
        """Ask where to, and write the blank tape card."""
        name = file_name(say(tr("{job} tape card", job=Name(self.session.open_job.name))), ".pdf")
        path, _ = QFileDialog.getSaveFileName(self, say(tr("Write the tape card")), name, f"{say(tr('Papers'))} (*.pdf)")
        if path:
            self.write_tape_card(Path(path))

    def write_tape_card(self, path: Path) -> None:
        """Write the blank tape card of the open job."""
        from omnipel.exchange.tape_card import tape_card

        job = self.session.open_job
        try:
            path.write_bytes(tape_card(job, plausible(job), self.session.places, voice=self.session.voice))
        except OSError as error:
            self._not_written(path, error)
            return
        self.session.say("fine", tr("Written: {path}. A pencil and the tape are all it needs.", path=Name(str(path))))

    def import_jobs(self) -> None:
        """Ask for job files and bring them in."""
        paths, _ = QFileDialog.getOpenFileNames(
            self, say(tr("Bring in job files")), "", f"{say(tr('Omnipel jobs'))} (*{SUFFIX} *.json)"
        )
        self.bring_in([Path(p) for p in paths])

    def bring_in(self, paths: list[Path]) -> None:
        """Bring job files in; what is no job is said, and the rest comes in all the same."""
        faults: list[Phrase] = []
        came = 0
        for path in paths:
            try:
                self.session.store.add(read(path), say(tr("brought in from {file}", file=Name(path.name))))
                came += 1
            except (DocumentError, StoreError) as error:
                faults.append(error.phrase)
        if came:
            self.show_station("shelf")
        if faults:
            self.session.say("stop", tr("Not brought in: {faults}", faults=listed(faults, "; ")))
        elif came:
            self.session.say("fine", trn("{n} job brought in.", "{n} jobs brought in.", came))

    def export_job(self) -> None:
        """Ask where to, and write the job's file."""
        job = self.session.open_job
        path, _ = QFileDialog.getSaveFileName(
            self, say(tr("Write the job file")), file_name(job.name, SUFFIX), f"{say(tr('Omnipel jobs'))} (*{SUFFIX})"
        )
        if path:
            try:
                write(job, Path(path))
                self.session.say("fine", tr("Written: {path}", path=Name(path)))
            except OSError as error:
                self._not_written(Path(path), error)

    def scale_text(self, by: float) -> None:
        """Larger or smaller text, 90 to 160 %."""
        self.set_scale(round(min(1.6, max(0.9, LOOK.scale + by)), 2))
        self._keep_setting("text scale", str(LOOK.scale))
        self.session.say("note", tr("Text at {scale}", scale=Share(LOOK.scale)))

    def set_scale(self, scale: float) -> None:
        """Text at a scale."""
        LOOK.scale = scale
        self.set_dark(LOOK.colours is DARK)

    def flip_dark(self) -> None:
        """Light to dark and back."""
        self.set_dark(LOOK.colours is LIGHT)
        self._keep_setting("dark", "yes" if LOOK.colours is DARK else "no")

    def set_dark(self, dark: bool) -> None:
        """Put on the light or the dark look."""
        LOOK.colours = DARK if dark else LIGHT
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.setPalette(palette(LOOK.colours))
            app.setStyleSheet(style_sheet(LOOK))
        for part in (self.rail, self.tally, self.working):
            part.rescale()
        self.tally.shown, self.tally.kinds = None, []
        for widget in self.findChildren(QWidget):
            widget.updateGeometry()
        self.refresh()
        self.update()

    def _keep_setting(self, name: str, value: str) -> None:
        if self.session.store.writable:
            self.session.store.set(name, value)

    def explain(self) -> None:
        """What the thing with the focus is for."""
        widget = QApplication.focusWidget()
        words = (widget.toolTip() or widget.accessibleDescription() or widget.accessibleName()) if widget else ""
        here = {
            "shelf": tr("Every job of the shop, as it stands. Enter opens one at its next step."),
            "object": tr("Say what the thing is and what sticks out; the sketch takes shape as you choose."),
            "tape": tr(
                "Take one reading after the other; repeat what matters. Lengths are written as on paper: {examples}.",
                examples=Name("12 5/8, 3'4 1/2, 31.8cm, 2x14 3/8, girth/2, 31*pi"),
            ),
            "cover": tr("Decide how the cover is cut, how much larger it is, and how its edges are finished."),
            "panels": tr(
                "What is to be cut, and both sides of every seam. Point at a number to see its sum; click an edge to see its seam."
            ),
        }[self.here]
        self.session.say("note", tr("{what}: {here}", what=Name(words), here=here) if words else here)

    def try_writing(self) -> None:
        """Another window may have been closed, or the disk freed, since."""
        if not self.session.store.writable:
            try:
                again = Store(self.session.store.path)
            except StoreError as error:
                self.session.say("stop", error.phrase)
                return
            old, self.session.store = self.session.store, again
            old.close()
            if again.writable:
                self.session.save_waiting()
            if self.session.key is not None and not self.session.unsaved:
                self.session.open(self.session.key)
            self.session.say(
                "fine" if again.writable else "look",
                tr("This window can change things now.") if again.writable else tr("Still open in another window."),
            )
        else:
            self.session.save_waiting()
        self.refresh()

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
