"""The choices of the whole cover: its gap, its scheme's own, its cloth and allowances, its layers. Each group is a page of its own."""

import math
from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.picker import combo, of_enum
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import row
from omnipel.bench.session import Session
from omnipel.bench.stations.cover.choices import ChoiceForm
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
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.cloths import SEAMS
from omnipel.core.covers.fields import FIELDS
from omnipel.core.covers.scheme import Scheme
from omnipel.core.covers.starting import with_cloth
from omnipel.core.draft import Drafted
from omnipel.core.finishing.constructions import CONSTRUCTIONS, schools
from omnipel.core.fit.going_on import Fit
from omnipel.core.job.document import ClearanceSchool, ClipSchool, ClosureKind, ClothKind, CoverChoices, LiningSchool, RingSchool
from omnipel.core.job.edges import HemOrder
from omnipel.core.job.findings import Change
from omnipel.core.job.finish import HEMS, FinishKind, refinished_as
from omnipel.core.job.layers import Fused, Material
from omnipel.core.tolerances import MOST_GATHERED
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, Share, Value, mm, term, tr
from omnipel.core.words.plain_numbers import parse_share
from omnipel.core.words.refs import Ref


class WholeForm(ChoiceForm):
    """What decides the whole cover: what the scheme asks itself, the gap, how it opens, in which order it is sewn."""

    def asks(self, scheme: Scheme) -> object:
        """Its own choices."""
        return scheme.key

    def build(self, scheme: Scheme) -> None:
        """Make the fields of a scheme."""
        self.stood_in()
        self._clearance()
        for option in scheme.options:
            self.option(option)
        self.pick(refs.CLOSURE_KIND, of_enum(ClosureKind), why=lambda c: CLOSURE_WHY[c.closure.kind])
        self.length(refs.CLOSURE_LENGTH)
        self.pick(refs.HEM_ORDER, of_enum(HemOrder), why=lambda c: HEM_WHY[c.hem_order])

    def _clearance(self) -> None:
        school = combo(FIELDS[refs.CLEARANCE_SCHOOL], of_enum(ClearanceSchool), self._school)

        def by_length(gap: float) -> None:
            self.session.set(refs.CLEARANCE, gap, tr("clearance {gap}", gap=mm(gap, fine=True)))

        def by_share(part: float) -> None:
            self.session.set(refs.CLEARANCE, part, tr("clearance {share} of the girth", share=Share(part, 1)))

        field = length_field(self.session, FIELDS[refs.CLEARANCE], by_length)
        words = tr("share of the girth")
        share = NumberField(self.session, words, parse_share, lambda part: Share(part, 2), by_share, 0.0, 0.5)
        both = QWidget()
        both.setLayout(row(field, share, school, spacing=6))
        self.row(refs.CLEARANCE, both)
        self.fields[refs.CLEARANCE] = field
        self.fields[refs.CLEARANCE_SCHOOL], self.named[refs.CLEARANCE_SCHOOL] = school, FIELDS[refs.CLEARANCE_SCHOOL]
        self.whys[refs.CLEARANCE] = self.whys[refs.CLEARANCE_SCHOOL] = lambda c: WHY[c.clearance.school]

        def fill(choices: CoverChoices) -> None:
            by_girth = choices.clearance.school is ClearanceSchool.GIRTH
            school.show_value(choices.clearance.school)
            field.setVisible(not by_girth)
            share.setVisible(by_girth)
            self.fields[refs.CLEARANCE] = share if by_girth else field
            if by_girth:
                share.show_number(choices.clearance.amount)
            else:
                field.show_length(choices.clearance.amount)

        self.fills.append(fill)
        self._directions()

    def _directions(self) -> None:
        """Ease along, and on the drop, where a hand worker adds it by the dimension."""

        def set_ease(ref: Ref, ease: float) -> None:
            same = ref == refs.EASE_ALONG and ease == self.session.open_job.cover.clearance.amount
            self.session.set(ref, None if same else ease, tr("{what} {length}", what=FIELDS[ref], length=mm(ease, fine=True)))

        along = length_field(self.session, FIELDS[refs.EASE_ALONG], partial(set_ease, refs.EASE_ALONG))
        drop = length_field(self.session, FIELDS[refs.EASE_DROP], partial(set_ease, refs.EASE_DROP))
        self.row(refs.EASE_ALONG, along)
        self.row(refs.EASE_DROP, drop)

        def fill(choices: CoverChoices) -> None:
            given = choices.clearance
            along.show_length(given.amount if given.along is None else given.along)
            drop.show_length(given.drop)

        self.fills.append(fill)

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


