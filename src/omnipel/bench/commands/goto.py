"""Go to anything: findings, fields, readings, parts, sizes, jobs and commands, in the order of work, and on the job's own picture."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget

from omnipel.bench.commands.desk import Desk
from omnipel.bench.parts.asking import chosen
from omnipel.bench.parts.coverview import CoverView
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.pick import Heading, PickDialog
from omnipel.bench.parts.widgets import column, label, surface
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.speech import say
from omnipel.bench.stations import STATIONS
from omnipel.bench.stations.cover.parts import parts_of
from omnipel.core.covers.sizes import size_words
from omnipel.core.draft import Drafted
from omnipel.core.pictures.worn import uncovered
from omnipel.core.standing import station_of
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, Phrase, term, tr
from omnipel.core.words.refs import Of, Ref


def goals(desk: Desk) -> list[tuple[str, object]]:
    """Everything that can be gone to: words, and kind with value."""
    return [goal for _, group in grouped(desk) for goal in group]


def grouped(desk: Desk) -> list[tuple[Phrase, list[tuple[str, object]]]]:
    """Everything that can be gone to, in the order of work: what is to be seen to, station by station, other jobs, what can be done."""
    session, tell = desk.session, desk.session.tell
    job, draft = session.job, session.draft
    found: list[tuple[Phrase, list[tuple[str, object]]]] = []
    if job is not None and draft is not None:
        judged: list[tuple[str, object]] = [
            (tell(tr("finding: {finding}", finding=f.text))[:110], ("ref", f.where)) for f in draft.findings
        ]
        found.append((tr("to be seen to"), judged))
        for key, place in STATIONS.items():
            fields: dict[Ref, Phrase] = desk.station(key).field_words()
            group: list[tuple[str, object]] = [(tell(words), ("ref", ref)) for ref, words in fields.items()]
            if key == "panels":
                group += [(tell(tr("panel: {panel}", panel=term(p.name))), ("ref", refs.panel(p.name))) for p in draft.panels]
                group += [
                    (tell(tr("seam: {seam}", seam=term(t.seam.name))), ("ref", refs.seam(t.seam.name))) for t in draft.seams
                ]
                named = dict.fromkeys(draft.cover.by_hand) if isinstance(draft, Drafted) else {}
                group += [(tell(tr("size: {size}", size=size_words(name))), ("size", name)) for name in named]
            found.append((place.words, group))
    jobs: list[tuple[str, object]] = [
        (tell(tr("job: {job}", job=Name(card.name))), ("job", card.id)) for card in session.store.cards()
    ]
    found.append((tr("jobs"), jobs))
    done: list[tuple[str, object]] = [
        (f"{say(c.words)}   {c.keys}", ("command", c.id)) for c in desk.commands if c.id != "go-to" and c.when(desk)
    ]
    found.append((tr("what can be done"), done))
    return found


class JobPlace(QWidget):
    """The open job's own picture, on which the place is marked that one would go to."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.picture = CoverView(tr("Where on the job that is"), session)
        self.picture.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.told = label(NOTHING, "soft", wrap=True)
        self.told.setMinimumHeight(LOOK.px(40))
        layout = column(
            label(Name(session.open_job.name), "head", wrap=True), surface(column(self.picture, margins=4)), self.told
        )
        layout.setStretch(1, 1)
        self.setLayout(layout)
        self.point(None)

    def point(self, value: object) -> None:
        """Mark the place of an entry: a part of the cover shines, a reading shows its path on the thing."""
        ref = value[1] if isinstance(value, tuple) and isinstance(value[1], Ref) else None
        self.told.setText(show_place(self.picture, self.session, ref))


def show_place(picture: CoverView, session: Session, ref: Ref | None) -> str:
    """Show a place of the open job on its picture; what of the cover shines, in words."""
    lit, told, body = frozenset[Ref](), "", session.body
    if ref is not None and ref.of is Of.READING and body is not None:
        place = next((p for p in session.places if p.key == ref.id), None)
        path = body.tape(ref.id)
        if place is not None and path is not None:
            picture.show_other()
            picture.show_scene(uncovered(body), path, session.tell(place.words))
            return ""
    if ref is not None and ref.of in (Of.PANEL, Of.SEAM, Of.EDGE, Of.FEATURE):
        lit = frozenset((ref.whole,))
        part = next((p for group in parts_of(session.open_job, session.draft) for p in group.parts if p.ref == ref.whole), None)
        told = session.tell(part.words) if part is not None else ""
    picture.show_cover(lit)
    return told


def go_to_anything(desk: Desk) -> None:
    """Type a part of a name and be there; of the open job the place is seen on its picture before one goes."""
    entries: list[tuple[str, object]] = []
    for words, group in grouped(desk):
        entries += [(say(words), Heading()), *group] if group else []
    place = JobPlace(desk.session) if desk.session.job is not None else None
    dialog = PickDialog(desk.widget, tr("Where to?"), entries, beside=place)
    if place is not None:
        dialog.pointed.connect(place.point)
    with chosen(dialog) as yes:
        picked = dialog.picked if yes else None
    if not isinstance(picked, tuple):
        return
    kind, value = picked
    if kind == "command":
        desk.run_command(value)
    elif kind == "job":
        open_at_next(desk, value)
    elif kind == "size":
        desk.show_station("panels")
        desk.station("panels").set_by_hand(value)
    else:
        desk.go_to(value)


def open_at_next(desk: Desk, key: int) -> None:
    """Open a job where it goes on."""
    if desk.session.open(key):
        go_to_next(desk)


def go_to_next(desk: Desk) -> None:
    """To the station of the job's next step."""
    if (step := sewing_of(desk.session).next) is not None:
        desk.show_station(station_of(step.where))
