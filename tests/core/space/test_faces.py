"""Flat faces: on which side of one another's planes they lie, which run through which, and what parting them leaves, against plain reckoning."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.space.faces import FLUSH, PLAINLY, Faces, runs
from omnipel.core.space.overlaps import Overlaps, _beside, met_by

NEAR = 3.0 * FLUSH


def polygon(rng: np.random.Generator, corners: int, size: float) -> np.ndarray:
    """A flat convex polygon somewhere in space, `(n, 3)`."""
    angles = np.sort(rng.uniform(0.0, 2.0 * np.pi, corners))
    while np.diff(angles, append=angles[0] + 2.0 * np.pi).max() > 2.8 or np.diff(angles).min() < 0.15:
        angles = np.sort(rng.uniform(0.0, 2.0 * np.pi, corners))
    axes, _ = np.linalg.qr(rng.normal(size=(3, 3)))
    flat = size * np.column_stack((np.cos(angles), np.sin(angles), np.zeros(corners)))
    return flat @ axes.T + rng.uniform(-60.0, 60.0, 3)


def some(seed: int, count: int = 14) -> Faces:
    """Faces of different sizes, some of which run through others."""
    rng = np.random.default_rng(seed)
    return Faces.made_of([polygon(rng, int(rng.integers(3, 8)), float(rng.uniform(10.0, 60.0))) for _ in range(count)])


def off(faces: Faces, i: int, j: int) -> np.ndarray:
    """How far out of the plane of face j the corners of face i lie, in shares of the size of all."""
    return (faces.ring(i) @ faces.normals[j] - faces.offsets[j]) / faces.size


def area(ring: np.ndarray) -> float:
    """The area of a flat polygon in space."""
    around = ring - ring.mean(axis=0)
    return 0.5 * float(np.linalg.norm(np.cross(around, np.roll(around, -1, axis=0)).sum(axis=0)))


@tried(40)
@given(st.integers(0, 10**6))
def test_sides_are_those_of_every_single_corner(seed: int) -> None:
    faces = some(seed)
    behind, before = faces.sides
    for i in range(len(faces)):
        for j in range(len(faces)):
            away = off(faces, i, j)
            if abs(away.max()) > NEAR:
                assert behind[i, j] == (away.max() < 0.0)
            if abs(away.min()) > NEAR:
                assert before[i, j] == (away.min() > 0.0)
    some_rows = np.array([3, 0, 7])
    for whole, part in zip(faces.sides, faces.sided(some_rows), strict=True):
        assert (whole[some_rows] == part).all()


@tried(40)
@given(st.integers(0, 10**6))
def test_what_runs_through_what_is_what_its_edges_pierce(seed: int) -> None:
    faces = some(seed)
    found = {(int(i), int(j)) for i, j in faces.through()}
    for i in range(len(faces)):
        for j in range(len(faces)):
            if i == j:
                continue
            normal, ring = faces.normals[j], faces.ring(j)
            right = (ring[1] - ring[0]) / np.linalg.norm(ring[1] - ring[0])
            axes = np.array((right, np.cross(normal, right)))
            shape = shapely.Polygon((ring - ring[0]) @ axes.T)
            pierced, doubtful = False, False
            for a, b in zip(faces.ring(i), np.roll(faces.ring(i), -1, axis=0), strict=True):
                here, there = (float((p - ring[0]) @ normal) for p in (a, b))
                if here * there >= 0.0:
                    continue
                place = shapely.Point((a + (b - a) * here / (here - there) - ring[0]) @ axes.T)
                rim = place.distance(shape.exterior) < 5e-3 * faces.size
                grazes = min(abs(here), abs(there)) < 2.0 * PLAINLY * FLUSH * faces.size
                doubtful |= rim or grazes
                pierced |= shape.contains(place) and not (rim or grazes)
            if pierced:
                assert (i, j) in found
            elif not doubtful:
                assert (i, j) not in found


@tried(30)
@given(st.integers(0, 10**6))
def test_parts_are_all_of_their_faces_and_none_runs_through_another(seed: int) -> None:
    faces = some(seed)
    made = faces.unmeshed()
    assert len(made) >= len(faces)
    assert (len(made) > len(faces)) == bool(len(faces.through()))
    for i in range(len(faces)):
        parts = np.flatnonzero(made.of == i)
        assert sum(area(made.ring(int(k))) for k in parts) == pytest.approx(area(faces.ring(i)), rel=1e-6)
        for k in parts.tolist():
            assert np.abs(made.ring(k) @ faces.normals[i] - faces.offsets[i]).max() < 1e-6 * faces.size
            assert made.normals[k] == pytest.approx(faces.normals[i])
            assert (made.level[k], made.loose[k]) == (faces.level[i], faces.loose[i])
    assert not len(made.through())
    # What is carried over for faces that stay whole, and reckoned for parts, is what all would be reckoned as.
    for carried, fresh in zip(made.sides, made.sided(np.arange(len(made))), strict=True):
        assert (carried == fresh).all()


def test_two_that_are_not_loose_are_never_parted() -> None:
    faces = some(4)
    fast = Faces.made_of([faces.ring(i) for i in range(len(faces))], loose=np.zeros(len(faces), dtype=bool))
    assert len(faces.through())
    assert not len(fast.through())
    assert fast.unmeshed() is fast


@tried(30)
@given(st.integers(0, 10**6))
def test_hollow_faces_come_apart_into_convex_ones(seed: int) -> None:
    rng = np.random.default_rng(seed)
    points = int(rng.integers(4, 9))
    angles = np.linspace(0.0, 2.0 * np.pi, 2 * points, endpoint=False)
    far = np.where(np.arange(2 * points) % 2, rng.uniform(0.25, 0.6), 1.0) * 50.0
    axes, _ = np.linalg.qr(rng.normal(size=(3, 3)))
    star = np.column_stack((far * np.cos(angles), far * np.sin(angles), np.zeros(2 * points))) @ axes.T
    faces = Faces.made_of([star, polygon(rng, 5, 20.0)])
    made = faces.convex()
    assert (made.of == 1).sum() == 1
    assert sum(area(made.ring(int(k))) for k in np.flatnonzero(made.of == 0)) == pytest.approx(area(star), rel=1e-6)
    for k in range(len(made)):
        ring = made.ring(k)
        steps = np.roll(ring, -1, axis=0) - ring
        turns = np.cross(steps, np.roll(steps, -1, axis=0)) @ made.normals[k]
        assert turns.min() > -1e-6 * faces.size**2
    assert made.convex() is made


@tried(60)
@given(st.integers(0, 10**6))
def test_what_holds_a_place_and_what_lies_beside_what_is_what_an_exact_library_says(seed: int) -> None:
    rng = np.random.default_rng(seed)
    faces = some(seed, 6)
    which = rng.integers(0, len(faces), 40)
    inside = np.array([rng.dirichlet(np.ones(faces.counts[k])) @ faces.ring(int(k)) for k in which])
    middles = np.array([faces.ring(int(k)).mean(axis=0) for k in which])
    places = middles + (inside - middles) * rng.uniform(0.2, 2.5, 40)[:, None]
    held = met_by(faces.points, faces.begins, faces.counts, faces.normals[which], which, places)
    flat = [Faces.made_of([faces.ring(int(k))]) for k in range(len(faces))]
    for k, place, told in zip(which.tolist(), places, held.tolist(), strict=True):
        ring, normal = flat[k].ring(0), flat[k].normals[0]
        right = (ring[1] - ring[0]) / np.linalg.norm(ring[1] - ring[0])
        axes = np.array((right, np.cross(normal, right)))
        shape, point = shapely.Polygon((ring - ring[0]) @ axes.T), shapely.Point((place - ring[0]) @ axes.T)
        if point.distance(shape.exterior) > 5e-3 * faces.size:
            assert told == shape.contains(point)
    rings = [polygon(rng, 4, 30.0)[:, :2] for _ in range(12)]
    for one, other in zip(rings, rings[1:], strict=False):
        a, b = shapely.Polygon(one), shapely.Polygon(other)
        turns = [np.array([shapely.LinearRing(ring).is_ccw]) * 2.0 - 1.0 for ring in (one, other)]
        apart = bool((_beside(one[None], other[None], turns[0]) | _beside(other[None], one[None], turns[1]))[0])
        if a.distance(b) > 1e-6 or a.intersection(b).area > 1e-3:
            assert apart == (a.distance(b) > 0.0)
    shared = Overlaps.holds(rings[0][None], rings[0].mean(axis=0)[None, None])
    assert shared[0, 0]


@given(st.lists(st.tuples(st.integers(0, 50), st.integers(0, 6)), max_size=12))
def test_runs_are_whole_numbers_one_after_the_other(pairs: list[tuple[int, int]]) -> None:
    begins, counts = np.array([a for a, _ in pairs], dtype=np.intp), np.array([n for _, n in pairs], dtype=np.intp)
    assert runs(begins, counts).tolist() == [a + k for a, n in pairs for k in range(n)]
