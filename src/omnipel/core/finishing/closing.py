"""The closure of the lower edge: what opens to let the cover over the object."""

from collections.abc import Iterator
from dataclasses import replace

from omnipel.core.covers.scheme import Cover, Hardware
from omnipel.core.job.document import ClosureKind, CoverChoices
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import worked

SPREAD = 1.0
"""An open slit spreads by about its own length at the edge: each side leans out by 30°."""
BELONGS = refs.CLOSURE
USUAL_SHARE = 0.6
"""A closure that opens so much of the height lets a cover on and off without tugging."""
LEAST_OPENING = 20.0
"""A slit shorter than this opens nothing, mm."""


def with_closure(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with its closure: what it opens, and what is bought."""
    if choices.closure.kind is ClosureKind.NONE or not cover.panels:
        return cover
    return _opening(cover, choices)


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
