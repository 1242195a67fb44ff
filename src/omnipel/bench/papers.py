"""Which paper the pattern is printed on, and where to."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QDialog, QFileDialog

from omnipel.bench.look import LOOK
from omnipel.bench.parts import button, column, combo, label, row
from omnipel.bench.speech import say
from omnipel.core.pictures.pens import PAPERS
from omnipel.core.words.phrases import Name, tr
from omnipel.shop.document import file_name

if TYPE_CHECKING:
    from omnipel.bench.window import Window


class PapersDialog(QDialog):
    """Which paper, and where to."""

    def __init__(self, window: Window, stops: bool) -> None:
        super().__init__(window)
        self.setWindowTitle(say(tr("Papers")))
        self.window_ = window
        job = window.session.open_job
        self.file = Path.home() / file_name(job.name, ".pdf")
        self.choice = combo(
            tr("Paper"), [(Name(window.session.tell(paper.words)), name) for name, paper in PAPERS.items()], lambda _p: None
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
