"""What the open job is written as: which export, on which paper, where to, and written."""

from pathlib import Path

from PySide6.QtWidgets import QDialog, QFileDialog, QWidget

from omnipel.bench.commands.desk import Desk
from omnipel.bench.fitting import covers_of
from omnipel.bench.parts.asking import Question, answered, chosen
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.widgets import button, check, column, label, row
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.speech import say
from omnipel.core.pictures.pens import PAPERS, at_home
from omnipel.core.words.phrases import Count, Name, tr, trn
from omnipel.exchange.asked import NotExported, Order
from omnipel.exchange.exports import DESPITE_STOP, EXPORTS, MANY, MANY_SHEETS, MOST, Export, exported
from omnipel.shop.document import file_name
from omnipel.shop.photos import contents
from omnipel.shop.whole import NotWritten, write_whole

OF_LOG = frozenset({"logbook", "log", "calendar", "travel"})
"""What is written of a thing's whole logbook, or with its photos."""


class PapersDialog(QDialog):
    """What is written, on which paper, and where to."""

    def __init__(self, parent: QWidget, session: Session, export: Export) -> None:
        super().__init__(parent)
        self.session, self.export = session, export
        self.setWindowTitle(say(tr("Papers")))
        self.can = [e for e in EXPORTS.values() if e.possible(session.draft)]
        self.what = combo(tr("What is written"), [(e.words, e) for e in self.can], lambda _e: self._chosen())
        self.what.show_value(export)
        self.choice = combo(
            tr("Paper"), [(Name(session.tell(p.words)), name) for name, p in PAPERS.items()], lambda _p: self._shown()
        )
        self.on_paper = QWidget()
        self.on_paper.setLayout(row(label(tr("paper")), self.choice))
        self.where = button(Name(""), self._ask, tip=tr("Choose another file"))
        self.about, self.sheets = label(wrap=True, name="soft"), label(wrap=True)
        self.warning = label(
            tr("A finding says: do not cut. Print it only to look at it; every sheet will say so."), "stop", wrap=True
        )
        self.many = check(tr("Yes, all of these sheets"), lambda _on: self._shown())
        self.write_it = button(tr("Write it"), self._accept)
        self.write_it.setDefault(True)
        buttons = row(button(tr("Cancel"), self.reject), self.write_it)
        buttons.insertStretch(0, 1)
        layout = column(
            label(tr("Write on paper or to a file"), "title"),
            row(label(tr("what")), self.what),
            self.about,
            self.warning,
            self.on_paper,
            self.sheets,
            self.many,
            row(label(tr("file")), self.where),
            buttons,
            margins=16,
            spacing=12,
        )
        self.setLayout(layout)
        self.setMinimumWidth(LOOK.px(520))
        self.asked_over: Path | None = None
        self.choice.show_value(at_home(session.unit))
        self._chosen()
        self.choice.setFocus()

    def _chosen(self) -> None:
        """Another export: its papers, its file."""
        self.export = self.what.value
        self.file = Path.home() / file_name(self._name(), self.export.suffix)
        self.about.setText(say(self.export.about))
        self.on_paper.setVisible(bool(self.export.papers))
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
        """Say how many sheets, and whether it may be written."""
        stops = self.export.needs_panels and bool(self.session.draft and self.session.draft.stops)
        self.warning.setVisible(stops)
        count = self.count()
        words = trn("That is {n} sheet.", "That is {n} sheets.", count)
        if count > MANY:
            words = trn(
                "That is {n} sheet. A larger paper takes fewer.", "That is {n} sheets. A larger paper takes fewer.", count
            )
        if count > MOST:
            words = tr("{words} More than {most} are not made.", words=words, most=Count(MOST))
        self.sheets.setText(say(words))
        self.sheets.setVisible(count > 0)
        self.many.setVisible(MANY < count <= MOST)
        self.write_it.setEnabled(count <= MANY or (count <= MOST and self.many.isChecked()))
        self.write_it.setText(say(tr("Write it, to look at") if stops else tr("Write it")))
        self.write_it.setObjectName("" if stops else "main")
        self.where.setText(str(self.file))
        self.where.setAccessibleName(str(self.file))

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
        return Order(
            self.session.draft, session.voice, self.paper(), session.cloth.stock, sewing_of(session).person, others, photos
        )

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
