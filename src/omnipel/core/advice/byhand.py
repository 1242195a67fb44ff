"""What there is to say about sizes set by hand: those that this cover does not have, and those that stand in for a choice."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace

from omnipel.core.covers.scheme import Cover
from omnipel.core.covers.sizes import size_words
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.words import refs
from omnipel.core.words.phrases import mm, tr
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
