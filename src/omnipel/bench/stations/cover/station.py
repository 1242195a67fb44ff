"""The Cover station: scheme, clearance, allowances, edges, and what the scheme itself asks."""

import math
from dataclasses import replace
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QScrollArea, QWidget

from omnipel.bench.parts.columns import Columns, Part, station
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.picker import of_enum
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import column, label, scrolled, surface
from omnipel.bench.session import Session
from omnipel.bench.stations.cover.choices import ChoiceForm
from omnipel.bench.stations.cover.edges import EdgeList
from omnipel.bench.stations.cover.features import FeatureList
from omnipel.bench.stations.cover.panelchecks import PanelChecks
from omnipel.bench.stations.cover.reasons import (
    CLOSURE_WHY,
    GATHERS_WHY,
    HEM_WHY,
    LINING_WHY,
    LONG_WHY,
    RING_WHY,
    WHY,
    allowance_why,
)
from omnipel.bench.stations.cover.schemes import SchemeStrip, with_scheme
from omnipel.bench.stations.cover.seams import PartingList, SeamList
from omnipel.bench.stations.cover.slackplot import SlackPlot
from omnipel.bench.stations.cover.wornview import WornView
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.cloths import SEAMS
from omnipel.core.covers.fields import FIELDS
from omnipel.core.covers.scheme import Scheme
from omnipel.core.covers.starting import with_cloth
from omnipel.core.draft import Drafted
from omnipel.core.finishing.constructions import CONSTRUCTIONS, schools
from omnipel.core.fit.going_on import Fit
from omnipel.core.forms import FORMS
from omnipel.core.job.document import ClearanceSchool, ClipSchool, ClosureKind, ClothKind, CoverChoices, LiningSchool, RingSchool
from omnipel.core.job.edges import HemOrder
from omnipel.core.job.findings import Change
from omnipel.core.job.finish import HEMS, FinishKind, refinished_as
from omnipel.core.job.layers import Fused, Material
from omnipel.core.tolerances import MOST_GATHERED
from omnipel.core.words import refs
from omnipel.core.words.notation import parse_share
from omnipel.core.words.phrases import Phrase, Share, Value, mm, term, tr
from omnipel.core.words.refs import Of, Ref


