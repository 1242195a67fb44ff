"""The Cover station: the picture is the form. A part is chosen on the picture or in the tree, and decided beside it."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QScrollArea, QStackedWidget, QWidget

from omnipel.bench.parts.columns import Columns, Part, station
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import column, label, reveal, row, scrolled, surface
from omnipel.bench.session import Session
from omnipel.bench.stations.atbench import AtBench
from omnipel.bench.stations.cover.adding import AddHere
from omnipel.bench.stations.cover.choices import ChoiceForm
from omnipel.bench.stations.cover.edges import EdgePage
from omnipel.bench.stations.cover.features import FeaturePage
from omnipel.bench.stations.cover.lowering import LoweringPanel
from omnipel.bench.stations.cover.panels import PanelPage
from omnipel.bench.stations.cover.partings import PartingList
from omnipel.bench.stations.cover.parts import CLOTH, LAYERS, WHOLE, PartTree
from omnipel.bench.stations.cover.picture import CoverPicture, Said, places_asked
from omnipel.bench.stations.cover.schemes import SchemeStrip, with_scheme
from omnipel.bench.stations.cover.seams import SeamPage
from omnipel.bench.stations.cover.whole import forms
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.fields import SEAM_FIELDS
from omnipel.core.draft import Drafted
from omnipel.core.job.findings import Change
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, Phrase, term, tr
from omnipel.core.words.refs import Of, Ref
from omnipel.core.words.typeset import fractions

PICTURE, SHARE, MOST = 130, 0.52, (1 << 24) - 1
"""The picture keeps so many px at 100 % text, and so much of the height, where the chosen part stands below it; the toolkit's greatest height."""


