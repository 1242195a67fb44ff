"""Colours, type and style sheet: daylight workshop, light and dark."""

from dataclasses import dataclass
from pathlib import Path
from typing import Final

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont, QFontDatabase, QGuiApplication, QPalette

TYPE: Final = Path(__file__).parent.parent.parent / "type"
FAMILY: Final = "Source Sans Pro"


@dataclass(frozen=True, slots=True)
class Colours:
    """One look. Contrast of every text colour on ground and surface is at least 4.5 : 1 (a test checks it)."""

    ground: str
    surface: str
    ink: str
    soft: str
    line: str
    accent: str
    on_accent: str
    look: str
    stop: str
    fine: str
    glow: str
    body: str

    def of(self, severity: str) -> str:
        """The colour of a state."""
        return {"stop": self.stop, "look": self.look, "note": self.soft, "open": self.accent, "fine": self.fine}.get(
            severity, self.soft
        )


LIGHT: Final = Colours(
    "#f4eee2",
    "#fffdf8",
    "#26221c",
    "#615848",
    "#cdc2ae",
    "#0a6670",
    "#ffffff",
    "#94500a",
    "#ad241c",
    "#33682f",
    "#ffe9a8",
    "#fffdf8",
)
DARK: Final = Colours(
    "#1d1b17",
    "#282520",
    "#f1eadd",
    "#b8ad9b",
    "#4d463c",
    "#63c6c4",
    "#10211f",
    "#f0ac55",
    "#ff9486",
    "#93cc8d",
    "#4a3c14",
    "#7d7463",
)

BASE: Final = 14.0
"""Height of ordinary text at 100 %, px."""


@dataclass
class Look:
    """The look in use: colours and text scale."""

    colours: Colours = LIGHT
    scale: float = 1.0

    def px(self, size: float) -> int:
        """A size that grows with the text."""
        return round(size * self.scale)

    def font(self, size: float = BASE, weight: QFont.Weight = QFont.Weight.Normal) -> QFont:
        """The program's typeface with tabular figures and real fractions."""
        font = QFont(FAMILY)
        font.setPixelSize(self.px(size))
        font.setWeight(weight)
        font.setFeature(QFont.Tag("tnum"), 1)
        return font

    def colour(self, name: str) -> QColor:
        """A colour by its role."""
        return QColor(getattr(self.colours, name))


LOOK = Look()
"""The one look of this process."""


def load_type() -> None:
    """Make the shipped typeface known to Qt."""
    for name in ("Regular", "Semibold", "Bold"):
        QFontDatabase.addApplicationFont(str(TYPE / f"SourceSansPro-{name}.ttf"))


def prefers_dark() -> bool:
    """What the desktop asks for."""
    return QGuiApplication.styleHints().colorScheme() is Qt.ColorScheme.Dark


def palette(colours: Colours) -> QPalette:
    """For what the style sheet does not reach."""
    made = QPalette()
    roles = {
        QPalette.ColorRole.Window: colours.ground,
        QPalette.ColorRole.Base: colours.surface,
        QPalette.ColorRole.AlternateBase: colours.ground,
        QPalette.ColorRole.WindowText: colours.ink,
        QPalette.ColorRole.Text: colours.ink,
        QPalette.ColorRole.Button: colours.surface,
        QPalette.ColorRole.ButtonText: colours.ink,
        QPalette.ColorRole.Highlight: colours.accent,
        QPalette.ColorRole.HighlightedText: colours.on_accent,
        QPalette.ColorRole.PlaceholderText: colours.soft,
        QPalette.ColorRole.Link: colours.accent,
        QPalette.ColorRole.ToolTipBase: colours.surface,
        QPalette.ColorRole.ToolTipText: colours.ink,
    }
    for role, colour in roles.items():
        made.setColor(role, QColor(colour))
    return made


def style_sheet(look: Look) -> str:
    """The style sheet for a look."""
    return _words_and_fields(look) + _buttons(look) + _lists(look)


