"""Flat panels parted into what is flat in space: nothing is lost, nothing is made twice, and what a plane may cut is all that it cuts."""

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import example, given
from hypothesis import strategies as st
from tests.wild import tried, wild_jobs

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.pieces import cells_of, flat_parts, met_by_plane, parted
from omnipel.core.finishing.ground import ASIDE, Ground
from omnipel.core.finishing.spots import Facet
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job, LiningSchool
from omnipel.core.job.feature import LEVEL, Facing, Feature
from omnipel.core.job.findings import Change
from omnipel.core.job.thing import Outline
from omnipel.core.pictures.dressing import Dressing
from omnipel.core.pictures.halfsection import half_section
from omnipel.core.pictures.sheets import Drawn
from omnipel.core.pictures.worn import _drawn, _left, cover_sheets, shown, size_of
from omnipel.core.space.frames import RIGHT_AND_UP, Side
from omnipel.core.words import refs
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter

SIDES = [face for face in Facing if face is not Facing.UNSAID and face not in LEVEL]
DRAFTS = [made for made in (draft(sample()) for sample in SAMPLES) if isinstance(made, Drafted)]


@st.composite
def jobs(draw: st.DrawFn) -> Job:
    """Jobs of any pair, with anything decided."""
    form, scheme = draw(st.sampled_from(lawful_pairs()))
    return draw(wild_jobs(form, scheme))


def drafted(job: Job) -> Drafted:
    """Its draft; where nothing can be drafted, that of a sample."""
    made = draft(job)
    return made if isinstance(made, Drafted) else DRAFTS[len(job.readings) % len(DRAFTS)]


def over_an_edge() -> Job:
    """A patch over the folded side of a slab, which reaches beyond what it lies on."""
    patch = Feature(kind="reinforcement patch", name="patch", face=Facing.RIGHT, from_top=0.0, width=10.0, height=230.0, id="1")
    return changed(starter("slab", "envelope"), Change(refs.CLOTH_THICKNESS, 0.5), Change(refs.FEATURES, (patch,)))


def over_a_rim() -> Job:
    """A window half on the uppermost band of a turned thing, half beyond it."""
    window = Feature(kind="clear window", name="window", face=Facing.FRONT, from_top=0.0, width=40.0, height=40.0, id="1")
    return changed(starter("turned", "bands"), Change(refs.FEATURES, (window,)))


@example(over_an_edge(), 1.0)
@example(over_a_rim(), 1.0)
@tried(60)
@given(jobs(), st.floats(0.2, 4.0))
def test_the_parts_of_a_piece_are_the_piece(job: Job, error: float) -> None:
    made = drafted(job)
    for piece in made.cover.pieces:
        panel = made.cover.flat[piece.name]
        found = flat_parts(piece.place, panel, error)
        parts = [shapely.Polygon(ring) for ring in found.rings]
        assert sum(part.area for part in parts) == pytest.approx(found.outline.area, rel=1e-6, abs=1e-3)
        assert shapely.union_all(parts).symmetric_difference(found.outline).area <= 1e-6 * found.outline.area + 1e-3
        whole = [shapely.Polygon(cell).buffer(1e-3) for cell in found.cells]
        assert all(whole[k].covers(part) for part, k in zip(parts, found.cell, strict=True))


@tried(60)
@given(jobs(), st.floats(0.1, 3.0), st.integers(0, 10**6))
def test_what_a_plane_may_cut_is_all_that_it_cuts(job: Job, error: float, seed: int) -> None:
    made = drafted(job)
    rng = np.random.default_rng(seed)
    normal = rng.normal(size=3)
    normal /= np.linalg.norm(normal)
    for piece in made.cover.pieces:
        panel = made.cover.flat[piece.name]
        cells = cells_of(piece.place, panel, error)
        ring = piece.place.at(panel.sew_points)
        offset = float(rng.uniform(*np.sort(ring @ normal)[[0, -1]]))
        kept = met_by_plane(piece.place, cells, tuple(normal.tolist()), offset, 2.0 * error)
        assert {id(cell) for cell in kept} <= {id(cell) for cell in cells}
        left = [cell for cell in cells if not any(cell is one for one in kept)]
        for part in parted(panel, left).rings if left else ():
            off = piece.place.at(part) @ normal - offset
            assert (off > 0.0).all() or (off < 0.0).all()


