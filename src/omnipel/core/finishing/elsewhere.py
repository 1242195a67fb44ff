"""Where else a feature could lie, what else it could reach for, how large it could be: what is proposed when it cannot be as it is."""

import itertools
import math
from collections.abc import Iterator
from dataclasses import replace
from typing import Final

import numpy as np
import shapely
import shapely.ops
from shapely.geometry.base import BaseGeometry

from omnipel.core.covers.scheme import Cover
from omnipel.core.finishing.features import Site, beside, changes_to, clean, spot_of
from omnipel.core.finishing.ground import Ground
from omnipel.core.finishing.kind import Kind, Lies, Put
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.finishing.placing import resting_area
from omnipel.core.forms.body import Standing
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.feature import LEVEL, Facing, Feature
from omnipel.core.job.findings import Impossible, Remedy
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Length, Name, Phrase, mm, term, tr

SMALLER: Final = (0.75, 0.5, 0.25)
"""Shares of its size that are tried when there is no room."""
MOST_OF_A_PANEL: Final = 3.0
"""Something new takes no more than this part of its panel's width and height."""
CLEAR_OF_STITCHES: Final = 6.0
"""A fastener is put so far from a hem's stitch line, mm."""


def cures(feature: Feature, cover: Cover, choices: CoverChoices, stands: Standing) -> Iterator[Remedy]:
    """What would put a feature right: another way, place, size or side, each tried."""
    others = [other for other in choices.features if other.id != feature.id]
    on = Site(Ground(cover), choices, stands)
    on = replace(on, before=tuple(beside(others, on)))
    for words, other in variants(feature, on):
        if clean(other, on):
            yield Remedy(words, changes_to(feature, other))


def variants(feature: Feature, on: Site) -> Iterator[tuple[Phrase, Feature]]:
    """What it could be instead, the least change first, each with its words. Whether that is really clear is for the caller to try."""
    kind, name = KINDS.get(feature.kind), Name(feature.name)
    if kind is None:
        return
    try:
        values = kind.values(feature, on.choices)
    except Impossible:
        return
    ways = [
        (tr("{feature}: {way}", feature=name, way=words), replace(feature, options={**feature.options, **changed}))
        for words, changed in kind.other_ways(values)
    ]
    if kind.lies is not Lies.CUT:
        yield from ways
    yield from _placed(feature, on)
    if kind.lies is Lies.CUT:  # an opening is rather moved
        yield from ways
    if feature.serves in on.stands:
        return
    for face in Facing:
        if face not in (feature.face, Facing.UNSAID):
            there = _rested(replace(feature, face=face, was_on=""), on)
            if there is not None:
                yield from _placed(there, on, moved=True)


def begun(kind: Kind, name: str, face: Facing, cover: Cover, choices: CoverChoices) -> Feature:
    """Something new on a side, in the middle of what one meets first there, no larger than a part of that."""
    ground, system = Ground(cover), choices.habits.system
    wide, high = (choices.habits.take("", rule) for rule in kind.usual)
    new = Feature(kind=kind.key, name=name, face=face, width=wide, height=high)
    there = _rested(new, Site(ground, choices))
    spot = ground.spot(there.face, there.from_centre, there.from_top) if there is not None else None
    if there is None or spot is None:
        return new
    room = np.ptp(spot.seen(spot.panel.sew_points), axis=0)
    small = [max(system.step * 4.0, system.near(float(size) / MOST_OF_A_PANEL)) for size in room]
    made = replace(there, width=min(wide, small[0]), height=min(high, small[1]))
    on = Site(ground, choices)
    if clean(made, on):
        return made
    return next((other for _, other in variants(made, on) if other.face is face and clean(other, on)), made)


def _rested(feature: Feature, on: Site) -> Feature | None:
    """It in the middle of what one meets first on its side; None where there is nothing."""
    start = on.ground.anchor(feature.face)
    if start is None:
        return None
    if feature.face in LEVEL:
        return replace(feature, from_centre=0.0, from_top=0.0)
    _, _, reach = on.ground.to_edge(start, (0.0, 1.0))
    return replace(feature, from_centre=0.0, from_top=on.choices.habits.system.near(reach / 2.0))


def _placed(feature: Feature, on: Site, *, moved: bool = False) -> Iterator[tuple[Phrase, Feature]]:
    """At the nearest place where it lies clear, smaller where there is no room for all of it."""
    system = on.choices.habits.system
    for share in (1.0, *SMALLER):
        size = feature
        if share < 1.0:
            wide, high = (max(system.step, system.near(length * share)) for length in (feature.width, feature.height))
            size = replace(feature, width=wide, height=high)
        found = nearest(size, on)
        if found is not None:
            yield _words(feature, found, moved=moved), found
            return


