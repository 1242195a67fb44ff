"""Remedies that hold: each is tried on the whole job before it is offered, and what nothing else puts right is led back to what is usual.

A remedy is offered when what it makes is lawful, when it takes its finding away, and when no stop comes in its place. What a person says about
a reading is never withheld for what follows from it, and where something is to be measured first nothing is cut anyway.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from itertools import islice
from typing import Final

from omnipel.core.advice.byhand import dropped
from omnipel.core.covers import SCHEMES, following
from omnipel.core.covers.fields import FIELDS
from omnipel.core.covers.options import OptionKind
from omnipel.core.covers.starting import usual_choices
from omnipel.core.draft import Draft, Drafted, draft, where_served
from omnipel.core.finishing.elsewhere import cures
from omnipel.core.forms import FORMS
from omnipel.core.job.changes import changed, meant
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Act, Change, Finding, Remedy, Severity
from omnipel.core.words import refs
from omnipel.core.words.habits import HABITS
from omnipel.core.words.phrases import Name, Phrase, Value, listed, mm, tr
from omnipel.core.words.refs import Of, Ref

MOST_OFFERED: Final = 5
MOST_CURES: Final = 3
MOST_LAST: Final = 3
MOST_SCHEMES: Final = 3
ACROSS: Final = frozenset(("port-across-seam", "pocket-too-wide"))
"""What may be put right by seams that lie elsewhere."""
MOST_TRIED: Final = 12
"""With more findings than this the first are enough to begin with: the others are tried when those are put right."""
GENERAL: Final = (
    refs.HEM,
    refs.ANY_CLEARANCE,
    refs.CLOSURE,
    refs.SEAM_ALLOWANCE,
    refs.CLOSING_ALLOWANCE,
    refs.PADDING,
    refs.PADDING_INSET,
    refs.LINING_SCHOOL,
    refs.CLOTH_THICKNESS,
    refs.QUILTING,
)
"""Choices that are led back to what is usual, when nothing else helps."""


Lawful = Callable[[Job], bool]
"""Whether a job could be kept: what could not is not offered."""


class Trying:
    """The remedies of a draft, tried one finding at a time, so that a window stays alive meanwhile."""

    def __init__(self, drafted: Draft, lawful: Lawful) -> None:
        self.drafted, self.lawful = drafted, lawful
        self.made: list[Finding] = []

    def step(self) -> bool:
        """Try what the next finding offers; whether there was one left."""
        i = len(self.made)
        if i >= len(self.drafted.findings):
            return False
        finding = self.drafted.findings[i]
        sound: list[Remedy] = []
        if i < MOST_TRIED:
            tried = (
                remedy
                for remedy in _proposed(self.drafted, finding, self.lawful)
                if holds(self.drafted, finding, remedy, self.lawful)
            )
            sound = list(islice(_distinct(tried), MOST_OFFERED))
            if not sound and finding.severity is Severity.STOP:
                sound = list(islice(_distinct(_last_resorts(self.drafted, finding, self.lawful)), MOST_LAST))
        self.made.append(replace(finding, remedies=tuple(sound)))
        return True

    @property
    def advised(self) -> Draft:
        """The draft with the remedies that hold, as far as they have been tried; what has not is not offered."""
        waiting = (replace(finding, remedies=()) for finding in self.drafted.findings[len(self.made) :])
        return replace(self.drafted, findings=(*self.made, *waiting))


def advised(drafted: Draft, lawful: Lawful, most: int | None = None) -> Draft:
    """The draft with only the remedies that hold, of the first findings or of all."""
    trying = Trying(drafted, lawful)
    while len(trying.made) != most and trying.step():
        pass
    return trying.advised


@dataclass(frozen=True, slots=True)
class PutRight:
    """A job put right as far as can be without asking: its draft, what was done, and what a person has to decide."""

    drafted: Draft
    done: tuple[Remedy, ...]
    left: tuple[Finding, ...]


def put_right(job: Job, lawful: Lawful, code: str = "") -> PutRight:
    """Apply the first remedy of the worst finding (of one code only, if given), again and again; what is said about a reading is left to a person."""
    seen = [job]
    done: list[Remedy] = []
    while True:
        drafted = advised(draft(job), lawful)
        worth = [f for f in drafted.findings if f.severity in (Severity.STOP, Severity.LOOK) and code in ("", f.code)]
        step = next((f.remedies[0] for f in worth if f.remedies and (code or not _tells(f.remedies[0]))), None)
        after = changed(job, *step.changes) if step is not None else job
        if step is None or after in seen:
            return PutRight(drafted, tuple(done), tuple(worth))
        job = after
        seen.append(job)
        done.append(step)


def _tells(remedy: Remedy) -> bool:
    """Whether a remedy says something about a reading, which only a person can know."""
    return any(change.ref.of is Of.READING and change.ref.id != "drop" for change in remedy.changes)


def _distinct(remedies: Iterator[Remedy]) -> Iterator[Remedy]:
    """Each only once: what is proposed may also be a way back."""
    seen: list[tuple[Change, ...]] = []
    for remedy in remedies:
        if remedy.changes not in seen:
            seen.append(remedy.changes)
            yield remedy


def _proposed(drafted: Draft, finding: Finding, lawful: Lawful) -> Iterator[Remedy]:
    """What a finding proposes; for something on a panel first where else it could be."""
    if finding.where.of is Of.FEATURE and isinstance(drafted, Drafted):
        feature = meant(drafted.job, finding.where.whole)
        yield from islice(cures(feature, drafted.cover, drafted.job.cover, where_served(drafted.body, drafted.job)), MOST_CURES)
    if finding.code in ACROSS and isinstance(drafted, Drafted):
        yield from islice(_otherwise_cut(drafted), MOST_SCHEMES)
    if finding.code == "port-missing" and not holds(drafted, finding, finding.remedies[0], lawful):
        yield _halved(finding.remedies[0])
    yield from finding.remedies


def _halved(remedy: Remedy) -> Remedy:
    """A port that is proposed, over the seam as two halves."""
    (added,) = remedy.changes
    port = replace(added.value, options={**added.value.options, "split": True})
    return Remedy(tr("{port}, over the seam as two halves", port=remedy.words), (replace(added, value=port),))


def _otherwise_cut(drafted: Drafted) -> Iterator[Remedy]:
    """Other schemes, whose seams may lie elsewhere."""
    for scheme in following(FORMS[drafted.job.thing.form], drafted.body):
        if scheme.key != drafted.job.cover.scheme:
            words = tr("Use {scheme}, whose seams lie elsewhere", scheme=scheme.words)
            yield Remedy(words, (Change(refs.SCHEME, scheme.key), Change(refs.option(), {})))


def holds(drafted: Draft, finding: Finding, remedy: Remedy, lawful: Lawful) -> bool:
    """Whether a remedy does what it says."""
    brought = _brought(drafted, finding, remedy, lawful)
    return brought is not None and not brought


def _brought(drafted: Draft, finding: Finding, remedy: Remedy, lawful: Lawful) -> list[Finding] | None:
    """The stops that a remedy brings; None when it does not do what it says at all."""
    try:
        after = changed(drafted.job, *remedy.changes)
    except KeyError:
        return None
    if after == drafted.job or not lawful(after):
        return None
    made = draft(after)
    if any((f.code, f.where) == (finding.code, finding.where) for f in made.findings):
        return None
    waiting = {f.where for f in drafted.findings if f.severity is Severity.OPEN}
    asks = any(f.severity is Severity.OPEN and f.where not in waiting for f in made.findings)
    if _tells(remedy) or asks:
        return []
    if not isinstance(drafted, Drafted):
        return []  # what is judged only now was not brought by this
    known = {(f.code, f.where) for f in drafted.findings if f.severity is Severity.STOP}
    return [f for f in made.findings if f.severity is Severity.STOP and (f.code, f.where) not in known]


def _last_resorts(drafted: Draft, finding: Finding, lawful: Lawful) -> Iterator[Remedy]:
    """What is left when no remedy of a stop holds: a doubtful reading cleared up, one decision led back, what lies badly then left out; or all led back."""
    places = drafted.measured.places if drafted.measured is not None else ()
    words = {place.key: place.words for place in places}
    doubts = [f for f in drafted.findings if f.where.id in words and f.severity is Severity.LOOK]
    borrowed = [
        replace(remedy, words=tr("{place}: {remedy}", place=words[doubt.where.id], remedy=remedy.words))
        for doubt in doubts
        for remedy in doubt.remedies
    ]
    back = list(ways_back(drafted.job))
    found, nearly = False, []
    for proposed in (*borrowed, *finding.remedies, *back):
        remedy, brought = proposed, _brought(drafted, finding, proposed, lawful)
        if brought and all(f.where.of is Of.FEATURE for f in brought):
            remedy = _without(drafted.job, proposed, {f.where.id for f in brought})
            brought = _brought(drafted, finding, remedy, lawful)
        if brought == []:
            found = True
            yield remedy
        nearly += [(remedy, then) for stop in brought or () for then in stop.remedies]
    if not found:
        yield from _further(drafted, finding, nearly, back, lawful)


def _further(
    drafted: Draft, finding: Finding, nearly: list[tuple[Remedy, Remedy]], back: list[Remedy], lawful: Lawful
) -> Iterator[Remedy]:
    """Where no single step leads on: one and what the stop that it brings proposes (`nearly`), or everything led back at once."""
    for first, then in nearly:
        both = Remedy(tr("{first}, then: {then}", first=first.words, then=then.words), (*first.changes, *then.changes))
        if holds(drafted, finding, both, lawful):
            yield both
    if len(back) > 1:
        decided = (change for remedy in back for change in remedy.changes if change.ref.of is not Of.FEATURE)
        changes = tuple({change.ref: change for change in decided}.values())
        all_of_it = Remedy(tr("All that was chosen back to what is usual"), changes)
        if holds(drafted, finding, all_of_it, lawful):
            yield all_of_it


def _without(job: Job, remedy: Remedy, ids: set[str]) -> Remedy:
    """The same remedy, and some features left out."""
    gone = [feature for feature in job.cover.features if feature.id in ids]
    words = tr("{remedy}, and leave {features} out", remedy=remedy.words, features=listed(Name(feature.name) for feature in gone))
    return Remedy(words, (*remedy.changes, *(Change(refs.feature(feature.id), act=Act.REMOVE) for feature in gone)))


def ways_back(job: Job) -> Iterator[Remedy]:
    """What leads one decision back to what is usual: the scheme's own choices, sizes set by hand, general ones, a shop's habits, what is on the panels."""
    scheme = SCHEMES.get(job.cover.scheme)
    if scheme is None:
        return
    for option in scheme.options:
        chosen = job.cover.options.get(option.key)
        usual = option.usual(scheme.key, job.cover.habits)
        if chosen is not None and chosen != usual:
            shown: Value = mm(float(usual), fine=True) if option.kind is OptionKind.LENGTH else option.shown(usual)
            words = tr("{what}: back to {usual}", what=option.words, usual=shown)
            yield Remedy(words, (Change(refs.option(option.key), act=Act.REMOVE),))
    if len(job.cover.options) > 1:
        words = tr("{scheme}: all of its own choices back to what is usual", scheme=scheme.words)
        yield Remedy(words, (Change(refs.option(), {}),))
    for override in job.cover.overrides:
        yield dropped(override.size)
    if len(job.cover.overrides) > 1:
        yield Remedy(tr("Drop the sizes set by hand"), (Change(refs.by_hand(), ()),))
    usual_job = replace(job, cover=usual_choices(scheme, job.cover.habits))
    for ref in GENERAL:
        if meant(job, ref) != meant(usual_job, ref):
            yield Remedy(tr("{what}: back to what is usual", what=_called(ref)), (Change(ref, meant(usual_job, ref)),))
    habits = job.cover.habits
    for name in habits.own:
        if name in HABITS:
            words = tr("{habit}: back to {usual}", habit=HABITS[name].words, usual=mm(HABITS[name].usual(habits.system)))
            others = {other: length for other, length in habits.own.items() if other != name}
            yield Remedy(words, (Change(refs.HABITS, replace(habits, own=others)),))
    for feature in job.cover.features:
        words = tr("Leave {feature} out", feature=Name(feature.name))
        yield Remedy(words, (Change(refs.feature(feature.id), act=Act.REMOVE),))


def _called(ref: Ref) -> Phrase:
    """What a choice is called."""
    groups = {
        refs.HEM: tr("lower edge"),
        refs.ANY_CLEARANCE: tr("clearance"),
        refs.CLOSURE: tr("closure"),
        refs.QUILTING: tr("quilting"),
    }
    return groups.get(ref) or FIELDS[ref]