class ClothForm(ChoiceForm):
    """The cloth, and how seams and edges are made where nothing else is decided for them."""

    def asks(self, scheme: Scheme) -> object:
        """The same of every scheme."""
        return True

    def build(self, scheme: Scheme) -> None:
        """Make the fields."""
        self.pick(refs.CLOTH_KIND, of_enum(ClothKind), picked=self._kind, why=self._why)
        self.short_text(refs.CLOTH_NAME)
        self.length(refs.CLOTH_THICKNESS, fine=True)
        self.length(refs.CLOTH_WIDTH, strict=True)
        self.ratio(refs.GATHER_LIMIT, 1.0, MOST_GATHERED, GATHERS_WHY)
        self.head(tr("All seams and edges"))
        self.length(refs.SEAM_ALLOWANCE)
        self.why(lambda c: allowance_why(c.seam_allowance))
        self.length(refs.CLOSING_ALLOWANCE)
        ways: list[tuple[Value, object]] = [(tr("as the scheme has them"), "")]
        ways += [(CONSTRUCTIONS[key].words, key) for key in schools()]
        self.pick(refs.JOIN, ways, picked=self._join)
        self.pick(refs.HEM_KIND, of_enum([k for k in HEMS if k is not FinishKind.BAGGED]), picked=self._hem_kind)
        self.length(refs.HEM_WIDTH)
        self.length(refs.TURN_UNDER)
        self.pick(refs.RING, of_enum(RingSchool), why=lambda c: (RING_WHY if SCHEMES[c.scheme].rings else LONG_WHY)[c.ring])
        self.pick(refs.CLIPS, of_enum(ClipSchool))

    def _hem_kind(self, kind: FinishKind) -> None:
        """Finish all edges in another way."""
        cover = self.session.open_job.cover
        made = refinished_as(cover.hem, kind, cover.habits, cover.seam_allowance)
        self.session.set(refs.HEM, made, tr("{what}: {value}", what=FIELDS[refs.HEM_KIND], value=term(kind)))

    def _join(self, key: str) -> None:
        """Sew all seams in a way, but for those that are decided one by one."""
        how = CONSTRUCTIONS[key].words if key else tr("as the scheme has them")
        self.session.set(refs.JOIN, key, tr("{what}: {value}", what=FIELDS[refs.JOIN], value=how))

    def _kind(self, kind: ClothKind) -> None:
        """Change the kind of cloth; allowances that nobody has chosen otherwise go with it."""
        job = self.session.open_job
        cover = with_cloth(job.cover, replace(job.cover.cloth, kind=kind))
        self.session.apply(replace(job, cover=cover), tr("{what}: {value}", what=FIELDS[refs.CLOTH_KIND], value=term(kind)))

    def _why(self, choices: CoverChoices) -> Phrase:
        """What the kind of cloth is for."""
        return tr("Usually sewn with an allowance of {usual}.", usual=mm(choices.habits.mm(SEAMS[choices.cloth.kind])))


class LayersForm(ChoiceForm):
    """Lining, padding and stiffener, and what quilting and washing take up."""

    def asks(self, scheme: Scheme) -> object:
        """Edges can be bound together with the lining."""
        return bool(scheme.edges)

    def build(self, scheme: Scheme) -> None:
        """Make the fields of a scheme."""
        listed = [school for school in LiningSchool if school is not LiningSchool.BOUND or scheme.edges]
        self.pick(refs.LINING_SCHOOL, of_enum(listed), why=lambda c: LINING_WHY[c.lining.school])
        self._panels(refs.LINING_ON)
        self.length(refs.LINING_ALLOWANCE)
        self.length(refs.TURNING_GAP)
        self.length(refs.LINING_WIDTH, strict=True)
        self.length(refs.LINING_AROUND)
        self.tick(refs.LINING_PIECED)
        self.head(tr("Padding and stiffener"))
        self.length(refs.PADDING, fine=True)
        self.pick(refs.PADDING_MATERIAL, of_enum(Material))
        self.tick(refs.PADDING_AT_SEAM)
        self.length(refs.PADDING_INSET)
        self.pick(refs.FUSED, of_enum(Fused))
        self.length(refs.GRID)
        self.length(refs.STIFFENER, fine=True)
        self.length(refs.STIFFENER_SHORT)
        self._panels(refs.PADDING_ON)
        self._panels(refs.STIFFENER_ON)
        self.shares(tr("quilting takes up along, across"), refs.QUILTING_ALONG, refs.QUILTING_ACROSS)
        self.shares(tr("first wash takes up along, across"), refs.SHRINK_WARP, refs.SHRINK_WEFT)
        self.tick(refs.PREWASHED)

    def _panels(self, ref: Ref) -> None:
        """The panels that a layer lies on."""
        checks = PanelChecks(self.session, ref, FIELDS[ref])
        self.row(ref, checks)
        self.fills.append(checks.filled)


FORMS_OF = (WholeForm, ClothForm, LayersForm)
"""The pages of choices that belong to no part alone."""


def forms(session: Session) -> tuple[WholeForm, ClothForm, LayersForm]:
    """One page of each."""
    return WholeForm(session), ClothForm(session), LayersForm(session)
