"""The form of a cover's choices: each field named from one table, filled from the job, and set as one change with its words."""

from collections.abc import Callable
from dataclasses import replace
from operator import attrgetter

from PySide6.QtCore import QEvent, Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QApplication, QWidget

from omnipel.bench.parts.finished import FinishedOrCut
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.rows import Rows
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import check, label, line, reveal, row
from omnipel.bench.parts.wrapped import Wrapped
from omnipel.bench.session import Session
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.fields import FIELDS
from omnipel.core.covers.options import Option, OptionKind
from omnipel.core.covers.scheme import Scheme
from omnipel.core.covers.used import options_used, uses
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import cut_beyond_edges
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.feature import Choice
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, Phrase, Ratio, Share, Value, listed, mm, term, tr
from omnipel.core.words.plain_numbers import parse_count, parse_number, parse_share
from omnipel.core.words.refs import Of, Ref

Why = Callable[[CoverChoices], Phrase]
"""The sentence below a field."""


SHORT = 78
"""A field of a few figures, px."""


class Sentence(Wrapped):
    """A sentence below a field, with room for every line of it: a form with rows that are not there reckons with other widths."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("soft")
        self.setTextFormat(Qt.TextFormat.PlainText)

    def setText(self, text: str) -> None:
        super().setText(text)
        self._room()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._room()

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() is QEvent.Type.FontChange:
            self._room()

    def _room(self) -> None:
        self.setMinimumHeight(0)  # a label never wants less than it has been given
        self.setMinimumHeight(max(0, self.heightForWidth(self.width())))  # none without words


class ChoiceForm(QWidget):
    """Fields for what stands in the job's cover. They are made once and then only filled.

    `fields` are the widgets by what they decide, `named` what each is called; `told` says why one chooses the one or the other in the field in hand.
    """

    told = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.fields: dict[Ref, QWidget] = {}
        self.named: dict[Ref, Phrase] = {}
        self.fills: list[Callable[[CoverChoices], object]] = []
        self.rows: list[tuple[Ref, QWidget]] = []
        self.heads: list[tuple[QWidget, list[Ref]]] = []
        self.shown: frozenset[Ref] | None = None
        self.whys: dict[Ref, Why] = {}
        self.told_of = Ref(Of.JOB)
        self.by_hand: Sentence | None = None
        self.made_for: object = None
        self.form = Rows(self)
        self.form.setSpacing(4)
        self.form.setContentsMargins(0, 0, 8, 0)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.focusChanged.connect(self._in_hand)

    def asks(self, scheme: Scheme) -> object:
        """What decides which fields there are."""
        raise NotImplementedError

    def build(self, scheme: Scheme) -> None:
        """Make the fields that a scheme asks for."""
        raise NotImplementedError

    def made(self, scheme: Scheme) -> None:
        """Make the fields anew where a scheme asks for others."""
        if self.asks(scheme) != self.made_for:
            self.made_for = self.asks(scheme)
            self.clear()
            self.build(scheme)

    def clear(self) -> None:
        """No field is left."""
        self.fields.clear()
        self.named.clear()
        self.fills.clear()
        self.rows.clear()
        self.heads.clear()
        self.whys.clear()
        self.shown = None
        self.by_hand = None
        self.form.clear()

    def fill(self) -> None:
        """Show the job as it stands; what its cover has no use for is not there."""
        offered = self._offered()
        self._say_what_stands_in()
        for fill in self.fills:
            fill(self.session.open_job.cover)
        self._tell()
        if offered != self.shown:
            self.shown = offered
            self.form.setEnabled(False)  # laid out once, not for every row
            for ref, row in self.rows:
                self.form.show_row(row, ref in offered)
            for head, refs_ in self.heads:
                self.form.show_row(head, not offered.isdisjoint(refs_))
            self.form.setEnabled(True)
            self.form.invalidate()

    def _in_hand(self, _before: QWidget | None, now: QWidget | None) -> None:
        """Say why one chooses the one or the other in the field that has the focus."""
        if now is None or not self.isAncestorOf(now):
            return
        found = next((ref for ref, field in self.fields.items() if field is now or field.isAncestorOf(now)), None)
        if found is not None:
            self.told_of = found
            self._tell()

    def _tell(self) -> None:
        why, job = self.whys.get(self.told_of), self.session.job
        self.told.emit(self.session.tell(why(job.cover)) if why is not None and job is not None else "")

    def _offered(self) -> frozenset[Ref]:
        """All fields that change anything, as the others stand."""
        cover, draft = self.session.open_job.cover, self.session.draft
        scheme = SCHEMES[cover.scheme]
        drafted = draft.cover if isinstance(draft, Drafted) else None
        own = {refs.option(option.key) for option in options_used(scheme, cover, self.session.body, drafted)}
        return frozenset(
            ref for ref, _ in self.rows if (ref in own if ref.of is Of.OPTION else uses(scheme, ref, cover, drafted))
        )

    def _say_what_stands_in(self) -> None:
        """Name the choices that are not there because sizes set by hand stand in for them."""
        if self.by_hand is None:
            return
        draft, cover = self.session.draft, self.session.open_job.cover
        stood_in = draft.cover.stood_in if isinstance(draft, Drafted) else {}
        self.form.show_row(self.by_hand, bool(stood_in))
        if stood_in:
            asked = options_used(SCHEMES[cover.scheme], cover, self.session.body)
            called = {refs.ANY_CLEARANCE: tr("clearance")} | {refs.option(option.key): option.words for option in asked}
            words = listed(called[ref] for ref in stood_in if ref in called)
            self.by_hand.setText(self.session.tell(tr("Sizes set by hand stand in for: {choices}.", choices=words)))

    @property
    def named_now(self) -> dict[Ref, Phrase]:
        """What each field is called that is there now."""
        return {ref: words for ref, words in self.named.items() if self.shown is not None and ref in self.shown}

    def decides(self, ref: Ref) -> Ref | None:
        """The field that decides what a reference means, or the nearest that it lies in; None when there is none here."""
        while ref not in self.fields and ref.part:
            ref = replace(ref, part=ref.part.rpartition(".")[0])
        return ref if ref in self.fields else None

    def go_to(self, ref: Ref) -> None:
        """Put the focus on the field that decides what a reference means."""
        wanted = self.decides(ref)
        if wanted is not None:
            reveal(self.fields[wanted])

    # Rows

    def stood_in(self) -> None:
        """A row for what sizes set by hand stand in for."""
        self.by_hand = Sentence()
        self.form.addWidget(self.by_hand)

    def head(self, words: Phrase) -> None:
        """A heading."""
        head = label(words, "head", wrap=True)
        self.form.addWidget(head)
        self.heads.append((head, []))

    def row(self, ref: Ref, field: QWidget, words: Phrase | None = None, why: Why | None = None) -> None:
        """A field with its name, and a sentence below it."""
        words = FIELDS[ref] if words is None else words
        self.fields[ref] = field
        if words:
            self.named[ref] = words
        name = label(words, wrap=True)
        self.form.add_row(name, field)
        self.under(ref, field)
        if why is not None:
            self.why(why)

    def under(self, ref: Ref, row: QWidget) -> None:
        """A row that is there while a field is."""
        self.rows.append((ref, row))
        if self.heads:
            self.heads[-1][1].append(ref)

    def whole_row(self, ref: Ref, field: QWidget) -> None:
        """A field as wide as the form."""
        self.fields[ref], self.named[ref] = field, FIELDS[ref]
        self.form.addWidget(field)
        self.under(ref, field)

    def why(self, why: Why) -> None:
        """What there is to say about the last field; it is said while that is in hand."""
        ref = next(reversed(self.fields))
        self.whys[ref] = why
        self.fills.append(lambda c: self.fields[ref].setToolTip(self.session.tell(why(c))) if ref in self.fields else None)

    def length(self, ref: Ref, *, strict: bool = False, fine: bool = False) -> None:
        """A length."""
        words, get = FIELDS[ref], attrgetter(ref.part)

        def commit(length: float) -> None:
            before = mm(get(self.session.open_job.cover), fine=True)
            self.session.set(ref, length, tr("{what} {before} → {after}", what=words, before=before, after=mm(length, fine=True)))

        field = length_field(self.session, words, commit, strict=strict, fine=fine)
        self.row(ref, field)
        self.fills.append(lambda c: field.show_length(get(c)))

    def short_text(self, ref: Ref) -> None:
        """A short text."""
        words, get, field = FIELDS[ref], attrgetter(ref.part), line(FIELDS[ref])
        field.setObjectName("words")

        def done() -> None:
            if field.isModified():
                field.setModified(False)
                self.session.set(ref, field.text()[:120], tr("{what}: {text}", what=words, text=Name(field.text())))

        field.editingFinished.connect(done)
        self.row(ref, field)
        self.fills.append(lambda c: None if field.isModified() else field.setText(get(c)))

    def pick(
        self, ref: Ref, picks: list[tuple[Value, object]], *, picked: Callable[..., object] | None = None, why: Why | None = None
    ) -> None:
        """One of several."""
        words, get = FIELDS[ref], attrgetter(ref.part)
        field = combo(
            words, picks, picked or (lambda p: self.session.set(ref, p, tr("{what}: {value}", what=words, value=term(p))))
        )
        self.row(ref, field, why=why)
        self.fills.append(lambda c: field.show_value(get(c)))

    def tick(self, ref: Ref) -> None:
        """Yes or no."""
        words, get = FIELDS[ref], attrgetter(ref.part)
        box = check(
            words, lambda on: self.session.set(ref, on, tr("{what}: {value}", what=words, value=tr("yes") if on else tr("no")))
        )
        self.whole_row(ref, box)
        self.fills.append(lambda c: box.setChecked(get(c)))

    def ratio(self, ref: Ref, low: float, high: float, why: Phrase) -> None:
        """A ratio: 2.4 : 1 or 2.4."""
        words, get = FIELDS[ref], attrgetter(ref.part)
        commit = lambda to: self.session.set(ref, to, tr("{what}: {ratio}", what=words, ratio=Ratio(to)))  # noqa: E731
        field = NumberField(self.session, words, parse_number, Ratio, commit, low, high)
        self.row(ref, field, why=lambda _c: why)
        self.fills.append(lambda c: field.show_number(get(c)))

    def shares(self, words: Phrase, *both: Ref) -> None:
        """Shares that belong together, beside one another: 40 %, 40% or 0.4."""
        fields = [self._share(ref) for ref in both]
        beside = QWidget()
        both_fields = row(*fields, spacing=6)
        both_fields.addStretch(1)
        beside.setLayout(both_fields)
        self.row(both[0], beside, words)
        for ref, field in zip(both, fields, strict=True):
            self.fields[ref], self.named[ref] = field, FIELDS[ref]

        def fill(_choices: CoverChoices) -> None:
            for field in fields:
                field.setMaximumWidth(LOOK.px(SHORT))  # text may have grown

        self.fills.append(fill)

    def _share(self, ref: Ref) -> NumberField:
        words, get = FIELDS[ref], attrgetter(ref.part)
        commit = lambda part: self.session.set(ref, part, tr("{what}: {share}", what=words, share=Share(part, 1)))  # noqa: E731
        field = NumberField(self.session, words, parse_share, lambda part: Share(part, 1), commit, 0.0, 0.5)
        self.fills.append(lambda c: field.show_number(get(c)))
        return field

    # A scheme's own choices

    def option(self, option: Option) -> None:
        """One of the scheme's own choices."""
        ref = refs.option(option.key)
        why: Why | None = (lambda _c: option.why) if option.why else None

        def get(choices: CoverChoices) -> Choice:
            return choices.options.get(option.key, option.usual(choices.scheme, choices.habits))

        def commit(value: Choice) -> None:
            self.session.set(ref, value, tr("{what}: {value}", what=option.words, value=option.shown(value)))

        match option.kind:
            case OptionKind.YES:
                box = check(option.words, commit)
                self.row(ref, box, NOTHING, why)
                self.named[ref] = option.words
                self.fills.append(lambda c: box.setChecked(bool(get(c))))
            case OptionKind.PICK:
                field = combo(option.words, [(term(p), p) for p in option.picks], commit)
                self.row(ref, field, option.words, why)
                self.fills.append(lambda c: field.show_value(get(c)))
            case OptionKind.LENGTH:
                either = FinishedOrCut(self.session, option.words, commit, low=option.low, high=option.high)
                self.row(ref, either, option.words, why)
                self.fills.append(lambda c: either.show_length(float(get(c)), self._beyond(option)))
            case OptionKind.COUNT | OptionKind.SHARE | OptionKind.RATIO:
                parse = {OptionKind.SHARE: parse_share, OptionKind.RATIO: parse_number}.get(option.kind, parse_count)
                number = NumberField(self.session, option.words, parse, option.shown, commit, option.low, option.high)
                self.row(ref, number, option.words, why)
                self.fills.append(lambda c: number.show_number(float(get(c))))

    def _beyond(self, option: Option) -> float | None:
        """By how much what an option gives is cut longer than it is finished, mm; None where nothing is cut there."""
        draft = self.session.draft
        return cut_beyond_edges(draft.panels, option.ends_at) if draft is not None and option.ends_at else None
