"""The closure of the lower edge: what opens to let the cover over the object, or draws it in afterwards."""

from dataclasses import replace

from omnipel.core.covers.scheme import Cover, Hardware
from omnipel.core.job.document import ClosureKind, CoverChoices
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import FOLDED
from omnipel.core.words import refs
from omnipel.core.words.phrases import Ratio, mm, term, tr
from omnipel.core.words.working import Worked, worked

SPREAD = 1.0
"""An open slit spreads by about its own length at the edge: each side leans out by 30°."""
OPENS = (ClosureKind.ZIP, ClosureKind.HOOK_AND_LOOP, ClosureKind.LACING)
BELONGS = refs.choice("closure")


def with_closure(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with its closure: what it opens, what is bought, and whether it can draw in that far."""
    closure = choices.closure
    if closure.kind is ClosureKind.NONE or not cover.panels:
        return cover
    if closure.kind in OPENS:
        return _opening(cover, choices)
    ring = _lower_edge(cover)
    drawn = closure.length or ring.value / choices.cloth.gather_limit
    ratio = ring.value / drawn
    findings = list(cover.findings)
    if ratio > choices.cloth.gather_limit * (1.0 + 1e-9):
        least = ring.value / choices.cloth.gather_limit
        remedy = Remedy(
            tr("Draw it in only as far as the cloth gathers"), (Change(BELONGS.at("length"), choices.habits.system.up(least)),)
        )
        text = tr(
            "Drawing the lower edge of {edge} in to {drawn} gathers it {ratio}; the cloth closes to {limit}.",
            edge=mm(ring.value),
            drawn=mm(drawn),
            ratio=Ratio(ratio),
            limit=Ratio(choices.cloth.gather_limit),
        )
        findings.append(Finding("cord-cannot-close", Severity.LOOK, text, BELONGS.at("length"), (remedy,)))
    bought = (
        ring + worked(tr("tail"), choices.habits.mm("tail")) * 2.0
        if closure.kind is ClosureKind.CORD
        else worked(tr("drawn to"), drawn, BELONGS.at("length")) + worked(tr("overlap"), choices.habits.mm("elastic overlap"))
    )
    return replace(
        cover,
        hardware=(*cover.hardware, Hardware(term(closure.kind), bought, note=tr("in the lower edge"))),
        findings=tuple(findings),
    )


def _opening(cover: Cover, choices: CoverChoices) -> Cover:
    """A slit from the lower edge up: the girth grows from its upper end down."""
    closure = choices.closure
    length = worked(tr("opens by"), closure.length, BELONGS.at("length"))
    hardware = Hardware(term(closure.kind), length, note=tr("from the lower edge up"))
    if not cover.profile:
        return replace(cover, hardware=(*cover.hardware, hardware))
    ends = [passage.depth for passage in cover.profile]
    low, high = max(ends), min(ends)
    if cover.from_below:  # its mouth is at the top
        opens = ((high, closure.length * SPREAD), (min(low, high + closure.length), 0.0), (low, 0.0))
    else:
        opens = ((high, 0.0), (max(high, low - closure.length), 0.0), (low, closure.length * SPREAD))
    return replace(cover, opens=opens, hardware=(*cover.hardware, hardware))


def _lower_edge(cover: Cover) -> Worked:
    """How long the hemmed edge is that a cord runs in: that of all panels together."""
    total = sum(e.curve.length * p.count for p in cover.panels for e in p.edges if e.finish.kind in FOLDED)
    return worked(tr("lower edge"), total or cover.panels[0].length.value, how=tr("all hemmed edges together"))
