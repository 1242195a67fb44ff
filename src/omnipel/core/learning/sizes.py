"""Sizes to be measured when a cover is tried on, those first that tell most about whether it will go on; and how each moves with what may have gone wrong.

A size is finished between sew lines and folds. Of what is sewn deeper by 1 every seam that lies across a girth takes 2, and every seam at an end of a panel 1;
a hem folded deeper by 1 takes 1 of the height. Cloth that shrank takes its share of the length. An error of the tape on the thing moves none of these: the
cover was cut to what was read. It shows when the thing is measured once more.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from omnipel.core.drafting.panel import Cloth, Edge, Panel
from omnipel.core.drafting.seams import Run
from omnipel.core.fit.going_on import Fit, Slack
from omnipel.core.job.finish import FOLDED, SEWN
from omnipel.core.job.reading import Reading
from omnipel.core.job.trying import Stage
from omnipel.core.learning.errors import CLOTH, GROSS, HEM, MARKED, QUILT, SEAM, Known, group, nobody, of_reading, unknowns
from omnipel.core.learning.gaussian import Seen, Sum, beforehand
from omnipel.core.sewing.making import Making
from omnipel.core.tape.readings import one_sigma, value
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Name, Phrase, mm, term, tr
from omnipel.core.words.working import Worked, worked

MOST: Final = 8
"""More sizes are not asked for: who is trying a cover on has not all day."""
SAME: Final = 0.05
"""Sizes that differ by less are one, mm."""
SURPRISES: Final = 2.0
"""What is off by more than so many of its spreads is no chance."""
AS_PLANNED: Final = 0.5
"""What is off by less is as planned, mm."""
FLAT: Final = 1.5
"""The spread of a size measured with a tape on cloth that lies flat, mm; a girth is twice what is measured of it."""
USED_CLOTH: Final = "used:outer"
CUT_OFF, USED_SHARE = 20.0, 0.03
"""The spread of a length cut off a bolt, mm; and of how much more than was planned is usual, share."""
STRETCH: Final = 1.0
"""The spread of how one end of a size was cut and sewn besides what is the same in all seams, mm."""
WORST, LEAST_WORST = 4.0, 20.0
"""No error is larger than so many spreads of a gross one; less than this is never called impossible, mm."""
MISREAD_AT_MOST: Final = 0.25
"""What differs from a reading by more of it (share) is no reading of the same: a foot or a digit makes less."""
PARALLEL: Final = 0.5
"""An edge that lies so far (share) along a side of its panel is that side."""


@dataclass(frozen=True, slots=True)
class Size:
    """A size that can be measured on the cover, or on the thing once more.

    Args:
        key: by which it is kept.
        words: what is measured.
        how: how it is measured, in a few words, where that is not plain.
        planned: what it should be, with its sum, mm.
        sum: how it moves with each error that may have been made.
        noise: the spread of measuring it, and of what is by chance in it, mm.
        sigma: how far it may be off with all errors that are usual, mm.
        tells: by what share the doubt about its going on would fall.
        seams: how many seams lie across it.
    """

    key: str
    words: Phrase
    planned: Worked
    sum: Sum
    noise: float
    sigma: float = 0.0
    tells: float = 0.0
    seams: int = 0
    how: Phrase = NOTHING

    def off(self, made: float) -> Phrase:
        """How far what was measured is off, and whether that is more than chance."""
        by = made - self.planned.value
        if abs(by) < AS_PLANNED:
            return tr("as planned")
        how = tr("{by} more than planned", by=mm(by)) if by > 0.0 else tr("{by} less than planned", by=mm(-by))
        if self.beyond(made):
            return tr("{how}: more than sewing comes to", how=how)
        return tr("{how}: more than is usual", how=how) if self.surprises(made) else how

    def surprises(self, made: float) -> bool:
        """Whether what was measured is off by more than chance."""
        return abs(made - self.planned.value) > max(AS_PLANNED, SURPRISES * self.sigma)

    def beyond(self, made: float) -> bool:
        """Whether it is off by more than seams, hems, cloth and quilting can come to, or misreading: another size was measured, or cut."""
        if self.key.startswith("again:"):
            return abs(made - self.planned.value) > MISREAD_AT_MOST * self.planned.value
        if not self.sum or any(group(key) not in GROSS for key in self.sum):
            return False
        reach = sum(abs(slope) * WORST * GROSS[group(key)] for key, slope in self.sum.items())
        return abs(made - self.planned.value) > max(reach, WORST * self.sigma, LEAST_WORST)

    def seen(self, made: float) -> Seen:
        """What a measurement of it says about the errors."""
        return Seen(self.sum, made - self.planned.value, self.noise)


def sizes(making: Making, stage: Stage, known: Known | None = None) -> list[Size]:
    """What is asked for at a stage, the most telling first."""
    return told_first(making, all_sizes(making, stage), known)[:MOST]


def by_key(making: Making, known: Known | None = None) -> dict[str, Size]:
    """Every size that may have been measured at any stage."""
    made = {size.key: size for stage in Stage for size in all_sizes(making, stage)}
    return {size.key: size for size in told_first(making, list(made.values()), known)}


def told_first(making: Making, asked: Sequence[Size], known: Known | None = None) -> list[Size]:
    """Sizes in the order of what each tells besides those before it about what goes on with least to spare; then by how far they may be off."""
    drafted = making.drafted
    prior = beforehand(unknowns(drafted, known or nobody()))
    spread = {size.key: math.hypot(prior.of(size.sum).sigma, size.noise) for size in asked}
    left, order = [replace(size, sigma=spread[size.key]) for size in asked], []
    aim = slack_sum(drafted.fit.tightest, making) if isinstance(drafted.fit, Fit) else {}
    doubt, now = prior.of(aim).sigma ** 2, prior
    while left:
        told = [now.would_tell(size.sum, size.noise, aim) / doubt if doubt else 0.0 for size in left]
        i = max(range(len(left)), key=lambda k: (round(told[k], 3), left[k].sigma, -k))
        size = left.pop(i)
        order.append(replace(size, tells=told[i]))
        now = now.after(Seen(size.sum, 0.0, size.noise))
    return order


def slack_sum(slack: Slack, making: Making) -> dict[str, float]:
    """How what is left at a place moves with each error: a reading that is too long makes the cover larger than the thing, seams too deep make it smaller."""
    share = 1.0 if slack.way == 0 else 0.25  # four sides share what the seams take of a girth
    moved = {of_reading(place): slope for place, slope in slack.slack.slopes.items()}
    moved[SEAM] = -2.0 * making.drafted.cover.seams_across * share
    for key, part in _shares(making).items():
        moved[key] = -part * slack.cover.value
    return moved


def _shares(making: Making) -> dict[str, float]:
    """How much of a girth lies along warp, weft and the quilting's two ways: as the widest panel of the outer has its length."""
    panels = [panel for panel in making.drafted.cover.panels if panel.cloth is Cloth.OUTER]
    return dict(_along(max(panels, key=lambda panel: panel.length.value), 0, making)) if panels else {}


