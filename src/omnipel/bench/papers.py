"""Which paper the pattern is printed on, and where to."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QDialog, QFileDialog

from omnipel.bench.look import LOOK
from omnipel.bench.parts import button, column, combo, label, row

if TYPE_CHECKING:
    from omnipel.bench.window import Window

PAPER_WORDS = (("A4, tiled", "A4"), ("Letter, tiled", "Letter"), ("A0", "A0"), ("roll, 914 wide", "roll914"))


class PapersDialog(QDialog):
    """Which paper, and where to."""

    def __init__(self, window: Window, stops: bool) -> None:
        super().__init__(window)
        self.setWindowTitle("Papers")
        self.window_ = window
        job = window.session.open_job
        self.file = Path.home() / f"{job.name}.pdf"
        self.choice = combo("Paper", PAPER_WORDS, lambda _p: None)
        self.where = button(str(self.file), self._ask, tip="Choose another file")
        warning = label("A finding says: do not cut. Print it only to look at it.", "stop", wrap=True)
        warning.setVisible(stops)
        about = label(
            "Cutting sheet on one page, then every panel full size with a test square, tile map and registration marks. A name that ends in .svg gives SVG.",
            "soft",
            wrap=True,
        )
        write_it = button("Write the pattern", self.accept, "main")
        write_it.setDefault(True)
        buttons = row(button("Cancel", self.reject), write_it)
        buttons.insertStretch(0, 1)
        self.setLayout(
            column(
                label("Print the pattern", "title"),
                about,
                warning,
                row(label("paper"), self.choice),
                row(label("file"), self.where),
                buttons,
                margins=16,
                spacing=12,
            )
        )
        self.setMinimumWidth(LOOK.px(520))

    def _ask(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Write the pattern", str(self.file), "Pattern (*.pdf *.svg)")
        if path:
            self.file = Path(path)
            self.where.setText(path)

    def path(self) -> Path:
        """Where to."""
        return self.file

    def paper(self) -> str:
        """Which paper."""
        return str(self.choice.value)
