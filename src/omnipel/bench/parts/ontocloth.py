"""How a pattern gets onto the cloth: as proposed, or as somebody decided."""

from functools import partial

from omnipel.bench.parts.picker import Picker, combo
from omnipel.bench.session import Session
from omnipel.core.cloth.marking import proposed
from omnipel.core.drafting.panel import Panel
from omnipel.core.job.document import Marking
from omnipel.core.words import refs
from omnipel.core.words.phrases import Value, term, tr


def way_pick(session: Session, panel: Panel) -> Picker:
    """A list of the ways a panel may get onto the cloth."""
    usual = tr("{way}, as proposed", way=term(proposed(panel)))
    picks: list[tuple[Value, object]] = [(usual, None), *((term(way), way) for way in Marking)]
    made = combo(tr("{panel}, onto the cloth", panel=term(panel.name)), picks, partial(_picked, session, panel.name))
    made.show_value(session.open_job.cover.marking.get(panel.name))
    return made


def _picked(session: Session, name: str, way: Marking | None) -> None:
    kept = {panel: how for panel, how in session.open_job.cover.marking.items() if panel != name}
    said = tr("{panel}: {way}", panel=term(name), way=term(way) if way is not None else tr("onto the cloth as proposed"))
    session.set(refs.MARKING, kept if way is None else {**kept, name: way}, said)
