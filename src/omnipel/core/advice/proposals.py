"""What the answers about an object propose: scheme, closure, edges, cloth. Each has its reason; nothing is chosen by itself."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from omnipel.core.covers import SCHEMES
from omnipel.core.covers.cloths import WIDTHS
from omnipel.core.covers.starting import begins_with, with_cloth
from omnipel.core.forms import FORMS
from omnipel.core.job import clothnames
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Closure, ClosureKind, ClothChoice, ClothKind, Job, LiningSchool
from omnipel.core.job.edges import EdgeChoice, Hold
from omnipel.core.job.findings import Change
from omnipel.core.job.finish import FinishKind, double_hem, usual_finish
from omnipel.core.job.thing import ComesOff, Lives
from omnipel.core.tape.readings import value
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, mm, term, tr
from omnipel.core.words.units import rounded_up

ACRYLIC = ClothChoice(name=str(clothnames.ACRYLIC), colour="#6d8a63", thickness=0.5, usable_width=1500.0)
CANVAS = ClothChoice(name=str(clothnames.COATED), colour="#6f7f8a", thickness=0.6, usable_width=1800.0)
COTTON = ClothChoice(
    name=str(clothnames.WASHABLE),
    kind=ClothKind.GENERAL,
    colour="#a5866f",
    thickness=0.35,
    usable_width=1400.0,
    gather_limit=3.0,
    shrink_warp=0.04,
    shrink_weft=0.02,
)


@dataclass(frozen=True, slots=True)
class Proposal:
    """Something proposed: what, why, and the change that takes it."""

    words: Phrase
    reason: Phrase
    changes: tuple[Change, ...]


def proposals(job: Job) -> tuple[Proposal, ...]:
    """What the answers propose and the job does not have yet."""
    wanted = (*_scheme(job), *_cloth(job), *_closure(job), *_edge(job), *_lining(job))
    return tuple(p for p in wanted if changed(job, *p.changes) != job)


def _scheme(job: Job) -> Iterator[Proposal]:
    form = FORMS.get(job.thing.form)
    if form is None:
        return
    values = {r.place: value(r) for r in job.readings if not r.set_aside}
    key, reason = form.best_scheme(values, job.thing)
    if key and key != job.cover.scheme and key in SCHEMES and SCHEMES[key].serves_form(form):
        scheme = SCHEMES[key]
        changes = [Change(refs.SCHEME, key), Change(refs.option(), {}), Change(refs.by_hand(), ())]
        changes += [
            Change(refs.choice(name), begun) for name, begun in begins_with(scheme, job.cover.habits).items() if name != "cloth"
        ]
        yield Proposal(tr("Cut it as: {scheme}", scheme=scheme.words), reason, tuple(changes))


def _cloth(job: Job) -> Iterator[Proposal]:
    cloth, reason = {
        Lives.OUTDOORS: (ACRYLIC, tr("Outdoors: it breathes and holds its colour in the sun.")),
        Lives.SHED: (CANVAS, tr("In a shed: tight against dust, and wide.")),
        Lives.KITCHEN: (COTTON, tr("In a kitchen: it goes into the wash; cut larger for it.")),
        Lives.INDOORS: (COTTON, tr("Indoors: soft against paint and polish.")),
    }[job.thing.lives]
    # A cloth somebody has named is somebody's choice.
    if job.cover.cloth.name == ClothChoice().name and cloth.name != job.cover.cloth.name:
        sold = replace(cloth, usable_width=job.cover.habits.take("", WIDTHS[cloth.usable_width]))
        yield Proposal(
            tr("Cloth: {cloth}", cloth=term(cloth.name)), reason, (Change(refs.choice(), with_cloth(job.cover, sold)),)
        )


def _closure(job: Job) -> Iterator[Proposal]:
    form = FORMS.get(job.thing.form)
    if form is None or not form.dropped_over:
        return
    edges = _edges(job)
    if job.thing.lives is Lives.OUTDOORS and job.thing.comes_off is ComesOff.SEASONAL and edges and not _held(job):
        yield Proposal(
            tr("Lower edge: drawcord"),
            tr("Out all season: drawn in below, no wind gets under it."),
            tuple(Change(refs.edge(name, "held_by"), Hold.CORD) for name in edges),
        )
    if job.thing.comes_off is ComesOff.DAILY and job.cover.closure.kind is ClosureKind.NONE:
        drop = job.reading("drop") or job.reading("height")
        if drop is not None:
            kind = Closure(kind=ClosureKind.ZIP, length=rounded_up(value(drop) * 0.6, job.unit, 10.0, 0.5))
            yield Proposal(tr("Closure: zip"), tr("Off every day: a zip saves the tugging."), (Change(refs.CLOSURE, kind),))


def _edge(job: Job) -> Iterator[Proposal]:
    habits = job.cover.habits
    usual = double_hem(habits.mm("hem"), habits.mm("turn-under"))
    drawn = [name for name in _edges(job) if job.cover.edges.get(name, EdgeChoice()).held_by is Hold.CORD]
    if drawn:
        casing = usual_finish(FinishKind.CORD_CASING, habits, 0.0)
        changes = tuple(Change(refs.edge(name, "finish"), casing) for name in drawn if not _cased(job, name))
        if changes:
            yield Proposal(tr("Lower edge: cord casing"), tr("The drawcord needs its tunnel."), changes)
    elif job.thing.lives is Lives.OUTDOORS and job.cover.hem == usual:
        wider = double_hem(habits.mm("hem outdoors"), habits.mm("turn-under"))
        yield Proposal(
            tr("Lower edge: hem of {hem}", hem=mm(wider.width)),
            tr("Outdoors a wider hem hangs heavier and lifts less."),
            (Change(refs.HEM, wider),),
        )


def _edges(job: Job) -> tuple[str, ...]:
    """The openings of its cover that something can be decided about."""
    scheme = SCHEMES.get(job.cover.scheme)
    return scheme.edges if scheme is not None else ()


def _held(job: Job) -> bool:
    """Whether any edge is held by something already."""
    return any(edge.held_by is not Hold.NOTHING for edge in job.cover.edges.values())


def _cased(job: Job, name: str) -> bool:
    """Whether an edge has its casing already."""
    finish = job.cover.edges.get(name, EdgeChoice()).finish or job.cover.hem
    return finish.kind is FinishKind.CORD_CASING


def _lining(job: Job) -> Iterator[Proposal]:
    if (
        job.thing.lives is Lives.INDOORS
        and job.thing.comes_off is ComesOff.DAILY
        and job.cover.lining.school is LiningSchool.NONE
    ):
        yield Proposal(
            tr("Lining: bagged"),
            tr("Handled every day indoors: a lining spares the finish and the seams."),
            (Change(refs.LINING_SCHOOL, LiningSchool.BAGGED),),
        )
