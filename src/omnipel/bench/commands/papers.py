"""The papers of the open job: which paper, where to, and written."""

from pathlib import Path

from PySide6.QtWidgets import QDialog, QFileDialog, QWidget

from omnipel.bench.commands.desk import Desk
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import button, column, combo, label, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.draft import Drafted
from omnipel.core.pictures.pens import PAPERS
from omnipel.core.words.phrases import Name, Phrase, tr
from omnipel.shop.document import file_name
from omnipel.shop.starter import plausible


class PapersDialog(QDialog):
    """Which paper, and where to."""

    def __init__(self, parent: QWidget, session: Session, stops: bool) -> None:
        super().__init__(parent)
        self.setWindowTitle(say(tr("Papers")))
        self.file = Path.home() / file_name(session.open_job.name, ".pdf")
        self.choice = combo(
            tr("Paper"), [(Name(session.tell(paper.words)), name) for name, paper in PAPERS.items()], lambda _p: None
        )
        self.where = button(Name(str(self.file)), self._ask, tip=tr("Choose another file"))
        warning = label(
            tr("A finding says: do not cut. Print it only to look at it; every sheet will say so."), "stop", wrap=True
        )
        warning.setVisible(stops)
        about = label(
            tr(
                "Cutting sheet on one page, then every panel full size with a test square, tile map and registration marks. A name that ends in .svg "
                "gives SVG."
            ),
            "soft",
            wrap=True,
        )
        write_it = button(tr("Write it, to look at") if stops else tr("Write the pattern"), self.accept, "" if stops else "main")
        write_it.setDefault(True)
        buttons = row(button(tr("Cancel"), self.reject), write_it)
        buttons.insertStretch(0, 1)
        self.setLayout(
            column(
                label(tr("Print the pattern"), "title"),
                about,
                warning,
                row(label(tr("paper")), self.choice),
                row(label(tr("file")), self.where),
                buttons,
                margins=16,
                spacing=12,
            )
        )
        self.setMinimumWidth(LOOK.px(520))

    def _ask(self) -> None:
        path, _ = QFileDialog.getSaveFileName(
            self, say(tr("Write the pattern")), str(self.file), f"{say(tr('Pattern'))} (*.pdf *.svg)"
        )
        if path:
            self.file = Path(path)
            self.where.setText(path)

    def path(self) -> Path:
        """Where to."""
        return self.file

    def paper(self) -> str:
        """Which paper."""
        return str(self.choice.value)


def ask_pattern(desk: Desk) -> None:
    """Ask which paper and where to, and write the full-size pattern with its cutting sheet."""
    draft = desk.session.draft
    if not isinstance(draft, Drafted):
        desk.session.say("look", tr("There are no panels to print yet."))
        return
    dialog = PapersDialog(desk.widget, desk.session, draft.stops)
    if dialog.exec() == QDialog.DialogCode.Accepted:
        write_pattern(desk.session, dialog.path(), dialog.paper())


def write_pattern(session: Session, path: Path, paper: str) -> None:
    """Write the pattern as PDF, or as SVG when the name says so."""
    draft = session.draft
    if not isinstance(draft, Drafted):
        return
    # The writers load a library for documents, a tenth of the whole start: only when something is written.
    from omnipel.exchange.pattern import pattern_pdf
    from omnipel.exchange.svg import svg

    made = svg(draft, session.voice).encode() if path.suffix.lower() == ".svg" else pattern_pdf(draft, paper, session.voice)
    _write(session, path, made, tr("Print at 100 % and measure the test square first."))


def ask_tape_card(desk: Desk) -> None:
    """Ask where to, and write the blank tape card."""
    name = file_name(say(tr("{job} tape card", job=Name(desk.session.open_job.name))), ".pdf")
    path, _ = QFileDialog.getSaveFileName(desk.widget, say(tr("Write the tape card")), name, f"{say(tr('Papers'))} (*.pdf)")
    if path:
        write_tape_card(desk.session, Path(path))


def write_tape_card(session: Session, path: Path) -> None:
    """Write the blank tape card of the open job."""
    from omnipel.exchange.tape_card import tape_card  # as above

    job = session.open_job
    made = tape_card(job, plausible(job), session.places, voice=session.voice)
    _write(session, path, made, tr("A pencil and the tape are all it needs."))


def _write(session: Session, path: Path, made: bytes, next_: Phrase) -> None:
    try:
        path.write_bytes(made)
    except OSError as error:
        session.not_written(path, error)
        return
    session.say("fine", tr("Written: {path}. {next}", path=Name(str(path)), next=next_))
