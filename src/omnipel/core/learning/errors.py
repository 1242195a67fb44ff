"""The errors that nobody knows when a cover is tried on, with how large each usually is: of readings, of seams and hems, of what cloth and quilting take up."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Final

from omnipel.core.draft import Drafted
from omnipel.core.job.document import Job
from omnipel.core.learning.gaussian import Normal, Unknown
from omnipel.core.tape.readings import spread, value
from omnipel.core.words.phrases import Rule

SEAM: Final = "seam"
"""By how much deeper than drawn seams were taken, on the mean of the cover, mm."""
HEM: Final = "hem"
"""The same of hems."""
CLOTH: Final = ("cloth warp", "cloth weft")
"""What the cloth shrank more than was reckoned, along and across it, share."""
QUILT: Final = ("quilt along", "quilt across")
"""What quilting took up more than was reckoned, along and across a panel, share."""
READING: Final = "reading:"
"""How such an unknown begins: by how much the reading at a place is too long, mm."""
MARKED: Final = Rule(500.0, 20.0)
"""A length that is marked on cloth before it is washed."""

PEOPLE: Final[Mapping[str, Normal]] = {
    SEAM: Normal(0.0, 1.0),
    HEM: Normal(0.0, 1.5),
    CLOTH[0]: Normal(0.0, 0.0006),
    CLOTH[1]: Normal(0.0, 0.0006),
    QUILT[0]: Normal(0.0, 0.010),
    QUILT[1]: Normal(0.0, 0.010),
}
"""How people and cloths differ, as long as nothing is known of them."""
COVERS: Final[Mapping[str, float]] = {SEAM: 0.25, HEM: 0.5, CLOTH[0]: 0.0003, CLOTH[1]: 0.0003, QUILT[0]: 0.004, QUILT[1]: 0.004}
"""How one cover differs from the next of the same person."""
WASHED: Final = 0.010
"""The spread of what a cloth shrinks that is washed, share."""


@dataclass(frozen=True)
class Known:
    """What a shop knows of its own errors: those of its covers on the mean, by what they are of; what is not there is as with all people."""

    means: Mapping[str, Normal] = field(default_factory=dict)


def nobody() -> Known:
    """A shop of which nothing is known."""
    return Known()


def unknowns(drafted: Drafted, known: Known) -> list[Unknown]:
    """The errors of one cover, as they are before anything is seen of it: what is allowed for already is no error any more."""
    job = drafted.job
    allowed = {SEAM: job.cover.seam_take, HEM: job.cover.hem_take}
    made = []
    for key, people in PEOPLE.items():
        if key in QUILT and not job.cover.padding:
            continue
        of_shop = known.means.get(key) or usual(key, job, people)
        sigma = (of_shop.sigma**2 + COVERS[key] ** 2) ** 0.5
        made.append(Unknown(key, sigma, of_shop.mean - allowed.get(key, 0.0)))
    return [*made, *(Unknown(of_reading(r.place), spread(r)) for r in job.readings if not r.set_aside)]


def usual(key: str, job: Job, people: Normal) -> Normal:
    """An error as with all people, for what a job is made of: cloth that is washed may shrink otherwise than is said of it."""
    washed = key in CLOTH and any(job.cover.cloth.still_shrinks)
    return Normal(0.0, WASHED) if washed else people


def of_reading(place: str) -> str:
    """The error of the reading at a place."""
    return READING + place


GROSS: Final[Mapping[str, float]] = {SEAM: 4.0, HEM: 6.0, "cloth": 0.012, "quilt": 0.03}
"""How large an error is that is no chance any more: sewn with the wrong guide, a cloth that was not washed; the spread of such, mm or share."""
MISREAD: Final = 0.015
"""The same of a reading, as a share of what was read: a digit dropped, a tape that slipped."""
ODDS: Final[Mapping[str, float]] = {SEAM: 0.12, HEM: 0.03, "cloth": 0.03, "quilt": 0.04}
"""In so many covers (share) each went wrong by no chance."""
ODDS_MISREAD: Final = 0.08
"""And in so many one of the readings."""


def group(key: str) -> str:
    """What goes wrong together: warp and weft, both ways of the quilting."""
    return "cloth" if key in CLOTH else "quilt" if key in QUILT else key


def gone_wrong(usual_: Sequence[Unknown], drafted: Drafted) -> dict[str, list[Unknown]]:
    """The errors of a cover as they are beforehand if one of them is no chance, by which."""
    read = {of_reading(r.place): value(r) for r in drafted.job.readings}
    made = {}
    for which in dict.fromkeys(group(error.key) for error in usual_):
        made[which] = [
            replace(error, sigma=max(3.0 * error.sigma, GROSS.get(which, MISREAD * read.get(error.key, 0.0))))
            if group(error.key) == which
            else error
            for error in usual_
        ]
    return made


def odds(which: Sequence[str]) -> dict[str, float]:
    """How likely it is beforehand that each went wrong by no chance; "" for nothing."""
    readings = [key for key in which if key not in ODDS]
    made = {key: ODDS.get(key, ODDS_MISREAD / max(1, len(readings))) for key in which}
    return {"": 1.0 - sum(made.values()), **made}