def all_sizes(making: Making, stage: Stage) -> list[Size]:
    """Everything that can be measured at a stage, once each."""
    found = [*_again(making), *_around(making), *_panels(making, stage)]
    if stage is not Stage.FIRST:
        found += _hems(making)
    if stage is Stage.FIRST:
        found += [*_ports(making), *_prepared(making)]
    return found


def _again(making: Making) -> Iterator[Size]:
    """The readings that matter most, taken once more while one stands there with the tape."""
    drafted = making.drafted
    if not isinstance(drafted.fit, Fit):
        return
    words = {place.key: place.words for place in drafted.measured.places}
    for place, share in drafted.fit.shares:
        reading = drafted.job.reading(place)
        if reading is None or place not in words or share < 0.05:
            continue
        planned = worked(words[place], value(reading), refs.reading(place))
        noise = one_sigma(Reading(place=place, repeats=reading.repeats, instrument=reading.instrument))
        yield Size(
            f"again:{place}",
            tr("of the thing, once more: {place}", place=words[place]),
            planned,
            {of_reading(place): -1.0},
            noise,
        )


def _around(making: Making) -> Iterator[Size]:
    """Every opening around."""
    for edge in making.edges:
        if edge.length.value <= 0.0:
            continue
        corners = making.corners_of(edge.runs)
        seams = sum(
            len(making.ends(i) & corners)
            for i in range(len(making.seams))
            if i not in making.meeting and making.layer(i) is Cloth.OUTER and not making.seams[i].onto
        )
        moved = {SEAM: -2.0 * seams, **_of_chain(edge.runs, making)}
        noise = math.hypot(2.0 * FLAT, STRETCH * math.sqrt(2.0 * seams))
        words = tr("{edge}, all around", edge=term(edge.name))
        yield Size(f"edge:{edge.name}", words, edge.length, moved, noise, seams=seams, how=tr("the flat width, doubled"))


