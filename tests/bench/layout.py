"""Looks through a window for text that is cut off and for widgets that lie over one another."""

from PySide6.QtCore import QPoint, QRect, Qt
from PySide6.QtWidgets import (
    QAbstractScrollArea,
    QCheckBox,
    QComboBox,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QStyle,
    QStyleOptionComboBox,
    QWidget,
)

SPARE = 2
"""Px by which a measured text may be larger than its widget: side bearings."""


def faults(window: QWidget) -> list[str]:
    """What is wrong with the layout of everything that is visible, in words."""
    found = []
    widgets = [w for w in window.findChildren(QWidget) if w.isVisible() and w.width() > 0 and not _scrolled_away(w, window)]
    for widget in widgets:
        found += _cut_off(widget)
        if isinstance(widget, QScrollArea) and widget.horizontalScrollBarPolicy() is Qt.ScrollBarPolicy.ScrollBarAlwaysOff:
            inner, room = widget.widget(), widget.viewport().width()
            if inner is not None and inner.width() > room:
                found.append(f"a page is {inner.width()} wide in a view of {room}")
    leaves = [
        w
        for w in widgets
        if isinstance(w, QLabel | QPushButton | QLineEdit | QComboBox | QCheckBox)
        and not isinstance(w.parent(), QComboBox | QPushButton)
    ]
    boxes = [(w, QRect(w.mapTo(window, QPoint(0, 0)), w.size())) for w in leaves if not (isinstance(w, QLabel) and not w.text())]
    for i, (a, box_a) in enumerate(boxes):
        for b, box_b in boxes[i + 1 :]:
            shared = box_a.intersected(box_b)
            if (
                shared.width() > 3
                and shared.height() > 3
                and not a.isAncestorOf(b)
                and not b.isAncestorOf(a)
                and _same_view(a, b)
            ):
                found.append(f"{_name(a)} lies over {_name(b)}")
    return found


def _cut_off(widget: QWidget) -> list[str]:
    if isinstance(widget, QLabel) and widget.text() and widget.textFormat() is not Qt.TextFormat.RichText:
        words = widget.text().replace("&", "") if widget.buddy() is not None else widget.text()  # the mark of a key is not shown
        metrics = widget.fontMetrics()
        if widget.wordWrap():
            wanted = metrics.boundingRect(
                QRect(0, 0, widget.contentsRect().width(), 10_000), int(Qt.TextFlag.TextWordWrap), words
            )
            if wanted.height() > widget.height() + SPARE or wanted.width() > widget.width() + SPARE:
                return [f"{_name(widget)} is cut off: {wanted.width()}×{wanted.height()} in {widget.width()}×{widget.height()}"]
        elif metrics.horizontalAdvance(words) > widget.width() + SPARE or metrics.height() > widget.height() + SPARE:
            return [f"{_name(widget)} is cut off: {metrics.horizontalAdvance(words)} in {widget.width()}"]
    if isinstance(widget, QComboBox):
        option = QStyleOptionComboBox()
        widget.initStyleOption(option)
        part = QStyle.SubControl.SC_ComboBoxEditField
        room = widget.style().subControlRect(QStyle.ComplexControl.CC_ComboBox, option, part, widget).width()
        wanted = widget.fontMetrics().horizontalAdvance(widget.currentText())
        return [f"{_name(widget)} is cut off: {widget.currentText()!r} {wanted} in {room}"] if wanted > room + SPARE else []
    if isinstance(widget, QPushButton | QCheckBox) and widget.text() and widget.sizeHint().width() > widget.width() + SPARE:
        return [f"{_name(widget)} is cut off: {widget.sizeHint().width()} in {widget.width()}"]
    return []


def _scrolled_away(widget: QWidget, window: QWidget) -> bool:
    return widget.visibleRegion().isEmpty() or widget.window() is not window


def _same_view(a: QWidget, b: QWidget) -> bool:
    """Whether both lie in the same scrolled page: what is scrolled out of sight overlaps nothing."""
    return _view(a) is _view(b)


def _view(widget: QWidget) -> QWidget | None:
    parent = widget.parentWidget()
    while parent is not None and not isinstance(parent, QAbstractScrollArea):
        parent = parent.parentWidget()
    return parent


def _name(widget: QWidget) -> str:
    text = widget.text() if isinstance(widget, QLabel | QPushButton | QCheckBox) else widget.accessibleName()
    return f"{type(widget).__name__} {text[:40]!r}"
