"""The Cover station: scheme, clearance, allowances, edges, and what the scheme itself asks."""

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QFormLayout, QHBoxLayout, QLabel, QLineEdit, QVBoxLayout, QWidget

from omnipel.bench.feature_cards import FeatureList
from omnipel.bench.look import LOOK
from omnipel.bench.parts import column, combo, label, scrolled, surface
from omnipel.bench.schemes import SchemeStrip, with_scheme
from omnipel.bench.session import Session
from omnipel.bench.slackplot import SlackPlot
from omnipel.bench.tapefield import TapeField, length_field
from omnipel.bench.wornview import WornView
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.scheme import Option, OptionKind
from omnipel.core.drafting.finishes import HEMS, TURNED_UNDER, FinishKind
from omnipel.core.drafting.seams import ClipSchool
from omnipel.core.findings import Change
from omnipel.core.forms import FORMS
from omnipel.core.job import ClearanceSchool, ClosureKind, CoverChoices, HemOrder, LiningSchool, RingSchool

WHY = {
    ClearanceSchool.SIDE: "The gap on each side: what the hand feels between cloth and object.",
    ClearanceSchool.DIMENSION: "Ease added to each across-dimension; half of it lies on each side.",
    ClearanceSchool.GIRTH: "A share of the girth; large things get a larger gap.",
}
RING_WHY = {
    RingSchool.RING_FIRST: "Close the wall, match the quarters: every mark is checked before the long seam.",
    RingSchool.MEET_AND_TRIM: "Sew round and close where the ends meet: no puckers, 150 mm of strip more.",
}

