"""What one job that was tried on tells of the next: a lesson, made of its made sizes, its readings and how it went on; plain values, so that it can be kept."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Final

from omnipel.core.cloth.lay import laid
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.fit.going_on import Fit
from omnipel.core.job.document import Job
from omnipel.core.job.trying import Went
from omnipel.core.learning.errors import CLOTH, HEM, QUILT, READING, SEAM, gone_wrong, nobody, unknowns
from omnipel.core.learning.gaussian import Normal, Posterior, beforehand
from omnipel.core.learning.instruments import Checked, checked
from omnipel.core.learning.sizes import USED_CLOTH, USED_SHARE, slack_sum
from omnipel.core.learning.why import Seen, judged, likely, seen
from omnipel.core.sewing.making import Making

CLEARANCE, USED = "clearance", "used"
BETWEEN: Final = ":"
VAGUE: Final = 3.0
"""What is known less well than so many times what was known before says next to nothing."""
WANTED: Final[Mapping[Went, tuple[float, float]]] = {
    Went.NOT: (10.0, 6.0),
    Went.STRUGGLES: (5.0, 4.0),
    Went.RIGHT: (0.0, 3.0),
    Went.LOOSE: (-6.0, 5.0),
    Went.FLAPS: (-12.0, 8.0),
}
"""By how much a gap would have to be wider to be right, mm, and the spread of that, by how it went on."""


@dataclass(frozen=True)
class Lesson:
    """What one job tells.

    Args:
        name, day: of the job, and when it was last tried on.
        told: by line what it says of it, as mean and spread of what was seen alone.
        checked: what its readings say of their instruments.
    """

    name: str = ""
    day: str = ""
    told: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    checked: Checked = Checked()


def lesson(making: Making) -> Lesson:
    """What a job tells; nothing where it was not tried on, of its readings even so."""
    drafted = making.drafted
    job = drafted.job
    told_of = seen(making, job.tries)
    measured = [(size, length) for size, length in told_of.sizes if not size.key.startswith("again:")]
    errors = unknowns(drafted, nobody())
    _, weights = likely(making, told_of, nobody())
    which = max(weights, key=weights.__getitem__)
    prior = after = beforehand(gone_wrong(errors, drafted)[which] if which else errors)
    for size, length in measured:
        after = after.after(size.seen(length))
    told = {key: (normal.mean, normal.sigma) for key, normal in (*_told(making, prior, after, told_of), *_used(drafted))}
    # A reading that was misread is no matter of the tape.
    found = (
        _instruments(making, prior, after, told_of) if not which.startswith(READING) else checked(drafted, job.tries, None, {})
    )
    return Lesson(job.name, max((one.day for one in job.tries), default=""), told, found)


def line_of(key: str, job: Job) -> str:
    """The line that an error of a job's cover belongs to: seams and hems by the kind of cloth, what shrinks by the cloth, quilting by what is quilted."""
    of = job.cover.cloth.kind.value
    if key in CLOTH:
        of = job.cover.cloth.name
    elif key in QUILT:
        of = job.cover.padded.material
    elif key == CLEARANCE:
        of = f"{job.thing.form}{BETWEEN}{job.cover.cloth.kind.value}"
    return f"{key}{BETWEEN}{of}"


def allowed(key: str, job: Job) -> float:
    """What a job allows for already: an error is told besides that."""
    cover = job.cover
    return {
        SEAM: cover.seam_take,
        HEM: cover.hem_take,
        CLOTH[0]: cover.cloth.still_shrinks[0],
        CLOTH[1]: cover.cloth.still_shrinks[1],
        QUILT[0]: cover.quilting.along,
        QUILT[1]: cover.quilting.across,
    }.get(key, 0.0)


def _told(making: Making, prior: Posterior, after: Posterior, told: Seen) -> Iterator[tuple[str, Normal]]:
    """Lines with what was seen of them: errors by the sizes made, the gap that would be right by how it went on."""
    job = making.drafted.job
    for key in (SEAM, HEM, *CLOTH, *QUILT):
        if key not in prior.at or (key in CLOTH and not allowed(key, job)):
            continue
        before = prior.of({key: 1.0})
        alone = after.of({key: 1.0}).without(before)
        if alone is not None and alone.sigma < VAGUE * before.sigma:
            yield line_of(key, job), Normal(alone.mean + allowed(key, job), alone.sigma)
    fit, went = making.drafted.fit, told.last
    if isinstance(fit, Fit) and went:
        slack, given = fit.tightest, told.went[-1][1] / (2.0 * math.pi)
        gap = after.of({k: s / slack.turns for k, s in slack_sum(slack, making).items()})
        more, blur = WANTED[went]
        if went in (Went.NOT, Went.STRUGGLES):  # whatever was reckoned, there was no more than that
            gap = Normal(min(gap.mean + slack.clearance, 3.0) - slack.clearance, gap.sigma)
        yield line_of(CLEARANCE, job), Normal(slack.clearance + given + gap.mean + more, (gap.sigma**2 + blur**2) ** 0.5)


def _used(drafted: Drafted) -> Iterator[tuple[str, Normal]]:
    """By what share more cloth was used than was planned, where somebody measured that."""
    measured = [one.made[USED_CLOTH] for one in drafted.job.tries if USED_CLOTH in one.made]
    planned = laid(drafted, Cloth.OUTER).used.value if measured else 0.0
    if planned > 0.0:
        line = f"{USED}{BETWEEN}{drafted.job.cover.cloth.name}"
        yield line, Normal(measured[-1] / planned - 1.0, USED_SHARE)


def _instruments(making: Making, prior: Posterior, after: Posterior, told_of: Seen) -> Checked:
    """What the readings say; how it went on tells by how much too long all of it was read."""
    drafted: Drafted = making.drafted
    fit, (went, given) = drafted.fit, told_of.went[0] if told_of.went else (Went.UNSAID, 0.0)
    if not isinstance(fit, Fit) or not went:
        return checked(drafted, drafted.job.tries, None, {})
    slack = fit.tightest
    sum_ = slack_sum(slack, making)
    read = {key: slope for key, slope in sum_.items() if key.startswith(READING)}
    before = prior.of(read)
    told = None
    if before.sigma > 0.0:
        # What the readings are off is asked for itself: as little as possible is taken for granted of it, and all that was measured of the rest.
        wide = Posterior(after.keys, after.mean, after.covariance).within(judged(went, slack, making, given))
        alone = wide.of(read).without(after.of(read))
        told = alone if alone is not None and abs(alone.mean) < 4.0 * (alone.sigma + before.sigma) else None
    return checked(drafted, drafted.job.tries, told, slack.slack.slopes)