@tried(50)
@given(jobs())
def test_a_centre_line_is_cut_from_the_few_facets_near_it_as_from_all(job: Job) -> None:
    ground = Ground(drafted(job).cover)
    for face in SIDES:
        right = np.array(RIGHT_AND_UP[Side(face)][0])
        slow: dict[str, float] = {}
        for facet in ground.facets:
            off = facet.solid @ right - ASIDE
            after, following = np.roll(off, -1), np.roll(facet.solid, -1, axis=0)
            at = np.flatnonzero((off > 0.0) != (after > 0.0))
            share = (off[at] / (off[at] - after[at]))[:, None]
            places = facet.solid[at] + (following[at] - facet.solid[at]) * share
            way = np.cross(right, facet.normal)
            along = np.sort(places @ way) / max(float(np.linalg.norm(way)), 1e-9)
            slow[facet.piece] = slow.get(facet.piece, 0.0) + float((along[1::2] - along[::2]).sum())
        quick: dict[str, float] = {}
        for cut in ground._cuts(face, all_round=True):
            quick[cut.facet.piece] = quick.get(cut.facet.piece, 0.0) + math.dist(*cut.ends)
        for name in slow.keys() | quick.keys():
            assert quick.get(name, 0.0) == pytest.approx(slow.get(name, 0.0), rel=1e-3, abs=1.0)


@pytest.mark.parametrize("made", DRAFTS, ids=lambda made: made.job.name)
def test_strokes_are_drawn_whole_on_their_facets_together_as_one_by_one(made: Drafted) -> None:
    pieces = shown(made.cover)
    size = size_of(made.cover, pieces)
    error = 0.002 * size
    dressing = Dressing(made.cover, size, error)
    for piece in pieces[:6]:
        parts, cells = dressing.parts_of(piece)
        strokes = [_left(stroke, parts.outline) for stroke in dressing.on(piece, parts.outline)]
        together = _drawn(strokes, cells, piece.place.at)
        alone = [one for stroke in strokes for one in _drawn([stroke], cells, piece.place.at)]
        assert len(together) == len(alone)
        for one, other in zip(together, alone, strict=True):
            assert (one.layer, one.ref, one.border, one.outside) == (other.layer, other.ref, other.border, other.outside)
            for name in ("ends", "flat", "facet", "shares"):
                a, b = getattr(one, name), getattr(other, name)
                assert (a is None) == (b is None)
                assert a is None or np.allclose(a, b)
        _lie_on_facets(together, parts.rings, error)
        inside = shapely.union_all([shapely.Polygon(ring).buffer(-error) for ring in parts.rings])
        for stroke, one in zip([s for s in strokes if len(_drawn([s], cells, piece.place.at))], together, strict=True):
            # On the border of two facets a stroke is drawn on both.
            wanted, found = shapely.multilinestrings(stroke.ends), shapely.multilinestrings(one.flat)
            assert found.difference(wanted.buffer(error / 10.0)).length < 1e-6 * size
            missing = wanted.intersection(inside).difference(found.buffer(error / 10.0))
            assert missing.length < 0.01 * wanted.length + error, (made.job.name, piece.name, stroke.layer, missing.wkt[:200])


def _lie_on_facets(drawn: list[Drawn], rings: list[np.ndarray], error: float) -> None:
    """Every part of a stroke lies on the facet that it is said to lie on."""
    shapes = [shapely.Polygon(ring).buffer(error) for ring in rings]
    for one in drawn:
        middles = one.flat.mean(axis=1)
        for facet, (x, y) in list(zip(one.facet.tolist(), middles.tolist(), strict=True))[::7]:
            assert shapes[facet].covers(shapely.Point(x, y))


def steep() -> Job:
    """A steep dome of padded gores in so many facets that the plane through its middle, beside a seam, misses them."""
    job = starter("turned", "gores")
    values = {"girth.1": 2590.0, "girth.2": 1932.0, "height.2": 562.5, "across.1": 824.42, "over": 1120.0}
    readings = tuple(replace(job.readings[0], place=place, repeats=(mm,)) for place, mm in values.items())
    lined = Change(refs.LINING_SCHOOL, LiningSchool.BAGGED)
    return changed(replace(job, readings=readings), Change(refs.CLEARANCE, 0.0), Change(refs.PADDING, 20.0), lined)


