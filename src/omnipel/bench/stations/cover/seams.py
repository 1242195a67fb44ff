"""One seam, or several alike: how it is sewn as cross-sections to pick from, its lengths in the drawing, where it runs and is left open."""

from functools import partial

from PySide6.QtGui import QColor
from PySide6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.numberfield import NumberField
from omnipel.bench.parts.picker import Picker, combo
from omnipel.bench.parts.samefocus import same_focus
from omnipel.bench.parts.sections import SectionTile, SectionTiles, SectionView
from omnipel.bench.parts.tapefield import TapeField, length_field
from omnipel.bench.parts.widgets import check, column, emptied, label
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations.cover.costs import CostLine
from omnipel.core.covers.fields import SEAM_FIELDS
from omnipel.core.draft import Drafted
from omnipel.core.drafting.crosssection import Side, Widths
from omnipel.core.drafting.seams import Seam, Trued
from omnipel.core.finishing.constructions import CONSTRUCTIONS
from omnipel.core.finishing.constructions.construction import Construction
from omnipel.core.finishing.left_open import begins
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Change
from omnipel.core.job.joining import SeamChoice
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, Phrase, Ratio, Value, mm, term, tr, trn
from omnipel.core.words.plain_numbers import parse_number


class SeamPage(QWidget):
    """The card of the seam that is chosen."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.picked = ""
        self.card_area = QVBoxLayout()
        self.setLayout(column(self.card_area))
        self.card: SeamCard | None = None
        self.made_for: tuple[object, ...] = ()

    def refresh(self) -> None:
        """Show the seam as it stands."""
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


class SeamCard(QWidget):
    """One seam."""

    def __init__(self, session: Session, draft: Drafted, walked: list[Trued]) -> None:
        super().__init__()
        seam = walked[0].seam
        self.session, self.name = session, seam.whole or seam.name
        self.called = term(self.name)
        self.chosen = session.open_job.cover.seams.get(self.name, SeamChoice())
        self.construction = CONSTRUCTIONS.get(str(seam.kind))
        self.cloth = QColor(session.open_job.cover.cloth.colour)
        self.sides = [draft.cover.flat[side[0].piece].edge(side[0].edge).finish.width for side in seam.sides]
        self.pieces = tuple(dict.fromkeys(run.piece for run in seam.a)), tuple(dict.fromkeys(run.piece for run in seam.b))
        self.fields: dict[str, QWidget] = {}
        self.beside_drawing: list[tuple[str, TapeField]] = []
        self.title = label(NOTHING, "soft", wrap=True)
        self.cost = CostLine(session, self._tried)
        beside = Flow(gap=6)
        if seam.ratio == 1.0:
            beside.addWidget(self._rows(seam))
        tacked = check(tr("ends reinforced"), lambda on: self._set("tacked", on), full=tr("both ends reinforced"))
        tacked.setChecked(self.chosen.tacked)
        beside.addWidget(tacked)
        grid = QGridLayout()
        grid.setSpacing(6)
        for k, share in enumerate((3, 2, 2)):
            grid.setColumnStretch(k, share)
        for words, fields in self._places():
            k = grid.rowCount()
            grid.addWidget(label(words, "soft", wrap=True), k, 0)
            for j, field in enumerate(fields):
                grid.addWidget(field, k, j + 1)
        if self.construction is not None and self.construction.fuller is not None and self.chosen.kind:
            self._fullness(grid, self.construction.fuller)
        about = self.construction.about if self.construction is not None else tr("Sewn as its scheme has it.")
        parts: list[object] = [self.title, self._tiles(seam), label(about, "soft", wrap=True)]
        if self.construction is not None:
            parts.append(self._section(seam, self.construction))
            for called, field in self.beside_drawing:
                k = grid.rowCount()
                grid.addWidget(label(Name(called), "soft"), k, 0)
                grid.addWidget(field, k, 1)
        parts += [self.cost, beside, grid]
        self.setLayout(column(*parts, spacing=7))  # type: ignore[arg-type]

    def retold(self, draft: Drafted, walked: list[Trued]) -> None:
        """How long it is, as it is now, how many there are, and from where places along it are measured."""
        long, where = mm(draft.cover.joins[self.name]), begins(draft.cover, walked[0].seam).words
        title = trn(
            "{length} long, measured {where}",
            "{length} long, {n} of them, measured {where}",
            walked[0].times,
            length=long,
            where=where,
        )
        self.title.setText(self.session.tell(title))

    def _tiles(self, seam: Seam) -> SectionTiles:
        """The ways to sew it, as usual first."""
        habits, tiles = self.session.open_job.cover.habits, []
        own = CONSTRUCTIONS.get(str(seam.kind))
        if own is not None:
            about = say(own.about) if self.chosen.kind else say(tr("as usual: {how}", how=term(own.key)))
            tiles.append(SectionTile(say(tr("as usual")), about, own.section(self._widths(own, seam.wide)), ""))
        for made in CONSTRUCTIONS.values():
            wide = seam.wide if made is self.construction else habits.mm(made.habit) if made.habit else 0.0
            tiles.append(SectionTile(say(made.words), say(made.about), made.section(self._widths(made, wide)), made.key))
        self.tiles = SectionTiles(tr("{seam}: {what}", seam=self.called, what=SEAM_FIELDS["kind"]), tiles, self.cloth)
        self.tiles.show_value(self.chosen.kind)
        self.tiles.picked.connect(lambda key: self._set("kind", key))
        self.tiles.pointed.connect(lambda key: self.cost.look_at(None if key is None or key == self.chosen.kind else key))
        self.fields["kind"] = self.tiles
        return self.tiles

    def _widths(self, made: Construction, wide: float) -> Widths:
        """Its lengths, as they are or as usual."""
        return Widths(max(self.sides[0], 1.0), max(self.sides[1], 1.0), max(wide, 2.0) if made.wide else 0.0)

    def _tried(self, key: object) -> Job | None:
        """The job with the seam sewn in another way."""
        return changed(self.session.open_job, Change(refs.seam(self.name, "kind"), key))

    def _section(self, seam: Seam, construction: Construction) -> SectionView:
        """It as it is sewn, with its lengths in the drawing."""
        fields = {
            "allowance": (say(tr("allowance")), self._length("allowance", tr("allowance"), self.sides[0])),
            "under": (say(tr("other side")), self._length("under", tr("of its other side"), self.sides[1])),
        }
        if construction.wide:
            fields["wide"] = (say(construction.wide), self._length("wide", construction.wide, seam.wide))
        drawn = construction.section(self._widths(construction, seam.wide))
        known = {measure.part for measure in drawn.measures}
        self.beside_drawing = [fields.pop(part) for part in list(fields) if part not in known]

        def named(side: Side) -> str:
            return ", ".join(say(term(name)) for name in self.pieces[0 if side is Side.FIRST else 1][:2])

        return SectionView(drawn, self.cloth, fields, named)

    def _length(self, part: str, words: Phrase, value: float) -> TapeField:
        field = length_field(self.session, tr("{seam}: {what}", seam=self.called, what=words), partial(self._set, part), low=0.0)
        field.show_length(value)
        self.fields[part] = field
        return field

    def _places(self) -> list[tuple[Phrase, list[QWidget]]]:
        """Where its construction runs, and where it is left open."""
        made: list[tuple[Phrase, list[QWidget]]] = []
        if self.construction is not None and self.construction.stretches:
            runs = [
                self._length("start", tr("from"), self.chosen.start),
                self._length("stop", tr("to (0: its end)"), self.chosen.stop),
            ]
            made.append((tr("from … to (0: end)"), [*runs]))
        opened = [
            self._length("open_from", tr("left open from"), self.chosen.open_from),
            self._length("open_to", tr("left open to"), self.chosen.open_to),
        ]
        made.append((tr("left open from … to"), [*opened]))
        return made

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
        k = grid.rowCount()
        grid.addWidget(label(words, "soft", wrap=True), k, 0)
        grid.addWidget(field, k, 1)

    def _rows(self, seam: Seam) -> Picker:
        usual = (
            tr("topstitching as usual")
            if self.chosen.rows is not None
            else trn("{n} row as usual", "{n} rows as usual", seam.rows)
        )
        picks: list[tuple[Value, object]] = [(usual, None), *((trn("{n} row", "{n} rows", n), n) for n in range(4))]
        made = combo(
            tr("{seam}: {what}", seam=self.called, what=SEAM_FIELDS["rows"]), picks, lambda value: self._set("rows", value)
        )
        made.show_value(self.chosen.rows)
        self.fields["rows"] = made
        return made

    def _set(self, part: str, value: object) -> None:
        words = tr("{seam}: {what}", seam=self.called, what=SEAM_FIELDS[part])
        self.session.set(refs.seam(self.name, part), value, words)
