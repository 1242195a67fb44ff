"""What the answers about an object propose: scheme, closure, edges, cloth. Each has its reason; nothing is chosen by itself."""

from collections.abc import Iterator
from dataclasses import dataclass

from omnipel.core.covers import SCHEMES
from omnipel.core.drafting.finishes import cord_casing, double_hem
from omnipel.core.findings import Change
from omnipel.core.forms.thing import ComesOff, Lives
from omnipel.core.job import Closure, ClosureKind, ClothChoice, Job, LiningSchool, changed

TALL = 1.4
"""A box this much higher than it is long is lifted into its cover rather than draped."""
LOW = 0.45

ACRYLIC = ClothChoice(name="solution-dyed acrylic", colour="#6d8a63", thickness=0.5, usable_width=1500.0)
CANVAS = ClothChoice(name="coated canvas", colour="#6f7f8a", thickness=0.6, usable_width=1800.0)
COTTON = ClothChoice(
    name="washable cotton",
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

    words: str
    reason: str
    changes: tuple[Change, ...]


def proposals(job: Job) -> tuple[Proposal, ...]:
    """What the answers propose and the job does not have yet."""
    wanted = (*_scheme(job), *_cloth(job), *_closure(job), *_edge(job), *_lining(job))
    return tuple(p for p in wanted if changed(job, *p.changes) != job)


def _scheme(job: Job) -> Iterator[Proposal]:
    key, reason = _best_scheme(job)
    if key and key != job.cover.scheme and job.thing.form in SCHEMES[key].forms:
        start = {name: value for name, value in SCHEMES[key].starts_with.items() if name != "cloth"}
        changes = [Change("cover.scheme", key), Change("cover.options", {}), Change("cover.overrides", ())]
        changes += [Change(f"cover.{name}", value) for name, value in start.items()]
        yield Proposal(f"Cut it as: {SCHEMES[key].words.lower()}", reason, tuple(changes))


def _best_scheme(job: Job) -> tuple[str, str]:
    sizes = {place: r.value for place in ("length", "width", "height") if (r := job.reading(place))}
    match job.thing.form:
        case "box":
            if job.reading("front_height"):
                return "traced-ends", "The top slopes: shaped ends follow it, and one strip covers the rest."
            if job.thing.lives is Lives.KITCHEN:
                return "drape", "In a kitchen it comes off with one hand and washes flat."
            high, long = sizes.get("height", 0.0), max(sizes.get("length", 0.0), sizes.get("width", 0.0), 1.0)
            if high > TALL * long:
                return "wall-and-top", "Tall and narrow: one strip around has a single upright seam."
            if 0.0 < high < LOW * long:
                return "one-piece", "Low and flat: one sheet with four corners has the least seam."
            return "saddle-and-ends", "No seam across the top, where rain stands."
        case "wheel":
            if job.thing.comes_off is ComesOff.DAILY:
                return "wheel-cap", "Off every day: a cap slips over without a slit."
            return "wheel-both-faces", "Stays on for long: both faces are kept from sun and dust."
        case "turned":
            if job.reading("rise"):
                return "gores", "Domed: petals follow a dome, bands only come near."
            return "bands", "No dome: bands follow the stations exactly."
    return "", ""


def _cloth(job: Job) -> Iterator[Proposal]:
    cloth, reason = {
        Lives.OUTDOORS: (ACRYLIC, "Outdoors: it breathes and holds its colour in the sun."),
        Lives.SHED: (CANVAS, "In a shed: tight against dust, and wide."),
        Lives.KITCHEN: (COTTON, "In a kitchen: it goes into the wash; cut larger for it."),
        Lives.INDOORS: (COTTON, "Indoors: soft against paint and polish."),
    }[job.thing.lives]
    # A cloth somebody has named is somebody's choice.
    if job.cover.cloth.name == ClothChoice().name and cloth.name != job.cover.cloth.name:
        yield Proposal(f"Cloth: {cloth.name}", reason, (Change("cover.cloth", cloth),))


def _closure(job: Job) -> Iterator[Proposal]:
    if job.cover.closure.kind is not ClosureKind.NONE or job.thing.form in ("flat", "slab", "case", "cap-body", "bottle"):
        return
    if job.thing.lives is Lives.OUTDOORS and job.thing.comes_off is ComesOff.SEASONAL:
        yield Proposal(
            "Closure: drawcord",
            "Out all season: drawn in below, no wind gets under it.",
            (Change("cover.closure", Closure(kind=ClosureKind.CORD)),),
        )
    if job.thing.comes_off is ComesOff.DAILY and job.thing.form in ("drum", "box", "turned"):
        drop = job.reading("drop") or job.reading("height")
        if drop is not None:
            length = round(drop.value * 0.6)
            kind = Closure(kind=ClosureKind.ZIP, length=float(length))
            yield Proposal("Closure: zip", "Off every day: a zip saves the tugging.", (Change("cover.closure", kind),))


def _edge(job: Job) -> Iterator[Proposal]:
    if job.cover.closure.kind is ClosureKind.CORD:
        casing = cord_casing(6.0, 12.0)
        yield Proposal("Lower edge: cord casing", "The drawcord needs its tunnel.", (Change("cover.hem", casing),))
    elif job.thing.lives is Lives.OUTDOORS and job.cover.hem == double_hem(25.0, 15.0):
        yield Proposal(
            "Lower edge: hem of 35",
            "Outdoors a wider hem hangs heavier and lifts less.",
            (Change("cover.hem", double_hem(35.0, 15.0)),),
        )


def _lining(job: Job) -> Iterator[Proposal]:
    if (
        job.thing.lives is Lives.INDOORS
        and job.thing.comes_off is ComesOff.DAILY
        and job.cover.lining.school is LiningSchool.NONE
    ):
        yield Proposal(
            "Lining: bagged",
            "Handled every day indoors: a lining spares the finish and the seams.",
            (Change("cover.lining.school", LiningSchool.BAGGED),),
        )
