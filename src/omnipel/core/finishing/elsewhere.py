"""Where else a feature could lie, which edge else it could be caught in, how large it could be: what is proposed when it cannot be as it is."""

import itertools
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Final

import numpy as np
import shapely
import shapely.ops
from shapely.geometry.base import BaseGeometry

from omnipel.core.drafting.panel import Panel
from omnipel.core.finishing.placing import ROWS, middle_of, resting_area, room_of
from omnipel.core.job.document import CoverChoices, Feature, FeatureKind
from omnipel.core.job.finish import SEWN
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Length, Name, Phrase, mm, term, tr

SMALLER: Final = (0.75, 0.5, 0.25)
"""Shares of its size that are tried when there is no room."""
CLEAR_OF_STITCHES: Final = 6.0
"""A fastener is put so far from a hem's stitch line, mm."""


def variants(
    feature: Feature, hosts: Mapping[str, Panel], choices: CoverChoices, others: Sequence[Feature]
) -> Iterator[tuple[Phrase, Feature]]:
    """What it could be instead, the least change first, each with its words. Whether there is really room is for the caller to try."""
    here = hosts.get(feature.panel)
    if here is not None:
        for other in _fitted_out(feature, here):
            if other != feature:
                yield _edge_words(feature, other), other
        yield from _placed(feature, here, choices, others)
    hanging = sorted(hosts.values(), key=lambda p: (-any(e.finish.folded for e in p.edges), -p.length.value * p.width.value))
    for host in hanging:
        if host.name != feature.panel:
            middle = replace(
                feature,
                panel=host.name,
                from_centre=feature.from_centre if here is None else 0.0,
                from_top=feature.from_top if here is None else choices.habits.system.near(host.width.value / 2.0),
            )
            yield from _placed(middle, host, choices, others, moved=True)


def _placed(
    feature: Feature, host: Panel, choices: CoverChoices, others: Sequence[Feature], *, moved: bool = False
) -> Iterator[tuple[Phrase, Feature]]:
    """At the nearest place of a panel where it lies clear, smaller where there is no room for all of it."""
    there = [other for other in others if other.panel == host.name]
    for share in (1.0, *SMALLER):
        size = replace(
            feature,
            width=max(1.0, choices.habits.system.near(feature.width * share)) if share < 1.0 else feature.width,
            height=max(1.0, choices.habits.system.near(feature.height * share)) if share < 1.0 else feature.height,
        )
        for fitted in _fitted_out(size, host):
            found = nearest(fitted, host, choices, there)
            if found is not None:
                yield _words(feature, found, host, moved=moved), found
                return


def _words(old: Feature, new: Feature, host: Panel, *, moved: bool) -> Phrase:
    """What is proposed: where, on which panel, how large."""
    name, place = Name(old.name), _place_words(new)
    smaller = new.width < old.width or new.height < old.height
    size = tr("{width} by {height}", width=mm(new.width), height=mm(new.height))
    if moved and smaller:
        return tr("Put {feature} on the {panel}, {size}: {place}", feature=name, panel=term(host.name), size=size, place=place)
    if moved:
        return tr("Put {feature} on the {panel}: {place}", feature=name, panel=term(host.name), place=place)
    if smaller:
        return tr("Make {feature} {size}: {place}", feature=name, size=size, place=place)
    return tr("Move {feature}: {place}", feature=name, place=place)


def _fitted_out(feature: Feature, host: Panel) -> Iterator[Feature]:
    """With edges that this panel has: a handle in an edge that is sewn, a slit to an edge that is there, or none."""
    if feature.kind is FeatureKind.HANDLE:
        sewn = [edge.name for edge in host.edges if edge.finish.kind in SEWN]
        for name in sorted(sewn, key=lambda name: name != feature.edge)[:2]:
            yield replace(feature, edge=name)
    elif feature.kind is FeatureKind.PORT and feature.slit_to:
        names = [edge.name for edge in host.edges]
        if feature.slit_to in names:
            yield feature
        for name in names[:2]:
            yield replace(feature, slit_to=name)
        yield replace(feature, slit_to="", flap=False)
    else:
        yield feature


def _edge_words(old: Feature, new: Feature) -> Phrase:
    name = Name(old.name)
    if new.edge != old.edge:
        return tr("Catch {feature} in the {edge}", feature=name, edge=term(new.edge))
    if new.slit_to:
        return tr("Run the slit of {feature} to the {edge}", feature=name, edge=term(new.slit_to))
    return tr("No slit for {feature}", feature=name)


def _place_words(feature: Feature) -> Phrase:
    down, across = Length(feature.from_top), Length(abs(feature.from_centre))
    if abs(feature.from_centre) < 0.05:
        return tr("in the middle, {down} from the top", down=down)
    if feature.from_centre > 0.0:
        return tr("{across} right of centre, {down} from the top", across=across, down=down)
    return tr("{across} left of centre, {down} from the top", across=across, down=down)


def nearest(feature: Feature, host: Panel, choices: CoverChoices, others: Sequence[Feature]) -> Feature | None:
    """The feature at the nearest place, round in the job's system, where all of it lies clear; None where there is no room."""
    if feature.kind is FeatureKind.HANDLE:
        return feature
    area = resting_area(feature, host, room_of(feature, choices), others)
    if feature.kind in ROWS:
        for edge in host.edges:
            if edge.finish.folded:
                line = shapely.LineString(edge.curve.points(0.5))
                depth = edge.finish.folded
                band = line.buffer(depth + CLEAR_OF_STITCHES).difference(line.buffer(max(0.0, depth - CLEAR_OF_STITCHES)))
                area = area.difference(band)
    if area.is_empty:
        return None
    x, y = middle_of(feature, host)
    system = choices.habits.system
    for candidate in _points(area, x, y):
        across, down = feature.from_centre + candidate[0] - x, feature.from_top - (candidate[1] - y)
        ways = itertools.product(*(_round_ways(value, system) for value in (across, down)))
        for right, below in sorted(ways, key=lambda way: math.dist(way, (across, down))):
            at = shapely.Point(x + right - feature.from_centre, y - (below - feature.from_top))
            if below >= 0.0 and area.buffer(1e-6).contains(at):
                return replace(feature, from_centre=right + 0.0, from_top=below)
    return None


def _points(area: BaseGeometry, x: float, y: float) -> Iterator[tuple[float, float]]:
    """The nearest point of an area, and one well inside of it."""
    here = shapely.Point(x, y)
    yield (x, y) if area.contains(here) else tuple(shapely.get_coordinates(shapely.ops.nearest_points(area, here)[0])[0])
    inner = area.buffer(-2.0)
    if not inner.is_empty:
        yield tuple(shapely.get_coordinates(shapely.ops.nearest_points(inner, here)[0])[0])
    yield tuple(np.asarray(area.representative_point().coords)[0])


def _round_ways(length: float, system: System) -> tuple[float, ...]:
    down = system.down(length)
    return (length,) if math.isclose(length, system.near(length), abs_tol=1e-9) else (down, down + system.step)
