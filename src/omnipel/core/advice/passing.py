"""What there is to say about going on: too narrow, tight, flapping, not sure enough."""

import math
from collections.abc import Iterator, Mapping

from omnipel.core.finishing.closing import SPREAD
from omnipel.core.fit.going_on import Fit, NoPassage, Slack, Verdict
from omnipel.core.job.document import ClearanceSchool, ClosureKind, Job
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.tolerances import FLAP_CLEARANCE, SURE_CHANCE, TIGHT_CLEARANCE
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Phrase, Share, mm, tr

WANTED_CLEARANCE = 8.0
"""What a remedy for a tight cover aims at: comfortably over tight, far from flapping."""
FLAPPING_TO = 12.0
"""What a remedy for a cover that flaps aims at."""
MOST_GAP = FLAP_CLEARANCE - 2.0
"""A wider gap is no remedy: it would flap."""
AS_ONE = 1.0
"""A place of the object and one of the cover as near to one another as this are one, mm."""
AT_TOP = 0.5
"""What lies no further below the top lies at it, mm."""
MOST_CLEARANCE = 1000.0
"""What a job holds as clearance, mm."""


def passing(job: Job, fit: Fit | NoPassage, named: Mapping[str, Phrase]) -> Iterator[Finding]:
    """What there is to say about going on; `named` are the readings' words by their place."""
    if isinstance(fit, NoPassage):
        return
    slack, where = fit.tightest.left, refs.CLEARANCE
    at = below_top(fit.tightest.past)
    match fit.verdict:
        case Verdict.WILL_NOT:
            yield Finding(
                "will-not-go-on", Severity.STOP, _too_narrow(fit.tightest), where, (*_open(job, fit), *widened(job, fit))
            )
        case Verdict.TIGHT:
            gap, least = fit.tightest.clearance, mm(TIGHT_CLEARANCE, fine=True)
            text = (
                tr(
                    "Tight {at}: a gap of {gap} on each side. Under {least} it is a struggle.",
                    at=at,
                    gap=mm(gap, fine=True),
                    least=least,
                )
                if gap > 0.0
                else tr("Tight {at}: no gap at all. Under {least} it is a struggle.", at=at, least=least)
            )
            yield Finding("tight", Severity.LOOK, text, where, widened(job, fit))
        case Verdict.FLAPS:
            text = tr(
                "It will flap: the gap is {gap} on each side even where it is tightest. Over {most} it pools water.",
                gap=mm(min(s.clearance for s in fit.slacks)),
                most=mm(FLAP_CLEARANCE),
            )
            yield Finding("flaps", Severity.LOOK, text, where, widened(job, fit))
    if slack >= 0.0 and fit.chance < SURE_CHANCE and not fit.doubtful:
        text = tr(
            "The chance that it goes on is {chance}: {slack} is left, give or take {spread}.{most}",
            chance=Share(fit.chance),
            slack=mm(slack, fine=True) if slack > 0.0 else tr("nothing"),
            spread=mm(fit.sigma, fine=True),
            most=tr(" Measuring again helps most at the reading shown.") if fit.matters_most else NOTHING,
        )
        place = refs.reading(fit.matters_most) if fit.matters_most else where
        again = (
            Remedy(tr("Take {place} again", place=words), (Change(place.at("set_aside"), True),))
            for key, words in named.items()
            if key == fit.matters_most
        )
        yield Finding("chance-low", Severity.LOOK, text, place, (*(widened(job, fit) if sure_gap(fit) else ()), *again))