class CoverStation(QWidget):
    """Decides the cover. The fields are made once for each scheme and then only filled."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.shown_for = ("", "")
        self.worn = WornView(session)
        self.choices = ChoiceForm(session)
        self.strip = SchemeStrip(session)
        self.strip.picked.connect(self._scheme)
        self.plot = SlackPlot(session)
        self.features: FeatureList | None = None
        self.edges: EdgeList | None = None
        self.seams: SeamList | None = None
        self.partings: PartingList | None = None
        shown = column(self.worn, self.plot, margins=4)
        shown.setStretch(0, 1)
        self.area = scrolled(self.choices)
        self.strip_area = QScrollArea()
        self.strip_area.setWidget(self.strip)
        self.strip_area.setWidgetResizable(True)
        self.strip_area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.strip_area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAsNeeded)
        self.strip_area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        parts = Part(scrolled(surface(shown)), 200, 5), Part(self.area, 250, 6)
        self.setLayout(station(Columns(parts, self.strip_area)))

    @property
    def fields(self) -> dict[Ref, QWidget]:
        """The fields by what they decide."""
        return self.choices.fields

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
        if self.features is not None:
            self.features.refresh()
        for part in (self.edges, self.seams, self.partings):
            if part is not None:
                part.refresh()
        self.choices.fill()
        self.plot.refresh()
        self.worn.refresh()

    def field_words(self) -> dict[Ref, Phrase]:
        """Every field of this station, for go-to."""
        self.refresh()
        return self.choices.named_now

    def go_to(self, ref: Ref) -> None:
        """Put the focus on the field that decides what a reference means."""
        if ref.of is Of.SEAM and ref.id and self.seams is not None:
            self.seams.pick(ref.id)
        self.choices.go_to(ref)

    # Building

    def _build(self) -> None:
        self.features = self.edges = self.seams = self.partings = None
        self.choices.clear()
        form, scheme = FORMS.get(self.session.open_job.thing.form), SCHEMES.get(self.session.open_job.cover.scheme)
        if form is None or scheme is None:
            return
        self.choices.stood_in()
        self._clearance()
        self._edges()
        self._cloth()
        self._own(scheme)
        self._closure()
        self._lining(scheme)
        self.choices.head(tr("On the cover"))
        self.features = FeatureList(self.session)
        self.choices.whole_row(refs.FEATURES, self.features)

    def _clearance(self) -> None:
        form = self.choices
        form.head(tr("Clearance"))
        form.pick(refs.CLEARANCE_SCHOOL, of_enum(ClearanceSchool), picked=self._school, why=lambda c: WHY[c.clearance.school])

        def by_length(gap: float) -> None:
            self.session.set(refs.CLEARANCE, gap, tr("clearance {gap}", gap=mm(gap, fine=True)))

        def by_share(part: float) -> None:
            self.session.set(refs.CLEARANCE, part, tr("clearance {share} of the girth", share=Share(part, 1)))

        field = length_field(self.session, FIELDS[refs.CLEARANCE], by_length)
        form.row(refs.CLEARANCE, field)
        words = tr("share of the girth")
        share = NumberField(self.session, words, parse_share, lambda part: Share(part, 2), by_share, 0.0, 0.5)
        form.form.addRow(label(words, "field", wrap=True), share)
        form.under(refs.CLEARANCE, share)

        def fill(choices: CoverChoices) -> None:
            by_girth = choices.clearance.school is ClearanceSchool.GIRTH
            form.one_of(refs.CLEARANCE, *((share, field) if by_girth else (field, share)))
            if by_girth:
                share.show_number(choices.clearance.amount)
            else:
                field.show_length(choices.clearance.amount)

        form.fills.append(fill)
        self._directions()

    def _directions(self) -> None:
        """Ease along, and on the drop, where a hand worker adds it by the dimension."""
        form = self.choices

        def eased(ref: Ref, ease: float) -> None:
            same = ref == refs.EASE_ALONG and ease == self.session.open_job.cover.clearance.amount
            self.session.set(ref, None if same else ease, tr("{what} {length}", what=FIELDS[ref], length=mm(ease, fine=True)))

        along = length_field(self.session, FIELDS[refs.EASE_ALONG], partial(eased, refs.EASE_ALONG))
        drop = length_field(self.session, FIELDS[refs.EASE_DROP], partial(eased, refs.EASE_DROP))
        form.row(refs.EASE_ALONG, along)
        form.row(refs.EASE_DROP, drop)

        def fill(choices: CoverChoices) -> None:
            given = choices.clearance
            along.show_length(given.amount if given.along is None else given.along)
            drop.show_length(given.drop)

        form.fills.append(fill)

    def _edges(self) -> None:
        form = self.choices
        form.head(tr("Edges and seams"))
        form.length(refs.SEAM_ALLOWANCE)
        form.why(lambda c: allowance_why(c.seam_allowance))
        form.length(refs.CLOSING_ALLOWANCE)
        kinds = [kind for kind in HEMS if kind is not FinishKind.BAGGED]
        form.pick(refs.HEM_KIND, of_enum(kinds), picked=self._hem_kind)
        form.length(refs.HEM_WIDTH)
        form.length(refs.TURN_UNDER)
        form.pick(refs.RING, of_enum(RingSchool), why=lambda c: (RING_WHY if SCHEMES[c.scheme].rings else LONG_WHY)[c.ring])
        form.pick(refs.HEM_ORDER, of_enum(HemOrder), why=lambda c: HEM_WHY[c.hem_order])
        form.pick(refs.CLIPS, of_enum(ClipSchool))
        self.edges = EdgeList(self.session)
        form.whole_row(refs.edge(""), self.edges)
        ways: list[tuple[Value, object]] = [(tr("as the scheme has them"), "")]
        ways += [(CONSTRUCTIONS[key].words, key) for key in schools()]
        form.pick(refs.JOIN, ways, picked=self._join)
        self.seams, self.partings = SeamList(self.session), PartingList(self.session)
        form.whole_row(refs.seam("", "kind"), self.seams)
        form.whole_row(refs.parting(), self.partings)

    def _cloth(self) -> None:
        form = self.choices
        form.head(tr("Cloth"))
        form.short_text(refs.CLOTH_NAME)
        form.pick(refs.CLOTH_KIND, of_enum(ClothKind), picked=self._cloth_kind, why=self._cloth_why)
        form.length(refs.CLOTH_THICKNESS, fine=True)
        form.ratio(refs.GATHER_LIMIT, 1.0, MOST_GATHERED, GATHERS_WHY)
        form.length(refs.CLOTH_WIDTH, strict=True)

    def _own(self, scheme: Scheme) -> None:
        """What the scheme itself asks."""
        if scheme.options:
            self.choices.head(scheme.words)
        for option in scheme.options:
            self.choices.option(option)

    def _closure(self) -> None:
        form = self.choices
        form.head(tr("Closure"))
        form.pick(refs.CLOSURE_KIND, of_enum(ClosureKind), why=lambda c: CLOSURE_WHY[c.closure.kind])
        form.length(refs.CLOSURE_LENGTH)

    def _lining(self, scheme: Scheme) -> None:
        form = self.choices
        form.head(tr("Lining"))
        schools = [school for school in LiningSchool if school is not LiningSchool.BOUND or scheme.edges]
        form.pick(refs.LINING_SCHOOL, of_enum(schools), why=lambda c: LINING_WHY[c.lining.school])
        self._panels(refs.LINING_ON)
        form.length(refs.LINING_ALLOWANCE)
        form.length(refs.TURNING_GAP)
        form.length(refs.LINING_WIDTH, strict=True)
        form.length(refs.LINING_AROUND)
        form.tick(refs.LINING_PIECED)
        self._inner()
        form.share(refs.QUILTING_ALONG)
        form.share(refs.QUILTING_ACROSS)
        form.share(refs.SHRINK_WARP)
        form.share(refs.SHRINK_WEFT)

    def _inner(self) -> None:
        """What lies between outer and lining: padding, a stiffener."""
        form = self.choices
        form.head(tr("Padding and stiffener"))
        form.length(refs.PADDING, fine=True)
        form.pick(refs.PADDING_MATERIAL, of_enum(Material))
        form.tick(refs.PADDING_AT_SEAM)
        form.length(refs.PADDING_INSET)
        form.pick(refs.FUSED, of_enum(Fused))
        form.length(refs.GRID)
        form.length(refs.STIFFENER, fine=True)
        form.length(refs.STIFFENER_SHORT)
        self._panels(refs.PADDING_ON)
        self._panels(refs.STIFFENER_ON)

    def _panels(self, ref: Ref) -> None:
        """The panels that a layer lies on."""
        checks = PanelChecks(self.session, ref, FIELDS[ref])
        self.choices.row(ref, checks)
        self.choices.fills.append(checks.filled)

    # Changing

    def _scheme(self, key: str) -> None:
        job = self.session.open_job
        if key != job.cover.scheme:
            self.session.apply(with_scheme(job, SCHEMES[key]), tr("scheme: {scheme}", scheme=SCHEMES[key].words))

    def _hem_kind(self, kind: FinishKind) -> None:
        """Finish all edges in another way."""
        cover = self.session.open_job.cover
        made = refinished_as(cover.hem, kind, cover.habits, cover.seam_allowance)
        self.session.set(refs.HEM, made, tr("{what}: {value}", what=FIELDS[refs.HEM_KIND], value=term(kind)))

    def _join(self, key: str) -> None:
        """Sew all seams in a way, but for those that are decided one by one."""
        how = CONSTRUCTIONS[key].words if key else tr("as the scheme has them")
        self.session.set(refs.JOIN, key, tr("{what}: {value}", what=FIELDS[refs.JOIN], value=how))

    def _cloth_kind(self, kind: ClothKind) -> None:
        """Change the kind of cloth; allowances that nobody has chosen otherwise go with it."""
        job = self.session.open_job
        cover = with_cloth(job.cover, replace(job.cover.cloth, kind=kind))
        self.session.apply(replace(job, cover=cover), tr("{what}: {value}", what=FIELDS[refs.CLOTH_KIND], value=term(kind)))

    def _cloth_why(self, choices: CoverChoices) -> Phrase:
        """What the kind of cloth is for."""
        return tr("Usually sewn with an allowance of {usual}.", usual=mm(choices.habits.mm(SEAMS[choices.cloth.kind])))

    def _school(self, school: ClearanceSchool) -> None:
        """Change the school and keep the gap: the same clearance, said the other way."""
        job, draft = self.session.open_job, self.session.draft
        given = job.cover.clearance
        fit = draft.fit if isinstance(draft, Drafted) else None
        girth = max(s.passes.value for s in fit.slacks) if isinstance(fit, Fit) else 1000.0
        two_pi = 2.0 * math.pi
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
            Change(refs.CLEARANCE_SCHOOL, school),
            Change(refs.CLEARANCE, amount),
            Change(refs.EASE_ALONG, None),
            Change(refs.EASE_DROP, side if school is ClearanceSchool.DIMENSION else 0.0),
        )