HEM_WHY = {
    HemOrder.HEM_LAST: "Hem last: the lower edge is evened out once the cover hangs.",
    HemOrder.HEM_FIRST: "Hem first: sewn while the panels are flat; the seams run through it.",
}
CLOSURE_WHY = {
    ClosureKind.NONE: "It drops over as it is.",
    ClosureKind.ZIP: "Opens from the edge up: the quickest on and off.",
    ClosureKind.HOOK_AND_LOOP: "Opens with one hand; collects lint.",
    ClosureKind.LACING: "Opens wide and pulls in tight; slow.",
    ClosureKind.CORD: "Drawn in under the object after it is on.",
    ClosureKind.ELASTIC: "Holds by itself; wears out first.",
}
LINING_WHY = {
    LiningSchool.NONE: "One layer.",
    LiningSchool.BAGGED: "Sewn to the lower edge and turned through a gap: no raw edge anywhere.",
    LiningSchool.BOUND: "Ends at the binding of the lower edge.",
    LiningSchool.AS_ONE: "Both cloths are cut alike and sewn as one: the quickest, raw inside.",
}


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

    def go_to(self, path: str) -> None:
        """Put the focus on the field that decides a path."""
        while path:
            if path in self.fields:
                self.fields[path].setFocus(Qt.FocusReason.OtherFocusReason)
                return
            path = path.rpartition(".")[0]

    # Building

    def _build(self) -> None:
        self.fills, self.features = [], None
        self.fields: dict[str, QWidget] = {}
        while self.form.rowCount():
            self.form.removeRow(0)
        form, scheme = FORMS.get(self.session.open_job.thing.form), SCHEMES.get(self.session.open_job.cover.scheme)
        if form is None or scheme is None:
            return
        self._head("Clearance")
        self._pick(
            "clearance.school",
            "school",
            [(s.value, s) for s in ClearanceSchool],
            lambda c: c.clearance.school,
            self._school,
            lambda c: WHY[c.clearance.school],
        )
        self._clearance()
        self._head("Edges and seams")
        self._length("seam_allowance", "seam allowance", lambda c: c.seam_allowance)
        self._why(lambda c: allowance_why(c.seam_allowance))
        self._length("closing_allowance", "closing seam allowance", lambda c: c.closing_allowance)
        self._pick(
            "hem.kind",
            "lower edge",
            [(k.value, k) for k in HEMS],
            lambda c: c.hem.kind,
            lambda k: self._set("hem.kind", k, f"lower edge: {k}"),
        )
        self._length(
            "hem.width",
            "hem or casing width",
            lambda c: c.hem.width,
            enabled=lambda c: c.hem.kind not in (FinishKind.RAW, FinishKind.SELVAGE),
        )
        self._length("hem.turn_under", "turn-under", lambda c: c.hem.turn_under, enabled=lambda c: c.hem.kind in TURNED_UNDER)
        self._pick(
            "ring",
            "joining a strip to a ring",
            [(r.value, r) for r in RingSchool],
            lambda c: c.ring,
            lambda r: self._set("ring", r, f"{r}"),
            lambda c: RING_WHY[c.ring],
        )
        order = [(o.value, o) for o in HemOrder]
        self._pick(
            "hem_order",
            "hem",
            order,
            lambda c: c.hem_order,
            lambda o: self._set("hem_order", o, f"{o}"),
            lambda c: HEM_WHY[c.hem_order],
        )
        self._pick(
            "clips",
            "relief clips",
            [(r.value, r) for r in ClipSchool],
            lambda c: c.clips,
            lambda r: self._set("clips", r, f"{r}"),
        )
        self._head("Cloth")
        self._text("cloth.name", "cloth", lambda c: c.cloth.name)
        self._length("cloth.thickness", "thickness of the cloth", lambda c: c.cloth.thickness, fine=True)
        self._length("padding", "thickness of padding", lambda c: c.padding, fine=True)
        self._length("cloth.usable_width", "usable width", lambda c: c.cloth.usable_width, strict=True)
        if scheme.options:
            self._head(scheme.words)
        for option in scheme.options:
            self._option(option)
        self._head("Closure")
        self._pick(
            "closure.kind",
            "lower edge opens by",
            [(k.value, k) for k in ClosureKind],
            lambda c: c.closure.kind,
            lambda k: self._set("closure.kind", k, f"closure: {k}"),
            lambda c: CLOSURE_WHY[c.closure.kind],
        )
        self._length(
            "closure.length", "how far", lambda c: c.closure.length, enabled=lambda c: c.closure.kind is not ClosureKind.NONE
        )
        self._head("Lining and padding")
        self._pick(
            "lining.school",
            "lining",
            [(k.value, k) for k in LiningSchool],
            lambda c: c.lining.school,
            lambda k: self._set("lining.school", k, f"lining: {k}"),
            lambda c: LINING_WHY[c.lining.school],
        )
        lined = lambda c: c.lining.school is not LiningSchool.NONE  # noqa: E731
        self._length("lining.seam_allowance", "lining seam allowance", lambda c: c.lining.seam_allowance, enabled=lined)
        self._length(
            "lining.turning_gap",
            "turning gap",
            lambda c: c.lining.turning_gap,
            enabled=lambda c: c.lining.school is LiningSchool.BAGGED,
        )
        self._length(
            "padding_inset", "padding ends short of the seam by", lambda c: c.padding_inset, enabled=lambda c: c.padding > 0
        )
        self._percent("quilting.along", "quilting takes up, along", lambda c: c.quilting.along)
        self._percent("quilting.across", "quilting takes up, across", lambda c: c.quilting.across)
        self._percent("cloth.shrink_warp", "first wash, along the warp", lambda c: c.cloth.shrink_warp)
        self._percent("cloth.shrink_weft", "first wash, across it", lambda c: c.cloth.shrink_weft)
        self._head("On the panels")
        self.features = FeatureList(self.session)
        self.form.addRow(self.features)
        self.fields["cover.features"] = self.features

    def _head(self, words: str) -> None:
        self.form.addRow(label(words, "head", wrap=True))

    def _row(self, path: str, words: str, field: QWidget, why: Callable[[CoverChoices], str] | None = None) -> None:
        full = f"cover.{path}"
        self.fields[full] = field
        name = label(words, wrap=True)
        name.setMinimumWidth(LOOK.px(150))
        name.setBuddy(field)
        self.form.addRow(name, field)
        if why is not None:
            self._why(why)

    def _why(self, why: Callable[[CoverChoices], str]) -> None:
        """A sentence below the last field."""
        under = label("", "soft", wrap=True)
        self.form.addRow(under)
        self.fills.append(lambda c: under.setText(why(c)))

    def _length(
        self,
        path: str,
        words: str,
        get: Callable[[CoverChoices], float],
        *,
        enabled: Callable[[CoverChoices], bool] | None = None,
        strict: bool = False,
        fine: bool = False,
    ) -> None:
        field = length_field(
            self.session,
            words,
            lambda mm: self._set(
                path, mm, f"{words} {self.session.fmt(get(self.session.open_job.cover))} → {self.session.fmt(mm)}"
            ),
            strict=strict,
        )
        self._row(path, words, field)

        def fill(choices: CoverChoices) -> None:
            show(field, get(choices), fine=fine)
            if enabled:
                field.setEnabled(enabled(choices))

        self.fills.append(fill)

    def _text(self, path: str, words: str, get: Callable[[CoverChoices], str]) -> None:
        field = QLineEdit(accessibleName=words)
        field.editingFinished.connect(
            lambda: (
                field.text() != get(self.session.open_job.cover)
                and self._set(path, field.text()[:120], f"{words}: {field.text()[:60]}")
            )
        )
        self._row(path, words, field)
        self.fills.append(lambda c: None if field.hasFocus() else field.setText(get(c)))

    def _pick(
        self,
        path: str,
        words: str,
        picks: list[tuple[str, object]] | list[tuple[str, str]],
        get: Callable[[CoverChoices], object],
        picked: Callable[..., object],
        why: Callable[[CoverChoices], str] | None = None,
    ) -> None:
        field = combo(words, picks, picked)
        self._row(path, words, field, why)
        self.fills.append(lambda c: field.show_value(get(c)))

    def _percent(self, path: str, words: str, get: Callable[[CoverChoices], float]) -> None:
        """A share, typed as percent."""
        line, note = QLineEdit(accessibleName=f"{words}, percent"), label("", "stop", wrap=True)
        both = QWidget()
        both.setLayout(column(line, note, spacing=2))
        both.setFocusProxy(line)

        def done() -> None:
            old = get(self.session.open_job.cover)
            percent = number_in(line.text(), 0.0, 50.0)
            note.setText("" if percent is not None else "a number of percent from 0 to 50 is expected; the old value stays")
            if percent is None:
                line.setText(f"{old * 100:g} %")
            elif abs(percent / 100.0 - old) > 1e-9:
                self._set(path, percent / 100.0, f"{words}: {percent:g} %")

        line.editingFinished.connect(done)
        self._row(path, words, both)
        self.fills.append(lambda c: None if line.hasFocus() else line.setText(f"{get(c) * 100:g} %"))

    def _clearance(self) -> None:
        field = length_field(
            self.session, "clearance", lambda mm: self._set("clearance.amount", mm, f"clearance {self.session.fmt(mm)}")
        )
        share = QLineEdit(accessibleName="clearance, percent of the girth")
        note = label("", "stop", wrap=True)
        share.editingFinished.connect(lambda: self._share(share, note))
        self._row("clearance.amount", "amount", field)
        share_row = QWidget()
        share_row.setLayout(column(share, note, spacing=2))
        self.form.addRow("percent of the girth", share_row)

        def fill(choices: CoverChoices) -> None:
            by_girth = choices.clearance.school is ClearanceSchool.GIRTH
            self.form.setRowVisible(field, not by_girth)
            self.form.setRowVisible(share_row, by_girth)
            if by_girth and not share.hasFocus():
                share.setText(f"{choices.clearance.amount * 100:g}")
            elif not by_girth:
                show(field, choices.clearance.amount)

        self.fills.append(fill)

    def _share(self, line: QLineEdit, note: QLabel) -> None:
        percent = number_in(line.text(), 0.0, 50.0)
        if percent is None:
            note.setText("a number of percent from 0 to 50 is expected; the old value stays")
            line.setText(f"{self.session.open_job.cover.clearance.amount * 100:g}")
            return
        note.setText("")
        self._set("clearance.amount", percent / 100.0, f"clearance {percent:g} % of the girth")

    def _option(self, option: Option) -> None:
        path = f"options.{option.key}"

        def get(choices: CoverChoices) -> object:
            return choices.options.get(option.key, option.default)

        why = (lambda _c: option.why) if option.why else None
        match option.kind:
            case OptionKind.YES:
                box = QCheckBox(option.words, accessibleName=option.words)
                box.clicked.connect(lambda on: self._set(path, bool(on), f"{option.words}: {'yes' if on else 'no'}"))
                self._row(path, "", box, why)
                self.fills.append(lambda c: box.setChecked(bool(get(c))))
            case OptionKind.PICK:
                picks: list[tuple[str, object]] = [(p, p) for p in option.picks]
                self._pick(path, option.words, picks, get, lambda p: self._set(path, p, f"{option.words}: {p}"), why)
            case OptionKind.LENGTH:
                field = length_field(
                    self.session,
                    option.words,
                    lambda mm: self._set(path, mm, f"{option.words} {self.session.fmt(mm)}"),
                    low=option.low,
                    high=option.high,
                )
                self._row(path, option.words, field, why)
                self.fills.append(lambda c: show(field, float(str(get(c)))))
            case OptionKind.COUNT | OptionKind.SHARE:
                line, note = QLineEdit(accessibleName=option.words), label("", "stop", wrap=True)
                line.editingFinished.connect(lambda: self._number(option, line, note))
                both = QWidget()
                both.setLayout(column(line, note, spacing=2))
                both.setFocusProxy(line)
                self._row(path, option.words, both, why)
                self.fills.append(lambda c: None if line.hasFocus() else line.setText(f"{get(c):g}"))

    def _number(self, option: Option, line: QLineEdit, note: QLabel) -> None:
        old = float(str(self.session.open_job.cover.options.get(option.key, option.default)))
        value = number_in(line.text(), option.low, option.high, whole=option.kind is OptionKind.COUNT)
        if value is None:
            kind = "a number" if option.kind is OptionKind.SHARE else "a whole number"
            note.setText(f"{kind} from {option.low:g} to {option.high:g} is expected; the old value stays")
            line.setText(f"{old:g}")
            return
        note.setText("")
        self._set(f"options.{option.key}", value, f"{option.words}: {value:g}")

    # Changing

    def _set(self, path: str, value: object, reason: str) -> None:
        self.session.set(f"cover.{path}", value, reason)

    def _scheme(self, key: str) -> None:
        job = self.session.open_job
        if key != job.cover.scheme:
            self.session.apply(with_scheme(job, SCHEMES[key]), f"scheme: {SCHEMES[key].words.lower()}")

    def _school(self, school: ClearanceSchool) -> None:
        """Change the school and keep the gap: the same clearance, said the other way."""
        job, draft = self.session.open_job, self.session.draft
        given = job.cover.clearance
        girth = draft.fit.tightest.passes.value if draft and draft.fit else 1000.0
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
            f"clearance {school}", Change("cover.clearance.school", school), Change("cover.clearance.amount", amount)
        )


def show(field: TapeField, mm: float, *, fine: bool = False) -> None:
    """Show a length that may be finer than the unit's step."""
    field.show_length(mm)
    if fine and not field.line.hasFocus():
        field.shown = field.session.fmt(mm, fine=True, with_unit=False)
        field.line.setText(field.shown)


def number_in(text: str, low: float, high: float, *, whole: bool = False) -> float | None:
    """A plain number within bounds, or None."""
    try:
        value = float(text.replace(",", ".").rstrip(" %"))
    except ValueError:
        return None
    return value if low <= value <= high and (not whole or value == round(value)) else None


def allowance_why(mm: float) -> str:
    """The school a seam allowance belongs to."""
    if mm < 8.0:
        return "About 6, the quilter's: flat seams in thin cotton, no room to let out."
    if mm < 11.5:
        return "About 10, the general one: enough for most cloth."
    return (
        "12 or 13, the canvas maker's: room to fell the seam and stitch it down."
        if mm <= 15.0
        else "Wider than the schools: room to let out."
    )
