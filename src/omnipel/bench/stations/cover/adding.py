"""Adding something to the cover: what is put on most at hand, all else in a list; where the picture was clicked, or on a side."""

from dataclasses import replace
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.widgets import button, column, label
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.cover.features import sides
from omnipel.core.draft import Drafted
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.job.feature import Facing
from omnipel.core.job.findings import Act, Change
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, Phrase, Value, mm, term, tr

AT_HAND = ("port", "pocket", "flap", "webbing handle", "ties", "clear window", "zip", "snaps", "letters")
"""What is put on covers most often."""


class AddHere(QWidget):
    """What can be added, and where it will be."""

    added = Signal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.spot: tuple[Facing, float, float] | None = None
        self.title = label(tr("Add here"), "field")
        kinds: list[tuple[Value, object]] = [(kind.words, kind.key) for kind in KINDS.values()]
        self.kind = combo(tr("What to add"), kinds, self._told)
        self.side = combo(tr("On which side"), sides(), self._sided)
        self.about = label(NOTHING, "soft", wrap=True)
        hand = Flow(gap=5)
        self.buttons = {}
        for key in AT_HAND:
            made = button(KINDS[key].words, partial(self.add, key), "small", tip=KINDS[key].about)
            made.setAccessibleName(say(tr("Add {kind}", kind=KINDS[key].words)))
            self.buttons[key] = made
            hand.addWidget(made)
        other = Flow(gap=5)
        self.add_it = button(tr("Add it"), lambda: self.add(str(self.kind.value)), "small")
        for widget in (self.side, self.kind, self.add_it):
            other.addWidget(widget)
        self.setLayout(column(self.title, hand, other, spacing=3))

    def at(self, spot: tuple[Facing, float, float] | None) -> None:
        """The picture was clicked there: side, across from its centre line and down from its top edge, mm; None: nowhere."""
        self.spot = spot
        words: Phrase = tr("Add here")
        if spot is not None:
            self.side.show_value(spot[0])
            words = tr("Add here: {side}, {down} down", side=term(spot[0]), down=mm(spot[2]))
        self.title.setText(self.session.tell(words))

    def _told(self, kind: object) -> None:
        self.about.setText(say(KINDS[str(kind)].about))

    def _sided(self, _face: object) -> None:
        self.at(None)

    def add(self, key: str) -> None:
        """A feature of a kind: where the picture was clicked; else in the middle of its side, or halfway down the first piece there."""
        draft, job = self.session.draft, self.session.open_job
        if not isinstance(draft, Drafted):
            self.session.say("look", tr("There is no cover to put it on yet."))
            return
        from omnipel.core.finishing.elsewhere import begun

        kind, names = KINDS[key], {f.name for f in job.cover.features}
        called = say(kind.words)
        name = next(n for n in (called, *(f"{called} {i}" for i in range(2, 300))) if n not in names)
        made = begun(kind, name[:120], Facing(str(self.side.value)), draft.cover, job.cover)
        if self.spot is not None:
            near = job.cover.habits.system.near
            made = replace(made, face=self.spot[0], from_centre=near(self.spot[1]), from_top=near(self.spot[2]))
        words = tr("{feature} on the {side}", feature=Name(made.name), side=term(made.face))
        before = {f.id for f in job.cover.features}
        self.session.change(words, Change(refs.feature(), made, Act.ADD))
        self.at(None)
        new = next((f.id for f in self.session.open_job.cover.features if f.id not in before), None)
        if new is not None:
            self.added.emit(refs.feature(new))