def _words(old: Feature, new: Feature, *, moved: bool) -> Phrase:
    """What is proposed: where, on which side, how large."""
    name, place = Name(old.name), _place_words(new)
    smaller = new.width < old.width or new.height < old.height
    size = tr("{width} by {height}", width=mm(new.width), height=mm(new.height))
    if moved and smaller:
        return tr("Put {feature} on the {side}, {size}: {place}", feature=name, side=term(new.face), size=size, place=place)
    if moved:
        return tr("Put {feature} on the {side}: {place}", feature=name, side=term(new.face), place=place)
    if smaller and (new.from_centre, new.from_top) == (old.from_centre, old.from_top):
        return tr("Make {feature} {size}", feature=name, size=size)
    if smaller:
        return tr("Make {feature} {size}: {place}", feature=name, size=size, place=place)
    return tr("Move {feature}: {place}", feature=name, place=place)


def _place_words(feature: Feature) -> Phrase:
    down, across = Length(abs(feature.from_top)), Length(abs(feature.from_centre))
    if feature.face in LEVEL:
        up = (
            tr("{down} up from the middle", down=down) if feature.from_top < 0.0 else tr("{down} down from the middle", down=down)
        )
        high = tr("in the middle") if abs(feature.from_top) < 0.05 else up
    else:
        high = tr("{down} from the top", down=down)
    if abs(feature.from_centre) < 0.05:
        return tr("on the centre line, {height}", height=high)
    if feature.from_centre > 0.0:
        return tr("{across} right of centre, {height}", across=across, height=high)
    return tr("{across} left of centre, {height}", across=across, height=high)


def nearest(feature: Feature, on: Site) -> Feature | None:
    """It at the nearest place, round in the job's system, where all of it lies clear; None where there is no room."""
    kind = KINDS[feature.kind]
    spot = spot_of(feature, on)
    if spot is None:
        there = _rested(feature, on) if feature.face is not Facing.UNSAID and feature.serves not in on.stands else None
        spot = spot_of(there, on) if there is not None else None
        if there is None or spot is None:
            return None
        feature = there
    if feature.serves in on.stands:
        return feature
    put = Put(feature, kind, spot, on.ground, on.choices, kind.values(feature, on.choices))
    area = resting_area(put, on.before)
    if kind.lies is Lies.POINTS:
        area = area.difference(_stitch_lines(put))
    if area.is_empty:
        return None
    for point in _points(area, spot.at):
        right, up = spot.seen(np.array([point]))[0]
        ways = itertools.product(
            *(_round_ways(value, on.choices.habits.system) for value in (feature.from_centre + right, feature.from_top - up))
        )
        wanted = (feature.from_centre + right, feature.from_top - up)
        for across, down in sorted(ways, key=lambda way: math.dist(way, wanted)):
            at = spot.flat(np.array([(across - feature.from_centre, feature.from_top - down)]))[0]
            if area.buffer(1e-6).contains(shapely.Point(at)):
                return replace(feature, from_centre=across + 0.0, from_top=down)
    return None


def _stitch_lines(put: Put) -> BaseGeometry:
    """Where no fastener may be: along the stitch lines of hems."""
    bands = []
    for edge in put.host.edges:
        depth = edge.finish.folded
        if depth:
            line = shapely.LineString(edge.curve.points(0.5))
            inner = line.buffer(max(0.0, depth - CLEAR_OF_STITCHES))
            bands.append(line.buffer(depth + CLEAR_OF_STITCHES).difference(inner))
    return shapely.union_all(bands)


def _points(area: BaseGeometry, at: np.ndarray) -> Iterator[tuple[float, float]]:
    """The nearest point of an area, and one well inside of it."""
    here = shapely.Point(at)
    yield (
        (float(at[0]), float(at[1]))
        if area.contains(here)
        else tuple(shapely.get_coordinates(shapely.ops.nearest_points(area, here)[0])[0])
    )
    inner = area.buffer(-2.0)
    if not inner.is_empty:
        yield tuple(shapely.get_coordinates(shapely.ops.nearest_points(inner, here)[0])[0])
    yield tuple(np.asarray(area.representative_point().coords)[0])


def _round_ways(length: float, system: System) -> tuple[float, ...]:
    down = system.down(length)
    return (length,) if math.isclose(length, system.near(length), abs_tol=1e-9) else (down, down + system.step)
