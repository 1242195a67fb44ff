"""What is put on the cover: the card of one of its features."""

from collections.abc import Mapping
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QGridLayout, QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, check, column, emptied, label, line, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.covers.fields import FEATURE_FIELDS
from omnipel.core.covers.options import Option, OptionKind
from omnipel.core.draft import Drafted
from omnipel.core.finishing.asked import asked_of, options_asked, values_of
from omnipel.core.finishing.kind import Lies
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.job.feature import LEVEL, Facing, Feature
from omnipel.core.job.findings import Act, Change
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Name, Phrase, Value, term, tr
from omnipel.core.words.plain_numbers import parse_count, parse_number

MOST_IN_A_LIST = 12
"""A number no larger than this is picked from a list."""


class FeaturePage(QWidget):
    """The card of the feature that is chosen."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.picked = ""
        self.card_area = QVBoxLayout()
        self.setLayout(column(self.card_area))
        self.card: FeatureCard | None = None
        self.made_for: tuple[object, ...] = ()

    def pick(self, id_: str) -> None:
        """Show the card of a feature."""
        self.picked = id_
        self.refresh()

    def refresh(self) -> None:
        """Show the feature as it stands."""
        job, draft = self.session.open_job, self.session.draft
        lying = draft.cover.lying if isinstance(draft, Drafted) else {}
        feature = next((f for f in job.cover.features if f.id == self.picked), None)
        lies = lying.get(self.picked)
        place = (lies.piece, lies.idle) if lies is not None else ("", frozenset())
        shape = (feature, job.cover.habits, job.thing.sticks_out, job.unit, place)
        if shape != self.made_for:
            with same_focus(self):
                emptied(self.card_area)
                self.card = FeatureCard(self.session, feature, *place) if feature is not None else None
                if self.card is not None:
                    self.card_area.addWidget(self.card)
            self.made_for = shape


def sides(first: Facing = Facing.FRONT) -> list[tuple[Value, object]]:
    """The sides something can be put on; the question itself where it has not been said yet."""
    sides: list[tuple[Value, object]] = [
        (tr("on the {side}", side=term(face)), face) for face in Facing if face is not Facing.UNSAID
    ]
    return sides if first is not Facing.UNSAID else [(tr("on which side?"), first), *sides]


class FeatureCard(QWidget):
    """One feature: its name, its side, its place, its size and what else its kind asks."""

    def __init__(self, session: Session, feature: Feature, piece: str, idle: frozenset[str]) -> None:
        super().__init__()
        self.session, self.ref, self.feature = session, refs.feature(feature.id), feature
        self.called, choices = Name(feature.name), session.open_job.cover
        self.fields: dict[str, QWidget] = {}
        kind = KINDS.get(feature.kind)
        self.name = line(tr("name of the feature"))
        self.name.setText(feature.name)
        self.name.editingFinished.connect(self._named)
        gone = button(tr("Remove"), self._removed, "quiet")
        gone.setAccessibleName(say(tr("Remove {feature}", feature=self.called)))
        self.grid, self.beside = QGridLayout(), Flow(gap=6)
        self.grid.setSpacing(6)
        values = values_of(kind, feature, choices) if kind is not None else {}
        if kind is not None:
            self._where(kind.lies is Lies.CUT)
        for attribute, words in asked_of(feature, choices, idle).items():
            place = attribute == "from_centre" or (attribute == "from_top" and feature.face in LEVEL)
            self._length(
                attribute,
                words,
                getattr(feature, attribute),
                -20_000.0 if place else 0.0,
                strict=attribute in ("width", "height"),
            )
        for option in options_asked(feature, choices, idle):
            self._option(option, values)
        more = QWidget()
        more.setLayout(self.beside)
        lies = tr("lies on the {piece}", piece=term(piece)) if piece else NOTHING
        head = row(
            label(kind.words if kind is not None else Name(feature.kind), "soft", wrap=True), label(lies, "soft", wrap=True), gone
        )
        self.setLayout(column(head, self.name, more, self.grid, spacing=7))

    def _where(self, through: bool) -> None:
        """Its side, or what comes out through it."""
        feature, things = self.feature, self.session.open_job.thing.sticks_out
        if through and things:
            serves: list[tuple[Value, object]] = [(tr("for nothing that sticks out"), "")]
            serves += [(tr("for the {thing}", thing=Name(thing.name)), thing.id) for thing in things]
            self._pick("serves", FEATURE_FIELDS["serves"], serves, feature.serves)
        if not feature.serves:
            self._pick("face", FEATURE_FIELDS["face"], sides(feature.face), feature.face)

    def _set(self, part: str, what: Phrase, value: object) -> None:
        self.session.set(self.ref.at(part), value, tr("{feature}: {what}", feature=self.called, what=what))

    def _pick(self, part: str, words: Phrase, picks: list[tuple[Value, object]], value: object) -> None:
        field = combo(tr("{feature} {what}", feature=self.called, what=words), picks, partial(self._set, part, words))
        field.show_value(value)
        self.fields[part] = field
        self.beside.addWidget(field)

    def _length(
        self, part: str, words: Phrase, value: float, low: float, *, strict: bool = False, high: float = 20_000.0
    ) -> None:
        commit = partial(self._set, part, words)
        called = tr("{feature} {what}", feature=self.called, what=words)
        field = length_field(self.session, called, commit, low=low, strict=strict, high=high)
        field.show_length(value)
        self._in_grid(part, words, field)

    def _in_grid(self, part: str, words: Phrase, field: QWidget) -> None:
        k = self.grid.count() // 2
        self.grid.addWidget(label(words, "soft", wrap=True), k // 2 * 2, k % 2)
        self.grid.addWidget(field, k // 2 * 2 + 1, k % 2)
        self.fields[part] = field

    def _option(self, option: Option, values: Mapping[str, object]) -> None:
        """One of its kind's own choices, by what it holds."""
        part, value = f"options.{option.key}", values[option.key]
        match option.kind:
            case OptionKind.YES:
                full = tr("{feature} {what}", feature=self.called, what=option.words)
                box = check(option.words, partial(self._set, part, option.words), full=full)
                box.setChecked(bool(value))
                self.fields[part] = box
                self.beside.addWidget(box)
            case OptionKind.PICK:
                picks: list[tuple[Value, object]] = [
                    (tr("{what}: {pick}", what=option.words, pick=term(p)), p) for p in option.picks
                ]
                self._pick(part, option.words, picks, value)
            case OptionKind.LENGTH:
                self._length(part, option.words, float(str(value)), option.low, high=option.high)
            case OptionKind.COUNT if option.high <= MOST_IN_A_LIST:
                counts: list[tuple[Value, object]] = [
                    (tr("{what}: {pick}", what=option.words, pick=Count(float(n))), float(n))
                    for n in range(1, int(option.high) + 1)
                ]
                self._pick(part, option.words, counts, float(str(value)))
            case OptionKind.TEXT:
                self._text(part, option, str(value))
            case OptionKind.DRAWING:
                self._drawing(part, option, str(value))
            case _:
                words = tr("{feature} {what}", feature=self.called, what=option.words)
                commit = partial(self._set, part, option.words)
                parse = parse_count if option.kind is OptionKind.COUNT else parse_number
                number = NumberField(self.session, words, parse, option.shown, commit, option.low, option.high)
                number.show_number(float(str(value)))
                self._in_grid(part, option.words, number)

    def _text(self, part: str, option: Option, value: str) -> None:
        field = line(tr("{feature} {what}", feature=self.called, what=option.words))
        field.setText(value)

        def told() -> None:
            if field.isModified():
                field.setModified(False)
                self._set(part, option.words, field.text().strip())

        field.editingFinished.connect(told)
        self._in_grid(part, option.words, field)

    def _drawing(self, part: str, option: Option, value: str) -> None:
        """The outline of a drawing, taken from a file, or done without."""
        words = tr("Do without the drawing") if value else tr("Take a drawing …")

        def press() -> None:
            if value:
                self._set(part, option.words, "")
                return
            from omnipel.exchange.reading.outlines import DRAWINGS  # loaded when it is needed

            name, _ = QFileDialog.getOpenFileName(self, say(tr("Take a drawing")), "", f"{say(tr('Drawings'))} ({DRAWINGS})")
            if name:
                self.take_drawing(Path(name), part, option.words)

        taken = button(words, press)
        self.fields[part] = taken
        self.beside.addWidget(taken)

    def take_drawing(self, file: Path, part: str, words: Phrase) -> None:
        """The largest outline of a drawing as its path."""
        from omnipel.exchange.reading.outlines import read_outline  # loaded when it is needed
        from omnipel.shop.document import DocumentError

        try:
            traced = read_outline(file)
        except DocumentError as error:
            self.session.say("stop", error.phrase)
            return
        steps = " L ".join(f"{x:.3f} {-y:.3f}" for x, y in traced.outline.points)
        self._set(part, words, f"M {steps} z")

    def _removed(self) -> None:
        self.session.change(tr("{feature} removed", feature=self.called), Change(self.ref, act=Act.REMOVE))

    def _named(self) -> None:
        text = self.name.text().strip()[:120]
        if text and self.name.isModified():
            self.name.setModified(False)
            self._set("name", FEATURE_FIELDS["name"], text)
