"""The closure of the lower edge: what opens to let the cover over the object, or draws it in afterwards."""

from collections.abc import Iterator
from dataclasses import replace

from omnipel.core.covers.scheme import Cover, Hardware
from omnipel.core.job.document import Closure, ClosureKind, CoverChoices
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import FOLDED, Finish, FinishKind, cord_fold
from omnipel.core.tolerances import ELASTIC_STRETCH
from omnipel.core.words import refs
from omnipel.core.words.phrases import Ratio, mm, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked, worked

SPREAD = 1.0
"""An open slit spreads by about its own length at the edge: each side leans out by 30°."""
OPENS = (ClosureKind.ZIP, ClosureKind.HOOK_AND_LOOP, ClosureKind.LACING)
BELONGS = refs.CLOSURE
USUAL_SHARE = 0.6
"""A closure that opens so much of the height lets a cover on and off without tugging."""
LEAST_OPENING = 20.0
"""A slit shorter than this opens nothing, mm."""


def with_closure(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with its closure: what it opens, what is bought, and whether it can draw in that far."""
    closure = choices.closure
    if closure.kind is ClosureKind.NONE or not cover.panels:
        return cover
    if closure.kind in OPENS:
        return _opening(cover, choices)
    ring = _lower_edge(cover)
    if not ring.value:
        text = tr("There is no hemmed edge that the {closure} could run in: it changes nothing.", closure=term(closure.kind))
        least = cord_fold(choices.habits.mm("drawcord"), choices.habits.system.step)
        remedies = (_cased(choices, least), Remedy(tr("No closure"), (Change(BELONGS, Closure()),)))
        return replace(cover, findings=(*cover.findings, Finding("choice-unused", Severity.LOOK, text, BELONGS, remedies)))
    drawn = closure.length or ring.value / choices.cloth.gather_limit
    findings = (*cover.findings, *_drawn(choices, ring, drawn), *_tunnel(choices))
    bought = (
        ring + worked(tr("tail"), choices.habits.mm("tail")) * 2.0
        if closure.kind is ClosureKind.CORD
        else worked(tr("drawn to"), drawn, BELONGS.at("length")) + worked(tr("overlap"), choices.habits.mm("elastic overlap"))
    )
    note = tr("in the lower edge, drawn in to {drawn}", drawn=mm(drawn))
    hardware = Hardware(term(closure.kind), bought, note=note)
    return replace(cover, hardware=(*cover.hardware, hardware), findings=findings, gathers=True)


def _drawn(choices: CoverChoices, ring: Worked, drawn: float) -> Iterator[Finding]:
    """Whether the edge can be drawn in so far, and is drawn in at all; whether an elastic can be stretched to the edge."""
    where, limit = BELONGS.at("length"), choices.cloth.gather_limit
    ratio, least = ring.value / drawn, ring.value / limit
    far = (Change(where, choices.habits.system.up(least)),)
    if ratio > limit * (1.0 + 1e-9):
        text = tr(
            "Drawing the lower edge of {edge} in to {drawn} gathers it {ratio}; the cloth closes to {limit}.",
            edge=mm(ring.value),
            drawn=mm(drawn),
            ratio=Ratio(ratio),
            limit=Ratio(limit),
        )
        yield Finding(
            "cord-cannot-close", Severity.LOOK, text, where, (Remedy(tr("Draw it in only as far as the cloth gathers"), far),)
        )
    elif choices.closure.kind is ClosureKind.ELASTIC and ratio > ELASTIC_STRETCH:
        text = tr(
            "An elastic of {drawn} has to stretch {ratio} to pass the edge of {edge}; it gives way at {limit}.",
            drawn=mm(drawn),
            ratio=Ratio(ratio),
            edge=mm(ring.value),
            limit=Ratio(ELASTIC_STRETCH),
        )
        longer = choices.habits.system.up(max(least, ring.value / (ELASTIC_STRETCH * 0.9)))
        yield Finding(
            "elastic-too-short",
            Severity.STOP,
            text,
            where,
            (Remedy(tr("Elastic {length}", length=mm(longer)), (Change(where, longer),)),),
        )
    elif drawn >= ring.value:
        text = tr(
            "Drawn to {drawn}, the {closure} does nothing on an edge of {edge}.",
            drawn=mm(drawn),
            closure=term(choices.closure.kind),
            edge=mm(ring.value),
        )
        yield Finding(
            "cord-does-nothing", Severity.LOOK, text, where, (Remedy(tr("Draw it in as far as the cloth gathers"), far),)
        )


def _tunnel(choices: CoverChoices) -> Iterator[Finding]:
    """Whether a cord or elastic has a tunnel that is wide enough."""
    hem, least = choices.hem, cord_fold(choices.habits.mm("drawcord"), choices.habits.system.step)
    if hem.folded >= least:
        return
    text = (
        tr(
            "The lower edge is a {finish} of {width}; the {closure} needs a tunnel of {least}.",
            finish=term(hem.kind),
            width=mm(hem.folded),
            closure=term(choices.closure.kind),
            least=mm(least),
        )
        if hem.folded
        else tr(
            "The lower edge is {finish}; the {closure} needs a tunnel of {least}.",
            finish=term(hem.kind),
            closure=term(choices.closure.kind),
            least=mm(least),
        )
    )
    yield Finding("casing-too-narrow", Severity.LOOK, text, refs.HEM, (_cased(choices, least),))


def _cased(choices: CoverChoices, width: float) -> Remedy:
    """A casing along the lower edge that a cord or elastic has room in."""
    casing = Finish(kind=FinishKind.CORD_CASING, width=width, turn_under=min(choices.habits.mm("turn-under"), width))
    return Remedy(tr("Cord casing {width}", width=mm(width)), (Change(refs.HEM, casing),))


def _opening(cover: Cover, choices: CoverChoices) -> Cover:
    """A slit from the lower edge up: the girth grows from its upper end down."""
    closure, where = choices.closure, BELONGS.at("length")
    length = worked(tr("opens by"), closure.length, where)
    hardware = Hardware(term(closure.kind), length, note=tr("from the lower edge up"))
    cover = replace(cover, findings=(*cover.findings, *_opens(cover, choices, where)))
    if not cover.profile:
        return replace(cover, hardware=(*cover.hardware, hardware))
    ends = [passage.depth for passage in cover.profile]
    low, high = max(ends), min(ends)
    spread = min(closure.length, low - high) * SPREAD
    if cover.from_below:  # its mouth is at the top
        opens = ((high, spread), (min(low, high + closure.length), 0.0), (low, 0.0))
    else:
        opens = ((high, 0.0), (max(high, low - closure.length), 0.0), (low, spread))
    return replace(cover, opens=opens, hardware=(*cover.hardware, hardware))


def _opens(cover: Cover, choices: CoverChoices, where: Ref) -> Iterator[Finding]:
    """Whether a closure opens anything, and no further than the cover is high."""
    length, closure = choices.closure.length, term(choices.closure.kind)
    ends = [passage.depth for passage in cover.profile] or [p.width.value for p in cover.panels]
    high = max(ends) - min(0.0, *ends)
    usual = choices.habits.system.up(high * USUAL_SHARE)
    remedy = Remedy(tr("Let it open by {length}", length=mm(usual)), (Change(where, usual),))
    if length < LEAST_OPENING:
        text = (
            tr("The {closure} opens by {length}: it opens nothing.", closure=closure, length=mm(length))
            if length
            else tr("It is not said yet how far the {closure} opens: as it is, it opens nothing.", closure=closure)
        )
        yield Finding("closure-too-long", Severity.STOP, text, where, (remedy,))
    elif length > high:
        text = tr(
            "The {closure} of {length} is longer than the cover is high ({high}).",
            closure=closure,
            length=mm(length),
            high=mm(high),
        )
        yield Finding("closure-too-long", Severity.STOP, text, where, (remedy,))


def _lower_edge(cover: Cover) -> Worked:
    """How long the hemmed edge is that a cord runs in: that of all panels together."""
    total = sum(e.curve.length * p.count for p in cover.panels for e in p.edges if e.finish.kind in FOLDED)
    return worked(tr("lower edge"), total, how=tr("all hemmed edges together"))