def _of_chain(runs: Sequence[Run], making: Making) -> dict[str, float]:
    """How the length of a chain of edges moves with what cloth and quilting take up."""
    moved: dict[str, float] = {}
    for run in runs:
        panel, steps = making.flat[run.piece], np.diff(making.edge(run).curve.points(), axis=0)
        lengths = np.linalg.norm(steps, axis=1)
        for axis in (0, 1):
            part = float((steps[:, axis] ** 2 / np.maximum(lengths, SAME)).sum())
            for key, slope in _along(panel, axis, making):
                moved[key] = moved.get(key, 0.0) - slope * part
    return moved


def _along(panel: Panel, axis: int, making: Making) -> Iterator[tuple[str, float]]:
    """What cloth and quilting take up along an axis of a panel, each as a share of the length."""
    warp = (abs(math.cos(panel.grain)) > PARALLEL) == (axis == 0)
    yield CLOTH[0 if warp else 1], 1.0
    if making.choices.padding and panel.cloth in (Cloth.OUTER, Cloth.PADDING):
        yield QUILT[axis], 1.0


def _panels(making: Making, stage: Stage) -> Iterator[Size]:
    """Every panel of the outer along and across, between seams and folds."""
    around = [edge.length.value for edge in making.edges]
    shown = {making.drafted.cover.panel_of.get(name, name) for name in making.surface}
    flat = {making.drafted.cover.panel_of[run.piece] for edge in making.edges if not making.first(edge) for run in edge.runs}
    for panel in making.drafted.cover.panels:
        if panel.cloth is not Cloth.OUTER or panel.name not in shown:
            continue
        name, (long, wide) = term(panel.name), (panel.length, panel.width)
        if abs(long.value - wide.value) < SAME:
            yield _panel(making, panel, 0, "across", tr("{panel}, finished, across", panel=name))
            continue
        if not any(abs(long.value - girth) < SAME for girth in around):
            yield _panel(making, panel, 0, "length", tr("{panel}, finished length", panel=name))
        if stage is Stage.FIRST and panel.name in flat and any(e.finish.kind in FOLDED for e in _sides(panel, 1)):
            continue  # its hem is not folded yet: there is no finished height
        hangs = any(edge.finish.kind in FOLDED for edge in _sides(panel, 1))
        words = tr("{panel}, finished height", panel=name) if hangs else tr("{panel}, finished width", panel=name)
        yield _panel(making, panel, 1, "width", words)
        if _ring(making, panel):
            yield _panel(making, panel, 1, "width/back", tr("{panel}, finished height, across from there", panel=name))


def _panel(making: Making, panel: Panel, axis: int, what: str, words: Phrase) -> Size:
    ends = _sides(panel, axis)
    seams = sum(edge.finish.kind in SEWN for edge in ends)
    hems = sum(edge.finish.kind in FOLDED for edge in ends)
    planned = panel.width if axis else panel.length
    moved = {SEAM: -1.0 * seams, HEM: -1.0 * hems, **{key: -share * planned.value for key, share in _along(panel, axis, making)}}
    noise = math.hypot(FLAT, STRETCH * math.sqrt(seams + hems))
    return Size(f"panel:{panel.name}/{what}", words, planned, moved, noise, seams=seams)


def _ring(making: Making, panel: Panel) -> bool:
    """Whether a panel goes round: one piece of it is joined to itself."""
    joined = ({run.piece for side in seam.sides for run in side} for seam in making.seams if not seam.parts)
    return any(len(pieces) == 1 and making.drafted.cover.panel_of[next(iter(pieces))] == panel.name for pieces in joined)


