"""Whether an edge can be drawn in as decided: how far the cloth gathers, how far an elastic stretches, whether there is a tunnel wide enough."""

from collections.abc import Iterator

from omnipel.core.covers.dressed import Dressed
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.edges import Hold
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import Finish, FinishKind, cord_fold
from omnipel.core.tolerances import ELASTIC_STRETCH
from omnipel.core.words import refs
from omnipel.core.words.habits import Habits
from omnipel.core.words.phrases import Ratio, mm, term, tr


def tunnel_for(hold: Hold, wide: float, habits: Habits) -> Finish:
    """The casing that a cord or elastic so wide runs in."""
    cord = hold is Hold.CORD
    width = cord_fold(wide, habits.system.step) if cord else habits.system.up(wide + 4.0)
    kind = FinishKind.CORD_CASING if cord else FinishKind.ELASTIC_CASING
    return Finish(kind=kind, width=width, turn_under=min(habits.mm("turn-under"), width))


def judged(edge: Dressed, choices: CoverChoices, wide: float) -> Iterator[Finding]:
    """What there is to say about an edge that is drawn in by something so `wide`."""
    if edge.drawn:
        yield from _drawn(edge, choices)
        yield from _tunnel(edge, choices, wide)


def _drawn(edge: Dressed, choices: CoverChoices) -> Iterator[Finding]:
    """Whether the edge can be drawn in so far, and is drawn in at all; whether an elastic can be stretched to the edge."""
    where, limit = refs.edge(edge.name, "drawn_to"), choices.cloth.gather_limit
    around, drawn = edge.length.value, edge.drawn_to
    ratio, least = around / drawn, around / limit
    far = (Change(where, choices.habits.system.up(least)),)
    if ratio > limit * (1.0 + 1e-9):
        text = tr(
            "Drawing the {what} of {edge} in to {drawn} gathers it {ratio}; the cloth closes to {limit}.",
            what=term(edge.name),
            edge=mm(around),
            drawn=mm(drawn),
            ratio=Ratio(ratio),
            limit=Ratio(limit),
        )
        remedy = Remedy(tr("Draw it in only as far as the cloth gathers"), far)
        yield Finding("cord-cannot-close", Severity.LOOK, text, where, (remedy,))
    elif edge.held_by is Hold.ELASTIC and ratio > ELASTIC_STRETCH:
        text = tr(
            "An elastic of {drawn} has to stretch {ratio} to pass the edge of {edge}; it gives way at {limit}.",
            drawn=mm(drawn),
            ratio=Ratio(ratio),
            edge=mm(around),
            limit=Ratio(ELASTIC_STRETCH),
        )
        longer = choices.habits.system.up(max(least, around / (ELASTIC_STRETCH * 0.9)))
        remedy = Remedy(tr("Elastic {length}", length=mm(longer)), (Change(where, longer),))
        yield Finding("elastic-too-short", Severity.STOP, text, where, (remedy,))
    elif drawn >= around:
        text = tr(
            "Drawn to {drawn}, the {closure} does nothing on an edge of {edge}.",
            drawn=mm(drawn),
            closure=term(edge.held_by),
            edge=mm(around),
        )
        remedy = Remedy(tr("Draw it in as far as the cloth gathers"), far)
        yield Finding("cord-does-nothing", Severity.LOOK, text, where, (remedy,))


def _tunnel(edge: Dressed, choices: CoverChoices, wide: float) -> Iterator[Finding]:
    """Whether a cord or elastic has a tunnel that is wide enough."""
    finish, casing = edge.finish, tunnel_for(edge.held_by, wide, choices.habits)
    least = casing.width
    if finish.folded >= least - 1e-6:
        return
    what, held = term(edge.name), term(edge.held_by)
    text = (
        tr(
            "The {what} has a {finish} of {width}; the {closure} needs a tunnel of {least}.",
            what=what,
            finish=term(finish.kind),
            width=mm(finish.folded),
            closure=held,
            least=mm(least),
        )
        if finish.folded
        else tr(
            "The {what} is finished: {finish}; the {closure} needs a tunnel of {least}.",
            what=what,
            finish=term(finish.kind),
            closure=held,
            least=mm(least),
        )
    )
    cord = edge.held_by is Hold.CORD
    words = tr("Cord casing {width}", width=mm(least)) if cord else tr("Elastic casing {width}", width=mm(least))
    where = refs.edge(edge.name, "finish")
    yield Finding("casing-too-narrow", Severity.LOOK, text, where, (Remedy(words, (Change(where, casing),)),))
