"""What the open job is written as: which export, on which paper, where to, and written."""

from dataclasses import replace
from datetime import datetime
from pathlib import Path
from typing import Final

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QFileDialog, QWidget

from omnipel.bench.commands.desk import Desk
from omnipel.bench.deliverer import while_there
from omnipel.bench.fitting import covers_of
from omnipel.bench.parts.asking import Question, answered, chosen, sized
from omnipel.bench.parts.dialog import Dialog, meaning
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.pages import Preview, printed
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.picture import PictureView
from omnipel.bench.parts.widgets import button, check, column, label, row, scrolled
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.speech import say
from omnipel.core.draft import Drafted
from omnipel.core.pictures.pens import PAPERS, at_home
from omnipel.core.words.phrases import Count, Name, tr, trn
from omnipel.exchange.asked import NotExported, Order
from omnipel.exchange.booklet import IN_BOOKLET, USUAL, part_words, possible
from omnipel.exchange.export import DESPITE_STOP, MANY, MANY_SHEETS, MOST, Export, exported
from omnipel.exchange.exports import EXPORTS
from omnipel.exchange.files.flat import flat, parts
from omnipel.shop.document import file_name
from omnipel.shop.machine import SETTING, machine_of
from omnipel.shop.photos import contents
from omnipel.shop.whole import NotWritten, write_whole

SOON_MS: Final = 200
"""What is looked at is made when nothing was chosen for so long."""
PRINTED: Final = 2
"""How the dialog ends when it was printed."""
OF_LOG = frozenset({"logbook", "log", "calendar", "travel", "book"})
"""What is written of a thing's whole logbook, or with its photos."""


ABOUT: Final = tr(
    "What is printed or written, on which paper, and how it will look. Every sheet is seen before it is made; what is full size stays full size."
)
MEANT: Final = {
    "what": tr("A paper, a table, or a file for another program. What is in it stands below, and at the right how it will look."),
    "choice": tr("How large the sheets of your printer are. The larger, the fewer; a roll takes as much as the pattern is long."),
    "of": tr("All panels, one of them, or what lies on a cloth, in its place."),
    "many": tr("So many sheets are only made once you say so. A larger paper, or chalk instead of templates, takes fewer."),
}
"""What its parts are for."""