def _sides(panel: Panel, axis: int) -> tuple[Edge, Edge]:
    """The edges that a panel ends with along an axis: at each end that one which lies there for the longest."""
    points = [edge.curve.points() for edge in panel.edges]
    middles = [0.5 * (p[1:, axis] + p[:-1, axis]) for p in points]
    across = [np.abs(np.diff(p[:, 1 - axis])) for p in points]
    low, high = min(float(p[:, axis].min()) for p in points), max(float(p[:, axis].max()) for p in points)
    near = (high - low) / 8.0

    def at(end: float) -> Edge:
        lies = [float(w[np.abs(m - end) < near].sum()) for m, w in zip(middles, across, strict=True)]
        return panel.edges[max(range(len(lies)), key=lies.__getitem__)]

    return at(low), at(high)


def _hems(making: Making) -> Iterator[Size]:
    """How deep the hems came out."""
    for edge in making.edges:
        if edge.finish.kind not in FOLDED:
            continue
        source = refs.edge(edge.name, "finish.width")
        planned = worked(tr("hem"), edge.finish.width, source)
        yield Size(f"hem:{edge.name}", tr("{edge}: how deep the hem is", edge=term(edge.name)), planned, {HEM: 1.0}, STRETCH)


def _ports(making: Making) -> Iterator[Size]:
    """Where what comes out through a port really is."""
    things = {thing.id: thing for thing in making.drafted.job.thing.sticks_out}
    for feature in making.choices.features:
        if feature.kind != "port":
            continue
        place = things.get(feature.serves) or feature
        name = Name(feature.name)
        down = worked(tr("from the top edge"), abs(place.from_top), refs.feature(feature.id, "from_top"))
        across = worked(tr("from the centre line"), abs(place.from_centre), refs.feature(feature.id, "from_centre"))
        how = tr("where its middle has to be")
        words = tr("“{port}”, from the top edge", port=name)
        yield Size(f"port:{feature.id}/down", words, down, {}, 2.0 * FLAT, how=how)
        words = tr("“{port}”, from the centre line", port=name)
        yield Size(f"port:{feature.id}/across", words, across, {}, 2.0 * FLAT, how=how)


def used_cloth(length: float) -> Size:
    """How much cloth was cut off for it, against the lay, mm."""
    planned = worked(tr("used by the lay"), length, refs.lay("outer"))
    return Size(
        USED_CLOTH, tr("cloth used"), planned, {}, CUT_OFF, USED_SHARE * length, how=tr("the length cut off the bolt, all told")
    )


def _prepared(making: Making) -> Iterator[Size]:
    """What was seen before it was sewn: panels after quilting, a marked length of cloth after its wash."""
    choices = making.choices
    if choices.padding and (choices.quilting.along or choices.quilting.across):
        panels = [panel for panel in making.drafted.cover.panels if panel.cloth is Cloth.OUTER]
        largest = max(panels, key=lambda panel: panel.cut_length.value * panel.cut_width.value)
        for axis, cut, share in (
            (0, largest.cut_length, choices.quilting.along),
            (1, largest.cut_width, choices.quilting.across),
        ):
            words = tr("{panel}, along, after quilting", panel=term(largest.name))
            if axis:
                words = tr("{panel}, across, after quilting", panel=term(largest.name))
            rough, how = cut.value / (1.0 - share), tr("before it is trimmed")
            yield Size(f"quilted:{largest.name}/{axis}", words, cut, {QUILT[axis]: -rough}, FLAT, how=how)
    for i, share in enumerate(choices.cloth.still_shrinks):
        if share:
            marked = MARKED.mm(making.drafted.job.unit)
            words = tr("{marked} marked along the warp, after the first wash", marked=mm(marked))
            if i:
                words = tr("{marked} marked across the cloth, after the first wash", marked=mm(marked))
            planned = worked(tr("marked"), marked) - worked(
                tr("shrinks"), share * marked, (refs.SHRINK_WARP, refs.SHRINK_WEFT)[i]
            )
            yield Size(f"washed:{i}", words, planned, {CLOTH[i]: -marked}, 1.0)
