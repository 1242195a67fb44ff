"""Sheets as they will be printed: small beside one another, and one of them large; and how they get onto paper."""

from __future__ import annotations

import ctypes
import math
from collections.abc import Callable
from typing import Any, Final

from PySide6.QtCore import QMarginsF, QRectF, QSize, QSizeF, Qt, QTimer
from PySide6.QtGui import QIcon, QImage, QPageLayout, QPageSize, QPainter, QPaintEvent, QPixmap
from PySide6.QtWidgets import QListView, QListWidget, QListWidgetItem, QSizePolicy, QWidget

from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import column
from omnipel.bench.speech import say
from omnipel.core.words.phrases import Count, tr

THUMB: Final = 92
"""Height of a small sheet, px at 100 %."""
PER_TICK: Final = 2
"""So many small sheets are drawn at a time."""
POINTS: Final = 72.0
MM: Final = 25.4 / POINTS
MOST_PIXELS: Final = 90e6
"""A sheet for the printer has no more, so that one of a roll does not fill the memory."""
FINEST: Final = 600.0
"""Dots in an inch that lines are printed with at most."""


class Sheets:
    """A file of sheets, as another's library draws them: what is seen and printed is what the file says."""

    def __init__(self, content: bytes) -> None:
        import pypdfium2  # only when something is printed or looked at

        self.document: Any = pypdfium2.PdfDocument(content)
        self.count = len(self.document)

    def size(self, k: int) -> tuple[float, float]:
        """Width and height of a sheet, mm."""
        wide, high = self.document.get_page_size(k)
        return wide * MM, high * MM

    def image(self, k: int, dots: float) -> QImage:
        """A sheet with so many dots in an inch."""
        page = self.document[k]
        bitmap = page.render(scale=dots / POINTS, rev_byteorder=True, may_draw_forms=False)
        kept = bytes(ctypes.string_at(bitmap.buffer, bitmap.stride * bitmap.height))
        kinds = {1: QImage.Format.Format_Grayscale8, 3: QImage.Format.Format_RGB888, 4: QImage.Format.Format_RGBX8888}
        image = QImage(kept, bitmap.width, bitmap.height, bitmap.stride, kinds[bitmap.n_channels]).copy()
        bitmap.close()
        page.close()
        return image

    def close(self) -> None:
        """It is no longer needed."""
        self.document.close()


class SheetView(QWidget):
    """One sheet, as large as there is room."""

    def __init__(self) -> None:
        super().__init__()
        self.sheets: Sheets | None = None
        self.number = 0
        self.drawn: tuple[int, int, QPixmap] | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(160, 200)

    def sizeHint(self) -> QSize:
        return QSize(380, 500)

    def show_sheet(self, sheets: Sheets | None, number: int) -> None:
        """Show a sheet, from 0; nothing where there is none."""
        self.sheets, self.number, self.drawn = sheets, number, None
        told = (
            tr("Sheet {n} of {all}", n=Count(number + 1), all=Count(sheets.count)) if sheets is not None else tr("No sheet yet")
        )
        self.setAccessibleName(say(told))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self.sheets is not None and self.number < self.sheets.count:
            wide, high = self.sheets.size(self.number)
            room = self.contentsRect().adjusted(4, 4, -4, -4)
            scale = min(room.width() / wide, room.height() / high)
            ratio = self.devicePixelRatioF()
            key = round(wide * scale * ratio), self.number
            if self.drawn is None or self.drawn[:2] != key:
                made = QPixmap.fromImage(self.sheets.image(self.number, scale * ratio * 25.4))
                made.setDevicePixelRatio(ratio)
                self.drawn = (*key, made)
            x, y = room.left() + (room.width() - wide * scale) / 2.0, room.top() + (room.height() - high * scale) / 2.0
            painter.fillRect(QRectF(x + 3.0, y + 3.0, wide * scale, high * scale), LOOK.colour("line"))
            painter.drawPixmap(round(x), round(y), self.drawn[2])
        else:
            painter.setPen(LOOK.colour("soft"))
            painter.setFont(LOOK.font())
            painter.drawText(self.contentsRect(), int(Qt.AlignmentFlag.AlignCenter), say(tr("No sheet yet")))
        painter.end()


