"""Made-up people who measure, sew and try on, with faults that nobody in the program knows: what learning is tried on."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from omnipel.core.draft import Drafted, draft
from omnipel.core.fit.going_on import Fit
from omnipel.core.forms import FORMS
from omnipel.core.job.document import Job
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.trying import Stage, TryOn, Went
from omnipel.core.learning.errors import CLOTH, COVERS, HEM, PEOPLE, SEAM, of_reading
from omnipel.core.learning.estimates import Experience
from omnipel.core.learning.instruments import bias_before
from omnipel.core.learning.sizes import all_sizes, slack_sum
from omnipel.core.sewing.making import Making
from omnipel.core.tape.instruments import PRECISION
from omnipel.core.tolerances import TIGHT_CLEARANCE
from omnipel.shop.starter import starter

THINGS = {
    ("drum", "wall-and-lid"): {"girth": 1763.0, "across": 1763.0 / math.pi, "height": 720.0, "drop": 655.0},
    ("box", "saddle-and-ends"): {"length": 512.0, "width": 287.0, "height": 633.0, "girth": 1598.0},
    ("tub", "tapered-tub"): {"girth_bottom": 1180.0, "girth_top": 1470.0, "height": 360.0, "across_top": 1470.0 / math.pi},
}
"""What their tapes should read, mm, on a thing of the usual size: more than is needed, so that instruments check one another."""


@dataclass
class Shop:
    """Somebody who sews.

    Args:
        seed: of all chance.
        faults: how deep seams and hems come out, mm.
        biases: by how much instruments read too long, mm.
    """

    seed: int
    faults: dict[str, float] = field(default_factory=dict)
    biases: dict[Instrument, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.rng = np.random.default_rng(self.seed)
        self.faults = {key: float(self.rng.normal(0.0, PEOPLE[key].sigma)) for key in (SEAM, HEM)} | self.faults
        drawn = {i: float(self.rng.normal(0.0, bias_before(i).sigma)) for i in Instrument}
        self.biases = drawn | self.biases

    def measured(self, true: Mapping[str, float], base: Job, known: Experience) -> Job:
        """A job with what they read of a thing, and with what they have learnt applied."""
        own = {place.key: place.instrument for place in FORMS[base.thing.form].places((), base.thing)}
        readings = []
        for place, length in true.items():
            instrument = own[place]
            read = length + self.biases[instrument] + float(self.rng.normal(0.0, PRECISION[instrument].of(length)))
            line = known.line(f"tape:{instrument.value}")
            readings.append(
                Reading(place=place, repeats=(read,), instrument=instrument, reads_long=line.now.mean if line else 0.0)
            )
        takes = {key: known.line(f"{key}:{base.cover.cloth.kind.value}") for key in (SEAM, HEM)}
        seam, hem = (takes[key].now.mean if takes[key] else 0.0 for key in (SEAM, HEM))  # type: ignore[union-attr]
        return replace(base, readings=tuple(readings), cover=replace(base.cover, seam_take=seam, hem_take=hem))

    def sewn(
        self, job: Job, true: Mapping[str, float], extra: Mapping[str, float] | None = None, *, again: bool = False
    ) -> "Sewn":
        """The cover they make of it, with faults that belong to this one alone besides; `again` where they read the thing once more, too."""
        drafted = draft(job)
        assert isinstance(drafted, Drafted), drafted.findings
        assert isinstance(drafted.fit, Fit)
        making = Making(drafted)
        errors = {key: fault + float(self.rng.normal(0.0, COVERS[key])) for key, fault in self.faults.items()}
        errors[SEAM] -= job.cover.seam_take
        errors[HEM] -= job.cover.hem_take
        errors |= {key: float(self.rng.normal(0.0, PEOPLE[key].sigma)) for key in CLOTH}
        errors |= {of_reading(r.place): r.repeats[0] - r.reads_long - true[r.place] for r in job.readings}
        for key, more in (extra or {}).items():
            errors[key] = errors.get(key, 0.0) + more
        made = {
            size.key: max(1.0, size.planned.value + moved(size.sum, errors) + float(self.rng.normal(0.0, size.noise)))
            for size in all_sizes(making, Stage.FINISHED)
            if again or not size.key.startswith("again:")
        }
        slack = drafted.fit.tightest
        gap = slack.clearance + moved(slack_sum(slack, making), errors) / slack.turns
        told = judged(gap + float(self.rng.normal(0.0, 1.0)), slack.clearance)
        tried = TryOn(stage=Stage.FINISHED, day="2026-10-14", went=told, made=made)
        return Sewn(Making(replace(drafted, job=replace(job, tries=(tried,)))), errors)


@dataclass(frozen=True)
class Sewn:
    """A cover that was made and tried on, and what nobody knows of it."""

    making: Making
    errors: Mapping[str, float]

    @property
    def girth_off(self) -> float:
        """By how much its tightest girth is off what the thing would have wanted, mm."""
        fit = self.making.drafted.fit
        assert isinstance(fit, Fit)
        tightest = min(fit.slacks, key=lambda slack: slack.clearance)
        return moved(slack_sum(tightest, self.making), self.errors)


def moved(sum_: Mapping[str, float], errors: Mapping[str, float]) -> float:
    """What errors come to in a sum."""
    return math.fsum(slope * errors.get(key, 0.0) for key, slope in sum_.items())


def judged(gap: float, planned: float) -> Went:
    """What somebody says of a gap on each side, mm."""
    if gap < 0.0:
        return Went.NOT
    if gap < TIGHT_CLEARANCE:
        return Went.STRUGGLES
    return Went.RIGHT if gap < planned + 6.0 else Went.LOOSE


def thing(rng: np.random.Generator) -> tuple[Job, dict[str, float]]:
    """Something to be covered, of any size: a job to start from, and what a perfect tape would read."""
    form, scheme = list(THINGS)[int(rng.integers(len(THINGS)))]
    times = float(rng.uniform(0.6, 1.6))
    return starter(form, scheme), {place: length * times for place, length in THINGS[form, scheme].items()}
