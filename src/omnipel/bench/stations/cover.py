"""The Cover station: scheme, clearance, allowances, edges, and what the scheme itself asks."""

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFormLayout, QHBoxLayout, QVBoxLayout, QWidget

from omnipel.bench.finished import FinishedOrCut
from omnipel.bench.look import LOOK
from omnipel.bench.numberfield import NumberField
from omnipel.bench.parts import check, column, combo, label, line, of_enum, reveal, scrolled, surface
from omnipel.bench.session import Session
from omnipel.bench.stations.features import FeatureList
from omnipel.bench.stations.reasons import CLOSURE_WHY, HEM_WHY, LINING_WHY, RING_WHY, WHY, allowance_why
from omnipel.bench.stations.schemes import SchemeStrip, with_scheme
from omnipel.bench.stations.slackplot import SlackPlot
from omnipel.bench.stations.wornview import WornView
from omnipel.bench.tapefield import length_field
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.options import Option, OptionKind
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import cut_beyond_edges
from omnipel.core.fit.going_on import Fit
from omnipel.core.forms import FORMS
from omnipel.core.job.document import (
    Choice,
    ClearanceSchool,
    ClipSchool,
    ClosureKind,
    CoverChoices,
    HemOrder,
    LiningSchool,
    RingSchool,
)
from omnipel.core.job.findings import Change
from omnipel.core.job.finish import HEMS, TURNED_UNDER, FinishKind
from omnipel.core.words.notation import parse_number, parse_share
from omnipel.core.words.phrases import NOTHING, Name, Phrase, Share, Value, mm, term, tr


