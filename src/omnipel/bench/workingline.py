"""The working line: the sum that made the number pointed at, each term with its name and a way to its source."""

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QLabel

from omnipel.bench.look import LOOK
from omnipel.bench.parts import row
from omnipel.bench.session import Session
from omnipel.core.pictures.sums import why_words
from omnipel.core.tape.units import format_length
from omnipel.core.working import Worked

HINT = "Point at any number: here stands the sum that made it. A click on a term goes to where it is decided."


class WorkingLine(QFrame):
    """The line at the bottom; also says what has just happened."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.last: tuple[str, Worked] | None = None
        self.told = ("note", HINT)
        self.text = QLabel(accessibleName="Working")
        self.text.setTextFormat(Qt.TextFormat.RichText)
        self.text.setWordWrap(True)
        self.text.setTextInteractionFlags(
            Qt.TextInteractionFlag.LinksAccessibleByMouse | Qt.TextInteractionFlag.LinksAccessibleByKeyboard
        )
        self.text.linkActivated.connect(session.go.emit)
        layout = row(self.text)
        layout.setContentsMargins(16, 6, 16, 6)
        self.setLayout(layout)
        session.pointed.connect(self.point)
        session.said.connect(self.say)
        self.rescale()
        self.say("note", HINT)

    def rescale(self) -> None:
        """Keep room for two lines, so that nothing jumps."""
        self.setFixedHeight(LOOK.px(46) + 12)

    def point(self, words: str, number: Worked) -> None:
        """Show a number and its sum."""
        self.last = (words, number)
        unit, accent = self.session.unit, LOOK.colours.accent
        terms = []
        for i, term in enumerate(number.terms):
            sign = ("−" if term.value < 0 else "") if i == 0 else (" − " if term.value < 0 else " + ")
            name = escape(term.name)
            if term.source:
                name = f'<a href="{escape(term.source)}" style="color:{accent}">{name}</a>'
            shown = format_length(abs(term.value), unit, fine=True)
            terms.append(f"{sign}{shown} {name}<span style='color:{LOOK.colours.soft}'>{escape(why_words(term, unit))}</span>")
        value = format_length(number.value, unit, fine=True)
        self.text.setText(f"<b>{escape(words)} {value}</b> = {''.join(terms)}")

    def say(self, severity: str, words: str) -> None:
        """Tell something in one line."""
        self.last, self.told = None, (severity, words)
        self.text.setText(f'<span style="color:{LOOK.colours.of(severity)}">{escape(words)}</span>')

    def refresh(self) -> None:
        """Show the same again, in the job's unit and the look of now."""
        if self.last:
            self.point(*self.last)
        else:
            self.say(*self.told)