class CoverStation(AtBench):
    """Decides the cover. The fields are made once for each scheme and then only filled."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.chosen = WHOLE
        self.strip = SchemeStrip(session)
        self.strip.picked.connect(self._scheme)
        self.picture, self.lowering, self.tree = CoverPicture(session), LoweringPanel(session), PartTree(session)
        self.forms = forms(session)
        self.whole, self.cloth, self.layers = self.forms
        self.unfilled: set[ChoiceForm] = set()
        self.panels, self.seams, self.edges = PanelPage(session), SeamPage(session), EdgePage(session)
        self.features, self.partings = FeaturePage(session), PartingList(session)
        self.adding = AddHere(session)
        self.title: QLabel = label(NOTHING, "head", wrap=True)
        self.pages = QStackedWidget()
        self.panel_page = QWidget()
        self.panel_page.setLayout(column(self.panels, self.partings, spacing=10))
        for page in (self.whole, self.cloth, self.layers, self.panel_page, self.seams, self.edges, self.features):
            self.pages.addWidget(scrolled(_at_top(page)))
        self.tree.chosen.connect(self.choose)
        self.picture.chose.connect(lambda ref: self.choose(ref if ref is not None else WHOLE))
        self.picture.spotted.connect(self.adding.at)
        self.picture.moved.connect(self._move)
        self.picture.stretched.connect(self._stretch)
        self.panels.leads_to.connect(self.go_to)
        self.lowering.lifted.connect(self.picture.lift)
        self.picture.sketch.due.connect(self.lowering.catch_up)
        self.adding.added.connect(self.choose)
        shown = row(column(self.tree, self.picture.what, spacing=4), self.picture, spacing=6, margins=6)
        shown.setStretch(1, 1)
        self.above, self.way = surface(shown), surface(column(self.lowering, margins=8))
        self.left = column(self.above, self.way, spacing=8)
        self.left.setStretch(0, 1)
        self.beside, chosen = QWidget(), QWidget()
        self.beside.setLayout(self.left)
        self.why = label(NOTHING, "soft", wrap=True)
        self.why.hide()
        for form in self.forms:
            form.told.connect(self._told)
        inner = column(self.title, self.pages, self.why, self.adding, spacing=8, margins=10)
        inner.setStretch(1, 1)
        self.right = column(surface(inner), spacing=8)
        self.right.setStretch(0, 1)
        chosen.setLayout(self.right)
        self.strip_area = QScrollArea()
        self.strip_area.setWidget(self.strip)
        self.strip_area.setWidgetResizable(True)
        self.strip_area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.strip_area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAsNeeded)
        self.strip_area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.columns = Columns((Part(self.beside, 300, 7), Part(chosen, 290, 5)), self.strip_area)
        self.columns.laid.connect(self._laid)
        self.setLayout(station(self.columns))
        for part in (self.lowering, self.way, self.adding):
            part.show()  # while nothing is seen yet: the toolkit lays out all around what is shown for the first time

    @property
    def walks(self) -> tuple[QWidget, ...]:
        """In this order the keys walk it: a part, how it is made, what can be added; then the pictures and the other schemes."""
        return (self.tree, self.pages, self.why, self.adding, self.picture, self.lowering, self.strip_area)

    def decides(self) -> dict[Ref, QWidget]:
        """Its fields, by what they decide."""
        self._filled(*self.forms)
        return self.whole.fields | self.cloth.fields | self.layers.fields

    def enter(self) -> None:
        """The station was opened."""
        self.refresh()
        self.tree.setFocus()

    def prepare(self) -> bool:
        """A job was opened and will be looked at here: make what takes long, while nothing else is to be done. Whether there is more of it."""
        scheme = SCHEMES[self.session.open_job.cover.scheme]
        if self.whole.asks(scheme) != self.whole.made_for:
            self.whole.made(scheme)
            return True
        self.whole.fill()
        self.picture.sketch.prepare()
        return False

    def refresh(self) -> None:
        """Show the job as it stands."""
        self.strip.refresh()
        self.strip_area.setFixedHeight(LOOK.px(86) + 14)
        self.unfilled = set(self.forms)  # each is filled when it is looked at
        self.lowering.outdate()
        self.picture.refresh()
        self.way.setVisible(not self.lowering.isHidden())
        if not self._there(self.chosen):
            self.chosen = self._instead(self.chosen)
        self.tree.refresh(self.chosen)
        self._show_page()

    def _filled(self, *forms: ChoiceForm) -> None:
        """Make forms as the scheme asks, and show the job as it stands in those that have not been looked at since it changed."""
        for form in self.unfilled.intersection(forms):
            self.unfilled.discard(form)
            form.made(SCHEMES[self.session.open_job.cover.scheme])
            form.fill()

    def _laid(self, below: bool) -> None:
        """Where columns stand below one another, the chosen part comes right after the picture, which leaves it room; how it is lowered comes last."""
        home, other = (self.right, self.left) if below else (self.left, self.right)
        if home.indexOf(self.way) < 0:
            other.removeWidget(self.way)
            home.addWidget(self.way)
        high = max(LOOK.px(PICTURE), int(self.columns.viewport().height() * SHARE)) if below else MOST
        self.above.setMaximumHeight(high)

    # Choosing

    def _there(self, ref: Ref) -> bool:
        """Whether a part is there that can be chosen."""
        draft, cover = self.session.draft, self.session.open_job.cover
        match ref.of:
            case Of.FEATURE:
                return any(f.id == ref.id for f in cover.features)
            case Of.SEAM:
                return isinstance(draft, Drafted) and ref.id in draft.cover.joins
            case Of.EDGE:
                return ref.id in self.edges.names
            case Of.PANEL:
                return isinstance(draft, Drafted) and any(p.name == ref.id for p in draft.panels)
            case _:
                return True

    def _instead(self, gone: Ref) -> Ref:
        """What is chosen when a part is no longer there: of a panel that was parted its first part."""
        draft = self.session.draft
        if gone.of is Of.PANEL and isinstance(draft, Drafted):
            parts = [p.name for p in draft.panels if p.name.startswith(f"{gone.id},")]
            return refs.panel(parts[0]) if parts else WHOLE
        return WHOLE

    def choose(self, ref: Ref) -> None:
        """Choose a part: its choices stand beside the picture, and it stands out on it."""
        draft = self.session.draft
        if not ref.id and ref.of in (Of.PANEL, Of.SEAM, Of.EDGE):  # a heading of the tree: its first part
            first = {
                Of.PANEL: next((p.name for p in draft.panels), "") if isinstance(draft, Drafted) else "",
                Of.SEAM: next(iter(draft.cover.joins), "") if isinstance(draft, Drafted) else "",
                Of.EDGE: next(iter(self.edges.names), ""),
            }[ref.of]
            ref = Ref(ref.of, first)
        if not self._there(ref):
            ref = WHOLE
        if ref != self.chosen:
            self.why.setText("")
        self.chosen = ref
        self.tree.show_chosen(ref)
        self._show_page()
        self.columns.lead_to(self.beside)

    def _told(self, words: str) -> None:
        """Why one chooses the one or the other in the field in hand."""
        self.why.setText(words)
        self.why.setVisible(bool(words) and self.chosen in (WHOLE, CLOTH, LAYERS))

    def _move(self, ref: Ref, place: Said) -> None:
        """What was put on the cover was dragged to another place."""
        face, across, down = place
        feature = next(f for f in self.session.open_job.cover.features if f.id == ref.id)
        to = {"from_centre": across, "from_top": down}
        changes = [
            Change(ref.at("face"), face),
            *(Change(ref.at(name), to[name]) for name in places_asked(self.session, feature)),
        ]
        self.session.change(tr("{feature} moved", feature=Name(feature.name)), *changes)

    def _stretch(self, ref: Ref, length: float) -> None:
        """An end of what a seam is sewn with was dragged along it."""
        self.session.set(ref, length, tr("{seam}: {what}", seam=term(ref.id), what=SEAM_FIELDS[ref.part]))

    def _show_page(self) -> None:
        ref = self.chosen
        self.picture.light(ref)
        words: Phrase | Name = tr("Whole cover")
        match ref.of:
            case Of.FEATURE:
                self.features.pick(ref.id)
                words = next((Name(f.name) for f in self.session.open_job.cover.features if f.id == ref.id), Name(ref.id))
                self.pages.setCurrentIndex(6)
            case Of.SEAM:
                self.seams.pick(ref.id)
                words = tr("Seam: {seam}", seam=term(ref.id))
                self.pages.setCurrentIndex(4)
            case Of.EDGE:
                self.edges.pick(ref.id)
                words = tr("Edge: {edge}", edge=term(ref.id))
                self.pages.setCurrentIndex(5)
            case Of.PANEL:
                self.panels.pick(ref.id)
                self.partings.pick(ref.id)
                words = tr("Panel: {panel}", panel=term(ref.id))
                self.pages.setCurrentIndex(3)
            case _ if ref == CLOTH:
                words = tr("Cloth and allowances")
                self.pages.setCurrentIndex(1)
            case _ if ref == LAYERS:
                words = tr("Lining, padding, stiffener")
                self.pages.setCurrentIndex(2)
            case _:
                words = SCHEMES[self.session.open_job.cover.scheme].words
                self.pages.setCurrentIndex(0)
        self._filled(*self.forms[self.pages.currentIndex() : self.pages.currentIndex() + 1])
        self.title.setText(fractions(self.session.tell(words)))
        self.why.setVisible(bool(self.why.text()) and ref in (WHOLE, CLOTH, LAYERS))
        self.adding.setVisible(ref.of in (Of.PANEL, Of.FEATURE) or ref == WHOLE)

    def field_words(self) -> dict[Ref, Phrase]:
        """Every field of this station, for go-to."""
        self.refresh()
        self._filled(*self.forms)
        return self.whole.named_now | self.cloth.named_now | self.layers.named_now

    def page_of(self, ref: Ref) -> ChoiceForm | None:
        """The page that has the field which decides what a reference means."""
        self._filled(*self.forms)
        return next((form for form in self.forms if form.decides(ref) is not None), None)

    def meant(self) -> Ref:
        """The part of the cover that is looked at."""
        return self.chosen

    def go_to(self, ref: Ref) -> None:
        """Show the part that decides what a reference means, with the focus on the field."""
        if ref.of is Of.PARTING:
            self.choose(refs.panel(self.partings.panel_of(ref.id)))
            reveal(self.partings)
        elif ref.of in (Of.FEATURE, Of.SEAM, Of.EDGE, Of.PANEL):
            self.choose(Ref(ref.of, ref.id))
            self._reveal(ref)
        elif ref == refs.FEATURES:
            self.choose(WHOLE)
            reveal(self.adding.kind)
        elif (form := self.page_of(ref)) is not None:
            self.choose({self.whole: WHOLE, self.cloth: CLOTH, self.layers: LAYERS}[form])
            form.go_to(ref)

    def _reveal(self, ref: Ref) -> None:
        """Put the focus on the field of a part that a reference means, or on the first of them."""
        cards = {Of.FEATURE: self.features.card, Of.SEAM: self.seams.card, Of.EDGE: self.edges.card}
        card = cards.get(ref.of)
        if card is None:
            self.tree.setFocus()
            return
        field = card.fields.get(ref.part) or next(iter(card.fields.values()), None)
        if field is not None:
            reveal(field)

    # Changing

    def _scheme(self, key: str) -> None:
        job = self.session.open_job
        if key != job.cover.scheme:
            self.session.apply(with_scheme(job, SCHEMES[key]), tr("scheme: {scheme}", scheme=SCHEMES[key].words))


def _at_top(page: QWidget) -> QWidget:
    """A page that keeps its height where there is more room."""
    made = QWidget()
    layout = column(page)
    layout.addStretch(1)
    made.setLayout(layout)
    return made
