"""Why a cover came out as it did: what was measured and how it went on, put to the errors that may have been made, and told in one sentence with shares.

Made sizes tell of sewing and cloth; how it went on, and readings taken once more, tell of the tape too: the cover was cut to what was read, so an error of
the tape moves what is left between cover and thing, not what was made.
"""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final

from omnipel.core.covers.altered import Altered
from omnipel.core.fit.going_on import Fit, Slack
from omnipel.core.job.trying import TIGHT, Stage, TryOn, Went, done_before, tried
from omnipel.core.learning.errors import HEM, READING, SEAM, Known, gone_wrong, group, nobody, odds, unknowns
from omnipel.core.learning.gaussian import Band, Posterior, Sum, beforehand, mixed
from omnipel.core.learning.sizes import AS_PLANNED, Size, by_key, sizes, slack_sum
from omnipel.core.sewing.making import Making
from omnipel.core.tolerances import FLAP_CLEARANCE, TIGHT_CLEARANCE
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Phrase, Share, listed, mm, tr, trn
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import worked

JUDGED: Final = 2.0
"""The spread of what a person calls a struggle, or loose: a gap on each side, mm."""
SEEN: Final = 0.7
"""That it does not go on at all is no judgement: what is blurred of that, mm."""
LOOSER: Final = 6.0
"""What is called loose has so much more gap than was planned, mm, at the least."""
TOLD: Final = 0.05
"""A cause of a lesser share is not told."""


@dataclass(frozen=True, slots=True)
class Cause:
    """One error that may have been made.

    Args:
        key: which.
        words: what happened, with how much where it were that alone.
        share: its part of what is off, 0 … 1.
        alone: how much it would have to be if it were that alone: mm, or a share.
        where: what it leads to.
    """

    key: str
    words: Phrase
    share: float
    alone: float
    where: Ref | None = None


@dataclass(frozen=True)
class Why:
    """What came of a cover.

    Args:
        posterior: all errors as they are likely now.
        what: what is off, in words; nothing where all is as planned.
        by: by how much, mm; below 0 where it is too small.
        causes: the likeliest first.
        seams: how many seams lie across what is off.
        sizes: all sizes that were measured, with what each came to, mm.
        key: of the size that is off; "" where it is how it went on.
        classic: whether one girth alone was measured, and nothing else.
        note: what is said instead where nothing went wrong.
    """

    posterior: Posterior
    what: Phrase
    by: float
    causes: tuple[Cause, ...]
    seams: int
    sizes: tuple[tuple[Size, float], ...]
    key: str = ""
    classic: bool = False
    note: Phrase = NOTHING

    @property
    def told(self) -> Phrase:
        """In one sentence."""
        if self.note:
            return self.note
        if not self.sizes and not self.what:
            return NOTHING
        if not self.what or not self.causes:
            return tr("Everything that was measured is as planned, as far as tape and sewing go.")
        off = tr("{by} short", by=mm(-self.by)) if self.by < 0.0 else tr("{by} long", by=mm(self.by))
        over = trn("{off} over {n} seam", "{off} over {n} seams", self.seams, off=off) if self.seams else off
        first = self.causes[0]
        if self.classic:
            return tr("{what}: {off}; {cause}.", what=self.what, off=over, cause=first.words)
        likely = tr("most likely ({share}) {cause}", share=Share(first.share), cause=first.words)
        others = [tr("({share}) {cause}", share=Share(c.share), cause=c.words) for c in self.causes[1:3]]
        if not others:
            return tr("{what}: {off}; {likely}.", what=self.what, off=over, likely=likely)
        return tr(
            "{what}: {off}; {likely}, less likely {others}.", what=self.what, off=over, likely=likely, others=listed(others)
        )