def _words_and_fields(look: Look) -> str:
    c, px = look.colours, look.px
    return f"""
    * {{ font-family: "{FAMILY}"; font-size: {px(BASE)}px; color: {c.ink}; }}
    QWidget#ground, QMainWindow, QDialog {{ background: {c.ground}; }}
    QWidget#surface, QFrame#surface {{ background: {c.surface}; border: 1px solid {c.line}; border-radius: 4px; }}
    QLabel {{ background: transparent; }}
    QLabel#title {{ font-size: {px(22)}px; font-weight: 600; }}
    QLabel#head {{ font-size: {px(17)}px; font-weight: 600; }}
    QLabel#soft {{ color: {c.soft}; }}
    QLabel#strong {{ font-weight: 600; }}
    QWidget#roomy QLabel {{ font-size: {px(17)}px; }}
    QWidget#roomy QLabel#title {{ font-size: {px(28)}px; }}
    QWidget#roomy QLabel#big {{ font-size: {px(38)}px; }}
    QLabel#byhand {{ color: {c.accent}; font-weight: 600; }}
    QLabel#field {{ min-width: {px(150)}px; padding-right: 16px; qproperty-indent: 0; }}
    QLineEdit#words {{ min-width: {px(130)}px; }}
    QLabel#big {{ font-size: {px(32)}px; font-weight: 600; }}
    QLabel#stop {{ color: {c.stop}; }}
    QLabel#look {{ color: {c.look}; }}
    QLabel#fine {{ color: {c.fine}; }}
    QLabel#open {{ color: {c.accent}; }}
    QLabel#onmain {{ color: {c.on_accent}; font-weight: 600; }}
    QLineEdit, QPlainTextEdit, QComboBox, QSpinBox {{
        background: {c.surface}; border: 1px solid {c.soft}; border-radius: 3px; padding: {px(4)}px {px(7)}px; selection-background-color: {c.accent};
        selection-color: {c.on_accent};
        placeholder-text-color: {c.soft}; }}
    QLineEdit#tape {{ font-size: {px(32)}px; font-weight: 600; padding: {px(6)}px {px(10)}px; }}
    QLineEdit:focus, QPlainTextEdit:focus, QComboBox:focus, QSpinBox:focus {{ border: 2px solid {c.accent}; padding: {px(4) - 1}px {px(7) - 1}px; }}
    QLineEdit#tape:focus {{ padding: {px(6) - 1}px {px(10) - 1}px; }}
    QLineEdit:disabled, QComboBox:disabled, QSpinBox:disabled {{ color: {c.soft}; background: {c.ground}; border-color: {c.line}; }}
    QLineEdit[wrong="true"] {{ border: 2px solid {c.stop}; }}
    QComboBox::drop-down {{ border: none; width: {px(20)}px; }}
    QComboBox::down-arrow {{ width: 0; height: 0; border-left: {px(4)}px solid {c.surface}; border-right: {px(4)}px solid {c.surface};
        border-top: {px(6)}px solid {c.ink}; margin-right: {px(8)}px; }}
    QComboBox QAbstractItemView {{ background: {c.surface}; selection-background-color: {c.accent}; selection-color: {c.on_accent}; }}
    QLineEdit {{ placeholder-text-color: {c.soft}; }}
    """


def _buttons(look: Look) -> str:
    c, px = look.colours, look.px
    return f"""
    QPushButton {{ background: {c.surface}; border: 1px solid {c.soft}; border-radius: 3px; padding: {px(5)}px {px(12)}px; }}
    QPushButton:hover {{ border-color: {c.accent}; }}
    QPushButton:focus {{ border: 2px solid {c.accent}; padding: {px(5) - 1}px {px(12) - 1}px; }}
    QPushButton:pressed {{ background: {c.line}; }}
    QPushButton:disabled {{ color: {c.soft}; border-color: {c.line}; }}
    QPushButton#small {{ padding: {px(3)}px {px(8)}px; font-size: {px(14)}px; min-height: {px(16)}px; }}
    QPushButton#main {{ background: {c.accent}; color: {c.on_accent}; border-color: {c.accent}; font-weight: 600; }}
    QPushButton#main:focus {{ border: 2px solid {c.ink}; }}
    QPushButton#chip {{ padding: {px(3)}px {px(9)}px; font-size: {px(17)}px; }}
    QPushButton#chip:checked {{ text-decoration: line-through; color: {c.soft}; }}
    QPushButton#quiet {{ border-color: transparent; background: transparent; text-align: left; padding: {px(3)}px {px(6)}px; }}
    QPushButton#link, QPushButton#lookquiet {{ border-color: transparent; background: transparent; text-align: right; padding: {px(1)}px {px(4)}px; }}
    QPushButton#link {{ color: {c.soft}; }}
    QPushButton#lookquiet {{ color: {c.look}; }}
    QPushButton#link:hover, QPushButton#lookquiet:hover {{ border-color: {c.line}; }}
    QPushButton#link:focus, QPushButton#lookquiet:focus {{ border: 1px solid {c.accent}; }}
    QPushButton#card {{ text-align: left; padding: {px(5)}px {px(6)}px; }}
    QPushButton#card:checked {{ border: 2px solid {c.accent}; padding: {px(5) - 1}px {px(6) - 1}px; }}
    QPushButton#quiet:hover {{ border-color: {c.line}; }}
    QPushButton#quiet:focus {{ border: 2px solid {c.accent}; padding: {px(3) - 1}px {px(6) - 1}px; }}
    QPushButton#remedy {{ text-align: left; border-color: {c.soft}; padding: {px(4)}px {px(8)}px; }}
    QPushButton#remedy:focus {{ border: 2px solid {c.accent}; padding: {px(4) - 1}px {px(8) - 1}px; }}
    QCheckBox {{ spacing: {px(7)}px; background: transparent; min-height: {px(20)}px; }}
    QCheckBox, QRadioButton {{ border: 1px solid transparent; border-radius: 3px; padding: 1px; }}
    QCheckBox:focus, QRadioButton:focus {{ border: 1px solid {c.accent}; border-radius: 3px; padding: 1px; }}
    QCheckBox::indicator {{ width: {px(15)}px; height: {px(15)}px; border: 1px solid {c.soft}; border-radius: 2px; background: {c.surface}; }}
    QCheckBox::indicator:checked {{ background: {c.accent}; border: 1px solid {c.accent}; }}
    QRadioButton::indicator {{
        width: {px(15)}px; height: {px(15)}px; border: 1px solid {c.soft}; border-radius: {(px(15) + 2) // 2}px; background: {c.surface};
    }}
    QRadioButton::indicator:checked {{
        width: {px(15) + 2 - 2 * px(5)}px; height: {px(15) + 2 - 2 * px(5)}px; border: {px(5)}px solid {c.accent};
    }}
    """