def _too_narrow(slack: Slack) -> Phrase:
    """That it does not pass: where on the thing, and which part of the cover where that lies elsewhere."""
    at, around, short = below_top(slack.past), slack.way == 0, mm(-slack.left, fine=True)
    if abs(slack.past - slack.depth) < AS_ONE:
        return (
            tr("It will not go on: {at} the cover is {short} too narrow around.", at=at, short=short)
            if around
            else tr("It will not go on: {at} the cover is {short} too narrow across.", at=at, short=short)
        )
    lower = tr("the cover at its own top")
    if slack.depth > AT_TOP:
        lower = tr("the cover {depth} below its own top", depth=mm(slack.depth))
    return (
        tr("It will not go on: {at} the thing is {short} too large around for {cover}.", at=at, short=short, cover=lower)
        if around
        else tr("It will not go on: {at} the thing is {short} too large across for {cover}.", at=at, short=short, cover=lower)
    )


def below_top(depth: float) -> Phrase:
    """How far below the object's top a place is, mm, as part of a sentence."""
    return tr("{depth} below the top", depth=mm(depth)) if depth > AT_TOP else tr("at the top")


def _open(job: Job, fit: Fit) -> tuple[Remedy, ...]:
    """A zip from the lower edge up, long enough to pass everywhere; where that is longer than the cover, none."""
    if job.cover.overrides or job.cover.closure.kind is not ClosureKind.NONE:
        return ()
    lowest = max(s.depth for s in fit.slacks)
    failing = [i for i, s in enumerate(fit.slacks) if s.left < 0.0]
    if not failing or failing[0] == 0 or any(s.left < 0.0 and s.depth == 0.0 for s in fit.across):
        return ()
    above, below = fit.slacks[failing[0] - 1], fit.slacks[failing[0]]
    # The slit has to begin where the slack runs out, and to spread by what is missing further down.
    part = above.left / (above.left - below.left)
    starts = above.depth + part * (below.depth - above.depth)
    needed = max(lowest - starts, *(lowest - fit.slacks[i].depth - fit.slacks[i].left / SPREAD for i in failing))
    length = job.cover.habits.system.up(needed + 20.0)
    if length > lowest:
        return ()
    changes = (Change(refs.CLOSURE_KIND, ClosureKind.ZIP), Change(refs.CLOSURE_LENGTH, length))
    return (Remedy(tr("Let a zip of {length} open it from below", length=mm(length)), changes),)


def sure_gap(fit: Fit) -> float:
    """The gap at the tightest place that makes it sure without letting it flap, mm; 0 where there is none."""
    wanted = max(WANTED_CLEARANCE, fit.tightest.clearance + fit.surer)
    return wanted if wanted <= MOST_GAP else 0.0


def widened(job: Job, fit: Fit) -> tuple[Remedy, ...]:
    """Set the clearance so that the tightest place has a gap that is sure and does not flap; a size set by hand has to be dropped first."""
    if job.cover.overrides:
        changes = tuple(Change(refs.by_hand(o.size), act=Act.REMOVE) for o in job.cover.overrides)
        return (Remedy(tr("Drop the sizes set by hand"), changes),)
    flapping = fit.verdict is Verdict.FLAPS
    wanted = (FLAPPING_TO if flapping else sure_gap(fit)) or MOST_GAP
    given, system = job.cover.clearance, job.cover.habits.system
    more = wanted - fit.tightest.clearance
    if flapping:  # it flaps around; across, where it may be tighter, something has to be left
        more = max(wanted - min(s.clearance for s in fit.slacks), WANTED_CLEARANCE - fit.tightest.clearance)
    if given.school is ClearanceSchool.GIRTH:
        amount = system.up(wanted)
        changes = (Change(refs.CLEARANCE_SCHOOL, ClearanceSchool.SIDE), Change(refs.CLEARANCE, amount))
        return (Remedy(tr("Give the clearance by the side: {gap}", gap=mm(amount)), changes),)
    side = given.school is ClearanceSchool.SIDE
    amount = max(0.0, system.up(given.amount + (more if side else 2.0 * more)))
    if math.isclose(amount, given.amount) or amount > MOST_CLEARANCE:
        return ()
    words = tr("Clearance {gap}", gap=mm(amount)) if side else tr("Ease {ease}", ease=mm(amount))
    return (Remedy(words, (Change(refs.CLEARANCE, amount),)),)
