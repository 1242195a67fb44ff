"""Rounds everything chosen to what is round in the job's unit: what changes when a job goes from millimetres to inches, or back.

What was measured is never touched.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Final

from omnipel.core.covers import SCHEMES
from omnipel.core.covers.fields import (
    EDGE_FIELDS,
    EDGE_LENGTHS,
    FEATURE_FIELDS,
    FEATURE_LENGTHS,
    FIELDS,
    LENGTHS,
    PLACES,
    SEAM_FIELDS,
    SEAM_LENGTHS,
)
from omnipel.core.covers.options import Option, OptionKind
from omnipel.core.covers.sizes import size_words
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.job.changes import changed, meant
from omnipel.core.job.document import ClearanceSchool, Job
from omnipel.core.job.findings import Change
from omnipel.core.tolerances import AS_TYPED
from omnipel.core.words import refs
from omnipel.core.words.habits import Habits, System
from omnipel.core.words.phrases import Length, Name, Phrase, term, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.units import Unit

LAY_FIELDS: Final = {"gap": tr("gap between pieces"), "ends": tr("squared at each end")}
"""Lengths that are chosen about a lay."""
METRIC_STEP: Final = 0.5
"""A chosen length in metric is round to this, mm."""


@dataclass(frozen=True, slots=True)
class Rounding:
    """One chosen length that is not round: what it is, and both lengths in mm."""

    words: Phrase
    before: float
    after: float

    @property
    def phrase(self) -> Phrase:
        """What changes."""
        return tr(
            "{what}: {before} → {after}",
            what=self.words,
            before=Length(self.before, fine=True, chosen=True),
            after=Length(self.after, fine=True),
        )


def step_of(unit: Unit) -> float:
    """What chosen lengths are rounded to, mm: a 16th of an inch (or the finer step the job is worked in), half a millimetre."""
    return min(unit.step, 25.4 / 16.0) if unit.denominator else METRIC_STEP


def round_to(length: float, step: float, *, place: bool = False) -> float:
    """A length rounded to a step, never to nothing; a `place` may come to lie in the middle."""
    rounded = math.floor(abs(length) / step + 0.5) * step
    return math.copysign(max(rounded, step if length and not place else 0.0), length) + 0.0


def rounded(job: Job) -> Job:
    """The job with everything chosen round in its unit, following that system's habits from now on."""
    made = changed(job, *(Change(path, found.after) for path, found in _chosen(job)))
    return replace(made, cover=replace(made.cover, habits=_habits(job)))


def roundings(job: Job) -> tuple[Rounding, ...]:
    """Everything that rounding would change."""
    found = [rounding for _, rounding in _chosen(job)] + list(_following(job))
    return tuple(rounding for rounding in found if abs(rounding.before - rounding.after) > AS_TYPED)


def _chosen(job: Job) -> Iterator[tuple[Ref, Rounding]]:
    """Every length that was chosen, by its path, with what it is rounded to."""
    step, cover = step_of(job.unit), job.cover

    def one(ref: Ref, words: Phrase, length: float, *, place: bool = False) -> tuple[Ref, Rounding]:
        return ref, Rounding(words, length, round_to(length, step, place=place))

    if cover.clearance.school is not ClearanceSchool.GIRTH:
        yield one(refs.CLEARANCE, tr("clearance"), cover.clearance.amount)
        yield one(refs.EASE_DROP, FIELDS[refs.EASE_DROP], cover.clearance.drop, place=True)
        if cover.clearance.along is not None:
            yield one(refs.EASE_ALONG, FIELDS[refs.EASE_ALONG], cover.clearance.along, place=True)
    for ref in LENGTHS:
        yield one(ref, FIELDS[ref], meant(job, ref))
    for ref, words, length, place in _sewing(job):
        yield one(ref, words, length, place=place)
    for feature in cover.features:
        for name in FEATURE_LENGTHS:
            if feature.serves and name in PLACES:
                continue  # it lies where that is
            words = tr("{whole}, {what}", whole=Name(feature.name), what=FEATURE_FIELDS[name])
            yield one(refs.feature(feature.id, name), words, getattr(feature, name), place=name in PLACES)
        for option in KINDS[feature.kind].options if feature.kind in KINDS else ():
            value = feature.options.get(option.key)
            if option.kind is OptionKind.LENGTH and isinstance(value, float | int):
                words = tr("{whole}, {what}", whole=Name(feature.name), what=option.words)
                yield one(refs.feature(feature.id, f"options.{option.key}"), words, float(value), place=True)
    for by_hand in cover.overrides:
        yield one(refs.by_hand(by_hand.size).at("value"), size_words(by_hand.size), by_hand.value)
    for option in _lengths_of(job):
        value = cover.options.get(option.key)
        if isinstance(value, float | int):
            yield one(refs.option(option.key), option.words, float(value))


def _sewing(job: Job) -> Iterator[tuple[Ref, Phrase, float, bool]]:
    """The lengths that were chosen for edges, seams, partings and lays, and whether each is a place."""
    cover = job.cover
    for opening, chosen in cover.edges.items():
        for name in EDGE_LENGTHS:
            if chosen.finish is not None or not name.startswith("finish"):
                ref = refs.edge(opening, name)
                yield ref, tr("{whole}, {what}", whole=term(opening), what=EDGE_FIELDS[name]), meant(job, ref), False
    for seam, decided in cover.seams.items():
        for name in SEAM_LENGTHS:
            if (length := getattr(decided, name)) is not None:
                words = tr("{whole}, {what}", whole=term(seam), what=SEAM_FIELDS[name])
                yield refs.seam(seam, name), words, length, name in ("start", "open_from")
    for layer, lay in job.lays.items():
        for name, given in (("gap", lay.gap), ("ends", lay.ends)):
            if given is not None:
                yield refs.lay(layer, name), tr("{layer}, {what}", layer=term(layer), what=LAY_FIELDS[name]), given, True
    for parting in cover.parted:
        yield refs.parting(parting.id, "at"), tr("{panel}, parted at", panel=term(parting.panel)), parting.at, False


def _lengths_of(job: Job) -> tuple[Option, ...]:
    """The scheme's own lengths."""
    scheme = SCHEMES.get(job.cover.scheme)
    return tuple(o for o in scheme.options if o.kind is OptionKind.LENGTH) if scheme is not None else ()


def _habits(job: Job) -> Habits:
    """The habits that a rounded job follows: those of its unit's system."""
    system = System.of(job.unit)
    return job.cover.habits if job.cover.habits.system is system else Habits(system=system)


def _following(job: Job) -> Iterator[Rounding]:
    """The scheme's own lengths that nobody has chosen: they follow the habits."""
    for option in _lengths_of(job):
        if option.key not in job.cover.options:
            old, new = (float(option.usual(job.cover.scheme, habits)) for habits in (job.cover.habits, _habits(job)))
            yield Rounding(option.words, old, new)