class PapersDialog(Dialog):
    """What is written or printed: of what, on which paper, where to; with its sheets, or its drawing, as they will be."""

    def __init__(self, parent: QWidget, session: Session, export: Export) -> None:
        super().__init__(parent, tr("Papers"), ABOUT)
        self.session, self.export = session, export
        self.can = [e for e in EXPORTS.values() if e.possible(session.draft)]
        self.what = combo(tr("What is written"), [(e.words, e) for e in self.can], lambda _e: self._chosen())
        self.what.show_value(export)
        self.choice = combo(
            tr("Paper"), [(Name(session.tell(p.words)), name) for name, p in PAPERS.items()], lambda _p: self._shown()
        )
        self.on_paper = QWidget()
        self.on_paper.setLayout(row(label(tr("paper")), self.choice))
        known = parts(session.draft) if session.draft is not None else []
        self.of = combo(tr("Of what"), [(Name(session.tell(words)), key) for key, words in known], lambda _p: self._shown())
        self.of_what = QWidget()
        self.of_what.setLayout(row(label(tr("of")), self.of))
        self.ticked = {key: check(part_words(key), lambda _on: self._shown()) for key in IN_BOOKLET}
        for box in self.ticked.values():
            meaning(box, tr("Whether that part is in the booklet. Its first page says on which sheet each begins."))
        self.parts = QWidget()
        self.parts.setLayout(column(label(tr("what is in it"), "soft"), *self.ticked.values(), spacing=1))
        self.where = button(Name(""), self._ask, tip=tr("Choose another file"))
        self.about, self.sheets = label(wrap=True, name="soft"), label(wrap=True)
        self.warning = label(
            tr("A finding says: do not cut. Print it only to look at it; every sheet will say so."), "stop", wrap=True
        )
        self.many = check(tr("Yes, all of these sheets"), lambda _on: self._shown())
        for name, words in MEANT.items():
            meaning(getattr(self, name), words)
        self.write_it = button(tr("Write it"), self._accept)
        self.write_it.setDefault(True)
        self.print_it = button(tr("Print…"), self._print)
        self.preview, self.drawing = Preview(), PictureView(tr("What is written"))
        self.content: bytes | None = None
        self.asked_over: Path | None = None
        self.soon = QTimer(self)
        self.soon.setSingleShot(True)
        self.soon.timeout.connect(self._make)
        self.finished.connect(self._closed)
        self._lay_out()
        self.choice.show_value(at_home(session.unit))
        self._chosen()
        self.choice.setFocus()

    def _lay_out(self) -> None:
        """What is asked at the left, what comes of it at the right."""
        asked = column(
            row(label(tr("what")), self.what),
            self.about,
            self.warning,
            self.on_paper,
            self.of_what,
            self.parts,
            self.sheets,
            self.many,
            row(label(tr("file")), self.where),
            spacing=10,
        )
        asked.addStretch(1)
        holder = QWidget()
        holder.setLayout(asked)
        left = scrolled(holder)
        left.setFixedWidth(LOOK.px(390))
        body = row(left, self.preview, self.drawing, spacing=16)
        body.setStretch(1, 1)
        body.setStretch(2, 1)
        buttons = row(button(tr("Cancel"), self.reject), self.print_it, self.write_it)
        buttons.insertStretch(0, 1)
        whole = column(label(tr("Write on paper or to a file"), "title"), body, buttons, margins=16, spacing=12)
        whole.setStretch(1, 1)
        self.setLayout(whole)
        sized(self, 1000, 700)

    def _chosen(self) -> None:
        """Another export: its papers, its file."""
        self.export = self.what.value
        self.file = Path.home() / file_name(self._name(), self.export.suffix)
        self.about.setText(say(self.export.about))
        self.on_paper.setVisible(bool(self.export.papers))
        self.of_what.setVisible(self.export.in_parts and len(self.of.values) > 1)
        self.parts.setVisible(self.export.in_booklet)
        if self.export.in_booklet:
            for key, box in self.ticked.items():
                box.setVisible(self.session.draft is not None and possible(key, self.session.draft))
                box.setChecked(key in USUAL)
        self.many.setChecked(False)
        for i, name in enumerate(self.choice.values):
            self.choice.view().setRowHidden(i, name not in self.export.papers)  # type: ignore[attr-defined]
        if self.export.papers and self.choice.value not in self.export.papers:
            self.choice.show_value(at_home(self.session.unit))
        self._shown()

    def _name(self) -> str:
        job = self.session.open_job.name
        return job if self.export.id in ("pdf", "svg") else say(tr("{job}, {export}", job=Name(job), export=self.export.words))

    def _shown(self) -> None:
        """Say how many sheets, and whether it may be written; then make it, to be looked at."""
        stops = self.export.needs_panels and bool(self.session.draft and self.session.draft.stops)
        self.warning.setVisible(stops)
        count = self.count()
        self._tell(count)
        self.many.setVisible(MANY < count <= MOST)
        may = (count <= MANY or (count <= MOST and self.many.isChecked())) and not self._nothing_ticked
        self.write_it.setEnabled(may)
        self.write_it.setText(say(tr("Write it, to look at") if stops else tr("Write it")))
        self.write_it.setObjectName("" if stops else "main")
        self.print_it.setVisible(bool(self.export.papers))
        self.print_it.setEnabled(False)
        self.where.setText(self.where.fontMetrics().elidedText(str(self.file), Qt.TextElideMode.ElideMiddle, LOOK.px(290)))
        self.where.setAccessibleName(str(self.file))
        self.where.setToolTip(str(self.file))
        self.content = None
        self.preview.setVisible(bool(self.export.papers))
        self.drawing.setVisible(self.export.in_parts)
        self.session.works.forget("papers")
        if self.export.in_parts and isinstance(self.session.draft, Drafted):
            whole = flat(self.session.draft, self.session.voice, self.of.value or "")
            self.drawing.fitted = True
            self.drawing.set_drawing(whole.drawing)
        self.soon.stop()
        if self.export.papers and may:
            self.soon.start(SOON_MS)
        elif self.export.papers:
            self.preview.show_file(None)

    def _tell(self, count: int) -> None:
        """How many sheets that is."""
        words = trn("That is {n} sheet.", "That is {n} sheets.", count)
        if count > MANY:
            words = trn(
                "That is {n} sheet. A larger paper takes fewer.", "That is {n} sheets. A larger paper takes fewer.", count
            )
        if count > MOST:
            words = tr("{words} More than {most} are not made.", words=words, most=Count(MOST))
        if not count and self.export.papers:
            words = tr("The sheets are being made.")
        if self._nothing_ticked:
            words = tr("Tick what is to be in it.")
        self.sheets.setText(say(words))
        self.sheets.setVisible(bool(self.export.papers))

    @property
    def _nothing_ticked(self) -> bool:
        return self.export.in_booklet and not self._parts()

    def _parts(self) -> tuple[str, ...]:
        """What is ticked to be in the booklet."""
        return tuple(key for key, box in self.ticked.items() if box.isChecked() and not box.isHidden())

    def _make(self) -> None:
        """Make the file behind the window; it is written and printed as it is seen."""
        order, export, agreed = self.order(), self.export, [DESPITE_STOP, MANY_SHEETS]
        self.session.works.ask(
            "papers",
            lambda asked: exported(export, asked, *agreed),
            order,
            while_there(self, self._made),
            while_there(self, self._failed),
        )

    def _made(self, content: bytes) -> None:
        self.content = content
        self.preview.show_file(content)
        self.print_it.setEnabled(True)
        assert self.preview.sheets is not None
        if not self.count():
            self._tell(self.preview.sheets.count)

    def _failed(self, error: Exception) -> None:
        if isinstance(error, NotExported):
            self.sheets.setText(self.session.sentence(error.phrase))
        else:
            self.session.fault(error)

    def _print(self) -> None:
        """Ask the desktop's own dialog for a printer, and print."""
        from PySide6.QtPrintSupport import QPrintDialog, QPrinter

        assert self.content is not None
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setDocName(self.file.stem)
        dialog = QPrintDialog(printer, self)
        dialog.setOption(QPrintDialog.PrintDialogOption.PrintPageRange, on=True)
        dialog.setMinMax(1, self.preview.small.count())
        with chosen(dialog) as yes:
            if yes:
                count = printed(printer, self.content)
                self.session.say("fine", trn("{n} sheet went to the printer.", "{n} sheets went to the printer.", count))
                self.done(PRINTED)

    def _closed(self) -> None:
        self.soon.stop()
        self.session.works.forget("papers")
        self.preview.close_file()

    def count(self) -> int:
        """So many sheets."""
        return self.export.sheets(self.order()) if self.export.sheets is not None else 0

    def paper(self) -> str:
        """Which paper."""
        return str(self.choice.value)

    def order(self) -> Order:
        """What is to be written."""
        assert self.session.draft is not None
        session, store = self.session, self.session.store
        others = covers_of(session) if self.export.id in OF_LOG else ()
        photos = (
            {d: b for job in (session.open_job, *others) for d, b in contents(store, job).items()}
            if self.export.id in OF_LOG
            else {}
        )
        stock, person, now = session.cloth.stock, sewing_of(session).person, datetime.now().astimezone()
        order = Order(self.session.draft, session.voice, self.paper(), stock, person, others, photos, made=now)
        machine = machine_of(session.store.setting(SETTING, ""))
        of = str(self.of.value or "") if self.export.in_parts else ""
        return replace(order, of=of, machine=machine, parts=self._parts() if self.export.in_booklet else ())

    def _ask(self) -> None:
        pattern = f"{say(self.export.kind)} (*{self.export.suffix})"
        path, _ = QFileDialog.getSaveFileName(self, say(tr("Where to")), str(self.file), pattern)
        if path:
            self.file = self.asked_over = Path(path)  # the desktop's own dialog has asked about what is there
            self._shown()

    def _accept(self) -> None:
        if self.file.exists() and self.file != self.asked_over:
            there = tr("{file} is there already.", file=Name(self.file.name))
            if answered(self, Question(there, tr("Write over it"), tr("Choose another file"))) != 0:
                self._ask()
                if self.file != self.asked_over:
                    return
        self.accept()


def ask_export(desk: Desk, key: str = "pdf") -> None:
    """Ask on which paper and where to, and write it."""
    session, export = desk.session, EXPORTS[key]
    session.try_all()
    if not export.possible(session.draft):
        session.say("look", tr("There are no panels to print yet."))
        return
    dialog = PapersDialog(desk.widget, session, export)
    with chosen(dialog) as yes:
        if yes:
            write_export(session, dialog.export, dialog.file, dialog.order(), *([MANY_SHEETS] if dialog.many.isChecked() else []))


def write_export(session: Session, export: Export, path: Path, order: Order, *said: str) -> None:
    """Write an export of the open job; a person has seen whether a finding says stop."""
    try:
        write_whole(path, exported(export, order, DESPITE_STOP, *said))
    except NotExported as error:
        session.say("look", tr("Not written: {fault}", fault=error.phrase))
    except NotWritten as error:
        session.not_written(error)
    else:
        session.say("fine", tr("Written: {path}. {next}", path=Name(str(path)), next=export.next))
