"""Where a job stands: the state of each station, the state of the whole, and the one next step. The same fact has the same state everywhere."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Final

from omnipel.core.advice.judgement import ORDER
from omnipel.core.draft import Draft, Drafted
from omnipel.core.job.findings import Finding, Remedy, Severity
from omnipel.core.job.state import RANK, State
from omnipel.core.job.trying import AMISS, Stage, last_went
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Count, Phrase, tr
from omnipel.core.words.refs import Of, Ref

if TYPE_CHECKING:
    from omnipel.core.job.document import Job
    from omnipel.core.sewing.plan import Plan

OF_SEVERITY: Final = {Severity.NOTE: State.FINE, Severity.LOOK: State.LOOK, Severity.OPEN: State.OPEN, Severity.STOP: State.STOP}
STATIONS: Final = ("object", "tape", "cover", "panels", "cloth", "sew", "fit")


@dataclass(frozen=True, slots=True)
class Step:
    """The next thing to do: in words, the place it leads to, and the remedy it applies when it is one."""

    words: Phrase
    where: Ref
    state: State
    remedy: Remedy | None = None


@dataclass(frozen=True, slots=True)
class Sewn:
    """How far a cover is sewn: how many steps are done, of how many, which one is due and what it is; nothing is due when all are done."""

    done: int
    of: int
    where: Ref = refs.step()
    words: Phrase = NOTHING

    @property
    def told(self) -> Phrase:
        """In a few words; none where nothing is done."""
        if not self.done:
            return NOTHING
        return (
            tr("step {n} of {all}", n=Count(self.done + 1), all=Count(self.of)) if self.done < self.of else tr("all steps done")
        )


def with_sewing(draft: Draft) -> tuple[Draft, Sewn | None]:
    """A draft with what there is to say about its order of work, which is made for it; and how far it is sewn."""
    if not isinstance(draft, Drafted):
        return draft, None
    from omnipel.core.sewing.plan import planned  # a window that shows other things does without
    from omnipel.core.sewing.traps import traps

    plan = planned(draft, copies=draft.job.copies, wanted=draft.job.sewing.order)
    return with_more(draft, traps(plan)), sewn_of(plan, draft.job.sewing.done)


def sewn_of(plan: Plan, done: frozenset[str]) -> Sewn:
    """The same of a plan that is there."""
    due, of = plan.at(done), len(plan.steps)
    left = len(plan.left(done))
    return Sewn(of - left, of, refs.step(due.key), due.operation.words) if due is not None else Sewn(of, of)


def with_more(draft: Draft, found: Sequence[Finding]) -> Draft:
    """A draft with more findings, the worst first; those of one severity as they come."""
    both = sorted((*draft.findings, *found), key=lambda finding: ORDER.index(finding.severity))
    return replace(draft, findings=tuple(both)) if found else draft


def states(draft: Draft, left: Sequence[str] = ()) -> dict[str, State]:
    """The state of each station from the findings that belong to it; what waits for readings is to do.

    Args:
        draft: the job as it is drafted.
        left: layers of which a piece does not fit on its cloth.
    """
    worst = dict.fromkeys(STATIONS, State.FINE)
    for finding in draft.findings:
        station, state = station_of(finding.where), OF_SEVERITY[finding.severity]
        worst[station] = max(worst[station], state, key=RANK.__getitem__)
    if not isinstance(draft, Drafted):
        waiting = any(f.severity is Severity.OPEN for f in draft.findings)
        for station in ("panels", "cloth", "sew", *(() if draft.job.tries else ("fit",))):
            worst[station] = max(worst[station], State.OPEN, key=RANK.__getitem__)
        if waiting and worst["cover"] is State.FINE:
            worst["cover"] = State.OPEN
    if left:
        worst["cloth"] = State.STOP
    if last_went(draft.job.tries) in AMISS:
        worst["fit"] = max(worst["fit"], State.LOOK, key=RANK.__getitem__)
    return worst


def whole(draft: Draft) -> State:
    """The state of the job: that of its worst finding."""
    return max((OF_SEVERITY[f.severity] for f in draft.findings), key=RANK.__getitem__, default=State.FINE)


def next_step(draft: Draft, left: Sequence[str] = (), sewn: Sewn | None = None) -> Step:
    """The one next thing to do; `left` as above, `sewn` where it has been begun to be."""
    stops = bool(draft.findings) and draft.findings[0].severity in (Severity.STOP, Severity.OPEN)
    if left and not stops:
        return Step(tr("Look at: what does not fit on the cloth"), refs.lay(left[0]), State.STOP)
    if not draft.findings or draft.findings[0].severity is Severity.NOTE:
        if sewn is not None and sewn.done:
            if sewn.done < sewn.of:
                return Step(tr("Sew: {step}", step=sewn.words), sewn.where, State.FINE)
            return _made(draft.job)
        return Step(tr("Print the pattern and cut"), refs.PAPERS, State.FINE)
    first = draft.findings[0]
    state = OF_SEVERITY[first.severity]
    if state is State.STOP and first.remedies:
        return Step(first.remedies[0].words, first.where, state, first.remedies[0])
    if first.code in ("reading-missing", "reading-again"):
        return Step(tr("Measure: {place}", place=dict(first.text.values)["place"]), first.where, state)
    if state is State.LOOK:
        return Step(tr("Look at: {subject}", subject=subject(first)), first.where, state)
    return Step(first.text, first.where, state)


def _made(job: Job) -> Step:
    """What is to be done about a cover that is sewn."""
    last = next((one for one in reversed(job.tries) if one.stage is not Stage.FIRST and not one.blank), None)
    if last is None:
        return Step(tr("Put it on, and write down what it came out as"), refs.try_on(), State.FINE)
    if last.went in AMISS:
        return Step(tr("Look at: what can be done now"), refs.try_on(last.id), State.LOOK)
    return Step(tr("It is made: make it again with what was learnt"), refs.try_on(last.id), State.FINE)


def subject(finding: Finding) -> Phrase:
    """What a finding is about, in a word or two."""
    return {
        "reading-misread": tr("repeats that differ"),
        "reading-implausible": tr("an unlikely reading"),
        "readings-disagree": tr("readings that disagree"),
        "hem-counted-twice": tr("a hem counted twice"),
        "tight": tr("a tight fit"),
        "flaps": tr("a loose fit"),
        "chance-low": tr("a chance that is low"),
        "cord-cannot-close": tr("a cord that cannot close"),
        "construction-unsuited": tr("how a seam is sewn"),
        "gathers-too-much": tr("too much to gather"),
        "elastic-does-not-hold": tr("an elastic that does not hold"),
        "gore-excess": tr("too few gores"),
        "port-missing": tr("a port that is missing"),
        "our-fault": tr("a fault of the program"),
        "by-hand-unfit": tr("a size set by hand"),
        "promise-broken": tr("a mistake of ours"),
        "nothing-to-cover": tr("a thing to leave free at the top"),
        "covers-too-far": tr("a cover that reaches too far"),
        "sticks-out-unreckoned": tr("what sticks out"),
        "slope-ignored": tr("a slope or unequal ends"),
        "feature-unplaced": tr("where something lies"),
        "feature-in-gathers": tr("something in gathered cloth"),
        "drain-not-lowest": tr("where water runs out"),
        "letters-missing": tr("letters that are missing"),
        "snap-in-stitch-line": tr("a fastener in a stitch line"),
        "turning-gap": tr("the turning gap"),
        "casing-without-cord": tr("a casing with nothing in it"),
        "gap-in-curve": tr("the turning gap"),
        "ring-too-small": tr("a ring smaller than the machine's arm"),
        "too-thick": tr("too much under the foot"),
        "step-overtaken": tr("a step that was overtaken"),
        "learnt": tr("what was learnt"),
        "lining-narrow": tr("a lining that is too narrow"),
        "lining-eased": tr("the lining's edge"),
        "padding-in-seam": tr("padding in the seams"),
        "not-on-fold": tr("a panel that cannot be cut on the fold"),
        "layer-on-nothing": tr("a layer without its panel"),
        "padding-too-small": tr("padding of which nothing is left"),
        "size-unknown": tr("a size set by hand"),
        "longer-than-cloth": tr("a panel longer than the cloth"),
        "cut-along-cloth": tr("cut along the cloth"),
        "rounding-measured": tr("rounded top edges"),
        "outline-simplified": tr("a simplified tracing"),
        "outline-smoothed-less": tr("a tracing smoothed less"),
    }.get(finding.code, finding.text)


def station_of(ref: Ref) -> str:
    """The station that decides what a reference means."""
    if ref.of is Of.SEAM and ref.part:  # what is decided about it, not the seam as it is walked
        return "cover"
    if ref.of is Of.JOB and ref.part.startswith("sewing."):
        return "sew"
    return _STATIONS.get(ref.of, "cover")


_STATIONS: Final = {
    Of.READING: "tape",
    Of.TAPE: "tape",
    Of.JOB: "object",
    Of.THING: "object",
    Of.STICKS_OUT: "object",
    Of.BY_HAND: "panels",
    Of.PANEL: "panels",
    Of.SEAM: "panels",
    Of.PAPERS: "panels",
    Of.LAY: "cloth",
    Of.STEP: "sew",
    Of.TRY: "fit",
    Of.ALTERATION: "fit",
    Of.LOG: "fit",
}
