"""The seams of the cover, one by one: picked from a list, and decided on a card. And the panels that are parted at a height."""

from functools import partial

from PySide6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.picker import Picker, combo
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.tapefield import length_field
from omnipel.bench.parts.widgets import button, check, column, emptied, label, row, surface
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.covers.fields import SEAM_FIELDS
from omnipel.core.draft import Drafted
from omnipel.core.drafting.seams import Seam, Trued
from omnipel.core.finishing.constructions import CONSTRUCTIONS
from omnipel.core.finishing.left_open import begins
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.joining import Parting, SeamChoice
from omnipel.core.words import refs
from omnipel.core.words.notation import parse_number
from omnipel.core.words.phrases import NOTHING, Phrase, Ratio, Value, mm, term, tr, trn


class SeamList(QWidget):
    """A list of the seams that somebody decides about, and the card of the one that is picked."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.picked = ""
        self.holder, self.card_area = QVBoxLayout(), QVBoxLayout()
        self.setLayout(column(self.holder, self.card_area, spacing=6))
        self.list: Picker | None = None
        self.card: SeamCard | None = None
        self.made_for: tuple[object, ...] = ()
        self.listed: tuple[str, ...] = ()

    def refresh(self) -> None:
        """Show the seams as they stand."""
        draft = self.session.draft
        if not isinstance(draft, Drafted):
            return
        names = tuple(draft.cover.joins)
        if self.picked not in names:
            self.picked = names[0] if names else ""
        walked = [trued for trued in draft.seams if (trued.seam.whole or trued.seam.name) == self.picked]
        shape = (self.picked, names, draft.job.cover, draft.job.unit, [(t.seam.kind, t.times) for t in walked])
        if shape != self.made_for:
            with same_focus(self):
                self._list(names)
                emptied(self.card_area)
                self.card = None
                if walked:
                    self.card = SeamCard(self.session, draft, walked)
                    self.card_area.addWidget(self.card)
            self.made_for = shape
        if self.card is not None:
            self.card.retold(draft, walked)

    def pick(self, name: str) -> None:
        """Show the card of a seam."""
        self.picked = name
        self.refresh()

    def _list(self, names: tuple[str, ...]) -> None:
        decided = self.session.open_job.cover.seams
        listed = tuple(f"{name}{' ✓' if name in decided else ''}" for name in names)
        if listed != self.listed or self.list is None:
            emptied(self.holder)
            picks: list[tuple[Value, object]] = [
                (tr("{seam}, decided", seam=term(name)) if name in decided else term(name), name) for name in names
            ]
            self.list = combo(tr("which seam"), picks, self.pick)
            self.holder.addWidget(self.list)
            self.listed = listed
        self.list.show_value(self.picked)


class SeamCard(QWidget):
    """One seam, or several alike: how it is sewn, from where to where, its allowances, where it is left open."""

    def __init__(self, session: Session, draft: Drafted, walked: list[Trued]) -> None:
        super().__init__()
        seam = walked[0].seam
        self.session, self.name = session, seam.whole or seam.name
        self.called = term(self.name)
        self.chosen = session.open_job.cover.seams.get(self.name, SeamChoice())
        self.construction = CONSTRUCTIONS.get(str(seam.kind))
        self.fields: dict[str, QWidget] = {}
        self.title = label(NOTHING, "field", wrap=True)
        beside = Flow(gap=6)
        beside.addWidget(self._kind(seam))
        if seam.ratio == 1.0:
            beside.addWidget(self._rows(seam))
        tacked = check(tr("ends reinforced"), lambda on: self._set("tacked", on), full=tr("both ends reinforced"))
        tacked.setChecked(self.chosen.tacked)
        beside.addWidget(tacked)
        grid = QGridLayout()
        grid.setSpacing(6)
        for k, (part, words, value) in enumerate(self._lengths(draft, seam)):
            field = length_field(session, tr("{seam}: {what}", seam=self.called, what=words), partial(self._set, part), low=0.0)
            field.show_length(value)
            self.fields[part] = field
            grid.addWidget(label(words, "soft", wrap=True), k // 2 * 2, k % 2)
            grid.addWidget(field, k // 2 * 2 + 1, k % 2)
        if self.construction is not None and self.construction.fuller is not None and self.chosen.kind:
            self._fullness(grid, self.construction.fuller)
        measured = tr("Places along it are measured {where}.", where=begins(draft.cover, seam).words)
        about = self.construction.about if self.construction is not None else tr("Sewn as its scheme has it.")
        parts = (self.title, beside, label(about, "soft", wrap=True), grid, label(measured, "soft", wrap=True))
        self.setLayout(column(surface(column(*parts, margins=8))))

    def retold(self, draft: Drafted, walked: list[Trued]) -> None:
        """How long it is, as it is now, and how many there are."""
        long = mm(draft.cover.joins[self.name])
        title = trn("{seam}: {length} long", "{seam}: {length} long, {n} of them", walked[0].times, seam=self.called, length=long)
        self.title.setText(self.session.tell(title))

    def _lengths(self, draft: Drafted, seam: Seam) -> list[tuple[str, Phrase, float]]:
        """The lengths that count for something as the seam is sewn."""
        sides = [draft.cover.flat[side[0].piece].edge(side[0].edge).finish.width for side in seam.sides]
        found: list[tuple[str, Phrase, float]] = [
            ("allowance", tr("allowance"), sides[0]),
            ("under", tr("of its other side"), sides[1]),
        ]
        if self.construction is not None and self.construction.stretches:
            found.append(("start", tr("from"), self.chosen.start))
            found.append(("stop", tr("to (0: its end)"), self.chosen.stop))
        found.append(("open_from", tr("left open from"), self.chosen.open_from))
        found.append(("open_to", tr("left open to"), self.chosen.open_to))
        if self.construction is not None and self.construction.wide:
            found.append(("wide", self.construction.wide, seam.wide))
        return found

    def _fullness(self, grid: QGridLayout, bounds: tuple[float, float, float]) -> None:
        """How many times one side is cut as long as the other."""
        usual, low, high = bounds
        words = tr("fuller, to 1")
        commit = partial(self._set, "fuller")
        field = NumberField(
            self.session, tr("{seam}: {what}", seam=self.called, what=words), parse_number, Ratio, commit, low, high
        )
        field.show_number(self.chosen.fuller or usual)
        self.fields["fuller"] = field
        k = grid.count() // 2
        grid.addWidget(label(words, "soft", wrap=True), k // 2 * 2, k % 2)
        grid.addWidget(field, k // 2 * 2 + 1, k % 2)

    def _kind(self, seam: Seam) -> Picker:
        usual = tr("as usual: {how}", how=term(str(seam.kind))) if not self.chosen.kind else tr("as usual")
        picks: list[tuple[Value, object]] = [(usual, ""), *((made.words, made.key) for made in CONSTRUCTIONS.values())]
        return self._combo("kind", picks, self.chosen.kind)

    def _rows(self, seam: Seam) -> Picker:
        usual = (
            tr("topstitching as usual")
            if self.chosen.rows is not None
            else trn("{n} row as usual", "{n} rows as usual", seam.rows)
        )
        picks: list[tuple[Value, object]] = [(usual, None), *((trn("{n} row", "{n} rows", n), n) for n in range(4))]
        return self._combo("rows", picks, self.chosen.rows)

    def _combo(self, part: str, picks: list[tuple[Value, object]], value: object) -> Picker:
        made = combo(tr("{seam}: {what}", seam=self.called, what=SEAM_FIELDS[part]), picks, lambda v: self._set(part, v))
        made.show_value(value)
        self.fields[part] = made
        return made

    def _set(self, part: str, value: object) -> None:
        words = tr("{seam}: {what}", seam=self.called, what=SEAM_FIELDS[part])
        changes = [Change(refs.seam(self.name, part), value)]
        if part == "kind":  # another construction has another width
            changes += [Change(refs.seam(self.name, own), 0.0) for own in ("wide", "fuller")]
        self.session.change(words, *changes)


class PartingList(QWidget):
    """The panels that are parted at a height: for a zip around, or where cloth is joined."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.cards, self.adding = QVBoxLayout(), QVBoxLayout()
        self.setLayout(column(self.cards, self.adding, spacing=6))
        self.made_for: tuple[object, ...] = ()
        self.fields: dict[str, QWidget] = {}
        self.panel: Picker | None = None

    def refresh(self) -> None:
        """Show the partings as they stand."""
        job, draft = self.session.open_job, self.session.draft
        if not isinstance(draft, Drafted):
            return
        parted = {parting.panel for parting in job.cover.parted}
        surface_ = {piece.panel for piece in draft.cover.pieces if not piece.on}
        able = tuple(p.name for p in draft.panels if p.name in surface_ and p.cloth == "outer" and p.name not in parted)
        shape = (job.cover.parted, able, job.unit)
        if shape == self.made_for:
            return
        with same_focus(self):
            emptied(self.cards)
            emptied(self.adding)
            self.fields = {}
            for parting in job.cover.parted:
                self.cards.addWidget(self._card(parting))
            if able:
                self.panel = combo(tr("which panel to part"), [(term(name), name) for name in able], lambda _name: None)
                self.adding.addLayout(row(self.panel, button(tr("Part it at a height"), self._add)))
        self.made_for = shape

    def _card(self, parting: Parting) -> QWidget:
        ref, called = refs.parting(parting.id), term(parting.panel)
        field = length_field(
            self.session,
            tr("{panel}, parted at", panel=called),
            lambda at: self.session.set(ref.at("at"), at, tr("{panel}, parted at", panel=called)),
            strict=True,
        )
        field.show_length(parting.at)
        self.fields[parting.id] = field
        ends: list[tuple[Value, object]] = [(tr("above its lower edge"), False), (tr("below its upper edge"), True)]
        end = combo(
            tr("measured from"),
            ends,
            lambda top: self.session.set(ref.at("from_top"), top, tr("{panel}, measured from", panel=called)),
        )
        end.show_value(parting.from_top)
        gone = button(
            tr("Remove"), lambda: self.session.change(tr("{panel} in one", panel=called), Change(ref, act=Act.REMOVE)), "quiet"
        )
        gone.setAccessibleName(say(tr("Do not part the {panel}", panel=called)))
        made = QWidget()
        title = label(tr("{panel}, parted", panel=called), "field", wrap=True)
        made.setLayout(column(surface(column(row(title, gone), row(field, end), margins=8))))
        return made

    def _add(self) -> None:
        draft = self.session.draft
        if self.panel is None or not isinstance(draft, Drafted):
            return
        name = self.panel.value
        panel = next(p for p in draft.panels if p.name == name)
        near = self.session.open_job.cover.habits.system.near(panel.width.value / 2.0)
        made = Parting(panel=name, at=near)
        self.session.change(tr("{panel} parted at {at}", panel=term(name), at=mm(near)), Change(refs.parting(), made, Act.ADD))