@dataclass(frozen=True)
class Seen:
    """What was seen of a cover: sizes that were measured, each beside what it should have been by then; how it went on, and what had been given by then.

    Args:
        sizes: with what each came to, mm.
        went: each with what alterations had given at the tightest by then, mm around.
        beyond: sizes that no sewing brings about; nothing is concluded from them.
    """

    sizes: tuple[tuple[Size, float], ...]
    went: tuple[tuple[Went, float], ...]
    beyond: tuple[tuple[Size, float], ...] = ()

    @property
    def last(self) -> Went:
        """How it went on when it was last said."""
        return self.went[-1][0] if self.went else Went.UNSAID


def seen(making: Making, tries: Sequence[TryOn], known: Known | None = None) -> Seen:
    """All that was seen of a cover. A size that was measured again counts as it was the last time; what is altered since moves what it should be."""
    tries = tuple(tries)
    if not any(one.made or one.went for one in tries):
        return Seen((), ())
    all_, made = by_key(making, known), dict[str, tuple[Size, float]]()
    fit, went = making.drafted.fit, dict[frozenset[str], tuple[Went, float]]()
    for one in tries:
        done = altered_by(making, tries, one)
        for key, length in one.made.items():
            size = as_altered(all_[key], done) if key in all_ else None
            if size is not None:
                made[key] = size, length
        if one.went:
            depth = fit.tightest.depth if isinstance(fit, Fit) else 0.0
            went[frozenset(a.what.id for a in done)] = one.went, sum(a.given(depth) for a in done)
    beyond = {key for key, (size, length) in made.items() if size.beyond(length)}
    within = tuple(pair for key, pair in made.items() if key not in beyond)
    return Seen(within, tuple(went.values()), tuple(made[key] for key in made if key in beyond))


def asked_at(making: Making, stage: Stage) -> list[Size]:
    """What is asked for at a stage of the open job, as it should be after what was altered by then."""
    tries = making.drafted.job.tries
    done = altered_by(making, tries, tried(tries, stage) or TryOn(stage=stage))
    return [as_altered(size, done) or size for size in sizes(making, stage)]


def altered_by(making: Making, tries: Sequence[TryOn], one: TryOn) -> list[Altered]:
    """What had been altered when a cover was tried on."""
    done = done_before(making.drafted.job.alterations, tuple(tries), one)
    return [altered for altered in making.drafted.cover.altered if altered.what.id in done and not altered.refused]


def as_altered(size: Size, done: Sequence[Altered]) -> Size | None:
    """A size as it should be after alterations; None where that cannot be said any more."""
    moved = [altered.moved(size.key) for altered in done]
    if None in moved:
        return None
    by = sum(part for part in moved if part is not None)
    return replace(size, planned=size.planned + worked(tr("altered"), by)) if by else size


def why(making: Making, tries: Sequence[TryOn], known: Known | None = None) -> Why:
    """What came of a cover that was tried on so often."""
    told = seen(making, tries, known)
    after, _ = likely(making, told, known or nobody())
    return _led(making, after, told)


def likely(making: Making, told: Seen, known: Known) -> tuple[Posterior, Mapping[str, float]]:
    """The errors as they are likely after all that was seen; and how likely it is that something went wrong that is no chance, by what ("" for nothing).

    Either all errors are as usual, or one of them is far larger: each way is reckoned for itself and counts as much as it makes what was seen likely.
    """
    errors, fit = unknowns(making.drafted, known), making.drafted.fit
    wrong = gone_wrong(errors, making.drafted)
    ways: dict[str, Posterior] = {}
    for which, those in {"": errors, **wrong}.items():
        after = beforehand(those)
        for size, length in told.sizes:
            after = after.after(size.seen(length))
        for went, given in told.went if isinstance(fit, Fit) else ():
            after = after.within(judged(went, fit.tightest, making, given))  # type: ignore[union-attr]
        ways[which] = after
    most, prior = max(after.evidence for after in ways.values()), odds(list(wrong))
    weights = {which: prior[which] * math.exp(after.evidence - most) for which, after in ways.items()}
    whole = sum(weights.values())
    weights = {which: weight / whole for which, weight in weights.items()}
    return mixed(list(ways.values()), list(weights.values())), weights


