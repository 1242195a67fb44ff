"""One thing that sticks out, as a card with its fields."""

from functools import partial

from PySide6.QtWidgets import QGridLayout, QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.picker import combo, of_enum
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, column, label, line, surface
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.thing import Face, SticksOut, Treatment
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, Phrase, term, tr

BESIDE = (tr("from the top"), tr("right of centre"), tr("stands out"), tr("size"))


class StickCard(QWidget):
    """One thing that sticks out: its name, side, place, reach, size, treatment."""

    def __init__(self, session: Session, thing: SticksOut) -> None:
        super().__init__()
        self.session, self.ref = session, refs.sticks_out(thing.id)
        self.name = line(tr("what sticks out"))
        self.name.setText(thing.name)
        self.name.editingFinished.connect(self._named)
        called = Name(thing.name)
        treat = combo(
            tr("what the cover does"),
            of_enum(Treatment),
            lambda t: session.set(self.ref.at("treatment"), t, tr("{thing}: {what}", thing=called, what=term(t))),
        )
        treat.show_value(thing.treatment)
        face = combo(
            tr("which side it sticks out of"),
            of_enum(Face),
            lambda f: session.set(self.ref.at("face"), f, tr("{thing}: on the {face}", thing=called, face=term(f))),
        )
        face.show_value(thing.face)
        gone = button(
            tr("Remove"), lambda: session.change(tr("{thing} removed", thing=called), Change(self.ref, act=Act.REMOVE)), "quiet"
        )
        gone.setAccessibleName(say(tr("Remove {thing}", thing=called)))
        grid = QGridLayout()
        grid.setSpacing(6)
        attributes = (("from_top", -20_000.0), ("from_centre", -20_000.0), ("reach", 0.0), ("size", 0.0))
        shown = [
            (words, *a)
            for words, a in zip(BESIDE, attributes, strict=True)
            if thing.face is not Face.TOP or a[0] in ("reach", "size")
        ]
        for k, (words, attribute, low) in enumerate(shown):
            field = length_field(
                session,
                tr("{thing} {what}", thing=called, what=words),
                partial(self._set, attribute, tr("{thing} {what}", thing=called, what=words)),
                low=low,
                strict=low == 0.0,
                high=10_000.0,
            )
            field.show_length(getattr(thing, attribute))
            grid.addWidget(label(words, "soft"), k // 2 * 2, k % 2)
            grid.addWidget(field, k // 2 * 2 + 1, k % 2)
        what = Flow(gap=6)
        for widget in (face, treat, gone):
            what.addWidget(widget)
        self.setLayout(column(surface(column(self.name, what, grid, margins=8))))

    def _set(self, attribute: str, reason: Phrase, length: float) -> None:
        self.session.set(self.ref.at(attribute), length, reason)

    def _named(self) -> None:
        text = self.name.text().strip()[:80]
        if text and self.name.isModified():
            self.name.setModified(False)
            self.session.set(self.ref.at("name"), text, tr("named {name}", name=Name(text)))