def _lists(look: Look) -> str:
    c, px = look.colours, look.px
    return f"""
    QScrollArea {{ border: none; background: transparent; }}
    QScrollArea > QWidget > QWidget {{ background: transparent; }}
    QTableView#shelf {{ background: transparent; border: none; selection-background-color: transparent; }}
    QTableView#shelf::item, QTableView#shelf::item:selected {{ background: transparent; }}
    QTableView#steps {{ background: transparent; border: 2px solid transparent; outline: none; font-size: {px(14)}px; }}
    QTableView#steps::item:selected {{ background: {c.accent}; color: {c.on_accent}; }}
    QTableView#steps:focus {{ border: 2px solid {c.accent}; }}
    QTableView#steps QHeaderView::section {{ background: transparent; border: none; border-bottom: 1px solid {c.line}; color: {c.soft};
        padding: {px(3)}px; font-size: {px(13)}px; }}
    QTreeWidget#parts {{ background: transparent; border: 2px solid transparent; outline: none; font-size: {px(14)}px; }}
    QTreeWidget#parts::item {{ padding: {px(3)}px {px(2)}px; min-height: {px(18)}px; }}
    QTreeWidget#parts::item:selected {{ background: {c.accent}; color: {c.on_accent}; }}
    QTreeWidget#parts::branch:selected {{ background: {c.accent}; }}
    QTreeWidget#parts:focus {{ border: 2px solid {c.accent}; }}
    QFrame#caution {{ background: {c.glow}; border: 1px solid {c.look}; border-radius: 3px; }}
    QProgressBar {{ background: {c.line}; border: none; border-radius: 4px; }}
    QProgressBar::chunk {{ background: {c.accent}; border-radius: 4px; }}
    QFrame#cost {{ background: {c.glow}; border: none; border-radius: 3px; }}
    QSlider::groove:horizontal {{ height: {px(4)}px; background: {c.soft}; border-radius: {px(2)}px; }}
    QSlider::sub-page:horizontal {{ background: {c.accent}; border-radius: {px(2)}px; }}
    QSlider::handle:horizontal {{ background: {c.accent}; width: {px(18)}px; height: {px(18)}px; margin: -{px(7)}px 0; border-radius: {px(18) // 2}px; }}
    QSlider:focus {{ border: 2px solid {c.accent}; border-radius: 3px; }}
    QSlider {{ min-height: {px(24)}px; }}
    QListWidget {{ background: {c.surface}; border: 1px solid {c.line}; border-radius: 3px; outline: none; }}
    QListWidget::item {{ padding: {px(5)}px {px(8)}px; }}
    QListWidget::item:selected {{ background: {c.accent}; color: {c.on_accent}; }}
    QListWidget:focus {{ border: 2px solid {c.accent}; }}
    QMenu {{ background: {c.surface}; border: 1px solid {c.line}; padding: {px(4)}px; }}
    QMenu::item {{ padding: {px(5)}px {px(24)}px {px(5)}px {px(12)}px; }}
    QMenu::item:selected {{ background: {c.accent}; color: {c.on_accent}; }}
    QMenu::item:disabled {{ color: {c.soft}; }}
    QMenu::separator {{ height: 1px; background: {c.line}; margin: {px(4)}px; }}
    QToolTip {{ background: {c.surface}; color: {c.ink}; border: 1px solid {c.line}; padding: 4px; }}
    QScrollBar:vertical {{ background: transparent; width: {px(10)}px; }}
    QScrollBar:horizontal {{ background: transparent; height: {px(10)}px; }}
    QScrollBar::handle {{ background: {c.soft}; border-radius: {px(4)}px; min-height: {px(24)}px; min-width: {px(24)}px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    """