def judged(went: Went, slack: Slack, making: Making, given: float = 0.0) -> Band:
    """What a person's word says of the gap at the tightest place: between which bounds it lies. `given` is what alterations had given around, mm."""
    planned, inf = slack.clearance, float("inf")
    loose = max(planned + LOOSER, TIGHT_CLEARANCE + LOOSER)
    low, high = {
        Went.NOT: (-inf, 0.0),
        Went.STRUGGLES: (0.0, TIGHT_CLEARANCE),
        Went.RIGHT: (min(TIGHT_CLEARANCE, planned), loose),
        Went.LOOSE: (loose, max(FLAP_CLEARANCE, loose + LOOSER)),
        Went.FLAPS: (max(FLAP_CLEARANCE, loose), inf),
        Went.UNSAID: (-inf, inf),
    }[went]
    per_side = {key: slope / slack.turns for key, slope in slack_sum(slack, making).items()}
    return Band(per_side, planned + given / (2.0 * math.pi), low, high, SEEN if went is Went.NOT else JUDGED)


def _led(making: Making, after: Posterior, told: Seen) -> Why:
    """Why, told of what matters most: how it went on where that was not right, else the size that is off the most."""
    fit, measured, went = making.drafted.fit, told.sizes, told.went[0][0] if told.went else Went.UNSAID
    if told.beyond:
        size, length = told.beyond[0]
        return Why(after, NOTHING, length - size.planned.value, (), 0, measured, size.key, note=_beyond(size, length))
    on_cover, worst = on_the_cover(measured), most_surprising(measured)
    if isinstance(fit, Fit) and went not in (Went.UNSAID, Went.RIGHT) and not (worst and worst[0].surprises(worst[1])):
        moved = slack_sum(fit.tightest, making)
        by = after.of(moved).mean
        if (by > 0.0) == (went in TIGHT):
            return Why(after, NOTHING, 0.0, (), 0, measured, note=_as_drafted(went))
        if abs(by) >= AS_PLANNED:
            what = tr("room around it") if fit.tightest.way == 0 else tr("room across it")
            causes = tuple(_causes(making, after, moved, by))
            return Why(after, what, by, causes, 0, measured)
    if worst is None or abs(worst[1] - worst[0].planned.value) < max(AS_PLANNED, worst[0].sigma):
        return Why(after, NOTHING, 0.0, (), 0, measured)
    size, length = worst
    by = length - size.planned.value
    classic = len(on_cover) == 1 and size.seams > 0 and not _takes_up(making)
    moved = {SEAM: size.sum[SEAM]} if classic else dict(size.sum)
    causes = tuple(_causes(making, after, moved, by))
    return Why(after, size.words, by, causes, size.seams, measured, size.key, classic)


def _as_drafted(went: Went) -> Phrase:
    """Nothing went wrong: what was planned was not right."""
    if went in TIGHT:
        return tr("It came out no smaller than it was drafted: the gap itself is too small.")
    return tr("It came out no larger than it was drafted: the gap itself is too wide.")


def _beyond(size: Size, length: float) -> Phrase:
    """It is not what it is said to be."""
    by = length - size.planned.value
    if size.key.startswith("again:"):
        off = tr("{by} more than before", by=mm(by)) if by > 0.0 else tr("{by} less than before", by=mm(-by))
        return tr("{size}: {off}. One of both is of something else: read it again.", size=size.words, off=off)
    off = tr("{by} more than planned", by=mm(by)) if by > 0.0 else tr("{by} less than planned", by=mm(-by))
    return tr(
        "{size}: {off}. That is more than seams, hems and cloth come to: measure it again. If it is so, it was cut wrong: "
        "nothing is learnt from it.",
        size=size.words,
        off=off,
    )


def _takes_up(making: Making) -> bool:
    """Whether cloth or quilting take up more than a trifle."""
    choices = making.choices
    return bool(choices.padding or any(choices.cloth.still_shrinks))


def on_the_cover(measured: Sequence[tuple[Size, float]]) -> list[tuple[Size, float]]:
    """What was measured of the cover itself: not the thing once more, nor where its ports have to be."""
    return [(size, length) for size, length in measured if not size.key.startswith(("again:", "port:"))]


