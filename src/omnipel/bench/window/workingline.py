"""The working line: the sum that made the number pointed at, each term with its name and a way to its source."""

from __future__ import annotations

from html import escape
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame

from omnipel.bench.parts.announce import announce
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.sumtape import TAPE_HIGH, SumTape
from omnipel.bench.parts.widgets import column
from omnipel.bench.parts.wrapped import Wrapped
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.words.phrases import Phrase, tr
from omnipel.core.words.refs import Ref, parsed

if TYPE_CHECKING:
    from omnipel.core.words.working import Worked

SHELF_HINT = tr("Enter opens a job at its next step; the menu key or the right button says what else can be done with it.")
HINT = tr("Point at any number: here stands the sum that made it. A click on a term goes to where it is decided.")


class WorkingLine(QFrame):
    """The line at the bottom; also says what has just happened."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.last: tuple[Phrase, Worked] | None = None
        self.told = ("note", say(SHELF_HINT))
        self.text = Wrapped()
        self.text.setTextFormat(Qt.TextFormat.RichText)
        self.text.setTextInteractionFlags(
            Qt.TextInteractionFlag.LinksAccessibleByMouse | Qt.TextInteractionFlag.LinksAccessibleByKeyboard
        )
        self.text.linkActivated.connect(lambda link: session.go.emit(parsed(link)))
        self.tape = SumTape()
        layout = column(self.tape, self.text, spacing=2)
        layout.setContentsMargins(16, 4, 16, 4)
        layout.setStretch(1, 1)
        self.setLayout(layout)
        session.pointed.connect(self.point)
        session.said.connect(self.say)
        session.offered.connect(self.offer)
        self.rescale()
        self.hint(at_shelf=True)

    def rescale(self) -> None:
        """Keep room for two lines, so that nothing jumps."""
        self.setFixedHeight(LOOK.px(46) + TAPE_HIGH + 12)

    def point(self, words: Phrase, number: Worked) -> None:
        """Show a number and its sum; what is shown adds up."""
        from omnipel.core.words.sums import shown_sum, sign_of, thin_words  # numbers come with the first job

        self.last = (words, number)
        voice, accent = self.session.voice, LOOK.colours.accent
        shown = shown_sum(number, voice)
        terms = []
        for i, part in enumerate(shown.terms):
            name = escape(voice.say(part.term.name))
            if part.term.source:
                name = f'<a href="{escape(str(part.term.source))}" style="color:{accent}">{name}</a>'
            length = voice.length(abs(part.shown))
            why = f"<span style='color:{LOOK.colours.soft}'>{escape(part.why)}</span>"
            terms.append(f"{sign_of(part.shown, first=i == 0)}{length} {name}{why}")
        thin = f"<span style='color:{LOOK.colours.soft}'>{escape(thin_words(shown, voice))}</span>"
        value = voice.length(shown.total)
        self.text.setText(f"<b>{escape(voice.sentence(words))} {value}</b> = {''.join(terms)}{thin}")
        self.tape.show_terms([part.shown for part in shown.terms])
        self._named(f"{voice.sentence(words)} {value}")

    def say(self, severity: str, words: str) -> None:
        """Tell something in one line."""
        self.last, self.told = None, (severity, words)
        self.tape.show_terms([])
        self._named(words)
        announce(self.text, words, now=severity == "stop")
        self.text.setText(f'<span style="color:{LOOK.colours.of(severity)}">{escape(words)}</span>')

    def _named(self, words: str) -> None:
        """What the line says, for those who cannot see it."""
        self.text.setAccessibleName(words)
        self.text.setAccessibleDescription(say(tr("Working")))

    def hint(self, *, at_shelf: bool) -> None:
        """Say what this line is for."""
        self.say("note", say(SHELF_HINT if at_shelf else HINT))

    def offer(self, words: str, link: str, ref: Ref) -> None:
        """Tell something in one line, with a link to where it can be undone or followed."""
        self.say("note", words)
        self.text.setText(f'{escape(words)} <a href="{escape(str(ref))}" style="color:{LOOK.colours.accent}">{escape(link)}</a>')

    def refresh(self) -> None:
        """Show the same again, in the job's unit and the look of now."""
        if self.last:
            self.point(*self.last)
        else:
            self.say(*self.told)