class CoverStation(QWidget):
    """Decides the cover. The fields are made once for each scheme and then only filled."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.shown_for = ("", "")
        self.fills: list[Callable[[CoverChoices], None]] = []
        self.worn = WornView(session)
        self.form = QFormLayout()
        self.form.setLabelAlignment(Qt.AlignmentFlag.AlignLeft)
        self.form.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.AllNonFixedFieldsGrow)
        self.form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)
        self.form.setHorizontalSpacing(16)
        self.form.setVerticalSpacing(8)
        self.form.setContentsMargins(4, 4, 12, 4)
        inner = QWidget()
        inner.setLayout(self.form)
        self.strip = SchemeStrip(session)
        self.strip.picked.connect(self._scheme)
        self.plot = SlackPlot(session)
        self.features: FeatureList | None = None
        lower = QHBoxLayout()
        lower.setSpacing(16)
        lower.addWidget(surface(column(self.worn, self.plot, margins=4)), 5)
        self.area = scrolled(inner)
        lower.addWidget(self.area, 6)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(16, 16, 16, 8)
        layout.setSpacing(12)
        self.strip_area = scrolled(self.strip)
        self.strip_area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAsNeeded)
        self.strip_area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        layout.addWidget(self.strip_area)
        layout.addLayout(lower, 1)

    def enter(self) -> None:
        """The station was opened."""
        self.refresh()
        chosen = next((card for card in self.strip.cards if card.isChecked()), None)
        if chosen is not None:
            chosen.setFocus()

    def refresh(self) -> None:
        """Show the job as it stands."""
        job = self.session.open_job
        key = (job.thing.form, job.cover.scheme)
        if key != self.shown_for:
            self._build()
            self.shown_for = key
        self.strip.refresh()
        self.strip_area.setFixedHeight(LOOK.px(150) + 12)
        for fill in self.fills:
            fill(job.cover)
        if self.features is not None:
            self.features.refresh()
        self.plot.refresh()
        self.worn.refresh()

    def field_words(self) -> dict[str, Phrase]:
        """Every field of this station, for go-to."""
        self.refresh()
        return self.named

    def go_to(self, path: str) -> None:
        """Put the focus on the field that decides a path."""
        while path:
            if path in self.fields:
                reveal(self.fields[path])
                return
            path = path.rpartition(".")[0]

    # Building

    def _build(self) -> None:
        self.fills, self.features = [], None
        self.fields: dict[str, QWidget] = {}
        self.named: dict[str, Phrase] = {}
        while self.form.rowCount():
            self.form.removeRow(0)
        form, scheme = FORMS.get(self.session.open_job.thing.form), SCHEMES.get(self.session.open_job.cover.scheme)
        if form is None or scheme is None:
            return
        self._head(tr("Clearance"))
        self._pick(
            "clearance.school",
            tr("school"),
            of_enum(ClearanceSchool),
            lambda c: c.clearance.school,
            self._school,
            lambda c: WHY[c.clearance.school],
        )
        self._clearance()
        self._head(tr("Edges and seams"))
        self._length("seam_allowance", tr("seam allowance"), lambda c: c.seam_allowance)
        self._why(lambda c: allowance_why(c.seam_allowance))
        self._length("closing_allowance", tr("closing seam allowance"), lambda c: c.closing_allowance)
        self._pick(
            "hem.kind",
            tr("lower edge"),
            of_enum(HEMS),
            lambda c: c.hem.kind,
            lambda k: self._set("hem.kind", k, tr("lower edge: {kind}", kind=term(k))),
        )
        self._length(
            "hem.width",
            tr("hem or casing width"),
            lambda c: c.hem.width,
            enabled=lambda c: c.hem.kind not in (FinishKind.RAW, FinishKind.SELVAGE),
        )
        self._length("hem.turn_under", tr("turn-under"), lambda c: c.hem.turn_under, enabled=lambda c: c.hem.kind in TURNED_UNDER)
        self._pick(
            "ring",
            tr("joining a strip to a ring"),
            of_enum(RingSchool),
            lambda c: c.ring,
            lambda r: self._set("ring", r, term(r)),
            lambda c: RING_WHY[c.ring],
            lambda c: c.scheme in SCHEMES and SCHEMES[c.scheme].rings,
        )
        self._pick(
            "hem_order",
            tr("hem"),
            of_enum(HemOrder),
            lambda c: c.hem_order,
            lambda o: self._set("hem_order", o, term(o)),
            lambda c: HEM_WHY[c.hem_order],
        )
        self._pick("clips", tr("relief clips"), of_enum(ClipSchool), lambda c: c.clips, lambda r: self._set("clips", r, term(r)))
        self._head(tr("Cloth"))
        self._text("cloth.name", tr("cloth"), lambda c: c.cloth.name)
        self._length("cloth.thickness", tr("thickness of the cloth"), lambda c: c.cloth.thickness, fine=True)
        self._length("padding", tr("thickness of padding"), lambda c: c.padding, fine=True)
        self._length("cloth.usable_width", tr("usable width"), lambda c: c.cloth.usable_width, strict=True)
        if scheme.options:
            self._head(scheme.words)
        for option in scheme.options:
            self._option(option)
        self._head(tr("Closure"))
        self._pick(
            "closure.kind",
            tr("lower edge opens by"),
            of_enum(ClosureKind),
            lambda c: c.closure.kind,
            lambda k: self._set("closure.kind", k, tr("closure: {kind}", kind=term(k))),
            lambda c: CLOSURE_WHY[c.closure.kind],
        )
        self._length(
            "closure.length", tr("how far"), lambda c: c.closure.length, enabled=lambda c: c.closure.kind is not ClosureKind.NONE
        )
        self._head(tr("Lining and padding"))
        self._pick(
            "lining.school",
            tr("lining"),
            of_enum(LiningSchool),
            lambda c: c.lining.school,
            lambda k: self._set("lining.school", k, tr("lining: {kind}", kind=term(k))),
            lambda c: LINING_WHY[c.lining.school],
        )
        lined = lambda c: c.lining.school is not LiningSchool.NONE  # noqa: E731
        self._length("lining.seam_allowance", tr("lining seam allowance"), lambda c: c.lining.seam_allowance, enabled=lined)
        self._length(
            "lining.turning_gap",
            tr("turning gap"),
            lambda c: c.lining.turning_gap,
            enabled=lambda c: c.lining.school is LiningSchool.BAGGED,
        )
        self._length(
            "padding_inset", tr("padding ends short of the seam by"), lambda c: c.padding_inset, enabled=lambda c: c.padding > 0
        )
        self._percent("quilting.along", tr("quilting takes up, along"), lambda c: c.quilting.along)
        self._percent("quilting.across", tr("quilting takes up, across"), lambda c: c.quilting.across)
        self._percent("cloth.shrink_warp", tr("first wash, along the warp"), lambda c: c.cloth.shrink_warp)
        self._percent("cloth.shrink_weft", tr("first wash, across it"), lambda c: c.cloth.shrink_weft)
        self._head(tr("On the panels"))
        self.features = FeatureList(self.session)
        self.form.addRow(self.features)
        self.fields["cover.features"] = self.features
        self.named["cover.features"] = tr("on the panels: ports, pockets, fasteners")

    def _head(self, words: Phrase) -> None:
        self.form.addRow(label(words, "head", wrap=True))

    def _row(
        self, path: str, words: Phrase, field: QWidget, why: Callable[[CoverChoices], Phrase] | None = None
    ) -> tuple[QWidget, ...]:
        """A field with its name, and a sentence below it; what stands in the form's field column."""
        full = f"cover.{path}"
        self.fields[full] = field
        if words:
            self.named[full] = words
        name = label(words, wrap=True)
        name.setMinimumWidth(LOOK.px(150))
        name.setBuddy(field)
        self.form.addRow(name, field)
        return (field, self._why(why)) if why is not None else (field,)

    def _why(self, why: Callable[[CoverChoices], Phrase]) -> QWidget:
        """A sentence below the last field."""
        under = label(NOTHING, "soft", wrap=True)
        self.form.addRow(under)
        self.fills.append(lambda c: under.setText(self.session.tell(why(c))))
        return under

    def _length(
        self,
        path: str,
        words: Phrase,
        get: Callable[[CoverChoices], float],
        *,
        enabled: Callable[[CoverChoices], bool] | None = None,
        strict: bool = False,
        fine: bool = False,
    ) -> None:
        field = length_field(
            self.session,
            words,
            lambda length: self._set(
                path,
                length,
                tr(
                    "{what} {before} → {after}",
                    what=words,
                    before=mm(get(self.session.open_job.cover), fine=True),
                    after=mm(length, fine=True),
                ),
            ),
            strict=strict,
            fine=fine,
        )
        self._row(path, words, field)

        def fill(choices: CoverChoices) -> None:
            field.show_length(get(choices))
            if enabled:
                field.setEnabled(enabled(choices))

        self.fills.append(fill)

    def _text(self, path: str, words: Phrase, get: Callable[[CoverChoices], str]) -> None:
        field = line(words)

        def done() -> None:
            if field.isModified():
                field.setModified(False)
                self._set(path, field.text()[:120], tr("{what}: {text}", what=words, text=Name(field.text())))

        field.editingFinished.connect(done)
        self._row(path, words, field)
        self.fills.append(lambda c: None if field.isModified() else field.setText(get(c)))

    def _pick(
        self,
        path: str,
        words: Phrase,
        picks: list[tuple[Value, object]],
        get: Callable[[CoverChoices], object],
        picked: Callable[..., object],
        why: Callable[[CoverChoices], Phrase] | None = None,
        shown: Callable[[CoverChoices], bool] | None = None,
    ) -> None:
        field = combo(words, picks, picked)
        rows = self._row(path, words, field, why)
        self.fills.append(lambda c: field.show_value(get(c)))
        if shown is not None:

            def show(choices: CoverChoices) -> None:
                for row in rows:
                    self.form.setRowVisible(row, shown(choices))

            self.fills.append(show)

    def _percent(self, path: str, words: Phrase, get: Callable[[CoverChoices], float]) -> None:
        """A share: 40 %, 40% or 0.4."""
        commit = lambda part: self._set(path, part, tr("{what}: {share}", what=words, share=Share(part, 1)))  # noqa: E731
        field = NumberField(self.session, words, parse_share, lambda part: Share(part, 1), commit, 0.0, 0.5)
        self._row(path, words, field)
        self.fills.append(lambda c: field.show_number(get(c)))

    def _clearance(self) -> None:
        words, share_words = tr("gap or ease"), tr("share of the girth")
        field = length_field(
            self.session,
            words,
            lambda length: self._set("clearance.amount", length, tr("clearance {gap}", gap=mm(length, fine=True))),
        )
        self._row("clearance.amount", words, field)
        by_share = lambda part: self._set("clearance.amount", part, tr("clearance {share} of the girth", share=Share(part, 1)))  # noqa: E731
        share = NumberField(self.session, share_words, parse_share, lambda part: Share(part, 2), by_share, 0.0, 0.5)
        self.form.addRow(label(share_words, wrap=True), share)

        def fill(choices: CoverChoices) -> None:
            by_girth = choices.clearance.school is ClearanceSchool.GIRTH
            self.form.setRowVisible(field, not by_girth)
            self.form.setRowVisible(share, by_girth)
            if by_girth:
                share.show_number(choices.clearance.amount)
            else:
                field.show_length(choices.clearance.amount)

        self.fills.append(fill)

    def _option(self, option: Option) -> None:
        path = f"options.{option.key}"

        def get(choices: CoverChoices) -> Choice:
            return choices.options.get(option.key, option.usual(choices.scheme, choices.habits))

        def reason(value: Choice) -> Phrase:
            return tr("{what}: {value}", what=option.words, value=option.shown(value))

        why = (lambda _c: option.why) if option.why else None
        match option.kind:
            case OptionKind.YES:
                box = check(option.words, lambda on: self._set(path, on, reason(on)))
                self._row(path, NOTHING, box, why)
                self.named[f"cover.{path}"] = option.words
                self.fills.append(lambda c: box.setChecked(bool(get(c))))
            case OptionKind.PICK:
                picks: list[tuple[Value, object]] = [(term(p), p) for p in option.picks]
                self._pick(path, option.words, picks, get, lambda p: self._set(path, p, reason(p)), why)
            case OptionKind.LENGTH if option.ends_at:
                either = FinishedOrCut(
                    self.session,
                    option.words,
                    lambda length: self._set(path, length, reason(length)),
                    low=option.low,
                    high=option.high,
                )
                self._row(path, option.words, either, why)
                self.fills.append(lambda c: either.show_length(float(get(c)), self._beyond(option)))
            case OptionKind.LENGTH:
                field = length_field(
                    self.session,
                    option.words,
                    lambda length: self._set(path, length, reason(length)),
                    low=option.low,
                    high=option.high,
                )
                self._row(path, option.words, field, why)
                self.fills.append(lambda c: field.show_length(float(get(c))))
            case OptionKind.COUNT | OptionKind.SHARE | OptionKind.RATIO:
                parse = {OptionKind.SHARE: parse_share, OptionKind.RATIO: parse_number}.get(option.kind, parse_count)
                number = NumberField(
                    self.session,
                    option.words,
                    parse,
                    option.shown,
                    lambda v: self._set(path, v, reason(v)),
                    option.low,
                    option.high,
                )
                self._row(path, option.words, number, why)
                self.fills.append(lambda c: number.show_number(float(get(c))))

    def _beyond(self, option: Option) -> float:
        """By how much what an option gives is cut longer than it is finished, mm."""
        draft = self.session.draft
        return cut_beyond_edges(draft.panels, option.ends_at) if draft is not None else 0.0

    # Changing

    def _set(self, path: str, value: object, reason: Phrase) -> None:
        self.session.set(f"cover.{path}", value, reason)

    def _scheme(self, key: str) -> None:
        job = self.session.open_job
        if key != job.cover.scheme:
            self.session.apply(with_scheme(job, SCHEMES[key]), tr("scheme: {scheme}", scheme=SCHEMES[key].words))

    def _school(self, school: ClearanceSchool) -> None:
        """Change the school and keep the gap: the same clearance, said the other way."""
        job, draft = self.session.open_job, self.session.draft
        given = job.cover.clearance
        fit = draft.fit if isinstance(draft, Drafted) else None
        girth = max(s.passes.value for s in fit.slacks) if isinstance(fit, Fit) else 1000.0
        two_pi = 6.283185307179586
        side = {
            ClearanceSchool.SIDE: given.amount,
            ClearanceSchool.DIMENSION: given.amount / 2.0,
            ClearanceSchool.GIRTH: given.amount * girth / two_pi,
        }[given.school]
        amount = {
            ClearanceSchool.SIDE: side,
            ClearanceSchool.DIMENSION: side * 2.0,
            ClearanceSchool.GIRTH: round(side * two_pi / girth, 4),
        }[school]
        self.session.change(
            tr("clearance {school}", school=term(school)),
            Change("cover.clearance.school", school),
            Change("cover.clearance.amount", amount),
        )


def parse_count(text: str) -> float:
    """A whole number."""
    return parse_number(text, whole=True)