def most_surprising(measured: Sequence[tuple[Size, float]]) -> tuple[Size, float] | None:
    """The size of the cover that is off the most beside how far it may be; None where none was measured."""
    return max(on_the_cover(measured), key=lambda told: _surprise(*told), default=None)


def _surprise(size: Size, length: float) -> float:
    return abs(length - size.planned.value) / max(size.sigma, AS_PLANNED)


def _causes(making: Making, after: Posterior, moved: Sum, by: float) -> Iterator[Cause]:
    """Errors that brought it where it is, the likeliest first: each with its part of what all of them brought in that sense."""
    parts = {key: part for key, part in _grouped(after.parts(moved)).items() if part * by > 0.0}
    whole = sum(parts.values())
    slopes = _grouped(dict(moved))
    for key, part in sorted(parts.items(), key=lambda pair: -abs(pair[1])):
        share, slope = part / whole, slopes[key]
        if share < TOLD or not slope:
            continue
        alone = by / slope
        yield Cause(key, cause_words(making, key, alone), share, alone, _where(key))


def _grouped(parts: Mapping[str, float]) -> dict[str, float]:
    """Warp and weft, and the ways of the quilting, are one cause each."""
    made: dict[str, float] = {}
    for key, part in parts.items():
        made[group(key)] = made.get(group(key), 0.0) + part
    return made


def cause_words(making: Making, key: str, much: float) -> Phrase:
    """What happened."""
    if key == SEAM:
        deep = mm(abs(much), fine=True)
        return (
            tr("the seams were taken {deep} too deep", deep=deep)
            if much > 0.0
            else tr("the seams were taken {deep} too shallow", deep=deep)
        )
    if key == HEM:
        deep = mm(abs(much), fine=True)
        return (
            tr("the hem was turned {deep} too deep", deep=deep)
            if much > 0.0
            else tr("the hem was turned {deep} too shallow", deep=deep)
        )
    share = Share(abs(much), 1)
    if key == "cloth":
        return (
            tr("the cloth shrank by {share} more than reckoned", share=share)
            if much > 0.0
            else tr("the cloth gave by {share}", share=share)
        )
    if key == "quilt":
        more = tr("quilting took up {share} more than reckoned", share=share)
        return more if much > 0.0 else tr("quilting took up {share} less than reckoned", share=share)
    place = key.removeprefix(READING)
    words = next((p.words for p in making.drafted.measured.places if p.key == place), NOTHING)
    if much > 0.0:
        return tr("the {reading} was read {by} long", reading=words, by=mm(much))
    return tr("the {reading} was read {by} short", reading=words, by=mm(-much))


def _where(key: str) -> Ref | None:
    """What a cause leads to."""
    fixed = {SEAM: refs.SEAM_TAKE, HEM: refs.HEM_TAKE, "cloth": refs.SHRINK_WARP, "quilt": refs.QUILTING}
    return fixed.get(key) or refs.reading(key.removeprefix(READING))


def chance(after: Posterior, making: Making, more: Mapping[int, float] | None = None) -> float | None:
    """The chance that the cover as it was made goes on; None where it goes over nothing.

    `more` is what was given at places since, mm, by the number of the slack.
    """
    import numpy as np

    from omnipel.core.fit.chance import together

    fit = making.drafted.fit
    if not isinstance(fit, Fit):
        return None
    slacks = (*fit.slacks, *fit.across)
    rows = np.array([after.row(slack_sum(slack, making)) for slack in slacks])
    margins = np.array([slack.left for slack in slacks]) + rows @ after.mean
    margins += np.array([(more or {}).get(i, 0.0) for i in range(len(slacks))])
    values, vectors = np.linalg.eigh(after.covariance)
    kept = values > 1e-12 * max(1e-12, float(values.max(initial=0.0)))
    return together(margins, rows @ vectors[:, kept], np.sqrt(values[kept]))
