"""Go to anything: job, reading, panel, seam, finding, command."""

from omnipel.bench.commands.desk import Desk
from omnipel.bench.parts.pick import picked_from
from omnipel.bench.speech import say
from omnipel.bench.stations import STATIONS
from omnipel.core.covers.sizes import size_words
from omnipel.core.draft import Drafted
from omnipel.core.standing import next_step, station_of
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, Phrase, term, tr
from omnipel.core.words.refs import Ref


def goals(desk: Desk) -> list[tuple[str, object]]:
    """Everything that can be gone to: words, and kind with value."""
    session = desk.session
    tell = session.tell
    found: list[tuple[str, object]] = []
    job, draft = session.job, session.draft
    if job is not None and draft is not None:
        for key in sorted(STATIONS, key=lambda key: key != "tape"):  # readings first
            fields: dict[Ref, Phrase] = desk.station(key).field_words()
            found += [(tell(words), ("ref", ref)) for ref, words in fields.items()]
        found += [(tell(tr("panel: {panel}", panel=term(p.name))), ("ref", refs.panel(p.name))) for p in draft.panels]
        found += [(tell(tr("seam: {seam}", seam=term(t.seam.name))), ("ref", refs.seam(t.seam.name))) for t in draft.seams]
        if isinstance(draft, Drafted):
            named = dict.fromkeys(draft.cover.by_hand)
            found += [(tell(tr("size: {size}", size=size_words(name))), ("size", name)) for name in named]
        found += [(tell(tr("finding: {finding}", finding=f.text))[:110], ("ref", f.where)) for f in draft.findings]
    found += [(tell(tr("job: {job}", job=Name(card.name))), ("job", card.id)) for card in session.store.cards()]
    found += [(f"{say(c.words)}   {c.keys}", ("command", c.id)) for c in desk.commands if c.id != "go-to" and c.when(desk)]
    return found


def go_to_anything(desk: Desk) -> None:
    """Type a part of a name and be there."""
    picked = picked_from(desk.widget, tr("Go to anything"), goals(desk))
    if not isinstance(picked, tuple):
        return
    kind, value = picked
    if kind == "command":
        desk.run_command(value)
    elif kind == "job":
        if desk.session.open(value):
            go_to_next(desk)
    elif kind == "size":
        desk.show_station("panels")
        desk.station("panels").set_by_hand(value)
    else:
        desk.go_to(value)


def go_to_next(desk: Desk) -> None:
    """To the station of the job's next step."""
    if desk.session.draft is not None:
        desk.show_station(station_of(next_step(desk.session.draft).where))