class Preview(QWidget):
    """All sheets of a file: small ones to choose from, the chosen one large."""

    def __init__(self) -> None:
        super().__init__()
        self.sheets: Sheets | None = None
        self.large = SheetView()
        self.small = QListWidget()
        self.small.setAccessibleName(say(tr("Sheets")))
        self.small.setFlow(QListView.Flow.LeftToRight)
        self.small.setViewMode(QListView.ViewMode.IconMode)
        self.small.setMovement(QListView.Movement.Static)
        self.small.setWrapping(False)
        self.small.setUniformItemSizes(False)
        self.small.setIconSize(QSize(LOOK.px(THUMB), LOOK.px(THUMB)))
        self.small.setFixedHeight(LOOK.px(THUMB) + LOOK.px(58))
        self.small.currentRowChanged.connect(self._chosen)
        self.setLayout(column(self.large, self.small, spacing=6))
        self.next = 0
        self.timer = QTimer(self)
        self.timer.timeout.connect(self._some)

    def show_file(self, content: bytes | None) -> None:
        """Show the sheets of a file; the same number as before stays chosen."""
        before = max(0, self.small.currentRow())
        self.timer.stop()
        self.small.clear()
        if self.sheets is not None:
            self.sheets.close()
        self.sheets = Sheets(content) if content is not None else None
        self.large.show_sheet(self.sheets, 0)
        self.small.setVisible(self.sheets is not None)
        if self.sheets is None:
            return
        blank = QPixmap(LOOK.px(THUMB), LOOK.px(THUMB))
        blank.fill(Qt.GlobalColor.transparent)
        for k in range(self.sheets.count):
            item = QListWidgetItem(QIcon(blank), say(Count(k + 1)))
            item.setData(
                Qt.ItemDataRole.AccessibleTextRole, say(tr("Sheet {n} of {all}", n=Count(k + 1), all=Count(self.sheets.count)))
            )
            item.setTextAlignment(Qt.AlignmentFlag.AlignHCenter)
            self.small.addItem(item)
        self.next = 0
        self.small.setCurrentRow(min(before, self.sheets.count - 1))
        self.timer.start(0)

    def _chosen(self, number: int) -> None:
        if number >= 0:
            self.large.show_sheet(self.sheets, number)

    def _some(self) -> None:
        """Draw a few more of the small sheets."""
        for _ in range(PER_TICK):
            if self.sheets is None or self.next >= self.sheets.count:
                self.timer.stop()
                return
            wide, high = self.sheets.size(self.next)
            dots = LOOK.px(THUMB) / max(wide, high) * 25.4 * self.devicePixelRatioF()
            image = self.sheets.image(self.next, dots)
            framed = QPainter(image)
            framed.setPen(LOOK.colour("soft"))
            framed.drawRect(0, 0, image.width() - 1, image.height() - 1)
            framed.end()
            pixmap = QPixmap.fromImage(image)
            pixmap.setDevicePixelRatio(self.devicePixelRatioF())
            self.small.item(self.next).setIcon(QIcon(pixmap))
            self.next += 1

    def close_file(self) -> None:
        """Let go of the file."""
        self.timer.stop()
        self.show_file(None)


def printed(printer: Any, content: bytes, told: Callable[[int, int], object] = lambda _n, _all: None) -> int:
    """Put the sheets of a file onto a printer, full size, each on a paper of its own size; how many there were.

    `printer` is a QPrinter; a range of sheets that it was asked for is heeded. The first sheet decides nothing about the others.
    """
    sheets = Sheets(content)
    printer.setFullPage(True)
    first, last = printer.fromPage() or 1, printer.toPage() or sheets.count
    numbers = [k for k in range(sheets.count) if first <= k + 1 <= last]
    painter = QPainter()
    for n, k in enumerate(numbers):
        wide, high = sheets.size(k)
        _set_paper(printer, wide, high)
        if n == 0:
            painter.begin(printer)
        else:
            printer.newPage()
        dots = min(FINEST, float(printer.resolution()), math.sqrt(MOST_PIXELS / (wide / 25.4 * high / 25.4)))
        box = QRectF(0.0, 0.0, wide / 25.4 * printer.resolution(), high / 25.4 * printer.resolution())
        painter.drawImage(box, sheets.image(k, dots))
        told(n + 1, len(numbers))
    if numbers:
        painter.end()
    sheets.close()
    return len(numbers)


def _set_paper(printer: Any, wide: float, high: float) -> None:
    """The paper of the next sheet, without margins: ours are on the sheet."""
    size = QPageSize(
        QSizeF(min(wide, high), max(wide, high)), QPageSize.Unit.Millimeter, "", QPageSize.SizeMatchPolicy.FuzzyMatch
    )
    way = QPageLayout.Orientation.Landscape if wide > high else QPageLayout.Orientation.Portrait
    printer.setPageLayout(QPageLayout(size, way, QMarginsF(0.0, 0.0, 0.0, 0.0)))