@tried(30)
@given(jobs())
@example(steep())
def test_the_half_section_is_where_the_picture_of_the_cover_is_cut(job: Job) -> None:
    """The facets of the picture are coarser: its cut lies as near as they follow the cloth."""
    made = drafted(job)
    section = half_section(made.cover, made.body)
    faces = np.concatenate([face.points for face in made.body.mesh().faces])
    x, y = (faces.min(axis=0) + faces.max(axis=0))[:2] / 2.0
    y += 1e-3 * float(np.ptp(faces[:, 1]))
    lines = shapely.union_all([shapely.LineString(line) for line in section.cover if len(line) > 1])
    on = {piece.name for piece in made.cover.pieces if piece.on}
    size = float(np.ptp(faces, axis=0).max())
    for sheet in cover_sheets(made.cover, plain=True):
        if sheet.name in on or not sheet.flat:
            continue
        for ring in sheet.rings:
            off = ring[:, 1] - y
            for k in np.flatnonzero((off < 0.0) != (np.roll(off, -1) < 0.0)).tolist():
                after = (k + 1) % len(ring)
                place = ring[k] + (ring[after] - ring[k]) * (off[k] / (off[k] - off[after]))
                if place[0] - x > 0.03 * size:
                    away = lines.distance(shapely.Point(place[0] - x, place[2]))
                    assert away < 0.03 * size, (made.job.thing.form, made.job.cover.scheme, sheet.name)


@pytest.mark.parametrize("made", DRAFTS, ids=lambda made: made.job.name)
def test_pleats_are_drawn_where_cloth_is_gathered_and_nowhere_else(made: Drafted) -> None:
    """How long an edge is where it is sewn, by thousands of places; one that is laid as it is has no pleats."""
    pieces = shown(made.cover)
    dressing = Dressing(made.cover, size_of(made.cover, pieces), 1.0)
    for piece in pieces:
        for edge in made.cover.flat[piece.name].edges:
            places = piece.place.at(np.array([edge.curve.at(share) for share in np.linspace(0.0, 1.0, 2001)]))
            sewn = float(np.linalg.norm(np.diff(places, axis=0), axis=1).sum())
            assert dressing.drawn_to(piece, edge.curve) == pytest.approx(sewn, rel=0.01, abs=0.5), (piece.name, edge.name)


@tried(20)
@given(st.floats(0.3, 1.0), st.floats(-0.35, 0.35), st.integers(16, 90), st.sampled_from(["cord", "elastic"]))
def test_a_cap_over_a_traced_rim_is_drawn_whole(narrow: float, bent: float, count: int, fastening: str) -> None:
    angles = np.linspace(0.0, 2.0 * np.pi, count, endpoint=False)
    rim = np.column_stack((200.0 * np.cos(angles), 200.0 * narrow * np.sin(angles) * (1.0 + bent * np.cos(angles))))
    job = starter("cap-body", "cap")
    job = replace(job, thing=replace(job.thing, outline=Outline(points=tuple(map(tuple, rim.tolist())))))
    made = draft(changed(job, Change(refs.option("fastening"), fastening)))
    assert isinstance(made, Drafted)
    for plain in (True, False):
        (sheet,) = [sheet for sheet in cover_sheets(made.cover, plain=plain) if sheet.flat]
        whole = shapely.Polygon(made.cover.flat["cap"].sew_points)
        parts = shapely.union_all([shapely.Polygon(ring).buffer(0.2) for ring in sheet.flat])
        assert whole.difference(parts).area < 0.01 * whole.area
        top = np.concatenate(sheet.rings)[:, 2].max()
        level = shapely.union_all(
            [
                shapely.Polygon(ring[:, :2]).buffer(0.2)
                for ring in sheet.rings
                if np.ptp(ring[:, 2]) < 1e-6 and ring[0, 2] > top - 1e-6
            ]
        )
        traced = shapely.Polygon(rim - (rim.min(axis=0) + rim.max(axis=0)) / 2.0)
        assert level.symmetric_difference(traced).area < 0.05 * traced.area


class WithAll(Ground):
    """Looks at every facet of the cover."""

    def _near(self, face: Facing, *, all_round: bool) -> list[Facet]:
        return self.facets


@tried(100)
@given(jobs())
def test_a_side_begins_where_it_does_when_every_facet_is_looked_at(job: Job) -> None:
    cover = drafted(job).cover
    few, every = Ground(cover), WithAll(cover)
    for face in SIDES:
        one, other = few.anchor(face), every.anchor(face)
        assert (one is None) is (other is None)
        if one is not None and other is not None:
            assert math.dist(one.place, other.place) < 0.01
