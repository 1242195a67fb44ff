"""What there is to say about sizes set by hand: those that this cover does not have, and those that stand in for a choice."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace

from omnipel.core.covers.scheme import Cover
from omnipel.core.covers.sizes import size_words
from omnipel.core.drafting.seams import Trued
from omnipel.core.fit.sewn import Sewn
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.tolerances import SEAM
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, term, tr
from omnipel.core.words.refs import Ref


def dropped(size: str) -> Remedy:
    """The remedy that drops a size set by hand."""
    return Remedy(tr("Drop the {size} set by hand", size=size_words(size)), (Change(refs.by_hand(size), act=Act.REMOVE),))


def led(findings: Iterable[Finding], stood_in: Mapping[Ref, str]) -> Iterator[Finding]:
    """Lead what is said about a choice to the size set by hand that stands in for it; that such a choice is hardly meant is not said."""
    for finding in findings:
        size = next((by_hand for choice, by_hand in stood_in.items() if finding.where.within(choice)), None)
        if size is None:
            yield finding
        elif finding.code != "hardly-meant":
            yield replace(finding, where=refs.by_hand(size), remedies=(dropped(size), *finding.remedies))


def unknown(job: Job, cover: Cover) -> Iterator[Finding]:
    """Sizes set by hand that this cover does not have."""
    for override in job.cover.overrides:
        if override.size in cover.by_hand:
            continue
        text = tr(
            "{size} was set by hand to {value}, but this cover has no such size: it does nothing.",
            size=size_words(override.size),
            value=mm(override.value),
        )
        where = refs.by_hand(override.size)
        remedy = Remedy(tr("Leave it out"), (Change(where, act=Act.REMOVE),))
        yield Finding("size-unknown", Severity.LOOK, text, where, (remedy,))


def unfit(job: Job, cover: Cover, walked: Sequence[Trued], in_space: Sewn) -> Iterator[Finding]:
    """Sizes set by hand with which the sewn cover would lie inside of the object, or would not close though its seams are true."""
    known = [override.size for override in job.cover.overrides if override.size in cover.by_hand]
    if not known:
        return
    where, near = refs.by_hand(known[-1]), in_space.nearest
    remedies = tuple(dropped(size) for size in reversed(known))
    if len(known) > 1:
        remedies += (
            Remedy(tr("Drop the sizes set by hand"), tuple(Change(refs.by_hand(size), act=Act.REMOVE) for size in known)),
        )
    if near is not None and near.gap < -SEAM:
        text = tr(
            "With what was set by hand the {piece} would lie {deep} inside of the object: it does not fit over it.",
            piece=term(cover.panel_of[near.piece]),
            deep=mm(-near.gap),
        )
        yield Finding("by-hand-unfit", Severity.STOP, text, where, remedies)
    apart = [(in_space.apart[i], walked[i].seam.name) for i in in_space.gaping if in_space.apart[i] > SEAM]
    if apart and all(trued.true for trued in walked):  # what does not close because a side is too long is said there
        most, name = max(apart)
        text = tr(
            "With what was set by hand the two sides of {seam} lie {apart} apart when it is sewn, though they are equally long.",
            seam=term(name),
            apart=mm(most),
        )
        yield Finding("by-hand-unfit", Severity.STOP, text, where, remedies)
