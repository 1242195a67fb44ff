"""`make docs` draws the icon in its sizes from its one drawing."""

import os
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication, QImage, QPainter
from PySide6.QtSvg import QSvgRenderer

from omnipel.desktop.placing import SIZES

FOLDER = Path(__file__).parent.parent / "src" / "omnipel" / "desktop" / "icons"


def main() -> None:
    """Draw them all."""
    app = QGuiApplication.instance() or QGuiApplication([])
    drawing = QSvgRenderer(str(FOLDER / "omnipel.svg"))
    for size in SIZES:
        image = QImage(size, size, QImage.Format.Format_ARGB32)
        image.fill(Qt.GlobalColor.transparent)
        painter = QPainter(image)
        drawing.render(painter)
        painter.end()
        image.save(str(FOLDER / f"omnipel-{size}.png"))
    del app


if __name__ == "__main__":
    main()
