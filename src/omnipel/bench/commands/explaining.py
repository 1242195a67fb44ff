"""F1: what the thing with the focus is for, in two or three sentences, with a drawing where one helps."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QAbstractButton, QTreeWidget, QWidget

from omnipel.bench.commands.desk import Desk
from omnipel.bench.commands.goto import show_place
from omnipel.bench.parts.coverview import CoverView
from omnipel.bench.parts.dialog import Explained, ended, explained_beside
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.sections import SectionTile
from omnipel.bench.parts.widgets import Glow, column, surface
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.bench.stations import STATIONS
from omnipel.bench.stations.atbench import AtBench
from omnipel.bench.stations.cover.schemes import SchemeCard
from omnipel.bench.stations.cover.sectioncut import SectionCut
from omnipel.bench.stations.object.formcard import FormCard
from omnipel.bench.stations.sew.card import SectionPicture
from omnipel.core.draft import Drafted
from omnipel.core.drafting.crosssection import CrossSection, Widths, edge
from omnipel.core.explained import explained
from omnipel.core.finishing.constructions import CONSTRUCTIONS
from omnipel.core.job.document import Job, LiningSchool
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, Value, term, tr
from omnipel.core.words.refs import Of, Ref

SHELF = (
    tr("Every job of the shop, as it stands. Enter opens one at its next step."),
    tr("The shape beside a job tells how it stands: a tick is fine, a diamond wants a look, a square stops, a ring is to do."),
)
KEYS = tr("Ctrl+K goes to anything by a part of its name; Ctrl+Z takes the last change back, whatever it was.")
TALLY = (
    tr("A line of the tally: how the open job stands, wherever you are. It glows when a change has changed it."),
    tr("Enter or a click leads to where it comes from; pointed at, its sum stands in the working line."),
)
SCHEME = tr(
    "A way to cut the cover. Its picture is your own cover cut so; below it stand its pieces, its seams and what it costs."
)
FORM = tr("A shape that things have. Which readings are needed and which covers are possible follow from it.")
TILE = tr("One way to make it, cut across: stitches are the short lines, both sides are told apart by their lightness.")
BUTTON = tr("Enter or Space does it; what changes the job is taken back by one undo.")
HEMS = (refs.HEM_KIND, refs.HEM_WIDTH, refs.TURN_UNDER, refs.HEM_ORDER)
GAPS = (refs.CLEARANCE, refs.CLEARANCE_SCHOOL, refs.EASE_ALONG)
SEAMS = (refs.SEAM_ALLOWANCE, refs.CLOSING_ALLOWANCE, refs.JOIN)


@dataclass(frozen=True)
class Subject:
    """What is asked about.

    Args:
        words: what it is called.
        told: what it is for.
        ref: where it stands in the job, to be shown on its picture.
        section: what it is, cut across.
    """

    words: str
    told: tuple[Value, ...]
    ref: Ref | None = None
    section: CrossSection | None = None


def subject_of(desk: Desk, widget: QWidget | None) -> Subject:
    """What the thing with the focus is, as far as it is known; at least what its station is for."""
    session, here = desk.session, STATIONS.get(desk.here)
    if here is None or session.job is None:
        return Subject(_name(widget) or say(tr("Shelf")), (*_more(widget), *SHELF, KEYS))
    station: AtBench = desk.station(desk.here)
    ref = _field(station, widget) or _looked_at(station, widget)
    if ref is not None and (told := station.explains(ref) or explained(ref, session.job)):
        named = station.field_words().get(ref)
        if named is None and ref.id and ref.of in (Of.PANEL, Of.SEAM, Of.EDGE):
            named = term(ref.id)
        words = session.sentence(named) if named is not None else _name(widget)
        return Subject(words or session.sentence(here.words), told, ref, _section(session.job, session.draft, ref))
    return _in_general(widget) or Subject(_name(widget) or say(here.words), (*_more(widget), here.about, KEYS))


def _field(station: AtBench, widget: QWidget | None) -> Ref | None:
    """The place of the job that a field decides."""
    for ref, field in station.decides().items():
        if field is widget or (widget is not None and field.isAncestorOf(widget)):
            return ref
    return None


def _looked_at(station: AtBench, widget: QWidget | None) -> Ref | None:
    """The place of the job that is looked at where the focus is in no field of its own."""
    if widget is None or isinstance(widget, QAbstractButton) or not station.isAncestorOf(widget):
        return None
    found = station.meant()
    return found if found is not None and (found.id or not isinstance(widget, QTreeWidget)) else None


def _in_general(widget: QWidget | None) -> Subject | None:
    """What kinds of things there are in the window that belong to no single place of the job."""
    match widget:
        case SchemeCard():
            return Subject(say(widget.scheme.words), (widget.scheme.about, SCHEME))
        case FormCard():
            return Subject(say(widget.form.words), (widget.form.about, FORM))
        case SectionTile():
            return Subject(widget.text(), (Name(widget.accessibleDescription()), TILE), section=widget.section)
        case Glow():
            return Subject(widget.words, TALLY)
        case QAbstractButton() if widget.text() and not widget.isCheckable():
            return Subject(_name(widget) or widget.text(), (*(_more(widget) or (KEYS,)), BUTTON))
    return None


def _name(widget: QWidget | None) -> str:
    return widget.accessibleName() if widget is not None else ""


def _more(widget: QWidget | None) -> tuple[Value, ...]:
    """What a widget says of itself besides its name."""
    if widget is None:
        return ()
    said = widget.toolTip() or widget.accessibleDescription()
    return (Name(said),) if said and "<" not in said and said != widget.accessibleName() and len(said) > 12 else ()


def _section(job: Job, draft: object, ref: Ref) -> CrossSection | None:
    """What helps more than a picture of the cover: a seam or an edge, cut across."""
    cover = job.cover
    if ref in HEMS or ref.of is Of.EDGE:
        return edge(cover.hem, cover.lining.school is LiningSchool.BAGGED)
    if ref in SEAMS or (ref.of is Of.SEAM and ref.part):
        kinds = {t.seam.name: t.seam.kind for t in draft.seams} if isinstance(draft, Drafted) else {}
        kind = kinds.get(ref.id, next(iter(kinds.values()), "plain"))
        made = CONSTRUCTIONS.get(str(kind), CONSTRUCTIONS["plain"])
        allowance = max(cover.seam_allowance, 1.0)
        return made.section(Widths(allowance, allowance, allowance if made.wide else 0.0))
    return None


class HelpDialog(Explained):
    """What something of the bench is for."""

    def __init__(self, desk: Desk, subject: Subject) -> None:
        told, picture = " ".join(ended(desk.session.sentence(one) for one in subject.told)), _picture(subject, desk.session)
        large = picture is not None and subject.section is None
        super().__init__(desk.widget, subject.words, told, picture, 320 if large else 230)
        self.subject = subject


def _picture(subject: Subject, session: Session) -> QWidget | None:
    """A drawing where one helps."""
    if subject.section is not None:
        drawn = SectionPicture()
        drawn.section, drawn.cloth = subject.section, QColor(session.open_job.cover.cloth.colour)
        drawn.setFixedWidth(drawn.sizeHint().width())
        return drawn
    ref = subject.ref
    if ref in GAPS and isinstance(session.draft, Drafted):
        cut = SectionCut(session)
        cut.show_draft(session.draft)
        cut.setFixedSize(LOOK.px(160), LOOK.px(180))
        return cut
    shown = (Of.READING, Of.PANEL, Of.SEAM, Of.EDGE, Of.FEATURE)
    if ref is None or session.job is None or ref.of not in shown or not ref.id:
        return None
    picture = CoverView(tr("Where on the job that is"), session)
    picture.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    show_place(picture, session, ref)
    sheet = surface(column(picture, margins=4))
    sheet.setFixedWidth(LOOK.px(250))
    return sheet


def explain(desk: Desk) -> None:
    """What the thing with the focus is for, beside the window, where it may stay; F1 once more closes it."""
    explained_beside(desk.widget, lambda widget: HelpDialog(desk, subject_of(desk, widget)))
