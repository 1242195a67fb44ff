"""Light or dark, and how large the text is: for the whole window, kept in the shop."""

from PySide6.QtWidgets import QApplication

from omnipel.bench.commands.desk import Desk
from omnipel.bench.parts.look import DARK, LIGHT, LOOK, palette, prefers_dark, style_sheet
from omnipel.core.words.phrases import Share, tr
from omnipel.shop.store import Store

SMALLEST, LARGEST = 0.9, 1.6


def read_dress(store: Store) -> None:
    """Read the look as the shop was left, else as the desktop is."""
    try:
        LOOK.scale = min(LARGEST, max(SMALLEST, float(store.setting("text scale", "1.0"))))
    except ValueError:
        LOOK.scale = 1.0
    dark = store.setting("dark", "desktop")
    LOOK.colours = DARK if (prefers_dark() if dark == "desktop" else dark == "yes") else LIGHT


def scale_text(desk: Desk, by: float) -> None:
    """Larger or smaller text, 90 to 160 %."""
    set_scale(desk, round(min(LARGEST, max(SMALLEST, LOOK.scale + by)), 2))
    _keep(desk, "text scale", str(LOOK.scale))
    desk.session.say("note", tr("Text at {scale}", scale=Share(LOOK.scale)))


def set_scale(desk: Desk, scale: float) -> None:
    """Text at a scale."""
    LOOK.scale = scale
    set_dark(desk, LOOK.colours is DARK)


def flip_dark(desk: Desk) -> None:
    """Light to dark and back."""
    set_dark(desk, LOOK.colours is LIGHT)
    _keep(desk, "dark", "yes" if LOOK.colours is DARK else "no")


def set_dark(desk: Desk, dark: bool) -> None:
    """Put on the light or the dark look."""
    LOOK.colours = DARK if dark else LIGHT
    put_on()
    desk.restyle()


def put_on() -> None:
    """Give the look to all widgets. Cheapest when they all are there and none has been shown."""
    app = QApplication.instance()
    if isinstance(app, QApplication):
        app.setPalette(palette(LOOK.colours))
        app.setStyleSheet(style_sheet(LOOK))


def _keep(desk: Desk, name: str, value: str) -> None:
    desk.session.keep_setting(name, value)
