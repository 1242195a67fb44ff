"""The form of a cover's choices: each field named from one table, filled from the job, and set as one change with its words."""

from collections.abc import Callable
from dataclasses import replace
from operator import attrgetter

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFormLayout, QWidget

from omnipel.bench.parts.finished import FinishedOrCut
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import check, combo, label, line, reveal
from omnipel.bench.session import Session
from omnipel.core.covers.fields import FIELDS
from omnipel.core.covers.options import Option, OptionKind
from omnipel.core.drafting.panel import cut_beyond_edges
from omnipel.core.job.document import Choice, CoverChoices
from omnipel.core.words import refs
from omnipel.core.words.notation import parse_number, parse_share
from omnipel.core.words.phrases import NOTHING, Name, Phrase, Share, Value, mm, term, tr
from omnipel.core.words.refs import Of, Ref

So = Callable[[CoverChoices], bool]
"""Something that is so for some choices."""
Why = Callable[[CoverChoices], Phrase]
"""The sentence below a field."""


class ChoiceForm(QWidget):
    """Fields for what stands in the job's cover. They are made once and then only filled.

    `fields` are the widgets by what they decide, `named` what each is called.
    """

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.fields: dict[Ref, QWidget] = {}
        self.named: dict[Ref, Phrase] = {}
        self.fills: list[Callable[[CoverChoices], object]] = []
        self.form = QFormLayout(self)
        self.form.setLabelAlignment(Qt.AlignmentFlag.AlignLeft)
        self.form.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.AllNonFixedFieldsGrow)
        self.form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)
        self.form.setHorizontalSpacing(16)
        self.form.setVerticalSpacing(8)
        self.form.setContentsMargins(4, 4, 12, 4)

    def clear(self) -> None:
        """No field is left."""
        self.fields.clear()
        self.named.clear()
        self.fills.clear()
        while self.form.rowCount():
            self.form.removeRow(0)

    def fill(self) -> None:
        """Show the job as it stands."""
        for fill in self.fills:
            fill(self.session.open_job.cover)

    def go_to(self, ref: Ref) -> None:
        """Put the focus on the field that decides what a reference means, or the nearest that it lies in."""
        wanted = refs.choice("features") if ref.of is Of.FEATURE else ref
        while wanted not in self.fields and wanted.part:
            wanted = replace(wanted, part=wanted.part.rpartition(".")[0])
        if wanted in self.fields:
            reveal(self.fields[wanted])

    def set(self, path: str, value: object, reason: Phrase) -> None:
        """Change one choice."""
        self.session.set(ref_of(path), value, reason)

    # Rows

    def head(self, words: Phrase) -> None:
        """A heading."""
        self.form.addRow(label(words, "head", wrap=True))

    def row(self, path: str, field: QWidget, words: Phrase | None = None, why: Why | None = None) -> tuple[QWidget, ...]:
        """A field with its name, and a sentence below it; what stands in the form's field column."""
        words = FIELDS[path] if words is None else words
        self.fields[ref_of(path)] = field
        if words:
            self.named[ref_of(path)] = words
        name = label(words, wrap=True)
        name.setMinimumWidth(LOOK.px(150))
        name.setBuddy(field)
        self.form.addRow(name, field)
        return (field, self.why(why)) if why is not None else (field,)

    def whole_row(self, path: str, field: QWidget) -> None:
        """A field as wide as the form."""
        self.fields[ref_of(path)], self.named[ref_of(path)] = field, FIELDS[path]
        self.form.addRow(field)

    def why(self, why: Why) -> QWidget:
        """A sentence below the last field."""
        under = label(NOTHING, "soft", wrap=True)
        self.form.addRow(under)
        self.fills.append(lambda c: under.setText(self.session.tell(why(c))))
        return under

    def length(self, path: str, *, enabled: So | None = None, strict: bool = False, fine: bool = False) -> None:
        """A length."""
        words, get = FIELDS[path], attrgetter(path)

        def commit(length: float) -> None:
            before = mm(get(self.session.open_job.cover), fine=True)
            self.set(path, length, tr("{what} {before} → {after}", what=words, before=before, after=mm(length, fine=True)))

        field = length_field(self.session, words, commit, strict=strict, fine=fine)
        self.row(path, field)
        self.fills.append(lambda c: field.show_length(get(c)))
        if enabled is not None:
            self.fills.append(lambda c: field.setEnabled(enabled(c)))

    def short_text(self, path: str) -> None:
        """A short text."""
        words, get, field = FIELDS[path], attrgetter(path), line(FIELDS[path])

        def done() -> None:
            if field.isModified():
                field.setModified(False)
                self.set(path, field.text()[:120], tr("{what}: {text}", what=words, text=Name(field.text())))

        field.editingFinished.connect(done)
        self.row(path, field)
        self.fills.append(lambda c: None if field.isModified() else field.setText(get(c)))

    def pick(
        self,
        path: str,
        picks: list[tuple[Value, object]],
        *,
        picked: Callable[..., object] | None = None,
        why: Why | None = None,
        shown: So | None = None,
    ) -> None:
        """One of several."""
        words, get = FIELDS[path], attrgetter(path)
        field = combo(words, picks, picked or (lambda p: self.set(path, p, tr("{what}: {value}", what=words, value=term(p)))))
        rows = self.row(path, field, why=why)
        self.fills.append(lambda c: field.show_value(get(c)))
        if shown is not None:
            self.fills.append(lambda c: [self.form.setRowVisible(row, shown(c)) for row in rows])

    def share(self, path: str) -> None:
        """A share: 40 %, 40% or 0.4."""
        words, get = FIELDS[path], attrgetter(path)
        commit = lambda part: self.set(path, part, tr("{what}: {share}", what=words, share=Share(part, 1)))  # noqa: E731
        field = NumberField(self.session, words, parse_share, lambda part: Share(part, 1), commit, 0.0, 0.5)
        self.row(path, field)
        self.fills.append(lambda c: field.show_number(get(c)))

    # A scheme's own choices

    def option(self, option: Option) -> None:
        """One of the scheme's own choices."""
        path = f"options.{option.key}"
        why: Why | None = (lambda _c: option.why) if option.why else None

        def get(choices: CoverChoices) -> Choice:
            return choices.options.get(option.key, option.usual(choices.scheme, choices.habits))

        def commit(value: Choice) -> None:
            self.set(path, value, tr("{what}: {value}", what=option.words, value=option.shown(value)))

        match option.kind:
            case OptionKind.YES:
                box = check(option.words, commit)
                self.row(path, box, NOTHING, why)
                self.named[ref_of(path)] = option.words
                self.fills.append(lambda c: box.setChecked(bool(get(c))))
            case OptionKind.PICK:
                field = combo(option.words, [(term(p), p) for p in option.picks], commit)
                self.row(path, field, option.words, why)
                self.fills.append(lambda c: field.show_value(get(c)))
            case OptionKind.LENGTH:
                either = FinishedOrCut(self.session, option.words, commit, low=option.low, high=option.high)
                self.row(path, either, option.words, why)
                self.fills.append(lambda c: either.show_length(float(get(c)), self._beyond(option)))
            case OptionKind.COUNT | OptionKind.SHARE | OptionKind.RATIO:
                parse = {OptionKind.SHARE: parse_share, OptionKind.RATIO: parse_number}.get(option.kind, parse_count)
                number = NumberField(self.session, option.words, parse, option.shown, commit, option.low, option.high)
                self.row(path, number, option.words, why)
                self.fills.append(lambda c: number.show_number(float(get(c))))

    def _beyond(self, option: Option) -> float | None:
        """By how much what an option gives is cut longer than it is finished, mm; None where nothing is cut there."""
        draft = self.session.draft
        return cut_beyond_edges(draft.panels, option.ends_at) if draft is not None and option.ends_at else None


def ref_of(path: str) -> Ref:
    """What a field of the cover decides: a scheme's own choice, or a choice by its path."""
    head, _, key = path.partition("options.")
    return refs.option(key) if not head and key else refs.choice(path)


def parse_count(text: str) -> float:
    """A whole number."""
    return parse_number(text, whole=True)
